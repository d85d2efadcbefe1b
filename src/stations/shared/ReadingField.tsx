'use client';
import { useState } from 'react';
import { Counter, Stopwatch } from './Counters';
import type { StationProps } from './StationProps';
import type { Limit } from '@/core/catalogue';
import { judgeReading } from '@/core/measure';
import { typedNumber } from '@/core/units';
import { Button, Field, Mark, Select } from '@/ui';
import { measuredWords, verdictWords } from '@/words';
import { readingNoted } from './readingNoted';

/** Higher than any tub, in millimetres. */
const HIGHEST_COLUMN = 2000;

/** A measured value, judged while it is typed; noting it also answers the check it belongs to. */
export function ReadingField({
  limit,
  ask,
  state,
  settings: { instruments },
}: Pick<StationProps, 'ask' | 'state' | 'settings'> & { limit: Limit }) {
  const noted = state.readings.find((reading) => reading.limitId === limit.id);
  const [text, setText] = useState('');
  const [ambient, setAmbient] = useState('');
  const last = state.readings.toSorted((a, b) => b.at.localeCompare(a.at))[0]?.instrument;
  const [chosen, setInstrument] = useState<string | null>(null);
  const instrument = chosen ?? (last !== undefined && instruments.includes(last) ? last : '');
  // What must be alike is typed as several values, and the largest is judged.
  const values =
    limit.law === 'spread'
      ? text
          .trim()
          .split(/[\s;]+/)
          .flatMap((one) => typedNumber(one) ?? [])
      : [];
  const value = limit.law === 'spread' ? (values.length ? Math.max(...values) : null) : typedNumber(text);
  const celsius = limit.law === 'ntc' ? typedNumber(ambient) : null;
  const columnMm = limit.law === 'column' ? typedNumber(ambient, 0, HIGHEST_COLUMN) : null;
  const beside = {
    ...(columnMm === null ? {} : { columnMm }),
    ...(limit.law === 'spread' ? { values: values.slice(0, 6) } : {}),
  };
  const verdict =
    value === null
      ? null
      : judgeReading(limit, { value, ...beside, ...(celsius === null ? {} : { ambientCelsius: celsius }) });
  const take = async (reading: { value: number | null }) => {
    const judged = reading.value === null ? judgeReading(limit, { open: true }) : verdict;
    const fact = readingNoted(limit, reading.value, judged, {
      ambientCelsius: celsius,
      ...beside,
      ...(instrument ? { instrument } : {}),
    });
    if (fact && (await ask(fact))) setText('');
  };
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void take({ value });
      }}
    >
      <Field
        label={limit.label}
        unit={limit.unit}
        inputMode="decimal"
        autoComplete="off"
        className="w-44"
        {...(limit.law === 'spread' ? { placeholder: '5.1 5.2 5.1' } : {})}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {limit.unit === 's' ? <Stopwatch label={limit.label} take={(seconds) => setText(String(seconds))} /> : null}
      {limit.unit === 'times' ? (
        <Counter label={limit.label} count={value ?? 0} take={(count) => setText(String(count))} />
      ) : null}
      {limit.law === 'ntc' || limit.law === 'column' ? (
        <Field
          label={limit.law === 'ntc' ? 'Measured at' : 'Height of the water'}
          unit={limit.law === 'ntc' ? '°C' : 'mm'}
          inputMode="decimal"
          autoComplete="off"
          className="w-28"
          value={ambient}
          onChange={(event) => setAmbient(event.target.value)}
        />
      ) : null}
      {instruments.length ? (
        <Select
          label="Instrument"
          className="w-52"
          value={instrument}
          onChange={setInstrument}
          empty="not said"
          options={instruments.map((name) => ({ value: name, text: name }))}
        />
      ) : null}
      <Button type="submit" disabled={!verdict || verdict.verdict === 'cannot-judge'}>
        Note it
      </Button>
      {limit.open ? <Button onClick={() => void take({ value: null })}>Open circuit</Button> : null}
      <p className="w-full text-[15px]" aria-live="polite">
        {verdict ? (
          <Mark tone={verdict.verdict === 'within' ? 'sound' : verdict.verdict === 'cannot-judge' ? 'soft' : 'stop'}>
            {verdictWords(verdict, limit.unit)}
          </Mark>
        ) : noted ? (
          <span className="text-soft">
            Noted: {measuredWords(noted)}. {verdictWords(noted, noted.unit)}.
          </span>
        ) : null}
      </p>
    </form>
  );
}
