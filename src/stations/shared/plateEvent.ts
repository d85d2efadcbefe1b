import type { ModelId } from '@/core/units';
import type { Model } from '@/core/catalogue';
import type { PlateReading } from '@/core/identify';
import type { Fact } from '@/core/ticket';

/** The event for taking one candidate of a reading; `confirmed`: a person compared it with the plate. */
export function plateEvent(
  text: string,
  reading: PlateReading,
  models: readonly Model[],
  modelId: ModelId,
  confirmed: boolean,
  badge: string,
): Extract<Fact, { type: 'plate-read' }> | null {
  const model = models.find((candidate) => candidate.id === modelId);
  const candidate = reading.candidates.find((entry) => entry.modelId === modelId);
  if (!model) return null;
  return {
    type: 'plate-read',
    text,
    modelId,
    modelNumber: model.modelNumber,
    makerId: model.makerId,
    platformId: model.platformId,
    badge,
    probability: confirmed ? 1 : (candidate?.probability ?? 0),
    others: confirmed
      ? []
      : reading.candidates
          .filter((entry) => entry.modelId !== modelId && entry.probability >= 0.01)
          .map(({ modelId: id, modelNumber, probability }) => ({ modelId: id, modelNumber, probability })),
    confirmed,
    ...(confirmed ? {} : { unknown: reading.unknown }),
  };
}
