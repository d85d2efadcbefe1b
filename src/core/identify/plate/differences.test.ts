import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { slipsBetween } from './differences';
import { codesOf } from './symbols';

/** The same by trying everything. */
function fewest(a: string, b: string): number {
  if (a === '' || b === '') return a.length + b.length;
  const turned = a.length > 1 && b.length > 1 && a[0] === b[1] && a[1] === b[0] && a[0] !== a[1];
  return Math.min(
    fewest(a.slice(1), b.slice(1)) + (a[0] === b[0] ? 0 : 1),
    fewest(a.slice(1), b) + 1,
    fewest(a, b.slice(1)) + 1,
    turned ? fewest(a.slice(2), b.slice(2)) + 1 : Infinity,
  );
}
const slips = (truth: string, read: string) => slipsBetween(codesOf(truth), codesOf(read));
const short = fc.string({ unit: fc.constantFrom(...'AB12'), minLength: 1, maxLength: 6 });

describe('slips between a number and a reading', () => {
  it('are as few as any way of making the one of the other needs', () => {
    fc.assert(
      fc.property(short, short, (truth, read) => {
        expect(slips(truth, read)).toBe(fewest(truth, read));
      }),
    );
  });

  it('count two characters turned round once, and what cannot be read not at all', () => {
    expect(slips('KX1234', 'KX1324')).toBe(1);
    expect(slips('KX1234', 'KX1?34')).toBe(0);
    expect(slips('KX1234', 'KX?35')).toBe(2);
  });
});
