'use client';
import { download, notice } from '@/ui';
import { useState } from 'react';
import { database, noteCopy, saving, type RestoreProblem } from '@/store';
import { plural, troubleWords } from '@/words';
import { filesWorker } from '@/workers';
import { seedDemo } from './seedDemo';

/** `cut`: the backup can be restored as far as it goes. */
type Said = { tone: 'sound' | 'doubt' | 'stop'; text: string; cut?: File };

function wrongWords(problem: RestoreProblem): string {
  switch (problem.kind) {
    case 'not-a-backup':
      return 'This file is not a backup of Sorter. Nothing was changed.';
    case 'newer':
      return 'This backup was written by a newer Sorter. Nothing was changed. Start the newer one to restore it.';
    case 'damaged':
      return `This backup is damaged: ${problem.file}, line ${problem.line}. Nothing was changed. Take another copy of it.`;
    case 'lines-missing':
      return `This backup is not whole: ${plural(problem.missing, 'line')} of ${problem.file} ${problem.missing === 1 ? 'is' : 'are'} missing. Nothing was changed. Take another copy of it.`;
    case 'gaps':
      return `This backup is not whole: the history of ${plural(problem.streams, 'ticket or order', 'tickets or orders')} has a hole. Nothing was changed. Take another copy of it, or restore it as far as it goes: what comes after a hole is kept aside and counts for nothing.`;
  }
}

/** What is done to the shop as a whole; what came of it is said in words. */
export function useWholeShop() {
  const [said, setSaid] = useState<Said | null>(null);
  const [busy, setBusy] = useState(false);
  const run = async (work: () => Promise<Said>) => {
    setBusy(true);
    try {
      const came = await work();
      setSaid(came);
      // The page that asked may be gone by now: what is not as it was is said anyway.
      if (came.tone === 'doubt') notice(came.text);
    } catch (error) {
      setSaid({
        tone: 'stop',
        text: `That did not work: ${troubleWords(error)}. What was saved is still there.`,
      });
    }
    setBusy(false);
  };
  return {
    said,
    busy,
    save: () =>
      run(async () => {
        const { backup, events } = await filesWorker.get().exportBackup();
        download('sorter-backup.zip', 'application/zip', backup);
        await saving.keep(() => noteCopy(database(), events));
        return {
          tone: 'sound',
          text: 'Everything is in sorter-backup.zip: tickets, orders, customers, settings, catalogue.',
        };
      }),
    restore: (file: File, gaps: 'refuse' | 'put-aside' = 'refuse') =>
      run(async () => {
        const result = await filesWorker.get().restore(file, gaps);
        if (!result.ok)
          return {
            tone: 'stop',
            text: wrongWords(result.error),
            ...(result.error.kind === 'gaps' ? { cut: file } : {}),
          };
        return result.aside === 0
          ? { tone: 'sound', text: 'Restored. The shop is as it was in the backup.' }
          : {
              tone: 'doubt',
              text: `Restored. ${plural(result.aside, 'row')} could not be read as they were: they are kept aside, and go into the next backup.`,
            };
      }),
    wipe: () =>
      run(async () => {
        await filesWorker.get().wipe();
        return { tone: 'sound', text: 'The shop is empty.' };
      }),
    demo: () =>
      run(async () => {
        await seedDemo(() => undefined);
        return { tone: 'sound', text: 'The demo shop is as it was.' };
      }),
  };
}
