'use client';
import dynamic from 'next/dynamic';
import { useEffect, useState, type ReactNode } from 'react';
import { database, now, openRecords, RECORD_VERSION, type ImportProgress } from '@/store';
import { useSettingsRow } from '@/store/react';
import { filesWorker } from '@/workers';
import { Progress, notice } from '@/ui';
import { plural } from '@/words';
import { seedDemo } from './shop/seedDemo';

const FirstOpening = dynamic(async () => (await import('./shop/FirstOpening')).FirstOpening, { ssr: false });

type State =
  | { kind: 'opening' }
  | { kind: 'seeding'; at: ImportProgress }
  | { kind: 'ready' }
  | { kind: 'newer'; found: number }
  | { kind: 'failed'; why: string };

/** Opens the database, brings it to today's version, and fills it with the demo shop at its first start. */
export function Boot({ demo, children }: { demo: boolean; children: ReactNode }) {
  const [state, setState] = useState<State>({ kind: 'opening' });
  useEffect(() => {
    let alive = true;
    const say = (next: State) => {
      if (alive) setState(next);
    };
    const start = async () => {
      try {
        const db = database();
        const outcome = await openRecords(db, now());
        if (outcome.kind === 'newer') return say(outcome);
        if (outcome.aside > 0)
          notice(
            `${plural(outcome.aside, 'row')} of an older version could not be read as they were: they are kept, and go into every backup.`,
          );
        const seeded = await db.meta.get('seeded');
        await navigator.locks.request('sorter-seed', async () => {
          if (demo && !seeded && (await db.events.count()) === 0 && (await db.editions.count()) === 0)
            await seedDemo((at) => say({ kind: 'seeding', at }));
        });
        void navigator.storage.persist?.();
        if ((await db.editions.count()) > 1) void filesWorker.get().sweep();
        say({ kind: 'ready' });
      } catch (error) {
        say({ kind: 'failed', why: error instanceof Error ? error.message : String(error) });
      }
    };
    void start();
    return () => {
      alive = false;
    };
  }, [demo]);

  if (state.kind === 'ready') return <Opened>{children}</Opened>;
  return (
    <main className="mx-auto flex max-w-md flex-col gap-3 p-6 pt-[20vh]">
      <h1 className="text-2xl font-bold">Sorter</h1>
      {state.kind === 'opening' ? <p className="text-soft">Opening the shop …</p> : null}
      {state.kind === 'seeding' ? (
        <Progress
          label={`Filling the demo shop: ${state.at.stage} ${state.at.file}`}
          done={state.at.done}
          total={state.at.total}
        />
      ) : null}
      {state.kind === 'newer' ? (
        <p role="alert">
          These data were written by a newer Sorter (version {state.found}; this one knows {RECORD_VERSION}). Nothing
          was changed. Start the newer version again.
        </p>
      ) : null}
      {state.kind === 'failed' ? (
        <p role="alert">
          The shop could not be opened: {state.why} What was saved is still there. Close other tabs of Sorter and
          reload; if the disk is full, make room first.
        </p>
      ) : null}
    </main>
  );
}

/** A shop that was never asked where it is, is asked first. */
function Opened({ children }: { children: ReactNode }) {
  const row = useSettingsRow();
  if (!row) return null;
  return row.stored ? <>{children}</> : <FirstOpening />;
}
