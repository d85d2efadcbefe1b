'use client';
import { useMemo, useState } from 'react';
import { CommitField } from '../shared/CommitField';
import { Question } from '../shared/Station';
import { findingsIn } from '@/core/diagnose';
import { note, TEXT_LIMITS } from '@/core/ticket';
import { DO_NEXT, type Ask, type StationProps } from '../shared/StationProps';
import { Button, cx, Mark } from '@/ui';
import { codeWords, formatPercent } from '@/words';
import { CauseList } from './CauseList';
import type { FindingsProps } from './FindingsProps';
import { NextCheck } from './NextCheck';

export function FindingsLine({ state, lore, causes }: StationProps<'lore' | 'causes'>) {
  const cause = lore.causes.find(({ id }) => id === causes.lead?.causeId);
  const found = [
    ...state.findings.filter((finding) => finding.answer === 'yes').map((finding) => finding.threeWords),
    ...state.codes.map((code) => code.code),
  ];
  if (found.length === 0 && !cause) return <span className="text-soft">nothing said yet</span>;
  return (
    <>
      {found.length ? `${found.join(' · ')} → ` : ''}
      <strong>{cause ? cause.name.toLowerCase() : 'no cause'}</strong>
      {cause ? (
        causes.decided ? (
          <>
            {' '}
            <Mark tone="sound">settled</Mark>
          </>
        ) : (
          `, ${formatPercent(causes.lead?.probability ?? 0)}`
        )
      ) : (
        ''
      )}
    </>
  );
}

const NEXT_ANSWER = { none: 'yes', yes: 'no', no: 'not-sure', 'not-sure': 'yes' } as const;
const SHAPES = { none: '', yes: '●', no: '✕', 'not-sure': '?' } as const;

/** Before the machine is known: what the customer says can be written down all the same. */
export function FindingsUnread(props: Pick<StationProps, 'state' | 'ask'>) {
  return (
    <div className="flex flex-col gap-4">
      <Complaint {...props} />
      <Question
        title="Read the plate first"
        why="The plain choices depend on the design of the machine. What the customer says can be written down now."
      />
    </div>
  );
}

export function FindingsStation(props: FindingsProps) {
  const { state, lore, ask } = props;
  const groups = [...new Set(lore.findings.map((finding) => finding.group))].filter(
    (group) => group !== 'Displayed code',
  );
  return (
    <div className="flex flex-col gap-4">
      <Complaint {...props} lore={lore} />
      <Question title="What does it do?" why="Tap once for yes, again for no, again for not sure." />
      <div className="flex flex-col gap-2.5">
        {groups.map((group, place) => (
          <fieldset key={group} className="grid gap-x-3 gap-y-1 md:grid-cols-[8.5rem_1fr]">
            <legend className="float-left text-sm text-soft md:pt-3">{group}</legend>
            <div className="flex flex-wrap gap-1.5">
              {lore.findings
                .filter((finding) => finding.group === group)
                .map((finding, index) => {
                  const answer = state.findings.find((entry) => entry.findingId === finding.id)?.answer ?? 'none';
                  return (
                    <button
                      key={finding.id}
                      type="button"
                      aria-pressed={answer === 'yes'}
                      onClick={() =>
                        void ask(
                          note({
                            type: 'finding-noted',
                            findingId: finding.id,
                            answer: NEXT_ANSWER[answer],
                            threeWords: finding.threeWords,
                          }),
                        )
                      }
                      className={cx(
                        'min-h-11 rounded-sm border-[1.5px] px-2.5 text-[15px]',
                        answer === 'yes'
                          ? 'border-mark bg-mark font-semibold text-mark-ink'
                          : answer === 'none'
                            ? 'border-line bg-sheet'
                            : 'border-edge bg-well',
                      )}
                      {...(place === 0 && index === 0 && state.findings.length === 0 ? DO_NEXT : {})}
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
                })}
            </div>
          </fieldset>
        ))}
      </div>
      <CodeField {...props} />
      <div className="grid gap-5 lg:grid-cols-2">
        <CauseList {...props} />
        <NextCheck {...props} />
      </div>
    </div>
  );
}

type Asked = { state: StationProps['state']; ask: Ask };

function Complaint({ state, ask, lore }: Asked & { lore?: FindingsProps['lore'] }) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <div className="flex flex-col gap-2">
      <CommitField
        label="What the customer says"
        draftKey={`${state.ticketId} complaint`}
        autoComplete="off"
        committed={state.complaint}
        maxLength={TEXT_LIMITS.note}
        onTyped={setTyped}
        commit={(text) => ask(note({ type: 'complaint-noted', text }))}
      />
      {lore ? <Heard text={typed ?? state.complaint} lore={lore} state={state} ask={ask} /> : null}
    </div>
  );
}

/** The findings that the customer's words speak of and nobody has answered yet: one touch notes each. */
function Heard({ text, lore, state, ask }: Asked & { text: string; lore: FindingsProps['lore'] }) {
  const said = useMemo(() => findingsIn(text, lore.phrases, lore.findings), [text, lore]);
  const open = said.flatMap((one) => {
    const finding = lore.findings.find(({ id }) => id === one.findingId);
    return finding && !state.findings.some(({ findingId }) => findingId === one.findingId) ? [{ ...one, finding }] : [];
  });
  if (open.length === 0) return null;
  return (
    <ul aria-label="Heard in these words" className="flex flex-wrap gap-1.5">
      {open.map(({ finding, present, words }) => (
        <li key={finding.id}>
          <Button
            onClick={() =>
              void ask(
                note({
                  type: 'finding-noted',
                  findingId: finding.id,
                  answer: present ? 'yes' : 'no',
                  threeWords: finding.threeWords,
                }),
              )
            }
          >
            <span className="text-soft">“{words}”:</span>&nbsp;{present ? '' : 'not: '}
            {finding.text.toLowerCase()}
          </Button>
        </li>
      ))}
    </ul>
  );
}

function CodeField({ state, lore, ask }: FindingsProps) {
  const [unknown, setUnknown] = useState('');
  const { codes } = lore;
  const plain = (text: string) => text.replace(/\s/g, '').toLowerCase();
  const take = async (text: string) => {
    const known = codes.find((code) => plain(code.code) === plain(text));
    setUnknown(known || !text ? '' : text);
    if (text === '') return true;
    return ask(
      note({
        type: 'code-noted',
        code: known?.code ?? text,
        findingId: known?.findingId ?? null,
        meaning: known?.meaning ?? null,
      }),
    );
  };
  const last = state.codes.at(-1);
  return (
    <CommitField
      label="Displayed code"
      className="max-w-md"
      mono
      autoComplete="off"
      draftKey={`${state.ticketId} code`}
      committed={last?.code ?? ''}
      maxLength={TEXT_LIMITS.code}
      commit={take}
      note={
        unknown
          ? `${unknown} is not listed for this maker. It is kept on the ticket.`
          : last
            ? `${last.code}: ${codeWords(last)}. A code names a circuit, never a part.`
            : codes.length
              ? `For example ${codes
                  .slice(0, 3)
                  .map((code) => code.code)
                  .join(', ')}. A code names a circuit, never a part.`
              : 'No list of codes is known for this make: it is kept as it stands. A code names a circuit, never a part.'
      }
    />
  );
}
