import { formulate, planIn } from './formulate';
import type { HeuristicPlan } from './heuristic';
import { pairName, planCost, type OrderProblem } from './problem';
import { countUsed, rankedWays, within, type Relaxation } from './relaxation';
import type { MilpSolver, Relaxed } from './solver';

/** Of one look at a leaf; less is too little for one. */
const LOOK_MS = 400;
const LEAST_MS = 30;
/** Ways that are open at a leaf: times those that its relaxation uses, at first and then, and no dearer than this share of how far the best plan is above the bound. */
const CORES = [1.5, 2.5];
const NEAR = 0.5;
/** What comes out so much dearer than the best plan at first is not looked at again. */
const FAR = 1.02;
/** After so many leaves that gave nothing better the tree is left. */
const MOST_IN_VAIN = 4;
/** Ways that the relaxation uses: up to so many. */
const MOST_USED = 250;
/** Less than this of an order is none, and of a whole one it is one. */
const WHOLE = 1e-5;

/** Columns of orders that are placed (1) or not (0), and of their fees waived or paid; no plan that keeps to it is cheaper than `bound`. */
type Node = { held: ReadonlyMap<number, number>; bound: number };

export type SearchOrders = {
  problem: OrderProblem;
  solver: MilpSolver;
  clock: () => number;
  deadline: number;
  relaxation: Relaxation;
};

/** Whether the tree is the way: the programmes at its leaves are short enough. Where they are not, few orders are open anyway, and looks around a plan see more. */
export const isTreeWorthIt = ({ ways }: Relaxation): boolean => countUsed(ways) <= MOST_USED;

type Amount = { name: string; column: number; amount: number };

/** What of these columns a relaxation has. */
const amountsOf = (columns: ReadonlyMap<string, number>, { values }: Relaxed): Amount[] =>
  [...columns]
    .map(([name, column]) => ({ name, column, amount: values[column] ?? 0 }))
    .filter(({ amount }) => amount > WHOLE);

/** Of the broken ones that nearest to a whole one or none. */
const nearestWhole = (amounts: readonly Amount[]): Amount | undefined =>
  amounts
    .filter(({ amount }) => amount < 1 - WHOLE)
    .sort((a, b) => Math.abs(b.amount - 0.5) - Math.abs(a.amount - 0.5))[0];

/**
 * A plan as good as the one given, or better, and what no plan is cheaper than. Branch and bound over the orders alone (Land and Doig, Econometrica 28, 1960): once it is settled from which pairs
 * of supplier and mode is bought, and which of them reach their thresholds, the relaxation has hardly a broken amount. It is solved again in milliseconds when one is settled: the nearest to whole
 * or none first, then down from the cheapest node left. At a leaf a programme of what the relaxation uses there, and little else, makes it a plan.
 */
export function searchOrders(
  start: HeuristicPlan | null,
  { problem, solver, clock, deadline, relaxation }: SearchOrders,
): { plan: HeuristicPlan | null; bound: number } {
  const { lp, programme, root } = relaxation;
  let best = start;
  const cost = () => (best ? planCost(best) : Infinity);
  const open: Node[] = [{ held: new Map(), bound: root.cost }];
  /** Of what was left without being searched whole. */
  let left = Infinity;
  let inVain = 0;
  const seen = new Set<string>();
  let held: Node['held'] = new Map();
  const hold = (to: Node['held']) => {
    for (const column of [...programme.orders.values(), ...programme.fees.values()])
      if (held.get(column) !== to.get(column)) lp.hold(column, to.get(column) ?? 0, to.get(column) ?? 1);
    held = to;
  };
  /** From a node down to where no order is broken. */
  const dive = (from: Node): void => {
    for (let node = from; ;) {
      hold(node.held);
      const relaxed = clock() < deadline ? lp.solve(deadline - clock()) : null;
      if (relaxed === null || relaxed.cost >= cost() - 1) {
        // Not solved in time, or without a plan: it counts as far as it was known.
        if (relaxed === null) left = Math.min(left, node.bound);
        return;
      }
      const [orders, fees] = [amountsOf(programme.orders, relaxed), amountsOf(programme.fees, relaxed)];
      const broken = nearestWhole(orders) ?? nearestWhole(fees);
      if (broken) {
        const held = (amount: number) => new Map([...node.held, [broken.column, amount]]);
        const likely = Math.round(broken.amount);
        open.push({ held: held(1 - likely), bound: relaxed.cost });
        node = { held: held(likely), bound: relaxed.cost };
        continue;
      }
      left = Math.min(left, relaxed.cost);
      const placed = new Set(orders.map(({ name }) => name));
      const waived = new Set(fees.map(({ name }) => name));
      const key = [...placed].sort().join(', ') + ' free ' + [...waived].sort().join(', ');
      if (seen.has(key)) return;
      seen.add(key);
      const before = best;
      lookAt(relaxed, placed, waived);
      inVain = best === before ? inVain + 1 : 0;
      return;
    }
  };
  /** From what the relaxation uses there and nothing else, then with more. */
  const lookAt = (relaxed: Relaxed, placed: ReadonlySet<string>, waived: ReadonlySet<string>): void => {
    const opens = (supplier: number, mode: number) => placed.has(pairName(supplier, mode));
    const room = NEAR * (cost() - root.cost);
    const ways = rankedWays(programme, relaxed).filter(
      ({ rank, offer, mode }) => rank <= room && opens(problem.offers[offer]?.supplier ?? -1, mode),
    );
    const used = countUsed(ways);
    let plan: HeuristicPlan | null = null;
    for (const core of CORES) {
      if (clock() + LEAST_MS > deadline) return;
      const formulation = formulate(problem, {
        opens,
        placed,
        waived,
        ...within(ways.slice(0, Math.round(core * used)), plan),
        keep: plan?.buys ?? [],
      });
      const found = solver.solve(formulation.model, {
        budgetMs: Math.min(LOOK_MS, deadline - clock()),
        start: plan ? formulation.write(plan.buys, plan.gives) : undefined,
      });
      plan = planIn(problem, formulation, found) ?? plan;
      if (!plan) continue;
      if (planCost(plan) < cost()) best = plan;
      else if (planCost(plan) > cost() * FAR) return;
    }
  };
  while (clock() < deadline && inVain < MOST_IN_VAIN) {
    open.sort((a, b) => b.bound - a.bound);
    const node = open.pop();
    if (!node) break;
    if (node.bound >= cost() - 1) {
      open.length = 0;
      break;
    }
    dive(node);
  }
  hold(new Map());
  const bound = Math.min(cost(), left, ...open.map((node) => node.bound));
  return { plan: best, bound: Math.max(root.cost, bound) };
}
