import { describe, expect, it } from 'vitest';
import { demoFiles } from '../../../tests/support/demo';
import Papa from 'papaparse';
import { readPackage, type PackageFile } from '.';
import { isTableName, tableNames, tables, type TableName } from '../catalogue';

type Sheet = { header: string[]; rows: Record<string, string>[] };

const sheets = (): Map<TableName, Sheet> =>
  new Map(
    demoFiles().flatMap(({ path, text }): [TableName, Sheet][] => {
      const name = path.replace('.csv', '');
      if (!path.endsWith('.csv') || !isTableName(name)) return [];
      const parsed = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
      return [[name, { header: parsed.meta.fields ?? [], rows: parsed.data }]];
    }),
  );

const filesOf = (made: ReadonlyMap<TableName, Sheet>): PackageFile[] => [
  ...demoFiles().filter(({ path }) => !path.endsWith('.csv')),
  ...[...made].map(([name, { header, rows }]) => ({
    path: `${name}.csv`,
    text: Papa.unparse(
      rows.map((row) => Object.fromEntries(header.map((column) => [column, row[column] ?? '']))),
      {
        columns: header,
      },
    ),
  })),
];

/** Every column that names rows of another table, by themselves or together with another column. */
const referring = tableNames.flatMap((table) => {
  const spec = tables[table];
  const pairs = 'pairs' in spec ? Object.keys(spec.pairs) : [];
  return [...Object.keys(spec.refs), ...pairs].map((column) => ({ table, column }));
});

describe('references of a package', () => {
  it('are declared for every column that is called after an id', () => {
    const called = tableNames.flatMap((table) =>
      Object.keys(tables[table].columns.shape).flatMap((column) => (/Id$/.test(column) ? [`${table}.${column}`] : [])),
    );
    expect(called.length).toBeGreaterThan(25);
    const declared = new Set(referring.map(({ table, column }) => `${table}.${column}`));
    expect(called.filter((column) => !declared.has(column))).toEqual([]);
  });
  it('are followed in every column that names another row: one broken in each is found in each', () => {
    const made = sheets();
    const broken: string[] = [];
    const spoiled = new Set<Record<string, string>>();
    for (const { table, column } of referring) {
      const rows = made.get(table)?.rows ?? [];
      // A row that is spoiled already says nothing of a second column.
      const row = rows.find((candidate) => candidate[column] && !spoiled.has(candidate));
      expect(row, `a row of the demo with ${table}.${column}`).toBeDefined();
      if (!row) continue;
      spoiled.add(row);
      row[column] = (row[column] ?? '').replace(/[^\s:|]+/, 'nowhere-at-all');
      broken.push(`${table}.csv ${column}`);
    }
    const { problems } = readPackage(filesOf(made));
    expect([...new Set(problems.map(({ file, column }) => `${file} ${column}`))].sort()).toEqual(broken.sort());
    expect(
      problems.every(({ why, value }) => `${value} ${why}`.includes('nowhere-at-all') || why.includes('not exist')),
    ).toBe(true);
  });
});

describe('columns that had another name in older packages', () => {
  const renamed = tableNames.flatMap((table) => {
    const spec = tables[table];
    return 'aliases' in spec ? Object.entries(spec.aliases).map(([today, before]) => ({ table, today, before })) : [];
  });
  it.each(renamed)('$today of $table is read from $before', ({ table, today, before }) => {
    const made = sheets();
    const sheet = made.get(table);
    expect(sheet?.header).toContain(today);
    if (!sheet) return;
    made.set(table, {
      header: sheet.header.map((column) => (column === today ? before : column)),
      rows: sheet.rows.map((row) => ({ ...row, [before]: row[today] ?? '' })),
    });
    const old = readPackage(filesOf(made));
    expect(old.problems).toEqual([]);
    expect(old.catalogue[table]).toEqual(readPackage(demoFiles()).catalogue[table]);
  });
  it('are there to be read: the price and the stock of an offer', () => {
    expect(renamed.map(({ table, before }) => `${table} ${before}`)).toEqual(['offers price', 'offers stock']);
  });
});

/** Columns that came later: an older package has none of them. */
const later = tableNames.flatMap((table) => {
  const spec = tables[table];
  return ('optional' in spec ? spec.optional : []).map((column) => ({ table, column }));
});

describe('a package of before a column came', () => {
  it.each(later)('imports without $column of $table: its cells read as empty ones', ({ table, column }) => {
    const made = sheets();
    const sheet = made.get(table);
    if (!sheet) return;
    // What only the column tells apart was not there either.
    const key: readonly string[] = tables[table].key;
    const before = key.includes(column) ? sheet.rows.filter((row) => (row[column] ?? '') === '') : sheet.rows;
    made.set(table, { header: sheet.header.filter((name) => name !== column), rows: before });
    const old = readPackage(filesOf(made));
    expect(old.problems).toEqual([]);
    const rows: readonly Record<string, unknown>[] = old.catalogue[table];
    expect(rows.length).toBeGreaterThan(0);
    for (const row of rows) expect([undefined, []]).toContainEqual(row[column]);
  });
});
