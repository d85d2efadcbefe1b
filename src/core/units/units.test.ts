import { asId, typedNumber } from '.';
import type { EventId } from '.';
import { asDay, asInstant } from '.';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addDays,
  addMoney,
  daysBetween,
  entropyBits,
  fromMajor,
  groupBy,
  hashText,
  isoWeekday,
  isoWeekStart,
  liveEvents,
  localDateOf,
  localTimeOf,
  money,
  moneyToDecimal,
  normalCdf,
  normalDraw,
  normalise,
  guessMoney,
  isDay,
  parseDecimal,
  parseMoney,
  quantile,
  seededRandom,
  shareOfMoney,
  stableJson,
  sumMoney,
  timesMoney,
  toMajor,
  type StoredEvent,
} from '.';

const cents = fc.integer({ min: -1_000_000_000, max: 1_000_000_000 });

describe('money', () => {
  it.each([
    ['12.5', 'EUR', 1250],
    ['12,50', 'EUR', 1250],
    ['1 234,50', 'EUR', 123450],
    ['1,234.50', 'EUR', 123450],
    ['1.234,50', 'EUR', 123450],
    ['1,234', 'EUR', 123400],
    ['-0.05', 'EUR', -5],
    ['7', 'JPY', 7],
    ['1.234', 'KWD', 1234],
    ['0.10', 'EUR', 10],
  ])('guesses what a person means by %s %s', (text, currency, minor) => {
    expect(guessMoney(text, currency)).toEqual({ ok: true, value: money(minor, currency) });
  });

  it.each([
    ['12.5', 'EUR', 1250],
    ['12.500', 'EUR', 1250],
    ['1250', 'EUR', 125000],
    ['-0.05', 'EUR', -5],
    ['1.234', 'KWD', 1234],
  ])('reads a file’s %s %s as it stands there', (text, currency, minor) => {
    expect(parseMoney(text, currency)).toEqual({ ok: true, value: money(minor, currency) });
  });

  it.each([
    ['twelve', 'EUR', 'not-a-decimal'],
    ['1.2.3', 'EUR', 'not-a-decimal'],
    ['', 'EUR', 'not-a-decimal'],
    ['12,50', 'EUR', 'not-a-decimal'],
    ['1,250', 'EUR', 'not-a-decimal'],
    ['1 250', 'EUR', 'not-a-decimal'],
    ['0.125', 'EUR', 'too-many-decimals'],
    ['1.2345', 'EUR', 'too-many-decimals'],
    ['5', 'XXQ', 'unknown-currency'],
    ['5', 'constructor', 'unknown-currency'],
    ['99999999999999999999', 'EUR', 'not-a-decimal'],
  ])('refuses a file’s %s %s', (text, currency, kind) => {
    const read = parseMoney(text, currency);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.error.kind).toBe(kind);
  });

  it('reads drawn decimals of 0 to 4 places as their digits say, or says that they are too fine', () => {
    fc.assert(
      fc.property(
        fc.boolean(),
        fc.integer({ min: 0, max: 9_999_999 }),
        fc.integer({ min: 0, max: 4 }),
        fc.integer({ min: 0, max: 9999 }),
        fc.integer({ min: 0, max: 4 }),
        (negative, whole, places, digits, decimals) => {
          const fraction = String(digits).padStart(4, '0').slice(0, places);
          const text = `${negative ? '-' : ''}${whole}${places > 0 ? `.${fraction}` : ''}`;
          // A second way: in whole ten-thousandths, by integers only.
          const exact = (whole * 10_000 + Number(fraction.padEnd(4, '0'))) * (negative ? -1 : 1);
          const scale = 10 ** (4 - decimals);
          const read = parseDecimal(text, decimals);
          if (exact % scale === 0) expect(read).toEqual({ ok: true, value: exact / scale || 0 });
          else expect(read).toMatchObject({ ok: false, error: { kind: 'too-many-decimals', allowed: decimals } });
        },
      ),
    );
  });

  it('writes what it reads, exactly', () => {
    fc.assert(
      fc.property(cents, (minor) => {
        const text = moneyToDecimal(money(minor, 'EUR'));
        expect(parseMoney(text, 'EUR')).toEqual({ ok: true, value: money(minor, 'EUR') });
      }),
    );
  });

  it('adds without loss, in any order', () => {
    fc.assert(
      fc.property(fc.array(cents, { maxLength: 12 }), (amounts) => {
        const values = amounts.map((minor) => money(minor, 'EUR'));
        const total = amounts.reduce((sum, minor) => sum + minor, 0);
        expect(sumMoney(values, 'EUR').amountMinor).toBe(total);
        expect(sumMoney([...values].reverse(), 'EUR').amountMinor).toBe(total);
      }),
    );
    expect(() => addMoney(money(1, 'EUR'), money(1, 'GBP'))).toThrow();
  });

  it('rounds a share half away from zero, as integers would', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -10_000_000, max: 10_000_000 }),
        fc.integer({ min: 0, max: 10_000 }),
        (minor, points) => {
          const exact = minor * points;
          const expected = Math.sign(exact) * Math.floor((Math.abs(exact) + 5000) / 10_000);
          expect(shareOfMoney(money(minor, 'EUR'), points).amountMinor).toBe(expected || 0);
        },
      ),
    );
    expect(shareOfMoney(money(50, 'EUR'), 100).amountMinor).toBe(1);
    expect(shareOfMoney(money(-50, 'EUR'), 100).amountMinor).toBe(-1);
  });

  it('goes to major units and back', () => {
    fc.assert(
      fc.property(cents, (minor) => {
        expect(fromMajor(toMajor(money(minor, 'EUR')), 'EUR').amountMinor).toBe(minor);
      }),
    );
    expect(timesMoney(money(199, 'EUR'), 3).amountMinor).toBe(597);
  });
});

