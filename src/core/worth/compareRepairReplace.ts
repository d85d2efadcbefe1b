import { sum } from '../units';
import {
  hazard,
  totalHazard,
  type LifeComponent,
  type ReplacementProblem,
  type ReplacementUncertainty,
} from './problem';
import { annualSpread, decideMachine } from './repairLimit';
import { solveReplacement } from './valueCurve';

export type HouseRules = {
  /** Repair only below this share of the new price (0.5 = half). */
  shareOfNew: number;
  /** Nothing over this age. */
  maxAgeYears: number;
};

export type WorthInput = {
  life: readonly (LifeComponent & { id: string; name: string })[];
  next: readonly LifeComponent[];
  /** Delivered, with disposal of the old one; major units. */
  replacePrice: number;
  usedPrice: number;
  disruption: number;
  rho: number;
  ageYears: number;
  quote: number;
  /** Component that this repair renews, if the lives name it. */
  mendsComponent: string | null;
  repairModel: 'minimal' | 'renewal';
  uncertainty: ReplacementUncertainty;
  draws: number;
  seed: number;
  rules: HouseRules;
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

/** Repair or replace, with the house rules beside it. Major units per year; see decideMachine for the method. */
export function compareRepairReplace(input: WorthInput): Worth {
  const problem: ReplacementProblem = {
    life: input.life.map(({ shape, scaleYears, cost, costVariation }) => ({ shape, scaleYears, cost, costVariation })),
    next: [...input.next],
    replace: input.replacePrice,
    disruption: input.disruption,
    rho: input.rho,
  };
  const readAtAge =
    input.repairModel === 'renewal' ? effectiveAge(input.life, input.ageYears, input.mendsComponent) : input.ageYears;
  const question = {
    ageYears: readAtAge,
    quote: input.quote,
    uncertainty: input.uncertainty,
    draws: input.draws,
    seed: input.seed,
  };
  const decision = decideMachine(problem, question);
  const spread = annualSpread(problem, question);
  const owned = solveReplacement(problem);
  const share = input.replacePrice > 0 ? input.quote / input.replacePrice : Infinity;
  return {
    repair: decision.repair,
    annualRepair: decision.annualRepair,
    annualReplace: decision.annualReplace,
    spreadRepair: spread.repair,
    spreadReplace: spread.replace,
    advantage: decision.advantage,
    savingPerYear: decision.annualReplace - decision.annualRepair,
    probabilityRepair: decision.probabilityRepair,
    limit: owned.leave - owned.value(readAtAge),
    readAtAge,
    curve: Array.from({ length: 41 }, (_, i) => ({ age: i / 2, limit: owned.leave - owned.value(i / 2) })),
    rules: [
      {
        id: 'share-of-new',
        saysRepair: share <= input.rules.shareOfNew,
        threshold: input.rules.shareOfNew,
        actual: share,
      },
      {
        id: 'age-limit',
        saysRepair: input.ageYears <= input.rules.maxAgeYears,
        threshold: input.rules.maxAgeYears,
        actual: input.ageYears,
      },
    ],
    failuresNextYear: totalHazard(problem.life, readAtAge + 0.5),
  };
}
