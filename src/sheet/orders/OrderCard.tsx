'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { noteSentByHand, orderTotal, type OrderState, type PlacedLine } from '@/core/order';
import type { HeardDespatch } from '@/core/order/documents';
import { cancelOrder, eventStore, onOrder, sendWaitingOrders } from '@/store';
import type { Moment } from '@/store/react';
import { Ask, Button, download, Mark, notice, NumberText } from '@/ui';
import {
  answerNotes,
  answerNotice,
  capital,
  formatMoney,
  missingTypeWords,
  orderLetter,
  orderStandWords,
  troubleWords,
} from '@/words';
import { tried } from '../tried';
import { AnswerByHand } from './AnswerByHand';
import { OrderLine } from './OrderLine';
import { Invoices, Returns } from './Returns';

type Props = {
  order: OrderState;
  at: Moment;
  settings: Settings;
  /** The note of the parcel on the bench, where one was read. */
  note: HeardDespatch | null;
};

/** One order: what the supplier said, and checking its parcel in. */
export function OrderCard({ order, at, settings, note }: Props) {
  const [asking, setAsking] = useState(false);
  const [busy, setBusy] = useState(false);
  const takeOut = async (format: 'xml' | 'csv' | 'pdf') => {
    try {
      if (format === 'pdf') {
        const { saveOrderPdf } = await import('./orderPdf');
        const missing = await saveOrderPdf(order, settings);
        if (missing.length) notice(missingTypeWords(missing));
        return;
      }
      const { orderAsCsv, orderAsUbl } = await import('@/core/order/documents');
      if (format === 'xml')
        download(`order-${order.number}.xml`, 'application/xml', orderAsUbl(order, settings.shopName, at.zone));
      else download(`order-${order.number}.csv`, 'text/csv;charset=utf-8', orderAsCsv(order));
    } catch (error) {
      notice(`No file was made: ${troubleWords(error)}. The order is as it was.`);
    }
  };
  const send = async () => {
    setBusy(true);
    try {
      await sendWaitingOrders(settings, true, (order) => notice(answerNotice(order)));
    } catch (error) {
      notice(`It could not be sent: ${troubleWords(error)}. It is tried again.`);
    } finally {
      setBusy(false);
    }
  };
  const cancel = async () => {
    setAsking(false);
    const done = await tried(() => cancelOrder(eventStore(), order.orderId));
    // Whether the supplier has it is asked at once.
    if (done && !order.byHand) await send();
  };
  const stand = orderStandWords(order, at);
  const notes = answerNotes(order);
  // What could not be believed is settled on the telephone, and typed.
  const isSetAside = order.phase === 'unknown' && order.failures.at(-1)?.why === 'not-believed';
  const isUntouched = order.lines.every((line) => line.received.length === 0);
  const isWaiting = order.phase === 'unsent' || order.phase === 'unknown';
  return (
    <article aria-label={`Order ${order.number}`} className="mt-3 rounded-sm border-[1.5px] border-edge bg-sheet p-3">
      <h3 className="flex flex-wrap justify-between gap-x-4 font-semibold">
        <span>
          <NumberText text={order.number} /> · {order.supplierName}, {order.modeName}
        </span>
        <span>{formatMoney(orderTotal(order))}</span>
      </h3>
      <p className="text-[15px]">
        <Mark tone={stand.tone}>{stand.text}</Mark>
      </p>
      {notes.length > 0 ? (
        <ul aria-label="What to know of the answer" className="mt-1 border-l-4 border-doubt pl-3 text-[15px]">
          {notes.map((text) => (
            <li key={text}>{capital(text)}</li>
          ))}
        </ul>
      ) : null}
      <ul className="mt-1">
        {order.lines.map((line) => (
          <OrderLine
            key={line.lineId}
            line={line}
            order={order}
            at={at}
            settings={settings}
            noted={notedPacks(note, order, line)}
          />
        ))}
      </ul>
      <Returns order={order} settings={settings} at={at} />
      <Invoices order={order} />
      <div className="mt-2 flex flex-wrap gap-2.5">
        {order.byHand ? <ByHand order={order} settings={settings} onCancel={() => setAsking(true)} /> : null}
        {isWaiting && !order.byHand ? (
          <>
            <Button disabled={busy} onClick={() => void send()}>
              {order.cancelAsked ? 'Ask again now' : 'Try again now'}
            </Button>
            {order.cancelAsked ? null : (
              <Button tone="stop" onClick={() => setAsking(true)}>
                Cancel it
              </Button>
            )}
          </>
        ) : null}
        <Button tone="quiet" onClick={() => void takeOut('xml')}>
          Order as UBL file
        </Button>
        <Button tone="quiet" onClick={() => void takeOut('csv')}>
          Order as CSV file
        </Button>
        <Button tone="quiet" onClick={() => void takeOut('pdf')}>
          Order as PDF
        </Button>
      </div>
      {(order.byHand && order.phase !== 'done' && order.phase !== 'unsent' && isUntouched) || isSetAside ? (
        <AnswerByHand key={order.reference ?? ''} order={order} settings={settings} />
      ) : null}
      <Ask
        open={asking}
        onOpenChange={setAsking}
        title={`Cancel order ${order.number}?`}
        yes="Cancel the order"
        danger
        onYes={() => void cancel()}
      >
        {order.phase === 'unsent'
          ? 'It was never sent. Its parts go back into the plan.'
          : order.byHand
            ? `Tell ${order.supplierName} first. Its parts go back into the plan.`
            : 'It was tried, and nobody knows whether the supplier has it: they are asked first. If they have it, it stands; if not, its parts go back into the plan.'}
      </Ask>
    </article>
  );
}

