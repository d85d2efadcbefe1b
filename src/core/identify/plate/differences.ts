import { searchCosts } from './channel';
import { alignSlips } from './likelihood';
import { keptPositions, normaliseNumber } from './normal';
import { codesOf, UNREADABLE } from './symbols';

export type NumberDifference = {
  /** Position in the number as printed, counted from 0. */
  index: number;
  listed: string;
  read: string;
};

/**
 * Where a listed number and a normalised reading differ, by the cheapest alignment; what follows `given` characters was left off. Empty when they are the same.
 * O(length²).
 */
export function differencesBetween(modelNumber: string, read: string, given = Infinity): NumberDifference[] {
  const places = keptPositions(modelNumber);
  const normal = normaliseNumber(modelNumber);
  const plain = normal.slice(0, given);
  const { substitution, columns, drop, add, swap } = searchCosts;
  const slips = alignSlips(
    codesOf(plain),
    codesOf(read),
    // Another character in its place is said to be that, not one left out beside one too many.
    (truth, seen) =>
      truth === seen ? 0 : Math.min(drop + add - 0.1, Math.max(0.1, substitution[truth * columns + seen] ?? 9)),
    { drop, add, swap },
  );
  const differences = slips.map(({ truthAt, readAt, kind }) => ({
    index: places[truthAt] ?? 0,
    listed: kind === 'added' ? '' : plain.charAt(truthAt),
    read: kind === 'dropped' ? '' : read.charAt(readAt),
  }));
  for (let at = plain.length; at < normal.length; at += 1)
    differences.push({ index: places[at] ?? 0, listed: normal.charAt(at), read: '' });
  return differences.sort((a, b) => a.index - b.index);
}

/** How many slips lie between what a reading gives of a listed number and the reading, each as good as the other; two characters turned round are one, what cannot be read is none. O(length²). */
export function slipsBetween(truth: Uint8Array, read: Uint8Array): number {
  const slips = alignSlips(truth, read, (a, b) => (a === b ? 0 : b === UNREADABLE ? 0.5 : 1), {
    drop: 1,
    add: 1,
    swap: 1,
  });
  return slips.reduce(
    (sum, { kind, readAt }) =>
      sum + (kind === 'swapped' ? 0.5 : kind === 'substituted' && read[readAt] === UNREADABLE ? 0 : 1),
    0,
  );
}
