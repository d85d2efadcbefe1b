import { recordsPackage } from '@/core/learn/recordsPackage';
import type { SorterDatabase } from '../database';
import { recordedCases } from '../records/learned';
import { loadSettings } from '../records/settings';
import { zipOf } from '../zip';

/** Closed tickets, orders and the shelf as a data package for other programs: nothing that is read in again. */
export async function exportRecords(db: SorterDatabase): Promise<Blob> {
  const { shopName, zone } = await loadSettings();
  const all = await db.summaries.toArray();
  const orders = all.flatMap((record) => (record.kind === 'order' ? [record.summary] : []));
  const lots = all.flatMap((record) => (record.kind === 'stock' && record.summary.units > 0 ? [record.summary] : []));
  const files = recordsPackage({ cases: await recordedCases(db), orders, lots }, shopName, zone);
  return zipOf(files.map(({ path, text }) => ({ path, text: () => [text] })));
}
