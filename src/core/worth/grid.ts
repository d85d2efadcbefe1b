import { costTable, costUpTo, tailOf, type CostTable } from './limitedMean';
import { failuresUntil, totalHazard, type LifeComponent } from './problem';

/** A figure at each age of a machine. */
export type AgeCurve = (ageYears: number) => number;

/** Where failures come this often (per year) the age is taken as the end: the hazard is held there. A machine hardly ever gets so old unreplaced. */
const HAZARD_CAP = 4;
const HORIZON_YEARS = 80;

export type SweepOptions = {
  /** Longest step. */
  stepYears: number;
  /** Expected failures within a step stay at or below this, or the explicit sweep would diverge without a sign. */
  hazardStep: number;
  /** Relative change of the yearly cost at which it counts as found. */
  tolerance: number;
};

export const FINE: SweepOptions = { stepYears: 0.1, hazardStep: 0.15, tolerance: 1e-10 };
/** For draws: the spread of the draws is far larger than the error of this step (docs/methods.md). */
export const COARSE: SweepOptions = { stepYears: 1.25, hazardStep: 0.9, tolerance: 1e-4 };

/** Ages from the horizon down to 0, and the mean hazard of each component within each step: the same for every sweep over one life. */
export type Grid = {
  ages: Float64Array;
  /** [step × components + component], per year; the last step's is the hazard that is held beyond the horizon. */
  rates: Float64Array;
  held: Float64Array;
};
export type Costs = {
  means: Float64Array;
  /** Of E min(c, limit), and P(c > limit), of each component. */
  tables: CostTable[];
  tails: ((mean: number, limit: number) => number)[];
};

function horizonOf(life: readonly LifeComponent[]): number {
  if (totalHazard(life, HORIZON_YEARS) <= HAZARD_CAP) return HORIZON_YEARS;
  // Early failures (shape < 1) may exceed the cap too: the horizon lies where wear does.
  let low = 1;
  let high = HORIZON_YEARS;
  while (high - low > 0.25) {
    const middle = (low + high) / 2;
    if (totalHazard(life, middle) < HAZARD_CAP) low = middle;
    else high = middle;
  }
  return high;
}

export function gridOf(life: readonly LifeComponent[], { stepYears, hazardStep }: SweepOptions): Grid {
  const horizon = horizonOf(life);
  const ages = [horizon];
  for (let age = horizon; age > 0;) {
    const step = Math.min(stepYears, hazardStep / Math.max(1e-9, totalHazard(life, age)));
    age = age - step < 1e-3 ? 0 : age - step;
    ages.push(age);
  }
  const rates = new Float64Array((ages.length - 1) * life.length);
  life.forEach((component, index) => {
    let until = failuresUntil(component, horizon);
    for (let step = 0; step + 1 < ages.length; step += 1) {
      const from = failuresUntil(component, ages[step + 1] ?? 0);
      rates[step * life.length + index] = (until - from) / ((ages[step] ?? 0) - (ages[step + 1] ?? 0));
      until = from;
    }
  });
  return { ages: Float64Array.from(ages), rates, held: rates.slice(0, life.length) };
}

export const costsOf = (life: readonly LifeComponent[]): Costs => ({
  means: Float64Array.from(life, ({ cost }) => cost),
  tables: life.map(({ costVariation }) => costTable(costVariation)),
  tails: life.map(({ costVariation }) => tailOf(costVariation)),
});

/** Σ hᵢ (D + E min(cᵢ, limit)): what failures cost per year when a repair is paid up to the limit and the machine is left at it otherwise. */
export function costRate(
  { tables, means }: Costs,
  rates: Float64Array,
  offset: number,
  disruption: number,
  limit: number,
): number {
  let rate = 0;
  for (let i = 0; i < tables.length; i += 1) {
    const table = tables[i];
    if (table) rate += (rates[offset + i] ?? 0) * (disruption + costUpTo(table, means[i] ?? 0, limit));
  }
  return rate;
}

/** Values along rising ages; beyond the last as at it. */
export function interpolated({ ages }: Grid, values: Float64Array): AgeCurve {
  const last = ages.length - 1;
  return (age) => {
    if (age >= (ages[0] ?? 0)) return values[0] ?? NaN;
    if (age <= 0) return values[last] ?? NaN;
    let low = 0;
    let high = last;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if ((ages[middle] ?? 0) >= age) low = middle;
      else high = middle;
    }
    const from = ages[low] ?? 0;
    const to = ages[high] ?? 0;
    const share = from > to ? (from - age) / (from - to) : 0;
    return (values[low] ?? NaN) * (1 - share) + (values[high] ?? NaN) * share;
  };
}
