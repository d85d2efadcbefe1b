'use client';
import Link from 'next/link';
import { useState } from 'react';
import type { StockState } from '@/core/stock';
import { money, sum } from '@/core/units';
import { useMoment, useSettings, useStock } from '@/store/react';
import { Button, download, Field, notice } from '@/ui';
import { formatMoney, plural, troubleWords } from '@/words';
import { AddLot } from './AddLot';
import { Donors } from './Donors';
import { Keep } from './Keep';
import { ListedLots } from './ListedLots';
import { LotRow } from './LotRow';

/** What lies on the shelf and in the van, what should, and what a machine kept for its parts still gives. */
export function ShelfPage() {
  const settings = useSettings();
  const at = useMoment(settings);
  const lots = useStock(1);
  const past = useStock(0);
  const [sought, setSought] = useState('');
  const [isAdding, setAdding] = useState(false);
  if (!settings || !lots || !past) return <main className="p-6 text-soft">Opening the shelf …</main>;
  const shown = lots.filter((lot) => matches(lot, sought)).sort(byNumber);
  const value = money(sum(lots.map(({ units, unitCost }) => units * unitCost.amountMinor)), settings.currency);
  const takeOut = async () => {
    try {
      const { stockAsCsv } = await import('@/core/stock/stockCsv');
      download('shelf.csv', 'text/csv;charset=utf-8', stockAsCsv(lots, settings.zone));
    } catch (error) {
      notice(`No file was made: ${troubleWords(error)}.`);
    }
  };
  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">Shelf</h1>
      <section aria-label="On the shelf" className="mt-2 max-w-5xl border-t-[3px] border-ink pt-2.5">
        <div className="flex flex-wrap items-end justify-between gap-x-4 gap-y-2">
          <div>
            <h2 className="text-lg font-semibold">
              {plural(lots.length, 'lot')} on the shelf and in the van, {formatMoney(value)} at cost
            </h2>
            <p className="text-[15px] text-soft">
              Offers and the order plan take from here first what is free. What stays over from a pack comes here by
              itself.
            </p>
          </div>
          <Button tone={lots.length ? 'plain' : 'main'} onClick={() => setAdding(!isAdding)} aria-expanded={isAdding}>
            Put something here
          </Button>
        </div>
        {isAdding ? <AddLot settings={settings} onDone={() => setAdding(false)} /> : null}
        {lots.length + past.length === 0 ? <ListedLots /> : null}
        {lots.length > 5 ? (
          <Field
            label="Find a number, a description or a place"
            className="mt-3 max-w-sm"
            value={sought}
            autoComplete="off"
            onChange={(event) => setSought(event.target.value)}
          />
        ) : null}
        <ul className="mt-2">
          {shown.map((lot) => (
            <LotRow key={lot.stockId} lot={lot} at={at} />
          ))}
        </ul>
        {lots.length ? (
          <Button tone="quiet" onClick={() => void takeOut()}>
            The shelf as CSV file
          </Button>
        ) : null}
        {lots.length === 0 ? <p className="mt-2 text-soft">Nothing is noted here yet.</p> : null}
        {lots.length > 0 && shown.length === 0 ? <p className="mt-2 text-soft">Nothing here is called so.</p> : null}
      </section>
      <Keep settings={settings} at={at} />
      <Donors settings={settings} />
      {past.length ? (
        <details className="mt-6 max-w-5xl border-t border-line pt-2.5">
          <summary className="min-h-11 cursor-pointer content-center font-semibold text-soft">
            Used up: {plural(past.length, 'lot')}
          </summary>
          <ul>
            {[...past].sort(byNumber).map((lot) => (
              <LotRow key={lot.stockId} lot={lot} at={at} />
            ))}
          </ul>
        </details>
      ) : null}
      <p className="mt-6 text-[15px] text-soft">
        Parts that are to be bought are on the{' '}
        <Link href="/orders" className="underline underline-offset-4">
          Orders
        </Link>{' '}
        page.
      </p>
    </main>
  );
}

const byNumber = (a: StockState, b: StockState): number => (a.partNumber < b.partNumber ? -1 : 1);

const matches = ({ partNumber, description, place }: StockState, sought: string): boolean =>
  `${partNumber} ${description} ${place}`.toLowerCase().includes(sought.trim().toLowerCase());
