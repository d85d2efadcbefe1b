import type { PartId } from '../units';
import Papa from 'papaparse';
import * as z from '../units/zod';
import { contentHash, KeyTable } from './keyTable';
import { columnsOf, rowKey, rowText } from './ledger';
import { createRowReader, type RowReader } from './rowReader';
import {
  emptyCatalogue,
  isTableName,
  tableNames,
  tables,
  type Catalogue,
  type Row,
  type TableName,
} from '../catalogue/tables';

/** One thing wrong in a data package. `row` counts the header as row 1; `value` is cut to 80 characters. */
export type Problem = { file: string; row: number | null; column: string | null; value: string | null; why: string };

export type PackageFile = { path: string; text: string };

const descriptor = z.object({
  profile: z.string().optional(),
  name: z.string().optional(),
  title: z.string().optional(),
  resources: z.array(z.object({ name: z.string(), path: z.string() })).min(1),
});

export type ResourcePlan = { table: TableName; path: string }[];

export type ReadAs = { key: string; text: string; content: number };

export type PackageReader = {
  /** Reads datapackage.json; returns which file holds which table. Unknown resources are reported, missing ones too. */
  describe(text: string): ResourcePlan;
  /** Compares a file's header with the table's columns; false when a column is missing. */
  header(table: TableName, path: string, found: readonly string[]): boolean;
  /** Parses one row; null when it has a problem. O(columns). */
  row<T extends TableName>(table: T, path: string, rowNumber: number, cells: Record<string, unknown>): Row<T> | null;
  /** Of the row that `row` gave last: what names it in its table, and the whole of it as text (`rowText`). Its content stands in `keys` once this was asked. */
  last(): ReadAs;
  /** Checks references that only the whole can show. Call once, after the last row. */
  finish(): Problem[];
  /** What the rows say that is no fault of form but must not be followed blindly. Call after `finish`. */
  notices(): Notice[];
  /** Keys and contents of the good rows of a table so far. */
  keys(table: TableName): KeyTable;
  problemCount(): number;
};

const optionalOf = (table: TableName): readonly string[] => {
  const spec = tables[table];
  return 'optional' in spec ? spec.optional : [];
};

/** Today's columns by what they were called in older packages. */
const aliasesOf = (table: TableName): Readonly<Record<string, string>> => {
  const spec = tables[table];
  return 'aliases' in spec ? spec.aliases : {};
};

/** Beyond this many the list says so instead of growing: a file in the wrong encoding must not fill the memory. */
export const MAX_PROBLEMS = 2000;

/** What a cross-reference of the package says that no machine should follow: shown at import, and again where the number is used. */
export type Notice = {
  kind: 'supersession-circle' | 'sources-disagree' | 'dead-end';
  /** The first few, by the id of the part. */
  partIds: PartId[];
  count: number;
};
const NOTICE_SAMPLE = 200;

type PendingReference = { file: string; row: number; column: string; value: string; key: string; table: TableName };

type Reference = {
  column: string;
  table: TableName;
  /** The other half of the key, for a column that names a row only together with it. */
  with: string | null;
  words: readonly string[];
  /** Holds several references; they are only looked up when the whole row parses. */
  isList: boolean;
};

function referencesOf(name: TableName): Reference[] {
  const { columns, refs, ...more } = tables[name];
  const words: Record<string, readonly string[]> = 'words' in more ? more.words : {};
  const pairs: Record<string, { with: string; table: string }> = 'pairs' in more ? more.pairs : {};
  const shape: Record<string, z.ZodType> = columns.shape;
  const reference = (column: string, table: string, other: string | null): Reference[] =>
    isTableName(table)
      ? [
          {
            column,
            table,
            with: other,
            words: words[column] ?? [],
            isList: Array.isArray(shape[column]?.safeParse('').data),
          },
        ]
      : [];
  return [
    ...Object.entries<string>(refs).flatMap(([column, table]) => reference(column, table, null)),
    ...Object.entries(pairs).flatMap(([column, pair]) => reference(column, pair.table, pair.with)),
  ];
}

