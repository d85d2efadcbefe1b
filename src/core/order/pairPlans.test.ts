import { beforeAll, describe, expect, it } from 'vitest';
import { makeDenseMarket, makeMarket } from '../../../scripts/bench/order';
import { seededRandom } from '../units';
import { createHighsSolver, evaluate, planCost, planOrder, type MilpSolver, type OrderProblem } from '.';
import { lookAtSets, pairPlans } from './plan/pairPlans';

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
      const [best] = pairPlans(problem, { clock: byLooks(), deadline: 200, most: 5 });
      expect(best?.plan && planCost(best.plan)).toBe(planCost(exact));
    }
  });

  it('have plans that can be carried out, from their own suppliers and modes alone, and a look makes none worse', () => {
    for (const problem of [makeMarket(30, 6, 5), makeDenseMarket(30, 6, 6)]) {
      const sets = pairPlans(problem, { clock, deadline: clock() + 200, most: 6 });
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
      const looked = lookAtSets(start, sets, { problem, solver, clock, deadline: clock() + 2000, lookShare: 0.5 });
      expect(looked && start ? planCost(looked) : Infinity).toBeLessThanOrEqual(start ? planCost(start) : 0);
    }
  });
});
