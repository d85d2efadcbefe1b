import { normalDraw, quantile, seededRandom, stableJson, type Random } from '../units';
import type { LifeComponent, ReplacementProblem, ReplacementUncertainty } from './problem';
import { COARSE } from './grid';
import { solveReplacement } from './valueCurve';

/**
 * The most that is worth paying for a repair at each age, minimal repair (as old after as before). Major units; may be negative where
 * even a free repair is not worth it. Drinkwater & Hastings (Operational Research Quarterly 18, 1967), Hastings (ORQ 20, 1969), in
 * continuous time, with discounting or without (the long-run average). Step 0.1 years; interpolated linearly between.
 */
export function repairLimit(problem: ReplacementProblem): (ageYears: number) => number {
  const owned = solveReplacement(problem);
  return (ageYears) => owned.leave - owned.value(Math.max(0, ageYears));
}

export type MachineQuestion = {
  ageYears: number;
  quote: number;
  uncertainty: ReplacementUncertainty;
  draws: number;
  seed: number;
};

export type MachineDecision = {
  repair: boolean;
  /** Present value of replacing now minus that of repairing now; positive speaks for repair. */
  advantage: number;
  /** rho × present value, today's payment included: money per year; without discounting both are the long-run average. */
  annualRepair: number;
  annualReplace: number;
  /** Share of draws in which repairing is not dearer. NaN when draws = 0. */
  probabilityRepair: number;
};

/** One draw: what owning on and leaving come to, what a new one costs per year, and what owning the used one on offer comes to (0 where there is none). */
export type DrawnValues = { value: number; leave: number; perYear: number; used: number };

/** A used machine is like one of the new kind of this age; how far its hidden condition is from it is unsure (standard deviation of the logarithm). */
export type UsedAge = { ageYears: number; doubt: number };

const MIN_SHAPE = 0.5;

type Normal = () => number;

function drawLife(
  life: readonly LifeComponent[],
  uncertainty: ReplacementUncertainty,
  normal: Normal,
): LifeComponent[] {
  const machine = normal();
  return life.map((component) => ({
    shape: Math.max(MIN_SHAPE, component.shape * Math.exp(uncertainty.shape * normal())),
    scaleYears: component.scaleYears * Math.exp((uncertainty.scale * (machine + normal())) / Math.SQRT2),
    cost: component.cost * Math.exp(uncertainty.cost * normal()),
    costVariation: component.costVariation,
  }));
}

export function drawProblem(
  problem: ReplacementProblem,
  uncertainty: ReplacementUncertainty,
  normal: Normal,
): ReplacementProblem {
  return {
    ...problem,
    life: drawLife(problem.life, uncertainty, normal),
    next: drawLife(problem.next, uncertainty, normal),
    replace: problem.replace * Math.exp(uncertainty.replace * normal()),
  };
}

/**
 * Normal draws of which every second set mirrors the one before (antithetic variates, Hammersley & Morton 1956): what rises in one falls in the other, and a share of
 * draws comes to rest with fewer of them. `next` begins a set.
 */
function mirrored(random: Random): { normal: Normal; next: () => void } {
  let drawn: number[] = [];
  let at = -1;
  return {
    normal: () => {
      if (at < 0) {
        const z = normalDraw(random);
        drawn.push(z);
        return z;
      }
      at += 1;
      return -(drawn[at - 1] ?? 0);
    },
    next: () => {
      const mirrors = at < 0 && drawn.length > 0;
      if (!mirrors) drawn = [];
      at = mirrors ? 0 : -1;
    },
  };
}

/** The draws do not depend on the quote, so the last few are kept: a quote that changes while one types costs nothing. */
const cache = new Map<string, DrawnValues[]>();
const CACHE_SIZE = 24;

export function drawValues(
  problem: ReplacementProblem,
  ageYears: number,
  uncertainty: ReplacementUncertainty,
  draws: number,
  seed: number,
  used: UsedAge | null = null,
): DrawnValues[] {
  const key = stableJson([problem, ageYears, uncertainty, draws, seed, used]);
  const known = cache.get(key);
  if (known) return known;
  const dice = mirrored(seededRandom(seed));
  // The hidden condition has dice of its own: what is said of repair and new does not change with a used one beside them.
  const hidden = mirrored(seededRandom(seed + 1));
  const guess = draws > 0 ? solveReplacement(problem, COARSE).perYear : undefined;
  const values = Array.from({ length: draws }, () => {
    dice.next();
    hidden.next();
    const owned = solveReplacement(drawProblem(problem, uncertainty, dice.normal), COARSE, guess);
    return {
      value: owned.value(ageYears),
      leave: owned.leave,
      perYear: owned.perYear,
      used: used ? owned.nextValue(used.ageYears * Math.exp(used.doubt * hidden.normal())) : 0,
    };
  });
  if (cache.size >= CACHE_SIZE) cache.delete(cache.keys().next().value ?? '');
  cache.set(key, values);
  return values;
}

/** Repair or replace this machine today at this quote; minimal repair. The failure has happened: its disruption is on both sides. O(draws × sweep). */
export function decideMachine(problem: ReplacementProblem, question: MachineQuestion): MachineDecision {
  const owned = solveReplacement(problem);
  const keep = question.quote + owned.value(question.ageYears);
  const advantage = owned.leave - keep;
  const drawn = drawValues(problem, question.ageYears, question.uncertainty, question.draws, question.seed);
  const favourable = drawn.filter(({ value, leave }) => leave - value - question.quote >= 0).length;
  return {
    repair: advantage >= 0,
    advantage,
    annualRepair: problem.rho * keep + owned.perYear,
    annualReplace: problem.rho * owned.leave + owned.perYear,
    probabilityRepair: drawn.length ? favourable / drawn.length : NaN,
  };
}

/** 10th and 90th percentile of the annual cost of both ways over the draws, money per year. */
export function annualSpread(
  problem: ReplacementProblem,
  question: MachineQuestion,
): { repair: [number, number]; replace: [number, number] } {
  const drawn = drawValues(problem, question.ageYears, question.uncertainty, question.draws, question.seed);
  const repair = drawn.map(({ value, perYear }) => problem.rho * (value + question.quote) + perYear);
  const replace = drawn.map(({ leave, perYear }) => problem.rho * leave + perYear);
  return {
    repair: [quantile(repair, 0.1), quantile(repair, 0.9)],
    replace: [quantile(replace, 0.1), quantile(replace, 0.9)],
  };
}
