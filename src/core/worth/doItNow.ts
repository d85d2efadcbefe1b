import { failuresUntil, type Weibull } from './problem';

/** Chance that a component which works at an age fails within so many years more. */
export const failsWithin = (life: Weibull, ageYears: number, years: number): number =>
  -Math.expm1(failuresUntil(life, ageYears) - failuresUntil(life, ageYears + years));

/** What doing a job while the machine is open saves later, and what it costs today. */
export type DoNow = {
  /** Chance that it is needed before the machine's end when it is left, and when it is done now. */
  needed: number;
  neededAnyway: number;
  /** Expected cost that it saves, of today's worth. */
  saves: number;
  pays: boolean;
};

/**
 * A job that shares the way in: by the lives of its part, not by today's symptom. `cost`: what it would cost then, with what a failure costs the owner; it comes, when it
 * comes, about half way to the machine's end. `extra`: what it costs more today. Closed form.
 */
export function doItNow(question: {
  life: Weibull;
  ageYears: number;
  /** Until the machine is replaced. */
  yearsLeft: number;
  cost: number;
  extra: number;
  rho: number;
}): DoNow {
  const { life, ageYears, yearsLeft, cost, extra, rho } = question;
  const needed = failsWithin(life, ageYears, yearsLeft);
  const neededAnyway = failsWithin(life, 0, yearsLeft);
  const saves = Math.max(0, needed - neededAnyway) * cost * Math.exp((-rho * yearsLeft) / 2);
  return { needed, neededAnyway, saves, pays: saves > extra };
}