const REFERENCES: ReadonlyMap<TableName, readonly Reference[]> = new Map(
  tableNames.map((name) => [name, referencesOf(name)]),
);
/** Tables whose key is more than `id`, and that are pointed to by `id`: small ones, of which the ids are kept. */
const BY_ID_BESIDE = new Set(
  [...REFERENCES.values()]
    .flat()
    .filter(({ table, with: other }) => other === null && tables[table].key.length > 1)
    .map(({ table }) => table),
);
/** As a reference names a row: by the id alone where the table is pointed to so, else by its key. */
const refKey = (table: TableName, row: Readonly<Record<string, unknown>>): string =>
  BY_ID_BESIDE.has(table) ? String(row['id']) : rowKey(table, row);
/** References to what has not come yet are kept up to here; the files come in an order in which none is needed. */
const MAX_PENDING = 50_000;

/**
 * The streaming reader of a catalogue package (Frictionless Data Package: datapackage.json and CSV files).
 * It holds the keys of what it has read, not the rows.
 */
/** `below`: rows of the layers that lie under this package. What it refers to may stand there. */
export function createPackageReader(below: Partial<Catalogue> = {}): PackageReader {
  const problems: Problem[] = [];
  let overflow = 0;
  const keys = new Map<TableName, KeyTable>(tableNames.map((name) => [name, new KeyTable()]));
  /** Ids of bad rows: what points to them is no second fault. */
  const badIds = new Map<TableName, Set<string>>();
  const pending: PendingReference[] = [];
  const successors = new Map<PartId, Successor[]>();
  const discontinued = new Set<PartId>();
  let read: { table: TableName; values: Readonly<Record<string, unknown>>; key: string; ordinal: number } | null = null;
  const idsBeside = new Map<TableName, Set<string>>([...BY_ID_BESIDE].map((table) => [table, new Set()]));
  const rowReaders = new Map<TableName, RowReader>();
  const rowReaderOf = (table: TableName): RowReader => {
    const known = rowReaders.get(table) ?? createRowReader(table);
    rowReaders.set(table, known);
    return known;
  };
  const under = new Map(
    tableNames.map((table) => [table, new Set((below[table] ?? []).map((row) => refKey(table, row)))]),
  );
  const exists = (table: TableName, key: string) =>
    (idsBeside.get(table) ?? keysOf(table)).has(key) ||
    under.get(table)?.has(key) === true ||
    badIds.get(table)?.has(key) === true;
  const keysOf = (table: TableName): KeyTable => {
    const found = keys.get(table);
    if (!found) throw new Error(`Bug: no keys for ${table}`);
    return found;
  };

  const report = (file: string, row: number | null, column: string | null, value: unknown, why: string) => {
    if (problems.length >= MAX_PROBLEMS) overflow += 1;
    else
      problems.push({
        file,
        row,
        column,
        value: value === undefined || value === null ? null : String(value).slice(0, 80),
        why,
      });
  };

  const refer = (reference: Reference, file: string, row: number, value: unknown, other: unknown) => {
    if (value === undefined || value === '') return;
    if (Array.isArray(value)) {
      for (const entry of value) refer(reference, file, row, entry, other);
      return;
    }
    const { column, table } = reference;
    const id = typeof value === 'object' && value !== null && 'id' in value ? String(value.id) : String(value);
    if (reference.words.includes(id)) return;
    const [beside = ''] = tables[table].key;
    const key = reference.with === null ? id : rowKey(table, { [beside]: other, id });
    if (exists(table, key)) return;
    if (pending.length < MAX_PENDING) pending.push({ file, row, column, value: id, key, table });
    else report(file, row, column, id, `does not exist in ${table}.`);
  };

  return {
    describe(text) {
      let raw: unknown;
      try {
        raw = JSON.parse(text);
      } catch {
        report(
          'datapackage.json',
          null,
          null,
          text.slice(0, 40),
          'is not JSON. Nothing was read; export the package again.',
        );
        return [];
      }
      const read = descriptor.safeParse(raw);
      if (!read.success) {
        report(
          'datapackage.json',
          null,
          read.error.issues[0]?.path.join('.') ?? null,
          null,
          'is not a Data Package descriptor: it needs "resources" with "name" and "path".',
        );
        return [];
      }
      const plan: ResourcePlan = [];
      for (const resource of read.data.resources) {
        if (isTableName(resource.name)) plan.push({ table: resource.name, path: resource.path });
        else
          report(
            'datapackage.json',
            null,
            'name',
            resource.name,
            'is not a table that Sorter knows (docs/formats.md lists them).',
          );
      }
      if (plan.length === 0)
        report(
          'datapackage.json',
          null,
          'resources',
          null,
          'names no table that Sorter knows: there is nothing to read.',
        );
      return tableNames.flatMap((name) => plan.filter((entry) => entry.table === name));
    },

    header(table, path, found) {
      const missing = columnsOf(table).filter(
        (column) =>
          !found.includes(column) &&
          !found.includes(aliasesOf(table)[column] ?? column) &&
          !optionalOf(table).includes(column),
      );
      for (const column of missing) report(path, 1, column, null, 'this column is missing from the header.');
      return missing.length === 0;
    },

    row(table, path, rowNumber, cells) {
      for (const [column, before] of Object.entries(aliasesOf(table))) cells[column] ??= cells[before];
      for (const column of optionalOf(table)) cells[column] ??= '';
      const references = REFERENCES.get(table) ?? [];
      const parsed = rowReaderOf(table)(cells);
      if (!parsed.ok) {
        for (const { column, message } of parsed.problems) report(path, rowNumber, column, cells[column], message);
        // The rest of a bad row still counts: what points to it is no second fault, and what it points to is looked up.
        const bad = new Set(parsed.problems.map(({ column }) => column));
        if (cells['id']) {
          const known = badIds.get(table) ?? new Set();
          if (known.size < MAX_PENDING) badIds.set(table, known.add(String(cells['id']).trim()));
        }
        for (const reference of references)
          if (!bad.has(reference.column) && !reference.isList && reference.with === null)
            refer(reference, path, rowNumber, String(cells[reference.column] ?? '').trim(), null);
        return null;
      }
      const values: Record<string, unknown> = parsed.row;
      const key = rowKey(table, values);
      const ordinal = keysOf(table).add(key);
      if (ordinal < 0) {
        report(
          path,
          rowNumber,
          tables[table].key.join('+'),
          tables[table].key.map((column) => values[column] ?? '').join(' '),
          'stands in this file twice.',
        );
        return null;
      }
      read = { table, values, key, ordinal };
      idsBeside.get(table)?.add(String(values['id']));
      for (const reference of references)
        refer(reference, path, rowNumber, values[reference.column], reference.with && values[reference.with]);
      if (table === 'relations' && values['kind'] === 'superseded-by') {
        const { fromPartId, toPartId, source } = rowOf('relations', parsed.row);
        const known = successors.get(fromPartId);
        const next = { to: toPartId, source };
        if (known) known.push(next);
        else successors.set(fromPartId, [next]);
      }
      if (table === 'parts' && values['status'] === 'discontinued') discontinued.add(rowOf('parts', parsed.row).id);
      if (table === 'fits' && (values['modelId'] === undefined) === (values['platformId'] === undefined))
        report(
          path,
          rowNumber,
          'modelId',
          values['modelId'],
          'a fit names either a model or a platform, not both or neither.',
        );
      return rowOf(table, parsed.row);
    },

    finish() {
      for (const reference of pending)
        if (!exists(reference.table, reference.key))
          report(
            reference.file,
            reference.row,
            reference.column,
            reference.value,
            `does not exist in ${reference.table}.`,
          );
      const last =
        overflow > 0
          ? [{ file: '', row: null, column: null, value: null, why: `${overflow} more problems are not listed.` }]
          : [];
      return [...problems, ...last];
    },

    notices() {
      const notice = (kind: Notice['kind'], partIds: readonly PartId[]): Notice[] =>
        partIds.length ? [{ kind, partIds: partIds.slice(0, NOTICE_SAMPLE), count: partIds.length }] : [];
      return [
        ...notice('supersession-circle', supersessionCircles(successors)),
        ...notice(
          'sources-disagree',
          [...successors]
            .filter(([, next]) => new Set(next.map(({ source }) => source)).size > 1)
            .map(([from]) => from),
        ),
        ...notice(
          'dead-end',
          [...discontinued].filter((id) => !successors.has(id)),
        ),
      ];
    },

    last() {
      if (!read) throw new Error('Bug: no row was read');
      const text = rowText(columnsOf(read.table), read.values);
      const content = contentHash(text);
      keysOf(read.table).setContent(read.ordinal, content);
      return { key: read.key, text, content };
    },
    keys: keysOf,
    problemCount: () => problems.length + overflow,
  };
}

