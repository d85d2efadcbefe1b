'use client';
import { useState } from 'react';
import { ownPhrase, type OwnRow } from '@/core/learn';
import { Button, Field, Select } from '@/ui';

type Props = {
  findings: readonly { id: string; text: string }[];
  phrases: readonly { findingId: string; words: string }[];
  own: readonly OwnRow[];
  put: (rows: readonly OwnRow[]) => Promise<string | null>;
  drop: (ids: readonly string[]) => void;
};

/** How customers say a finding: their words, so that they are heard in the complaint. */
export function Phrases({ findings, phrases, own, put, drop }: Props) {
  const [findingId, setFindingId] = useState('');
  const [words, setWords] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const said = phrases.filter((phrase) => phrase.findingId === findingId);
  const ownIds = new Set(own.map(({ id }) => id));
  return (
    <section aria-label="How customers say it" className="border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">How customers say it</h2>
      <Select
        label="Finding"
        className="max-w-md"
        value={findingId}
        onChange={setFindingId}
        empty="choose a finding"
        options={findings.map(({ id, text }) => ({ value: id, text }))}
      />
      {findingId ? (
        <>
          <ul className="mt-2 flex flex-wrap gap-1.5">
            {said.map((phrase) => {
              const { id } = ownPhrase(phrase.findingId, phrase.words);
              return (
                <li key={phrase.words} className="flex items-center gap-1 rounded-sm border border-line px-2">
                  “{phrase.words}”
                  {ownIds.has(id) ? (
                    <Button tone="quiet" aria-label={`Remove: ${phrase.words}`} onClick={() => drop([id])}>
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
              void put([ownPhrase(findingId, words)]).then((why) => {
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
