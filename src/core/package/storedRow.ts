import { isTableName, tables, type TableName } from '../catalogue/tables';

/** What a column of a row must be, where it must be something. */
type Needed = { column: string; type: 'text' | 'number' | 'filled'; isNumber: boolean };

const needed = new Map<TableName, readonly Needed[]>();

function neededIn(table: TableName): readonly Needed[] {
  const known = needed.get(table);
  if (known) return known;
  const found = Object.entries(tables[table].columns.shape).flatMap(([column, schema]): Needed[] => {
    const meta = schema.meta() ?? {};
    if (meta['required'] !== true) return [];
    const isNumber = column === 'partNumber' || column === 'modelNumber';
    const type = meta['type'] === 'number' || meta['type'] === 'integer' ? 'number' : 'filled';
    return [{ column, isNumber, type: isNumber || column === 'id' ? 'text' : type }];
  });
  needed.set(table, found);
  return found;
}

/**
 * What is wrong with a row that was stored by Sorter and comes back from a file, by the column; null: nothing that could break a question. Not the whole
 * parsing of a package: values were parsed when they came in. O(columns).
 */
export function storedRowFault(table: string, row: Readonly<Record<string, unknown>>): string | null {
  if (!isTableName(table)) return null;
  for (const { column, type, isNumber } of neededIn(table)) {
    const value = row[column];
    const good =
      type === 'number'
        ? typeof value === 'number' && Number.isFinite(value)
        : type === 'text'
          ? typeof value === 'string' && value !== '' && (!isNumber || /[A-Za-z0-9]/.test(value.normalize('NFKD')))
          : value !== undefined && value !== null && value !== '';
    if (!good) return column;
  }
  return null;
}
