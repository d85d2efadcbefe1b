import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalDraw, seededRandom } from '../units';
import {
  compareRepairReplace,
  decideMachine,
  effectiveAge,
  hazard,
  repairLimit,
  solveReplacement,
  totalHazard,
  type LifeComponent,
  type ReplacementProblem,
} from '.';
import { limitedMean } from './limitedMean';

const component = (shape: number, scaleYears: number, cost: number, costVariation = 0.4): LifeComponent => ({
  shape,
  scaleYears,
  cost,
  costVariation,
});

const LIFE = [component(2.2, 9, 110), component(1.4, 14, 70), component(3, 13, 240), component(1, 30, 160)];
const problem = (more: Partial<ReplacementProblem> = {}): ReplacementProblem => ({
  life: LIFE,
  next: LIFE,
  replace: 544,
  disruption: 40,
  rho: 0.05,
  ...more,
});
const question = (ageYears: number, quote: number, draws = 0) => ({
  ageYears,
  quote,
  uncertainty: { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 },
  draws,
  seed: 3,
});

/** Discounted cost of owning a machine of this age and its successors by a limit, by throwing dice: the second way of computing. */
function simulate(
  p: ReplacementProblem,
  ageYears: number,
  limit: (age: number) => number,
  runs: number,
  seed: number,
): { mean: number; error: number } {
  const random = seededRandom(seed);
  const HORIZON = 200;
  const costOf = (c: LifeComponent) => {
    const variance = Math.log(1 + c.costVariation ** 2);
    return c.cost * Math.exp(-variance / 2 + Math.sqrt(variance) * normalDraw(random));
  };
  /** Next failure age of a component that is `age` old and works: inverse of the conditional Weibull survival. */
  const nextFailure = (c: LifeComponent, age: number) =>
    c.scaleYears * ((age / c.scaleYears) ** c.shape - Math.log(1 - random())) ** (1 / c.shape);
  const totals = Array.from({ length: runs }, () => {
    let time = 0;
    let age = ageYears;
    let life = p.life;
    let total = 0;
    while (time < HORIZON) {
      const failures = life.map((c) => nextFailure(c, age));
      const first = failures.indexOf(Math.min(...failures));
      const index = failures[first] ?? Infinity;
      time += index - age;
      age = index;
      if (time >= HORIZON) break;
      const discount = Math.exp(-p.rho * time);
      const failed = life[first];
      const cost = failed ? costOf(failed) : 0;
      total += discount * p.disruption;
      if (cost <= limit(age)) total += discount * cost;
      else {
        total += discount * p.replace;
        age = 0;
        life = p.next;
      }
    }
    return total;
  });
  const mean = totals.reduce((sum, value) => sum + value, 0) / runs;
  const variance = totals.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (runs - 1);
  return { mean, error: Math.sqrt(variance / runs) };
}

describe('the limited mean of a lognormal cost', () => {
  it('agrees with integrating the survival function, in steps of a thousandth', () => {
    for (const variation of [0.1, 0.4, 1, 2]) {
      const expected = limitedMean(variation);
      const variance = Math.log(1 + variation ** 2);
      const survival = (x: number) => {
        const z = (Math.log(x) + variance / 2) / Math.sqrt(variance);
        // Upper tail by Simpson over the density: independent of normalCdf.
        const n = 400;
        const top = 9;
        if (z >= top) return 0;
        const h = (top - z) / n;
        let sum = 0;
        for (let i = 0; i <= n; i += 1)
          sum += Math.exp(-((z + i * h) ** 2) / 2) * (i === 0 || i === n ? 1 : i % 2 ? 4 : 2);
        return (sum * h) / 3 / Math.sqrt(2 * Math.PI);
      };
      let integral = 0;
      const step = 0.002;
      for (let x = 0; x < 1.5; x += step) integral += step * (x === 0 ? 1 : survival(x + step / 2));
      expect(expected(1, 1.5)).toBeCloseTo(integral, 2);
    }
  });

  it('is concave, also between the nodes of its table', () => {
    const limit = fc.double({ min: 0.01, max: 6, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(0.2, 0.4, 1, 2), limit, limit, (cv, a, b) => {
        const expected = limitedMean(cv);
        expect(expected(1, a) + expected(1, b)).toBeLessThanOrEqual(2 * expected(1, (a + b) / 2) + 1e-7);
      }),
      { numRuns: 2000 },
    );
  });

  it('rises with the limit, never above limit or mean, and scales with the mean', () => {
    const variation = fc.double({ min: 0.05, max: 3, noNaN: true });
    const limit = fc.double({ min: 0, max: 2000, noNaN: true });
    fc.assert(
      fc.property(variation, limit, limit, (cv, a, b) => {
        const expected = limitedMean(cv);
        const [low, high] = a < b ? [a, b] : [b, a];
        expect(expected(200, low)).toBeLessThanOrEqual(expected(200, high) + 1e-6);
        expect(expected(200, high)).toBeLessThanOrEqual(Math.min(200, high) + 1e-3);
        expect(expected(400, 2 * low)).toBeCloseTo(2 * expected(200, low), 6);
      }),
    );
    expect(limitedMean(0)(100, 60)).toBe(60);
    expect(limitedMean(0.5)(100, -20)).toBe(-20);
  });
});

