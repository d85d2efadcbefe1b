import { quantile, sum, weightedQuantile } from '../units';
import {
  hazard,
  totalHazard,
  type LifeComponent,
  type ReplacementProblem,
  type ReplacementUncertainty,
} from './problem';
import { drawValues, type DrawnValues } from './repairLimit';
import { solveReplacement } from './valueCurve';

export type HouseRules = {
  /** Repair only below this share of the new price (0.5 = half). */
  shareOfNew: number;
  /** Nothing over this age. */
  maxAgeYears: number;
};

/** What owning comes to does not depend on today's quote. */
export type OwningInput = {
  life: readonly (LifeComponent & { id: string; name: string })[];
  next: readonly LifeComponent[];
  /** Delivered, with disposal of the old one; major units. */
  replacePrice: number;
  disruption: number;
  rho: number;
  ageYears: number;
  /** Component that this repair renews, if the lives name it. */
  mendsComponent: string | null;
  repairModel: 'minimal' | 'renewal';
  uncertainty: ReplacementUncertainty;
  draws: number;
  seed: number;
};

export type WorthInput = OwningInput & { quote: number; rules: HouseRules };

/** Present values of owning this machine on and of a new one, with their draws. */
export type Owning = {
  rho: number;
  replacePrice: number;
  /** Present value of owning on from the age, and of replacing now. */
  value: number;
  leave: number;
  drawn: readonly DrawnValues[];
  /** The most that is worth paying today. */
  limit: number;
  /** The age at which the limit was read (renewal: the effective age). */
  readAtAge: number;
  curve: { age: number; limit: number }[];
  /** Expected failures in the coming year after this repair. */
  failuresNextYear: number;
};

export type Worth = {
  repair: boolean;
  /** Money per year, major units, with the 10–90 % spread. */
  annualRepair: number;
  annualReplace: number;
  spreadRepair: [number, number];
  spreadReplace: [number, number];
  advantage: number;
  /** annualReplace − annualRepair. */
  savingPerYear: number;
  probabilityRepair: number;
  /** The most that is worth paying today. */
  limit: number;
  /** The age at which the limit was read (renewal: the effective age). */
  readAtAge: number;
  curve: { age: number; limit: number }[];
  /** How many draws the probability and the spreads rest on. */
  draws: number;
  rules: { id: 'share-of-new' | 'age-limit'; saysRepair: boolean; threshold: number; actual: number }[];
  /** Expected failures in the coming year after this repair. */
  failuresNextYear: number;
};

/**
 * The age at which a machine with all parts original has the hazard that this one has after the repair renewed one component.
 * Bisection; the total hazard rises with age wherever some shape exceeds one, else the calendar age is returned.
 */
