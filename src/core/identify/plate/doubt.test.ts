import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { doubted } from './doubt';
import { buildModelIndex } from './modelIndex';
import { readPlate } from './readPlate';

const share = fc.double({ min: 1e-9, max: 1, noNaN: true });
const masses = fc.record({
  listed: fc.array(fc.record({ before: share, mass: share, exact: fc.boolean() }), { maxLength: 8 }),
  unread: fc.oneof(fc.constant(0), share),
  unknown: fc.oneof(fc.constant(0), share),
});
const before = fc.double({ min: 0.01, max: 0.99, noNaN: true });
const sumOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0);

describe('doubt in the model', () => {
  it('gives probabilities that sum to one', () => {
    fc.assert(
      fc.property(masses, before, (given, prior) => {
        const { listed, unread, unknown } = doubted(given, prior);
        expect(sumOf([...listed, unread, unknown])).toBeCloseTo(1, 9);
        for (const p of [...listed, unread, unknown]) expect(p).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it('moves nothing where nothing was read: what was thought before stays', () => {
    fc.assert(
      fc.property(before, share, (prior, scale) => {
        const { unknown, unread } = doubted({ listed: [], unread: (1 - prior) * scale, unknown: prior * scale }, prior);
        expect(unknown).toBeCloseTo(prior, 9);
        expect(unread).toBeCloseTo(1 - prior, 9);
      }),
    );
  });

  it('keeps the order of numbers that were as likely before, and never makes the first of two surer', () => {
    fc.assert(
      fc.property(share, share, share, (prior, one, other) => {
        const [high, low] = [Math.max(one, other), Math.min(one, other)];
        const listed = [high, low].map((mass) => ({ before: prior, mass: mass * prior, exact: false }));
        const [first = 0, second = 0] = doubted({ listed, unread: 0, unknown: 0 }, 0.1).listed;
        expect(first).toBeGreaterThanOrEqual(second - 1e-12);
        expect(first).toBeLessThanOrEqual(high / (high + low) + 1e-12);
      }),
    );
  });

  it('takes priors as they are: a reading that says the same of two numbers leaves them as likely as they were', () => {
    fc.assert(
      fc.property(share, share, share, (a, b, said) => {
        const listed = [a, b].map((prior) => ({ before: prior, mass: prior * said, exact: false }));
        const [first = 0, second = 0] = doubted({ listed, unread: 0, unknown: 0 }, 0.1).listed;
        expect(first / (first + second)).toBeCloseTo(a / (a + b), 9);
      }),
    );
  });
});

describe('a number typed as it is listed', () => {
  it('is hardly ever said to be unlisted, however dense its neighbours are', () => {
    const models = demoCatalogue().models;
    const index = buildModelIndex(models);
    const unknown = models.map(({ modelNumber }) => readPlate(index, modelNumber).unknown);
    expect(Math.max(...unknown)).toBeLessThan(0.03);
  });

  it('is settled by itself in nearly all cases: nobody has to compare what was typed right', () => {
    const models = demoCatalogue().models;
    const index = buildModelIndex(models);
    const sure = models.filter(({ id, modelNumber }) =>
      readPlate(index, modelNumber).candidates.some(
        ({ modelId, probability }) => modelId === id && probability >= 0.95,
      ),
    );
    expect(sure.length / models.length).toBeGreaterThan(0.97);
  });
});
