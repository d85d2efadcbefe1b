import { fromBase64 } from '../base64';
import { storedRowFault } from '@/core/package';
import { asInstant, groupBy, instantSchema } from '@/core/units';
import { BlobReader, configure, ZipReader, type FileEntry } from '@zip.js/zip.js';
import * as z from '@/core/units/zod';
import { BACKUP_FORMAT, layerFolder } from './backup';
import { keptThroughRestore, noteCopy } from './copies';
import { RECORD_TABLES, type BucketRecord, type EditionRecord, type SorterDatabase } from '../database';
import { dropEdition, putBuckets, setLayers, type Layer } from '../editions/layers';
import { rebuildSummaries } from '../records/act';
import { asideRows, bringUp } from '../records/migrations';
import { RECORD_VERSION } from '../records/version';
import { inPacks } from '../records/upgrades/figures';
import { isPlain, text, type Plain } from '../records/upgrades/plain';
import { TABLE_OF_KIND } from '../editions/layout';
import { isPacked, packRows } from '../editions/packedRows';

configure({ useWebWorkers: false });

export type RestoreProblem =
  | { kind: 'not-a-backup' }
  | { kind: 'newer'; found: number }
  | { kind: 'damaged'; file: string; line: number }
  /** A file has fewer lines than the backup says. */
  | { kind: 'lines-missing'; file: string; missing: number }
  /** So many tickets and orders have a hole in their history. The rest can be restored without what comes after the holes. */
  | { kind: 'gaps'; streams: number };

