import { toBase64 } from '../base64';
import { stableJson } from '@/core/units';
import { RECORD_TABLES, type EditionRecord, type SorterDatabase } from '../database';
import { rowsOf } from '../editions/editionReader';
import { layersOf, type Layer } from '../editions/layers';
import { segmentKind } from '../editions/layout';
import { RECORD_VERSION } from '../records/version';
import { zipOf } from '../zip';

export const BACKUP_FORMAT = 1;
const BUCKETS_AT_ONCE = 40;

const line = (row: unknown): string => `${stableJson(row)}\n`;

const sortedBy = <T>(rows: readonly T[], key: (row: T) => string): T[] =>
  [...rows].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0));

/**
 * Everything in one zip: JSON lines in a fixed order, the catalogue, the photographs. No export time in it. The catalogue streams through, a few
 * buckets at a time; what follows from its rows (indexes, ledgers) is left out and made anew after a restore.
 */
export async function exportBackup(db: SorterDatabase): Promise<Blob> {
  const layers = await layersOf(db);
  const lines: Record<string, number> = {};
  async function* counted(path: string, rows: AsyncIterable<string>): AsyncGenerator<string> {
    lines[path] = 0;
    for await (const row of rows) {
      lines[path] += 1;
      yield row;
    }
  }
  const file = (path: string, rows: () => AsyncIterable<string>) => ({ path, text: () => counted(path, rows()) });
  return zipOf([
    ...RECORD_TABLES.map((table) => file(`${table}.jsonl`, () => records(db, table))),
    { path: 'meta.jsonl', text: () => shopOf(db) },
    ...layers.flatMap(({ edition, on }, index) => [
      { path: `${layerFolder(index)}/edition.json`, text: () => [line({ ...editionHead(edition), on })] },
      file(`${layerFolder(index)}/buckets.jsonl`, () => bucketsOf(db, edition)),
    ]),
    // The last, so that it can say how many lines each file has.
    { path: 'sorter.json', text: () => [line({ ...headOf(layers), lines })] },
  ]);
}

/** Where a layer lies in a backup, the lowest first. Earlier versions knew one, in `catalogue`. */
export const layerFolder = (index: number): string => (index === 0 ? 'catalogue' : `catalogue-${index + 1}`);

const headOf = (layers: readonly Layer[]) => ({
  format: BACKUP_FORMAT,
  recordVersion: RECORD_VERSION,
  catalogue: layers.map(({ edition: { title, at } }) => ({ title, at })),
});

const editionHead = ({ name, version, prefix, title, at, counts, buckets, segments }: EditionRecord) => ({
  name,
  version,
  prefix,
  title,
  at,
  counts,
  buckets,
  segments: segments ?? {},
});

async function* records(db: SorterDatabase, table: (typeof RECORD_TABLES)[number]): AsyncGenerator<string> {
  if (table === 'photos') {
    // One at a time: pictures are large.
    for (const id of (await db.photos.toCollection().primaryKeys()).sort()) {
      const photo = await db.photos.get(id);
      if (!photo) continue;
      const { bytes, ...rest } = photo;
      yield line({ ...rest, base64: toBase64(bytes) });
    }
    return;
  }
  const rows: unknown[] = await db.table(table).toArray();
  for (const row of sortedBy(rows, rowKey)) yield line(row);
}

async function* shopOf(db: SorterDatabase): AsyncGenerator<string> {
  const meta = await db.meta.get('shopId');
  if (meta) yield line(meta);
}

/** Buckets in the order of their keys: kind, then number. */
async function* bucketsOf(db: SorterDatabase, edition: EditionRecord): AsyncGenerator<string> {
  const spread = Object.entries(edition.buckets).flatMap(([kind, count]) =>
    Array.from({ length: edition.segments?.[kind] ?? 1 }, (_, segment) => ({
      kind: segmentKind(kind, segment),
      count,
    })),
  );
  const whole = edition.counts;
  const small = Object.keys(whole)
    .filter((kind) => !(kind in edition.buckets))
    .map((kind) => ({ kind, count: 1 }));
  for (const { kind, count } of sortedBy([...spread, ...small], (entry) => entry.kind))
    for (let from = 0; from < count; from += BUCKETS_AT_ONCE) {
      const keys = Array.from(
        { length: Math.min(BUCKETS_AT_ONCE, count - from) },
        (_, index): [string, string, number] => [edition.id, kind, from + index],
      );
      for (const record of await db.buckets.bulkGet(keys))
        if (record) yield line({ kind, bucket: record.bucket, rows: rowsOf(record) });
    }
}

function rowKey(row: unknown): string {
  if (typeof row !== 'object' || row === null) return '';
  if ('stream' in row && 'sequence' in row) return `${String(row.stream)} ${String(row.sequence).padStart(9, '0')}`;
  if ('id' in row) return String(row.id);
  if ('key' in row) return String(row.key);
  return 'supplierId' in row ? String(row.supplierId) : '';
}

/** Empties the shop. The database then counts as wiped: it is not filled with demo data again without asking. */
export async function wipe(db: SorterDatabase): Promise<void> {
  await db.transaction('rw', db.tables, () => wipeWithin(db, 'everything'));
}

/** The same within a transaction of the caller's, over all tables. */
export async function wipeWithin(db: SorterDatabase, what: 'everything' | 'catalogue-stays'): Promise<void> {
  const kept = what === 'everything' ? [] : ['editions', 'buckets'];
  await Promise.all(db.tables.filter(({ name }) => !kept.includes(name)).map((table) => table.clear()));
  await db.meta.bulkPut([
    { key: 'seeded', value: 'wiped' },
    { key: 'recordVersion', value: RECORD_VERSION },
  ]);
}
