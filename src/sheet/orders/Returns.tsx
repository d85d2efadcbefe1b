'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { noteReturnSent, settleReturn, type OrderState, type ReturnParcel, type ReturnState } from '@/core/order';
import { zeroMoney } from '@/core/units';
import { eventStore, onOrder, sendReturns } from '@/store';
import type { Moment } from '@/store/react';
import { Button, Field, Mark, notice } from '@/ui';
import {
  formatDate,
  formatMoney,
  invoiceDifferenceWords,
  parcelLetter,
  plural,
  returnedWords,
  returnLetter,
  returnWords,
} from '@/words';
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
  const isLate = one.stand === 'open' && one.sendBy < at.today;
  const settle = (how: NonNullable<ReturnState['settled']>['how']) =>
    tried(() =>
      onOrder(eventStore(), order.orderId, (now) =>
        settleReturn(now, one.returnId, how, how === 'credited' ? one.refund : zeroMoney(one.refund.currency)),
      ),
    );
  return (
    <li className="flex flex-wrap items-end gap-x-3 gap-y-1 border-t border-line py-1.5 text-[15px]">
      <span className="min-w-0 flex-1 basis-72">
        <Mark tone={one.settled ? (one.settled.how === 'refused' ? 'stop' : 'sound') : isLate ? 'stop' : 'doubt'}>
          {returnWords(order, one, at.today)}
        </Mark>
      </span>
      {one.stand === 'open' ? (
        <OnItsWay
          send={(reference) =>
            tried(() => onOrder(eventStore(), order.orderId, (now) => noteReturnSent(now, one.returnId, reference)))
          }
        />
      ) : null}
      {one.stand === 'settled' ? null : (
        <>
          <Button onClick={() => void settle('credited')}>Credited</Button>
          <Button onClick={() => void settle('replaced')}>Replaced</Button>
          <Button tone="stop" onClick={() => void settle('refused')}>
            Refused
          </Button>
          <Paper {...returnLetter(order, one, settings)} />
        </>
      )}
    </li>
  );
}

/** All that goes to one supplier in one parcel: one paper, one number. */
export function ReturnParcels({
  parcels,
  settings,
  at,
}: {
  parcels: readonly ReturnParcel[];
  settings: Settings;
  at: Moment;
}) {
  if (parcels.length === 0) return null;
  return (
    <section aria-label="Going back together" className="mt-6 border-t border-line pt-2.5">
      <h2 className="text-lg font-semibold">Going back together</h2>
      <ul>
        {parcels.map((parcel) => (
          <li
            key={parcel.supplierId}
            className="flex flex-wrap items-end gap-x-3 gap-y-1 border-t border-line py-1.5 text-[15px]"
          >
            <div className="min-w-0 flex-1 basis-72">
              <Mark tone={parcel.sendBy < at.today ? 'stop' : 'doubt'}>
                To {parcel.supplierName}, {parcel.sendBy < at.today ? 'should have left by' : 'by'}{' '}
                {formatDate(parcel.sendBy, at.today)}: {plural(parcel.returns.length, 'thing')} in one parcel
              </Mark>
              <ul className="text-soft">
                {parcel.returns.map(({ order, one }) => (
                  <li key={one.returnId}>{returnedWords(order, one)}</li>
                ))}
              </ul>
            </div>
            <OnItsWay
              send={(reference) =>
                tried(() =>
                  sendReturns(
                    eventStore(),
                    parcel.returns.map(({ order, one }) => ({ orderId: order.orderId, returnId: one.returnId })),
                    reference,
                  ),
                )
              }
            />
            <Paper {...parcelLetter(parcel, settings)} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Notes that it left, with the number of the parcel. */
function OnItsWay({ send }: { send: (reference: string) => Promise<unknown> }) {
  const [reference, setReference] = useState('');
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send(reference.trim());
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
  );
}

function Paper({ subject, body }: { subject: string; body: string }) {
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(`${subject}\n\n${body}`);
      notice('The text is copied.');
    } catch {
      notice('It could not be copied: mark the text and copy it by hand.');
    }
  };
  return (
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