/** Packs of a line that the parcel's note names; null: it is not of this order, or says nothing. */
function notedPacks(note: HeardDespatch | null, order: OrderState, line: PlacedLine): number | null {
  if (!note || ![order.number, order.reference].includes(note.orderNumber)) return null;
  return note.lines
    .filter(
      ({ lineId, partNumber, supplierNumber }) =>
        lineId === line.lineId ||
        (lineId === '' &&
          ([line.partNumber, line.answeredNumber].includes(partNumber) || supplierNumber === line.supplierNumber)),
    )
    .reduce((all, { packs }) => all + packs, 0);
}

type ByHandProps = Pick<Props, 'order' | 'settings'> & { onCancel: () => void };

/** An order that a person sends: as an e-mail, a file or a call. */
function ByHand({ order, settings, onCancel }: ByHandProps) {
  const { subject, body } = orderLetter(order, settings);
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(`${subject}\n\n${body}`);
      notice('The text of the order is copied.');
    } catch {
      notice('It could not be copied: mark the text and copy it by hand.');
    }
  };
  if (order.phase === 'done') return null;
  return (
    <>
      {order.phase === 'unsent' ? (
        <>
          <Button tone="main" onClick={() => void tried(() => onOrder(eventStore(), order.orderId, noteSentByHand))}>
            I have sent it
          </Button>
          <a
            href={`mailto:?subject=${encodeURIComponent(subject)}&body=${encodeURIComponent(body)}`}
            className="inline-flex min-h-11 items-center rounded-sm border-[1.5px] border-edge bg-sheet px-3.5 text-[15px] font-semibold"
          >
            Write an e-mail
          </a>
          <Button onClick={() => void copy()}>Copy its text</Button>
        </>
      ) : null}
      {order.lines.every((line) => line.received.length === 0) ? (
        <Button tone="stop" onClick={onCancel}>
          Cancel it
        </Button>
      ) : null}
      <details className="w-full">
        <summary className="min-h-11 cursor-pointer content-center">Its text</summary>
        <pre
          className="overflow-x-auto border border-line bg-well p-3 font-mono text-sm whitespace-pre-wrap"
          tabIndex={0}
        >
          {`${subject}\n\n${body}`}
        </pre>
      </details>
    </>
  );
}
