import { sum } from '../units';
import {
  hazard,
  totalHazard,
  type LifeComponent,
  type ReplacementProblem,
  type ReplacementUncertainty,
} from './problem';
import { drawValues, type DrawnValues, type UsedAge } from './repairLimit';
import { valueNeverReplaced } from './renewal';
import { solveReplacement, type OwnedMachine } from './valueCurve';

/** What owning comes to does not depend on today's quote. */
export type OwningInput = {
  life: readonly (LifeComponent & { id: string; name: string })[];
  next: readonly LifeComponent[];
  /** Delivered, with disposal of the old one; major units. */
  replacePrice: number;
  disruption: number;
  /** 0 and more. */
  rho: number;
  /** Energy and water of this machine above a new one's, money per year. */
  runningMore?: number;
  ageYears: number;
  /** Component that this repair renews, if the lives name it, and how much of a new part's life it gives. */
  mendsComponent: string | null;
  lifeShare?: number;
  repairModel: 'minimal' | 'renewal';
  /** A used machine that may be had instead; null where none is on offer. */
  used?: UsedAge | null;
  uncertainty: ReplacementUncertainty;
  draws: number;
  seed: number;
};

/** What it costs to own this machine on, a new one, and a used one, with their draws. Values are above those of owning a new one. */
export type Owning = {
  rho: number;
  replacePrice: number;
  /** Owning on from the age, and replacing now. */
  value: number;
  leave: number;
  /** A used one, once it is paid; null where none is on offer. */
  used: number | null;
  /** A new machine for ever, without its first price, per year. */
  perYear: number;
  drawn: readonly DrawnValues[];
  /** The most that is worth paying today. */
  limit: number;
  /** The age at which the limit was read (renewal: the effective age). */
  readAtAge: number;
  curve: { age: number; limit: number }[];
  /** Expected failures in the coming year after this repair. */
  failuresNextYear: number;
  /** Expected years until it is replaced when it is mended now; a new one's from new. */
  yearsLeft: number;
  yearsNew: number;
};

export const problemOf = (input: OwningInput): ReplacementProblem => ({
  life: input.life.map(({ shape, scaleYears, cost, costVariation }) => ({ shape, scaleYears, cost, costVariation })),
  next: [...input.next],
  replace: input.replacePrice,
  disruption: input.disruption,
  rho: input.rho,
  runningMore: input.runningMore ?? 0,
});

/** A part just mended counts as so old: its hazard at 0 may be nothing or without bound. */
const NEW = 0.02;

/** The age of each part after the mend: all the machine's but the one mended, which is as one that has used up what the mend does not give. */
const agesAfter = (
  life: readonly (LifeComponent & { id: string })[],
  ageYears: number,
  renewed: string | null,
  lifeShare: number,
): number[] =>
  life.map(({ id, scaleYears }) =>
    id === renewed ? Math.min(ageYears, Math.max(NEW, (1 - lifeShare) * scaleYears)) : ageYears,
  );

/**
 * The age at which a machine with all parts original has the hazard that this one has after the repair renewed one component: by a mend that gives a share of a new
 * part's life, the component is as one that has used up the rest of its scale. Bisection; the total hazard rises with age wherever some shape exceeds one, else the
 * calendar age is returned.
 */
export function effectiveAge(
  life: readonly (LifeComponent & { id: string })[],
  ageYears: number,
  renewed: string | null,
  lifeShare = 1,
): number {
  if (
    renewed === null ||
    !life.some((component) => component.id === renewed) ||
    life.every((component) => component.shape <= 1)
  )
    return ageYears;
  const ages = agesAfter(life, ageYears, renewed, lifeShare);
  const after = sum(life.map((component, index) => hazard(component, ages[index] ?? ageYears)));
  let low = NEW;
  let high = ageYears;
  for (let i = 0; i < 50; i += 1) {
    const middle = (low + high) / 2;
    if (totalHazard(life, middle) < after) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

export const ageToRead = (input: OwningInput): number =>
  input.repairModel === 'renewal'
    ? effectiveAge(input.life, input.ageYears, input.mendsComponent, input.lifeShare)
    : input.ageYears;

/**
 * Owning on once it is mended. Where a mended part is new the better of two policies counts: that of the minimal world at the effective age, and that of leaving only
 * when it saves against never leaving. Within 1 % a year of the best that was found on drawn households (docs/figures.md).
 */
export function valueAfterMend(input: OwningInput, { value }: Pick<OwnedMachine, 'value'>): number {
  const { life, ageYears, mendsComponent, lifeShare = 1, repairModel } = input;
  const minimal = value(ageToRead(input));
  return repairModel === 'minimal'
    ? minimal
    : Math.min(minimal, valueNeverReplaced(problemOf(input), agesAfter(life, ageYears, mendsComponent, lifeShare)));
}

/** The curve and the draws of one machine. O(draws × sweep). */
export function ownMachine(input: OwningInput): Owning {
  const problem = problemOf(input);
  const readAtAge = ageToRead(input);
  const owned = solveReplacement(problem);
  const minimal = owned.value(readAtAge);
  const value = valueAfterMend(input, owned);
  const limit = owned.leave - value;
  return {
    rho: input.rho,
    replacePrice: input.replacePrice,
    value,
    leave: owned.leave,
    used: input.used ? usedValue(owned, input.used) : null,
    perYear: owned.perYear,
    // The draws are of the minimal world, moved to where this one lies.
    drawn: drawValues(problem, readAtAge, input.uncertainty, input.draws, input.seed, input.used).map((draw) => ({
      ...draw,
      value: draw.value + value - minimal,
    })),
    limit,
    readAtAge,
    curve: Array.from({ length: 41 }, (_, i) => ({
      age: i / 2,
      limit: owned.leave - owned.value(i / 2) + minimal - value,
    })),
    failuresNextYear: totalHazard(problem.life, readAtAge + 0.5),
    yearsLeft: owned.yearsLeft()(readAtAge),
    yearsNew: owned.nextYearsLeft()(0),
  };
}

/** Mean over the hidden condition of a used machine: Gauss-Hermite rule with three nodes. */
const usedValue = ({ nextValue }: OwnedMachine, { ageYears, doubt }: UsedAge): number =>
  (nextValue(ageYears * Math.exp(-Math.sqrt(3) * doubt)) +
    4 * nextValue(ageYears) +
    nextValue(ageYears * Math.exp(Math.sqrt(3) * doubt))) /
  6;

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
    used: first.owning.used === null ? null : mean(({ used }) => used ?? 0),
    perYear: mean(({ perYear }) => perYear),
    drawn: cases.flatMap(({ owning }) => [...owning.drawn]),
    limit: mean(({ limit }) => limit),
    readAtAge: mean(({ readAtAge }) => readAtAge),
    curve: first.owning.curve.map(({ age }, index) => ({ age, limit: mean(({ curve }) => curve[index]?.limit ?? 0) })),
    failuresNextYear: mean(({ failuresNextYear }) => failuresNextYear),
    yearsLeft: mean(({ yearsLeft }) => yearsLeft),
    yearsNew: mean(({ yearsNew }) => yearsNew),
  };
}