describe('dates', () => {
  const day = fc.integer({ min: -20_000, max: 30_000 }).map((offset) => addDays(asDay('2000-01-01'), offset));

  it('counts days both ways', () => {
    fc.assert(
      fc.property(day, fc.integer({ min: -5000, max: 5000 }), (date, days) => {
        expect(daysBetween(date, addDays(date, days))).toBe(days);
      }),
    );
  });

  it('begins ISO weeks on the Monday of the week that holds 4 January', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1990, max: 2060 }), fc.integer({ min: 1, max: 52 }), (year, week) => {
        const monday = isoWeekStart(year, week);
        expect(isoWeekday(monday)).toBe(1);
        expect(daysBetween(isoWeekStart(year, 1), monday)).toBe((week - 1) * 7);
      }),
    );
    expect(isoWeekStart(2015, 1)).toBe('2014-12-29');
    expect(isoWeekStart(2021, 1)).toBe('2021-01-04');
  });

  it('knows the day and time of the shop, not of the machine it runs on', () => {
    expect(localDateOf(asInstant('2026-03-28T23:30:00.000Z'), 'Europe/Berlin')).toBe(asDay('2026-03-29'));
    expect(localTimeOf(asInstant('2026-03-29T01:30:00.000Z'), 'Europe/Berlin')).toBe('03:30');
    expect(localDateOf(asInstant('2026-01-01T03:00:00.000Z'), 'America/Chicago')).toBe(asDay('2025-12-31'));
  });
});

