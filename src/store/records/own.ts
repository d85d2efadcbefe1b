import { tables, isTableName } from '@/core/catalogue';
import type { OwnRow } from '@/core/learn';
import { now } from '../clock';
import type { SorterDatabase } from '../database';
import { OWN_VERSION } from './versions';

/** What is wrong with a row as it was entered, by column. */
export type OwnProblems = Record<string, string>;

async function put(db: SorterDatabase, id: string, table: string, cells: Record<string, string> | null): Promise<void> {
  await db.transaction('rw', [db.own, db.meta], async () => {
    await db.own.put({ id, table, cells, at: now() });
    await db.meta.put({ key: OWN_VERSION, value: crypto.randomUUID() });
  });
}

/** Puts the shop's own words in the place of a row that was learned; or says what is wrong with them, and keeps what was. */
export async function correctOwn(
  db: SorterDatabase,
  id: string,
  table: string,
  cells: Record<string, string>,
): Promise<OwnProblems | null> {
  if (!isTableName(table)) throw new Error(`Bug: no table ${table}`);
  const read = tables[table].columns.safeParse(cells);
  if (!read.success)
    return Object.fromEntries(read.error.issues.map(({ path, message }) => [String(path[0] ?? ''), message]));
  await put(db, id, table, cells);
  return null;
}

/** Rows of the shop's own, all or none: what is wrong with them is said, and nothing is changed. */
export async function putOwnRows(db: SorterDatabase, rows: readonly OwnRow[]): Promise<OwnProblems | null> {
  for (const { table, cells } of rows) {
    if (!isTableName(table)) throw new Error(`Bug: no table ${table}`);
    const read = tables[table].columns.safeParse(cells);
    if (!read.success)
      return Object.fromEntries(read.error.issues.map(({ path, message }) => [String(path[0] ?? ''), message]));
  }
  const at = now();
  await db.transaction('rw', [db.own, db.meta], async () => {
    await db.own.bulkPut(rows.map(({ id, table, cells }) => ({ id, table, cells, at })));
    await db.meta.put({ key: OWN_VERSION, value: crypto.randomUUID() });
  });
  return null;
}

/** Rows of the shop's own go: what stood below them counts again. */
export async function dropOwnRows(db: SorterDatabase, ids: readonly string[]): Promise<void> {
  await db.transaction('rw', [db.own, db.meta], async () => {
    await db.own.bulkDelete([...ids]);
    await db.meta.put({ key: OWN_VERSION, value: crypto.randomUUID() });
  });
}

/** The row counts no more, nor what hangs on it; it stays listed, and can be brought back. */
export const strikeOwn = (db: SorterDatabase, id: string, table: string): Promise<void> => put(db, id, table, null);

/** As it was learned. */
export async function restoreOwn(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.own, db.meta], async () => {
    await db.own.delete(id);
    await db.meta.put({ key: OWN_VERSION, value: crypto.randomUUID() });
  });
}
