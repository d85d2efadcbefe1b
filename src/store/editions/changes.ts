import { type Row, type TableName } from '@/core/catalogue';
import { differingColumns, rowKey, SAMPLE_ROWS, type ChangeLog, type TableChanges } from '@/core/package';
import type { LayerReader } from './editionReader';

export type ChangedRow = {
  kind: 'added' | 'changed' | 'gone';
  label: string;
  columns: { column: string; before: string; after: string }[];
};
export type ShownChanges = Omit<TableChanges, 'addedRows' | 'changedRows'> & { rows: ChangedRow[] };

const NAMED_BY = ['modelNumber', 'partNumber', 'supplierNumber', 'name', 'title', 'label', 'text'];

/** What a person would call a row: its number or name, with what names it in its file. */
function labelOf(table: TableName, row: Readonly<Record<string, unknown>>): string {
  const name = NAMED_BY.map((column) => row[column]).find((value) => typeof value === 'string');
  const key = rowKey(table, row).split('\u0001').filter(Boolean).join(' ');
  return typeof name === 'string' ? `${name} (${key})` : key;
}

const plain = (value: unknown): string =>
  value === undefined ? '' : typeof value === 'object' ? JSON.stringify(value) : String(value);

/** Finds old rows by what they must be, and stops when it has enough. */
async function oldRows(
  old: Pick<LayerReader, 'rows'>,
  table: TableName,
  wanted: (row: Row<TableName>) => boolean,
  most: number,
): Promise<Row<TableName>[]> {
  const found: Row<TableName>[] = [];
  if (most === 0) return found;
  for await (const rows of old.rows(table)) {
    for (const row of rows) if (found.length < most && wanted(row)) found.push(row);
    if (found.length >= most) break;
  }
  return found;
}

/** The changes of each table with a few rows of each of the kinds, the changed ones column by column. Tables without a change are left out. */
export async function describeChanges(
  old: Pick<LayerReader, 'rows'>,
  logs: ReadonlyMap<TableName, ChangeLog<TableName>>,
  kinds: readonly ChangedRow['kind'][] = ['added', 'changed', 'gone'],
): Promise<ShownChanges[]> {
  const shown: ShownChanges[] = [];
  for (const [table, log] of logs) {
    const { addedRows, changedRows, ...counts } = log.finish();
    if (kinds.every((kind) => counts[kind] === 0)) continue;
    const after = new Map(changedRows.map((row) => [rowKey(table, row), row]));
    const before = await oldRows(old, table, (row) => after.has(rowKey(table, row)), after.size);
    const most = kinds.includes('gone') ? Math.min(counts.gone, SAMPLE_ROWS) : 0;
    const gone = await oldRows(old, table, (row) => log.isGone(rowKey(table, row)), most);
    shown.push({
      ...counts,
      rows: [
        ...before.map((row): ChangedRow => {
          const now: Record<string, unknown> = after.get(rowKey(table, row)) ?? {};
          const was: Record<string, unknown> = row;
          return {
            kind: 'changed',
            label: labelOf(table, now),
            columns: differingColumns(table, was, now).map((column) => ({
              column,
              before: plain(was[column]),
              after: plain(now[column]),
            })),
          };
        }),
        ...(kinds.includes('added') ? addedRows : []).map((row): ChangedRow => ({
          kind: 'added',
          label: labelOf(table, row),
          columns: [],
        })),
        ...gone.map((row): ChangedRow => ({ kind: 'gone', label: labelOf(table, row), columns: [] })),
      ],
    });
  }
  return shown;
}
