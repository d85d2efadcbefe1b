import { costsOf, FINE, gridOf, type AgeCurve } from './grid';
import { costUpTo } from './limitedMean';
import type { ReplacementProblem } from './problem';
import { solveReplacement, type OwnedMachine } from './valueCurve';

/** What the house goes by, where it does not compute. */
export type HouseRules = {
  /** Repair only below this share of the new price (0.5 = half). */
  shareOfNew: number;
  /** Nothing over this age; and where the falling share comes to nothing. */
  maxAgeYears: number;
  /** Age in years times the quote may come to so many times the new price. */
  ageTimesQuote?: number;
};

/** What a rule says here, the most that it would let a repair cost, and what going by it costs more per year than the best policy, over many machines like a new one (0.1 = a tenth). */
export type RuleOpinion = { id: RuleId; saysRepair: boolean; limit: number; loss: number };

export type RuleId = 'share-of-new' | 'falling-share' | 'age-limit' | 'age-times-quote' | 'years-for-money';

/** The most that each rule lets a repair cost, by age, major units. */
export function ruleLimits(
  rules: HouseRules,
  replacePrice: number,
  owned: Pick<OwnedMachine, 'yearsLeft' | 'nextYearsLeft'>,
  /** How long people keep a new one, as the trade says; as computed where it is missing. */
  expectedYears?: number,
): { id: RuleId; limit: AgeCurve; nextLimit: AgeCurve }[] {
  const yearsNew = expectedYears ?? owned.nextYearsLeft()(0);
  const perYearGained =
    (years: AgeCurve): AgeCurve =>
    (age) =>
      yearsNew > 0 ? (replacePrice * years(age)) / yearsNew : 0;
  const both = (limit: AgeCurve) => ({ limit, nextLimit: limit });
  return [
    { id: 'share-of-new', ...both(() => rules.shareOfNew * replacePrice) },
    {
      id: 'falling-share',
      ...both((age) => 2 * rules.shareOfNew * replacePrice * Math.max(0, 1 - age / rules.maxAgeYears)),
    },
    { id: 'age-limit', ...both((age) => (age <= rules.maxAgeYears ? Infinity : 0)) },
    { id: 'age-times-quote', ...both((age) => ((rules.ageTimesQuote ?? 4) * replacePrice) / Math.max(age, 0.05)) },
    {
      id: 'years-for-money',
      limit: perYearGained(owned.yearsLeft()),
      nextLimit: perYearGained(owned.nextYearsLeft()),
    },
  ];
}

/** A rule that leaves nothing for a new one is held to leaving once in so many years, or its cost would not exist where later money counts in full. */
const LEAVES_AT_LEAST = 1e-4;

/**
 * What owning machines like `next` costs per year for ever when each repair is judged by a limit of any shape: v' = ρv + g − Σ hᵢ (D + E[c; c ≤ L] + P(c > L)(R − v)) is a
 * straight line in v and in g, so two sweeps give the g with v(0) = 0. Never below the best policy's, but for the steps. O(steps × components).
 */
export function yearlyCostOfRule(problem: ReplacementProblem, limitOf: AgeCurve): number {
  const { next, replace, disruption, rho } = problem;
  const costs = costsOf(next);
  const { ages, rates, held } = gridOf(next, FINE);
  const count = next.length;
  const upTo = (i: number, mean: number, limit: number) => {
    const table = costs.tables[i];
    return table ? costUpTo(table, mean, limit) : 0;
  };
  /** Paid a year whatever comes, and how often the machine is left. */
  const flows = (of: Float64Array, offset: number, limit: number) => {
    let paid = 0;
    let leaving = 0;
    for (let i = 0; i < count; i += 1) {
      const rate = of[offset + i] ?? 0;
      const mean = costs.means[i] ?? 0;
      const tail = costs.tails[i]?.(mean, limit) ?? 0;
      const repaired = limit === Infinity ? mean : limit <= 0 ? 0 : upTo(i, mean, limit) - limit * tail;
      paid += rate * (disruption + repaired + tail * replace);
      leaving += rate * tail;
    }
    return { paid, leaving };
  };
  const startWith = (perYear: number) => {
    const end = flows(held, 0, limitOf(ages[0] ?? 0));
    let v = (end.paid - perYear) / Math.max(LEAVES_AT_LEAST, end.leaving + rho);
    for (let step = 0; step + 1 < ages.length; step += 1) {
      const years = (ages[step] ?? 0) - (ages[step + 1] ?? 0);
      const { paid, leaving } = flows(rates, step * count, limitOf(((ages[step] ?? 0) + (ages[step + 1] ?? 0)) / 2));
      const decay = leaving + rho;
      const held = Math.exp(-decay * years);
      v = v * held + (paid - perYear) * (decay > 1e-12 ? (1 - held) / decay : years);
    }
    return v;
  };
  const atNone = startWith(0);
  const slope = startWith(1) - atNone;
  return -atNone / slope;
}

/**
 * What each house rule says of a repair at this quote. The machine is read at `readAtAge` where years are computed, at its calendar age where the rule asks for that.
 * Five rules, two sweeps each. A loss below the error of the steps is none.
 */
export function askRules(
  rules: HouseRules,
  problem: ReplacementProblem,
  machine: { ageYears: number; readAtAge: number; quote: number; expectedYears?: number },
): RuleOpinion[] {
  const owned = solveReplacement(problem);
  const best = owned.perYear;
  return ruleLimits(rules, problem.replace, owned, machine.expectedYears).map(({ id, limit, nextLimit }) => {
    const most = limit(id === 'years-for-money' ? machine.readAtAge : machine.ageYears);
    return {
      id,
      limit: most,
      saysRepair: machine.quote <= most,
      loss: best > 0 ? Math.max(0, yearlyCostOfRule(problem, nextLimit) / best - 1) : 0,
    };
  });
}
