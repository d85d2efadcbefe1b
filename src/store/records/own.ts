import { tables, isTableName } from '@/core/catalogue';
import type { OwnRow } from '@/core/learn';
import { now } from '../clock';
import type { OwnRecord, SorterDatabase } from '../database';
import { OWN_VERSION } from './versions';

/** What is wrong with a row as it was entered, by column. */
export type OwnProblems = Record<string, string>;

type Written = Pick<OwnRecord, 'id' | 'table' | 'cells'>;

/** Whatever is written or goes, everybody is told. */
const changeOwn = (db: SorterDatabase, change: () => Promise<unknown>): Promise<void> =>
  db.transaction('rw', [db.own, db.meta], async () => {
    await change();
    await db.meta.put({ key: OWN_VERSION, value: crypto.randomUUID() });
  });

const put = (db: SorterDatabase, rows: readonly Written[]): Promise<void> => {
  const at = now();
  return changeOwn(db, () => db.own.bulkPut(rows.map(({ id, table, cells }) => ({ id, table, cells, at }))));
};

/** Puts the shop's own words in the place of a row that was learned; or says what is wrong with them, and keeps what was. */
export const correctOwn = (
  db: SorterDatabase,
  id: string,
  table: string,
  cells: Record<string, string>,
): Promise<OwnProblems | null> => putOwnRows(db, [{ id, table, cells }]);

/** Rows of the shop's own, all or none: what is wrong with them is said, and nothing is changed. */
export async function putOwnRows(db: SorterDatabase, rows: readonly OwnRow[]): Promise<OwnProblems | null> {
  for (const { table, cells } of rows) {
    if (!isTableName(table)) throw new Error(`Bug: no table ${table}`);
    const read = tables[table].columns.safeParse(cells);
    if (!read.success)
      return Object.fromEntries(read.error.issues.map(({ path, message }) => [String(path[0] ?? ''), message]));
  }
  await put(db, rows);
  return null;
}

/** Rows of the shop's own go: what stood below them counts again. */
export const dropOwnRows = (db: SorterDatabase, ids: readonly string[]): Promise<void> =>
  changeOwn(db, () => db.own.bulkDelete([...ids]));

/** The row counts no more, nor what hangs on it; it stays listed, and can be brought back. */
export const strikeOwn = (db: SorterDatabase, id: string, table: string): Promise<void> =>
  put(db, [{ id, table, cells: null }]);

/** As it was learned. */
export const restoreOwn = (db: SorterDatabase, id: string): Promise<void> => dropOwnRows(db, [id]);
