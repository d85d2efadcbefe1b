'use client';
import type { ModelId, PartId } from '@/core/units';
import type { Model } from '@/core/catalogue';
import type { ModelPart } from '@/core/fit';
import { Mark, NumberText, useNewest } from '@/ui';
import { formatPercent, listOf, plural } from '@/words';
import { searchWorker } from '@/workers';
import { NotLookedUp } from './NotLookedUp';
import { shortSource, WhoseWord } from './WhoseWord';

/** A model's parts by role, each with the number that is sold today. */
export function ModelView({ modelId, onPart }: { modelId: ModelId; onPart: (partId: PartId) => void }) {
  const { answer: sheet, of, failed } = useNewest(modelId, () => searchWorker.get().modelSheet(modelId));
  if (of === modelId && failed) return <NotLookedUp why={failed} />;
  if (sheet?.model.id !== modelId) return <p className="mt-3 text-soft">Looking the model up …</p>;
  const { model, badge, platform, sisters, roles, said, fitSources } = sheet;
  const isLayered = new Set(Object.values(fitSources).map((source) => JSON.stringify(source))).size > 1;
  return (
    <section aria-label={`Parts of ${model.modelNumber}`} className="mt-4 border-t-[3px] border-ink pt-2.5">
      <h2 className="text-lg font-semibold">
        <NumberText text={model.modelNumber} /> {badge}
      </h2>
      <p className="text-[15px] text-soft">
        {platform} · {modelWords(model)} · {plural(sisters, 'sister model')} on the same platform
      </p>
      <WhoseWord said={said.map(({ source, row }) => ({ source, text: modelWords(row) }))} />
      {roles.length === 0 ? <p className="mt-1">No part is listed for this model or its platform.</p> : null}
      <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Parts by role">
        <table className="w-full text-[15px]">
          <thead>
            <tr className="border-b border-ink text-left text-sm text-soft">
              <th className="py-1 pr-4 font-normal">part</th>
              <th className="py-1 pr-4 font-normal">listed number</th>
              <th className="py-1 pr-4 font-normal">sold today as</th>
              <th className="py-1 pr-4 text-right font-normal">pieces</th>
              <th className="py-1 font-normal">which machines</th>
            </tr>
          </thead>
          <tbody>
            {roles.flatMap((role) =>
              role.parts.map((entry, index) => (
                <tr key={entry.fit.id} className="border-b border-line align-baseline">
                  <td className="py-1 pr-4 font-semibold">{index === 0 ? role.name : ''}</td>
                  <td className="pr-4">
                    <button type="button" onClick={() => onPart(entry.part.id)} className="min-h-11 text-left">
                      <NumberText
                        text={entry.part.partNumber}
                        className="underline decoration-edge underline-offset-4"
                      />
                    </button>
                  </td>
                  <td className="py-1 pr-4">
                    <SoldAs entry={entry} />
                  </td>
                  <td className="py-1 pr-4 text-right">{entry.fit.quantity}</td>
                  <td className="py-1 text-soft">
                    {whichMachines(entry)}
                    {isLayered ? ` · says ${shortSource(fitSources[entry.fit.id])}` : ''}
                    {entry.fittedHere === null ? '' : ` · fitted here before, ${formatPercent(entry.fittedHere)} sure`}
                  </td>
                </tr>
              )),
            )}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function SoldAs({ entry }: { entry: ModelPart }) {
  if (entry.soldToday === null) return <Mark tone="stop">nothing</Mark>;
  const same = entry.soldToday.parts.every(({ partId }) => partId === entry.part.id);
  return (
    <span>
      {same ? 'this number' : <NumberText text={entry.soldAs.join(' + ')} />}
      <span className="text-soft"> · {plural(entry.offers, 'offer')}</span>
    </span>
  );
}

function whichMachines({ fit, via }: ModelPart): string {
  const { builtFrom, builtTo, position } = fit;
  return listOf([
    via === 'model' ? 'this model' : 'the whole platform',
    ...(position === 'any' ? [] : [position]),
    ...(builtFrom ? [`built from ${builtFrom}`] : []),
    ...(builtTo ? [`built up to ${builtTo}`] : []),
  ]);
}

const modelWords = ({ capacityKg, spinRpm, producedFrom, producedTo }: Model): string =>
  [
    capacityKg > 0 ? `${capacityKg} kg` : '',
    spinRpm > 0 ? `${spinRpm} rpm` : '',
    `built ${producedFrom} to ${producedTo ?? 'today'}`,
  ]
    .filter(Boolean)
    .join(', ');
