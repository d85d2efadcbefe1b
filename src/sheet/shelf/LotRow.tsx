'use client';
import Link from 'next/link';
import { useState } from 'react';
import { changeLot, type LotChange, type StockState } from '@/core/stock';
import { localDateOf } from '@/core/units';
import { eventStore, onLot } from '@/store';
import type { Moment } from '@/store/react';
import { Button, Field, Mark, NumberText } from '@/ui';
import { formatDate, formatMoney, movementWords, originWords, plural, usedWords } from '@/words';
import { tried } from '../tried';

/** One lot: what is there, whose it is, and what may be done with it. */
export function LotRow({ lot, at }: { lot: StockState; at: Moment }) {
  const [counted, setCounted] = useState('');
  const [place, setPlace] = useState(lot.place);
  const [wrong, setWrong] = useState<string | null>(null);
  const change = (what: LotChange) => tried(() => onLot(eventStore(), lot.stockId, (now) => changeLot(now, what)));
  const count = async () => {
    const units = Number(counted);
    if (counted.trim() === '' || !Number.isInteger(units) || units < 0 || units > 100_000) {
      setWrong('A whole number of pieces, from 0.');
      return;
    }
    if (await change({ type: 'counted', units })) setCounted('');
  };
  const isDefect = lot.works === false;
  return (
    <li className="border-t border-line py-1.5 text-[15px]">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
        <span className="min-w-0 flex-1 basis-72">
          <NumberText text={lot.partNumber} className="font-semibold" /> {lot.description}
          <span className="block text-soft">
            {lot.place || 'no place noted'} · {formatMoney(lot.unitCost)} each · {originWords(lot)},{' '}
            {formatDate(localDateOf(lot.since, at.zone), at.today)}
          </span>
        </span>
        <span className="flex flex-wrap items-center gap-2">
          {lot.used ? <Mark tone={isDefect ? 'stop' : lot.works ? 'sound' : 'doubt'}>{usedWords(lot)}</Mark> : null}
          {lot.reserved.map(({ ticketId, number, requirementId, units }) => (
            <Link
              key={requirementId}
              href={`/ticket/${ticketId}`}
              className="min-h-11 content-center underline underline-offset-4"
            >
              {units} kept for ticket {number}
            </Link>
          ))}
          <strong className="whitespace-nowrap">
            {lot.free} of {plural(lot.units, 'piece')} free
          </strong>
        </span>
      </div>
      <details>
        <summary className="min-h-11 w-fit cursor-pointer content-center">Count, move, write off, its story</summary>
        <div className="flex flex-wrap items-end gap-x-6 gap-y-3 pb-3">
          <form
            className="flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void count();
            }}
          >
            <Field
              label={`Pieces of ${lot.partNumber} that lie there`}
              className="w-56"
              inputMode="numeric"
              autoComplete="off"
              placeholder={String(lot.units)}
              value={counted}
              onChange={(event) => {
                setCounted(event.target.value);
                setWrong(null);
              }}
            />
            <Button type="submit">Counted</Button>
          </form>
          <form
            className="flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void change({ type: 'moved', place: place.trim() });
            }}
          >
            <Field
              label={`Where ${lot.partNumber} lies`}
              className="w-40"
              autoComplete="off"
              maxLength={60}
              value={place}
              onChange={(event) => setPlace(event.target.value)}
            />
            <Button type="submit">It lies there</Button>
          </form>
          {lot.used && lot.units > 0 ? (
            <span className="flex flex-wrap gap-2">
              <Button onClick={() => void change({ type: 'tried', works: true })}>Tried: it works</Button>
              <Button onClick={() => void change({ type: 'tried', works: false })}>Tried: it does not</Button>
            </span>
          ) : null}
          {lot.units > 0 ? (
            <span className="flex flex-wrap gap-2">
              <Button onClick={() => void change({ type: 'written-off', units: 1, why: 'sold' })}>One sold</Button>
              <Button
                tone="stop"
                onClick={() => void change({ type: 'written-off', units: 1, why: isDefect ? 'scrapped' : 'broken' })}
              >
                {isDefect ? 'Scrap one' : 'One is broken'}
              </Button>
            </span>
          ) : null}
          {wrong ? (
            <p role="alert" className="w-full border-l-4 border-stop pl-3">
              {wrong}
            </p>
          ) : null}
          <ol className="w-full text-soft">
            {lot.movements.map((movement, index) => (
              <li key={index}>
                {formatDate(localDateOf(movement.at, at.zone), at.today)}: {movementWords(movement)}
              </li>
            ))}
          </ol>
        </div>
      </details>
    </li>
  );
}
