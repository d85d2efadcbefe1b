'use client';
import { useState } from 'react';
import type { PricedAnswer } from '@/core/case';
import { note, TEXT_LIMITS } from '@/core/ticket';
import { guessMoney, moneyToDecimal } from '@/core/units';
import { Button, Field } from '@/ui';
import { capital } from '@/words';
import type { PartProps } from './PartProps';

type Props = Pick<PartProps, 'state' | 'settings' | 'ask'> & { answer: PricedAnswer; open: boolean };

/** A number that no catalogue lists: read off the old part, or said by a supplier. Its price may come later. */
export function TypedPart({ state, settings, ask, answer, open }: Props) {
  const { roleId, roleName } = answer;
  const known = state.typed[roleId];
  const [entered, setEntered] = useState({
    number: known?.partNumber ?? '',
    price: known?.piecePrice ? moneyToDecimal(known.piecePrice) : '',
    days: known?.days === null || known === undefined ? '' : String(known.days),
    supplier: known?.supplierName ?? '',
  });
  const set = (field: keyof typeof entered) => (event: { target: { value: string } }) =>
    setEntered({ ...entered, [field]: event.target.value });
  const price = entered.price.trim() === '' ? null : guessMoney(entered.price, settings.currency);
  const days = entered.days.trim() === '' ? null : Number(entered.days);
  const wrongPrice = price !== null && (!price.ok || price.value.amountMinor < 0);
  const wrongDays = days !== null && !(Number.isInteger(days) && days >= 0 && days <= 365);
  const take = () =>
    void ask(
      note({
        type: 'part-typed',
        roleId,
        partNumber: entered.number.trim(),
        piecePrice: price?.ok ? price.value : null,
        days,
        supplierName: entered.supplier.trim(),
      }),
    );
  const name = (text: string) => `${text}: ${roleName}`;
  return (
    <details className="border-t border-line" open={open}>
      <summary className="min-h-11 cursor-pointer content-center font-semibold">
        {known ? `${capital(roleName)}: typed as ${known.partNumber}` : `${capital(roleName)}: type its number`}
      </summary>
      <p className="text-[15px] text-soft">
        Read it off the old part, or ask a supplier. What is not known yet may stay empty.
      </p>
      <div className="mt-1 grid gap-2.5 pb-2 sm:grid-cols-2 xl:grid-cols-[1.4fr_1.4fr_1fr_1fr_auto] xl:items-start">
        <Field
          label="Number"
          aria-label={name('Number')}
          mono
          autoComplete="off"
          maxLength={TEXT_LIMITS.size}
          value={entered.number}
          onChange={set('number')}
        />
        <Field
          label="Supplier"
          aria-label={name('Supplier')}
          autoComplete="off"
          maxLength={TEXT_LIMITS.name}
          value={entered.supplier}
          onChange={set('supplier')}
        />
        <Field
          label="Price a piece, net"
          aria-label={name('Price a piece, net')}
          unit={settings.currency}
          inputMode="decimal"
          autoComplete="off"
          value={entered.price}
          onChange={set('price')}
          note={wrongPrice ? 'Not an amount of this currency: like 34.50' : undefined}
        />
        <Field
          label="Comes in"
          aria-label={name('Days to come')}
          unit="days"
          inputMode="numeric"
          autoComplete="off"
          value={entered.days}
          onChange={set('days')}
          note={wrongDays ? 'A whole number, 0 to 365' : undefined}
        />
        <Button
          className="self-start xl:mt-6"
          aria-label={`Note it: ${roleName}`}
          disabled={entered.number.trim() === '' || wrongPrice || wrongDays}
          onClick={take}
        >
          Note it
        </Button>
      </div>
    </details>
  );
}
