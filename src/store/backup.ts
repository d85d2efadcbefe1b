import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { stableJson, z } from '@/core/units';
import { RECORD_TABLES, type BucketRecord, type EditionRecord, type SorterDatabase } from './database';
import { rebuildSummaries } from './events';
import { activeEdition } from './editions';
import { rowsOf } from './editionReader';
import { DERIVED } from './layout';
import { isPacked, packRows } from './packedRows';
import { MIGRATIONS, RECORD_VERSION } from './migrations';
import { storedEventSchema } from './parse';

/** One fixed time for every file in the zip, so that the same shop gives the same bytes. Local parts: the format stores those. */
const FILE_TIME = new Date(2000, 0, 1, 0, 0, 0);
const FORMAT = 1;

const toLines = (rows: readonly unknown[]): Uint8Array => strToU8(rows.map((row) => `${stableJson(row)}\n`).join(''));

const sortedBy = <T>(rows: readonly T[], key: (row: T) => string): T[] =>
  [...rows].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0));

const toBase64 = (bytes: Uint8Array): string => btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
const fromBase64 = (text: string): Uint8Array => Uint8Array.from(atob(text), (character) => character.charCodeAt(0));

/** Everything in one zip: JSON lines in a fixed order, the catalogue, the photographs. No export time in it. */
export async function exportBackup(db: SorterDatabase): Promise<Uint8Array> {
  const files: Zippable = {};
  const put = (path: string, bytes: Uint8Array) => {
    files[path] = [bytes, { mtime: FILE_TIME, level: 6 }];
  };
  const edition = await activeEdition(db);
  put(
    'sorter.json',
    strToU8(
      `${stableJson({ format: FORMAT, recordVersion: RECORD_VERSION, catalogue: edition ? { title: edition.title, at: edition.at } : null })}\n`,
    ),
  );
  for (const table of RECORD_TABLES) {
    const rows: unknown[] = await db.table(table).toArray();
    if (table === 'photos') {
      const photos = await db.photos.toArray();
      put(
        'photos.jsonl',
        toLines(
          sortedBy(photos, (photo) => photo.id).map(({ bytes, ...rest }) => ({ ...rest, base64: toBase64(bytes) })),
        ),
      );
    } else put(`${table}.jsonl`, toLines(sortedBy(rows, (row) => rowKey(row))));
  }
  const meta = await db.meta.get('shopId');
  put('meta.jsonl', toLines(meta ? [meta] : []));
  if (edition) {
    put(
      'catalogue/edition.json',
      strToU8(
        `${stableJson({ title: edition.title, at: edition.at, counts: edition.counts, buckets: edition.buckets, segments: edition.segments ?? {} })}\n`,
      ),
    );
    const buckets = (await db.buckets.where('edition').equals(edition.id).toArray()).filter(
      ({ kind }) => !kind.startsWith(DERIVED),
    );
    put(
      'catalogue/buckets.jsonl',
      toLines(
        sortedBy(buckets, (row) => `${row.kind} ${String(row.bucket).padStart(9, '0')}`).map((record) => ({
          kind: record.kind,
          bucket: record.bucket,
          rows: rowsOf(record),
        })),
      ),
    );
  }
  return zipSync(Object.fromEntries(Object.entries(files).sort(([a], [b]) => (a < b ? -1 : 1))));
}

function rowKey(row: unknown): string {
  if (typeof row !== 'object' || row === null) return '';
  if ('stream' in row && 'sequence' in row) return `${String(row.stream)} ${String(row.sequence).padStart(9, '0')}`;
  if ('id' in row) return String(row.id);
  if ('key' in row) return String(row.key);
  if ('supplierId' in row && !('orderId' in row)) return String(row.supplierId);
  return 'orderId' in row ? String(row.orderId) : '';
}

export type RestoreProblem =
  { kind: 'not-a-backup' } | { kind: 'newer'; found: number } | { kind: 'damaged'; file: string; line: number };

const head = z.object({ format: z.number().int(), recordVersion: z.number().int() });
const editionHead = z.object({
  title: z.string(),
  at: z.string(),
  counts: z.record(z.string(), z.number()),
  buckets: z.record(z.string(), z.number()),
  segments: z.record(z.string(), z.number()).default({}),
});
const bucketLine = z.object({
  kind: z.string(),
  bucket: z.number().int(),
  rows: z.array(z.record(z.string(), z.unknown())),
});
const keyed = z.record(z.string(), z.unknown());

type Content = {
  version: number;
  tables: Map<string, unknown[]>;
  edition: z.infer<typeof editionHead> | null;
  buckets: z.infer<typeof bucketLine>[];
};

