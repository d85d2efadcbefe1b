import { beforeAll, describe, expect, it } from 'vitest';
import { makeDenseMarket, makeKitMarket, makeMarket } from '../../../scripts/bench/order';
import { defined } from '../units';
import { createHighsSolver, evaluate, planCost, planOrder, type MilpSolver, type OrderProblem } from '.';
import { formulate } from './plan/formulate';
import { heuristicPlan } from './plan/heuristic';
import { improve } from './plan/improve';
import { searchOrders } from './plan/orderTree';
import { pairName } from './plan/problem';
import { relaxationOf, type Relaxation } from './plan/relaxation';

let solver: MilpSolver;
beforeAll(async () => {
  solver = await createHighsSolver();
});

const clock = () => performance.now();
const MARKETS = [makeMarket, makeDenseMarket, makeKitMarket];
/** Those among them that can be met at all, with what that costs at least. */
const drawn = (cases: number): { problem: OrderProblem; least: number }[] =>
  Array.from({ length: cases }, (_, index) =>
    defined(MARKETS[index % MARKETS.length], 'a market')(6, 3, 7001 + index * 13),
  ).flatMap((problem) => {
    const least = optimum(problem);
    return least === null ? [] : [{ problem, least }];
  });
const relaxed = (problem: OrderProblem): Relaxation =>
  defined(relaxationOf(problem, solver, 5000) ?? undefined, 'the relaxation');
const optimum = (problem: OrderProblem, limits = {}): number | null => {
  const { model } = formulate(problem, limits);
  const { status, values } = solver.solve(model, { budgetMs: 20_000 });
  return status === 'optimal'
    ? values.reduce((all, value, column) => all + value * (model.cost[column] ?? 0), 0)
    : null;
};

describe('the relaxation of an order', () => {
  it('knows that packs are whole: one of a pack of ten costs the pack', () => {
    const problem: OrderProblem = {
      oneMode: false,
      jobs: [{ needBy: 9, latePerDay: 0 }],
      requirements: [{ job: 0, quantity: 3, alternatives: [{ part: 0, adaptation: 0 }] }],
      suppliers: [{ minimumOrder: 0, modes: [{ fee: 500, freeOver: null, transit: 1 }] }],
      offers: [{ supplier: 0, price: 1000, contents: [{ part: 0, quantity: 10 }], stock: 5, handling: 0 }],
    };
    expect(relaxed(problem).bound).toBeCloseTo(1500, 6);
    // Three of packs of two are two packs, not one and a half.
    const twos = problem.offers.map((offer) => ({ ...offer, contents: [{ part: 0, quantity: 2 }] }));
    expect(relaxed({ ...problem, offers: twos }).bound).toBeCloseTo(2500, 6);
  });

  it('no plan costs less, and none that uses a way less than that and the rank of the way', () => {
    let ranked = 0;
    for (const { problem, least } of drawn(5)) {
      const { bound, ways } = relaxed(problem);
      expect(bound).toBeLessThanOrEqual(least + 1e-6);
      for (const way of ways.filter((_, index) => index % 23 === 3)) {
        const through = optimum(problem, {
          allows: (requirement: number, part: number, offer: number, mode: number) =>
            requirement !== way.requirement || (part === way.part && offer === way.offer && mode === way.mode),
        });
        if (through === null) continue;
        expect(through).toBeGreaterThanOrEqual(bound + Math.max(0, way.rank) - 1e-6);
        if (way.rank > 0) ranked += 1;
      }
    }
    expect(ranked).toBeGreaterThan(5);
  });

  it('kept open, it says the same as one made anew without the order that is held back', () => {
    for (const { problem } of drawn(6)) {
      const { lp, programme, root } = relaxed(problem);
      for (const [name, column] of programme.orders) {
        const fresh = solver.open(formulate(problem, { opens: (s, m) => pairName(s, m) !== name }).model);
        lp.hold(column, 0, 0);
        expect(lp.solve(5000)?.cost ?? null, name).toEqual(
          fresh.solve(5000) === null ? null : expect.closeTo(fresh.solve(5000)?.cost ?? 0, 4),
        );
        lp.hold(column, 0, 1);
        fresh.close();
      }
      expect(lp.solve(5000)?.cost).toBeCloseTo(root.cost, 4);
      lp.close();
    }
  });
});

describe('the tree over orders, and looks around its plan', () => {
  it('come to plans that can be carried out, none worse than the one begun at, and to bounds that hold', () => {
    let best = 0;
    const problems = drawn(9);
    for (const { problem, least } of problems) {
      const relaxation = relaxed(problem);
      for (const start of [null, heuristicPlan(problem, { clock, budgetMs: 100 })]) {
        const tree = searchOrders(start, { problem, solver, clock, relaxation, deadline: clock() + 250 });
        expect(tree.bound).toBeLessThanOrEqual(least + 1e-6);
        if (!tree.plan) continue;
        const looked = improve(tree.plan, { problem, solver, clock, relaxation, deadline: clock() + 150 });
        expect(looked.bound).toBeLessThanOrEqual(least + 1e-6);
        expect(planCost(looked.plan)).toBeLessThanOrEqual(planCost(tree.plan));
        if (start) expect(planCost(tree.plan)).toBeLessThanOrEqual(planCost(start));
        for (const plan of [tree.plan, looked.plan]) {
          const { totals, faults } = evaluate(problem, plan.buys, plan.gives);
          expect(faults).toEqual([]);
          expect(planCost(totals)).toBe(planCost(plan));
          expect(planCost(plan)).toBeGreaterThanOrEqual(least - 1e-6);
        }
        if (planCost(looked.plan) < least + 1) best += 1;
      }
      relaxation.lp.close();
    }
    expect(best).toBeGreaterThan(problems.length / 2);
  });

  it('a market of the middle size is proven, and a proof is the truth', async () => {
    const problem = makeMarket(40, 6, 90_017);
    const plan = await planOrder(problem, solver, { budgetMs: 8000, clock });
    expect(plan.provenGap).toBe(0);
    expect(planCost(plan)).toBeCloseTo(optimum(problem) ?? 0, 6);
  });
});
