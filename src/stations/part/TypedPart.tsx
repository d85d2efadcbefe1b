'use client';
import { useRef, useState } from 'react';
import type { PricedAnswer } from '@/core/case';
import { standardKindOf, standardNumbers } from '@/core/measure';
import { note, TEXT_LIMITS } from '@/core/ticket';
import { guessMoney, moneyToDecimal } from '@/core/units';
import { Button, Field, FileInput, Mark } from '@/ui';
import { capital, formatPercent, STANDARD_WORDS } from '@/words';
import { usePictureText } from '../shared/usePictureText';
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
  const standard = standardKindOf(roleId);
  const [sizes, setSizes] = useState('');
  const file = useRef<HTMLInputElement>(null);
  // A picture may hold several numbers: the person picks, nothing is taken by itself.
  const [seen, setSeen] = useState<string[]>([]);
  const picture = usePictureText((text) => setSeen(numbersIn(text)));
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
      {standard ? (
        <div className="mt-1 flex flex-wrap items-end gap-2.5">
          <Field
            label={STANDARD_WORDS[standard]}
            aria-label={name(STANDARD_WORDS[standard])}
            className="w-64"
            mono
            autoComplete="off"
            value={sizes}
            onChange={(event) => setSizes(event.target.value)}
            note="It is sold by its size, whoever’s machine it is in."
          />
          {standardNumbers(standard, sizes).map((number) => (
            <Button key={number} onClick={() => setEntered({ ...entered, number })}>
              It is {number}
            </Button>
          ))}
          {sizes.trim() !== '' && standardNumbers(standard, sizes).length === 0 ? (
            <Mark tone="doubt">no standard one of these sizes</Mark>
          ) : null}
        </div>
      ) : null}
      <div className="mt-1 grid gap-2.5 pb-2 sm:grid-cols-2 xl:grid-cols-[1.4fr_1.4fr_1fr_1fr_auto_auto] xl:items-start">
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
        <div className="flex flex-wrap gap-2 self-start xl:mt-6">
          <Button aria-label={name('Photograph it')} onClick={() => file.current?.click()}>
            Photograph it
          </Button>
          <FileInput
            ref={file}
            accept="image/*"
            capture
            label={name('Picture of the old part')}
            onFile={(picked) => void picture.read(picked)}
          />
        </div>
        <Button
          className="self-start xl:mt-6"
          aria-label={`Note it: ${roleName}`}
          disabled={entered.number.trim() === '' || wrongPrice || wrongDays}
          onClick={take}
        >
          Note it
        </Button>
      </div>
      <p aria-live="polite" className="flex flex-wrap items-center gap-2 pb-2 text-[15px]">
        {picture.share !== null ? `reading the picture, ${formatPercent(picture.share)}` : picture.why}
        {seen.map((number) => (
          <Button key={number} onClick={() => setEntered({ ...entered, number })}>
            It is {number}
          </Button>
        ))}
      </p>
    </details>
  );
}

const MOST_SEEN = 6;

/** What on an old part may be its number: pieces of text with a digit, as long as numbers are. */
const numbersIn = (text: string): string[] =>
  [...new Set(text.split(/[;|]|\s{2,}/).map((piece) => piece.trim()))]
    .filter((piece) => /\d/.test(piece) && piece.length >= 4 && piece.length <= TEXT_LIMITS.size)
    .slice(0, MOST_SEEN);
