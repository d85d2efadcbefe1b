'use client';
import { useState } from 'react';
import type { Finding } from '@/core/catalogue';
import { note } from '@/core/ticket';
import { Button, cx, Folded } from '@/ui';
import { formatMinutes, plural } from '@/words';
import { DO_NEXT } from '../shared/StationProps';
import type { FindingsProps } from './FindingsProps';
import { keepPlaces } from './keepPlaces';

const NEXT_ANSWER = { none: 'yes', yes: 'no', no: 'not-sure', 'not-sure': 'yes' } as const;
const SHAPES = { none: '', yes: '●', no: '✕', 'not-sure': '?' } as const;

/** What is answered, and what would tell most: beside the complaint. What has a place keeps it, so that nothing moves under a finger. */
export function Observed(props: FindingsProps) {
  const { state, lore, telling, ask } = props;
  const answered = state.findings.map(({ findingId }) => findingId);
  const known = new Set(lore.findings.map(({ id }) => id));
  const [kept, setKept] = useState<readonly string[]>([]);
  const shown = keepPlaces(kept, { answered, telling: telling.map(({ findingId }) => findingId), known });
  if (shown.length !== kept.length) setKept(shown);
  const findings = shown.flatMap((id) => lore.findings.find((finding) => finding.id === id) ?? []);
  return (
    <div className="flex flex-col gap-2">
      <div role="group" aria-label="What would tell most" className="flex flex-wrap gap-1.5">
        {findings.map((finding, index) => (
          <FindingButton
            key={finding.id}
            finding={finding}
            state={state}
            ask={ask}
            first={index === 0 && state.findings.length === 0}
          />
        ))}
      </div>
      <Questions {...props} />
      <ByPlace {...props} />
    </div>
  );
}

/** One finding: tapped for yes, again for no, again for not sure. */
function FindingButton({
  finding,
  state,
  ask,
  first = false,
}: Pick<FindingsProps, 'state' | 'ask'> & { finding: Finding; first?: boolean }) {
  const answer = state.findings.find((entry) => entry.findingId === finding.id)?.answer ?? 'none';
  const { id: findingId, threeWords } = finding;
  return (
    <button
      type="button"
      aria-pressed={answer === 'yes'}
      onClick={() => void ask(note({ type: 'finding-noted', findingId, answer: NEXT_ANSWER[answer], threeWords }))}
      className={cx(
        'min-h-11 rounded-sm border-[1.5px] px-2.5 text-left text-[15px]',
        answer === 'yes'
          ? 'border-mark bg-mark font-semibold text-mark-ink'
          : answer === 'none'
            ? 'border-line bg-sheet'
            : 'border-edge bg-well',
      )}
      {...(first ? DO_NEXT : {})}
    >
      {SHAPES[answer] ? <span aria-hidden>{SHAPES[answer]} </span> : null}
      {finding.text}
      {answer === 'no' ? (
        <span className="sr-only">: no</span>
      ) : answer === 'not-sure' ? (
        <span className="sr-only">: not sure</span>
      ) : null}
    </button>
  );
}

/** Questions for the customer: each answer is one touch. */
function Questions({ state, lore, ask }: FindingsProps) {
  const questions = lore.checks.filter(({ kind }) => kind === 'ask');
  if (questions.length === 0) return null;
  const answered = questions.filter(({ id }) => state.checks.some(({ checkId }) => checkId === id)).length;
  return (
    <Folded
      title="Ask the customer"
      aside={`${plural(questions.length, 'question')}${answered ? `, ${answered} answered` : ''}`}
    >
      <ul className="flex flex-col gap-2.5">
        {questions.map((question) => {
          const said = state.checks.find(({ checkId }) => checkId === question.id);
          return (
            <li key={question.id} role="group" aria-label={question.title}>
              <p className="text-[15px]">
                {question.title.replace(/^Ask: /, '').replace(/^./, (letter) => letter.toUpperCase())}{' '}
                <span className="text-sm text-soft">{formatMinutes(question.minutes)}</span>
              </p>
              <div className="mt-1 flex flex-wrap gap-1.5">
                {[...question.outcomes, null].map((outcome) => {
                  const is = said !== undefined && said.outcomeId === (outcome?.id ?? null);
                  return (
                    <Button
                      key={outcome?.id ?? ''}
                      tone={is ? 'main' : 'plain'}
                      aria-pressed={is}
                      onClick={() =>
                        void ask(
                          note({
                            type: 'check-done',
                            checkId: question.id,
                            outcomeId: outcome?.id ?? null,
                            title: question.title,
                            outcome: outcome?.text ?? null,
                          }),
                        )
                      }
                    >
                      {outcome?.text ?? 'Could not say'}
                    </Button>
                  );
                })}
              </div>
            </li>
          );
        })}
      </ul>
    </Folded>
  );
}

/** All findings, by where they are noticed. */
function ByPlace({ state, lore, ask }: FindingsProps) {
  const groups = [...new Set(lore.findings.map(({ group }) => group))].filter((group) => group !== 'Displayed code');
  return (
    <Folded title="All findings" aside="by place">
      <div className="flex flex-col gap-2.5">
        {groups.map((group) => (
          <fieldset key={group}>
            <legend className="text-sm text-soft">{group}</legend>
            <div className="mt-1 flex flex-wrap gap-1.5">
              {lore.findings
                .filter((finding) => finding.group === group)
                .map((finding) => (
                  <FindingButton key={finding.id} finding={finding} state={state} ask={ask} />
                ))}
            </div>
          </fieldset>
        ))}
      </div>
    </Folded>
  );
}
