'use client';
import { useState } from 'react';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { ReadingField } from '../shared/ReadingField';
import type { NextStep } from '@/core/diagnose';
import { Button, Caution } from '@/ui';
import { formatMinutes, formatPercent, formatRate } from '@/words';

/** What to do next and why; under it the other ways with what they cost on average. */
export function NextCheck(props: StationProps) {
  const { assessment, settings } = props;
  const [picked, setPicked] = useState<string | null>(null);
  const steps = assessment.steps;
  const step =
    steps.find((candidate) => candidate.id === picked && candidate.kind === 'check') ??
    steps.find((candidate) => candidate.kind === 'check') ??
    null;
  const name = (entry: NextStep) =>
    entry.kind === 'check'
      ? entry.check?.title
      : entry.kind === 'fix'
        ? `Mend: ${assessment.knowledge?.causes.find((cause) => cause.id === entry.id)?.name.toLowerCase() ?? ''}`
        : 'Give it up: offer a replacement';
  return (
    <div>
      <h3 className="mb-1 font-semibold">What to check next</h3>
      {step ? <Check {...props} step={step} key={step.id} /> : <p className="text-soft">No check would settle more.</p>}
      <h4 className="mt-3 text-sm text-soft">Other ways, with the cost on average until it is mended</h4>
      <ul>
        {steps
          .filter((entry) => entry !== step)
          .slice(0, 4)
          .map((entry) => (
            <li
              key={entry.kind + entry.id}
              className="flex min-h-11 items-center justify-between gap-3 border-b border-line text-[15px]"
            >
              {entry.kind === 'check' ? (
                <button
                  type="button"
                  className="min-h-11 text-left underline decoration-edge underline-offset-4"
                  onClick={() => setPicked(entry.id)}
                >
                  {name(entry)}
                </button>
              ) : (
                <span>{name(entry)}</span>
              )}
              <span className="whitespace-nowrap text-soft">
                {entry.minutes + entry.accessMinutes > 0
                  ? `${formatMinutes(entry.minutes + entry.accessMinutes)} · `
                  : ''}
                {formatRate(entry.expectedCost, settings.currency)}
              </span>
            </li>
          ))}
      </ul>
    </div>
  );
}

function Check({ step, assessment, record, settings, state, ...rest }: StationProps & { step: NextStep }) {
  const check = step.check;
  if (!check) return null;
  const causeName = (id: string) =>
    assessment.knowledge?.causes.find((cause) => cause.id === id)?.name.toLowerCase() ?? 'none of these';
  const opens = step.opens
    .map((id) => assessment.knowledge?.operations.find((operation) => operation.id === id)?.title.toLowerCase())
    .filter(Boolean);
  const limit = assessment.knowledge?.limits.find((entry) => entry.checkId === check.id);
  const first = assessment.steps[0] === step && !assessment.decided;
  return (
    <div className="flex flex-col gap-2 rounded-sm border-[1.5px] border-edge bg-sheet p-3">
      <p className="flex items-baseline justify-between gap-3">
        <strong className="text-[17px]">{check.title}</strong>
        <span className="whitespace-nowrap">{formatMinutes(step.minutes + step.accessMinutes)}</span>
      </p>
      <p className="text-[15px]">{check.how}</p>
      <p className="text-[15px] text-soft">
        {check.why} {opens.length ? `The way in: ${opens.join(', ')} (${formatMinutes(step.accessMinutes)}). ` : ''}
        {check.state === 'energised' ? 'Machine live.' : 'Machine unplugged.'} On average{' '}
        {formatRate(step.expectedCost, settings.currency)} until it is mended; without any check{' '}
        {formatRate(step.withoutChecks, settings.currency)}.
      </p>
      {check.cautions.map((caution) => (
        <Caution key={caution}>{caution}</Caution>
      ))}
      {limit ? (
        <ReadingField
          {...rest}
          state={state}
          assessment={assessment}
          settings={settings}
          record={record}
          limit={limit}
        />
      ) : null}
      <ul className="flex flex-col gap-1.5">
        {step.outcomes.map((outcome, at) => (
          <li key={outcome.outcomeId}>
            <button
              type="button"
              className="flex min-h-11 w-full flex-wrap items-center justify-between gap-x-3 rounded-sm border-[1.5px] border-edge bg-ground px-3 py-1.5 text-left"
              onClick={() =>
                void record({
                  type: 'check-done',
                  checkId: check.id,
                  outcomeId: outcome.outcomeId,
                  text: `${check.title}: ${outcome.text.toLowerCase()}`,
                })
              }
              {...(first && at === 0 ? DO_NEXT : {})}
            >
              <span className="font-semibold">{outcome.text}</span>
              <span className="text-sm text-soft">
                {formatPercent(outcome.probability)} likely → {causeName(outcome.leadsTo)}{' '}
                {formatPercent(outcome.leadProbability)}
              </span>
            </button>
          </li>
        ))}
        <li>
          <Button
            onClick={() =>
              void record({ type: 'check-done', checkId: check.id, outcomeId: null, text: `${check.title}: not sure` })
            }
          >
            Not sure
          </Button>
        </li>
      </ul>
    </div>
  );
}
