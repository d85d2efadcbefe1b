'use client';
import { useState } from 'react';
import { Question } from '../shared/Station';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { ReadingField } from '../shared/ReadingField';
import type { SheetStep } from '@/core/bench';
import { addHours } from '@/core/units';
import { now } from '@/store';
import { Button, Caution, cx, Mark, Select } from '@/ui';
import { formatMinutes, formatMoment, formatPercent, listOf, plural } from '@/words';

const SECTION_NAMES = { strip: 'Strip down, in this order', work: 'The job', refit: 'Refit, in this order' } as const;

export function BenchLine({ state, assessment, at }: StationProps) {
  const { sheet, plan } = assessment;
  if (state.benchFinishedAt) return <>done {formatMoment(state.benchFinishedAt, at.now, at.zone)}</>;
  if (!sheet || !plan) return <span className="text-soft">no work sheet yet</span>;
  if (sheet.done > 0)
    return (
      <>
        {sheet.done} of {plural(sheet.total, 'step')} · {formatMinutes(sheet.remainingMinutes)} left
        {sheet.waitUntil && sheet.waitUntil > at.now
          ? ` · cures until ${formatMoment(sheet.waitUntil, at.now, at.zone)}`
          : ''}
      </>
    );
  return (
    <span className="text-soft">
      {plural(sheet.total, 'step')}, {formatMinutes(plan.handsOnMinutes)} hands-on, 9 in 10 under{' '}
      {formatMinutes(plan.ninetyPercentMinutes)}
      {plan.elapsedHours > 0 ? `, then ${plan.elapsedHours} h for the joint` : ''}
      {sheet.people > 1 ? ` · ${sheet.people} people` : ''}
    </span>
  );
}

export function BenchStation(props: StationProps) {
  const { state, assessment, record, at } = props;
  const { sheet, plan, knowledge } = assessment;
  const [limitId, setLimitId] = useState('');
  if (!sheet || !plan) return <Question title="No work sheet yet" why="It follows from the cause." />;
  const hours = (step: SheetStep) => plan.strip.find((entry) => step.key.endsWith(` ${entry.operationId}`))?.operation;
  const tick = (step: SheetStep) => {
    const operation = hours(step);
    const waits =
      operation !== undefined &&
      operation.elapsedHours > 0 &&
      (step.key.startsWith('refit ') || operation.refitMinutes === 0);
    const event = {
      type: 'step-ticked' as const,
      key: step.key,
      operationId: operation?.id ?? '',
      waitUntil: waits ? addHours(now(), operation.elapsedHours) : null,
    };
    void record(step.tickedAt ? { type: 'step-cleared', key: step.key } : event);
  };
  const limit = knowledge?.limits.find((entry) => entry.id === limitId);
  const curing = sheet.waitUntil !== null && sheet.waitUntil > at.now;
  return (
    <div className="flex flex-col gap-4">
      <Question
        title={
          sheet.nextKey === null
            ? 'Everything is ticked'
            : `${formatMinutes(sheet.remainingMinutes)} to go, ${sheet.done} of ${plural(sheet.total, 'step')} done`
        }
        why={`Tools: ${listOf(sheet.tools) || 'none'}. ${sheet.people > 1 ? `${sheet.people} people for the heavy steps.` : ''}`}
      />
      {curing ? (
        <Mark tone="doubt">
          Curing until {formatMoment(sheet.waitUntil ?? at.now, at.now, at.zone)}: nothing may load the joint before.
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
                <Step key={step.key} step={step} next={step.key === sheet.nextKey} onTick={() => tick(step)} />
              ))}
            </ol>
          </div>
        ) : null,
      )}
      <div className="flex flex-col gap-2 border-t border-line pt-3">
        <Select
          label="Note a reading"
          className="max-w-sm"
          value={limitId}
          onChange={setLimitId}
          empty="choose what was measured"
          options={(knowledge?.limits ?? []).map((entry) => ({
            value: entry.id,
            text: `${entry.label} (${entry.unit})`,
          }))}
        />
        {limit ? <ReadingField {...props} limit={limit} key={limit.id} /> : null}
        {state.readings.map((reading) => (
          <p key={reading.limitId} className="text-[15px]">
            {reading.label}: <strong>{reading.value === null ? 'open' : `${reading.value} ${reading.unit}`}</strong>.{' '}
            {reading.verdict}.
          </p>
        ))}
      </div>
      {state.benchFinishedAt ? null : (
        <Button
          tone={sheet.nextKey === null ? 'main' : 'plain'}
          className="self-start"
          hint={sheet.nextKey === null ? 'd' : undefined}
          disabled={sheet.nextKey !== null || curing}
          onClick={() =>
            void record({ type: 'bench-finished', operationIds: plan.strip.map((step) => step.operationId) })
          }
          {...(sheet.nextKey === null ? DO_NEXT : {})}
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
