'use client';
import { useRef, useState } from 'react';
import { database, hasOwnData } from '@/store';
import { Ask, Button, Mark } from '@/ui';
import { useWholeShop } from './useWholeShop';

/** Export, restore, wipe: everything in one file. */
export function BackupPanel() {
  const [asking, setAsking] = useState<'wipe' | 'restore' | 'demo' | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const { said, busy, save, restore, wipe, demo } = useWholeShop();
  const input = useRef<HTMLInputElement>(null);
  const sure = (work: () => Promise<void>) => () => {
    setAsking(null);
    void work();
  };
  const askForDemo = async () => {
    if (await hasOwnData(database())) setAsking('demo');
    else await demo();
  };
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
        <Button disabled={busy} onClick={() => void askForDemo()}>
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
        onYes={sure(wipe)}
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
        onYes={sure(() => (file ? restore(file) : Promise.resolve()))}
      >
        What is in the shop now is replaced by the backup’s content.
      </Ask>
      <Ask
        open={asking === 'demo'}
        onOpenChange={(open) => setAsking(open ? 'demo' : null)}
        title="Put the demo shop in place of this one?"
        yes="Replace everything by the demo"
        danger
        onYes={sure(demo)}
      >
        All tickets, orders, customers, figures and the catalogue in this browser are replaced by the demo’s; nothing is
        mixed. Export everything first if you may want it back.
      </Ask>
    </section>
  );
}
