import type { CauseId } from '../units';
import type { Life } from '../catalogue';
import { lifeChanges, type LifeChange } from './lives';
import { causeFactor, nothingLearned, timeFactor, type Learned } from './learnFrom';

/** What is learned in counts, by what it changes. Each may be left out by itself: those of a design by design. */
export type LearnedKind = 'models' | 'causes' | 'lives' | 'minutes' | 'steps' | 'rescues';

/** How a thing learned is named in the settings that leave it out. */
export const learnedKey = (kind: LearnedKind, design: string | null = null): string =>
  design === null ? kind : `${kind} ${design}`;

/** What was learned without what the shop leaves out (`learnedKey`); names of things that were never learned leave out nothing. O(designs). */
export function without(learned: Learned, left: readonly string[]): Learned {
  if (left.length === 0) return learned;
  const out = new Set(left);
  const kept = <T>(kind: LearnedKind, of: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(of).filter(([design]) => !out.has(learnedKey(kind, design))));
  const nothing = nothingLearned();
  return {
    ...learned,
    shopCounts: out.has('models') ? nothing.shopCounts : learned.shopCounts,
    causeCounts: kept('causes', learned.causeCounts),
    failures: learned.failures.filter(({ design }) => !out.has(learnedKey('lives', design))),
    minutes: kept('minutes', learned.minutes),
    steps: out.has('steps') ? nothing.steps : learned.steps,
    rescues: out.has('rescues') ? nothing.rescues : learned.rescues,
  };
}

/** One thing learned: from how many cases, and what it changes. */
export type LearnedChange = { key: string; cases: number } & (
  | { kind: 'models' }
  | { kind: 'steps' }
  | { kind: 'rescues'; rescued: number }
  /** Minutes of the list are multiplied by `factor`. */
  | { kind: 'minutes'; design: string; taken: number; listed: number; factor: number }
  /** Lives of components, those that moved most first. */
  | { kind: 'lives'; design: string; moved: LifeChange[] }
  /** Shares of causes before anything is found, those that moved most first. */
  | { kind: 'causes'; design: string; moved: { causeId: CauseId; before: number; after: number }[] }
);

const MOST_MOVED = 3;
const sumOf = (counts: Record<string, number>): number =>
  Object.values(counts).reduce((total, count) => total + count, 0);

/**
 * What was learned from closed tickets, thing by thing. `sharesOf`: a design's causes with their shares by the catalogue, which sum to one; `lives`: as the catalogue has them.
 * O(designs × (causes + failures)).
 */
export function learnedChanges(
  learned: Learned,
  sharesOf: (design: string) => ReadonlyMap<CauseId, number>,
  lives: readonly Life[],
): LearnedChange[] {
  const tried = Object.values(learned.rescues);
  const steps = Object.values(learned.steps.all).reduce((total, { count }) => total + count, 0);
  const models = sumOf(learned.shopCounts);
  const causes = Object.entries(learned.causeCounts).map(([design, counts]): LearnedChange => {
    const moved = [...sharesOf(design)]
      .map(([causeId, before]) => ({ causeId, before, after: before * causeFactor(learned, design, causeId, before) }))
      .sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before))
      .slice(0, MOST_MOVED);
    return { kind: 'causes', key: learnedKey('causes', design), design, cases: sumOf(counts), moved };
  });
  const aged = [...new Set(learned.failures.map(({ design }) => design))].flatMap((design): LearnedChange[] => {
    const moved = lifeChanges(lives, learned.failures, design).sort(
      (a, b) => Math.abs(Math.log(b.factor)) - Math.abs(Math.log(a.factor)),
    );
    const cases = moved.reduce((total, { failed }) => total + failed, 0);
    return cases
      ? [{ kind: 'lives', key: learnedKey('lives', design), design, cases, moved: moved.slice(0, MOST_MOVED) }]
      : [];
  });
  const minutes = Object.entries(learned.minutes).map(([design, { tickets, taken, listed }]): LearnedChange => ({
    kind: 'minutes',
    key: learnedKey('minutes', design),
    design,
    cases: tickets,
    taken,
    listed,
    factor: timeFactor(learned, design),
  }));
  const counted: LearnedChange[] = [
    { kind: 'models', key: learnedKey('models'), cases: models },
    { kind: 'steps', key: learnedKey('steps'), cases: steps },
    {
      kind: 'rescues',
      key: learnedKey('rescues'),
      cases: tried.reduce((total, one) => total + one.tried, 0),
      rescued: tried.reduce((total, one) => total + one.rescued, 0),
    },
  ];
  return [...causes, ...aged, ...minutes, ...counted.filter(({ cases }) => cases > 0)];
}
