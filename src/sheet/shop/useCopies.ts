'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useRef } from 'react';
import {
  askForFolder,
  chooseFolder,
  copyState,
  database,
  now,
  restBeforeCopy,
  saving,
  shopOpen,
  type CopyState,
} from '@/store';
import { notice } from '@/ui';
import { copyOutcomeWords, notSavedWords, troubleWords } from '@/words';
import { filesWorker } from '@/workers';

export const useCopyState = (): CopyState | undefined => useLiveQuery(() => copyState(database()), []);

/** Writes the copy into the chosen folder whenever the work rests. Once in each page. */
export function useCopies(zone: string): void {
  const state = useCopyState();
  const atOpening = useRef<number | null>(null);
  const changes = state?.changes ?? 0;
  const folder = state?.folder ?? null;
  useEffect(() => {
    if (!state) return;
    atOpening.current ??= state.changes;
    if (state.folder === null || state.changes === 0) return;
    const wait = restBeforeCopy(state, atOpening.current, now());
    const write = () =>
      void filesWorker
        .get()
        .copyIntoFolder(zone, false)
        .catch((error: unknown) =>
          notice(`No copy was written into “${folder}”: ${troubleWords(error)}. The earlier one is as it was.`),
        );
    const timer = setTimeout(write, wait);
    return () => clearTimeout(timer);
    // Every entry begins the rest anew; nothing else does.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [folder, changes, zone]);
}

export const canChooseFolder = (): boolean => shopOpen() === 'own' && typeof window.showDirectoryPicker === 'function';

/** Lets the person choose a folder, and writes the first copy into it. What came of it, in words; null when they chose none. */
export async function pickFolder(zone: string): Promise<string | null> {
  let folder: FileSystemDirectoryHandle | undefined;
  try {
    folder = await window.showDirectoryPicker?.({ id: 'sorter-copies', mode: 'readwrite' });
  } catch {
    // Closed without choosing.
    return null;
  }
  if (!folder) return null;
  const chosen = folder;
  try {
    await saving.keep(() => chooseFolder(database(), chosen));
  } catch (error) {
    return notSavedWords(error);
  }
  return writeNow(zone);
}

/** Writes a copy because somebody asked for it. */
export async function writeNow(zone: string): Promise<string> {
  try {
    if (!(await askForFolder(database()))) return copyOutcomeWords('not-allowed');
    return copyOutcomeWords(await filesWorker.get().copyIntoFolder(zone, true));
  } catch (error) {
    return `No copy was written: ${troubleWords(error)}. The earlier one is as it was.`;
  }
}
