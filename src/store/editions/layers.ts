import * as z from '@/core/units/zod';
import type { EditionRecord, SorterDatabase } from '../database';

/** Held while an edition is being written or waits to be applied: no other tab sweeps it then. */
export const importLock = ({ name }: SorterDatabase): string => `${name}-import`;

const LAYERS = 'layers';
const entries = z.array(z.object({ id: z.string(), on: z.boolean() }));
type Entry = z.infer<typeof entries>[number];

/** A package of the catalogue, and whether questions see it. */
export type Layer = { edition: EditionRecord; on: boolean };

async function entriesOf(db: SorterDatabase): Promise<Entry[]> {
  return entries.safeParse((await db.meta.get(LAYERS))?.value).data ?? [];
}

/** The packages that were imported, the lowest first: what lies above wins. */
export async function layersOf(db: SorterDatabase): Promise<Layer[]> {
  const listed = await entriesOf(db);
  const found = await db.editions.bulkGet(listed.map(({ id }) => id));
  return listed.flatMap(({ on }, index): Layer[] => {
    const edition = found[index];
    return edition ? [{ edition, on }] : [];
  });
}

export const sameLayers = (a: readonly Layer[], b: readonly Layer[]): boolean =>
  a.length === b.length &&
  a.every(({ edition, on }, index) => edition.id === b[index]?.edition.id && on === b[index].on);

/** Which layers questions see: another text as soon as one comes, goes, or is switched. */
export async function layersKey(db: SorterDatabase): Promise<string> {
  const listed = await entriesOf(db);
  return listed.flatMap(({ id, on }) => (on ? [id] : [])).join(' ');
}

/** Packages that questions see, the lowest first. */
export const editionsInUse = async (db: SorterDatabase): Promise<EditionRecord[]> =>
  (await layersOf(db)).flatMap(({ edition, on }) => (on ? [edition] : []));

type Described = Pick<EditionRecord, 'name' | 'title'>;

/** Whether two editions are the same package at different times. One that an older version imported has no name: its title must do. */
const renews = (next: Described, before: Described): boolean =>
  before.name === '' ? next.title === before.title : next.name === before.name;

/** The layer whose place a package takes; null for one that comes beside the others. */
export const renewedBy = (layers: readonly Layer[], next: Described): Layer | null =>
  layers.find(({ edition }) => renews(next, edition)) ?? null;

/**
 * One small transaction: from here on the edition is a layer of the catalogue, in the place of its earlier self, or on top. What it replaces lies there until
 * it is swept. Throws when the edition is gone: then nothing was changed.
 */
export async function putToUse(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.editions, db.meta], async () => {
    const next = await db.editions.get(id);
    if (!next) throw new Error('what was imported is no longer there: import it again');
    await db.editions.put({ ...next, state: 'ready' });
    const layers = await layersOf(db);
    const before = renewedBy(layers, next);
    const entry = { id, on: true };
    const list = layers.map(({ edition, on }): Entry =>
      edition.id === before?.edition.id ? entry : { id: edition.id, on },
    );
    await db.meta.put({ key: LAYERS, value: before ? list : [...list, entry] });
  });
}

export async function activate(db: SorterDatabase, id: string): Promise<void> {
  await putToUse(db, id);
  await sweep(db);
}

/** Seen by questions, or not: its rows stay as they are. */
export async function switchLayer(db: SorterDatabase, id: string, on: boolean): Promise<void> {
  await db.transaction('rw', [db.meta], async () => {
    const listed = await entriesOf(db);
    await db.meta.put({ key: LAYERS, value: listed.map((entry) => (entry.id === id ? { id, on } : entry)) });
  });
}

/** Takes a package out of the catalogue for good. */
export async function removeLayer(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.meta], async () => {
    await db.meta.put({ key: LAYERS, value: (await entriesOf(db)).filter((entry) => entry.id !== id) });
  });
  await dropEdition(db, id);
}

/** These editions, the lowest first, and no others: after a restore, or for the demo. */
export async function setLayers(db: SorterDatabase, layers: readonly Entry[]): Promise<void> {
  await db.meta.put({ key: LAYERS, value: [...layers] });
}

export async function dropEdition(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.editions, db.buckets], async () => {
    // A range of the primary key: one operation, however many buckets.
    await db.buckets.where('[edition+kind+bucket]').between([id], [id, []]).delete();
    await db.editions.delete(id);
  });
}

/** Removes every edition that is no layer: old ones and those that a killed tab left unfinished. */
export async function sweep(db: SorterDatabase): Promise<void> {
  const listed = new Set((await entriesOf(db)).map(({ id }) => id));
  for (const edition of await db.editions.toArray()) if (!listed.has(edition.id)) await dropEdition(db, edition.id);
}
