'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Settings } from '@/core/case';
import { orderAsCsv, orderAsUbl, type CheckInVerdict, type OrderState, type PlacedLine } from '@/core/order';
import { cancelOrder, receiveLine, sendOutbox } from '@/store';
import type { Moment } from '@/store/react';
import { Ask, Button, Field, Mark, NumberText } from '@/ui';
import { formatDate, formatMoment, formatMoney, lineStatusWords, plural } from '@/words';
import { ordersWorker } from '@/workers';
import { download } from '../download';

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
          <Line key={line.offerId} line={line} order={order} at={at} />
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

const VERDICTS: Record<CheckInVerdict['reason'], string> = {
  'number-equals': 'the number that was ordered',
  supersession: 'the newer number of what was ordered: fine',
  'cross-reference': 'another number for the same part: fine',
  'unknown-number': 'no known number for this part',
  'other-part': 'another part',
};

/** What to keep and to prepare stays to be read. */
const NOTES_MS = 20_000;

function Line({ line, order, at }: { line: PlacedLine; order: OrderState; at: Moment }) {
  const [read, setRead] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const expected = line.answeredNumber;
  const waits = order.reference !== null && line.received === null && line.status !== 'rejected';
  const check = async () => {
    if (read.trim() === '') return;
    const answered =
      line.answeredPartId !== line.partId
        ? await ordersWorker.get().checkIn(line.answeredPartId, expected, read)
        : null;
    const verdict =
      answered && answered.verdict !== 'wrong'
        ? { ...answered, verdict: 'same-by-reference' as const }
        : await ordersWorker.get().checkIn(line.partId, line.partNumber, read);
    if (!verdict) return;
    if (verdict.verdict === 'wrong') {
      setWrong(`${read}: ${VERDICTS[verdict.reason]}. Expected ${expected}. Do not open it.`);
      return;
    }
    await receiveLine(order, { offerId: line.offerId, numberRead: read.trim(), verdict: verdict.verdict });
    const notes = [
      ...(verdict.carryOver.length ? [`Do not bin the old one yet: ${verdict.carryOver.join('; ')}.`] : []),
      ...(verdict.prepare.length ? [`On the new one: ${verdict.prepare.join('; ')}.`] : []),
    ];
    toast(`Checked in: ${read.trim()}, ${VERDICTS[verdict.reason]}.`, {
      description: notes.join(' '),
      ...(notes.length ? { duration: NOTES_MS } : {}),
    });
  };
  return (
    <li className="flex flex-wrap items-end justify-between gap-x-4 gap-y-1 border-t border-line py-1.5 text-[15px]">
      <span className="min-w-0 flex-1 basis-64">
        {line.packs > 1 ? `${line.packs} × ` : ''}
        <NumberText text={line.partNumber} className="font-semibold" /> {line.description}
        <span className="block text-soft">
          {lineStatusWords(line)}
          {line.dueOn && !line.received && line.status !== 'rejected'
            ? ` · due ${formatDate(line.dueOn, at.today)}`
            : ''}
        </span>
      </span>
      {line.received ? (
        <Mark tone={line.received.verdict === 'wrong' ? 'stop' : 'sound'}>
          {line.received.verdict === 'wrong' ? 'sent back' : 'checked in'}: {line.received.numberRead}
        </Mark>
      ) : waits ? (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void check();
          }}
        >
          <Field
            label={`Number on the parcel for ${line.partNumber}`}
            className="w-72"
            mono
            autoComplete="off"
            spellCheck={false}
            value={read}
            onChange={(event) => {
              setRead(event.target.value);
              setWrong(null);
            }}
          />
          <Button type="submit">Check in</Button>
        </form>
      ) : null}
      {wrong ? (
        <div
          role="alert"
          className="flex w-full flex-wrap items-center gap-3 border-l-4 border-stop bg-stop-wash px-3 py-1.5"
        >
          <span className="flex-1">{wrong}</span>
          <Button
            tone="stop"
            onClick={() =>
              void receiveLine(order, { offerId: line.offerId, numberRead: read.trim(), verdict: 'wrong' })
            }
          >
            Send it back, order again
          </Button>
        </div>
      ) : null}
    </li>
  );
}
