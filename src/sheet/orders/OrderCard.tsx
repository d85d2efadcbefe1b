'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { orderAsCsv, orderAsUbl, type OrderState } from '@/core/order';
import { cancelOrder, sendOutbox } from '@/store';
import type { Moment } from '@/store/react';
import { Ask, Button, Mark, NumberText } from '@/ui';
import { formatMoment, formatMoney, plural } from '@/words';
import { download } from '../download';
import { OrderLine } from './OrderLine';

type Props = { order: OrderState; at: Moment; settings: Settings };

/** One order: what the supplier said, and checking its parcel in. */
export function OrderCard({ order, at, settings }: Props) {
  const [asking, setAsking] = useState(false);
  const failure = order.failures.at(-1);
  const sum = order.lines.reduce(
    (total, line) => total + line.packs * line.answeredPrice.amountMinor,
    order.shipping.amountMinor,
  );
  const xml = () =>
    download(`order-${order.number}.xml`, 'application/xml', orderAsUbl(order, settings.shopName, at.zone));
  const csv = () => download(`order-${order.number}.csv`, 'text/csv;charset=utf-8', orderAsCsv(order));
  return (
    <article aria-label={`Order ${order.number}`} className="mt-3 rounded-sm border-[1.5px] border-edge bg-sheet p-3">
      <h3 className="flex flex-wrap justify-between gap-x-4 font-semibold">
        <span>
          <NumberText text={order.number} /> · {order.supplierName}, {order.modeName}
        </span>
        <span>{formatMoney({ ...order.shipping, amountMinor: sum })}</span>
      </h3>
      <p className="text-[15px]">
        {order.cancelled ? (
          <Mark tone="stop">cancelled</Mark>
        ) : order.reference ? (
          <Mark tone="sound">the supplier answered: {order.reference}</Mark>
        ) : failure ? (
          <Mark tone="doubt">
            not sent yet:{' '}
            {failure.why === 'timeout'
              ? 'the supplier is slow'
              : failure.why === 'down'
                ? 'the supplier does not answer'
                : failure.why === 'refused'
                  ? 'the supplier refused it'
                  : 'the answer could not be read'}{' '}
            ({failure.detail}), tried {plural(order.failures.length, 'time')}
            {failure.retryAt ? `, next try ${formatMoment(failure.retryAt, at.now, at.zone)}` : ''}. It cannot be placed
            twice.
          </Mark>
        ) : (
          <Mark tone="soft">being sent</Mark>
        )}
      </p>
      <ul className="mt-1">
        {order.lines.map((line) => (
          <OrderLine key={line.offerId} line={line} order={order} at={at} />
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2.5">
        {order.phase === 'to-send' ? (
          <>
            <Button onClick={() => void sendOutbox(settings, true)}>Try again now</Button>
            <Button tone="stop" onClick={() => setAsking(true)}>
              Cancel it
            </Button>
          </>
        ) : null}
        <Button tone="quiet" onClick={xml}>
          Order as UBL file
        </Button>
        <Button tone="quiet" onClick={csv}>
          Order as CSV file
        </Button>
      </div>
      <Ask
        open={asking}
        onOpenChange={setAsking}
        title={`Cancel order ${order.number}?`}
        yes="Cancel the order"
        danger
        onYes={() => void cancelOrder(order.orderId, 'cancelled here').then(() => setAsking(false))}
      >
        Its parts go back into the plan. If the supplier has taken it in spite of a lost answer, ring them.
      </Ask>
    </article>
  );
}
