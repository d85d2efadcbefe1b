import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bearingByDesignation,
  BEARINGS,
  elementOhm,
  findBearing,
  imbalanceNewton,
  judgeReading,
  levelSignal,
  ntcOhm,
  parseSizes,
} from '.';

describe('bearings by ISO 15', () => {
  it.each([
    [20, 47, 14, '6204'],
    [35, 72, 17, '6207'],
    [25, 52, 15, '6205'],
    [30, 62, 16, '6206'],
    [17, 40, 12, '6203'],
    [30, 72, 19, '6306'],
    [25, 47, 12, '6005'],
    [25, 37, 7, '6805'],
    [25, 42, 9, '6905'],
    [25, 52, 18, '62205'],
    [25, 62, 24, '62305'],
  ])('%i x %i x %i is %s', (bore, outside, width, designation) => {
    expect(findBearing({ bore, outside, width })[0]?.designation).toBe(designation);
  });

  it('finds every size in the table again, also through a worn caliper', () => {
    const wear = fc.double({ min: -0.25, max: 0.25, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...BEARINGS), wear, wear, wear, (bearing, a, b, c) => {
        const found = findBearing({ bore: bearing.bore + a, outside: bearing.outside + b, width: bearing.width + c });
        expect(found[0]).toEqual(bearing);
      }),
    );
  });

  it('has each size and each designation once, outside above bore', () => {
    expect(new Set(BEARINGS.map((entry) => entry.designation)).size).toBe(BEARINGS.length);
    expect(new Set(BEARINGS.map(({ bore, outside, width }) => `${bore} ${outside} ${width}`)).size).toBe(
      BEARINGS.length,
    );
    for (const { bore, outside, width } of BEARINGS) expect(outside - bore).toBeGreaterThan(width / 2);
  });

  it('says nothing for a size that no standard bearing has', () => {
    expect(findBearing({ bore: 21, outside: 47, width: 14 })).toEqual([]);
    expect(findBearing({ bore: NaN, outside: 47, width: 14 })).toEqual([]);
  });

  it.each(['6204', '6204-2RS', '6204 2RS', '6204ZZ', '6204-2RS C3', '62042rs1'])('reads %s as 6204', (text) => {
    expect(bearingByDesignation(text)?.designation).toBe('6204');
  });
  it.each(['62205 2RS', '62205'])('reads %s as 62205', (text) => {
    expect(bearingByDesignation(text)?.designation).toBe('62205');
  });
  it.each(['6299', '6204X', 'TK6204', ''])('does not read %s as a bearing', (text) => {
    expect(bearingByDesignation(text)).toBeNull();
  });

  it.each(['20x47x14', '20 x 47 × 14 mm', '20*47*14', ' 20,0x47x14 bearing'])('reads the sizes of %s', (text) => {
    expect(parseSizes(text)).toEqual({ first: 20, second: 47, third: 14 });
  });
  it.each(['20x47', 'axbxc', '20-47-14'])('finds no sizes in %s', (text) => expect(parseSizes(text)).toBeNull());
});

describe('laws', () => {
  it('gives the textbook figures', () => {
    expect(elementOhm(230, 2000)).toBeCloseTo(26.45, 2);
    expect(ntcOhm(4840, 3977, 25)).toBeCloseTo(4840, 6);
    expect(imbalanceNewton(0.5, 0.25, 1200)).toBeCloseTo(1974, 0);
  });
  it('lets a thermistor fall with every degree', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 89, noNaN: true }), (celsius) => {
        expect(ntcOhm(4840, 3977, celsius + 1)).toBeLessThan(ntcOhm(4840, 3977, celsius));
      }),
    );
  });
});

