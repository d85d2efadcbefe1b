import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { MERGE, MOST_TORN, mostTorn, searchCosts } from './channel';
import type { searchTrie as Search } from './search';
import { codesOf, UNREADABLE } from './symbols';
import { buildTrie } from './trie';
import { wordListOf } from './wordList';

type SearchTrie = typeof Search;

/** A search that has seen nothing yet. */
const freshSearch = async (): Promise<SearchTrie> => {
  vi.resetModules();
  return (await import('./search')).searchTrie;
};

const number = fc.string({ unit: fc.constantFrom(...'013458BDMNRSUV'), minLength: 2, maxLength: 11 });
const reading = fc.string({ unit: fc.constantFrom(...'013458BDMNRSUV?'), minLength: 1, maxLength: 11 });
/** A reading near one of the numbers: what the search is for. */
const nearReading = (numbers: readonly string[]) =>
  fc
    .tuple(
      fc.constantFrom(...numbers),
      fc.array(fc.tuple(fc.nat(11), fc.constantFrom('?', '', '8', 'RN', 'M', 'V5')), { maxLength: 3 }),
    )
    .map(([start, slips]) =>
      slips.reduce((text, [index, put]) => text.slice(0, index) + put + text.slice(index + 1), start),
    )
    .filter((text) => text.length > 0);
const problem = fc
  .uniqueArray(number, { minLength: 1, maxLength: 40 })
  .chain((numbers) => fc.tuple(fc.constant([...numbers].sort()), fc.oneof(reading, nearReading(numbers))));

/** The cheapest alignment over the whole matrix, without bounds and without shared rows. `tear`: what is missing at the truth's end. */
function alignmentCost(truth: Uint8Array, read: Uint8Array, tear: boolean, reversed: boolean): number {
  const { substitution, columns, drop, add, swap, torn, tornOn, merge } = searchCosts;
  const [first, second] = reversed ? [MERGE.from[1], MERGE.from[0]] : MERGE.from;
  const cost = Array.from({ length: truth.length + 1 }, () => new Array<number>(read.length + 1).fill(Infinity));
  const at = (i: number, j: number) => cost[i]?.[j] ?? Infinity;
  for (let i = 0; i <= truth.length; i += 1)
    for (let j = 0; j <= read.length; j += 1) {
      const [t, r] = [truth[i - 1] ?? -1, read[j - 1] ?? -1];
      const [tt, rr] = [truth[i - 2] ?? -1, read[j - 2] ?? -1];
      const ways = [i === 0 && j === 0 ? 0 : Infinity];
      if (i > 0) ways.push(at(i - 1, j) + drop);
      if (j > 0) ways.push(at(i, j - 1) + (r === UNREADABLE ? 2 : add));
      if (i > 0 && j > 0) ways.push(at(i - 1, j - 1) + (substitution[t * columns + r] ?? Infinity));
      if (i > 1 && j > 1 && t === rr && tt === r && t !== tt) ways.push(at(i - 2, j - 2) + swap);
      if (i > 0 && j > 1 && t === MERGE.to && rr === first && r === second) ways.push(at(i - 1, j - 2) + merge);
      if (i > 1 && j > 0 && r === MERGE.to && tt === first && t === second) ways.push(at(i - 2, j - 1) + merge);
      (cost[i] as number[])[j] = Math.min(...ways);
    }
  let best = at(truth.length, read.length);
  for (let lost = 1; tear && lost <= mostTorn(truth.length); lost += 1)
    best = Math.min(best, at(truth.length - lost, read.length) + torn + (lost - 1) * tornOn);
  return best;
}

const turn = (codes: Uint8Array) => codes.slice().reverse();
const reversedOf = (text: string) => [...text].reverse().join('');
/** Rows are single precision. */
const NEAR = 1e-3;

