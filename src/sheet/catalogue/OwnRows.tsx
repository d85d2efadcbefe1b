'use client';
import { useState } from 'react';
import type { Settings } from '@/core/case';
import { changeSettings, correctOwn, database, restoreOwn, saving, strikeOwn, type OwnProblems } from '@/store';
import { Button, cx, download, Field, Mark, Panel } from '@/ui';
import { learnedChangeWords, learnedFromWords, ownRowWords, plural, tableWords, troubleWords } from '@/words';
import { filesWorker, type LearnedListed, type OwnListed } from '@/workers';

const FILE = 'learned.zip';
const SHOWN = 60;

type Props = {
  rows: readonly OwnListed[];
  learned: readonly LearnedListed[];
  settings: Settings | undefined;
  zone: string;
  shopName: string;
};

/** The shop's own layer, row by row: what it says, where it was learned, to be corrected, struck out, brought back, and taken out. */
export function OwnRows({ rows, learned, settings, zone, shopName }: Props) {
  const [editing, setEditing] = useState<OwnListed | null>(null);
  const [all, setAll] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const attempt = (work: Promise<unknown>) =>
    void work.catch((error: unknown) => setSaid(`Not saved: ${troubleWords(error)}.`));
  const take = async () => {
    const made = await filesWorker.get().exportOwn(`Learned by ${shopName || 'a shop'}`);
    if (made) download(FILE, 'application/zip', made);
    setSaid(made ? `It is in ${FILE}: another shop can import it.` : 'Nothing was learned yet.');
  };
  if (rows.length + learned.length === 0) return null;
  return (
    <section aria-label="Learned here" className="mt-4 border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">Learned here</h2>
      <p className="max-w-prose text-[15px] text-soft">
        Rows that followed from this shop’s own tickets and orders. A row that is struck out counts no more, nor what
        hangs on it.
      </p>
      <ul className="mt-1.5 max-w-5xl">
        {rows.slice(0, all ? rows.length : SHOWN).map((row) => (
          <li
            key={row.id}
            aria-label={ownRowWords(row)}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1"
          >
            <div className="min-w-0 flex-1 basis-72">
              <span className={row.state === 'struck' ? 'text-soft line-through' : ''}>{ownRowWords(row)}</span>
              <span className="block text-sm text-soft">
                {learnedFromWords(row.from, zone)}
                {row.state === 'corrected' ? ' · corrected' : ''}
                {row.state === 'struck' ? ' · struck out' : ''}
              </span>
            </div>
            {row.state === 'struck' ? null : (
              <Button tone="quiet" aria-label={`Correct: ${ownRowWords(row)}`} onClick={() => setEditing(row)}>
                Correct
              </Button>
            )}
            {row.state === 'learned' ? (
              <Button
                tone="quiet"
                aria-label={`Strike out: ${ownRowWords(row)}`}
                onClick={() => attempt(saving.keep(() => strikeOwn(database(), row.id, row.table)))}
              >
                Strike out
              </Button>
            ) : (
              <Button
                tone="quiet"
                aria-label={`As learned: ${ownRowWords(row)}`}
                onClick={() => attempt(saving.keep(() => restoreOwn(database(), row.id)))}
              >
                As it was learned
              </Button>
            )}
          </li>
        ))}
      </ul>
      {settings ? <FromTickets learned={learned} left={settings.notLearned} /> : null}
      <div className="mt-2 flex flex-wrap gap-2.5">
        {rows.length > SHOWN && !all ? (
          <Button onClick={() => setAll(true)}>Show all {plural(rows.length, 'row')}</Button>
        ) : null}
        {rows.length > 0 ? <Button onClick={() => attempt(take())}>Take out what was learned</Button> : null}
      </div>
      <p aria-live="polite" className="mt-2">
        {said}
      </p>
      {editing ? <RowForm key={editing.id} row={editing} onDone={() => setEditing(null)} /> : null}
    </section>
  );
}

/** What closed tickets changed: each may be left out, and counts again at a touch. */
function FromTickets({ learned, left }: { learned: readonly LearnedListed[]; left: readonly string[] }) {
  const [said, setSaid] = useState('');
  const setLeft = (notLearned: string[]) =>
    void saving
      .keep(() => changeSettings({ notLearned }))
      .catch((error: unknown) => setSaid(`Not saved: ${troubleWords(error)}.`));
  if (learned.length === 0) return null;
  return (
    <section aria-label="From closed tickets">
      <h3 className="mt-3 font-semibold">From closed tickets</h3>
      <p className="max-w-prose text-[15px] text-soft">
        Few cases move little: the list keeps the weight of thirty cases, of five jobs for times. What is left out
        counts for nothing until it is let in again; the tickets stay as they are.
      </p>
      <ul className="max-w-5xl text-[15px]">
        {learned.map((one) => {
          const { key } = one.change;
          const isLeft = left.includes(key);
          const words = learnedChangeWords(one);
          return (
            <li key={key} aria-label={words} className="flex flex-wrap items-center gap-x-3 border-t border-line py-1">
              <span className={cx('min-w-0 flex-1 basis-72', isLeft && 'text-soft line-through')}>{words}</span>
              <Button
                tone="quiet"
                aria-label={`${isLeft ? 'Let in' : 'Leave out'}: ${words}`}
                onClick={() => setLeft(isLeft ? left.filter((other) => other !== key) : [...left, key])}
              >
                {isLeft ? 'Let it in again' : 'Leave it out'}
              </Button>
            </li>
          );
        })}
      </ul>
      <p aria-live="polite">{said}</p>
    </section>
  );
}

/** A row's cells as they stand in a file; a cell that makes no sense is said, and nothing is changed. */
function RowForm({ row, onDone }: { row: OwnListed; onDone: () => void }) {
  const [cells, setCells] = useState(row.cells);
  const [problems, setProblems] = useState<OwnProblems>({});
  const save = async () => {
    try {
      const wrong = await saving.keep(() => correctOwn(database(), row.id, row.table, cells));
      if (wrong) setProblems(wrong);
      else onDone();
    } catch (error) {
      setProblems({ '': troubleWords(error) });
    }
  };
  return (
    <Panel
      open
      onOpenChange={(open) => (open ? undefined : onDone())}
      title={`Correct a row: ${tableWords(row.table)}`}
    >
      <form
        className="flex flex-col gap-2.5"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {Object.entries(cells).map(([column, text]) => (
          <Field
            key={column}
            label={column}
            mono
            value={text}
            // What names the row stays: another id would be another row.
            readOnly={column === 'id' || (row.table === 'part_properties' && column !== 'value')}
            onChange={(event) => setCells({ ...cells, [column]: event.target.value })}
            note={problems[column] ? <Mark tone="stop">{problems[column]}</Mark> : undefined}
          />
        ))}
        {problems[''] ? <p role="alert">Not saved: {problems['']}</p> : null}
        <Button tone="main" type="submit" className="self-start">
          Save the row
        </Button>
      </form>
    </Panel>
  );
}
