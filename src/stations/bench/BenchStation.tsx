'use client';
import { useState } from 'react';
import { Question } from '../shared/Station';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { ReadingField } from '../shared/ReadingField';
import { WhyItFailed } from '../shared/WhyItFailed';
import type { SheetStep } from '@/core/bench';
import { clearStep, clockMinutes, cureOf, finishBench, runClock, sameStep, tickStep } from '@/core/ticket';
import type { Instant } from '@/core/units';
import { Button, Caution, cx, Mark, Select } from '@/ui';
import { formatMinutes, formatMoment, formatPercent, listOf, plural, shakenWords, verdictWords } from '@/words';

const SECTION_NAMES = { strip: 'Strip down, in this order', work: 'The job', refit: 'Refit, in this order' } as const;

export type BenchProps = StationProps<'bench' | 'lore' | 'why' | 'next'>;

/** Until when a joint of this round cures, if it still does. */
const curingUntil = ({ state, at }: Pick<BenchProps, 'state' | 'at'>): Instant | null => {
  const until = cureOf(state.round)?.waitUntil ?? null;
  return until !== null && until > at.now ? until : null;
};

/** Start and stop of the hands-on clock: what it measures is what the next price and the next sheet go by. */
function Clock({ state, at, ask }: BenchProps) {
  const { clock, finished } = state.round;
  if (finished) return null;
  const minutes = clockMinutes(clock, at.now);
  return (
    <div className="flex flex-wrap items-center gap-2.5 text-[15px]">
      <Button aria-pressed={clock.since !== null} onClick={() => void ask(runClock(clock.since === null))}>
        {clock.since ? 'Stop the clock' : 'Start the clock'}
      </Button>
      <span className="text-soft">
        {clock.since
          ? `Hands on since ${formatMoment(clock.since, at.now, at.zone)}, ${formatMinutes(minutes)} in all: each tick is a time learned.`
          : minutes > 0
            ? `It stands at ${formatMinutes(minutes)}.`
            : 'With it the sheet learns how long each step takes here.'}
      </span>
    </div>
  );
}

export function BenchLine({ state, bench, at }: BenchProps) {
  const { finished } = state.round;
  if (finished) return <>done {formatMoment(finished.at, at.now, at.zone)}</>;
  if (!bench) return <span className="text-soft">no work sheet yet</span>;
  const { sheet, plan } = bench;
  const until = curingUntil({ state, at });
  if (sheet.done > 0)
    return (
      <>
        {sheet.done} of {plural(sheet.total, 'step')} · {formatMinutes(sheet.remainingMinutes)} left
        {until ? ` · cures until ${formatMoment(until, at.now, at.zone)}` : ''}
      </>
    );
  return (
    <span className="text-soft">
      {plural(sheet.total, 'step')}, {formatMinutes(plan.expectedMinutes)} hands-on, 9 in 10 under{' '}
      {formatMinutes(plan.ninetyPercentMinutes)}
      {plan.elapsedHours > 0 ? `, then ${plan.elapsedHours} h for the joint` : ''}
      {sheet.people > 1 ? ` · ${sheet.people} people` : ''}
    </span>
  );
}

