import { moneyToDecimal, type Money } from '../units';
import { tables, type Row, type TableName } from './tables';

const isMoney = (value: object): value is Money => 'amountMinor' in value;
const isQuantity = (value: object): value is { id: string; quantity: number; position?: string } => 'quantity' in value;

/**
 * A value as the text of its cell: what the column's parser read it from, in its shortest form. Reading it again gives the same value. An empty one is ''.
 * @throws TypeError for a value that no column type reads (a bug).
 */
function cellText(value: unknown, separator: string): string {
  if (value === undefined || value === null) return '';
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return String(value);
  if (Array.isArray(value))
    return value
      .map((entry: unknown) => {
        if (typeof entry === 'string') return entry;
        if (Array.isArray(entry)) return entry.join('|');
        if (typeof entry === 'object' && entry !== null && isQuantity(entry))
          return `${entry.id}${entry.position ? `@${entry.position}` : ''}:${entry.quantity}`;
        throw new TypeError('Bug: a list of what no column reads');
      })
      .join(separator);
  if (typeof value === 'object' && isMoney(value)) return `${moneyToDecimal(value)} ${value.currency}`;
  throw new TypeError('Bug: a value that no column reads');
}

/** A row as the cells of its file, in the order of the columns. O(columns). */
export function rowCells<T extends TableName>(table: T, row: Row<T>): string[] {
  const values: Readonly<Record<string, unknown>> = row;
  return Object.entries(tables[table].columns.shape).map(([column, schema]) => {
    const separator = schema.meta()?.['separator'];
    return cellText(values[column], typeof separator === 'string' ? separator : ' ');
  });
}