const head = z.object({
  format: z.number().int(),
  recordVersion: z.number().int(),
  /** Lines of each file, as they were written; backups of earlier versions do not say. */
  lines: z.record(z.string(), z.number().int()).default({}),
});
const editionHead = z.object({
  name: z.string().default(''),
  version: z.string().default(''),
  prefix: z.string().default(''),
  on: z.boolean().default(true),
  title: z.string(),
  at: instantSchema,
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
const anyRow = z.unknown();

/** Ends reading at once; the outermost call turns it into an answer. */
class Wrong extends Error {
  readonly problem: RestoreProblem;
  constructor(problem: RestoreProblem) {
    super(problem.kind);
    this.problem = problem;
  }
}

type Files = ReadonlyMap<string, FileEntry>;
type Head = z.infer<typeof head>;

/** Throws when a file has fewer lines than the backup says. */
function mustHave(counts: Head['lines'], file: string, found: number): void {
  const missing = (counts[file] ?? 0) - found;
  if (missing > 0) throw new Wrong({ kind: 'lines-missing', file, missing });
}

/** Events that stand behind a hole in their stream, and how many streams have one. What was put aside earlier is no hole. */
function holesIn(events: readonly Plain[], aside: readonly Plain[]): { after: Set<Plain>; streams: number } {
  const known = new Set(
    aside.flatMap(({ raw }) => (isPlain(raw) ? [`${text(raw['stream'])} ${String(raw['sequence'])}`] : [])),
  );
  const byStream = groupBy(new Set(events), ({ stream }) => text(stream));
  const after = new Set<Plain>();
  let streams = 0;
  for (const [stream, list] of byStream) {
    const sorted = [...list].sort((a, b) => Number(a['sequence']) - Number(b['sequence']));
    // The first number that nobody has, or that two have.
    let next = 1;
    let index = 0;
    for (;;) {
      const isHere = Number(sorted[index]?.['sequence']) === next;
      if (isHere) index += 1;
      else if (!known.has(`${stream} ${next}`)) break;
      next += 1;
    }
    if (index === sorted.length) continue;
    streams += 1;
    for (const event of sorted.slice(index)) after.add(event);
  }
  return { after, streams };
}

const tableOfKind = (kind: string): string => {
  const [plain = kind] = kind.split('+');
  return TABLE_OF_KIND.get(plain) ?? plain;
};

async function open(backup: Blob): Promise<Files> {
  try {
    const entries = await new ZipReader(new BlobReader(backup), { checkSignature: true }).getEntries();
    return new Map(entries.flatMap((entry) => (entry.directory ? [] : [[entry.filename, entry] as const])));
  } catch {
    throw new Wrong({ kind: 'not-a-backup' });
  }
}

/** Longer than any line that Sorter writes: a bucket or a photograph. */
const LONGEST_LINE = 200_000_000;

/** The lines of a file as they unpack, parsed and checked. A file that is not there has none. */
async function* lines<T>(files: Files, path: string, schema: z.ZodType<T>): AsyncGenerator<T> {
  const entry = files.get(path);
  if (!entry) return;
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
  entry.getData(writable).catch((error: unknown) => writable.abort(error).catch(() => undefined));
  const reader = readable.getReader();
  const decoder = new TextDecoder('utf-8', { fatal: true });
  // What was read of a line that has no end yet, piece by piece: it is joined once.
  let held: string[] = [];
  let heldLength = 0;
  let index = 0;
  const parse = (text: string): T => {
    index += 1;
    const read = schema.safeParse(JSON.parse(text));
    if (!read.success) throw new Wrong({ kind: 'damaged', file: path, line: index });
    return read.data;
  };
  try {
    for (let last = false; !last;) {
      const { done, value } = await reader.read();
      last = done;
      const pieces = decoder.decode(value ?? new Uint8Array(), { stream: !done }).split('\n');
      const open = pieces.pop() ?? '';
      for (const piece of pieces) {
        const text = held.length ? `${held.join('')}${piece}` : piece;
        held = [];
        heldLength = 0;
        if (text !== '') yield parse(text);
      }
      held.push(open);
      heldLength += open.length;
      if (heldLength > LONGEST_LINE) throw new Wrong({ kind: 'damaged', file: path, line: index + 1 });
    }
    const text = held.join('');
    if (text !== '') yield parse(text);
  } catch (error) {
    throw error instanceof Wrong ? error : new Wrong({ kind: 'damaged', file: path, line: index || 1 });
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}

async function allLines<T>(files: Files, path: string, schema: z.ZodType<T>): Promise<T[]> {
  const rows: T[] = [];
  for await (const row of lines(files, path, schema)) rows.push(row);
  return rows;
}

const PUT_AT_ONCE = 60;

/** Writes the backup's packages as editions that are not in use yet, the lowest first. All or none: what was written goes when one is damaged. */
async function restoreLayers(
  db: SorterDatabase,
  files: Files,
  { recordVersion, lines: counts }: Head,
): Promise<Layer[]> {
  const layers: Layer[] = [];
  try {
    for (let index = 0; files.has(`${layerFolder(index)}/edition.json`); index += 1)
      layers.push(...(await restoreLayer(db, files, layerFolder(index), recordVersion, counts)));
  } catch (error) {
    for (const { edition } of layers) await dropEdition(db, edition.id);
    throw error;
  }
  return layers;
}

async function restoreLayer(
  db: SorterDatabase,
  files: Files,
  folder: string,
  recordVersion: number,
  counts: Head['lines'],
): Promise<Layer[]> {
  const [described] = await allLines(files, `${folder}/edition.json`, editionHead);
  if (!described) return [];
  const { on, ...head } = described;
  const record: EditionRecord = { id: crypto.randomUUID(), state: 'writing', ...head };
  await db.editions.put(record);
  try {
    let waiting: BucketRecord[] = [];
    let read = 0;
    const file = `${folder}/buckets.jsonl`;
    for await (const { kind, bucket, rows: stored } of lines(files, file, bucketLine)) {
      read += 1;
      const table = tableOfKind(kind);
      if (stored.some((row) => storedRowFault(table, row) !== null))
        throw new Wrong({ kind: 'damaged', file, line: read });
      const isOld = recordVersion < OFFERS_IN_PACKS && kind.startsWith('offers');
      const rows = isOld ? stored.map(inPacks) : stored;
      const place = { edition: record.id, kind, bucket };
      waiting.push(isPacked(kind) ? { ...place, packed: packRows(kind, rows) } : { ...place, rows });
      if (waiting.length < PUT_AT_ONCE) continue;
      await putBuckets(db, record.id, waiting);
      waiting = [];
    }
    await putBuckets(db, record.id, waiting);
    mustHave(counts, file, read);
  } catch (error) {
    await dropEdition(db, record.id);
    throw error;
  }
  return [{ edition: { ...record, state: 'ready' }, on }];
}

/** `aside`: rows that could not be read; they are kept and go into the next backup. */
export type RestoreOutcome = { ok: true; aside: number } | { ok: false; error: RestoreProblem };

/**
 * Replaces everything by the backup's content: the packages first, as editions beside those in use, then all records and the change of layers
 * in one transaction. Rows are read, brought to today's version, and validated; what cannot be read is put aside. A damaged, foreign or newer file
 * changes nothing. A history with a hole in it is refused, or, when that is wanted, cut where the hole is: what comes after it is put aside.
 */
export async function restoreBackup(
  db: SorterDatabase,
  backup: Blob,
  gaps: 'refuse' | 'put-aside' = 'refuse',
): Promise<RestoreOutcome> {
  try {
    return { ok: true, aside: await restoreAll(db, await open(backup), gaps) };
  } catch (error) {
    if (error instanceof Wrong) return { ok: false, error: error.problem };
    throw error;
  }
}

async function restoreAll(db: SorterDatabase, files: Files, gaps: 'refuse' | 'put-aside'): Promise<number> {
  const [first] = await allLines(files, 'sorter.json', anyRow).catch(() => [null]);
  const read = head.safeParse(first);
  if (!read.success) throw new Wrong({ kind: 'not-a-backup' });
  const { format, recordVersion } = read.data;
  if (format > BACKUP_FORMAT || recordVersion > RECORD_VERSION)
    throw new Wrong({ kind: 'newer', found: recordVersion });
  const raw: Record<string, Plain[]> = {};
  for (const table of RECORD_TABLES) {
    raw[table] = await allLines(files, `${table}.jsonl`, keyed);
    mustHave(read.data.lines, `${table}.jsonl`, raw[table].length);
  }
  const meta = await allLines(files, 'meta.jsonl', keyed);
  const { after, streams } = holesIn(raw['events'] ?? [], raw['aside'] ?? []);
  if (streams > 0 && gaps === 'refuse') throw new Wrong({ kind: 'gaps', streams });
  raw['events'] = (raw['events'] ?? []).filter((event) => !after.has(event));
  const { tables, aside: unread } = bringUp(raw, recordVersion);
  const aside = [...unread, ...[...after].map((event) => ({ table: 'events', why: 'after-a-gap', raw: event }))];
  const layers = await restoreLayers(db, files, read.data);
  const kept = new Set(layers.map(({ edition }) => edition.id));
  try {
    await db.transaction('rw', db.tables, async () => {
      const folder = await keptThroughRestore(db);
      for (const table of db.tables) if (table.name !== 'buckets' && table.name !== 'editions') await table.clear();
      if (folder) await db.meta.put(folder);
      for (const table of RECORD_TABLES) {
        const rows = tables[table] ?? [];
        await db.table(table).bulkAdd(table === 'photos' ? rows.map(withBytes) : [...rows]);
      }
      await db.aside.bulkPut(asideRows(aside, RESTORED_AT));
      await db.meta.bulkPut(keyedRows(meta));
      await db.meta.bulkPut([
        { key: 'recordVersion', value: RECORD_VERSION },
        { key: 'seeded', value: 'restored' },
      ]);
      for (const old of await db.editions.toArray()) if (!kept.has(old.id)) await dropEdition(db, old.id);
      await db.editions.bulkPut(layers.map(({ edition }) => edition));
      await setLayers(
        db,
        layers.map(({ edition, on }) => ({ id: edition.id, on })),
      );
      await rebuildSummaries(db);
      // The backup itself is the copy of what stands there now.
      await noteCopy(db, await db.events.count());
    });
  } catch (error) {
    for (const id of kept) await dropEdition(db, id);
    throw error;
  }
  return aside.length;
}

/** No time of restoring in the rows: restoring the same backup gives the same bytes again. */
const RESTORED_AT = asInstant('2000-01-01T00:00:00.000Z');
/** The first version in which offers name what their price is of. */
const OFFERS_IN_PACKS = 5;

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