/** Reads and checks a backup without touching anything. */
export function readBackup(bytes: Uint8Array): { ok: true; value: Content } | { ok: false; error: RestoreProblem } {
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes);
  } catch {
    return { ok: false, error: { kind: 'not-a-backup' } };
  }
  const lines = (path: string): unknown[] | RestoreProblem => {
    const out: unknown[] = [];
    const list = strFromU8(files[path] ?? new Uint8Array()).split('\n');
    for (const [at, line] of list.entries()) {
      if (line === '') continue;
      try {
        out.push(JSON.parse(line));
      } catch {
        return { kind: 'damaged', file: path, line: at + 1 };
      }
    }
    return out;
  };
  const heads = lines('sorter.json');
  const first = head.safeParse(Array.isArray(heads) ? heads[0] : null);
  if (!first.success) return { ok: false, error: { kind: 'not-a-backup' } };
  if (first.data.format > FORMAT || first.data.recordVersion > RECORD_VERSION)
    return { ok: false, error: { kind: 'newer', found: first.data.recordVersion } };
  const tables = new Map<string, unknown[]>();
  for (const table of [...RECORD_TABLES, 'meta']) {
    const rows = lines(`${table}.jsonl`);
    if (!Array.isArray(rows)) return { ok: false, error: rows };
    const bad = rows.findIndex((row) =>
      table === 'events' && first.data.recordVersion === RECORD_VERSION
        ? !storedEventSchema.safeParse(row).success
        : !keyed.safeParse(row).success,
    );
    if (bad >= 0) return { ok: false, error: { kind: 'damaged', file: `${table}.jsonl`, line: bad + 1 } };
    tables.set(table, rows);
  }
  const editions = lines('catalogue/edition.json');
  const edition = Array.isArray(editions) && editions.length ? editionHead.safeParse(editions[0]) : null;
  const raw = lines('catalogue/buckets.jsonl');
  if (!Array.isArray(raw)) return { ok: false, error: raw };
  const buckets: z.infer<typeof bucketLine>[] = [];
  for (const [at, row] of raw.entries()) {
    const read = bucketLine.safeParse(row);
    if (!read.success) return { ok: false, error: { kind: 'damaged', file: 'catalogue/buckets.jsonl', line: at + 1 } };
    buckets.push(read.data);
  }
  return {
    ok: true,
    value: { version: first.data.recordVersion, tables, edition: edition?.success ? edition.data : null, buckets },
  };
}

/** Replaces everything by the backup's content, in one transaction. */
export async function restoreBackup(
  db: SorterDatabase,
  bytes: Uint8Array,
): Promise<{ ok: true } | { ok: false; error: RestoreProblem }> {
  const read = readBackup(bytes);
  if (!read.ok) return read;
  const { tables, edition, buckets, version } = read.value;
  const id = crypto.randomUUID();
  await db.transaction('rw', db.tables, async () => {
    await Promise.all(db.tables.map((table) => table.clear()));
    for (const table of RECORD_TABLES) {
      const rows = (tables.get(table) ?? []).map((row) => (table === 'photos' ? withBytes(row) : row));
      await db.table(table).bulkAdd(rows);
    }
    await db.meta.bulkPut(keyedRows(tables.get('meta') ?? []));
    await db.meta.bulkPut([
      { key: 'recordVersion', value: version },
      { key: 'seeded', value: 'restored' },
    ]);
    if (edition) {
      const record: EditionRecord = { id, state: 'ready', ...edition };
      await db.editions.put(record);
      await db.buckets.bulkPut(
        buckets.map(({ kind, bucket, rows }): BucketRecord => {
          const place = { edition: id, kind, bucket };
          return isPacked(kind) ? { ...place, packed: packRows(kind, rows) } : { ...place, rows };
        }),
      );
      await db.meta.put({ key: 'activeEdition', value: id });
    }
    for (const migration of MIGRATIONS) if (migration.to > version) await migration.up(db);
    await db.meta.put({ key: 'recordVersion', value: RECORD_VERSION });
    await rebuildSummaries(db);
  });
  return { ok: true };
}

const keyedRows = (rows: readonly unknown[]) =>
  rows.flatMap((row) =>
    typeof row === 'object' && row !== null && 'key' in row && 'value' in row
      ? [{ key: String(row.key), value: row.value }]
      : [],
  );

function withBytes(row: unknown): unknown {
  if (typeof row !== 'object' || row === null || !('base64' in row)) return row;
  const { base64, ...rest } = row;
  return { ...rest, bytes: fromBase64(String(base64)) };
}

/** Empties the shop. The database then counts as wiped: it is not filled with demo data again without asking. */
export async function wipe(db: SorterDatabase): Promise<void> {
  await db.transaction('rw', db.tables, async () => {
    await Promise.all(db.tables.map((table) => table.clear()));
    await db.meta.bulkPut([
      { key: 'seeded', value: 'wiped' },
      { key: 'recordVersion', value: RECORD_VERSION },
    ]);
  });
}
