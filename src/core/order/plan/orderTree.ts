import { formulate, planIn } from './formulate';
import type { HeuristicPlan } from './heuristic';
import { pairName, planCost, type OrderProblem } from './problem';
import { countUsed, rankedWays, relaxationOf, within, type Relaxation } from './relaxation';
import type { MilpSolver, Relaxed } from './solver';

/** Of one look at a leaf; less is too little for one. */
const LOOK_MS = 400;
const LEAST_MS = 30;
/** Ways that are open at a leaf, of those that a better plan can have there: up to so many times those that its relaxation uses. */
const CORE = 3;
/** After so many leaves that gave nothing better the tree is left. */
const MOST_IN_VAIN = 4;
/** Within a set there is less to find. */
const MOST_IN_VAIN_OF_SET = 2;
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
  /** Leaves that were looked at, by name; shared by several searches. */
  seen?: Set<string>;
  /** After so many leaves that gave nothing better the tree is left. */
  mostInVain?: number;
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
  { problem, solver, clock, deadline, relaxation, seen = new Set(), mostInVain = MOST_IN_VAIN }: SearchOrders,
): { plan: HeuristicPlan | null; bound: number } {
  const { lp, programme, root } = relaxation;
  let best = start;
  const cost = () => (best ? planCost(best) : Infinity);
  const open: Node[] = [{ held: new Map(), bound: root.cost }];
  /** Of what was left without being searched whole. */
  let left = Infinity;
  let inVain = 0;
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
  const lookAt = (relaxed: Relaxed, placed: ReadonlySet<string>, waived: ReadonlySet<string>): void => {
    if (clock() + LEAST_MS > deadline) return;
    const opens = (supplier: number, mode: number) => placed.has(pairName(supplier, mode));
    const ways = rankedWays(programme, relaxed).filter(
      ({ rank, offer, mode }) => rank < cost() - relaxed.cost && opens(problem.offers[offer]?.supplier ?? -1, mode),
    );
    const core = within(ways.slice(0, CORE * countUsed(ways)), null);
    const formulation = formulate(problem, { opens, placed, waived, ...core });
    const found = solver.solve(formulation.model, { budgetMs: Math.min(LOOK_MS, deadline - clock()) });
    const plan = planIn(problem, formulation, found);
    if (plan && planCost(plan) < cost()) best = plan;
  };
  while (clock() < deadline && inVain < mostInVain) {
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

type SearchSets = Omit<SearchOrders, 'relaxation' | 'mostInVain' | 'seen'> & { seen: Set<string> };

/**
 * A plan as good as the one given, or better: of each set of pairs, by their names, the tree over the orders within it. A set whose relaxation costs what that of another does has the same in it,
 * and more that is not used. Where trees are not the way, none is searched.
 */
export function searchSets(
  start: HeuristicPlan | null,
  sets: readonly ReadonlySet<string>[],
  { problem, solver, clock, deadline, seen }: SearchSets,
): HeuristicPlan | null {
  let best = start;
  const bounds = new Set<number>();
  for (const set of sets) {
    if (clock() + LEAST_MS > deadline) break;
    const relaxation = relaxationOf(problem, solver, deadline - clock(), {
      opens: (supplier, mode) => set.has(pairName(supplier, mode)),
      keep: best?.buys ?? [],
    });
    if (!relaxation) break;
    try {
      if (!isTreeWorthIt(relaxation)) break;
      const bound = Math.round(relaxation.bound);
      if (bounds.has(bound) || (best && bound >= planCost(best) - 1)) continue;
      bounds.add(bound);
      const search = { problem, solver, clock, deadline, relaxation, seen, mostInVain: MOST_IN_VAIN_OF_SET };
      best = searchOrders(best, search).plan;
    } finally {
      relaxation.lp.close();
    }
  }
  return best;
}
