import { isKnowledge, tableNames, type TableName } from '@/core/catalogue';
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
import * as z from '@/core/units/zod';
import { describeChanges, type ShownChanges } from '../editions/changes';
import { Components } from '../editions/components';
import { csvBatches, isBlank } from './csvStream';
import type { SorterDatabase } from '../database';
import { layersOf, renewedBy } from '../editions/layers';
import { shippedKnowledge } from '../editions/shipped';
import { EditionReader, type LayerReader } from '../editions/editionReader';
import { MemoryLayer } from '../editions/memoryLayer';
import { EditionWriter, type Named } from '../editions/editionWriter';
import { namingFor, type Naming } from './naming';
import { fileProblem, openPackage, readText, type Source } from './packageFiles';

export type ImportProgress = {
  /** `waiting`: another tab replaces something just now. */
  stage: 'waiting' | 'unpacking' | 'reading' | 'checking' | 'writing';
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
  version: string;
  /** The layer that it renews, by its title; null for one that comes beside the others. */
  renews: string | null;
  /** Titles of the other packages in the pile. */
  beside: string[];
  /** Rows that another layer has as well, and of which this one says something else: from then on this one is believed. Layers without one are left out. */
  overrides: { title: string; changes: ShownChanges[] }[];
  /** Against the edition that it renews; null when there is none. */
  changes: ShownChanges[] | null;
};
export type ImportResult = ReadEdition | { kind: 'problems'; problems: Problem[] } | { kind: 'cancelled' };

const DESCRIPTOR = 'datapackage.json';
/** A row of these files is hardly ever shorter: the number of buckets follows from the file's size. */
const CHARACTERS_PER_ROW: Partial<Record<TableName, number>> = { fits: 45, parts: 70, models: 80, offers: 75 };
const breath = () => new Promise<void>((resolve) => setTimeout(resolve, 0));

/** Another layer, and where it says the same and something else. `title`: null for the knowledge that ships. */
type Beside = { title: string | null; reader: LayerReader; logs: Map<TableName, ChangeLog<TableName>> };

class Cancelled extends Error {}

/**
 * Reads a package row by row into a new edition that is complete but not in use. Nothing of it remains when a row has a problem or the person stops
 * it. Memory: one batch of rows, keys as fingerprints, models and parts for their search indexes. `among`: the layers that it comes to, or none of them.
 */
export async function importPackage(
  db: SorterDatabase,
  input: readonly File[],
  progress: (at: ImportProgress) => void,
  cancelled: () => boolean,
  among: 'layers' | 'alone' = 'layers',
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

  const layers = among === 'layers' ? await layersOf(db) : [];
  const described = describedAs(text);
  const renewed = renewedBy(layers, described);
  const others = layers.filter((layer) => layer !== renewed).map(({ edition }) => new EditionReader(db, edition));
  const shipped = new MemoryLayer(await shippedKnowledge());
  const beside: Beside[] = [
    { title: null, reader: shipped, logs: new Map() },
    ...others.map((reader): Beside => ({ title: reader.edition.title, reader, logs: new Map() })),
  ];
  const old = renewed ? new EditionReader(db, renewed.edition) : null;
  const prefix = renewed?.edition.prefix ?? (others.length ? `${described.name}:` : '');
  const naming = await namingFor(prefix, old ? [...others, old] : others, others.length > 0, sources);
  const writer = new EditionWriter(
    db,
    { ...described, prefix },
    Object.fromEntries(
      sources.map(({ table, entry }) => [table, Math.ceil(entry.bytes / (CHARACTERS_PER_ROW[table] ?? 60))]),
    ),
    await componentsIn(sources, naming, () => step('', 0)).catch(whenCancelled),
  );
  await writer.open();
  const logs = new Map<TableName, ChangeLog<TableName>>();
  try {
    for (const source of sources) {
      const log = old ? new ChangeLog(source.table, await ledgerOf(old, source.table)) : null;
      if (log) logs.set(source.table, log);
      for (const other of beside)
        if (other.title !== null || isKnowledge(source.table))
          other.logs.set(source.table, new ChangeLog(source.table, await ledgerOf(other.reader, source.table)));
      const against = beside.flatMap(({ logs: own }) => own.get(source.table) ?? []);
      await readSource(source, { reader, writer, naming, logs: [...(log ? [log] : []), ...against], problems, step });
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
    const overrides: ReadEdition['overrides'] = [];
    for (const { title, reader: other, logs: own } of beside) {
      const differing = await describeChanges(other, own, ['changed']);
      if (differing.length) overrides.push({ title: title ?? '', changes: differing });
    }
    progress({ stage: 'writing', done: total, total, file: 'search index' });
    await writer.finish(
      new Map(
        tableNames.map((table): [TableName, Ledger] => [table, (naming.keys(table) ?? reader.keys(table)).ledger()]),
      ),
    );
    await step('', 0);
    return {
      kind: 'read',
      editionId: writer.id,
      title: described.title,
      version: described.version,
      renews: renewed?.edition.title ?? null,
      beside: others.map(({ edition }) => edition.title),
      overrides,
      counts: writer.counts,
      notices: reader.notices(),
      changes,
    };
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
async function componentsIn(
  sources: readonly Source[],
  naming: Naming,
  step: () => Promise<void>,
): Promise<Components> {
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
      if (a && b) components.join(naming.id('parts', a), naming.id('parts', b));
    }
    await step();
  }
  return components;
}

type Reading = {
  reader: PackageReader;
  writer: EditionWriter;
  naming: Naming;
  logs: readonly ChangeLog<TableName>[];
  problems: Problem[];
  step: (file: string, bytes: number) => Promise<void>;
};

async function readSource(
  { table, entry }: Source,
  { reader, writer, naming, logs, problems, step }: Reading,
): Promise<void> {
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
      const said = naming.said(table, row, reader.last);
      if (!said) continue;
      for (const log of logs) log.note(said.key, said.content, said.row);
      // Once something is wrong the rest is read only for its own faults.
      if (reader.problemCount() + problems.length === 0) writer.take(table, said.row, said.text);
    }
    await writer.relieve();
    await step(entry.name, batch.bytes);
  }
}

/** What the catalogue in use holds of a table, for comparing: stored, or counted anew from its rows. */
async function ledgerOf(edition: LayerReader, table: TableName): Promise<Ledger> {
  const stored = edition instanceof EditionReader ? await edition.ledger(table) : null;
  if (stored) return stored;
  const keys = new KeyTable();
  for await (const rows of edition.rows(table))
    for (const row of rows) keys.add(rowKey(table, row), rowContent(table, row));
  return keys.ledger();
}

const descriptor = z.object({
  name: z.string().trim().max(80).catch(''),
  title: z.string().trim().max(200).catch(''),
  version: z.string().trim().max(40).catch(''),
});

/** What a package says of itself. One that does not say its name is known by its title. */
function describedAs(text: string): Named {
  let described: unknown = {};
  try {
    described = JSON.parse(text);
  } catch {
    // That it is not JSON is a problem of the package, listed by its reader.
  }
  const { name, title, version } = descriptor.catch({ name: '', title: '', version: '' }).parse(described);
  return { name: name || title || 'catalogue', title: title || name || 'Catalogue', version, prefix: '' };
}
