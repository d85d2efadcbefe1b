import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mixOwning, ownMachine, weighQuote, type OwningInput } from '.';

const input = (scaleYears: number, ageYears: number, draws = 40, seed = 7): OwningInput => ({
  life: [{ id: 'a', name: 'a', shape: 2.5, scaleYears, cost: 120, costVariation: 0.3 }],
  next: [{ shape: 2.5, scaleYears, cost: 120, costVariation: 0.3 }],
  replacePrice: 500,
  disruption: 40,
  rho: 0.05,
  ageYears,
  mendsComponent: null,
  repairModel: 'minimal',
  uncertainty: { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 },
  draws,
  seed,
});

describe('owning a machine of which it is not known for sure what it is', () => {
  it('is owning that one where it is known', () => {
    const owning = ownMachine(input(8, 6));
    expect(mixOwning([{ owning, probability: 1 }])).toBe(owning);
  });

  it('lies between what it may be, by their shares', () => {
    const [young, old] = [ownMachine(input(8, 2)), ownMachine(input(8, 14, 40, 8))];
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 0.99, noNaN: true }), (share) => {
        const mixed = mixOwning([
          { owning: young, probability: share },
          { owning: old, probability: 1 - share },
        ]);
        expect(mixed.value).toBeCloseTo(share * young.value + (1 - share) * old.value, 9);
        expect(mixed.limit).toBeCloseTo(mixed.leave - mixed.value, 6);
        expect(mixed.curve).toHaveLength(young.curve.length);
      }),
    );
  });

  it('is said more widely than what it may be is on average', () => {
    const [young, old] = [ownMachine(input(8, 2)), ownMachine(input(8, 14, 40, 8))];
    const mixed = mixOwning([
      { owning: young, probability: 0.5 },
      { owning: old, probability: 0.5 },
    ]);
    // The draws of a mixture vary at least as much as those of its cases do on average (law of total variance).
    const variance = ({ drawn }: typeof young) => {
      const mean = drawn.reduce((sum, { value }) => sum + value, 0) / drawn.length;
      return drawn.reduce((sum, { value }) => sum + (value - mean) ** 2, 0) / drawn.length;
    };
    expect(variance(mixed)).toBeGreaterThan((variance(young) + variance(old)) / 2);
    expect(weighQuote(mixed, [{ quote: 150, probability: 1 }]).draws).toBe(80);
  });

  it('while the cause is open, weighs each price by its chance: figures of the expected one, odds and spread of them all', () => {
    const owning = ownMachine(input(8, 14, 40, 8));
    const at = (quote: number) => weighQuote(owning, [{ quote, probability: 1 }]);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 5, max: 200 }),
        fc.integer({ min: 0, max: 700 }),
        (share, low, more) => {
          const open = weighQuote(owning, [
            { quote: low, probability: share },
            { quote: low + more, probability: 1 - share },
          ]);
          const mixed = (of: 'annualRepair' | 'probabilityRepair' | 'advantage') =>
            share * at(low)[of] + (1 - share) * at(low + more)[of];
          expect(open.probabilityRepair).toBeCloseTo(mixed('probabilityRepair'), 9);
          expect(open.annualRepair).toBeCloseTo(mixed('annualRepair'), 6);
          expect(open.advantage).toBeCloseTo(mixed('advantage'), 6);
          expect(open.spreadRepair[0]).toBeGreaterThanOrEqual(at(low).spreadRepair[0] - 1e-9);
          expect(open.spreadRepair[1]).toBeLessThanOrEqual(at(low + more).spreadRepair[1] + 1e-9);
        },
      ),
    );
    // Nothing is said surely of a price that runs from far below to far above what it may cost.
    const wide = [owning.limit * 0.1, owning.limit * 4].map((quote) => ({ quote, probability: 0.5 }));
    expect(weighQuote(owning, wide).probabilityRepair).toBeGreaterThan(0.3);
    expect(weighQuote(owning, wide).probabilityRepair).toBeLessThan(0.7);
  });
});
