'use client';
import { notice } from '@/ui';
import { useState } from 'react';
import type { RestoreProblem } from '@/store';
import { plural, troubleWords } from '@/words';
import { filesWorker } from '@/workers';
import { download } from '../download';
import { seedDemo } from './seedDemo';

type Said = { tone: 'sound' | 'doubt' | 'stop'; text: string };

const WRONG: Record<RestoreProblem['kind'], string> = {
  'not-a-backup': 'This file is not a backup of Sorter',
  newer: 'This backup was written by a newer Sorter',
  damaged: 'This backup is damaged',
};

const wrongWords = (problem: RestoreProblem): string =>
  `${WRONG[problem.kind]}${problem.kind === 'damaged' ? `: ${problem.file}, line ${problem.line}` : ''}. Nothing was changed.`;

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
        download('sorter-backup.zip', 'application/zip', await filesWorker.get().exportBackup());
        return {
          tone: 'sound',
          text: 'Everything is in sorter-backup.zip: tickets, orders, customers, settings, catalogue.',
        };
      }),
    restore: (file: File) =>
      run(async () => {
        const result = await filesWorker.get().restore(file);
        if (!result.ok) return { tone: 'stop', text: wrongWords(result.error) };
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
