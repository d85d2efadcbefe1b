import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { doubted } from './doubt';
import { asId, seededRandom } from '../../units';
import { buildModelIndex } from './modelIndex';
import { readPlate, type PlateReading } from './readPlate';
import { mayBeUnlisted } from './unlisted';

const share = fc.double({ min: 1e-9, max: 1, noNaN: true });
const masses = fc.record({
  listed: fc.array(fc.record({ before: share, mass: share, exact: fc.boolean(), slips: fc.nat(5), near: fc.nat(48) }), {
    maxLength: 8,
  }),
  unread: fc.oneof(fc.constant(0), share),
  unknown: fc.oneof(fc.constant(0), share),
  photographed: fc.boolean(),
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
        const { unknown, unread } = doubted(
          { listed: [], unread: (1 - prior) * scale, unknown: prior * scale, photographed: false },
          prior,
        );
        expect(unknown).toBeCloseTo(prior, 9);
        expect(unread).toBeCloseTo(1 - prior, 9);
      }),
    );
  });

  it('keeps the order of numbers that were as likely before, and never makes the first of two surer', () => {
    fc.assert(
      fc.property(share, share, share, (prior, one, other) => {
        const [high, low] = [Math.max(one, other), Math.min(one, other)];
        const listed = [high, low].map((mass) => ({
          before: prior,
          mass: mass * prior,
          exact: false,
          slips: 1,
          near: 2,
        }));
        const [first = 0, second = 0] = doubted({ listed, unread: 0, unknown: 0, photographed: false }, 0.1).listed;
        expect(first).toBeGreaterThanOrEqual(second - 1e-12);
        expect(first).toBeLessThanOrEqual(high / (high + low) + 1e-12);
      }),
    );
  });

  it('takes priors as they are: a reading that says the same of two numbers leaves them as likely as they were', () => {
    fc.assert(
      fc.property(share, share, share, (a, b, said) => {
        const listed = [a, b].map((prior) => ({ before: prior, mass: prior * said, exact: false, slips: 1, near: 2 }));
        const [first = 0, second = 0] = doubted({ listed, unread: 0, unknown: 0, photographed: false }, 0.1).listed;
        expect(first / (first + second)).toBeCloseTo(a / (a + b), 9);
      }),
    );
  });
});

describe('a reading that differs from what is listed', () => {
  const odds = (one: { slips: number; near: number }) => {
    const { unknown } = doubted(
      { listed: [{ before: 0.01, mass: 0.5, exact: false, ...one }], unread: 0, unknown: 0.1, photographed: false },
      0.1,
    );
    return unknown / (1 - unknown);
  };

  it('is the likelier unlisted the more slips it takes, and the more listed numbers lie about as near', () => {
    fc.assert(
      fc.property(fc.nat(5), fc.nat(40), (slips, near) => {
        expect(odds({ slips: slips + 1, near })).toBeGreaterThan(odds({ slips, near }));
        expect(odds({ slips, near: near + 1 })).toBeGreaterThan(odds({ slips, near }));
      }),
    );
  });

  it('is unlisted about as often as is said, where people type in a hurry: one slip, or two', () => {
    const random = seededRandom(20);
    const digits = (count: number) => Array.from({ length: count }, () => Math.floor(random() * 10)).join('');
    const heads = Array.from(
      { length: 20 },
      (_, at) => `${'BKTRW'.charAt(at % 5)}${'AXLE'.charAt(at % 4)}${digits(2)}`,
    );
    const all = [...new Set(Array.from({ length: 4100 }, () => (heads[Math.floor(random() * 20)] ?? '') + digits(4)))];
    const [gone, listed] = [all.slice(0, 100), all.slice(100)];
    const index = buildModelIndex(
      listed.map((modelNumber) => ({
        id: asId(modelNumber),
        modelNumber,
        makerId: asId('m'),
        platformId: asId('p'),
        popularity: 1,
      })),
    );
    const slipped = (number: string): string => {
      const at = Math.floor(random() * (number.length - 1));
      const key = number.charAt(at);
      const roll = random();
      if (roll < 0.4) {
        const beside = /\d/.test(key) ? String((Number(key) + (random() < 0.5 ? 1 : 9)) % 10) : key + key;
        return number.slice(0, at) + beside + number.slice(at + 1);
      }
      if (roll < 0.6) return number.slice(0, at) + number.slice(at + 1);
      if (roll < 0.8) return number.slice(0, at) + key + number.slice(at);
      return number.slice(0, at) + number.charAt(at + 1) + key + number.slice(at + 2);
    };
    const twice = (number: string) => slipped(random() < 0.5 ? slipped(number) : number);
    const readings = [
      ...listed.slice(0, 900).map((number) => ({ isListed: true, reading: readPlate(index, twice(number)) })),
      ...gone.map((number) => ({
        isListed: false,
        reading: readPlate(index, random() < 0.5 ? number : slipped(number)),
      })),
    ];
    const doubtful = readings.filter(({ reading }) => reading.unknown > 0.1 && reading.unknown < 0.9);
    const said = sumOf(doubtful.map(({ reading }) => reading.unknown)) / doubtful.length;
    const was = doubtful.filter(({ isListed }) => !isListed).length / doubtful.length;
    // At 0.34 apart nine in ten of what was said to be unlisted at evens was listed.
    expect(Math.abs(said - was)).toBeLessThan(0.15);
  });
});

describe('a number that may be unlisted', () => {
  const reading = (lead: number, unknown: number): PlateReading => ({
    candidates: [{ modelId: asId('m'), modelNumber: 'KX 100', probability: lead, differences: [], ending: '' }],
    unknown,
    unlisted: 1 - lead - unknown,
    rereads: [],
    taken: 'KX10O',
  });

  it('is asked for from two fifths of the chance of the likeliest listed one on: a part for the wrong machine costs more than a look', () => {
    expect(mayBeUnlisted(reading(0.7, 0.3))).toBe(true);
    expect(mayBeUnlisted(reading(0.75, 0.25))).toBe(false);
    expect(mayBeUnlisted(reading(0.2, 0.11))).toBe(true);
    expect(mayBeUnlisted({ ...reading(0, 1), candidates: [] })).toBe(true);
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
