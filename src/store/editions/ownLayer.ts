import { ownRows, type OwnEntry } from '@/core/learn';
import type { Catalogue } from '@/core/catalogue';
import { keyBy } from '@/core/units';
import { layered } from '@/core/catalogue';
import type { SorterDatabase } from '../database';
import { readerOf, type EditionReader } from './editionReader';
import { editionsInUse } from './layers';
import { MemoryLayer } from './memoryLayer';
import { shippedKnowledge } from './shipped';

export type OwnLayer = { layer: MemoryLayer; rows: Catalogue; entries: OwnEntry[] };

const BELOW = ['suppliers', 'makers', 'badges'] as const;

/** The shop's own rows as they follow from its tickets, its orders and what it corrected; null in a shop that has none. O(tickets + orders). */
export async function ownLayer(db: SorterDatabase): Promise<OwnLayer | null> {
  const summaries = await db.summaries.toArray();
  const corrections = await db.own.toArray();
  const lessons = summaries.flatMap((record) => (record.kind === 'ticket' ? [record.lesson] : []));
  const orders = summaries.flatMap((record) => (record.kind === 'order' ? [record.summary] : []));
  const below = { ...(await shippedKnowledge()) };
  const editions = (await editionsInUse(db)).map((edition) => readerOf(db, edition));
  for (const table of BELOW)
    for (const edition of editions)
      Object.assign(below, { [table]: layered(table, below[table], await edition.table(table)) });
  const { rows, entries } = ownRows(lessons, orders, corrections, below);
  if (entries.length === 0) return null;
  const foreign = [...new Set(rows.fits.flatMap(({ modelId }) => modelId ?? []))];
  const platforms = await platformsOf(editions, foreign);
  return { layer: new MemoryLayer(rows, (modelId) => platforms.get(modelId) ?? ''), rows, entries };
}

/** The platforms of models that stand in the packages. */
async function platformsOf(
  editions: readonly EditionReader[],
  modelIds: readonly string[],
): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const edition of editions) {
    const near = keyBy(await edition.near<Catalogue['models'][number]>('models', modelIds), ({ id }) => String(id));
    for (const id of modelIds) {
      const model = near.get(id);
      if (model) found.set(id, model.platformId);
    }
  }
  return found;
}
