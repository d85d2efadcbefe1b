import { localDateOf } from '@/core/units';
import { now } from '../clock';
import type { SorterDatabase } from '../database';
import { undertakingOf } from '../whole/undertaking';
import { exportBackup } from './backup';
import { copyState, folderOf, noteCopy } from './copies';

/** A backup that is handed to the person, and noted as a copy once it is. */
export async function backupToHandOut(db: SorterDatabase): Promise<{ backup: Blob; events: number }> {
  // Counted before: what is added meanwhile may be in it, but is not promised to be.
  const events = await db.events.count();
  return { backup: await exportBackup(db), events };
}

export type FolderOutcome = 'written' | 'nothing-new' | 'no-folder' | 'not-allowed' | 'busy';

/**
 * Writes the day's copy into the folder that the person chose, in the place of an earlier one of the same day; one tab at a time. `asked`: also when nothing is
 * new. Throws when the folder is gone or full: the earlier copy is then as it was.
 */
export async function copyIntoFolder(db: SorterDatabase, zone: string, asked: boolean): Promise<FolderOutcome> {
  const folder = await folderOf(db);
  if (!folder) return 'no-folder';
  if (!asked && (await copyState(db)).changes === 0) return 'nothing-new';
  const permission = await folder.queryPermission?.({ mode: 'readwrite' });
  if (permission !== undefined && permission !== 'granted') return 'not-allowed';
  return navigator.locks.request(`${db.name}-copy`, { ifAvailable: true }, async (lock): Promise<FolderOutcome> => {
    // A shop that is being replaced is not copied half.
    if (!lock || (await undertakingOf(db))) return 'busy';
    const { backup, events } = await backupToHandOut(db);
    const file = await folder.getFileHandle(`sorter-${localDateOf(now(), zone)}.zip`, { create: true });
    // Written beside and put in its place at the end, by the browser.
    const writer = await file.createWritable();
    await writer.write(backup);
    await writer.close();
    await noteCopy(db, events);
    return 'written';
  });
}
