import * as z from '@/core/units/zod';
import type { BucketRecord, EditionRecord, SorterDatabase } from '../database';
import { unlessHeld } from '../whole/undertaking';

/** The shop was replaced, or the catalogue changed, while an edition was written or waited: it counts for nothing. */
export class EditionGone extends Error {
  readonly why: 'gone' | 'moved-on';
  constructor(why: EditionGone['why']) {
    super(why);
    this.name = 'EditionGone';
    this.why = why;
  }
}

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

/** Which packages there are, in their order: an edition is read against these. */
export const pileKey = (layers: readonly Layer[]): string => layers.map(({ edition }) => edition.id).join(' ');

/** Writes buckets of an edition that is still there; otherwise throws EditionGone, and nothing is written. */
export async function putBuckets(db: SorterDatabase, editionId: string, records: BucketRecord[]): Promise<void> {
  await db.transaction('rw', [db.editions, db.buckets], async () => {
    await mustBeThere(db, editionId);
    await db.buckets.bulkPut(records);
  });
}

/** To be called within a transaction over the editions. */
export async function mustBeThere(db: SorterDatabase, editionId: string): Promise<void> {
  if ((await db.editions.where('id').equals(editionId).count()) === 0) throw new EditionGone('gone');
}

/**
 * One small transaction: from here on the edition is a layer of the catalogue, in the place of its earlier self, or on top. What it replaces lies there until
 * it is swept. Throws EditionGone when the edition is no longer there, or the packages are no longer those against which it was read (`pile`): then
 * nothing was changed.
 */
export async function putToUse(db: SorterDatabase, id: string, pile?: string): Promise<void> {
  await db.transaction('rw', [db.editions, db.meta], async () => {
    const next = await db.editions.get(id);
    if (next?.state !== 'ready') throw new EditionGone('gone');
    const layers = await layersOf(db);
    if (pile !== undefined && pile !== pileKey(layers)) throw new EditionGone('moved-on');
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

/** Removes every edition that is no layer and that nobody holds: old ones and those that a killed tab left unfinished. */
export async function sweep(db: SorterDatabase): Promise<void> {
  for (const { id } of await db.editions.toArray())
    await unlessHeld(db, id, async () => {
      // Asked again: it may have been put to use meanwhile.
      if (!(await entriesOf(db)).some((entry) => entry.id === id)) await dropEdition(db, id);
    });
}
