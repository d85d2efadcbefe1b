'use client';
import type { Model } from '@/core/catalogue';
import { keptReading, type PlateReading } from '@/core/identify';
import type { TicketState } from '@/core/ticket';
import type { LocalDate, ModelId } from '@/core/units';
import { useLayersKey } from '@/store/react';
import { useNewest } from '@/ui';
import { searchWorker } from '@/workers';

export type ReadPlate = { reading: PlateReading; models: Model[] };

const SHORTEST = 3;

/** The reading that a ticket keeps, with the models that it may be; null where none is in doubt. */
export function useKeptReading(plate: TicketState['plate']): ReadPlate | null {
  const inDoubt = plate?.confirmed === false ? plate : null;
  const listed = inDoubt ? [inDoubt, ...inDoubt.others] : [];
  const ids = listed.map(({ modelId }) => modelId);
  const layers = useLayersKey();
  // Asked again when a package comes or goes: a number that no list has any more cannot be taken.
  const question = inDoubt ? [layers, ...ids].join(' ') : null;
  const { of, answer } = useNewest(question, () => searchWorker.get().models(ids));
  if (!inDoubt || of !== question || !answer) return null;
  const noted = listed.reduce((sum, { probability }) => sum + probability, 0);
  const there = new Set(answer.map(({ id }) => id));
  const kept = listed
    .filter(({ modelId }) => there.has(modelId))
    .map(({ modelId, modelNumber, probability }) => ({ modelId, modelNumber, probability }));
  return { reading: keptReading(inDoubt.text, kept, inDoubt.unknown ?? Math.max(0, 1 - noted)), models: answer };
}

/** The reading of a text, in the worker. `sure`: of a picture's text, how sure its reader was. The last one stays while the next is under way. */
export function usePlateReading(text: string, sure: number | undefined): ReadPlate | null {
  const wanted = text.trim().length < SHORTEST ? null : `${sure ?? ''} ${text}`;
  const { answer } = useNewest(wanted, () => searchWorker.get().readPlate(text, sure));
  return wanted === null ? null : answer;
}

type FoundSerial = { serial: string; fits: boolean };

/** The serial number in the text of a plate, once it is known whose scheme it should follow. */
export function useSerialIn(text: string, modelId: ModelId | null, today: LocalDate): FoundSerial | null {
  const of = modelId && text ? `${modelId} ${text}` : null;
  const found = useNewest(of, async () => (modelId ? searchWorker.get().serialIn(text, modelId, today) : null));
  return of !== null && found.of === of ? found.answer : null;
}
