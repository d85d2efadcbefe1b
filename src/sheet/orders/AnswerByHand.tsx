'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { answerByHand, noteAnswer, type OrderState, type PlacedLine, type SaidOfLine } from '@/core/order';
import { TEXT_LIMITS } from '@/core/ticket';
import { guessMoney, isDay, moneyToDecimal } from '@/core/units';
import { eventStore, onOrder } from '@/store';
import { Button, Field } from '@/ui';
import { tried } from '../tried';

type Entered = { number: string; price: string; due: string; comes: boolean };

const entered = (line: PlacedLine): Entered => ({
  number: line.answeredNumber,
  price: moneyToDecimal(line.answeredPrice),
  due: line.dueOn ?? '',
  comes: true,
});

function said(line: PlacedLine, { number, price, due, comes }: Entered, currency: string): SaidOfLine | null {
  const money = guessMoney(price, currency);
  if (!money.ok || money.value.amountMinor < 0) return null;
  if (due.trim() !== '' && !isDay(due.trim())) return null;
  const day = due.trim();
  return {
    lineId: line.lineId,
    partNumber: comes ? number : null,
    packPrice: money.value,
    dueOn: isDay(day) ? day : null,
  };
}

/** What the supplier said of an order that a person sent: as ordered, or line by line. */
export function AnswerByHand({ order, settings }: { order: OrderState; settings: Settings }) {
  const [reference, setReference] = useState(order.reference ?? '');
  const [lines, setLines] = useState(() => order.lines.map(entered));
  const { currency } = order.shipping;
  const read = order.lines.map((line, index) => said(line, lines[index] ?? entered(line), currency));
  const note = () =>
    tried(() =>
      onOrder(eventStore(), order.orderId, (current) =>
        noteAnswer(
          current,
          answerByHand(
            current,
            reference,
            read.flatMap((one) => one ?? []),
          ),
        ),
      ),
    );
  const change = (index: number, next: Partial<Entered>) =>
    setLines(lines.map((line, place) => (place === index ? { ...line, ...next } : line)));
  return (
    <details className="mt-1 border-t border-line">
      <summary className="min-h-11 cursor-pointer content-center font-semibold">
        {order.reference === null ? 'What the supplier answered' : 'They say otherwise now'}
      </summary>
      <p className="text-[15px] text-soft">
        As ordered, or change what they said: another number (“is now”), price, or day. Prices without tax, in{' '}
        {settings.currency}.
      </p>
      <ul>
        {order.lines.map((line, index) => {
          const own = lines[index] ?? entered(line);
          return (
            <li
              key={line.lineId}
              className="grid gap-2.5 border-t border-line py-2 sm:grid-cols-2 xl:grid-cols-[2fr_1fr_1fr_auto] xl:items-end"
            >
              <Field
                label={`Number for ${line.partNumber}`}
                mono
                autoComplete="off"
                maxLength={TEXT_LIMITS.size}
                value={own.number}
                disabled={!own.comes}
                onChange={(event) => change(index, { number: event.target.value })}
              />
              <Field
                label={`Price a pack of ${line.partNumber}`}
                unit={currency}
                inputMode="decimal"
                autoComplete="off"
                value={own.price}
                onChange={(event) => change(index, { price: event.target.value })}
              />
              <Field
                label={`Day it comes, ${line.partNumber}`}
                type="date"
                value={own.due}
                onChange={(event) => change(index, { due: event.target.value })}
              />
              <Button aria-pressed={!own.comes} onClick={() => change(index, { comes: !own.comes })}>
                {own.comes ? 'Will not come' : 'Comes after all'}
              </Button>
            </li>
          );
        })}
      </ul>
      <div className="flex flex-wrap items-end gap-2.5 pb-2">
        <Field
          label="Their reference"
          className="w-56"
          autoComplete="off"
          maxLength={80}
          value={reference}
          onChange={(event) => setReference(event.target.value)}
        />
        <Button disabled={read.includes(null)} onClick={() => void note()}>
          Note the answer
        </Button>
        {read.includes(null) ? <p className="text-sm text-stop">A price or a day does not read: like 34.50.</p> : null}
      </div>
    </details>
  );
}
