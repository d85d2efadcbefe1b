'use client';
import { useMemo, useState } from 'react';
import { ownAnswerPhrase, ownPhrase, type CauseTables, type OwnRow } from '@/core/learn';
import { Button, Field, Select } from '@/ui';

type Props = {
  tables: CauseTables;
  own: readonly OwnRow[];
  put: (rows: readonly OwnRow[]) => Promise<string | null>;
  drop: (ids: readonly string[]) => void;
};

/** What can be said: its rows of words, and how another is written. */
type Sayable = { key: string; text: string; words: readonly string[]; rowOf: (words: string) => OwnRow };

function sayablesOf({ findings, phrases, checks, outcomes, answer_phrases }: CauseTables): Sayable[] {
  const questions = checks.filter(({ kind }) => kind === 'ask');
  return [
    ...findings.map(({ id, text }) => ({
      key: id,
      text,
      words: phrases.filter(({ findingId }) => findingId === id).map(({ words }) => words),
      rowOf: (words: string) => ownPhrase(id, words),
    })),
    ...questions.flatMap((check) =>
      outcomes
        .filter(({ checkId }) => checkId === check.id)
        .map(({ id, text }) => ({
          key: `${check.id} ${id}`,
          text: `${check.title} ${text}`,
          words: answer_phrases
            .filter(({ checkId, outcomeId }) => checkId === check.id && outcomeId === id)
            .map(({ words }) => words),
          rowOf: (words: string) => ownAnswerPhrase(check.id, id, words),
        })),
    ),
  ];
}

/** How customers say a finding, or answer a question before it is asked: their words, so that they are heard in the complaint. */
export function Phrases({ tables, own, put, drop }: Props) {
  const [key, setKey] = useState('');
  const [words, setWords] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const sayables = useMemo(() => sayablesOf(tables), [tables]);
  const chosen = sayables.find((one) => one.key === key);
  const ownIds = new Set(own.map(({ id }) => id));
  return (
    <section aria-label="How customers say it" className="border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">How customers say it</h2>
      <Select
        label="Finding or answer"
        className="max-w-md"
        value={key}
        onChange={setKey}
        empty="choose what they say"
        options={sayables.map((one) => ({ value: one.key, text: one.text }))}
      />
      {chosen ? (
        <>
          <ul className="mt-2 flex flex-wrap gap-1.5">
            {chosen.words.map((phrase) => {
              const { id } = chosen.rowOf(phrase);
              return (
                <li key={phrase} className="flex items-center gap-1 rounded-sm border border-line px-2">
                  “{phrase}”
                  {ownIds.has(id) ? (
                    <Button tone="quiet" aria-label={`Remove: ${phrase}`} onClick={() => drop([id])}>
                      Remove
                    </Button>
                  ) : null}
                </li>
              );
            })}
          </ul>
          <form
            className="mt-2 flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (words.trim() === '') return;
              void put([chosen.rowOf(words)]).then((why) => {
                setWrong(why);
                if (why === null) setWords('');
              });
            }}
          >
            <Field
              label="In their words"
              className="w-72"
              value={words}
              onChange={(event) => setWords(event.target.value)}
              note={wrong ?? undefined}
            />
            <Button type="submit" disabled={words.trim() === ''}>
              Add
            </Button>
          </form>
        </>
      ) : null}
    </section>
  );
}
