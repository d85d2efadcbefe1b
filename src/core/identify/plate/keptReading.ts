import type { ModelId } from '../../units';
import { differencesBetween } from './differences';
import { endingOf, normaliseNumber } from './normal';
import type { PlateCandidate, PlateReading } from './readPlate';
import { rereadsOf } from './rereads';
import { stretchesOf } from './windows';

type Kept = { modelId: ModelId; modelNumber: string; probability: number };

/**
 * A reading as it was noted: the probabilities of then, so that a ticket says what the input said and no second reading says otherwise. Where the numbers
 * differ from the text is found anew. What was too unlikely to be noted is in `unlisted`. O(candidates · stretches · length²).
 */
export function keptReading(text: string, kept: readonly Kept[], unknown: number): PlateReading {
  const [lead] = kept;
  const slips = (taken: string) => (lead ? differencesBetween(lead.modelNumber, taken).length : 0);
  const taken = stretchesOf(text)
    .map((stretch) => stretch.text)
    .reduce((best, one) => (slips(one) < slips(best) ? one : best), normaliseNumber(text));
  const candidates = kept.map((one): PlateCandidate => {
    const normal = normaliseNumber(one.modelNumber);
    const given = normal.startsWith(taken) && normal !== taken ? taken.length : Infinity;
    return {
      ...one,
      differences: differencesBetween(one.modelNumber, taken, given),
      ending: endingOf(one.modelNumber, given),
    };
  });
  const listed = candidates.reduce((sum, { probability }) => sum + probability, 0);
  return { candidates, unknown, unlisted: Math.max(0, 1 - unknown - listed), rereads: rereadsOf(candidates), taken };
}
