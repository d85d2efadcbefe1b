'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { noteReturnSent, settleReturn, type OrderState, type ReturnState } from '@/core/order';
import { zeroMoney } from '@/core/units';
import { eventStore, onOrder } from '@/store';
import type { Moment } from '@/store/react';
import { Button, Field, Mark, notice } from '@/ui';
import { invoiceDifferenceWords, formatMoney, returnLetter, returnWords } from '@/words';
import { tried } from '../tried';

/** What goes back, by when, with its paper; and what the supplier did about it. */
export function Returns({ order, settings, at }: { order: OrderState; settings: Settings; at: Moment }) {
  if (order.returns.length === 0) return null;
  return (
    <section aria-label={`Returns of order ${order.number}`} className="mt-2 border-t border-line pt-1.5">
      <h4 className="font-semibold">Going back</h4>
      <ul>
        {order.returns.map((one) => (
          <Return key={one.returnId} order={order} one={one} settings={settings} at={at} />
        ))}
      </ul>
    </section>
  );
}

type Props = { order: OrderState; one: ReturnState; settings: Settings; at: Moment };

function Return({ order, one, settings, at }: Props) {
  const [reference, setReference] = useState('');
  const { subject, body } = returnLetter(order, one, settings);
  const isLate = one.stand === 'open' && one.sendBy < at.today;
  const settle = (how: NonNullable<ReturnState['settled']>['how']) =>
    tried(() =>
      onOrder(eventStore(), order.orderId, (now) =>
        settleReturn(now, one.returnId, how, how === 'credited' ? one.refund : zeroMoney(one.refund.currency)),
      ),
    );
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(`${subject}\n\n${body}`);
      notice('The text is copied.');
    } catch {
      notice('It could not be copied: mark the text and copy it by hand.');
    }
  };
  return (
    <li className="flex flex-wrap items-end gap-x-3 gap-y-1 border-t border-line py-1.5 text-[15px]">
      <span className="min-w-0 flex-1 basis-72">
        <Mark tone={one.settled ? (one.settled.how === 'refused' ? 'stop' : 'sound') : isLate ? 'stop' : 'doubt'}>
          {returnWords(order, one, at.today)}
        </Mark>
      </span>
      {one.stand === 'open' ? (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void tried(() =>
              onOrder(eventStore(), order.orderId, (now) => noteReturnSent(now, one.returnId, reference.trim())),
            );
          }}
        >
          <Field
            label="Number of the parcel, if it has one"
            className="w-56"
            autoComplete="off"
            maxLength={80}
            value={reference}
            onChange={(event) => setReference(event.target.value)}
          />
          <Button type="submit">It is on its way</Button>
        </form>
      ) : null}
      {one.stand === 'settled' ? null : (
        <>
          <Button onClick={() => void settle('credited')}>Credited</Button>
          <Button onClick={() => void settle('replaced')}>Replaced</Button>
          <Button tone="stop" onClick={() => void settle('refused')}>
            Refused
          </Button>
          <details className="w-full">
            <summary className="min-h-11 w-fit cursor-pointer content-center">The paper that goes with it</summary>
            <pre
              className="overflow-x-auto border border-line bg-well p-3 font-mono text-sm whitespace-pre-wrap"
              tabIndex={0}
            >
              {`${subject}\n\n${body}`}
            </pre>
            <Button className="mt-2" onClick={() => void copy()}>
              Copy its text
            </Button>
          </details>
        </>
      )}
    </li>
  );
}

/** Invoices as they came, with what each charges otherwise than agreed. */
export function Invoices({ order }: { order: OrderState }) {
  return order.invoices.map(({ number, total, differences }) => (
    <section key={number} aria-label={`Invoice ${number}`} className="mt-2 border-t border-line pt-1.5 text-[15px]">
      <Mark tone={differences.length ? 'stop' : 'sound'}>
        Invoice {number}, {formatMoney(total)}: {differences.length ? 'not as agreed' : 'as ordered and received'}
      </Mark>
      <ul>
        {differences.map((difference, index) => (
          <li key={index}>{invoiceDifferenceWords(difference)}</li>
        ))}
      </ul>
    </section>
  ));
}
