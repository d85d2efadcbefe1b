'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { TEXT_LIMITS } from '@/core/ticket';
import { fromMajor, toMajor, typedNumber } from '@/core/units';
import { eventStore, now, putInStock } from '@/store';
import { Button, Field, Mark, notice, Select, useNewest } from '@/ui';
import { formatMoney, plural, symbolOf, troubleWords } from '@/words';
import { shelfWorker, type ListedNumber } from '@/workers';
import { tried } from '../tried';

/** A lot put there by hand: its number, how many, where, and what one cost. */
export function AddLot({ settings, onDone }: { settings: Settings; onDone: () => void }) {
  const [number, setNumber] = useState('');
  const [description, setDescription] = useState('');
  const [units, setUnits] = useState('1');
  const [place, setPlace] = useState('');
  const [cost, setCost] = useState('');
  const [of, setOf] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const text = number.trim();
  const found = useNewest(text || null, () => shelfWorker.get().named(text, now()));
  const listed: ListedNumber[] = (found.of === text ? found.answer : null) ?? [];
  const chosen = listed.find(({ partId }) => partId === of) ?? listed[0] ?? null;
  const add = async () => {
    const pieces = Number(units);
    // Who is quicker than the look-up waits for it: else a listed number would lie there as one that nobody knows.
    const known = text !== '' && found.of !== text ? await shelfWorker.get().named(text, now()) : listed;
    const chosen = known.find(({ partId }) => partId === of) ?? known[0] ?? null;
    const paid = cost.trim() === '' ? (chosen?.unitCost ?? null) : typedNumber(cost, 0, 1_000_000);
    if (text === '') setWrong('It needs a number: as it stands on the part or on its box.');
    else if (!Number.isInteger(pieces) || pieces < 1 || pieces > 100_000) setWrong('A whole number of pieces, from 1.');
    else if (paid === null) setWrong('What did one cost? Nobody lists a price for it.');
    else {
      const done = await tried(() =>
        putInStock(eventStore(), [
          {
            partId: chosen?.partId ?? null,
            partNumber: chosen?.partNumber ?? text,
            description: chosen?.description ?? description.trim(),
            place: place.trim(),
            units: pieces,
            unitCost: typeof paid === 'number' ? fromMajor(paid, settings.currency) : paid,
            used: false,
            origin: { kind: 'by-hand' },
          },
        ]),
      );
      if (!done) return;
      notice(`On the shelf: ${plural(pieces, 'piece')} of ${chosen?.partNumber ?? text}.`);
      onDone();
    }
  };
  return (
    <form
      aria-label="Put something on the shelf"
      className="mt-3 flex flex-wrap items-end gap-3 border-[1.5px] border-edge bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault();
        add().catch((error: unknown) => notice(`It was not put there: ${troubleWords(error)}.`));
      }}
    >
      <Field
        label="Number on the part or its box"
        className="w-64"
        mono
        autoComplete="off"
        spellCheck={false}
        maxLength={TEXT_LIMITS.size}
        value={number}
        onChange={(event) => {
          setNumber(event.target.value);
          setWrong(null);
        }}
      />
      {listed.length > 1 ? (
        <Select
          label="Several parts have this number"
          className="w-72"
          value={chosen?.partId ?? ''}
          empty="choose"
          options={listed.map(({ partId, partNumber, description }) => ({
            value: partId,
            text: `${partNumber} ${description}`,
          }))}
          onChange={setOf}
        />
      ) : null}
      {text !== '' && found.of === text && listed.length === 0 ? (
        <Field
          label="Nobody lists it: what is it?"
          className="w-64"
          autoComplete="off"
          maxLength={TEXT_LIMITS.name}
          value={description}
          onChange={(event) => setDescription(event.target.value)}
        />
      ) : null}
      <Field
        label="Pieces"
        className="w-24"
        inputMode="numeric"
        autoComplete="off"
        value={units}
        onChange={(event) => {
          setUnits(event.target.value);
          setWrong(null);
        }}
      />
      <Field
        label="Where it lies"
        className="w-40"
        autoComplete="off"
        maxLength={60}
        value={place}
        onChange={(event) => setPlace(event.target.value)}
      />
      <Field
        label="What one cost"
        className="w-40"
        inputMode="decimal"
        autoComplete="off"
        unit={symbolOf(settings.currency)}
        placeholder={chosen?.unitCost ? toMajor(chosen.unitCost).toFixed(2) : ''}
        value={cost}
        onChange={(event) => {
          setCost(event.target.value);
          setWrong(null);
        }}
      />
      <Button type="submit" tone="main">
        Put it here
      </Button>
      {chosen ? (
        <Mark tone="sound">
          {chosen.description}
          {chosen.unitCost ? `, sold at ${formatMoney(chosen.unitCost)}` : ''}
        </Mark>
      ) : null}
      {wrong ? (
        <p role="alert" className="w-full border-l-4 border-stop pl-3">
          {wrong}
        </p>
      ) : null}
    </form>
  );
}
