import { contentHash, KeyTable, type Ledger } from './keyTable';
import { tables, type Row, type TableName } from '../catalogue/tables';

const SEPARATOR = '\u0001';

/** What names a row within its table: the key's columns, empty ones as ''. */
export function rowKey(table: TableName, row: Readonly<Record<string, unknown>>): string {
  const { key } = tables[table];
  if (key.length === 1) return String(row[key[0] ?? ''] ?? '');
  return key.map((column) => String(row[column] ?? '')).join(SEPARATOR);
}

const COLUMNS: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries(tables).map(([table, { columns }]) => [table, Object.keys(columns.shape)]),
);
/** The columns of a table, in the order in which they are written. */
export const columnsOf = (table: TableName): readonly string[] => COLUMNS.get(table) ?? [];

// Quotation marks, backslashes, control characters and halves of pairs are JSON's business; all else is text as it stands.
const NEEDS_ESCAPE = /["\\\u0000-\u001f\ud800-\udfff]/;

function cellText(value: unknown): string {
  if (typeof value === 'string') return NEEDS_ESCAPE.test(value) ? JSON.stringify(value) : `"${value}"`;
  if (value === undefined || value === null) return 'null';
  return typeof value === 'number' ? String(value) : JSON.stringify(value);
}

/** A row as a JSON array: values in the order of the columns, null for an empty one. The same text as JSON.stringify gives, a third of the time. */
export function rowText(columns: readonly string[], row: Readonly<Record<string, unknown>>): string {
  let text = '[';
  for (let index = 0; index < columns.length; index += 1)
    text += (index === 0 ? '' : ',') + cellText(row[columns[index] ?? '']);
  return `${text}]`;
}

/** 32 bits of everything a row says. */
export const rowContent = (table: TableName, row: Readonly<Record<string, unknown>>): number =>
  contentHash(rowText(columnsOf(table), row));

export type TableChanges<T extends TableName = TableName> = {
  table: T;
  added: number;
  changed: number;
  gone: number;
  same: number;
  /** The first few of each; of the changed, the new row. */
  addedRows: Row<T>[];
  changedRows: Row<T>[];
};

export const SAMPLE_ROWS = 60;

/**
 * Compares what comes in with what an edition held, row by row as it comes: needs the old edition's ledger, not its rows. A change of content is
 * overlooked once in 2³² changed rows.
 */
export class ChangeLog<T extends TableName> {
  private readonly before: KeyTable;
  private readonly seen: Uint8Array;
  private readonly changes: TableChanges<T>;

  constructor(table: T, before: Ledger | null) {
    this.before = before ? KeyTable.from(before) : new KeyTable();
    this.seen = new Uint8Array(this.before.size);
    this.changes = { table, added: 0, changed: 0, gone: 0, same: 0, addedRows: [], changedRows: [] };
  }

  note(key: string, content: number, row: Row<T>): void {
    const index = this.before.find(key);
    if (index >= 0) this.seen[index] = 1;
    if (index >= 0 && this.before.contentOf(index) === content) this.changes.same += 1;
    else if (index >= 0) {
      this.changes.changed += 1;
      if (this.changes.changedRows.length < SAMPLE_ROWS) this.changes.changedRows.push(row);
    } else {
      this.changes.added += 1;
      if (this.changes.addedRows.length < SAMPLE_ROWS) this.changes.addedRows.push(row);
    }
  }

  /** Whether the old edition had this key and it did not come again. */
  isGone(key: string): boolean {
    const index = this.before.find(key);
    return index >= 0 && this.seen[index] === 0;
  }

  finish(): TableChanges<T> {
    let gone = 0;
    for (const seen of this.seen) if (seen === 0) gone += 1;
    return { ...this.changes, gone };
  }
}

/** The columns in which two rows of a table differ. */
export const differingColumns = (
  table: TableName,
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
): string[] => columnsOf(table).filter((column) => JSON.stringify(before[column]) !== JSON.stringify(after[column]));