describe('readings', () => {
  const range = { law: 'range' as const, low: 110, high: 220, tolerance: 0 };

  it('judges against both sides, bounds included', () => {
    const verdicts = [109.9, 110, 165, 220, 220.1].map((value) => judgeReading(range, { value }).verdict);
    expect(verdicts).toEqual(['below', 'within', 'within', 'within', 'above']);
    expect(judgeReading(range, { open: true }).verdict).toBe('open');
  });

  it('is monotone: a higher reading is never judged lower', () => {
    const rank = { below: 0, within: 1, above: 2, open: 3, 'cannot-judge': -1 };
    const value = fc.double({ min: 0, max: 500, noNaN: true });
    fc.assert(
      fc.property(value, value, (a, b) => {
        const [low, high] = a < b ? [a, b] : [b, a];
        expect(rank[judgeReading(range, { value: low }).verdict]).toBeLessThanOrEqual(
          rank[judgeReading(range, { value: high }).verdict],
        );
      }),
    );
  });

  it('judges an element by V²/P: open, too low and within are three answers', () => {
    const element = { law: 'element' as const, powerW: 2000, voltageV: 230, tolerance: 0.1 };
    expect(judgeReading(element, { value: 26 })).toMatchObject({ verdict: 'within', reason: 'element-law' });
    expect(judgeReading(element, { value: 12 }).verdict).toBe('below');
    expect(judgeReading(element, { open: true }).verdict).toBe('open');
  });

  it('judges a thermistor at the measured ambient, and asks for it', () => {
    const ntc = { law: 'ntc' as const, r25Ohm: 4840, betaK: 3977, tolerance: 0.08 };
    expect(judgeReading(ntc, { value: 4840 })).toMatchObject({ verdict: 'cannot-judge', reason: 'ambient-missing' });
    expect(judgeReading(ntc, { value: 7700, ambientCelsius: 15 }).verdict).toBe('within');
    expect(judgeReading(ntc, { value: 7700, ambientCelsius: 25 }).verdict).toBe('above');
  });

  it('does not judge what it cannot', () => {
    expect(judgeReading({ law: 'range', tolerance: 0 }, { value: 3 })).toMatchObject({ reason: 'limit-incomplete' });
    expect(judgeReading({ law: 'element', tolerance: 0.1 }, { value: 3 })).toMatchObject({ verdict: 'cannot-judge' });
    expect(judgeReading(range, { value: NaN })).toMatchObject({ verdict: 'cannot-judge', reason: 'not-a-number' });
  });
});

describe('values that must be alike, and a signal by the height of the water', () => {
  const spread = { law: 'spread', tolerance: 0.1 } as const;
  it('the largest may lie above the least by a tenth of their mean, and not a hair more', () => {
    const verdict = (values: number[]) => judgeReading(spread, { value: Math.max(...values), values }).verdict;
    expect(verdict([5, 5, 5])).toBe('within');
    // Mean 10: 9.5 to 10.5 is just a tenth.
    expect(verdict([9.5, 10, 10.5])).toBe('within');
    expect(verdict([9.5, 10, 10.52])).toBe('above');
    expect(judgeReading(spread, { value: 5, values: [5] })).toMatchObject({
      verdict: 'cannot-judge',
      reason: 'too-few',
    });
    expect(judgeReading(spread, { open: true }).verdict).toBe('open');
  });

  it('a level sensor is judged at the height at which it was measured', () => {
    const limit = { law: 'column', atZero: 26.4, perMm: -0.02, tolerance: 0.03 } as const;
    expect(levelSignal(26.4, -0.02, 100)).toBeCloseTo(24.4, 12);
    expect(judgeReading(limit, { value: 24.4, columnMm: 100 })).toMatchObject({ verdict: 'within', expected: 24.4 });
    expect(judgeReading(limit, { value: 24.4, columnMm: 0 }).verdict).toBe('below');
    expect(judgeReading(limit, { value: 24.4 * 1.031, columnMm: 100 }).verdict).toBe('above');
    expect(judgeReading(limit, { value: 24 })).toMatchObject({ verdict: 'cannot-judge', reason: 'column-missing' });
  });
});
