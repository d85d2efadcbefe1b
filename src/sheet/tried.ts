import type { Refusal } from '@/core/ticket';
import type { Result } from '@/core/units';
import { saving } from '@/store';
import { notice } from '@/ui';
import { notSavedWords, refusalWords } from '@/words';

/** Runs an act; says why it was refused or could not be saved. null: it was not done. */
export async function tried<T>(act: () => Promise<Result<T, Refusal>>): Promise<T | null> {
  try {
    // What the disk has no room for waits, and is decided anew when there is.
    const done = await saving.keep(act);
    if (done.ok) return done.value;
    notice(refusalWords(done.error));
  } catch (error) {
    notice(notSavedWords(error));
  }
  return null;
}
