import type { Instant } from '@/core/units';
import * as z from '@/core/units/zod';
import { now } from '../clock';
import { tabHere, type SorterDatabase } from '../database';

/*
 * Whatever replaces or sweeps catalogues, and whatever empties or fills the shop, is an undertaking: one at a time, in all tabs. The lock says that one is
 * under way; the statement in `meta` says which, and by which tab. A statement without a lock is that of a tab that was killed.
 */

export const UNDERTAKINGS = ['import', 'list', 'remove', 'restore', 'demo', 'empty'] as const;
export type UndertakingKind = (typeof UNDERTAKINGS)[number];
export type Undertaking = { what: UndertakingKind; tab: string; since: Instant };

const KEY = 'undertaking';
const schema = z.object({ what: z.enum(UNDERTAKINGS), tab: z.string(), since: z.string() });

const wholeLock = ({ name }: SorterDatabase): string => `${name}-whole`;
/** Held by whoever writes an edition or lets it wait for a word: nobody else sweeps it. It goes with its tab. */
const editionLock = ({ name }: SorterDatabase, editionId: string): string => `${name}-edition-${editionId}`;

/** What is under way, or was when its tab was killed. */
export async function undertakingOf(db: SorterDatabase): Promise<Undertaking | null> {
  const read = schema.safeParse((await db.meta.get(KEY))?.value);
  return read.success ? (read.data as Undertaking) : null;
}

/** Does it when nothing else is under way in any tab, and says so while it lasts. `waits` is called when it has to wait for another. */
export async function undertake<T>(
  db: SorterDatabase,
  what: UndertakingKind,
  work: () => Promise<T>,
  waits: () => void = () => undefined,
): Promise<T> {
  const under = async (): Promise<T> => {
    const statement: Undertaking = { what, tab: tabHere(), since: now() };
    // A disk without room for a statement may be just what is to be emptied.
    await db.meta.put({ key: KEY, value: statement }).catch(() => undefined);
    try {
      return await work();
    } finally {
      await db.meta.delete(KEY).catch(() => undefined);
    }
  };
  const atOnce = await navigator.locks.request(wholeLock(db), { ifAvailable: true }, async (lock) =>
    lock ? { done: await under() } : null,
  );
  if (atOnce) return atOnce.done;
  waits();
  return navigator.locks.request(wholeLock(db), under);
}

/**
 * Waits for what is under way in another tab, until it is done or its tab is gone; then tidies. The undertaking that was cut off, if one was: what it began
 * counts for nothing.
 */
export function afterUndertaking(
  db: SorterDatabase,
  tidy: () => Promise<void>,
  wait: 'wait' | 'not' = 'wait',
): Promise<Undertaking | null> {
  return navigator.locks.request(wholeLock(db), { ifAvailable: wait === 'not' }, async (lock) => {
    if (!lock) return null;
    const cutOff = await undertakingOf(db);
    await tidy();
    if (cutOff) await db.meta.delete(KEY);
    return cutOff;
  });
}

/** Claims an edition until the answer is called, or its tab is gone. */
export function holdEdition(db: SorterDatabase, editionId: string): Promise<() => void> {
  return new Promise((held) => {
    void navigator.locks.request(
      editionLock(db, editionId),
      () => new Promise<void>((release) => held(() => release())),
    );
  });
}

/** Does something with an edition unless somebody holds it. */
export async function unlessHeld(db: SorterDatabase, editionId: string, work: () => Promise<void>): Promise<void> {
  await navigator.locks.request(editionLock(db, editionId), { ifAvailable: true }, async (lock) => {
    if (lock) await work();
  });
}
