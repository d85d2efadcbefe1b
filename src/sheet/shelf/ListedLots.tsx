'use client';
import { eventStore, putInStock } from '@/store';
import { useLayersKey } from '@/store/react';
import { Button, notice, useNewest } from '@/ui';
import { plural } from '@/words';
import { shelfWorker } from '@/workers';
import { tried } from '../tried';

/** What a loaded stock list says lies here: taken over once, it is counted from then on. */
export function ListedLots() {
  const key = useLayersKey();
  const { answer: lots } = useNewest(key, () => shelfWorker.get().listedStock());
  if (!lots?.length) return null;
  const take = async () => {
    const done = await tried(() => putInStock(eventStore(), lots));
    if (done) notice(`On the shelf: ${plural(done.stocks.length, 'lot')}. Correct each where it is counted.`);
  };
  return (
    <p className="mt-3 flex flex-wrap items-center gap-3 border-l-4 border-edge bg-well p-3">
      <span className="flex-1">
        A stock list is loaded: {plural(lots.length, 'number')}. Offers and the plan take its word until you take it
        over; from then on what is counted here holds.
      </span>
      <Button onClick={() => void take()}>Take it over</Button>
    </p>
  );
}
