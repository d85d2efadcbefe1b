'use client';
import dynamic from 'next/dynamic';
import { useEffect, useState, type ReactNode } from 'react';
import { now, openRecords, openShop, RECORD_VERSION, type ImportProgress, type ShopKind } from '@/store';
import { useSettingsRow } from '@/store/react';
import { filesWorker } from '@/workers';
import { Progress, notice } from '@/ui';
import { plural } from '@/words';
import { applyTheme } from './ThemeSwitch';
import { seedDemo } from './shop/seedDemo';
import { chosenShop, rememberShop } from './shop/whichShop';

const FirstStart = dynamic(async () => (await import('./shop/FirstStart')).FirstStart, { ssr: false });
const SetUp = dynamic(async () => (await import('./shop/SetUp')).SetUp, { ssr: false });

type State =
  | { kind: 'opening' }
  | { kind: 'doors' }
  | { kind: 'seeding'; at: ImportProgress }
  | { kind: 'ready' }
  | { kind: 'newer'; found: number }
  | { kind: 'failed'; why: string };

/** The shop that this tab is in: as chosen, else the demo where Sorter was started with it, else the own one if there is one. */
async function shopToOpen(demo: boolean): Promise<ShopKind | null> {
  const chosen = chosenShop();
  if (chosen) return chosen;
  if (demo) return 'demo';
  const own = openShop('own');
  return (await own.settings.count()) + (await own.events.count()) > 0 ? 'own' : null;
}

/** Opens the shop's database, brings it to today's version, and fills the demo's at its first start. */
export function Boot({ demo, children }: { demo: boolean; children: ReactNode }) {
  const [state, setState] = useState<State>({ kind: 'opening' });
  useEffect(() => {
    let alive = true;
    const say = (next: State) => {
      if (alive) setState(next);
    };
    const start = async () => {
      applyTheme();
      try {
        const shop = await shopToOpen(demo);
        if (!shop) return say({ kind: 'doors' });
        rememberShop(shop);
        const db = openShop(shop);
        const outcome = await openRecords(db, now());
        if (outcome.kind === 'newer') return say(outcome);
        if (outcome.aside > 0)
          notice(
            `${plural(outcome.aside, 'row')} of an older version could not be read as they were: they are kept, and go into every backup.`,
          );
        if (shop === 'demo')
          await navigator.locks.request('sorter-seed', async () => {
            const seeded = await db.meta.get('seeded');
            if (!seeded && (await db.events.count()) === 0 && (await db.editions.count()) === 0)
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
  if (state.kind === 'doors') return <FirstStart />;
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

/** A shop that was never set up is set up first. */
function Opened({ children }: { children: ReactNode }) {
  const row = useSettingsRow();
  if (!row) return null;
  return row.stored ? <>{children}</> : <SetUp />;
}