describe('probability', () => {
  it('normalises to one and leaves nothing where nothing is', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 30 }), (masses) => {
        const total = masses.reduce((sum, mass) => sum + mass, 0);
        fc.pre(total > 1e-200);
        expect(normalise(masses).reduce((sum, p) => sum + p, 0)).toBeCloseTo(1, 9);
      }),
    );
    expect(normalise([0, 0])).toEqual([0, 0]);
    expect(entropyBits([0.5, 0.5])).toBeCloseTo(1);
    expect(entropyBits([1, 0])).toBe(0);
  });

  it('agrees with the tabulated normal distribution to 2e-7', () => {
    for (const [x, p] of [
      [0, 0.5],
      [1, 0.8413447460685429],
      [-1.96, 0.024997895148220435],
      [2.5, 0.9937903346742238],
      [-6, 9.865876450376946e-10],
    ] as const)
      expect(Math.abs(normalCdf(x) - p)).toBeLessThan(2e-7);
  });

  it('draws the same for the same seed, with the right mean and spread', () => {
    const draws = (seed: number) => {
      const random = seededRandom(seed);
      return Array.from({ length: 20_000 }, () => normalDraw(random));
    };
    expect(draws(4).slice(0, 5)).toEqual(draws(4).slice(0, 5));
    const values = draws(11);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const variance = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
    expect(mean).toBeCloseTo(0, 1);
    expect(variance).toBeCloseTo(1, 1);
  });

  it('interpolates quantiles between the neighbours', () => {
    expect(quantile([3, 1, 2], 0.5)).toBe(2);
    expect(quantile([0, 10], 0.25)).toBe(2.5);
    expect(quantile([], 0.5)).toBeNaN();
  });
});

describe('collections', () => {
  it('writes the same JSON whatever the order of keys', () => {
    expect(stableJson({ b: 1, a: { d: [2, { z: 1, y: 2 }], c: null } })).toBe(
      stableJson({ a: { c: null, d: [2, { y: 2, z: 1 }] }, b: 1 }),
    );
  });
  it('groups in order and hashes stably', () => {
    expect([...groupBy([3, 1, 4, 1], (n) => n % 2).entries()]).toEqual([
      [1, [3, 1, 1]],
      [0, [4]],
    ]);
    expect(hashText('sorter')).toBe(hashText('sorter'));
    expect(hashText('sorter')).not.toBe(hashText('sortes'));
  });
});

describe('a day', () => {
  it.each(['2026-02-28', '2024-02-29', '2026-12-31', '2000-02-29'])('is %s', (text) => {
    expect(isDay(text)).toBe(true);
  });
  it.each([
    '2026-02-29',
    '2026-02-31',
    '2026-13-01',
    '2026-00-10',
    '2026-04-31',
    '1900-02-29',
    '26-01-01',
    '2026-1-1',
    '',
  ])('is not %s', (text) => {
    expect(isDay(text)).toBe(false);
  });
});

describe('live events', () => {
  type Data = { type: 'note'; text: string } | { type: 'undone'; eventId: EventId };
  const stored = (sequence: number, data: Data): StoredEvent<Data> => ({
    id: asId(`e${sequence}`),
    stream: 's',
    sequence,
    version: 1,
    at: asInstant('2026-01-01T00:00:00.000Z'),
    groupId: 'g',
    data,
  });
  it('leaves out what was taken back, in the order of the sequence', () => {
    const events = [
      stored(3, { type: 'undone', eventId: asId('e2') }),
      stored(1, { type: 'note', text: 'a' }),
      stored(2, { type: 'note', text: 'b' }),
      stored(4, { type: 'note', text: 'c' }),
    ];
    expect(liveEvents(events).map((event) => event.id)).toEqual(['e1', 'e4']);
  });
});

describe('a number as it is typed', () => {
  it('takes a comma or a point, and nothing that is no number or beyond its bounds', () => {
    expect(['2,5', ' 2.5 ', '-1', '0'].map((text) => typedNumber(text))).toEqual([2.5, 2.5, -1, 0]);
    expect(['', ' ', '2,5,1', 'abc', '1e999', 'NaN'].map((text) => typedNumber(text))).toEqual(Array(6).fill(null));
    expect(['-0.1', '0', '100', '100,1'].map((text) => typedNumber(text, 0, 100))).toEqual([null, 0, 100, null]);
  });
});
