'use client';
import { useRef, useState } from 'react';
import type { RestoreProblem } from '@/store';
import { Ask, Button, Mark } from '@/ui';
import { filesWorker } from '@/workers';
import { seedDemo } from '../Boot';
import { download } from '../download';

const WRONG: Record<RestoreProblem['kind'], string> = {
  'not-a-backup': 'This file is not a backup of Sorter',
  newer: 'This backup was written by a newer Sorter',
  damaged: 'This backup is damaged',
};

const wrongWords = (problem: RestoreProblem): string =>
  `${WRONG[problem.kind]}${problem.kind === 'damaged' ? `: ${problem.file}, line ${problem.line}` : ''}. Nothing was changed.`;

/** Export, restore, wipe: everything in one file. */
export function BackupPanel() {
  const [asking, setAsking] = useState<'wipe' | 'restore' | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const [said, setSaid] = useState<{ tone: 'sound' | 'stop'; text: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const run = async (work: () => Promise<{ tone: 'sound' | 'stop'; text: string }>) => {
    setAsking(null);
    setBusy(true);
    try {
      setSaid(await work());
    } catch (error) {
      setSaid({
        tone: 'stop',
        text: `That did not work: ${error instanceof Error ? error.message : String(error)}. What was saved is still there.`,
      });
    }
    setBusy(false);
  };
  const save = () =>
    run(async () => {
      download('sorter-backup.zip', 'application/zip', await filesWorker.get().exportBackup());
      return {
        tone: 'sound',
        text: 'Everything is in sorter-backup.zip: tickets, orders, customers, settings, catalogue.',
      };
    });
  const restore = () =>
    run(async () => {
      if (!file) return { tone: 'stop', text: 'Choose a file first.' };
      const result = await filesWorker.get().restore(file);
      return result.ok
        ? { tone: 'sound', text: 'Restored. The shop is as it was in the backup.' }
        : { tone: 'stop', text: wrongWords(result.error) };
    });
  const wipe = () =>
    run(async () => {
      await filesWorker.get().wipe();
      return { tone: 'sound', text: 'The shop is empty.' };
    });
  const demo = () =>
    run(async () => {
      await seedDemo(() => undefined);
      return { tone: 'sound', text: 'The demo shop is back.' };
    });
  return (
    <section aria-label="Backup" className="mt-3 border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">Everything in one file</h2>
      <p className="max-w-prose text-[15px] text-soft">Your data live in this browser. Keep a copy elsewhere.</p>
      <div className="mt-2 flex flex-wrap gap-2.5">
        <Button tone="main" disabled={busy} onClick={() => void save()}>
          Export everything
        </Button>
        <Button disabled={busy} onClick={() => input.current?.click()}>
          Restore from a file
        </Button>
        <Button tone="stop" disabled={busy} onClick={() => setAsking('wipe')}>
          Empty the shop
        </Button>
        <Button disabled={busy} onClick={() => void demo()}>
          Load the demo shop
        </Button>
      </div>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        className="sr-only"
        tabIndex={-1}
        aria-label="Backup file"
        onChange={(event) => {
          setFile(event.target.files?.[0] ?? null);
          if (event.target.files?.[0]) setAsking('restore');
          event.target.value = '';
        }}
      />
      <p aria-live="polite" className="mt-2">
        {busy ? 'Working …' : said ? <Mark tone={said.tone}>{said.text}</Mark> : null}
      </p>
      <Ask
        open={asking === 'wipe'}
        onOpenChange={(open) => setAsking(open ? 'wipe' : null)}
        title="Empty the shop?"
        yes="Empty it"
        danger
        onYes={() => void wipe()}
      >
        All tickets, orders, customers, settings and the catalogue are removed from this browser. Export everything
        first if you may want it back.
      </Ask>
      <Ask
        open={asking === 'restore'}
        onOpenChange={(open) => setAsking(open ? 'restore' : null)}
        title={`Restore ${file?.name ?? ''}?`}
        yes="Replace everything"
        danger
        onYes={() => void restore()}
      >
        What is in the shop now is replaced by the backup’s content.
      </Ask>
    </section>
  );
}
