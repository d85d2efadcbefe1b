'use client';
import { useState } from 'react';
import type { Settings, Weighed } from '@/core/case';
import { currencyDecimals, guessMoney, toMajor } from '@/core/units';
import { correctOwn, database, saving } from '@/store';
import { Button, Field, Mark, notice } from '@/ui';
import { formatRate, troubleWords } from '@/words';

type Props = { market: NonNullable<Weighed['market']>; settings: Settings };

const PRICES = [
  { column: 'newPrice', label: 'A new one like it' },
  { column: 'delivery', label: 'Its delivery' },
  { column: 'disposal', label: 'Taking the old one away' },
] as const;

/** What a new machine costs here: asked once for each kind of machine, and a default until then. */
export function NewMachine({ market: { economics, isDefault }, settings }: Props) {
  const { currency } = settings;
  const [entered, setEntered] = useState(() =>
    PRICES.map(({ column }) => toMajor(economics[column]).toFixed(currencyDecimals(currency))),
  );
  const read = entered.map((text) => guessMoney(text, currency));
  const good = read.every((money) => money.ok && money.value.amountMinor >= 0);
  const save = async () => {
    const cells = { id: economics.id, design: economics.design };
    const price = (major: number) => `${major.toFixed(currencyDecimals(currency))} ${currency}`;
    try {
      const row = {
        ...cells,
        ...Object.fromEntries(
          PRICES.map(({ column }, index) => {
            const money = read[index];
            return [column, money?.ok ? price(toMajor(money.value)) : ''];
          }),
        ),
        usedPrice: price(toMajor(economics.usedPrice)),
        expectedYears: String(economics.expectedYears),
        daysToReplace: String(economics.daysToReplace),
      };
      await saving.keep(() => correctOwn(database(), `economics ${economics.id}`, 'economics', row));
    } catch (error) {
      notice(`Not saved: ${troubleWords(error)}. The old prices count.`);
    }
  };
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center">
        A new one {formatRate(toMajor(economics.newPrice), currency)}, delivery{' '}
        {formatRate(toMajor(economics.delivery), currency)}, the old one away{' '}
        {formatRate(toMajor(economics.disposal), currency)}
        {isDefault ? (
          <>
            : <Mark tone="doubt">a default, not yours</Mark>
          </>
        ) : null}
      </summary>
      <div className="flex flex-wrap items-end gap-2.5 pb-2">
        {PRICES.map(({ column, label }, index) => (
          <Field
            key={column}
            label={label}
            className="w-44"
            unit={currency}
            inputMode="decimal"
            autoComplete="off"
            value={entered[index] ?? ''}
            onChange={(event) => setEntered(entered.map((text, at) => (at === index ? event.target.value : text)))}
          />
        ))}
        <Button disabled={!good} onClick={() => void save()}>
          {isDefault ? 'These are ours' : 'Change it'}
        </Button>
        {good ? null : <p className="text-sm text-stop">Amounts like 489.00.</p>}
      </div>
    </details>
  );
}
