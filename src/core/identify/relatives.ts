import { groupBy } from '../units';
import { normaliseNumber } from './plate/normal';
import { numberAt, placeOf, type NumberList } from './input/numberList';

/** A listed number near to another in the order of numbers, and how many characters both begin with. */
export type NumberNeighbour = { position: number; shared: number };

const LOOKED_AT = 6;
/** Fewer characters in common say nothing. */
const LEAST_SHARED = 3;

/** The listed numbers that share the longest beginning with a number, itself left out: those next to it in the sorted list. O(log n). */
export function numberNeighbours(list: NumberList, number: string): NumberNeighbour[] {
  const wanted = normaliseNumber(number);
  const place = placeOf(list, wanted);
  const near = Array.from({ length: 2 * LOOKED_AT }, (_, index) => place - LOOKED_AT + index)
    .filter((position) => position >= 0 && position < list.size && numberAt(list, position) !== wanted)
    .map((position): NumberNeighbour => ({ position, shared: sharedStart(wanted, numberAt(list, position)) }));
  const most = Math.max(0, ...near.map(({ shared }) => shared));
  return most < LEAST_SHARED ? [] : near.filter(({ shared }) => shared === most);
}

function sharedStart(a: string, b: string): number {
  let index = 0;
  while (index < a.length && index < b.length && a[index] === b[index]) index += 1;
  return index;
}

/** How much of a number its nearest neighbours share with it, 0 to 1. */
export const sharedShare = (number: string, shared: number): number =>
  shared / Math.max(1, normaliseNumber(number).length);

/** Shares of a number in common with its neighbours, in steps; within one the chance is taken as the same. */
const STEPS = [0, 0.4, 0.55, 0.7, 0.85];
const stepOf = (share: number): number => STEPS.findLastIndex((step) => share >= step);

/** For each step: how often a listed number's neighbour stands on its platform, of how many that were looked at. */
export type Kinship = readonly { same: number; seen: number }[];

/** What a catalogue says of its own numbers: each sampled number is taken out and looked for among the others. O(pairs). */
export function kinshipOf(pairs: readonly { share: number; same: boolean }[]): Kinship {
  const steps = groupBy(pairs, ({ share }) => stepOf(share));
  return STEPS.map((_, step) => {
    const there = steps.get(step) ?? [];
    return { same: there.filter(({ same }) => same).length, seen: there.length };
  });
}

/** P(a number's nearest neighbour stands on its platform), by how much they share: what the catalogue's own numbers do (Jeffreys' prior). */
export function kinshipAt(kinship: Kinship, share: number): number {
  const { same, seen } = kinship[stepOf(share)] ?? { same: 0, seen: 0 };
  return (same + 0.5) / (seen + 1);
}

export type PlatformShare<Platform> = { platformId: Platform; probability: number };

/** Which platforms the nearest listed numbers speak for. What is left of one is 'none of these'. */
export function platformShares<Platform extends string>(
  kinship: Kinship,
  share: number,
  platforms: readonly Platform[],
): PlatformShare<Platform>[] {
  const known = kinshipAt(kinship, share);
  return [...groupBy(platforms, (id) => id)]
    .map(([platformId, same]) => ({ platformId, probability: (known * same.length) / Math.max(1, platforms.length) }))
    .sort((a, b) => b.probability - a.probability);
}
