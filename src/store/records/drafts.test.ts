import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { database } from '../database';
import { draftOf, dropDraft, putDraft, takeOverDrafts } from './drafts';

/** As a browser's: names are its own properties. */
class Copies {
  [name: string]: unknown;
  getItem(name: string): string | null {
    return Object.hasOwn(this, name) ? String(this[name]) : null;
  }
  setItem(name: string, text: string): void {
    this[name] = text;
  }
  removeItem(name: string): void {
    delete this[name];
  }
}
const left = () => Object.keys(globalThis.localStorage);

describe('what is being typed', () => {
  beforeEach(async () => {
    vi.stubGlobal('localStorage', new Copies());
    await database().open();
    await database().drafts.clear();
  });

  it('is kept before the database has answered, and no copy stays once it has', async () => {
    const saved = putDraft('7 phone', '0555 1');
    expect(left()).toHaveLength(1);
    expect(await draftOf('7 phone')).toBe('0555 1');
    await saved;
    expect(left()).toEqual([]);
    expect(await draftOf('7 phone')).toBe('0555 1');
    await dropDraft('7 phone', '0555 1');
    expect(await draftOf('7 phone')).toBeNull();
  });

  it('of a tab that died in that moment is taken over at the next start, the newer text before the older', async () => {
    await putDraft('7 phone', '0555 1');
    const put = vi.spyOn(database().drafts, 'put').mockRejectedValueOnce(new Error('the tab dies'));
    await expect(putDraft('7 phone', '0555 12')).rejects.toThrow('dies');
    put.mockRestore();
    expect(await draftOf('7 phone')).toBe('0555 12');
    localStorage.setItem('sorter draft another shop 7 phone', 'not ours');
    await takeOverDrafts();
    expect(left()).toEqual(['sorter draft another shop 7 phone']);
    expect((await database().drafts.get('7 phone'))?.text).toBe('0555 12');
  });

  it('goes with its copy when it was saved as what it is, unless somebody typed on', async () => {
    const saved = putDraft('7 phone', '0555 1');
    await dropDraft('7 phone', '0555');
    expect(await draftOf('7 phone')).toBe('0555 1');
    await dropDraft('7 phone', '0555 1');
    await saved;
    expect(left()).toEqual([]);
  });

  it('is kept by the database alone where a browser forbids copies', async () => {
    vi.stubGlobal('localStorage', undefined);
    await putDraft('7 phone', '0555 1');
    expect(await draftOf('7 phone')).toBe('0555 1');
    await takeOverDrafts();
  });
});
