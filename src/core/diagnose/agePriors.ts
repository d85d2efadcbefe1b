import type { Cause, Life } from '../catalogue';
import type { CauseId } from '../units';

/** Ages at which machines come in, over which a life's hazard is taken as usual, in years. */
const USUAL_AGES = Array.from({ length: 14 }, (_, index) => index + 1);
const BOUNDS = { least: 0.25, most: 4 };

const overUsualAges = (of: (age: number) => number): number =>
  USUAL_AGES.reduce((sum, age) => sum + of(age), 0) / USUAL_AGES.length;

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
      const usual = overUsualAges((age) => hazard(life, age));
      const factor = hazard(life, years) / Math.max(1e-9, usual);
      return [[life.causeId, Math.min(BOUNDS.most, Math.max(BOUNDS.least, factor))]];
    }),
  );
}

/**
 * The life of a cause that has no row, from how often it comes: causes with a row say how many failures a year a unit of weight stands for, over the ages at which machines
 * come in; the life is the Weibull with that mean hazard. Its shape is the flattest of the design that wears at all, so that replacing early is never made to look better than
 * known wear does; 1, where none does: then it never pays. null where no cause with a row has a weight. O(causes + lives).
 */
export function lifeByWeight(
  lives: readonly Life[],
  causes: readonly Pick<Cause, 'id' | 'weight'>[],
  cause: Pick<Cause, 'weight'>,
): Pick<Life, 'shape' | 'scaleYears'> | null {
  const known = lives.flatMap((life) => {
    const its = causes.find(({ id }) => id === life.causeId);
    return its ? [{ life, weight: its.weight }] : [];
  });
  const weights = known.reduce((sum, { weight }) => sum + weight, 0);
  const failures = known.reduce((sum, { life }) => sum + overUsualAges((age) => hazard(life, age)), 0);
  if (weights <= 0 || failures <= 0 || cause.weight <= 0) return null;
  const perYear = (failures / weights) * cause.weight;
  const wearing = lives.map(({ shape }) => shape).filter((shape) => shape > 1);
  const shape = wearing.length ? Math.min(...wearing) : 1;
  return { shape, scaleYears: ((shape * overUsualAges((age) => age ** (shape - 1))) / perYear) ** (1 / shape) };
}
