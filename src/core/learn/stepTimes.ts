import type { PlatformId } from '../units';

/** How long a step took, by the clock at the bench: from the step before, or from the start, while the clock ran. */
export type TimedStep = { operationId: string; phase: 'strip' | 'work' | 'refit'; minutes: number };

type Sums = { count: number; minutes: number; squares: number };
/** By step, over all platforms and by platform. */
export type StepSums = { all: Record<string, Sums>; platforms: Record<string, Record<string, Sums>> };

export const noStepSums = (): StepSums => ({ all: {}, platforms: {} });

const keyOf = ({ operationId, phase }: Pick<TimedStep, 'operationId' | 'phase'>): string => `${phase} ${operationId}`;

function add(sums: Record<string, Sums>, key: string, minutes: number): void {
  const known = (sums[key] ??= { count: 0, minutes: 0, squares: 0 });
  known.count += 1;
  known.minutes += minutes;
  known.squares += minutes ** 2;
}

/** Adds a ticket's steps to the sums, in place. */
export function addSteps(sums: StepSums, steps: readonly TimedStep[], platformId: PlatformId | null): void {
  for (const step of steps) {
    add(sums.all, keyOf(step), step.minutes);
    if (platformId !== null) add((sums.platforms[platformId] ??= {}), keyOf(step), step.minutes);
  }
}

/** Weight of what is known without it, in steps: the shop's factor for a step, the step for the same on one platform. */
const PRIOR_STEPS = 4;
/** Spread of a step of which nothing is known, as a share of its minutes. */
const USUAL_SPREAD = 0.25;
/** Nobody is ten times as slow; a clock that was forgotten is. */
const BOUNDS = { least: 1 / 4, most: 4 };

export type StepTime = { minutes: number; sd: number };

/**
 * Minutes of a step and their spread, learned against the list: the mean of what was measured, drawn to the shop's factor with few measurements and to the step's mean over
 * all platforms with few on this one. Without any, the list times the factor. Converges to the shop's own mean. O(1).
 */
export function stepTime(
  sums: StepSums,
  platformId: PlatformId | null,
  shopFactor: number,
  step: Pick<TimedStep, 'operationId' | 'phase'>,
  listMinutes: number,
): StepTime {
  if (listMinutes <= 0) return { minutes: 0, sd: 0 };
  const key = keyOf(step);
  const blend = (prior: StepTime, own: Sums | undefined): StepTime => {
    if (!own || own.count === 0) return prior;
    const mean = own.minutes / own.count;
    const variance = own.count > 1 ? Math.max(0, own.squares / own.count - mean ** 2) : prior.sd ** 2;
    const weight = own.count / (own.count + PRIOR_STEPS);
    return {
      minutes: (1 - weight) * prior.minutes + weight * mean,
      sd: Math.sqrt((1 - weight) * prior.sd ** 2 + weight * variance),
    };
  };
  const book = { minutes: listMinutes * shopFactor, sd: USUAL_SPREAD * listMinutes * shopFactor };
  const shop = blend(book, sums.all[key]);
  const own = blend(shop, platformId === null ? undefined : sums.platforms[platformId]?.[key]);
  const minutes = Math.min(BOUNDS.most * listMinutes, Math.max(BOUNDS.least * listMinutes, own.minutes));
  return { minutes, sd: own.sd };
}
