'use client';
import type { ModelId, PartId } from '@/core/units';
import { NumberText, useNewest, VirtualList } from '@/ui';
import { formatNumber } from '@/words';
import { searchWorker, type PartModel } from '@/workers';
import { NotLookedUp } from './NotLookedUp';
import { ReferenceMap } from './ReferenceMap';

type Props = { partId: PartId; onPart: (partId: PartId) => void; onModel: (modelId: ModelId) => void };

/** A part: how its number hangs together with others, and the models it is listed for. */
export function PartView({ partId, onPart, onModel }: Props) {
  const { answer: found, of, failed } = useNewest(partId, () => searchWorker.get().partModels(partId));
  const rows = of === partId && found ? found.rows : null;
  return (
    <>
      <ReferenceMap partId={partId} onPick={onPart} />
      <h3 className="mt-3 mb-1 font-semibold" aria-live="polite">
        {rows === null
          ? of === partId && failed
            ? 'Its models are not known'
            : 'Looking for its models …'
          : rows.length === 0
            ? 'No model lists this number itself: see what it is connected with.'
            : `Fitted to ${found?.more ? 'more than ' : ''}${formatNumber(rows.length)} models`}
      </h3>
      {of === partId && failed ? <NotLookedUp why={failed} /> : null}
      {rows && rows.length > 0 ? (
        <VirtualList
          key={partId}
          label="Models that take this part"
          count={rows.length}
          className="max-h-80 h-[40vh] max-w-3xl"
          row={(index) => {
            const entry = rows[index];
            return entry ? (
              <button
                type="button"
                onClick={() => onModel(entry.model.id)}
                className="flex h-full w-full items-center gap-x-4 px-2 text-left"
              >
                <NumberText
                  text={entry.model.modelNumber}
                  className="min-w-36 shrink-0 font-semibold underline decoration-edge underline-offset-4"
                />
                <span className="truncate text-soft">{fitWords(entry)}</span>
              </button>
            ) : null;
          }}
        />
      ) : null}
    </>
  );
}

function fitWords({ fit }: PartModel): string {
  return [
    fit.modelId === undefined ? 'by its platform' : 'by its own list',
    fit.position === 'any' ? '' : fit.position,
    fit.quantity > 1 ? `${fit.quantity} pieces` : '',
    fit.builtFrom ? `built from ${fit.builtFrom}` : '',
    fit.builtTo ? `built up to ${fit.builtTo}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