type Successor = { to: PartId; source: string };

// The parsed row has the table's own type; TypeScript cannot follow the index into the table of schemas.
const rowOf = <T extends TableName>(_table: T, value: unknown): Row<T> => value as Row<T>;

/** A part of every circle of supersessions. Depth first with an explicit stack: O(parts + supersessions). */
function supersessionCircles(successors: ReadonlyMap<PartId, readonly Successor[]>): PartId[] {
  const state = new Map<PartId, 'open' | 'done'>();
  const circles: PartId[] = [];
  for (const start of successors.keys()) {
    const stack: { part: PartId; next: number }[] = state.has(start) ? [] : [{ part: start, next: 0 }];
    if (stack.length) state.set(start, 'open');
    for (let top = stack.at(-1); top !== undefined; top = stack.at(-1)) {
      const edge = successors.get(top.part)?.[top.next];
      top.next += 1;
      if (!edge) {
        state.set(top.part, 'done');
        stack.pop();
      } else if (state.get(edge.to) === 'open') circles.push(edge.to);
      else if (!state.has(edge.to)) {
        state.set(edge.to, 'open');
        stack.push({ part: edge.to, next: 0 });
      }
    }
  }
  return circles;
}

/** The whole package at once, for small input. The catalogue holds the good rows; apply it only when `problems` is empty. */
export function readPackage(
  files: readonly PackageFile[],
  below: Partial<Catalogue> = {},
): {
  catalogue: Catalogue;
  problems: Problem[];
  notices: Notice[];
} {
  const reader = createPackageReader(below);
  const catalogue = emptyCatalogue();
  const find = (path: string) => files.find((file) => file.path === path || file.path.endsWith(`/${path}`));
  const description = find('datapackage.json');
  if (!description)
    return {
      catalogue,
      problems: [
        {
          file: 'datapackage.json',
          row: null,
          column: null,
          value: null,
          why: 'is missing: this is not a catalogue package.',
        },
      ],
      notices: [],
    };
  const extra: Problem[] = [];
  for (const { table, path } of reader.describe(description.text)) {
    const file = find(path);
    if (!file) {
      extra.push({
        file: path,
        row: null,
        column: null,
        value: null,
        why: 'is named in datapackage.json but is not in the package.',
      });
      continue;
    }
    const parsed = Papa.parse<Record<string, string>>(file.text, { header: true, skipEmptyLines: true });
    if (!reader.header(table, path, parsed.meta.fields ?? [])) continue;
    const rows: unknown[] = catalogue[table];
    parsed.data.forEach((cells, index) => {
      const row = reader.row(table, path, index + 2, cells);
      if (row) rows.push(row);
    });
  }
  return { catalogue, problems: [...extra, ...reader.finish()], notices: reader.notices() };
}