export function BenchStation(props: BenchProps) {
  const { state, bench, lore, next, ask, at } = props;
  const [limitId, setLimitId] = useState('');
  if (!bench) return <Question title="No work sheet yet" why="It follows from the cause." />;
  const { sheet, plan, proofs } = bench;
  const tick = (step: SheetStep) =>
    ask(step.tickedAt ? clearStep(step.step, step.title) : tickStep(step.step, step.title, step.waitHours));
  const finish = () =>
    ask(
      finishBench(
        plan.strip.map((step) => step.operationId),
        proofs.map(({ proof }) => proof.id),
      ),
    );
  const limit = lore.limits.find((entry) => entry.id === limitId);
  const curing = curingUntil(props);
  return (
    <div className="flex flex-col gap-4">
      <Question
        title={
          sheet.next === null
            ? 'Everything is ticked'
            : `${formatMinutes(sheet.remainingMinutes)} to go, ${sheet.done} of ${plural(sheet.total, 'step')} done`
        }
        why={`Tools: ${listOf(sheet.tools) || 'none'}. ${sheet.people > 1 ? `${sheet.people} people for the heavy steps.` : ''}`}
      />
      <Clock {...props} />
      {plan.lacking.length ? (
        <Mark tone="doubt">Not in your shop: {listOf(plan.lacking)}. Have it here before the machine is opened.</Mark>
      ) : null}
      {next.shaken.length ? <Mark tone="doubt">{shakenWords(next.shaken)}</Mark> : null}
      {curing ? (
        <Mark tone="doubt">
          Curing until {formatMoment(curing, at.now, at.zone)}: nothing may load the joint before.
        </Mark>
      ) : null}
      {plan.unreachable.length ? (
        <Mark tone="stop">The access graph of this platform does not reach: {listOf(plan.unreachable)}.</Mark>
      ) : null}
      {sheet.sections.map((section) =>
        section.steps.length ? (
          <div key={section.kind}>
            <h3 className="mb-1 font-semibold">{SECTION_NAMES[section.kind]}</h3>
            <ol>
              {section.steps.map((step) => (
                <Step
                  key={step.step.operationId}
                  step={step}
                  next={sheet.next !== null && sameStep(step.step, sheet.next)}
                  onTick={() => void tick(step)}
                />
              ))}
            </ol>
          </div>
        ) : null,
      )}
      <WhyItFailed {...props} />
      <div className="flex flex-col gap-2 border-t border-line pt-3">
        <Select
          label="Note a reading"
          className="max-w-sm"
          value={limitId}
          onChange={setLimitId}
          empty="choose what was measured"
          options={lore.limits.map((entry) => ({
            value: entry.id,
            text: `${entry.label} (${entry.unit})`,
          }))}
        />
        {limit ? <ReadingField {...props} limit={limit} key={limit.id} /> : null}
        {state.readings.map((reading) => (
          <p key={reading.limitId} className="text-[15px]">
            {reading.label}: <strong>{reading.value === null ? 'open' : `${reading.value} ${reading.unit}`}</strong>.{' '}
            {verdictWords(reading, reading.unit)}.
          </p>
        ))}
      </div>
      {state.round.finished ? null : (
        <Button
          tone={sheet.next === null ? 'main' : 'plain'}
          className="self-start"
          hint={sheet.next === null ? 'd' : undefined}
          disabled={sheet.next !== null || curing !== null}
          onClick={() => void finish()}
          {...(sheet.next === null ? DO_NEXT : {})}
        >
          Nothing left over: on to the proof
        </Button>
      )}
    </div>
  );
}

function Step({ step, next, onTick }: { step: SheetStep; next: boolean; onTick: () => void }) {
  return (
    <li className={cx('border-b border-line', next && 'bg-mark-wash')}>
      <button
        type="button"
        role="checkbox"
        aria-checked={step.tickedAt !== null}
        onClick={onTick}
        className="flex min-h-11 w-full items-center gap-3 px-2 py-1.5 text-left"
        {...(next ? DO_NEXT : {})}
      >
        <span
          aria-hidden
          className={cx(
            'grid size-6 shrink-0 place-items-center rounded-[3px] border-[1.5px] border-ink text-sm',
            step.tickedAt && 'bg-ink text-ground',
          )}
        >
          {step.tickedAt ? '✓' : ''}
        </span>
        <span className={cx('flex-1', step.tickedAt && 'text-soft')}>
          {step.title}
          {step.people > 1 ? <span className="text-soft"> · {step.people} people</span> : null}
        </span>
        <span className="text-sm whitespace-nowrap text-soft">{formatMinutes(step.minutes)}</span>
      </button>
      {next ? (
        <div className="flex flex-col gap-1 px-2 pb-2 pl-11 text-[15px]">
          {step.tools.length ? <p className="text-soft">{listOf(step.tools)}</p> : null}
          {step.cautions.map((caution) => (
            <Caution key={caution}>{caution}</Caution>
          ))}
          {step.noReturn ? <Mark tone="stop">No way back: {step.noReturn}.</Mark> : null}
          {step.rescue ? (
            <p>
              <strong>If it will not come</strong> ({formatPercent(step.rescue.chance)},{' '}
              {formatMinutes(step.rescue.minutes)} more): {step.rescue.what}.
            </p>
          ) : null}
        </div>
      ) : null}
    </li>
  );
}