describe('the repair limit', () => {
  it('is constant over age for exponential lives', () => {
    const life = [component(1, 6, 120), component(1, 15, 300)];
    const limit = repairLimit(problem({ life, next: life }));
    expect(limit(1)).toBeCloseTo(limit(12), 3);
    // A new machine is worth no more than the old one then: the limit is its price.
    expect(limit(5)).toBeCloseTo(544, 3);
  });

  it('lets nobody replace while repairs are free, or when a new one cannot be paid', () => {
    const free = LIFE.map((c) => ({ ...c, cost: 0, costVariation: 0 }));
    const freely = repairLimit(problem({ life: free, next: free, disruption: 0 }));
    for (const age of [1, 8, 20]) expect(freely(age)).toBeGreaterThanOrEqual(0);
    const dear = repairLimit(problem({ replace: 1e6 }));
    for (const age of [1, 8, 20]) expect(dear(age)).toBeGreaterThan(5000);
  });

  it('falls with age where parts wear', () => {
    const limit = repairLimit(problem());
    for (let age = 0; age < 16; age += 1) expect(limit(age + 1)).toBeLessThan(limit(age));
  });

  it('costs what dice say it costs, and any other limit costs more', () => {
    const p = problem();
    const { value, leave } = solveReplacement(p);
    const limit = repairLimit(p);
    const best = simulate(p, 8, limit, 6000, 5);
    expect(Math.abs(best.mean - value(8))).toBeLessThan(4 * best.error + 0.01 * value(8));
    for (const change of [-150, 150]) {
      const other = simulate(p, 8, (age) => limit(age) + change, 6000, 5);
      expect(other.mean).toBeGreaterThan(best.mean - 2 * best.error);
    }
    const anew = simulate({ ...p, life: p.next }, 0, limit, 6000, 6);
    expect(Math.abs(anew.mean - (leave - p.replace))).toBeLessThan(4 * anew.error + 0.01 * leave);
  });

  it('stays finite for a cost next to nothing', () => {
    const life = [component(0.85, 1.8, 5e-324, 1e-6), component(4, 0.3, 0, 0)];
    expect(Number.isFinite(repairLimit(problem({ life, next: life }))(3))).toBe(true);
  });

  it('stays finite for wild hazards', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            shape: fc.double({ min: 0.5, max: 9, noNaN: true }),
            scaleYears: fc.double({ min: 0.3, max: 60, noNaN: true }),
            cost: fc.double({ min: 0, max: 900, noNaN: true }),
            costVariation: fc.double({ min: 0, max: 2, noNaN: true }),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        (life) => {
          const limit = repairLimit(problem({ life, next: life }));
          for (const age of [0, 3, 15, 40]) expect(Number.isFinite(limit(age))).toBe(true);
        },
      ),
      { numRuns: 25 },
    );
  });
});

describe('one machine today', () => {
  it('decides by the limit: repair exactly when the quote is below it', () => {
    const p = problem();
    const limit = repairLimit(p)(9);
    expect(decideMachine(p, question(9, limit - 1)).repair).toBe(true);
    expect(decideMachine(p, question(9, limit + 1)).repair).toBe(false);
    const decision = decideMachine(p, question(9, 100));
    expect(decision.advantage).toBeCloseTo(limit - 100, 6);
    expect(decision.annualReplace - decision.annualRepair).toBeCloseTo(p.rho * decision.advantage, 6);
  });

  it('is surer of repairing the cheaper it is', () => {
    const p = problem();
    const sure = [20, 120, 220, 400].map((quote) => decideMachine(p, question(9, quote, 120)).probabilityRepair);
    expect(sure[0]).toBeGreaterThan(0.9);
    for (let index = 1; index < sure.length; index += 1) expect(sure[index]).toBeLessThanOrEqual(sure[index - 1] ?? 0);
    expect(decideMachine(p, question(9, 120, 120))).toEqual(decideMachine(p, question(9, 120, 120)));
  });
});

describe('the effective age', () => {
  const life = LIFE.map((c, index) => ({ ...c, id: `c${index}` }));
  it('is the age at which an original machine has this hazard', () => {
    const age = effectiveAge(life, 12, 'c2');
    const after = life.reduce((sum, c) => sum + hazard(c, c.id === 'c2' ? 0.02 : 12), 0);
    expect(totalHazard(life, age)).toBeCloseTo(after, 6);
    expect(age).toBeLessThan(12);
  });
  it('is the calendar age when nothing is renewed', () => {
    expect(effectiveAge(life, 7, null)).toBe(7);
    expect(effectiveAge(life, 7, 'unknown')).toBe(7);
  });
});

describe('repair against replace, for the screen', () => {
  const input = {
    life: LIFE.map((c, index) => ({ ...c, id: `c${index}`, name: `c${index}` })),
    next: LIFE,
    replacePrice: 544,
    usedPrice: 265,
    disruption: 40,
    rho: 0.05,
    ageYears: 9,
    quote: 140,
    mendsComponent: 'c2',
    repairModel: 'minimal' as const,
    uncertainty: { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 },
    draws: 80,
    seed: 7,
    rules: { shareOfNew: 0.5, maxAgeYears: 8 },
  };
  it('puts the house rules beside the computation', () => {
    const worth = compareRepairReplace(input);
    expect(worth.rules).toEqual([
      { id: 'share-of-new', saysRepair: true, threshold: 0.5, actual: expect.closeTo(140 / 544, 6) },
      { id: 'age-limit', saysRepair: false, threshold: 8, actual: 9 },
    ]);
    expect(worth.spreadRepair[0]).toBeLessThanOrEqual(worth.annualRepair * 1.2);
    expect(worth.spreadRepair[0]).toBeLessThan(worth.spreadRepair[1]);
    expect(worth.limit).toBeCloseTo(repairLimit(problem())(9), 6);
  });
  it('reads a renewed machine at its effective age: the repair is worth more', () => {
    const minimal = compareRepairReplace(input);
    const renewal = compareRepairReplace({ ...input, repairModel: 'renewal' });
    expect(renewal.readAtAge).toBeLessThan(minimal.readAtAge);
    expect(renewal.limit).toBeGreaterThan(minimal.limit);
  });
});
