import { limitedMean } from './limitedMean';
import { hazard, totalHazard, type LifeComponent, type ReplacementProblem } from './problem';

/** Present value of owning a machine from an age on, just after any failure there was is dealt with. */
export type ValueCurve = (ageYears: number) => number;

type FailureCost = { mean: number; expectedUpTo: (mean: number, limit: number) => number };

const failureCost = (component: LifeComponent): FailureCost => ({
  mean: component.cost,
  expectedUpTo: limitedMean(component.costVariation),
});

/** Where failures come this often (per year) the age is taken as the end: the hazard is held there. A machine hardly ever gets so old unreplaced. */
const HAZARD_CAP = 4;
const HORIZON_YEARS = 80;

export type SweepOptions = {
  /** Longest step. */
  stepYears: number;
  /** hazard × step stays at or below this, or the explicit sweep would diverge without a sign. */
  hazardStep: number;
  /** Relative change of a new machine's present value at which the fixed point counts as reached. */
  tolerance: number;
};

export const FINE: SweepOptions = { stepYears: 0.05, hazardStep: 0.1, tolerance: 1e-8 };
/** For draws: the spread of the draws is far larger than the error of this step (docs/methods.md). */
export const COARSE: SweepOptions = { stepYears: 0.6, hazardStep: 0.5, tolerance: 1e-4 };

type Grid = { ages: number[]; /** hazards[step][component] */ hazards: Float64Array[]; totals: number[] };

/** Ages from the horizon down to 0 with the hazards at each: the same for every sweep over one life. */
function gridOf(life: readonly LifeComponent[], options: SweepOptions, rho: number): Grid {
  let horizon = 0;
  while (horizon < HORIZON_YEARS && totalHazard(life, horizon) < HAZARD_CAP) horizon += 0.5;
  const grid: Grid = { ages: [], hazards: [], totals: [] };
  for (let age = horizon; ;) {
    const hazards = Float64Array.from(life, (component) => Math.min(hazard(component, age), HAZARD_CAP * 3));
    const total = hazards.reduce((sum, h) => sum + h, 0);
    grid.ages.push(age);
    grid.hazards.push(hazards);
    grid.totals.push(total);
    if (age <= 0) return grid;
    const step = Math.min(age, options.stepYears, options.hazardStep / (total + rho));
    age = age - step < 1e-9 ? 0 : age - step;
  }
}

/**
 * Backward sweep of V' = ρV − Σ hᵢ(t)(D + E min(cᵢ, A − V)), A = the cost of leaving at a failure (price and a new machine's present value).
 * Heun's method (second order). Starts from the fixed point at the horizon, as if the hazard stayed as it is there.
 */
function sweep(costs: readonly FailureCost[], grid: Grid, leave: number, disruption: number, rho: number): number[] {
  const slope = (index: number, value: number): number => {
    const hazards = grid.hazards[index];
    let rate = 0;
    for (let i = 0; i < costs.length; i += 1) {
      const cost = costs[i];
      if (cost) rate += (hazards?.[i] ?? 0) * (disruption + cost.expectedUpTo(cost.mean, leave - value));
    }
    return rate - rho * value;
  };
  let low = 0;
  let high = Math.max(1, (leave + disruption) * (1 + (grid.totals[0] ?? 0) / rho));
  for (let i = 0; i < 60 && high - low > 1e-9 * high; i += 1) {
    const middle = (low + high) / 2;
    if (slope(0, middle) > 0) low = middle;
    else high = middle;
  }
  const values = [low];
  let value = low;
  for (let index = 1; index < grid.ages.length; index += 1) {
    const step = (grid.ages[index - 1] ?? 0) - (grid.ages[index] ?? 0);
    const first = slope(index - 1, value);
    const second = slope(index, value + step * first);
    value += (step * (first + second)) / 2;
    values.push(value);
  }
  return values;
}

function interpolate(ages: readonly number[], values: readonly number[], index: number): number {
  const last = ages.length - 1;
  if (index >= (ages[last] ?? 0)) return values[last] ?? NaN;
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((ages[middle] ?? 0) <= index) low = middle;
    else high = middle;
  }
  const from = ages[low] ?? 0;
  const to = ages[high] ?? from;
  const share = to > from ? (index - from) / (to - from) : 0;
  return (values[low] ?? NaN) * (1 - share) + (values[high] ?? NaN) * share;
}

export type OwnedMachine = {
  /** V(age) of the machine owned now, under the best policy. */
  value: ValueCurve;
  /** Price of replacing plus the present value of the machine bought, repeated for ever. */
  leave: number;
};

/**
 * Solves next's own renewal equation W = U(0; leave = R + W) by the secant method inside a bracket (the map contracts, for leaving costs more than it
 * saves later), then sweeps `life` against it.
 */
export function solveReplacement(problem: ReplacementProblem, options: SweepOptions = FINE): OwnedMachine {
  const { next, life, replace, disruption, rho } = problem;
  const nextCosts = next.map(failureCost);
  const nextGrid = gridOf(next, options, rho);
  const excess = (value: number) => (sweep(nextCosts, nextGrid, replace + value, disruption, rho).at(-1) ?? 0) - value;
  let before = 0;
  let excessBefore = excess(before);
  let value = excessBefore;
  for (let i = 0; i < 100; i += 1) {
    const index = excess(value);
    if (Math.abs(index) < options.tolerance * (1 + value)) break;
    const slope = (index - excessBefore) / (value - before);
    before = value;
    excessBefore = index;
    // A slope of the excess at or above 0 cannot be trusted: take the plain contraction step.
    value = slope < -1e-9 ? value - index / slope : value + index;
  }
  const leave = replace + value;
  const grid = gridOf(life, options, rho);
  const values = sweep(life.map(failureCost), grid, leave, disruption, rho).reverse();
  const ages = [...grid.ages].reverse();
  return { value: (age) => interpolate(ages, values, age), leave };
}
