import { tables, type Row, type TableName } from '../catalogue/tables';
import type * as z from '../units/zod';

/** What is wrong with one cell, by its column. */
export type CellProblem = { column: string; message: string };
export type ReadRow = { ok: true; row: Row<TableName> } | { ok: false; problems: readonly CellProblem[] };
export type RowReader = (cells: Readonly<Record<string, unknown>>) => ReadRow;

type Cell = { value: unknown; message: string | null };
type ColumnReader = { column: string; read: (cell: unknown) => Cell };

/** Makers, roles, days and prices come again and again; a column in which as many cells in a row are new as are remembered is one of ids or numbers, and is read as it comes. */
const MOST_REMEMBERED = 2048;
const LONGEST_REMEMBERED = 40;

function columnReader(column: string, schema: z.ZodType): ColumnReader {
  let before: Map<string, Cell> | null = new Map();
  let again = 0;
  const parse = (cell: unknown): Cell => {
    const read = schema.safeParse(cell);
    return read.success
      ? { value: read.data, message: null }
      : { value: undefined, message: read.error.issues[0]?.message ?? '' };
  };
  return {
    column,
    read(cell) {
      if (before === null || typeof cell !== 'string' || cell.length > LONGEST_REMEMBERED) return parse(cell);
      const known = before.get(cell);
      if (known) {
        again += 1;
        return known;
      }
      const read = parse(cell);
      if (before.size === MOST_REMEMBERED) {
        if (again < MOST_REMEMBERED) {
          before = null;
          return read;
        }
        again = 0;
        before.clear();
      }
      before.set(cell, read);
      return read;
    },
  };
}

/**
 * Reads the rows of one table as its columns say: the same as the table's schema gives of the whole row (no table has a rule over several columns), quicker:
 * a cell that was read before is not read again. Lists may be shared between rows: nobody changes a row. O(columns).
 */
export function createRowReader(table: TableName): RowReader {
  const readers = Object.entries<z.ZodType>(tables[table].columns.shape).map(([column, schema]) =>
    columnReader(column, schema),
  );
  return (cells) => {
    const row: Record<string, unknown> = {};
    let problems: CellProblem[] | null = null;
    for (const { column, read } of readers) {
      const { value, message } = read(cells[column]);
      if (message === null) row[column] = value;
      else (problems ??= []).push({ column, message });
    }
    // Each column has said that its value is of its type.
    return problems ? { ok: false, problems } : { ok: true, row: row as Row<TableName> };
  };
}
