'use client';
import { useState } from 'react';
import type { Assessment, Settings, Weighed } from '@/core/case';
import { Bar, Button, cx, Key, Why } from '@/ui';
import {
  balanceWords,
  doNextWords,
  formatDate,
  formatDrawn,
  formatMinutes,
  formatPercent,
  formatRange,
  formatRate,
  type Moment,
} from '@/words';
import { Balance } from './Balance';

type Props = { assessment: Assessment; settings: Settings; at: Moment; busy: boolean; onDoNext: () => void };

/** Always there in a ticket: repair and replace in the balance, the likely cause, the day, and what to do next. */
export function Scale(props: Props) {
  return (
    <aside
      aria-label="The scale"
      className="hidden min-h-0 flex-col overflow-y-auto border-l border-line bg-sheet px-4 pt-3.5 lg:flex"
    >
      <ScaleBody {...props} />
      <div className="mt-auto" />
      <DoNextCard {...props} />
    </aside>
  );
}

export function ScaleBody(props: Props) {
  const { assessment } = props;
  return assessment.kind === 'weighed' ? (
    <WeighedBody {...props} assessment={assessment} />
  ) : (
    <p className="text-soft">Repair against replace follows from model and age.</p>
  );
}

/** What lies in the pans: money per year; without discounting both cost the same per year, and what is paid now against the limit of it is weighed. */
const weightsOf = (worth: NonNullable<Weighed['worth']>) =>
  worth.rho > 0
    ? {
        repair: worth.annualRepair,
        replace: worth.annualReplace,
        spreadRepair: worth.spreadRepair,
        spreadReplace: worth.spreadReplace,
        per: 'a year' as const,
      }
    : {
        repair: worth.replacePrice - worth.advantage,
        replace: worth.replacePrice,
        spreadRepair: [worth.replacePrice - worth.spread[1], worth.replacePrice - worth.spread[0]] as [number, number],
        spreadReplace: [worth.replacePrice, worth.replacePrice] as [number, number],
        per: 'in all' as const,
      };

function WeighedBody({ assessment, settings, at, busy }: Props & { assessment: Weighed }) {
  const { worth, causes: ranking, lore, range, next } = assessment;
  const nameOf = (id: string) => lore.causes.find((cause) => cause.id === id)?.name ?? null;
  const causes = ranking.causes.filter((entry) => nameOf(entry.causeId) !== null).slice(0, 3);
  const none = ranking.causes.find((entry) => nameOf(entry.causeId) === null)?.probability ?? 0;
  const others = Math.max(0, 1 - none - causes.reduce((sum, entry) => sum + entry.probability, 0));
  const settled = ranking.decided && ranking.lead ? nameOf(ranking.lead.causeId) : null;
  return (
    // While it is worked out anew the figures of before stay readable; a line above them says that they are old.
    <div
      aria-busy={busy}
      className={cx('flex flex-col gap-3 border-t-[3px]', busy ? 'border-mark' : 'border-transparent')}
    >
      {worth ? (
        <section aria-label="Repair or replace">
          <Balance {...weightsOf(worth)} currency={settings.currency} />
          <p className="text-xl leading-tight font-bold">{balanceWords(worth, settings.currency)}</p>
          <p className="text-sm text-soft">
            <Why
              label="How sure"
              because={`The life data and prices are drawn ${worth.draws} times within their uncertainty; this is the share of draws in which repairing is not dearer. ${ranking.decided ? 'The offer itself is firm.' : 'While the cause is open, each that is likely counts by its chance with its own price.'}`}
            >
              {formatDrawn(worth.probabilityRepair)} sure that repair is cheaper
            </Why>
            {worth.limit > 0
              ? `. It pays up to ${formatRate(worth.limit, settings.currency)} at this age`
              : '. At this age even a cheap repair is not worth it'}
            {!ranking.decided && range
              ? `; it may cost ${formatRange(range.low, range.high, settings.currency)}.`
              : '.'}
          </p>
        </section>
      ) : (
        <p className="text-soft">Repair against replace follows from model and age.</p>
      )}
      {settled !== null ? (
        <p className="border-t border-line pt-2 text-[15px]">
          It is: <strong>{settled.toLowerCase()}</strong>, settled
        </p>
      ) : causes.length ? (
        <section aria-label="What it is" className="border-t border-line pt-2">
          <h2 className="text-[13px] font-semibold text-soft">What it is</h2>
          {causes.map((entry) => (
            <div key={entry.causeId} className="mb-1 text-[14.5px]">
              <span className="flex justify-between gap-2">
                <span>{nameOf(entry.causeId)}</span>
                <strong className="whitespace-nowrap">{formatPercent(entry.probability)}</strong>
              </span>
              <Bar share={entry.probability} />
            </div>
          ))}
          <p className="flex justify-between text-sm text-soft">
            <span>others {formatPercent(others)} · none of these</span>
            <span>{formatPercent(none)}</span>
          </p>
        </section>
      ) : null}
      {next.readyOn ? (
        <p className="border-t border-line pt-2 text-[15px]">
          Ready <strong>{formatDate(next.readyOn, at.today)}</strong>
        </p>
      ) : null}
    </div>
  );
}

function DoNextCard({ assessment, settings, at, onDoNext }: Props) {
  const words = doNextWords(assessment, at, settings.currency);
  return (
    <section aria-label="Do next" className="-mx-4 mt-3 border-l-[5px] border-mark bg-mark-wash px-4 pt-2.5 pb-3.5">
      <h2 className="text-[13px] font-semibold">
        Do next{words.minutes !== null ? ` · ${formatMinutes(words.minutes)}` : ''}
      </h2>
      <button
        type="button"
        onClick={onDoNext}
        className="min-h-11 text-left text-lg leading-snug font-bold underline decoration-mark decoration-2 underline-offset-4"
      >
        {words.title} <Key>d</Key>
      </button>
      <p className="text-sm text-ink">{words.why}</p>
    </section>
  );
}

/** The same as a bar at the bottom of a narrow screen. */
export function ScaleBar(props: Props) {
  const [open, setOpen] = useState(false);
  const words = doNextWords(props.assessment, props.at, props.settings.currency);
  const worth = props.assessment.kind === 'weighed' ? props.assessment.worth : null;
  return (
    <aside
      aria-label="The scale"
      className="sticky bottom-0 z-20 max-h-[75dvh] shrink-0 overflow-y-auto border-t-2 border-ink bg-sheet lg:hidden"
    >
      <div className="flex items-stretch">
        <button
          type="button"
          onClick={props.onDoNext}
          className="min-h-14 min-w-0 flex-1 border-l-[5px] border-mark bg-mark-wash px-3 py-1.5 text-left"
        >
          <span className="block text-[13px]">
            Do next{words.minutes !== null ? ` · ${formatMinutes(words.minutes)}` : ''}
          </span>
          <strong className="leading-tight">{words.title}</strong>
        </button>
        <Button
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          className="min-h-14 shrink-0 rounded-none border-0 border-l border-line"
        >
          {worth
            ? `${worth.repair ? 'Repair' : 'Replace'} ${formatDrawn(worth.repair ? worth.probabilityRepair : 1 - worth.probabilityRepair)}`
            : 'Scale'}{' '}
          {open ? '▾' : '▴'}
        </Button>
      </div>
      {open ? (
        <div className="px-4 py-3">
          <ScaleBody {...props} />
        </div>
      ) : null}
    </aside>
  );
}
