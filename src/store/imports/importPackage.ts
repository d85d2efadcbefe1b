import { tableNames, type TableName } from '@/core/catalogue';
import {
  ChangeLog,
  createPackageReader,
  MAX_PROBLEMS,
  rowContent,
  rowKey,
  type Notice,
  type PackageReader,
  type Problem,
} from '@/core/package';
import { KeyTable, type Ledger } from '@/core/package';
import { describeChanges, type ShownChanges } from '../editions/changes';
import { Components } from '../editions/components';
import { csvBatches, isBlank } from './csvStream';
import type { SorterDatabase } from '../database';
import { activeEdition } from '../editions/editions';
import { shippedKnowledge } from '../editions/shipped';
import { EditionReader } from '../editions/editionReader';
import { EditionWriter } from '../editions/editionWriter';
import { fileProblem, openPackage, readText, type PackageEntry } from './packageFiles';

export type ImportProgress = {
  stage: 'unpacking' | 'reading' | 'checking' | 'writing';
  /** Of `total`; in characters while reading. */
  done: number;
  total: number;
  file: string;
};

export type ReadEdition = {
  kind: 'read';
  editionId: string;
  title: string;
  counts: Record<string, number>;
  notices: Notice[];
  /** Against the catalogue in use; null when there is none. */
  changes: ShownChanges[] | null;
};
export type ImportResult = ReadEdition | { kind: 'problems'; problems: Problem[] } | { kind: 'cancelled' };

const DESCRIPTOR = 'datapackage.json';
/** A row of these files is hardly ever shorter: the number of buckets follows from the file's size. */
const CHARACTERS_PER_ROW: Partial<Record<TableName, number>> = { fits: 45, parts: 70, models: 80, offers: 75 };
const breath = () => new Promise<void>((resolve) => setTimeout(resolve, 0));

type Source = { table: TableName; entry: PackageEntry };

class Cancelled extends Error {}

/**
 * Reads a package row by row into a new edition that is complete but not in use. Nothing of it remains when a row has a problem or the person stops
 * it. Memory: one batch of rows, keys as fingerprints, models and parts for their search indexes.
 */
export async function importPackage(
  db: SorterDatabase,
  input: readonly File[],
  progress: (at: ImportProgress) => void,
  cancelled: () => boolean,
): Promise<ImportResult> {
  progress({ stage: 'unpacking', done: 0, total: 1, file: input[0]?.name ?? '' });
  const { entries, problems } = await openPackage(input);
  const reader = createPackageReader(await shippedKnowledge());
  const description = entries.get(DESCRIPTOR);
  if (!description) {
    // A damaged zip says so by itself.
    if (problems.length) return { kind: 'problems', problems };
    return {
      kind: 'problems',
      problems: [fileProblem(DESCRIPTOR, 'is missing: this is not a catalogue package. Nothing was changed.')],
    };
  }
  const text = await readText(description);
  if (typeof text !== 'string') return { kind: 'problems', problems: [...problems, text] };
  const sources = reader.describe(text).flatMap(({ table, path }): Source[] => {
    const name = path.split('/').at(-1) ?? path;
    const entry = entries.get(name);
    if (entry) return [{ table, entry }];
    problems.push(fileProblem(name, 'is named in datapackage.json but is not in the package.'));
    return [];
  });
  const total = sources.reduce((sum, { entry }) => sum + entry.bytes, 0);
  let done = 0;
  let breathed = -Infinity;
  const step = async (file: string, bytes: number) => {
    done += bytes;
    // A word of progress and an ear for Stop, twenty times a second.
    if (performance.now() - breathed > 50) {
      progress({ stage: 'reading', done: Math.min(done, total), total, file });
      await breath();
      breathed = performance.now();
    }
    if (cancelled()) throw new Cancelled();
  };

  const current = await activeEdition(db);
  const old = current ? new EditionReader(db, current) : null;
  const title = titleOf(text);
  const writer = new EditionWriter(
    db,
    title,
    Object.fromEntries(
      sources.map(({ table, entry }) => [table, Math.ceil(entry.bytes / (CHARACTERS_PER_ROW[table] ?? 60))]),
    ),
    await componentsIn(sources, () => step('', 0)).catch(whenCancelled),
  );
  await writer.open();
  const logs = new Map<TableName, ChangeLog<TableName>>();
  try {
    for (const source of sources) {
      const log = old ? new ChangeLog(source.table, await ledgerOf(old, source.table)) : null;
      if (log) logs.set(source.table, log);
      await readSource(source, { reader, writer, log, problems, step });
    }
    progress({ stage: 'checking', done: total, total, file: '' });
    const found = [...problems, ...reader.finish()];
    if (found.length) {
      await writer.abandon();
      return { kind: 'problems', problems: found };
    }
    // Before the indexes are built, so that what it needs can go.
    const changes = old ? await describeChanges(old, logs) : null;
    logs.clear();
    progress({ stage: 'writing', done: total, total, file: 'search index' });
    await writer.finish(new Map(tableNames.map((table): [TableName, Ledger] => [table, reader.keys(table).ledger()])));
    await step('', 0);
    return { kind: 'read', editionId: writer.id, title, counts: writer.counts, notices: reader.notices(), changes };
  } catch (error) {
    await writer.abandon();
    if (error instanceof Cancelled) return { kind: 'cancelled' };
    throw error;
  }
}

