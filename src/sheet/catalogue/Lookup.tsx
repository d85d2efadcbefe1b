'use client';
import type { ModelId, PartId } from '@/core/units';
import { useCallback, useDeferredValue, useState } from 'react';
import type { Model, Part } from '@/core/catalogue';
import { Field, NumberText, useNewest, VirtualList } from '@/ui';
import { plural } from '@/words';
import { searchWorker } from '@/workers';
import { ModelView } from './ModelView';
import { NotLookedUp } from './NotLookedUp';
import { PartView } from './PartView';
import { useRows } from './useRows';

type Shown = { kind: 'model'; id: ModelId } | { kind: 'part'; id: PartId } | null;

const ROW = 48;
/** As high as its rows, up to what leaves room for what is picked. */
const listHeight = (rows: number) => ({ height: `min(${rows * ROW + 2}px, 24rem, 45vh)` });

/** What is known of it: a machine that nobody listed has neither a weight nor a speed. */
const modelFacts = ({ capacityKg, spinRpm, producedFrom, producedTo }: Model): string =>
  [
    capacityKg > 0 ? `${capacityKg} kg` : '',
    spinRpm > 0 ? `${spinRpm} rpm` : '',
    `${producedFrom.slice(0, 4)} to ${producedTo?.slice(0, 4) ?? 'today'}`,
  ]
    .filter(Boolean)
    .join(' · ');

/** Instant search over all models and parts; what is picked is shown below. */
export function Lookup({ text, onText }: { text: string; onText: (text: string) => void }) {
  const wanted = useDeferredValue(text);
  const [shown, setShown] = useState<Shown>(null);
  const { answer: found, of, failed } = useNewest(wanted, () => searchWorker.get().search(wanted));
  const models = useRows<Model>(
    of,
    useCallback((from, to) => searchWorker.get().modelRows(of, from, to), [of]),
  );
  const parts = useRows<Part>(
    of,
    useCallback((from, to) => searchWorker.get().partRows(of, from, to), [of]),
  );
  const pickPart = (id: PartId) => setShown({ kind: 'part', id });
  const pickModel = (id: ModelId) => setShown({ kind: 'model', id });
  return (
    <section
      aria-label="Look up"
      data-searched={found ? of : undefined}
      className="mt-3 border-t-[3px] border-ink pt-2.5"
    >
      <Field
        label="Model or part number, or part of one; or a word"
        mono
        value={text}
        autoComplete="off"
        spellCheck={false}
        className="max-w-md"
        onChange={(event) => onText(event.target.value)}
      />
      <div className="mt-3 grid gap-6 xl:grid-cols-2">
        <div>
          <h2 className="mb-1 font-semibold" aria-live="polite">
            {plural(found?.models ?? 0, 'model')}
          </h2>
          {found && found.models > 0 ? (
            <VirtualList
              key={of}
              label="Models found"
              count={found.models}
              style={listHeight(found.models)}
              onView={models.onView}
              row={(index) => {
                const model = models.rowAt(index);
                return (
                  <Row
                    number={model?.modelNumber}
                    text={model ? modelFacts(model) : ''}
                    picked={shown?.id === model?.id}
                    onPick={() => (model ? pickModel(model.id) : undefined)}
                  />
                );
              }}
            />
          ) : null}
        </div>
        <div>
          <h2 className="mb-1 font-semibold">{plural(found?.parts ?? 0, 'part')}</h2>
          {found && found.parts > 0 ? (
            <VirtualList
              key={of}
              label="Parts found"
              count={found.parts}
              style={listHeight(found.parts)}
              onView={parts.onView}
              row={(index) => {
                const part = parts.rowAt(index);
                return (
                  <Row
                    number={part?.partNumber}
                    text={part ? `${part.description}${part.status === 'discontinued' ? ' · discontinued' : ''}` : ''}
                    picked={shown?.id === part?.id}
                    onPick={() => (part ? pickPart(part.id) : undefined)}
                  />
                );
              }}
            />
          ) : null}
        </div>
      </div>
      {[failed, models.failed, parts.failed].flatMap((why, index) =>
        why === null ? [] : [<NotLookedUp key={index} why={why} />],
      )}
      {found && found.models + found.parts === 0 ? (
        <p className="mt-2 text-soft">
          No model and no part has that in its number or its name. A shorter piece of it finds more.
        </p>
      ) : null}
      {shown?.kind === 'part' ? <PartView partId={shown.id} onPart={pickPart} onModel={pickModel} /> : null}
      {shown?.kind === 'model' ? <ModelView modelId={shown.id} onPart={pickPart} /> : null}
    </section>
  );
}

type RowProps = { number: string | undefined; text: string; picked: boolean; onPick: () => void };

function Row({ number, text, picked, onPick }: RowProps) {
  if (number === undefined) return <span className="flex h-full items-center px-2 text-soft">…</span>;
  return (
    <button
      type="button"
      aria-pressed={picked}
      onClick={onPick}
      className={`flex h-full w-full items-center gap-x-4 px-2 text-left ${picked ? 'bg-mark-wash' : ''}`}
    >
      <NumberText
        text={number}
        className="min-w-36 shrink-0 font-semibold underline decoration-edge underline-offset-4"
      />
      <span className="truncate text-soft">{text}</span>
    </button>
  );
}
