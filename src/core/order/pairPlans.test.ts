import { beforeAll, describe, expect, it } from 'vitest';
import { makeDenseMarket, makeKitMarket, makeMarket } from '../../../scripts/bench/order';
import { seededRandom } from '../units';
import { createHighsSolver, evaluate, planCost, planOrder, type MilpSolver, type OrderProblem } from '.';
import { Basket } from './plan/basket';
import { marketOf } from './plan/market';
import { searchSets } from './plan/orderTree';
import { pairPlans } from './plan/pairPlans';

let solver: MilpSolver;
beforeAll(async () => {
  solver = await createHighsSolver();
});

const clock = () => performance.now();

/** A clock that goes on with each look at it: as much is searched on a slow machine as on a quick one. */
const byLooks = () => {
  let looks = 0;
  return () => (looks += 1);
};

/** Nothing is shared: every requirement has its own part, sold by the piece, as many as wanted, without thresholds. */
function apart(seed: number, oneMode: boolean): OrderProblem {
  const random = seededRandom(seed);
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const parts = 7;
  return {
    oneMode,
    jobs: Array.from({ length: 3 }, () => ({ needBy: whole(1, 4), latePerDay: whole(0, 500) })),
    requirements: Array.from({ length: parts }, (_, part) => ({
      job: part % 3,
      quantity: whole(1, 3),
      alternatives: [{ part, adaptation: whole(0, 200) }],
      ...(random() < 0.2 ? { skip: whole(500, 5000) } : {}),
    })),
    suppliers: Array.from({ length: 4 }, () => ({
      minimumOrder: 0,
      modes: [
        { fee: whole(300, 900), freeOver: null, transit: whole(2, 4) },
        { fee: whole(900, 1800), freeOver: null, transit: 1 },
      ],
    })),
    offers: Array.from({ length: 4 }, (_, supplier) =>
      Array.from({ length: parts }, (_, part) => ({
        supplier,
        price: whole(200, 3000),
        contents: [{ part, quantity: 1 }],
        stock: 9,
        handling: whole(0, 2),
      })),
    ).flat(),
  };
}

describe('sets of suppliers and modes', () => {
  it('are reckoned exactly where nothing is shared: the best of them is the optimum', async () => {
    for (let seed = 1; seed <= 12; seed += 1) {
      const problem = apart(seed, seed % 3 === 0);
      const exact = await planOrder(problem, solver, { budgetMs: 20_000, clock });
      expect(exact.provenGap).toBe(0);
      const [best] = pairPlans(problem, null, { clock: byLooks(), deadline: 2000, most: 5 });
      expect(best?.plan && planCost(best.plan)).toBe(planCost(exact));
    }
  });

  it('have plans that can be carried out, from their own suppliers and modes alone, and a search makes none worse', () => {
    for (const problem of [makeMarket(30, 6, 5), makeDenseMarket(30, 6, 6)]) {
      const sets = pairPlans(problem, null, { clock, deadline: clock() + 200, most: 6 });
      expect(sets.length).toBeGreaterThan(0);
      for (const { opens, plan } of sets) {
        if (!plan) continue;
        const { faults, totals } = evaluate(problem, plan.buys, plan.gives);
        expect(faults).toEqual([]);
        expect(planCost(plan)).toBe(planCost(totals));
        for (const { offer, mode } of plan.buys)
          expect(opens.has(`${problem.offers[offer]?.supplier} ${mode}`)).toBe(true);
      }
      const [start = null] = sets.flatMap(({ plan }) => (plan ? [plan] : []));
      const opens = sets.map((set) => set.opens);
      const search = { problem, solver, clock, deadline: clock() + 2000, seen: new Set<string>() };
      const searched = searchSets(start, opens, search);
      expect(searched && start ? planCost(searched) : Infinity).toBeLessThanOrEqual(start ? planCost(start) : 0);
    }
  });
});

describe('a basket', () => {
  const all = (problem: OrderProblem) => marketOf(problem).pairs.map((_, index) => index);
  const filled = (problem: OrderProblem) => {
    const basket = new Basket(problem, marketOf(problem));
    return { cost: basket.fill(all(problem)), plan: basket.plan() };
  };
  /** Two jobs that each want one seal: by the piece, or two in a pack. */
  const seals = (pieces: number, packs: number): OrderProblem => ({
    oneMode: false,
    jobs: [
      { needBy: 5, latePerDay: 100 },
      { needBy: 5, latePerDay: 100 },
    ],
    requirements: [0, 1].map((job) => ({ job, quantity: 1, alternatives: [{ part: 0, adaptation: 0 }] })),
    suppliers: [{ minimumOrder: 0, modes: [{ fee: 500, freeOver: null, transit: 2 }] }],
    offers: [
      { supplier: 0, price: 800, contents: [{ part: 0, quantity: 1 }], stock: pieces, handling: 0 },
      { supplier: 0, price: 1100, contents: [{ part: 0, quantity: 2 }], stock: packs, handling: 0 },
    ],
  });

  it('shares a pack between jobs where that costs less than each its own piece', () => {
    const { cost, plan } = filled(seals(9, 9));
    expect(cost).toBe(1100 + 500);
    expect(plan?.buys).toEqual([{ offer: 1, mode: 0, packs: 1 }]);
    expect(filled(seals(9, 0)).cost).toBe(2 * 800 + 500);
    expect(filled(seals(1, 0)).cost).toBe(Infinity);
  });

  it('costs what the judge says of its plan, filled up at most by what one pack overshoots', () => {
    for (let seed = 1; seed <= 20; seed += 1)
      for (const problem of [makeMarket(20, 5, seed), makeDenseMarket(20, 5, seed), makeKitMarket(20, 5, seed)]) {
        const { cost, plan } = filled(problem);
        if (!plan) continue;
        const { faults, totals } = evaluate(problem, plan.buys, plan.gives);
        expect(faults).toEqual([]);
        const dearest = Math.max(...problem.offers.map(({ price }) => price));
        expect(planCost(totals)).toBeGreaterThanOrEqual(cost - 0.5);
        expect(planCost(totals)).toBeLessThanOrEqual(cost + dearest * problem.suppliers.length);
      }
  });

  it('is never cheaper than the best plan', async () => {
    for (let seed = 31; seed <= 36; seed += 1) {
      const problem = makeDenseMarket(6, 3, seed);
      const best = await planOrder(problem, solver, { budgetMs: 10_000, clock });
      const { plan } = filled(problem);
      expect(best.provenGap).toBe(0);
      if (plan) expect(planCost(plan)).toBeGreaterThanOrEqual(planCost(best));
    }
  });
});
