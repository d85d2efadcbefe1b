'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { orderTotal, type OrderState } from '@/core/order';
import { cancelOrder, eventStore, sendWaitingOrders } from '@/store';
import type { Moment } from '@/store/react';
import { Ask, Button, Mark, NumberText, notice } from '@/ui';
import { formatMoney, orderStandWords } from '@/words';
import { download } from '../download';
import { tried } from '../useAsk';
import { OrderLine } from './OrderLine';

type Props = { order: OrderState; at: Moment; settings: Settings };

/** One order: what the supplier said, and checking its parcel in. */
export function OrderCard({ order, at, settings }: Props) {
  const [asking, setAsking] = useState(false);
  const [busy, setBusy] = useState(false);
  const takeOut = async (format: 'xml' | 'csv') => {
    try {
      const { orderAsCsv, orderAsUbl } = await import('@/core/order/documents');
      if (format === 'xml')
        download(`order-${order.number}.xml`, 'application/xml', orderAsUbl(order, settings.shopName, at.zone));
      else download(`order-${order.number}.csv`, 'text/csv;charset=utf-8', orderAsCsv(order));
    } catch (error) {
      notice(`No file was made: ${error instanceof Error ? error.message : String(error)}. The order is as it was.`);
    }
  };
  const send = async () => {
    setBusy(true);
    try {
      await sendWaitingOrders(settings, true);
    } catch (error) {
      notice(`It could not be sent: ${error instanceof Error ? error.message : String(error)}. It is tried again.`);
    } finally {
      setBusy(false);
    }
  };
  const cancel = async () => {
    setAsking(false);
    const done = await tried(() => cancelOrder(eventStore(), order.orderId));
    // Whether the supplier has it is asked at once.
    if (done) await send();
  };
  const stand = orderStandWords(order, at);
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
      <ul className="mt-1">
        {order.lines.map((line) => (
          <OrderLine key={line.lineId} line={line} order={order} at={at} />
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2.5">
        {isWaiting ? (
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
      </div>
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
          : 'It was tried, and nobody knows whether the supplier has it: they are asked first. If they have it, it stands; if not, its parts go back into the plan.'}
      </Ask>
    </article>
  );
}
