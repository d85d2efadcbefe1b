'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, type ReactNode } from 'react';
import { database, standBy, tabHere, undertakingOf, type Undertaking } from '@/store';
import { notice } from '@/ui';
import { cutOffWords, underWayWords } from '@/words';

/** What puts another shop in the place of this one: whatever is typed meanwhile would be gone with it. */
export const replacesShop = ({ what }: Undertaking): boolean =>
  what === 'restore' || what === 'demo' || what === 'empty';

/** While another tab replaces the shop, this one stands by; afterwards it shows what is there then. */
export function StandBy({ children }: { children: ReactNode }) {
  const known = useLiveQuery(() => undertakingOf(database()), []);
  const other = known && known.tab !== tabHere() && replacesShop(known) ? known : null;
  const since = other?.since;
  useEffect(() => {
    if (!since) return;
    void standBy(database()).then(
      (cutOff) => {
        notice(cutOff ? cutOffWords(cutOff.what) : 'The shop was replaced in another tab. This is what it is now.');
      },
      () => undefined,
    );
  }, [since]);
  return (
    <>
      <div className="contents" inert={other !== null}>
        {children}
      </div>
      {other ? (
        <div className="fixed inset-0 z-40 flex items-start justify-center bg-ground/80 pt-[20vh]">
          <p role="alert" className="max-w-md border-2 border-ink bg-sheet p-4 text-lg">
            {underWayWords(other.what)}
          </p>
        </div>
      ) : null}
    </>
  );
}
