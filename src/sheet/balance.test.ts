import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tiltOf } from './Balance';

const rate = fc.double({ min: 1, max: 2000, noNaN: true });

describe('the balance', () => {
  it('sinks on the dearer side, evenly for both', () => {
    fc.assert(
      fc.property(rate, rate, (repair, replace) => {
        expect(Math.sign(tiltOf(repair, replace))).toBe(Math.sign(Math.log(replace / repair)) || 0);
        expect(tiltOf(repair, replace)).toBeCloseTo(-tiltOf(replace, repair), 9);
      }),
    );
  });
  it('goes no further than its stop, and stands level on nothing', () => {
    fc.assert(
      fc.property(rate, rate, (repair, replace) => {
        expect(Math.abs(tiltOf(repair, replace))).toBeLessThanOrEqual(11);
      }),
    );
    expect(tiltOf(100, 200)).toBeCloseTo(11, 9);
    expect(tiltOf(0, 100)).toBe(0);
    expect(tiltOf(NaN, 100)).toBe(0);
  });
});