describe('the bounded search in a trie', () => {
  let searchTrie: SearchTrie;
  beforeEach(async () => {
    searchTrie = await freshSearch();
  });

  type Prior = (listed: string) => number;
  const search = (
    numbers: readonly string[],
    read: Uint8Array,
    total: number,
    half: number,
    reversed: boolean,
    prior: Prior = () => 0,
    joint = Infinity,
  ) => {
    const found = new Map<string, number>();
    const trie = buildTrie(wordListOf(numbers.map(codesOf)), numbers.map(prior));
    const bounds = { total, half, joint };
    searchTrie(trie, read, bounds, reversed, (word, cost) => {
      found.set(numbers[word] ?? '', Math.min(cost, found.get(numbers[word] ?? '') ?? Infinity));
      return joint;
    });
    return found;
  };

  it('finds all within the bound, and nothing else, at the cost of the whole alignment', () => {
    fc.assert(
      fc.property(
        problem,
        fc.double({ min: 3, max: 20, noNaN: true }),
        fc.boolean(),
        ([numbers, text], total, reversed) => {
          const read = codesOf(text);
          const found = search(numbers, read, total, -1, reversed);
          for (const listed of numbers) {
            const cost = alignmentCost(codesOf(listed), read, true, reversed);
            if (Math.abs(cost - total) < NEAR || listed.length > read.length + MOST_TORN + 1) continue;
            if (cost < total) expect(found.get(listed), `${listed} read ${text}`).toBeCloseTo(cost, 3);
            else expect(found.has(listed), `${listed} read ${text}`).toBe(false);
          }
        },
      ),
      { numRuns: 400 },
    );
  });

  it('needs no more than a cost and a prior that fit the joint bound', () => {
    /** Rarer the more digits stand in it. */
    const prior: Prior = (listed) => -2 * listed.replace(/\D/g, '').length;
    fc.assert(
      fc.property(problem, fc.double({ min: 3, max: 25, noNaN: true }), ([numbers, text], joint) => {
        const read = codesOf(text);
        const found = search(numbers, read, 18, -1, false, prior, joint);
        for (const listed of numbers) {
          const cost = alignmentCost(codesOf(listed), read, true, false);
          const limit = Math.min(18, joint + prior(listed));
          if (Math.abs(cost - limit) < NEAR || listed.length > read.length + MOST_TORN + 1) continue;
          expect(found.has(listed), `${listed} read ${text}`).toBe(cost < limit);
        }
      }),
      { numRuns: 400 },
    );
  });

  it('misses nothing untorn when each direction gives half of the cost to the first half', () => {
    fc.assert(
      fc.property(problem, fc.double({ min: 3, max: 20, noNaN: true }), ([numbers, text], total) => {
        const read = codesOf(text);
        const half = read.length >> 1;
        const forward = search(numbers, read, total, half, false);
        const backward = search(numbers.map(reversedOf).sort(), turn(read), total, read.length - half - 1, true);
        for (const listed of numbers) {
          const cost = alignmentCost(codesOf(listed), read, false, false);
          if (cost > total - NEAR || listed.length > read.length + MOST_TORN + 1) continue;
          const least = Math.min(forward.get(listed) ?? Infinity, backward.get(reversedOf(listed)) ?? Infinity);
          expect(least, `${listed} read ${text}`).toBeLessThan(cost + NEAR);
        }
      }),
      { numRuns: 400 },
    );
  });

  it('answers the same whatever was searched before', async () => {
    const problems = fc.sample(problem, { seed: 31, numRuns: 60 });
    const ask = ([numbers, text]: (typeof problems)[number]) => [...search(numbers, codesOf(text), 16, -1, false)];
    const fresh = [];
    for (const one of problems) {
      searchTrie = await freshSearch();
      fresh.push(ask(one));
    }
    // The last search has seen only the last problem; now each is asked after all those before it, and once more the other way round.
    for (const order of [[...problems.keys()], [...problems.keys()].reverse()])
      for (const index of order)
        expect(ask(problems[index] as (typeof problems)[number]), `problem ${index}`).toEqual(fresh[index]);
  });
});
