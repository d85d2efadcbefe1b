'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import {
  fellAway,
  mayReturn,
  noteShort,
  sendBack,
  type MeasuredSize,
  type OrderState,
  type PlacedLine,
  type Receipt,
  type ReturnTerms,
  type ReturnWhy,
} from '@/core/order';
import { TEXT_LIMITS } from '@/core/ticket';
import { checkIn, eventStore, now, onOrder } from '@/store';
import type { Moment } from '@/store/react';
import { Button, Field, Mark, NumberText, notice, Select } from '@/ui';
import { RETURN_WHY, checkInWords, formatDate, lineStatusWords, listOf, plural, troubleWords } from '@/words';
import { ordersWorker } from '@/workers';
import { tried } from '../tried';
import { SizeCheck, type CheckedSizes } from './SizeCheck';

/** What to keep and to prepare stays to be read. */
const NOTES_MS = 20_000;
const NOTHING_MEASURED: CheckedSizes = { measured: [], misfit: null };

type Props = {
  line: PlacedLine;
  order: OrderState;
  at: Moment;
  settings: Settings;
  /** Packs by the parcel's note; null: there is none. */
  noted: number | null;
};

/** One line of an order; while its parcel is awaited, number, pieces and sizes are checked in the hand here. */
export function OrderLine({ line, order, at, settings, noted }: Props) {
  const [read, setRead] = useState('');
  const [packs, setPacks] = useState('');
  const [sizes, setSizes] = useState(NOTHING_MEASURED);
  const [wrong, setWrong] = useState<string | null>(null);
  const expected = line.answeredNumber;
  const comes = order.phase === 'open' || (order.byHand && order.phase === 'unknown');
  const waits = comes && line.outstanding > 0 && !fellAway(line);
  const [isOther, setOther] = useState(false);
  const [beyond, setBeyond] = useState<Receipt['verdict'] | null>(null);
  const came = packs.trim() === '' ? Math.min(noted || line.outstanding, line.outstanding) : Number(packs);
  const terms = async () => ({
    restocking: await ordersWorker.get().restocking(order.supplierId),
    days: settings.returnDays,
    today: at.today,
  });
  const take = async (verdict: Receipt['verdict'], extra?: 'return' | 'shelf') => {
    const more = came - line.outstanding;
    return tried(async () =>
      checkIn(
        eventStore(),
        order.orderId,
        {
          lineId: line.lineId,
          numberRead: read.trim() || expected,
          verdict,
          packs: Math.min(came, line.outstanding),
          measured: sizes.measured,
          ...(extra && more > 0 ? { extra: { packs: more, to: extra } } : {}),
        },
        await terms(),
      ),
    );
  };
  const check = async () => {
    if (read.trim() === '') return;
    if (!Number.isInteger(came) || came < 1 || came > 9999) {
      setWrong('How many packs came? A whole number, from 1.');
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
      if (came > line.outstanding) {
        setBeyond(verdict.verdict);
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
        <Mark key={index} tone={receipt.verdict === 'wrong' || receipt.verdict === 'damaged' ? 'stop' : 'sound'}>
          {receipt.verdict === 'wrong' ? 'wrong part' : receipt.verdict === 'damaged' ? 'damaged' : 'checked in'}:{' '}
          {receipt.numberRead}
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
          {line.outstanding > 1 || noted !== null || isOther ? (
            <Field
              label="Packs that came"
              className="w-32"
              inputMode="numeric"
              autoComplete="off"
              placeholder={String(came)}
              note={noted === null ? undefined : `${noted} by its note`}
              value={packs}
              onChange={(event) => {
                setPacks(event.target.value);
                setWrong(null);
                setBeyond(null);
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
      {waits ? (
        <details className="w-full" onToggle={(event) => setOther(event.currentTarget.open)}>
          <summary className="min-h-11 w-fit cursor-pointer content-center">
            Damaged, too many, or not all of it?
          </summary>
          <div className="flex flex-wrap gap-2 pb-2">
            <Button
              tone="stop"
              onClick={() => {
                if (Number.isInteger(came) && came >= 1 && came <= line.outstanding) void take('damaged');
                else setWrong(`${plural(line.outstanding, 'pack')} are still to come: how many of them are damaged?`);
              }}
            >
              {plural(came, 'pack')} damaged: back, and order again
            </Button>
            <Button
              onClick={() =>
                void tried(() => onOrder(eventStore(), order.orderId, (now) => noteShort(now, line.lineId)))
              }
            >
              The rest does not come: order again
            </Button>
            <span className="content-center text-soft">More than ordered: type how many packs came, and check in.</span>
          </div>
        </details>
      ) : null}
      {beyond ? (
        <div
          role="alert"
          className="flex w-full flex-wrap items-center gap-3 border-l-4 border-doubt bg-well px-3 py-1.5"
        >
          <span className="flex-1">
            {plural(came - line.outstanding, 'pack')} more than ordered. What becomes of{' '}
            {came - line.outstanding === 1 ? 'it' : 'them'}?
          </span>
          <Button onClick={() => void take(beyond, 'shelf').then((did) => did && setBeyond(null))}>On the shelf</Button>
          <Button onClick={() => void take(beyond, 'return').then((did) => did && setBeyond(null))}>Send back</Button>
        </div>
      ) : null}
      {!waits && mayReturn(order, line) > 0 ? <SendBack line={line} order={order} terms={terms} /> : null}
      {line.short > 0 ? <Mark tone="stop">{plural(line.short, 'pack')} did not come</Mark> : null}
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

const WHY: ReturnWhy[] = ['failed', 'not-needed', 'damaged', 'wrong-part'];

/** What was checked in goes back after all, or is claimed for. */
function SendBack({ line, order, terms }: { line: PlacedLine; order: OrderState; terms: () => Promise<ReturnTerms> }) {
  const [why, setWhy] = useState<ReturnWhy>('failed');
  const [note, setNote] = useState('');
  const send = async () => {
    await tried(async () => {
      const own = await terms();
      return onOrder(eventStore(), order.orderId, (now, context) =>
        sendBack(now, { lineId: line.lineId, packs: 1, why, note: note.trim() }, own, context),
      );
    });
  };
  return (
    <details className="w-full">
      <summary className="min-h-11 w-fit cursor-pointer content-center">Send one back, or claim for it</summary>
      <div className="flex flex-wrap items-end gap-2 pb-2">
        <Select
          label="Why"
          className="w-72"
          value={why}
          empty="choose"
          options={WHY.map((value) => ({ value, text: RETURN_WHY[value] }))}
          onChange={(value) => setWhy(WHY.find((one) => one === value) ?? 'failed')}
        />
        <Field
          label="What was seen"
          className="w-64"
          autoComplete="off"
          maxLength={TEXT_LIMITS.name}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <Button onClick={() => void send()}>Send one back</Button>
      </div>
    </details>
  );
}

const measuredWords = (measured: readonly MeasuredSize[]): string =>
  listOf(measured.map(({ label, value, unit }) => `${label.toLowerCase()} ${value} ${unit}`.trim()));
