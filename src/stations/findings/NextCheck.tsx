'use client';
import { useState } from 'react';
import { note } from '@/core/ticket';
import { Button, Select, Why } from '@/ui';
import { formatMinutes, formatRate } from '@/words';
import type { FindingsProps } from './FindingsProps';
import { CheckCard, FixCard, namesOf } from './StepCards';

const OTHERS_SHOWN = 4;

/** A look that tells how the machine is built, where that saves more than it takes. */
function LookFirst({ machine, look, settings, ask }: FindingsProps) {
  const question = machine.ask;
  if (!look || !question || look.questionId !== question.id || look.saves <= look.cost) return null;
  const judge = (answerId: string | null) => void ask(note({ type: 'kind-judged', questionId: question.id, answerId }));
  return (
    <section aria-label="Look first" className="mb-2.5 rounded-sm border-[1.5px] border-edge bg-sheet p-3">
      <p className="font-semibold">{question.text}</p>
      <p className="text-[15px] text-soft">
        {question.why}{' '}
        <Why
          label="What the look saves"
          because="The cost on average until it is mended, as it stands, less the same after each answer, weighed by its chance."
        >
          It saves {formatRate(look.saves, settings.currency)} on average and takes {formatMinutes(look.minutes)}.
        </Why>
      </p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {question.answers.map((answer) => (
          <Button key={answer.id} onClick={() => judge(answer.id)}>
            {answer.text}
          </Button>
        ))}
        <Button onClick={() => judge(null)}>Cannot say</Button>
      </div>
    </section>
  );
}

/** What to do next and why, the cheapest expected way first. */
export function NextCheck(props: FindingsProps) {
  const { steps, next } = props;
  const names = namesOf(props);
  const [lead] = steps;
  if (!lead) return null;
  const isTold = next.doNext.kind !== 'note-findings';
  return (
    <section aria-label="The next check">
      <h3 className="mb-1 font-semibold">{headingOf(next.doNext.kind, lead.kind)}</h3>
      <LookFirst {...props} />
      {lead.kind === 'check' ? (
        <CheckCard {...props} step={lead} names={names} key={lead.id} />
      ) : lead.kind === 'fix' ? (
        <FixCard {...props} step={lead} names={names} key={`${lead.id} ${lead.also ?? ''} ${lead.fixId ?? ''}`} />
      ) : (
        <p className="rounded-sm border-[1.5px] border-edge bg-sheet p-3">
          {isTold
            ? 'Searching on costs more than it can save: offer a replacement at the Worth station.'
            : 'Say what it does first. By the machine alone searching would cost more than it can save; what it does may well change that.'}
        </p>
      )}
    </section>
  );
}

/** One next thing at a time: what is not it is headed as what it is. */
function headingOf(
  next: FindingsProps['next']['doNext']['kind'],
  lead: FindingsProps['steps'][number]['kind'],
): string {
  if (next === 'note-findings') return 'Before it is told what it does, by the machine alone';
  return next === 'decide-cause' && lead === 'check' ? 'To be surer still' : 'What to do next';
}

/** The other ways with what they cost on average, a check that was done all the same, and what must not be done now. */
export function OtherWays(props: FindingsProps) {
  const { steps, settings } = props;
  const [picked, setPicked] = useState<string | null>(null);
  const names = namesOf(props);
  const [lead] = steps;
  const chosen = steps.find((entry) => entry.kind === 'check' && entry.id === picked);
  return (
    <section aria-label="Other ways">
      <h3 className="mb-1 font-semibold">Other ways, with the cost on average until it is mended</h3>
      {chosen && chosen !== lead ? <CheckCard {...props} step={chosen} names={names} key={chosen.id} /> : null}
      <ul>
        {steps
          .filter((entry) => entry !== lead && entry !== chosen)
          .slice(0, OTHERS_SHOWN)
          .map((entry) => (
            <li
              key={`${entry.kind} ${entry.id} ${entry.also ?? ''} ${entry.fixId ?? ''}`}
              className="flex min-h-11 items-center justify-between gap-3 border-b border-line text-[15px]"
            >
              {entry.kind === 'check' ? (
                <button
                  type="button"
                  className="min-h-11 text-left underline decoration-edge underline-offset-4"
                  onClick={() => setPicked(entry.id)}
                >
                  {names.step(entry)}
                </button>
              ) : (
                <span>{names.step(entry)}</span>
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
      <NotNow {...props} onPick={setPicked} />
      <Select
        label="Another check was done"
        className="mt-2 max-w-sm"
        value={chosen ? (picked ?? '') : ''}
        onChange={(id) => setPicked(id || null)}
        empty="choose which"
        options={steps.flatMap((entry) =>
          entry.kind === 'check' ? [{ value: entry.id, text: names.step(entry) }] : [],
        )}
      />
    </section>
  );
}

/** Checks that must not be done as the machine stands: why, and what would allow them. */
function NotNow({ barred, lore, steps, onPick }: FindingsProps & { onPick: (checkId: string) => void }) {
  if (barred.length === 0) return null;
  const titleOf = (id: string) => lore.checks.find((entry) => entry.id === id)?.title ?? id;
  const partOf = (id: string) => lore.operations.find((entry) => entry.id === id)?.title.toLowerCase() ?? id;
  const live = barred.find((entry) => entry.kind === 'live');
  const off = barred.flatMap((entry) => (entry.kind === 'taken-off' ? [entry] : []));
  const lifted = live?.kind === 'live' ? live.liftedBy : null;
  const lifts = lifted && lore.checks.find(({ id }) => id === lifted.checkId);
  const canLift = lifts && steps.some((step) => step.kind === 'check' && step.id === lifts.id);
  return (
    <section aria-label="Not now" className="mt-3 border-l-4 border-stop bg-stop-wash p-3 text-[15px]">
      {live?.kind === 'live' ? (
        <>
          <p>
            <strong>Not live now.</strong> {live.why}{' '}
            {lifts && lifted
              ? `It may be run again once “${lifts.title}” comes out as: ${lifts.outcomes.find(({ id }) => id === lifted.outcomeId)?.text.toLowerCase() ?? ''}.`
              : 'It stays unplugged until that is mended, or was found not to be so.'}
          </p>
          <p className="mt-1 text-soft">
            Waits for that:{' '}
            {barred.flatMap((entry) => (entry.kind === 'live' ? [titleOf(entry.checkId)] : [])).join('; ')}
          </p>
          {canLift ? (
            <Button className="mt-1.5" onClick={() => onPick(lifts.id)}>
              {lifts.title}
            </Button>
          ) : null}
        </>
      ) : null}
      {off.map((entry) => (
        <p key={entry.checkId} className="mt-1">
          <strong>{titleOf(entry.checkId)}</strong>: first put back what is off (
          {entry.operationIds.map(partOf).join(', ')}
          ).
        </p>
      ))}
    </section>
  );
}
