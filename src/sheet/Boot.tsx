'use client';
import dynamic from 'next/dynamic';
import { useEffect, useState, type ReactNode } from 'react';
import {
  isFilled,
  layersOf,
  now,
  openRecords,
  openShop,
  RECORD_VERSION,
  standBy,
  takeOverDrafts,
  tidyUp,
  undertakingOf,
  type ImportProgress,
  type ShopKind,
  type SorterDatabase,
  type Undertaking,
} from '@/store';
import { useSettingsRow } from '@/store/react';
import { Progress, notice } from '@/ui';
import { cutOffWords, plural, troubleWords, underWayWords } from '@/words';
import { applyTheme } from './ThemeSwitch';
import { chosenShop, rememberShop } from './shop/whichShop';
import { replacesShop, StandBy } from './StandBy';

const FirstStart = dynamic(async () => (await import('./shop/FirstStart')).FirstStart, { ssr: false });
const SetUp = dynamic(async () => (await import('./shop/SetUp')).SetUp, { ssr: false });

type State =
  | { kind: 'opening' }
  | { kind: 'doors' }
  | { kind: 'seeding'; at: ImportProgress }
  | { kind: 'ready' }
  /** An older Sorter in another tab keeps the data to itself. */
  | { kind: 'blocked' }
  /** A newer Sorter in another tab took them over. */
  | { kind: 'outdated' }
  | { kind: 'standing-by'; what: Undertaking['what'] }
  | { kind: 'newer'; found: number }
  | { kind: 'failed'; why: string };

type Say = (next: State) => void;

function open(shop: ShopKind, say: Say): SorterDatabase {
  const db = openShop(shop);
  db.on('blocked', () => say({ kind: 'blocked' }));
  db.on('versionchange', () => {
    db.close();
    say({ kind: 'outdated' });
  });
  return db;
}

/** The shop that this tab is in: as chosen, else the demo where Sorter was started with it, else the own one if there is one. */
async function shopToOpen(demo: boolean, say: Say): Promise<ShopKind | null> {
  const chosen = chosenShop();
  if (chosen) return chosen;
  if (demo) return 'demo';
  const own = open('own', say);
  return (await own.settings.count()) + (await own.events.count()) > 0 ? 'own' : null;
}

/** Waits for another tab that replaces the shop, and tidies what a killed one left. */
async function settle(db: SorterDatabase, say: Say): Promise<void> {
  const known = await undertakingOf(db);
  const leftovers = known !== null || (await db.editions.count()) > (await layersOf(db)).length;
  let cutOff = leftovers ? await tidyUp(db) : null;
  const still = await undertakingOf(db);
  if (still && replacesShop(still)) {
    say({ kind: 'standing-by', what: still.what });
    cutOff = await standBy(db);
  }
  if (cutOff) notice(cutOffWords(cutOff.what));
}

/** Opens the shop's database, brings it to today's version, and fills the demo's at its first start. */
export function Boot({ demo, children }: { demo: boolean; children: ReactNode }) {
  const [state, setState] = useState<State>({ kind: 'opening' });
  useEffect(() => {
    let alive = true;
    const say: Say = (next) => {
      if (alive) setState(next);
    };
    const start = async () => {
      applyTheme();
      try {
        const shop = await shopToOpen(demo, say);
        if (!shop) return say({ kind: 'doors' });
        rememberShop(shop);
        const db = open(shop, say);
        await settle(db, say);
        const outcome = await openRecords(db, now());
        if (outcome.kind === 'newer') return say(outcome);
        if (outcome.aside > 0)
          notice(
            `${plural(outcome.aside, 'row')} of an older version could not be read as they were: they are kept, and go into every backup.`,
          );
        if (shop === 'demo' && !(await isFilled(db))) {
          const { seedDemo } = await import('./shop/seedDemo');
          await seedDemo((at) => say({ kind: 'seeding', at }), true);
        }
        void navigator.storage.persist?.();
        void takeOverDrafts();
        say({ kind: 'ready' });
      } catch (error) {
        say({ kind: 'failed', why: troubleWords(error) });
      }
    };
    void start();
    return () => {
      alive = false;
    };
  }, [demo]);

  if (state.kind === 'ready')
    return (
      <StandBy>
        <Opened>{children}</Opened>
      </StandBy>
    );
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
      {state.kind === 'blocked' ? (
        <p role="status">
          Another tab with an earlier Sorter holds this shop’s data, and they are to be brought up to date. Close that
          tab, or reload it: this one then goes on by itself. Nothing is lost.
        </p>
      ) : null}
      {state.kind === 'outdated' ? (
        <p role="alert">
          A newer Sorter was opened in another tab and took over this shop’s data; this tab has stopped so that it
          could. What was saved is there. Reload this page to go on.
        </p>
      ) : null}
      {state.kind === 'standing-by' ? <p role="status">{underWayWords(state.what)}</p> : null}
      {state.kind === 'newer' ? (
        <p role="alert">
          These data were written by a newer Sorter (version {state.found}; this one knows {RECORD_VERSION}). Nothing
          was changed. Start the newer version again.
        </p>
      ) : null}
      {state.kind === 'failed' ? (
        <p role="alert">
          The shop could not be opened: {state.why}. What was saved is still there. Close other tabs of Sorter and
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
