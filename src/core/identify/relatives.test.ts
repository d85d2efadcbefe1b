import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { defined, sum } from '../units';
import { buildNumberList, kinshipOf, numberNeighbours, platformShares, sharedShare } from '.';

const { models } = demoCatalogue();
const { list, order } = buildNumberList(models.map(({ modelNumber }) => ({ number: modelNumber, words: '' })));
const modelAt = (position: number) => defined(models[order[position] ?? -1], 'a model');

/** Each listed number, looked for among the others. */
const pairs = models.flatMap((model) =>
  numberNeighbours(list, model.modelNumber).map(({ position, shared }) => ({
    id: model.id,
    share: sharedShare(model.modelNumber, shared),
    same: modelAt(position).platformId === model.platformId,
  })),
);

describe('listed relatives of a number that is not listed', () => {
  it('begin alike, and are never the number itself', () => {
    for (const model of models.filter((_, index) => index % 17 === 0)) {
      const near = numberNeighbours(list, model.modelNumber.toLowerCase());
      expect(near.every(({ position }) => modelAt(position).modelNumber !== model.modelNumber)).toBe(true);
    }
    expect(numberNeighbours(list, '??')).toEqual([]);
  });

  it('speak for their platform as often as they are right, on numbers that were not counted', () => {
    const [counted, others] = [0, 1].map((half) => pairs.filter((_, index) => index % 2 === half));
    const kinship = kinshipOf(defined(counted, 'half of them'));
    const held = defined(others, 'the other half').map(({ share, same }) => ({
      same,
      p: sum(platformShares(kinship, share, ['this one']).map(({ probability }) => probability)),
    }));
    for (const [low, high] of [
      [0, 0.5],
      [0.5, 1],
    ] as const) {
      const there = held.filter(({ p }) => p >= low && p < high);
      if (there.length < 30) continue;
      const right = there.filter(({ same }) => same).length / there.length;
      expect(Math.abs(right - sum(there.map(({ p }) => p)) / there.length)).toBeLessThan(0.1);
    }
    expect(held.length).toBeGreaterThan(100);
  });

  it('leave room for none of them', () => {
    const shares = platformShares(kinshipOf(pairs), 0.9, ['a', 'a', 'b']);
    expect(sum(shares.map(({ probability }) => probability))).toBeLessThan(1);
    expect(shares.map(({ platformId }) => platformId)).toEqual(['a', 'b']);
    // Where nothing was counted, nothing is claimed.
    expect(platformShares(kinshipOf([]), 0.9, ['a'])[0]?.probability).toBe(0.5);
  });
});
