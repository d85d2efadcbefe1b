import type { EditionRecord, SorterDatabase } from '../database';

/** Held while an edition is being written or waits to be applied: no other tab sweeps it then. */
export const IMPORT_LOCK = 'sorter-import';

/** One small transaction: from here on the new edition is the catalogue. The old one lies there until it is swept. */
export async function putToUse(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.editions, db.meta], async () => {
    await db.editions.update(id, { state: 'ready' });
    await db.meta.put({ key: 'activeEdition', value: id });
  });
}

export async function activate(db: SorterDatabase, id: string): Promise<void> {
  await putToUse(db, id);
  await sweep(db);
}

export async function dropEdition(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.editions, db.buckets], async () => {
    // A range of the primary key: one operation, however many buckets.
    await db.buckets.where('[edition+kind+bucket]').between([id], [id, []]).delete();
    await db.editions.delete(id);
  });
}

/** Removes every edition but the active one: old ones and those that a killed tab left unfinished. */
export async function sweep(db: SorterDatabase): Promise<void> {
  const active = await db.meta.get('activeEdition');
  for (const edition of await db.editions.toArray())
    if (edition.id !== active?.value) await dropEdition(db, edition.id);
}

export async function activeEdition(db: SorterDatabase): Promise<EditionRecord | null> {
  const active = await db.meta.get('activeEdition');
  return typeof active?.value === 'string' ? ((await db.editions.get(active.value)) ?? null) : null;
}