const whenCancelled = (error: unknown): Components => {
  // Nothing is written yet; the first step of reading will notice that it is to stop.
  if (error instanceof Cancelled) return new Components();
  throw error;
};

/** The first look at the relations: only what hangs together. Their faults are reported when they are read for good. */
async function componentsIn(sources: readonly Source[], step: () => Promise<void>): Promise<Components> {
  const components = new Components();
  const relations = sources.find(({ table }) => table === 'relations');
  if (!relations) return components;
  let from = -1;
  let to = -1;
  for await (const { rows, firstRow } of csvBatches(relations.entry)) {
    const header = firstRow === 1 ? rows.shift() : undefined;
    if (header) [from, to] = [header.indexOf('fromPartId'), header.indexOf('toPartId')];
    for (const row of rows) {
      const [a, b] = [row[from]?.trim(), row[to]?.trim()];
      if (a && b) components.join(a, b);
    }
    await step();
  }
  return components;
}

type Reading = {
  reader: PackageReader;
  writer: EditionWriter;
  log: ChangeLog<TableName> | null;
  problems: Problem[];
  step: (file: string, bytes: number) => Promise<void>;
};

async function readSource({ table, entry }: Source, { reader, writer, log, problems, step }: Reading): Promise<void> {
  let header: string[] = [];
  for await (const batch of csvBatches(entry)) {
    for (const { row, why } of batch.faults)
      if (problems.length < MAX_PROBLEMS) problems.push({ file: entry.name, row, column: null, value: null, why });
    for (const [index, values] of batch.rows.entries()) {
      const rowNumber = batch.firstRow + index;
      if (rowNumber === 1) {
        header = values.map((name) => name.trim());
        if (!reader.header(table, entry.name, header)) return;
        continue;
      }
      if (isBlank(values)) continue;
      const cells: Record<string, string> = {};
      for (let column = 0; column < header.length; column += 1) cells[header[column] ?? ''] = values[column] ?? '';
      const row = reader.row(table, entry.name, rowNumber, cells);
      if (!row) continue;
      log?.note(reader.last.key, reader.last.content, row);
      // Once something is wrong the rest is read only for its own faults.
      if (reader.problemCount() + problems.length === 0) writer.take(table, row, reader.last.text);
    }
    await writer.relieve();
    await step(entry.name, batch.bytes);
  }
}

/** What the catalogue in use holds of a table, for comparing: stored, or counted anew from its rows. */
async function ledgerOf(edition: EditionReader, table: TableName): Promise<Ledger> {
  const stored = await edition.ledger(table);
  if (stored) return stored;
  const keys = new KeyTable();
  for await (const rows of edition.rows(table))
    for (const row of rows) keys.add(rowKey(table, row), rowContent(table, row));
  return keys.ledger();
}

function titleOf(descriptor: string): string {
  const raw: unknown = JSON.parse(descriptor);
  return typeof raw === 'object' && raw !== null && 'title' in raw ? String(raw.title) : 'Catalogue';
}
