import { KNOWN_TABLES, knownBy, Naming as IdNaming } from '@/core/identify';
import type { Row, TableName } from '@/core/catalogue';
import { columnsOf, contentHash, KeyTable, rowKey, rowText, type ReadAs } from '@/core/package';
import type { EditionReader } from '../editions/editionReader';
import { csvBatches } from './csvStream';
import type { Source } from './packageFiles';

type Said = ReadAs & { row: Row<TableName> };

/** How the rows of a package are said in the shop's catalogue, with their keys as they are then. */
export type Naming = {
  id: (table: TableName, id: string) => string;
  /** null for a row that says of the same thing what an earlier row of the package said: the first stands. */
  said: (table: TableName, row: Row<TableName>, read: () => ReadAs) => Said | null;
  /** Keys of what was said so far; null where that is what was read. */
  keys: (table: TableName) => KeyTable | null;
};

/** Rows stay as they are: the package is the only one. */
const PLAIN: Naming = { id: (_table, id) => id, said: (_table, row, read) => ({ row, ...read() }), keys: () => null };

/**
 * The naming of a package that comes beside others. Its parts are looked at once before everything else: what hangs together is grouped by the ids that they will have.
 * O(rows of the other layers that are known by name or number).
 */
export async function namingFor(
  prefix: string,
  layers: readonly EditionReader[],
  hasOthers: boolean,
  sources: readonly Source[],
): Promise<Naming> {
  if (!hasOthers && prefix === '') return PLAIN;
  const elsewhere = new Map<string, string>();
  // Upper layers last, and the package's own earlier edition after them: what it was called stays.
  for (const layer of layers)
    for (const table of KNOWN_TABLES)
      for await (const rows of layer.rows(table))
        for (const row of rows) {
          const key = knownBy(table, row);
          if (key !== null) elsewhere.set(key, row.id);
        }
  const naming = new IdNaming(prefix, elsewhere);
  for (const table of ['makers', 'parts'] as const) await lookThrough(sources, table, naming);
  const keys = new Map<TableName, KeyTable>();
  return {
    id: (table, id) => naming.id(table, id),
    said: (table, row) => {
      const said = naming.said(table, row);
      const key = rowKey(table, said);
      const text = rowText(columnsOf(table), said);
      const content = contentHash(text);
      const known = keys.get(table) ?? new KeyTable();
      keys.set(table, known);
      return known.add(key, content) < 0 ? null : { row: said, key, text, content };
    },
    keys: (table) => keys.get(table) ?? new KeyTable(),
  };
}

/** Only the ids and what they are known by; faults are reported when the file is read for good. */
async function lookThrough(sources: readonly Source[], table: 'makers' | 'parts', naming: IdNaming): Promise<void> {
  const source = sources.find((one) => one.table === table);
  if (!source) return;
  let header: string[] = [];
  for await (const { rows, firstRow } of csvBatches(source.entry)) {
    if (firstRow === 1) header = (rows.shift() ?? []).map((name) => name.trim());
    for (const values of rows) {
      const cells = Object.fromEntries(header.map((name, column) => [name, (values[column] ?? '').trim()]));
      // A row of this table as far as naming looks at it.
      if (cells['id'])
        naming.said(table, { ...cells, makerId: cells['makerId'] || undefined } as unknown as Row<typeof table>);
    }
  }
}
