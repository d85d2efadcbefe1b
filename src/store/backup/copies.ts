import { instantSchema, type Instant } from '@/core/units';
import * as z from '@/core/units/zod';
import { now } from '../clock';
import type { SorterDatabase } from '../database';

/*
 * When everything was last copied out of this browser, and the folder into which a copy goes by itself. It lies in `meta`, which no backup holds.
 */

const LAST = 'copy';
const FOLDER = 'copyFolder';
const QUIET = 'copyQuiet';
const lastSchema = z.object({ at: instantSchema, events: z.number().int() });

/** `changes`: entries since the last copy, or all where there was none. */
export type CopyState = { last: Instant | null; changes: number; quietUntil: Instant | null; folder: string | null };

const isFolder = (value: unknown): value is FileSystemDirectoryHandle =>
  typeof value === 'object' && value !== null && 'getFileHandle' in value;

export async function folderOf(db: SorterDatabase): Promise<FileSystemDirectoryHandle | null> {
  const value: unknown = (await db.meta.get(FOLDER))?.value;
  return isFolder(value) ? value : null;
}

export async function copyState(db: SorterDatabase): Promise<CopyState> {
  const [events, last, quiet, folder] = await Promise.all([
    db.events.count(),
    db.meta.get(LAST),
    db.meta.get(QUIET),
    folderOf(db),
  ]);
  const read = lastSchema.safeParse(last?.value);
  const quietUntil = instantSchema.safeParse(quiet?.value);
  return {
    last: read.success ? read.data.at : null,
    changes: read.success ? Math.max(0, events - read.data.events) : events,
    quietUntil: quietUntil.success ? quietUntil.data : null,
    folder: folder?.name ?? null,
  };
}

const DAY_MS = 86_400_000;
/** Entries of about two days of a small shop. */
const MUCH = 250;
const BEGUN = 25;
const OLD_DAYS = 7;
const QUIET_DAYS = 3;

/** Whether a person should be reminded: never copied and begun in earnest, a week old with something new, or much has changed. Quiet for days when told to be. */
export function isCopyDue({ last, changes, quietUntil }: CopyState, at: Instant): boolean {
  if (quietUntil !== null && at < quietUntil) return false;
  if (last === null) return changes >= BEGUN;
  const days = (Date.parse(at) - Date.parse(last)) / DAY_MS;
  return changes >= MUCH || (changes > 0 && days >= OLD_DAYS);
}

const MINUTE_MS = 60_000;
const REST_MS = 20 * MINUTE_MS;
const HALF_A_DAY_MS = DAY_MS / 2;

/**
 * How long the work must have rested before a copy goes into the folder, in milliseconds: twenty minutes; a minute for what a day before left, when nothing has been
 * entered since the page was opened (`atOpening`: the entries that were new then).
 */
export function restBeforeCopy({ last, changes }: CopyState, atOpening: number, at: Instant): number {
  const isLeft = changes === atOpening && (last === null || Date.parse(at) - Date.parse(last) > HALF_A_DAY_MS);
  return isLeft ? MINUTE_MS : REST_MS;
}

/** Everything was handed out as it stood with so many entries. */
export async function noteCopy(db: SorterDatabase, events: number): Promise<void> {
  await db.meta.put({ key: LAST, value: { at: now(), events } });
}

export async function keepQuiet(db: SorterDatabase): Promise<void> {
  await db.meta.put({ key: QUIET, value: new Date(Date.parse(now()) + QUIET_DAYS * DAY_MS).toISOString() });
}

/** From now on a copy goes into this folder; null: into none. */
export async function chooseFolder(db: SorterDatabase, folder: FileSystemDirectoryHandle | null): Promise<void> {
  if (folder) await db.meta.put({ key: FOLDER, value: folder });
  else await db.meta.delete(FOLDER);
}

/** Asks the person, through the browser, whether the folder may be written into; true where there is nothing to ask. */
export async function askForFolder(db: SorterDatabase): Promise<boolean> {
  const permission = await (await folderOf(db))?.requestPermission?.({ mode: 'readwrite' });
  return permission === undefined || permission === 'granted';
}

/** What outlives a restore of this shop, to be read before and put back after, in its transaction. */
export const keptThroughRestore = async (db: SorterDatabase) => (await db.meta.get(FOLDER)) ?? null;
