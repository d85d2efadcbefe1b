'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import type { MeasuredSize, OrderState, PlacedLine } from '@/core/order';
import { receiveLine } from '@/store';
import type { Moment } from '@/store/react';
import { Button, Field, Mark, NumberText } from '@/ui';
import { checkInWords, formatDate, lineStatusWords, listOf } from '@/words';
import { ordersWorker } from '@/workers';
import { SizeCheck, type CheckedSizes } from './SizeCheck';

/** What to keep and to prepare stays to be read. */
const NOTES_MS = 20_000;
const NOTHING_MEASURED: CheckedSizes = { measured: [], misfit: null };

/** One line of an order; while its parcel is awaited, number and sizes are checked in the hand here. */
export function OrderLine({ line, order, at }: { line: PlacedLine; order: OrderState; at: Moment }) {
  const [read, setRead] = useState('');
  const [sizes, setSizes] = useState(NOTHING_MEASURED);
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
      setWrong(`${read}: ${checkInWords(verdict)}. Expected ${expected}. Do not open it.`);
      return;
    }
    if (sizes.misfit !== null) {
      setWrong(`${read}: the number is right, the part is not. ${sizes.misfit}. Measure again; do not fit it.`);
      return;
    }
    const { measured } = sizes;
    await receiveLine(order, { offerId: line.offerId, numberRead: read.trim(), verdict: verdict.verdict, measured });
    const notes = [
      ...(verdict.carryOver.length ? [`Do not bin the old one yet: ${verdict.carryOver.join('; ')}.`] : []),
      ...(verdict.prepare.length ? [`On the new one: ${verdict.prepare.join('; ')}.`] : []),
    ];
    toast(`Checked in: ${read.trim()}, ${checkInWords(verdict)}.`, {
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
          {line.received?.measured.length ? ` · measured ${measuredWords(line.received.measured)}` : ''}
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
      {waits ? (
        <SizeCheck
          partId={line.answeredPartId}
          number={expected}
          ticketIds={line.for.map(({ ticketId }) => ticketId)}
          onChange={(checked) => {
            setSizes(checked);
            setWrong(null);
          }}
        />
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
              void receiveLine(order, {
                offerId: line.offerId,
                numberRead: read.trim(),
                verdict: 'wrong',
                measured: sizes.measured,
              })
            }
          >
            Send it back, order again
          </Button>
        </div>
      ) : null}
    </li>
  );
}

const measuredWords = (measured: readonly MeasuredSize[]): string =>
  listOf(measured.map(({ label, value, unit }) => `${label.toLowerCase()} ${value} ${unit}`.trim()));
