'use client';
import type { Weighed } from '@/core/case';
import { note, TEXT_LIMITS } from '@/core/ticket';
import { Button, Select, Why } from '@/ui';
import { formatPercent } from '@/words';
import { CommitField } from '../shared/CommitField';
import { Question } from '../shared/Station';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { KindDrawing } from './KindDrawing';

type Props = Pick<StationProps, 'ask' | 'state'> & {
  machine: Weighed['machine'];
  /** Whether telling it is the next thing to do, if it is asked at all. */
  isNext: boolean;
};

/** A machine that no catalogue lists: how it is built, one look at a time. Doubt that is left stays in the figures and stops nothing. */
export function KindOfMachine({ ask, state, machine, isNext }: Props) {
  const { ask: asked, designs, seen } = machine;
  const judge = (questionId: string, answerId: string | null) =>
    void ask(note({ type: 'kind-judged', questionId, answerId }));
  return (
    <section aria-label="Kind of machine" className="flex flex-col gap-2.5 border-t border-line pt-2.5">
      {asked ? (
        <>
          <Question title={asked.text} why={asked.why} />
          <ul className="grid gap-2 sm:grid-cols-2">
            {asked.answers.map((answer, index) => (
              <li key={answer.id}>
                <button
                  type="button"
                  onClick={() => judge(asked.id, answer.id)}
                  className="flex min-h-14 w-full items-center gap-3 rounded-sm border-[1.5px] border-edge bg-sheet px-3 py-1.5 text-left"
                  {...(index === 0 && isNext ? DO_NEXT : {})}
                >
                  <KindDrawing name={answer.drawing} />
                  <span className="font-semibold">{answer.text}</span>
                </button>
              </li>
            ))}
            <li>
              <Button onClick={() => judge(asked.id, null)}>Cannot say</Button>
            </li>
          </ul>
        </>
      ) : null}
      <p className="text-[15px]">
        <Why
          label="Kind of machine"
          because="Shares of the trade, weighed by what was seen of this one. Everything below is computed for all of them together, each by its share; they sum to 100 %."
        >
          {designs
            .slice(0, 3)
            .map(({ design, probability }) => `${design.name} ${formatPercent(probability)}`)
            .join(' · ')}
          {designs.length > 3 ? `, and ${designs.length - 3} more` : ''}
        </Why>
      </p>
      {designs.length > 0 ? (
        <div className="grid gap-2.5 sm:grid-cols-2">
          <CommitField
            label="Make, as it stands on the machine"
            autoComplete="off"
            draftKey={`${state.ticketId} make`}
            committed={state.make}
            maxLength={TEXT_LIMITS.name}
            commit={(name) => ask(note({ type: 'make-noted', name: name.trim() }))}
          />
          {seen.map(({ id, text, answers, answerId }) => (
            <Select
              key={id}
              label={text}
              value={answerId ?? ''}
              empty="cannot say"
              options={answers.map((answer) => ({ value: answer.id, text: answer.text }))}
              onChange={(value) => judge(id, value || null)}
            />
          ))}
        </div>
      ) : null}
    </section>
  );
}
