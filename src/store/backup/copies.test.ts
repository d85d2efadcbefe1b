import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { asInstant } from '@/core/units';
import { dexieStore } from '../records/act';
import { openTicket } from '../records/acts';
import { chooseFolder, copyState, isCopyDue, keepQuiet, noteCopy, restBeforeCopy, type CopyState } from './copies';
import { copyIntoFolder } from './folderCopy';
import { restoreBackup } from './restore';

const at = (day: number) => asInstant(`2026-11-${String(day).padStart(2, '0')}T18:00:00.000Z`);
const state = (change: Partial<CopyState>): CopyState => ({
  last: null,
  changes: 0,
  quietUntil: null,
  folder: null,
  ...change,
});

/** A folder as the browser hands one out, in memory. */
function folder(permission = 'granted') {
  const files = new Map<string, Blob>();
  const handle = {
    name: 'Copies',
    files,
    queryPermission: async () => permission,
    getFileHandle: async (name: string) => ({
      createWritable: async () => {
        let written = new Blob();
        return {
          write: async (blob: Blob) => void (written = blob),
          close: async () => void files.set(name, written),
        };
      },
    }),
  };
  return handle as typeof handle & FileSystemDirectoryHandle;
}

describe('a reminder to take a copy', () => {
  it('comes when the shop has begun in earnest, when the copy is old, or when much has changed; and not before', () => {
    expect(isCopyDue(state({ changes: 24 }), at(20))).toBe(false);
    expect(isCopyDue(state({ changes: 25 }), at(20))).toBe(true);
    expect(isCopyDue(state({ last: at(14), changes: 1 }), at(20))).toBe(false);
    expect(isCopyDue(state({ last: at(13), changes: 1 }), at(20))).toBe(true);
    expect(isCopyDue(state({ last: at(1), changes: 0 }), at(28))).toBe(false);
    expect(isCopyDue(state({ last: at(20), changes: 250 }), at(20))).toBe(true);
  });
  it('and a copy by itself come after twenty minutes of rest, or soon for what an earlier day left', () => {
    expect(restBeforeCopy(state({ last: at(19), changes: 4 }), 4, at(20))).toBe(60_000);
    expect(restBeforeCopy(state({ last: at(19), changes: 5 }), 4, at(20))).toBe(1_200_000);
    expect(restBeforeCopy(state({ last: at(20), changes: 4 }), 4, at(20))).toBe(1_200_000);
  });
  it('is quiet when it was told to be, and never comes for nothing', () => {
    fc.assert(
      fc.property(
        fc.nat(1000),
        fc.integer({ min: 1, max: 28 }),
        fc.integer({ min: 1, max: 28 }),
        (changes, last, today) => {
          expect(isCopyDue(state({ changes, last: at(last), quietUntil: at(28) }), at(Math.min(today, 27)))).toBe(
            false,
          );
          expect(isCopyDue(state({ changes: 0, last: at(last) }), at(today))).toBe(false);
        },
      ),
    );
  });
});

describe('the copy in a folder', () => {
  it('is a whole backup, one file a day, noted, and not written again for nothing', async () => {
    const db = freshDatabase();
    const store = dexieStore(db);
    await openTicket(store, []);
    expect(await copyIntoFolder(db, 'UTC', false)).toBe('no-folder');
    const chosen = folder();
    // The database in memory cannot hold a folder's handle: it is kept beside.
    const real = db.meta.get.bind(db.meta);
    vi.spyOn(db.meta, 'get').mockImplementation(((key: string) =>
      key === 'copyFolder' ? Promise.resolve({ key, value: chosen }) : real(key)) as never);
    expect(await copyState(db)).toMatchObject({ last: null, changes: 1, folder: 'Copies' });
    expect(await copyIntoFolder(db, 'UTC', false)).toBe('written');
    expect(await copyState(db)).toMatchObject({ changes: 0 });
    expect(await copyIntoFolder(db, 'UTC', false)).toBe('nothing-new');
    await openTicket(store, []);
    expect((await copyState(db)).changes).toBe(1);
    expect(await copyIntoFolder(db, 'UTC', false)).toBe('written');
    expect([...chosen.files.keys()]).toHaveLength(1);
    const other = freshDatabase();
    const [copy = new Blob()] = chosen.files.values();
    expect(await restoreBackup(other, copy)).toMatchObject({ ok: true });
    expect(await other.events.count()).toBe(2);
    // What was restored is its own copy.
    expect((await copyState(other)).changes).toBe(0);
  });
  it('waits while the browser does not allow it, and while a shop is replaced', async () => {
    const db = freshDatabase();
    await openTicket(dexieStore(db), []);
    const real = db.meta.get.bind(db.meta);
    let chosen = folder('prompt');
    vi.spyOn(db.meta, 'get').mockImplementation(((key: string) =>
      key === 'copyFolder' ? Promise.resolve({ key, value: chosen }) : real(key)) as never);
    expect(await copyIntoFolder(db, 'UTC', false)).toBe('not-allowed');
    chosen = folder();
    await db.meta.put({ key: 'undertaking', value: { what: 'restore', tab: 'other', since: at(1) } });
    expect(await copyIntoFolder(db, 'UTC', true)).toBe('busy');
    expect(chosen.files.size).toBe(0);
  });
  it('is forgotten when no folder is wanted; the reminder is quiet for days when told so', async () => {
    const db = freshDatabase();
    await noteCopy(db, 0);
    await keepQuiet(db);
    await chooseFolder(db, null);
    const known = await copyState(db);
    expect(known.folder).toBeNull();
    expect(Date.parse(known.quietUntil ?? '') - Date.now()).toBeGreaterThan(2 * 86_400_000);
  });
});
