import {
  costRate,
  costsOf,
  FINE,
  gridOf,
  interpolated,
  type AgeCurve,
  type Costs,
  type Grid,
  type SweepOptions,
} from './grid';
import type { ReplacementProblem } from './problem';

/** A machine that is worth so many new ones is kept whatever happens. */
const KEPT_FOR_EVER = 1e4;

/** About how long a new machine is kept: only where the secant begins. */
const USUAL_YEARS = 7;
/** Nothing is kept longer than this, in expectation. */
const LONGEST_YEARS = 500;

type Sweep = { costs: Costs; grid: Grid; replace: number; disruption: number; rho: number };

/**
 * Backward sweep of v' = ρv + g − Σ hᵢ(t)(D + E min(cᵢ, A − v)), A = price of a new machine, v = what owning from this age on costs above owning a new one, g = what the
 * new one costs per year for ever. Each step takes the mean hazard within it (exact, also where early failures make it infinite at 0) and the classical Runge-Kutta rule.
 * Starts from the fixed point at the horizon, as if the hazard stayed as it is there. Values along the ages of the grid.
 */
function sweep({ costs, grid, replace, disruption, rho }: Sweep, perYear: number): Float64Array {
  const { ages, rates, held } = grid;
  const count = costs.tables.length;
  const values = new Float64Array(ages.length);
  let v = restOf(
    (value) => costRate(costs, held, 0, disruption, replace - value) - rho * value - perYear,
    held.reduce((total, rate) => total + rate, 0),
    { replace, disruption, rho, perYear },
    costs,
  );
  values[0] = v;
  const slope = (offset: number, value: number) =>
    costRate(costs, rates, offset, disruption, replace - value) - rho * value - perYear;
  for (let step = 0; step + 1 < ages.length; step += 1) {
    const years = (ages[step] ?? 0) - (ages[step + 1] ?? 0);
    const offset = step * count;
    const k1 = slope(offset, v);
    const k2 = slope(offset, v + (years / 2) * k1);
    const k3 = slope(offset, v + (years / 2) * k2);
    const k4 = slope(offset, v + years * k3);
    v += (years / 6) * (k1 + 2 * k2 + 2 * k3 + k4);
    values[step + 1] = v;
  }
  return values;
}

