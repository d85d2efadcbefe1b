import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { livesOf, type Life } from '../catalogue';
import { defined, seededRandom, type CauseId } from '../units';
import { learnedLives, learnFrom, lifeChanges, type ClosedTicket } from '.';

const { lives } = demoCatalogue();
const DESIGN = 'F-BB';
const rows = livesOf(lives, DESIGN, null).filter(
  (row): row is Life & { causeId: CauseId } => row.causeId !== undefined,
);

const failure = (causeId: CauseId, ageYears: number): ClosedTicket => ({
  modelId: null,
  design: DESIGN,
  causeId,
  takenMinutes: null,
  listMinutes: null,
  rightFirstTime: null,
  ageYears,
});

/** Machines that come in for the first of their components to fail: each component with the life of the catalogue times its factor. */
function shopOf(seed: number, count: number, factorOf: (component: string) => number): ClosedTicket[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => {
    const drawn = rows.map((row) => ({
      row,
      age: row.scaleYears * factorOf(row.component) * (-Math.log(1 - random())) ** (1 / row.shape),
    }));
    const first = drawn.reduce((least, one) => (one.age < least.age ? one : least));
    return failure(first.row.causeId, first.age);
  });
}

describe('lives by the shop’s own failures', () => {
  it('stay as they are where machines fail as the catalogue says, and in a shop that closed nothing', () => {
    const { failures } = learnFrom(shopOf(11, 600, () => 1));
    for (const { factor } of lifeChanges(lives, failures, DESIGN))
      expect(Math.abs(Math.log(factor))).toBeLessThan(0.15);
    expect(learnedLives(lives, [])).toBe(lives);
  });

  it('come to the truth with cases: a component that lives half as long is found to, against the others', () => {
    const short = defined(
      rows.find(({ component }) => component === 'bearings'),
      'bearings',
    );
    const errors = [30, 300, 3000].map((count) => {
      const { failures } = learnFrom(shopOf(5, count, (component) => (component === short.component ? 0.6 : 1)));
      const changes = lifeChanges(lives, failures, DESIGN);
      const factorOf = (component: string) =>
        defined(
          changes.find((one) => one.component === component),
          'it',
        ).factor;
      const others = changes.filter(({ component }) => component !== short.component);
      const usual = others.reduce((sum, { factor }) => sum + Math.log(factor), 0) / others.length;
      return Math.abs(Math.log(factorOf(short.component)) - usual - Math.log(0.6));
    });
    // Few cases are pulled to the catalogue, many are not.
    expect(errors[0]).toBeGreaterThan(errors[2] ?? Infinity);
    expect(errors[2]).toBeLessThan(0.2);
  });

  it('expect as many failures as there were, move no life more than twofold, and shorten what fails more than expected', () => {
    const cases = fc.array(fc.tuple(fc.nat(rows.length - 1), fc.double({ min: 0, max: 30, noNaN: true })), {
      minLength: 1,
      maxLength: 60,
    });
    fc.assert(
      fc.property(cases, (drawn) => {
        const tickets = drawn.map(([at, age]) => failure(defined(rows[at], 'a row').causeId, age));
        const { failures } = learnFrom(tickets);
        const changes = lifeChanges(lives, failures, DESIGN);
        const sum = (of: (one: (typeof changes)[number]) => number) => changes.reduce((all, one) => all + of(one), 0);
        expect(sum(({ failed }) => failed)).toBe(tickets.length);
        expect(sum(({ expected }) => expected)).toBeCloseTo(tickets.length, 6);
        for (const { factor, failed, expected } of changes) {
          expect(factor).toBeGreaterThanOrEqual(0.5);
          expect(factor).toBeLessThanOrEqual(2);
          if (Math.abs(failed - expected) > 1e-6) expect(factor < 1).toBe(failed > expected);
        }
        // Other designs are left alone; a platform's own word moves with its design.
        for (const [at, row] of learnedLives(lives, failures).entries()) {
          const before = defined(lives[at], 'the row of before');
          if (row.design !== DESIGN) expect(row).toBe(before);
          else
            expect(row.scaleYears / before.scaleYears).toBeCloseTo(
              changes.find(({ component }) => component === row.component)?.factor ?? 1,
              9,
            );
        }
      }),
    );
  });

  it('learn nothing of a failure at an age that nobody knew, or of a cause that has no life', () => {
    const [row] = rows;
    const { ageYears: _, ...ageless } = failure(defined(row, 'a row').causeId, 8);
    expect(learnFrom([ageless]).failures).toEqual([]);
    const { failures } = learnFrom([failure('no such cause' as CauseId, 8)]);
    expect(lifeChanges(lives, failures, DESIGN)).toEqual([]);
  });
});