export function effectiveAge(
  life: readonly (LifeComponent & { id: string })[],
  ageYears: number,
  renewed: string | null,
): number {
  if (
    renewed === null ||
    !life.some((component) => component.id === renewed) ||
    life.every((component) => component.shape <= 1)
  )
    return ageYears;
  const after = sum(life.map((component) => hazard(component, component.id === renewed ? 0.02 : ageYears)));
  let low = 0.02;
  let high = ageYears;
  for (let i = 0; i < 50; i += 1) {
    const middle = (low + high) / 2;
    if (totalHazard(life, middle) < after) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The curve and the draws of one machine. O(draws × sweep). */
export function ownMachine(input: OwningInput): Owning {
  const problem: ReplacementProblem = {
    life: input.life.map(({ shape, scaleYears, cost, costVariation }) => ({ shape, scaleYears, cost, costVariation })),
    next: [...input.next],
    replace: input.replacePrice,
    disruption: input.disruption,
    rho: input.rho,
  };
  const readAtAge =
    input.repairModel === 'renewal' ? effectiveAge(input.life, input.ageYears, input.mendsComponent) : input.ageYears;
  const owned = solveReplacement(problem);
  const value = owned.value(readAtAge);
  return {
    rho: input.rho,
    replacePrice: input.replacePrice,
    value,
    leave: owned.leave,
    drawn: drawValues(problem, readAtAge, input.uncertainty, input.draws, input.seed),
    limit: owned.leave - value,
    readAtAge,
    curve: Array.from({ length: 41 }, (_, i) => ({ age: i / 2, limit: owned.leave - owned.value(i / 2) })),
    failuresNextYear: totalHazard(problem.life, readAtAge + 0.5),
  };
}

/**
 * A machine of which it is not known for sure what it is or how old: what owning it comes to is the mean over what it may be, and the draws of all, each by its
 * share, so that the doubt widens what is said. Probabilities are > 0 and sum to one; draws should be in their proportion. O(draws).
 * @throws Error on an empty list (a bug).
 */
export function mixOwning(cases: readonly { owning: Owning; probability: number }[]): Owning {
  const [first, ...others] = cases;
  if (!first) throw new Error('Bug: a mixture of nothing');
  if (others.length === 0) return first.owning;
  const mean = (of: (owning: Owning) => number) =>
    sum(cases.map(({ owning, probability }) => probability * of(owning)));
  return {
    rho: first.owning.rho,
    replacePrice: mean(({ replacePrice }) => replacePrice),
    value: mean(({ value }) => value),
    leave: mean(({ leave }) => leave),
    drawn: cases.flatMap(({ owning }) => [...owning.drawn]),
    limit: mean(({ limit }) => limit),
    readAtAge: mean(({ readAtAge }) => readAtAge),
    curve: first.owning.curve.map(({ age }, index) => ({ age, limit: mean(({ curve }) => curve[index]?.limit ?? 0) })),
    failuresNextYear: mean(({ failuresNextYear }) => failuresNextYear),
  };
}

/** What a repair may cost, and with what chance; they sum to one, or there are none where nothing is priced yet. One of them, certain, where the cause is settled. */
export type Quotes = readonly { quote: number; probability: number }[];

/**
 * Repair or replace at a quote, or at what each cause that it may be would cost, with the house rules beside it. Major units per year; see decideMachine for the method.
 * The figures per year are of the expected quote; chance and spread are over draws and quotes. O(draws × quotes × log).
 */
export function weighQuote(owning: Owning, asked: Quotes, rules: HouseRules, ageYears: number): Worth {
  const quotes = asked.length ? asked : [{ quote: 0, probability: 1 }];
  const { rho, value, leave, drawn, limit, readAtAge, curve, failuresNextYear, replacePrice } = owning;
  const quote = sum(quotes.map((one) => one.quote * one.probability));
  const keep = quote + value;
  const advantage = leave - keep;
  const repair = quotes.flatMap((one) =>
    drawn.map((draw) => ({ value: rho * (draw.value + one.quote), weight: one.probability })),
  );
  const replace = drawn.map((draw) => rho * draw.leave);
  const favourable = sum(
    quotes.map((one) => one.probability * drawn.filter((draw) => draw.leave - draw.value - one.quote >= 0).length),
  );
  const share = replacePrice > 0 ? quote / replacePrice : Infinity;
  return {
    repair: advantage >= 0,
    annualRepair: rho * keep,
    annualReplace: rho * leave,
    spreadRepair: [weightedQuantile(repair, 0.1), weightedQuantile(repair, 0.9)],
    spreadReplace: [quantile(replace, 0.1), quantile(replace, 0.9)],
    advantage,
    savingPerYear: rho * leave - rho * keep,
    probabilityRepair: drawn.length ? favourable / drawn.length : NaN,
    limit,
    readAtAge,
    curve,
    draws: drawn.length,
    rules: [
      { id: 'share-of-new', saysRepair: share <= rules.shareOfNew, threshold: rules.shareOfNew, actual: share },
      {
        id: 'age-limit',
        saysRepair: ageYears <= rules.maxAgeYears,
        threshold: rules.maxAgeYears,
        actual: ageYears,
      },
    ],
    failuresNextYear,
  };
}

/** Both steps at once. */
export const compareRepairReplace = (input: WorthInput): Worth =>
  weighQuote(ownMachine(input), [{ quote: input.quote, probability: 1 }], input.rules, input.ageYears);
