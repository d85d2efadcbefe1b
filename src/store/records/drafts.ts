import { now } from '../clock';
import { database } from '../database';

/*
 * What is being typed, by field: it outlives its tab, and goes when it was saved as what it is. The database answers a moment later, and a tab may die in that moment:
 * until then a copy lies where writing is done at once. What a dead tab left there is taken over at the next start.
 */

const PREFIX = 'sorter draft';
const copyKey = (key: string): string => `${PREFIX} ${database().name} ${key}`;

/** A browser may forbid or fill it: then there is no copy, and the database alone keeps the draft. */
function withCopies<T>(act: (copies: Storage) => T): T | null {
  try {
    return act(globalThis.localStorage);
  } catch {
    return null;
  }
}

const copyOf = (key: string): string | null => withCopies((copies) => copies.getItem(copyKey(key)));

function dropCopy(key: string, text: string): void {
  withCopies((copies) => copies.getItem(copyKey(key)) === text && copies.removeItem(copyKey(key)));
}

export const draftOf = async (key: string): Promise<string | null> =>
  copyOf(key) ?? (await database().drafts.get(key))?.text ?? null;

export async function putDraft(key: string, text: string): Promise<void> {
  withCopies((copies) => copies.setItem(copyKey(key), text));
  await database().drafts.put({ key, text, at: now() });
  dropCopy(key, text);
}

/** The text was saved: the draft goes, unless somebody has typed on meanwhile. */
export async function dropDraft(key: string, text: string): Promise<void> {
  const db = database();
  dropCopy(key, text);
  await db.transaction('rw', db.drafts, async () => {
    if ((await db.drafts.get(key))?.text === text) await db.drafts.delete(key);
  });
}

/** Takes over what a tab left that died while it typed. */
export async function takeOverDrafts(): Promise<void> {
  const prefix = copyKey('');
  const keys = withCopies((copies) => Object.keys(copies).filter((name) => name.startsWith(prefix))) ?? [];
  for (const name of keys) {
    const key = name.slice(prefix.length);
    const text = copyOf(key);
    if (text === null) continue;
    await database().drafts.put({ key, text, at: now() });
    dropCopy(key, text);
  }
}
