import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalDraw, seededRandom } from '../units';
import {
  askRules,
  compareRepairReplace,
  decideMachine,
  doItNow,
  effectiveAge,
  hazard,
  ownMachine,
  remainingLife,
  repairLimit,
  ruleLimits,
  solveReplacement,
  tippingAge,
  tippingPrice,
  totalHazard,
  unknowns,
  valueNeverReplaced,
  weighPaths,
  weighQuote,
  yearlyCostOfRule,
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
    const { value, perYear } = solveReplacement(p);
    const limit = repairLimit(p);
    const best = simulate(p, 8, limit, 6000, 5);
    // Values are above those of owning a new one: that one's present value is its yearly cost over the rate.
    const present = value(8) + perYear / p.rho;
    expect(Math.abs(best.mean - present)).toBeLessThan(4 * best.error + 0.01 * present);
    for (const change of [-150, 150]) {
      const other = simulate(p, 8, (age) => limit(age) + change, 6000, 5);
      expect(other.mean).toBeGreaterThan(best.mean - 2 * best.error);
    }
    const anew = simulate({ ...p, life: p.next }, 0, limit, 6000, 6);
    expect(Math.abs(anew.mean - perYear / p.rho)).toBeLessThan(4 * anew.error + (0.01 * perYear) / p.rho);
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
    expect(worth.rules.map(({ id, saysRepair, limit }) => [id, saysRepair, Math.round(limit)])).toEqual([
      ['share-of-new', true, 272],
      // Half of a new one at the middle of the age limit, nothing at its end.
      ['falling-share', false, 0],
      ['age-limit', false, 0],
      ['age-times-quote', true, Math.round((4 * 544) / 9)],
      ['years-for-money', expect.any(Boolean), expect.any(Number)],
    ]);
    for (const { loss } of worth.rules) expect(loss).toBeGreaterThanOrEqual(0);
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

describe('without discounting', () => {
  const life = fc.array(
    fc.record({
      shape: fc.double({ min: 0.6, max: 4, noNaN: true }),
      scaleYears: fc.double({ min: 4, max: 30, noNaN: true }),
      cost: fc.double({ min: 40, max: 400, noNaN: true }),
      costVariation: fc.double({ min: 0.1, max: 0.8, noNaN: true }),
    }),
    { minLength: 1, maxLength: 4 },
  );
  it('is what a small rate runs into', () => {
    fc.assert(
      fc.property(life, fc.double({ min: 1, max: 16, noNaN: true }), (lives, age) => {
        // Somewhere something must wear, or a machine is never left.
        const worn = [...lives, component(2.5, 12, 150)];
        const p = problem({ life: worn, next: worn, rho: 0 });
        expect(repairLimit({ ...p, rho: 1e-7 })(age)).toBeCloseTo(repairLimit(p)(age), 2);
      }),
      { numRuns: 12 },
    );
  });

  it('costs in the long run what dice say, and any other limit costs more', () => {
    const p = problem({ rho: 0 });
    const limit = repairLimit(p);
    const { perYear } = solveReplacement(p);
    const longRun = (change: number) => {
      const random = seededRandom(9);
      let [time, age, total] = [0, 0, 0];
      while (time < 60_000) {
        const failures = p.next.map(
          (c) => c.scaleYears * ((age / c.scaleYears) ** c.shape - Math.log(1 - random())) ** (1 / c.shape),
        );
        const at = Math.min(...failures);
        const failed = p.next[failures.indexOf(at)];
        time += at - age;
        age = at;
        if (!failed) break;
        const variance = Math.log(1 + failed.costVariation ** 2);
        const cost = failed.cost * Math.exp(-variance / 2 + Math.sqrt(variance) * normalDraw(random));
        total += p.disruption;
        if (cost <= limit(age) + change) total += cost;
        else [total, age] = [total + p.replace, 0];
      }
      return total / time;
    };
    const best = longRun(0);
    expect(Math.abs(best / perYear - 1)).toBeLessThan(0.015);
    for (const change of [-120, 120]) expect(longRun(change)).toBeGreaterThan(best * 1.005);
  });

  it('gives both ways the same cost per year: only the advantage tells them apart', () => {
    const decision = decideMachine(problem({ rho: 0 }), question(9, 100));
    expect(decision.annualRepair).toBeCloseTo(decision.annualReplace, 9);
    expect(decision.advantage).toBeCloseTo(repairLimit(problem({ rho: 0 }))(9) - 100, 6);
  });
});

describe('house rules', () => {
  it('never cost less than the best policy, and going by its own limit costs the same', () => {
    for (const rho of [0, 0.05]) {
      const p = problem({ rho });
      const { perYear, leave, nextValue } = solveReplacement(p);
      expect(yearlyCostOfRule(p, (age) => leave - nextValue(age)) / perYear).toBeCloseTo(1, 3);
      fc.assert(
        fc.property(
          fc.double({ min: 0.05, max: 2, noNaN: true }),
          fc.double({ min: 1, max: 30, noNaN: true }),
          (shareOfNew, maxAgeYears) => {
            const asked = askRules({ shareOfNew, maxAgeYears }, p, { ageYears: 9, readAtAge: 9, quote: 140 });
            for (const { id } of asked) {
              const rule = ruleLimits({ shareOfNew, maxAgeYears }, p.replace, solveReplacement(p)).find(
                (one) => one.id === id,
              );
              expect(yearlyCostOfRule(p, rule?.nextLimit ?? (() => 0))).toBeGreaterThan(perYear * 0.9995);
            }
          },
        ),
        { numRuns: 8 },
      );
    }
  });
});

describe('what would turn the answer', () => {
  const input = {
    life: LIFE.map((c, index) => ({ ...c, id: `c${index}`, name: `c${index}` })),
    next: LIFE,
    replacePrice: 544,
    disruption: 40,
    rho: 0.05,
    ageYears: 9,
    mendsComponent: null,
    repairModel: 'minimal' as const,
    uncertainty: { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 },
    draws: 60,
    seed: 7,
  };
  it('is a price of a new one at which the limit is the quote, and an age at which the curve crosses it', () => {
    const owning = ownMachine(input);
    for (const quote of [40, 90, 130]) {
      const price = tippingPrice([{ input, probability: 1 }], quote) ?? NaN;
      expect(Math.abs(repairLimit(problem({ replace: price }))(9) - quote)).toBeLessThan(2.5);
      const age = tippingAge(owning.curve, quote) ?? NaN;
      expect(Math.abs(repairLimit(problem())(age) - quote)).toBeLessThan(1.5);
    }
    expect(tippingAge(owning.curve, 1e6)).toBeNull();
    expect(tippingPrice([{ input, probability: 1 }], 1e6)).toBeNull();
  });

  it('is worth knowing only as far as it could change what is done', () => {
    const certain = unknowns({
      quotes: [{ quote: 50, probability: 1 }],
      cases: [{ kind: 'one', years: 9, probability: 1, limit: 300 }],
      advantage: 250,
      quote: 50,
      limit: 300,
      perHundredth: 0,
      priceDoubt: 0.08,
    });
    for (const { worth } of certain) expect(worth).toBe(0);
    const open = unknowns({
      quotes: [
        { quote: 50, probability: 0.5 },
        { quote: 450, probability: 0.5 },
      ],
      cases: [{ kind: 'one', years: 9, probability: 1, limit: 200 }],
      advantage: -50,
      quote: 250,
      limit: 200,
      perHundredth: 2,
      priceDoubt: 0.08,
    });
    // Known to be the cheap one, 150 are saved: every other time.
    expect(open[0]).toEqual({ id: 'cause', worth: 75 });
  });

  it('is told apart: how old it is may turn the answer where how it is built does not', () => {
    const told = unknowns({
      quotes: [{ quote: 250, probability: 1 }],
      cases: [
        { kind: 'belt', years: 3, probability: 0.25, limit: 400 },
        { kind: 'belt', years: 12, probability: 0.25, limit: 0 },
        { kind: 'direct', years: 3, probability: 0.25, limit: 400 },
        { kind: 'direct', years: 12, probability: 0.25, limit: 0 },
      ],
      advantage: -50,
      quote: 250,
      limit: 200,
      perHundredth: 0,
      priceDoubt: 0.08,
    });
    // Known to be young, 150 are saved: every other time.
    expect(told[0]).toEqual({ id: 'age', worth: 75 });
    expect(told.find(({ id }) => id === 'kind')?.worth).toBe(0);
  });
});

describe('paths side by side', () => {
  const owning = ownMachine({
    life: LIFE.map((c, index) => ({ ...c, id: `c${index}`, name: `c${index}` })),
    next: LIFE,
    replacePrice: 544,
    disruption: 40,
    rho: 0.05,
    ageYears: 9,
    mendsComponent: null,
    repairModel: 'minimal',
    used: { ageYears: 6, doubt: 0.3 },
    uncertainty: { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 },
    draws: 100,
    seed: 7,
  });
  it('says of each what it comes to; the chances sum to one, and two paths say what the comparison says', () => {
    fc.assert(
      fc.property(fc.integer({ min: 20, max: 400 }), fc.integer({ min: 0, max: 20 }), (quote, days) => {
        const weighed = weighPaths(
          owning,
          [1],
          [
            { id: 'here', owns: 'this', pays: [quote], days, warrantyMonths: 12 },
            { id: 'new', owns: 'new', pays: [0], days: 3, warrantyMonths: 24 },
          ],
          5,
        );
        const worth = weighQuote(owning, [{ quote, days, probability: 1 }], { newDays: 3, perDay: 5 });
        expect(weighed[0]?.advantage).toBeCloseTo(worth.advantage, 6);
        expect(weighed[0]?.perYear).toBeCloseTo(worth.annualRepair, 6);
        expect(weighed[1]?.perYear).toBeCloseTo(worth.annualReplace, 6);
        expect(weighed[0]?.cheapest).toBeCloseTo(worth.probabilityRepair, 6);
        const used = { id: 'used', owns: 'used', pays: [265], days: 2, warrantyMonths: 6 } as const;
        const three = weighPaths(owning, [1], [{ ...used }, { ...used, id: 'here', owns: 'this', pays: [quote] }], 5);
        expect(three.reduce((sum, { cheapest }) => sum + cheapest, 0)).toBeCloseTo(1, 9);
      }),
      { numRuns: 40 },
    );
  });
});

describe('a job done while the machine is open', () => {
  it('saves the chance that it is needed later, by its life: nothing where nothing wears', () => {
    const wear = component(3, 12, 200);
    const now = doItNow({ life: wear, ageYears: 10, yearsLeft: 4, cost: 200, extra: 60, rho: 0 });
    const survives = (age: number) => Math.exp(-((age / 12) ** 3));
    expect(now.needed).toBeCloseTo(1 - survives(14) / survives(10), 9);
    expect(now.saves).toBeCloseTo((now.needed - (1 - survives(4))) * 200, 6);
    expect(now.pays).toBe(now.saves > 60);
    const random = doItNow({ life: component(1, 12, 200), ageYears: 10, yearsLeft: 4, cost: 200, extra: 1, rho: 0 });
    expect(random.saves).toBeCloseTo(0, 9);
    expect(random.pays).toBe(false);
  });
});

describe('the world in which a mended part is new', () => {
  it('takes the remaining life of what does not wear as that of a new one, and of what wears as less', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 6, noNaN: true }),
        fc.double({ min: 2, max: 40, noNaN: true }),
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.constantFrom(0, 0.03, 0.1),
        (shape, scaleYears, age, rho) => {
          const one = { shape, scaleYears, cost: 100, costVariation: 0.3 };
          // By a fine sum over the survivors: the second way of computing.
          const step = scaleYears / 4000;
          let slow = 0;
          const gone = (age / scaleYears) ** shape;
          // Until one in a hundred million is left.
          const far = scaleYears * (gone + 18) ** (1 / shape);
          for (let t = step / 2; t < far; t += step * (1 + t / scaleYears))
            slow += step * (1 + t / scaleYears) * Math.exp(gone - ((age + t) / scaleYears) ** shape - rho * t);
          const said = remainingLife(one, age, rho);
          expect(Math.abs(said - slow)).toBeLessThan(0.02 * slow + 0.01);
        },
      ),
      { numRuns: 60 },
    );
    expect(remainingLife(component(1, 12, 100), 9, 0)).toBeCloseTo(12, 2);
  });

  it('says what never leaving comes to, as dice say it', () => {
    const p = problem({ rho: 0.05 });
    const ages = [8, 3, 11, 5];
    const random = seededRandom(21);
    // Each part is a renewal process of its own: what its failures come to, from its age and from new.
    const spent = (c: LifeComponent, age: number) => {
      let [time, own, total] = [0, age, 0];
      for (;;) {
        const span = c.scaleYears * ((own / c.scaleYears) ** c.shape - Math.log(1 - random())) ** (1 / c.shape) - own;
        time += span;
        own = 0;
        if (time > 250) return total;
        total += Math.exp(-p.rho * time) * (p.disruption + c.cost);
      }
    };
    const runs = 6000;
    let difference = 0;
    for (let i = 0; i < runs; i += 1)
      p.life.forEach((c, index) => {
        difference += (spent(c, ages[index] ?? 0) - spent(c, 0)) / runs;
      });
    expect(Math.abs(valueNeverReplaced(p, ages) - difference)).toBeLessThan(10);
    expect(valueNeverReplaced(p, [0, 0, 0, 0])).toBeCloseTo(0, 6);
  });
});
