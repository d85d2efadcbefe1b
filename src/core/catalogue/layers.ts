import { emptyCatalogue, tableNames, tables, type Catalogue, type Row, type TableName } from './tables';

function keyOf(table: TableName, row: Readonly<Record<string, unknown>>): string {
  const { key } = tables[table];
  return key.length === 1 ? String(row[key[0] ?? '']) : JSON.stringify(key.map((column) => row[column] ?? null));
}

/** Rows of two layers as one table: where both have a key, the upper row stands in the place of the lower one. O(rows). */
export function layered<T extends TableName>(table: T, lower: readonly Row<T>[], upper: readonly Row<T>[]): Row<T>[] {
  if (upper.length === 0) return [...lower];
  if (lower.length === 0) return [...upper];
  const above = new Map(upper.map((row) => [keyOf(table, row), row]));
  const replaced = lower.map((row) => {
    const key = keyOf(table, row);
    const found = above.get(key);
    above.delete(key);
    return found ?? row;
  });
  return [...replaced, ...above.values()];
}

/** Two whole layers as one catalogue: what a question sees. O(rows). */
export function layeredCatalogue(lower: Partial<Catalogue>, upper: Partial<Catalogue>): Catalogue {
  const put = <T extends TableName>(into: { [N in T]: Row<N>[] }, table: T) =>
    void (into[table] = layered(table, lower[table] ?? [], upper[table] ?? []));
  const whole = emptyCatalogue();
  for (const table of tableNames) put(whole, table);
  return whole;
}
