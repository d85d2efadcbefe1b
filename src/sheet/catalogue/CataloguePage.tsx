'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useDeferredValue, useEffect, useState } from 'react';
import type { Model, Part } from '@/core/catalogue';
import { activeEdition, database } from '@/store';
import { Field, NumberText } from '@/ui';
import { formatNumber } from '@/words';
import { searchWorker } from '@/workers';
import { ImportPanel } from './ImportPanel';
import { ReferenceMap } from './ReferenceMap';

type Found = { models: Model[]; modelCount: number; parts: Part[]; partCount: number };
const SHOWN = 40;

/** Which catalogue is in use, looking into it, and importing another. */
export function CataloguePage({ initial }: { initial: string }) {
  const edition = useLiveQuery(() => activeEdition(database()), []);
  const [text, setText] = useState(initial);
  const wanted = useDeferredValue(text);
  const [found, setFound] = useState<Found | null>(null);
  const [partId, setPartId] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    void searchWorker
      .get()
      .browse(wanted, SHOWN)
      .then((result) => {
        if (current) setFound(result);
      });
    return () => {
      current = false;
    };
  }, [wanted, edition?.id]);
  return (
    <main className="min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">Catalogue</h1>
      <p className="text-soft">
        {edition
          ? `${edition.title}: ${formatNumber(edition.counts['models'] ?? 0)} models, ${formatNumber(edition.counts['parts'] ?? 0)} parts, ${formatNumber(edition.counts['fits'] ?? 0)} fits, ${formatNumber(edition.counts['offers'] ?? 0)} offers. Imported ${edition.at.slice(0, 10)}.`
          : 'No catalogue yet. Import one below.'}
      </p>
      <ImportPanel />
      {edition ? (
        <section aria-label="Look up" className="mt-4 border-t border-line pt-3">
          <Field
            label="Model or part number, or part of one; or a word"
            mono
            value={text}
            autoComplete="off"
            spellCheck={false}
            className="max-w-md"
            onChange={(event) => setText(event.target.value)}
          />
          {partId ? <ReferenceMap partId={partId} onPick={setPartId} /> : null}
          <div className="mt-3 grid gap-6 xl:grid-cols-2">
            <List
              title={`${formatNumber(found?.modelCount ?? 0)} models`}
              rows={(found?.models ?? []).map((model) => ({
                id: model.id,
                number: model.modelNumber,
                text: `${model.capacityKg} kg · ${model.spinRpm} rpm · ${model.producedFrom.slice(0, 4)} to ${model.producedTo?.slice(0, 4) ?? 'today'}`,
              }))}
              total={found?.modelCount ?? 0}
            />
            <List
              title={`${formatNumber(found?.partCount ?? 0)} parts`}
              rows={(found?.parts ?? []).map((part) => ({
                id: part.id,
                number: part.partNumber,
                text: `${part.description} · ${part.kind}${part.status === 'discontinued' ? ' · discontinued' : ''}`,
              }))}
              total={found?.partCount ?? 0}
              onPick={setPartId}
            />
          </div>
        </section>
      ) : null}
    </main>
  );
}

function List({
  title,
  rows,
  total,
  onPick,
}: {
  title: string;
  rows: readonly { id: string; number: string; text: string }[];
  total: number;
  onPick?: (id: string) => void;
}) {
  return (
    <div>
      <h2 className="font-semibold">{title}</h2>
      <ul>
        {rows.map((row) => (
          <li key={row.id} className="flex flex-wrap gap-x-4 border-t border-line py-1.5">
            {onPick ? (
              <button
                type="button"
                onClick={() => onPick(row.id)}
                className="-my-1.5 min-h-11 min-w-40 text-left underline decoration-edge underline-offset-4"
              >
                <NumberText text={row.number} className="font-semibold" />
              </button>
            ) : (
              <NumberText text={row.number} className="min-w-40 font-semibold" />
            )}
            <span className="self-center text-soft">{row.text}</span>
          </li>
        ))}
      </ul>
      {total > rows.length ? (
        <p className="border-t border-line pt-1.5 text-sm text-soft">
          The first {rows.length} are shown: type more of the number.
        </p>
      ) : null}
    </div>
  );
}
