import Papa from 'papaparse';
import { z } from '../units';
import { emptyCatalogue, isTableName, tableNames, tables, type Catalogue, type Row, type TableName } from './tables';

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

export type PackageReader = {
  /** Reads datapackage.json; returns which file holds which table. Unknown resources are reported, missing ones too. */
  describe(text: string): ResourcePlan;
  /** Compares a file's header with the table's columns; false when a column is missing. */
  header(table: TableName, path: string, found: readonly string[]): boolean;
  /** Parses one row; null when it has a problem. O(columns). */
  row<T extends TableName>(table: T, path: string, rowNumber: number, cells: Record<string, unknown>): Row<T> | null;
  /** Checks references and supersession circles that only the whole can show. Call once, after the last row. */
  finish(): Problem[];
  problemCount(): number;
};

/** Beyond this many the list says so instead of growing: a file in the wrong encoding must not fill the memory. */
export const MAX_PROBLEMS = 2000;

type PendingReference = { file: string; row: number; column: string; value: string; table: TableName };

/** Columns whose cells hold several references; they are only looked up when the whole row parses. */
const LISTS = new Set(['companions', 'consumables']);

/**
 * The streaming reader of a catalogue package (Frictionless Data Package: datapackage.json and CSV files).
 * It holds the keys of what it has read, not the rows.
 */
export function createPackageReader(): PackageReader {
  const problems: Problem[] = [];
  let overflow = 0;
  const keys = new Map<TableName, Set<string>>(tableNames.map((name) => [name, new Set()]));
  const ids = new Map<TableName, Set<string>>(tableNames.map((name) => [name, new Set()]));
  const pending: PendingReference[] = [];
  const successors = new Map<string, { to: string; file: string; row: number }[]>();

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

  const refer = (table: TableName, column: string, file: string, row: number, value: unknown) => {
    if (value === undefined || value === '') return;
    const values = Array.isArray(value) ? value : [value];
    for (const entry of values) {
      const id = typeof entry === 'object' && entry !== null && 'id' in entry ? String(entry.id) : String(entry);
      if (!ids.get(table)?.has(id)) pending.push({ file, row, column, value: id, table });
    }
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
      for (const name of tableNames)
        if (!plan.some((entry) => entry.table === name))
          report('datapackage.json', null, 'resources', name, 'is missing from the package.');
      return tableNames.flatMap((name) => plan.filter((entry) => entry.table === name));
    },

    header(table, path, found) {
      const missing = Object.keys(tables[table].columns.shape).filter((column) => !found.includes(column));
      for (const column of missing) report(path, 1, column, null, 'this column is missing from the header.');
      return missing.length === 0;
    },

    row(table, path, rowNumber, cells) {
      const spec = tables[table];
      const read = spec.columns.safeParse(cells);
      if (!read.success) {
        for (const problem of read.error.issues) {
          const column = String(problem.path[0] ?? '');
          report(path, rowNumber, column || null, cells[column], problem.message);
        }
        // The rest of a bad row still counts: what points to it is no second fault, and what it points to is looked up.
        const bad = new Set(read.error.issues.map((problem) => String(problem.path[0] ?? '')));
        if (cells['id']) ids.get(table)?.add(String(cells['id']).trim());
        for (const [column, target] of Object.entries<string>(spec.refs))
          if (isTableName(target) && !bad.has(column) && !LISTS.has(column))
            refer(target, column, path, rowNumber, String(cells[column] ?? '').trim());
        return null;
      }
      const values: Record<string, unknown> = read.data;
      const key = spec.key.map((column) => String(values[column] ?? '')).join('\u0001');
      const known = keys.get(table);
      if (known?.has(key)) {
        report(
          path,
          rowNumber,
          spec.key.join('+'),
          spec.key.map((column) => values[column] ?? '').join(' '),
          'stands in this file twice.',
        );
        return null;
      }
      known?.add(key);
      if (typeof values['id'] === 'string') ids.get(table)?.add(values['id']);
      for (const [column, target] of Object.entries<string>(spec.refs))
        if (isTableName(target)) refer(target, column, path, rowNumber, values[column]);
      if (table === 'relations' && values['kind'] === 'superseded-by') {
        const from = String(values['fromPartId']);
        successors.set(from, [
          ...(successors.get(from) ?? []),
          { to: String(values['toPartId']), file: path, row: rowNumber },
        ]);
      }
      if (table === 'fits' && (values['modelId'] === undefined) === (values['platformId'] === undefined))
        report(
          path,
          rowNumber,
          'modelId',
          values['modelId'],
          'a fit names either a model or a platform, not both or neither.',
        );
      return rowOf(table, read.data);
    },

    finish() {
      for (const reference of pending)
        if (!ids.get(reference.table)?.has(reference.value))
          report(
            reference.file,
            reference.row,
            reference.column,
            reference.value,
            `does not exist in ${reference.table}.`,
          );
      for (const circle of supersessionCircles(successors))
        report(circle.file, circle.row, 'toPartId', circle.part, 'this supersession leads back to where it began.');
      const last =
        overflow > 0
          ? [{ file: '', row: null, column: null, value: null, why: `${overflow} more problems are not listed.` }]
          : [];
      return [...problems, ...last];
    },

    problemCount: () => problems.length + overflow,
  };
}

// The parsed row has the table's own type; TypeScript cannot follow the index into the table of schemas.
const rowOf = <T extends TableName>(_table: T, value: unknown): Row<T> => value as Row<T>;

function supersessionCircles(
  successors: Map<string, { to: string; file: string; row: number }[]>,
): { part: string; file: string; row: number }[] {
  const state = new Map<string, 'open' | 'done'>();
  const circles: { part: string; file: string; row: number }[] = [];
  for (const start of successors.keys()) {
    const stack: { part: string; next: number }[] = state.has(start) ? [] : [{ part: start, next: 0 }];
    if (stack.length) state.set(start, 'open');
    while (stack.length) {
      const top = stack[stack.length - 1];
      if (!top) break;
      const edge = successors.get(top.part)?.[top.next];
      top.next += 1;
      if (!edge) {
        state.set(top.part, 'done');
        stack.pop();
      } else if (state.get(edge.to) === 'open') circles.push({ part: edge.to, file: edge.file, row: edge.row });
      else if (!state.has(edge.to)) {
        state.set(edge.to, 'open');
        stack.push({ part: edge.to, next: 0 });
      }
    }
  }
  return circles;
}

/** The whole package at once, for small input. The catalogue holds the good rows; apply it only when `problems` is empty. */
export function readPackage(files: readonly PackageFile[]): { catalogue: Catalogue; problems: Problem[] } {
  const reader = createPackageReader();
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
  return { catalogue, problems: [...extra, ...reader.finish()] };
}
