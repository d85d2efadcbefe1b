import type { Life } from '../catalogue';
import type { CauseId } from '../units';

/** Ages at which machines come in, over which a life's hazard is taken as usual, in years. */
const USUAL_AGES = Array.from({ length: 14 }, (_, index) => index + 1);
const BOUNDS = { least: 0.25, most: 4 };

const hazard = ({ shape, scaleYears }: Pick<Life, 'shape' | 'scaleYears'>, years: number): number =>
  (shape / scaleYears) * (years / scaleYears) ** (shape - 1);

/**
 * How much likelier than usual each cause is at this age: the hazard of its Weibull life then, against its mean over the ages at which machines come in; between a
 * quarter and four times. `lives`: those of the machine's platform. Causes without a life keep their share. Empty where the age is not known. O(lives).
 */
export function ageFactors(lives: readonly Life[], ageYears: number | null): ReadonlyMap<CauseId, number> {
  if (ageYears === null) return new Map();
  const years = Math.max(0.5, ageYears);
  return new Map(
    lives.flatMap((life): [CauseId, number][] => {
      if (life.causeId === undefined) return [];
      const usual = USUAL_AGES.reduce((sum, age) => sum + hazard(life, age), 0) / USUAL_AGES.length;
      const factor = hazard(life, years) / Math.max(1e-9, usual);
      return [[life.causeId, Math.min(BOUNDS.most, Math.max(BOUNDS.least, factor))]];
    }),
  );
}
