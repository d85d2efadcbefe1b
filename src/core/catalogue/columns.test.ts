import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  choice,
  day,
  list,
  maybeDay,
  maybeNumber,
  maybePrice,
  maybeText,
  needs,
  number,
  price,
  quantities,
  sentences,
  share,
  text,
} from './columns';

const reads = (schema: { safeParse: (value: string) => { success: boolean; data?: unknown } }, cell: string) => {
  const read = schema.safeParse(cell);
  return read.success ? read.data : 'refused';
};

describe('cells of the data package', () => {
  it('of text are trimmed, and not empty where something must stand', () => {
    expect(reads(text(), '  Vessby ')).toBe('Vessby');
    expect(reads(text(), '   ')).toBe('refused');
    expect(reads(maybeText(), '   ')).toBeUndefined();
    expect(reads(text(), 'x'.repeat(2001))).toBe('refused');
  });

  it.each(['', 'abc', '1e999', 'NaN', '--1', '=1+1'])('of number refuse %s', (cell) => {
    expect(reads(number(), cell)).toBe('refused');
  });

  it('of number keep their bounds', () => {
    const whole = number({ min: 0, max: 10, whole: true });
    fc.assert(
      fc.property(fc.integer({ min: -20, max: 30 }), (value) => {
        expect(reads(whole, String(value))).toBe(value >= 0 && value <= 10 ? value : 'refused');
      }),
    );
    expect(reads(whole, '2.5')).toBe('refused');
    expect(reads(maybeNumber(), '')).toBeUndefined();
    expect(reads(share(), '1.2')).toBe('refused');
  });

  it('of date are days that can be', () => {
    expect(reads(day(), '2019-03-31')).toBe('2019-03-31');
    for (const cell of ['2019-13-01', '31.03.2019', '2019-3-1', '']) expect(reads(day(), cell)).toBe('refused');
    expect(reads(maybeDay(), '')).toBeUndefined();
  });

  it('of price carry their currency, and never pass through a float', () => {
    expect(reads(price(), '12.50 EUR')).toEqual({ amountMinor: 1250, currency: 'EUR' });
    for (const cell of ['12.50', '12.50 XXQ', '-1.00 EUR', 'EUR 12', '=1+1'])
      expect(reads(price(), cell)).toBe('refused');
    expect(reads(maybePrice(), '')).toBeUndefined();
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), (minor) => {
        const cell = `${Math.floor(minor / 100)}.${String(minor % 100).padStart(2, '0')} EUR`;
        expect(reads(price(), cell)).toEqual({ amountMinor: minor, currency: 'EUR' });
      }),
    );
  });

  it('of several values are split as the format says', () => {
    expect(reads(list(), 'F F-BB  all')).toEqual(['F', 'F-BB', 'all']);
    expect(reads(list(), '')).toEqual([]);
    expect(reads(sentences(), 'One. | Two.')).toEqual(['One.', 'Two.']);
    expect(reads(needs(), 'a b|c')).toEqual([['a'], ['b', 'c']]);
    expect(reads(quantities(), 'clamp:2 gasket:1')).toEqual([
      { id: 'clamp', quantity: 2 },
      { id: 'gasket', quantity: 1 },
    ]);
    expect(reads(quantities(), 'clamp:two')).toBe('refused');
    expect(reads(choice(['front', 'top']), 'side')).toBe('refused');
  });
});
