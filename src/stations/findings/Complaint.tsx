'use client';
import { useMemo, useState } from 'react';
import { answersIn, codesIn, findingsIn } from '@/core/diagnose';
import type { CodeMeaning } from '@/core/catalogue';
import { note, TEXT_LIMITS } from '@/core/ticket';
import { Button } from '@/ui';
import { codeWords } from '@/words';
import { CommitField } from '../shared/CommitField';
import type { Ask, StationProps } from '../shared/StationProps';
import type { FindingsProps } from './FindingsProps';

type Asked = { state: StationProps['state']; ask: Ask };

/** What the customer says, and the findings that their words speak of. */
export function Complaint({ state, ask, lore }: Asked & { lore?: FindingsProps['lore'] }) {
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

const codeNoted = (code: string, known: CodeMeaning | undefined) =>
  note({ type: 'code-noted', code, findingId: known?.findingId ?? null, meaning: known?.meaning ?? null });

/** The findings, codes and answers that the customer's words speak of and nobody has noted yet: one touch notes each. */
function Heard({ text, lore, state, ask }: Asked & { text: string; lore: FindingsProps['lore'] }) {
  const said = useMemo(() => findingsIn(text, lore.phrases, lore.findings), [text, lore]);
  const answered = useMemo(() => answersIn(text, lore.answerPhrases), [text, lore]);
  const codes = useMemo(() => codesIn(text, lore.codes), [text, lore]).filter(
    ({ code }) => !state.codes.some((noted) => noted.code === code),
  );
  const findings = said.flatMap((one) => {
    const finding = lore.findings.find(({ id }) => id === one.findingId);
    return finding && !state.findings.some(({ findingId }) => findingId === one.findingId) ? [{ ...one, finding }] : [];
  });
  const answers = answered.flatMap(({ checkId, outcomeId, words }) => {
    const check = lore.checks.find(({ id }) => id === checkId);
    const outcome = check?.outcomes.find(({ id }) => id === outcomeId);
    const open = check && outcome && !state.checks.some((done) => done.checkId === checkId);
    return open ? [{ check, outcome, words }] : [];
  });
  if (findings.length + answers.length + codes.length === 0) return null;
  return (
    <ul data-heard aria-label="Heard in these words" className="flex flex-wrap gap-1.5">
      {findings.map(({ finding, present, words }) => (
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
            <HeardAs words={words} as={`${present ? '' : 'not: '}${finding.text.toLowerCase()}`} />
          </Button>
        </li>
      ))}
      {codes.map((code) => (
        <li key={code.id}>
          <Button onClick={() => void ask(codeNoted(code.code, code))}>
            <HeardAs words={code.code} as={codeWords(code)} />
          </Button>
        </li>
      ))}
      {answers.map(({ check, outcome, words }) => (
        <li key={check.id}>
          <Button
            onClick={() =>
              void ask(
                note({
                  type: 'check-done',
                  checkId: check.id,
                  outcomeId: outcome.id,
                  title: check.title,
                  outcome: outcome.text,
                }),
              )
            }
          >
            <HeardAs words={words} as={outcome.text.toLowerCase()} />
          </Button>
        </li>
      ))}
    </ul>
  );
}

/** One line of text that breaks as a sentence does. */
function HeardAs({ words, as }: { words: string; as: string }) {
  return (
    <span className="py-1 text-left">
      <span className="text-soft">“{words}”:</span> {as}
    </span>
  );
}

export function CodeField({ state, lore, ask }: FindingsProps) {
  const [unknown, setUnknown] = useState('');
  const { codes } = lore;
  const plain = (text: string) => text.replace(/\s/g, '').toLowerCase();
  const take = async (text: string) => {
    const known = codes.find((code) => plain(code.code) === plain(text));
    setUnknown(known || !text ? '' : text);
    if (text === '') return true;
    return ask(codeNoted(known?.code ?? text, known));
  };
  const last = state.codes.at(-1);
  return (
    <CommitField
      label="Displayed code"
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
              ? `Like ${codes[0]?.code}. It names a circuit, never a part.`
              : 'No list of codes is known for this make: it is kept as it stands. A code names a circuit, never a part.'
      }
    />
  );
}
