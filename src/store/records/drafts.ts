import { now } from '../clock';
import { database } from '../database';

/** What is being typed, by field: it outlives its tab, and goes when it was saved as what it is. */

export const draftOf = async (key: string): Promise<string | null> => (await database().drafts.get(key))?.text ?? null;

export async function putDraft(key: string, text: string): Promise<void> {
  await database().drafts.put({ key, text, at: now() });
}

/** The text was saved: the draft goes, unless somebody has typed on meanwhile. */
export async function dropDraft(key: string, text: string): Promise<void> {
  const db = database();
  await db.transaction('rw', db.drafts, async () => {
    if ((await db.drafts.get(key))?.text === text) await db.drafts.delete(key);
  });
}
