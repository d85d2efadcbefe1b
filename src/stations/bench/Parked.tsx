import { useState } from 'react';
import { atBench, TEXT_LIMITS } from '@/core/ticket';
import { database, ticketToFile } from '@/store';
import { Button, download, Field, notice } from '@/ui';
import { formatMinutes, formatMoment, missingTypeWords, mustNotWords } from '@/words';
import { saveResumeCard } from './resumePdf';
import type { BenchProps, Shown } from './BenchProps';

/** A machine that stays open: why, and for whoever goes on what is off, where its pieces are, what comes next and what must not be done. */
export function Parked({ curing, ...props }: BenchProps & { bench: Shown; curing: string | null }) {
  const { state, bench, ask, at } = props;
  const [why, setWhy] = useState<string | null>(null);
  const { pieces } = state;
  const { parked, remarks, finished } = state.round;
  const { sheet } = bench;
  if (finished || sheet.now.off.length === 0) return null;
  const print = () =>
    void saveResumeCard(props, curing).then((missing) => {
      if (missing.length) notice(missingTypeWords(missing));
    });
  const handOver = async () => {
    const file = await ticketToFile(database(), state.ticketId);
    if (file) download(`ticket-${state.number}.json`, file.type, file);
  };
  if (!parked)
    return why === null ? (
      <Button className="self-start" onClick={() => setWhy('')}>
        Park it, open
      </Button>
    ) : (
      <form
        className="flex flex-wrap items-end gap-2.5"
        onSubmit={(event) => {
          event.preventDefault();
          void ask(atBench({ type: 'parked', text: why.trim() })).then((done) => done && setWhy(null));
        }}
      >
        <Field
          label="It waits for"
          className="min-w-0 flex-1 basis-64"
          value={why}
          maxLength={TEXT_LIMITS.note}
          onChange={(event) => setWhy(event.target.value)}
        />
        <Button type="submit">Park it</Button>
        <Button tone="quiet" onClick={() => setWhy(null)}>
          Go on
        </Button>
      </form>
    );
  const next = sheet.sections.flatMap(({ steps }) => steps).find(({ tickedAt }) => tickedAt === null);
  return (
    <section aria-label="To go on with it" className="border-2 border-ink p-3">
      <h3 className="text-lg font-bold">To go on with it</h3>
      <p>
        Parked {formatMoment(parked.at, at.now, at.zone)}
        {parked.by ? ` by ${parked.by}` : ''}
        {parked.text ? `: ${parked.text}` : ''}.
      </p>
      <ul className="my-1 font-semibold text-stop">
        {mustNotWords(sheet, curing).map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
      <p>
        <strong>Off:</strong> {sheet.now.off.map(({ title }) => title.toLowerCase()).join('; ')}.
      </p>
      {pieces.some(({ home }) => !home) ? (
        <p>
          <strong>Pieces:</strong>{' '}
          {pieces
            .filter(({ home }) => !home)
            .map(({ piece, text }) => `${piece}: ${text}`)
            .join('; ')}
          .
        </p>
      ) : null}
      {remarks.length ? (
        <p>
          <strong>Remarks:</strong> {remarks.map(({ text, by }) => `${text}${by ? ` (${by})` : ''}`).join('; ')}.
        </p>
      ) : null}
      <p>
        <strong>Next:</strong> {next ? `${next.title}, ${formatMinutes(next.minutes)}` : 'everything is ticked'}.{' '}
        {formatMinutes(sheet.remainingMinutes)} to go.
      </p>
      <div className="mt-2 flex flex-wrap gap-2.5">
        <Button tone="main" onClick={() => void ask(atBench({ type: 'taken-up' }))}>
          Go on with it
        </Button>
        <Button onClick={print}>Print the card</Button>
        <Button onClick={() => void handOver()}>Hand it over as a file</Button>
      </div>
    </section>
  );
}
