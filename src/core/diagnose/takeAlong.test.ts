import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asId, sum, type CauseId } from '../units';
import { coveredBy, worthBringing, type ToBring } from './takeAlong';

const lists = fc
  .array(
    fc.record({
      weight: fc.double({ min: 0.01, max: 1, noNaN: true }),
      parts: fc.oneof(fc.constant(0), fc.double({ min: 1, max: 200, noNaN: true })),
      restocking: fc.double({ min: 0, max: 0.4, noNaN: true }),
      secondTrip: fc.double({ min: 0, max: 80, noNaN: true }),
    }),
    { minLength: 1, maxLength: 6 },
  )
  .map((rows) =>
    rows.map(({ weight, ...row }, index): ToBring => ({
      ...row,
      causeId: asId<CauseId>(`c${index}`),
      probability: weight / (sum(rows.map((one) => one.weight)) + 0.1),
    })),
  );

/** A second way: the expected cost of every set of parts that could be brought, one true cause after another. */
function costOf(list: readonly ToBring[], brought: ReadonlySet<CauseId>): number {
  const back = (truth: CauseId | null) =>
    sum(list.filter(({ causeId }) => brought.has(causeId) && causeId !== truth).map((x) => x.restocking * x.parts));
  const none = 1 - sum(list.map(({ probability }) => probability));
  return sum(
    [...list.map((entry) => ({ entry, p: entry.probability })), { entry: null, p: none }].map(
      ({ entry, p }) =>
        p *
        (back(entry?.causeId ?? null) +
          (entry && entry.parts > 0 && !brought.has(entry.causeId) ? entry.secondTrip : 0)),
    ),
  );
}

describe('parts worth having beforehand', () => {
  it('are the cheapest of all sets that could be brought', () => {
    fc.assert(
      fc.property(lists, (list) => {
        const proposed = new Set(worthBringing(list).map(({ causeId }) => causeId));
        const needing = list.filter(({ parts }) => parts > 0);
        const best = Math.min(
          ...Array.from({ length: 2 ** needing.length }, (_, mask) =>
            costOf(list, new Set(needing.filter((_row, bit) => mask & (1 << bit)).map(({ causeId }) => causeId))),
          ),
        );
        expect(costOf(list, proposed)).toBeCloseTo(best, 9);
      }),
    );
  });

  it('cover what is wanted, never more than everything', () => {
    fc.assert(
      fc.property(lists, fc.double({ min: 0, max: 1, noNaN: true }), (list, noPart) => {
        const covered = coveredBy(worthBringing(list), noPart);
        expect(covered).toBeGreaterThanOrEqual(Math.min(1, noPart));
        expect(covered).toBeLessThanOrEqual(1);
      }),
    );
  });
});
