'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import { localDateOf } from '@/core/units';
import { database, layersOf, saving, switchLayer, type Layer } from '@/store';
import { Ask, Button, Mark } from '@/ui';
import { formatFullDate, formatNumber, troubleWords } from '@/words';
import { filesWorker } from '@/workers';

const COUNTED = ['models', 'parts', 'fits', 'offers'] as const;

const countsOf = ({ edition: { counts } }: Layer): string =>
  COUNTED.filter((table) => (counts[table] ?? 0) > 0)
    .map((table) => `${formatNumber(counts[table] ?? 0)} ${table}`)
    .join(', ');

/** What the catalogue is made of, the upper layers first: they are believed where two say something else. */
export function Layers({ zone, ownRows }: { zone: string; ownRows: number }) {
  const layers = useLiveQuery(() => layersOf(database()), []) ?? [];
  const [going, setGoing] = useState<Layer | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const attempt = (work: Promise<void>) =>
    void work.then(
      () => setWrong(null),
      (error: unknown) => setWrong(`Not done: ${troubleWords(error)}. All is as it was.`),
    );
  const remove = ({ edition }: Layer) => {
    setGoing(null);
    attempt(saving.keep(() => filesWorker.get().remove(edition.id)));
  };
  return (
    <section aria-label="Layers" className="mt-2">
      <p className="max-w-prose text-[15px] text-soft">
        Questions see all of it as one catalogue. Where two layers say something else of the same thing, the upper one
        is believed.
      </p>
      <ol className="mt-1.5 max-w-4xl">
        <li className="border-t border-line py-2">
          <strong>What this shop learned</strong>
          <p className="text-[15px] text-soft">
            {ownRows === 0
              ? 'Nothing yet. It grows by itself: machines that nobody listed, numbers that were typed, parts that were proved.'
              : `${formatNumber(ownRows)} rows, listed below.`}
          </p>
        </li>
        {[...layers].reverse().map((layer) => {
          const { edition, on } = layer;
          return (
            <li
              key={edition.id}
              aria-label={edition.title}
              className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-2"
            >
              <div className="min-w-0 flex-1 basis-72">
                <strong className={on ? '' : 'text-soft'}>{edition.title}</strong>
                {on ? null : <Mark tone="doubt">switched off</Mark>}
                <p className="text-[15px] text-soft">
                  {[
                    countsOf(layer),
                    edition.version ? `version ${edition.version}` : '',
                    `imported ${formatFullDate(localDateOf(edition.at, zone))}`,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </p>
              </div>
              <Button
                aria-label={`${on ? 'Switch off' : 'Switch on'}: ${edition.title}`}
                onClick={() => attempt(saving.keep(() => switchLayer(database(), edition.id, !on)))}
              >
                {on ? 'Switch off' : 'Switch on'}
              </Button>
              <Button tone="stop" aria-label={`Remove: ${edition.title}`} onClick={() => setGoing(layer)}>
                Remove
              </Button>
            </li>
          );
        })}
        <li className="border-t border-line py-2">
          <strong>What the trade knows</strong>
          <p className="text-[15px] text-soft">
            Ships with Sorter: causes, checks, ways in, lives and proofs, by how a machine is built.
          </p>
        </li>
      </ol>
      {wrong ? <Mark tone="stop">{wrong}</Mark> : null}
      <Ask
        open={going !== null}
        onOpenChange={(open) => (open ? undefined : setGoing(null))}
        title={`Remove ${going?.edition.title ?? ''}?`}
        yes="Remove it"
        danger
        onYes={() => (going ? remove(going) : undefined)}
      >
        <p>
          Its rows go. Tickets, orders and what this shop learned stay; a ticket whose machine only this package lists
          keeps its decisions, but shows no causes until it is imported again. Switching it off does the same and can be
          undone at a touch.
        </p>
      </Ask>
    </section>
  );
}
