import { groupBy, normalCdf, sum } from '../units';
import type { Quotes } from './compareRepairReplace';
import { COARSE } from './grid';
import { problemOf, valueAfterMend, type OwningInput } from './owning';
import { solveReplacement } from './valueCurve';

/** One machine that it may be, with its chance. */
export type OwningCase = { input: OwningInput; probability: number };

/** What repairing now saves against a new one at another price of it, without today's quote and waiting. */
function limitAtPrice(cases: readonly OwningCase[], factor: number): number {
  return sum(
    cases.map(({ input, probability }) => {
      const owned = solveReplacement(problemOf({ ...input, replacePrice: input.replacePrice * factor }), COARSE);
      return probability * (owned.leave - valueAfterMend(input, owned));
    }),
  );
}

const STEPS = 14;
const LEAST_FACTOR = 0.02;
const MOST_FACTOR = 5;

/**
 * The price of a new machine at which repairing at this cost (quote and waiting, less the waiting for a new one) is neither dearer nor cheaper; major units. null where
 * none between a fiftieth of and five times today's turns the answer. The limit rises with the price: bisection on its logarithm. O(14 × cases × sweep).
 */
export function tippingPrice(cases: readonly OwningCase[], cost: number): number | null {
  const price = sum(cases.map(({ input, probability }) => probability * input.replacePrice));
  let low = Math.log(LEAST_FACTOR);
  let high = Math.log(MOST_FACTOR);
  if (limitAtPrice(cases, LEAST_FACTOR) >= cost || limitAtPrice(cases, MOST_FACTOR) < cost) return null;
  for (let i = 0; i < STEPS; i += 1) {
    const middle = (low + high) / 2;
    if (limitAtPrice(cases, Math.exp(middle)) >= cost) high = middle;
    else low = middle;
  }
  return price * Math.exp((low + high) / 2);
}

/** The age up to which repairing at this cost pays, from the curve; null where it does at every age of it, or at none. */
export function tippingAge(curve: readonly { age: number; limit: number }[], cost: number): number | null {
  for (let i = 1; i < curve.length; i += 1) {
    const before = curve[i - 1];
    const after = curve[i];
    if (before && after && before.limit >= cost && after.limit < cost)
      return before.age + ((after.age - before.age) * (before.limit - cost)) / (before.limit - after.limit);
  }
  return null;
}

/** Something that is not known for sure and may be found out, and what it would save on average to know it before deciding; major units. */
export type Unknown = { id: 'cause' | 'kind' | 'age' | 'price'; worth: number };

/** Expected value of knowing a normally distributed advantage before deciding: sd · φ(z) − |mean| · Φ(−z). */
function worthOfKnowing(mean: number, sd: number): number {
  if (sd <= 0) return 0;
  const z = Math.abs(mean) / sd;
  return Math.max(0, (sd * Math.exp((-z * z) / 2)) / Math.sqrt(2 * Math.PI) - Math.abs(mean) * normalCdf(-z));
}

/**
 * What each doubt is worth, alone, the others at their expectation (expected value of perfect information): which cause, which kind of machine, how old, what a new one
 * costs (log-normal). How long the parts will last nobody can know. Dearest first.
 */
export function unknowns(about: {
  quotes: Quotes;
  /** All that the machine may be, with the most that is worth paying for it then. */
  cases: readonly { kind: string; years: number; probability: number; limit: number }[];
  /** Advantage of repairing at the expected quote. */
  advantage: number;
  quote: number;
  limit: number;
  /** Change of the advantage when a new one costs a hundredth more, and how unsure its price is (standard deviation of the logarithm). */
  perHundredth: number;
  priceDoubt: number;
}): Unknown[] {
  const { quotes, cases, advantage, quote, limit, perHundredth, priceDoubt } = about;
  const known = (advantages: readonly { value: number; weight: number }[]) => {
    const total = sum(advantages.map(({ weight }) => weight));
    if (total <= 0) return 0;
    const mean = sum(advantages.map(({ value, weight }) => value * weight)) / total;
    const better = sum(advantages.map(({ value, weight }) => Math.max(0, value) * weight)) / total;
    return Math.max(0, better - Math.max(0, mean));
  };
  /** The advantage where one of the two is known, over what the other may be. */
  const advantagesBy = (of: (one: (typeof cases)[number]) => unknown) =>
    [...groupBy(cases, of).values()].map((alike) => {
      const weight = sum(alike.map(({ probability }) => probability));
      const mean = sum(alike.map((one) => one.limit * one.probability)) / weight;
      return { value: advantage + mean - limit, weight };
    });
  const all: Unknown[] = [
    {
      id: 'cause',
      worth: known(quotes.map((one) => ({ value: advantage + quote - one.quote, weight: one.probability }))),
    },
    { id: 'kind', worth: known(advantagesBy(({ kind }) => kind)) },
    { id: 'age', worth: known(advantagesBy(({ years }) => years)) },
    { id: 'price', worth: worthOfKnowing(advantage, Math.abs(perHundredth) * 100 * priceDoubt) },
  ];
  return all.sort((a, b) => b.worth - a.worth);
}

/** The most that is worth paying in each case, now and at each age up to twenty years (the mean over the cases). O(cases × sweep). */
export function limitsOf(cases: readonly OwningCase[]): {
  each: { probability: number; limit: number }[];
  limit: number;
  curve: { age: number; limit: number }[];
} {
  const solved = cases.map(({ input, probability }) => ({
    owned: solveReplacement(problemOf(input)),
    input,
    probability,
  }));
  const at = (age: number) =>
    sum(solved.map(({ owned, probability }) => probability * (owned.leave - owned.value(age))));
  const each = solved.map(({ owned, input, probability }) => ({
    probability,
    limit: owned.leave - valueAfterMend(input, owned),
  }));
  return {
    each,
    limit: sum(each.map(({ probability, limit }) => probability * limit)),
    curve: Array.from({ length: 41 }, (_, i) => ({ age: i / 2, limit: at(i / 2) })),
  };
}

/** By how much the advantage moves when a new one costs a hundredth more. */
export const advantagePerHundredth = (cases: readonly OwningCase[]): number =>
  limitAtPrice(cases, 1.005) - limitAtPrice(cases, 0.995);