/** Where the slope is zero; it falls with the value. A machine that is for ever cheaper than a new one has no such point: it is kept. */
function restOf(
  slope: (value: number) => number,
  failures: number,
  { replace, disruption, rho, perYear }: { replace: number; disruption: number; rho: number; perYear: number },
  costs: Costs,
): number {
  // Beyond the price the machine is left at once, and the slope is a straight line.
  const left = (failures * (disruption + replace) - perYear) / (failures + rho);
  if (left >= replace) return left;
  const scale = replace + disruption + costs.means.reduce((total, mean) => total + mean, 0) + 1;
  let low = -KEPT_FOR_EVER * scale;
  let high = replace;
  if (slope(low) <= 0) return low;
  for (let i = 0; i < 80 && high - low > 1e-9 * scale; i += 1) {
    const middle = (low + high) / 2;
    if (slope(middle) > 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** What repairing everything and replacing at the best age costs per year, later money in full: near the least, and a bound of it. */
function firstGuess({ costs, grid, replace, disruption }: Sweep): number {
  const { ages, rates } = grid;
  const count = costs.tables.length;
  let best = Infinity;
  let spent = replace;
  for (let step = ages.length - 2; step >= 0; step -= 1) {
    const years = (ages[step] ?? 0) - (ages[step + 1] ?? 0);
    spent += years * costRate(costs, rates, step * count, disruption, Infinity);
    best = Math.min(best, spent / (ages[step] ?? 1));
  }
  return best;
}

const startOf = (values: Float64Array): number => values[values.length - 1] ?? NaN;

/** The g at which a new machine costs nothing above a new machine: v(0; g) falls with g. Secant inside a bracket, from a guess. */
function yearlyCost(next: Sweep, tolerance: number, guess: number): number {
  const excess = (perYear: number) => startOf(sweep(next, perYear));
  let before = guess;
  let excessBefore = excess(before);
  let low = excessBefore > 0 ? before : -Infinity;
  let high = excessBefore > 0 ? Infinity : before;
  // A new machine is kept some years: by so many years' cost the start moves when g does.
  let perYear = before + excessBefore / USUAL_YEARS || before * 1.01 + 1e-9;
  for (let i = 0; i < 100; i += 1) {
    const value = excess(perYear);
    if (value > 0) low = Math.max(low, perYear);
    else high = Math.min(high, perYear);
    const slope = (value - excessBefore) / (perYear - before);
    const step = slope < 0 ? -value / slope : value > 0 ? Math.abs(perYear) + 1 : -Math.abs(perYear) - 1;
    let after = perYear + step;
    if (after <= low || after >= high)
      after = Number.isFinite(low) && Number.isFinite(high) ? (low + high) / 2 : perYear + step;
    if (Math.abs(after - perYear) <= tolerance * (Math.abs(after) + 1e-6)) return after;
    before = perYear;
    excessBefore = value;
    perYear = after;
  }
  return perYear;
}

/** Expected years until a machine is left for a new one, by the best policy: T' = −1 + Σ hᵢ P(cᵢ > A − v) T. */
function yearsKept({ costs, grid, replace }: Sweep, values: Float64Array): AgeCurve {
  const { ages, rates, held } = grid;
  const count = costs.tables.length;
  const leaving = (of: Float64Array, offset: number, limit: number) =>
    costs.tails.reduce((rate, tail, i) => rate + (of[offset + i] ?? 0) * tail(costs.means[i] ?? 0, limit), 0);
  const years = new Float64Array(ages.length);
  let left = 1 / Math.max(1 / LONGEST_YEARS, leaving(held, 0, replace - (values[0] ?? 0)));
  years[0] = left;
  for (let step = 0; step + 1 < ages.length; step += 1) {
    const span = (ages[step] ?? 0) - (ages[step + 1] ?? 0);
    const middle = ((values[step] ?? 0) + (values[step + 1] ?? 0)) / 2;
    const rate = Math.max(1e-9, leaving(rates, step * count, replace - middle));
    left = left * Math.exp(-rate * span) - Math.expm1(-rate * span) / rate;
    years[step + 1] = left;
  }
  return interpolated(grid, years);
}

export type OwnedMachine = {
  /** What owning this machine on from an age costs above owning a new one, by the best policy: of today's worth, or with rho = 0 in all. */
  value: AgeCurve;
  /** The same of one of the machines bought in its place, once it has that age: nothing at 0. */
  nextValue: AgeCurve;
  /** Price of leaving it for a new one. The limit of a repair is this less `value`. */
  leave: number;
  /** What a new machine, replaced again and again, costs per year without its first price: the long-run average where rho = 0. */
  perYear: number;
  /** Expected years until this machine is left, and one bought in its place, from an age on. Worked out when asked for. */
  yearsLeft: () => AgeCurve;
  nextYearsLeft: () => AgeCurve;
};

/**
 * The best policy of owning, for any rho >= 0: finds the yearly cost g of `next`, then sweeps `life` against it. With rho > 0 the present value of owning from an age on
 * is value + g/ρ, so nothing large is ever subtracted from something large, and a small rho runs smoothly into none. O(sweeps × steps × components).
 */
export function solveReplacement(
  problem: ReplacementProblem,
  options: SweepOptions = FINE,
  guess?: number,
): OwnedMachine {
  const { next, life, replace, disruption, rho, runningMore = 0 } = problem;
  const anew: Sweep = { costs: costsOf(next), grid: gridOf(next, options), replace, disruption, rho };
  const perYear = yearlyCost(anew, options.tolerance, guess ?? firstGuess(anew));
  const owned: Sweep = { ...anew, costs: costsOf(life), grid: gridOf(life, options) };
  const values = sweep(owned, perYear - runningMore);
  let solved: Float64Array | null = null;
  const nextValues = () => (solved ??= sweep(anew, perYear));
  return {
    value: interpolated(owned.grid, values),
    nextValue: (age) => interpolated(anew.grid, nextValues())(age),
    leave: replace,
    perYear,
    yearsLeft: () => yearsKept(owned, values),
    nextYearsLeft: () => yearsKept(anew, nextValues()),
  };
}
