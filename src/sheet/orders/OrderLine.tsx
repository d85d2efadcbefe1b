'use client';
import { useState } from 'react';
import { fellAway, type MeasuredSize, type OrderState, type PlacedLine, type Receipt } from '@/core/order';
import { TEXT_LIMITS } from '@/core/ticket';
import { checkIn, eventStore, now } from '@/store';
import type { Moment } from '@/store/react';
import { Button, Field, Mark, NumberText, notice } from '@/ui';
import { checkInWords, formatDate, lineStatusWords, listOf, plural, troubleWords } from '@/words';
import { ordersWorker } from '@/workers';
import { tried } from '../tried';
import { SizeCheck, type CheckedSizes } from './SizeCheck';

/** What to keep and to prepare stays to be read. */
const NOTES_MS = 20_000;
const NOTHING_MEASURED: CheckedSizes = { measured: [], misfit: null };

/** One line of an order; while its parcel is awaited, number, pieces and sizes are checked in the hand here. */
export function OrderLine({ line, order, at }: { line: PlacedLine; order: OrderState; at: Moment }) {
  const [read, setRead] = useState('');
  const [packs, setPacks] = useState('');
  const [sizes, setSizes] = useState(NOTHING_MEASURED);
  const [wrong, setWrong] = useState<string | null>(null);
  const expected = line.answeredNumber;
  const comes = order.phase === 'open' || (order.byHand && order.phase === 'unknown');
  const waits = comes && line.outstanding > 0 && !fellAway(line);
  const came = packs.trim() === '' ? line.outstanding : Number(packs);
  const take = (verdict: Receipt['verdict']) =>
    tried(() =>
      checkIn(eventStore(), order.orderId, {
        lineId: line.lineId,
        numberRead: read.trim(),
        verdict,
        packs: came,
        measured: sizes.measured,
      }),
    );
  const check = async () => {
    if (read.trim() === '') return;
    if (!Number.isInteger(came) || came < 1 || came > line.outstanding) {
      setWrong(`${plural(line.outstanding, 'pack')} of this line are still to come: a whole number up to that.`);
      return;
    }
    try {
      const verdict = await ordersWorker.get().checkIn(order.orderId, line.lineId, read, now());
      if (!verdict) return;
      if (verdict.verdict === 'wrong') {
        setWrong(`${read}: ${checkInWords(verdict)}. Expected ${expected}. Do not open it.`);
        return;
      }
      if (sizes.misfit !== null) {
        setWrong(`${read}: the number is right, the part is not. ${sizes.misfit}. Measure again; do not fit it.`);
        return;
      }
      if (!(await take(verdict.verdict))) return;
      setRead('');
      setPacks('');
      const notes = [
        ...(verdict.carryOver.length ? [`Do not bin the old one yet: ${verdict.carryOver.join('; ')}.`] : []),
        ...(verdict.prepare.length ? [`On the new one: ${verdict.prepare.join('; ')}.`] : []),
      ];
      notice(`Checked in: ${read.trim()}, ${checkInWords(verdict)}.`, {
        description: notes.join(' '),
        ...(notes.length ? { duration: NOTES_MS } : {}),
      });
    } catch (error) {
      notice(`It could not be checked: ${troubleWords(error)}. Nothing was noted.`);
    }
  };
  const measured = line.received.flatMap((receipt) => receipt.measured);
  return (
    <li className="flex flex-wrap items-end justify-between gap-x-4 gap-y-1 border-t border-line py-1.5 text-[15px]">
      <span className="min-w-0 flex-1 basis-64">
        {line.packs > 1 ? `${line.packs} × ` : ''}
        <NumberText text={line.partNumber} className="font-semibold" /> {line.description}
        <span className="block text-soft">
          {lineStatusWords(line)}
          {line.dueOn && waits ? ` · due ${formatDate(line.dueOn, at.today)}` : ''}
          {measured.length ? ` · measured ${measuredWords(measured)}` : ''}
        </span>
      </span>
      {line.received.map((receipt, index) => (
        <Mark key={index} tone={receipt.verdict === 'wrong' ? 'stop' : 'sound'}>
          {receipt.verdict === 'wrong' ? 'sent back' : 'checked in'}: {receipt.numberRead}
          {line.packs > 1 ? ` (${receipt.packs} of ${line.packs})` : ''}
        </Mark>
      ))}
      {waits ? (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void check();
          }}
        >
          {line.outstanding > 1 ? (
            <Field
              label="Packs that came"
              className="w-32"
              inputMode="numeric"
              autoComplete="off"
              placeholder={String(line.outstanding)}
              value={packs}
              onChange={(event) => {
                setPacks(event.target.value);
                setWrong(null);
              }}
            />
          ) : null}
          <Field
            label={`Number on the parcel for ${line.partNumber}`}
            className="w-72"
            mono
            autoComplete="off"
            spellCheck={false}
            maxLength={TEXT_LIMITS.size}
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
              void take('wrong').then((done) => {
                if (done) setWrong(null);
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
