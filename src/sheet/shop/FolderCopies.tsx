'use client';
import { useState } from 'react';
import { chooseFolder, database, now, saving } from '@/store';
import { Button } from '@/ui';
import { copyAgeWords, notSavedWords } from '@/words';
import { canChooseFolder, pickFolder, useCopyState, writeNow } from './useCopies';

/** How old the last copy is; and, where the browser can, a folder into which one goes by itself after each day's work. */
export function FolderCopies({ zone }: { zone: string }) {
  const state = useCopyState();
  const [said, setSaid] = useState<string | null>(null);
  if (!state) return null;
  const stop = () =>
    saving
      .keep(() => chooseFolder(database(), null))
      .then(
        () => setSaid('No copy goes into a folder any more. Those that are there stay.'),
        (error: unknown) => setSaid(notSavedWords(error)),
      );
  return (
    <div className="mt-2 max-w-prose text-[15px]">
      <p>{copyAgeWords(state, now())}</p>
      {state.folder !== null ? (
        <p>
          A copy goes into the folder “{state.folder}” whenever the work rests, one file a day: sorter-(date).zip. Each
          holds everything, and is restored here.
        </p>
      ) : null}
      <div className="mt-1.5 flex flex-wrap gap-2.5">
        {state.folder !== null ? (
          <>
            <Button onClick={() => void writeNow(zone).then(setSaid)}>Write it now</Button>
            <Button tone="quiet" onClick={() => void stop()}>
              No folder any more
            </Button>
          </>
        ) : canChooseFolder() ? (
          <Button onClick={() => void pickFolder(zone).then((words) => words && setSaid(words))}>
            Keep a copy in a folder
          </Button>
        ) : null}
      </div>
      <p aria-live="polite">{said}</p>
    </div>
  );
}
