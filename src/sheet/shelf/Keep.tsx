'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { money, sum } from '@/core/units';
import { now } from '@/store';
import { useStock, type Moment } from '@/store/react';
import { Button, Mark, NumberText, Why } from '@/ui';
import { formatDate, formatMoney, formatPercent, keepBecause, plural, troubleWords } from '@/words';
import { shelfWorker, type ShelfView } from '@/workers';

type Asked =
  { kind: 'idle' } | { kind: 'running' } | { kind: 'found'; view: ShelfView } | { kind: 'failed'; why: string };

/** What to keep on the shelf, and why; and what lies there for nothing. */
export function Keep({ settings, at }: { settings: Settings; at: Moment }) {
  const lots = useStock(1) ?? [];
  const [asked, setAsked] = useState<Asked>({ kind: 'idle' });
  const ask = async () => {
    setAsked({ kind: 'running' });
    try {
      setAsked({ kind: 'found', view: await shelfWorker.get().view(now()) });
    } catch (error) {
      setAsked({ kind: 'failed', why: troubleWords(error) });
    }
  };
  const view = asked.kind === 'found' ? asked.view : null;
  const missing = view?.keep.filter(({ packs }) => packs > 0) ?? [];
  const kept = view?.keep.filter(({ packs, level }) => packs === 0 && level.level > 0) ?? [];
  const dead = view?.dead.flatMap((one) => {
    const lot = lots.find(({ stockId }) => stockId === one.stockId);
    return lot ? [{ ...one, lot }] : [];
  });
  return (
    <section aria-label="What to keep" className="mt-6 max-w-5xl border-t border-line pt-2.5">
      <h2 className="text-lg font-semibold">What to keep here</h2>
      <p className="mb-2 max-w-prose text-[15px] text-soft">
        What was fitted, what the open machines may take, how long a part is on its way, and what a machine that waits
        costs, against what a piece costs that lies here ({formatPercent(settings.holdingBasisPoints / 10_000)} of its
        price in a year).
      </p>
      {asked.kind === 'running' ? (
        <p role="status" className="flex items-center gap-3">
          Looking at every open machine …{' '}
          <Button
            onClick={() => {
              shelfWorker.stop();
              setAsked({ kind: 'idle' });
            }}
          >
            Stop
          </Button>
        </p>
      ) : (
        <Button onClick={() => void ask()}>{view ? 'Work it out again' : 'Work out what to keep'}</Button>
      )}
      {asked.kind === 'failed' ? (
        <p role="alert" className="mt-2 border-l-4 border-stop bg-stop-wash p-3">
          It could not be worked out: {asked.why}. Nothing was changed.
        </p>
      ) : null}
      {view ? (
        <>
          <p className="mt-2 text-[15px] text-soft">
            From {plural(view.closed, 'closed ticket')} since {formatDate(view.from, at.today)} and{' '}
            {plural(view.guessed, 'open machine')} whose parts are not agreed on yet; {formatPercent(view.yes)} of
            offers get a yes.
          </p>
          <Rows
            title={missing.length ? 'Missing: the order plan buys it where that pays' : 'Nothing is missing'}
            rows={missing}
          />
          {kept.length ? <Rows title="Enough is here" rows={kept} /> : null}
          {dead?.length ? (
            <section aria-label="Lies here for nothing" className="mt-3">
              <h3 className="font-semibold">
                Lies here for nothing:{' '}
                {formatMoney(money(sum(dead.map(({ value }) => value.amountMinor)), settings.currency))}
              </h3>
              <ul>
                {dead.map(({ lot, pieces, value }) => (
                  <li key={lot.stockId} className="border-t border-line py-1.5 text-[15px]">
                    {pieces} × <NumberText text={lot.partNumber} className="font-semibold" /> {lot.description}:
                    untouched for a year, and hardly asked for in the next one; {formatMoney(value)} at cost.
                  </li>
                ))}
              </ul>
            </section>
          ) : null}
        </>
      ) : null}
    </section>
  );
}

function Rows({ title, rows }: { title: string; rows: ShelfView['keep'] }) {
  return (
    <section aria-label={title} className="mt-3">
      <h3 className="font-semibold">{title}</h3>
      <ul>
        {rows.map((row) => (
          <li
            key={row.partId}
            className="flex flex-wrap items-baseline justify-between gap-x-4 border-t border-line py-1.5 text-[15px]"
          >
            <span className="min-w-0 flex-1 basis-72">
              <NumberText text={row.partNumber} className="font-semibold" /> {row.description}
              <span className="block text-soft">
                {formatMoney(row.unitCost)} from {row.supplierName}
                {row.packSize > 1 ? `, ${row.packSize} in a pack` : ''} · {row.free} free
                {row.coming ? `, ${row.coming} on the way` : ''}
              </span>
            </span>
            <span className="flex flex-wrap items-center gap-3">
              <Why label={`Keep ${row.level.level} of ${row.partNumber}`} because={keepBecause(row)}>
                keep {row.level.level}
              </Why>
              {row.packs ? (
                <Mark tone="doubt">{plural(row.packs, row.packSize > 1 ? 'pack' : 'piece')} missing</Mark>
              ) : null}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
