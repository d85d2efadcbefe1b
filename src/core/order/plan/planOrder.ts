import { anneal } from './anneal';
import { formulate, planIn } from './formulate';
import { heuristicPlan, type HeuristicPlan } from './heuristic';
import { improve } from './improve';
import { InfeasibleOrder, offersWith, planCost, type OrderPlan, type OrderProblem, type Totals } from './problem';
import { isTreeWorthIt, searchOrders, searchSets } from './orderTree';
import { relaxationOf, type Relaxation } from './relaxation';
import { pairPlans } from './pairPlans';
import type { MilpResult, MilpSolver } from './solver';

/** Ways to give a unit to a requirement: up to so many the whole programme is solved at once; beyond the largest number not even its relaxation is solved in time. */
const SMALL_COLUMNS = 250;
const LARGE_COLUMNS = 6000;
/** Share of the budget for the heuristic; it seldom needs it. */
const HEURISTIC_SHARE = 0.03;
/** So many sets of suppliers and modes are looked at; shares of the time that is left, for reckoning and for searching them. */
const SETS = { most: 30, reckoned: 0.15, searched: 0.4 };
/** Shares of the time that is left at each step: the relaxation, the tree over orders, or where there is no relaxation annealing; the rest is for looking around the best plan. */
const RELAXED_SHARE = 0.6;
const TREE_SHARE = 0.6;
const COOLED_SHARE = 0.25;

const columnsOf = (problem: OrderProblem): number =>
  problem.requirements.reduce(
    (all, { alternatives }) =>
      all +
      alternatives.reduce(
        (ways, { part }) =>
          ways +
          offersWith(problem, part).reduce(
            (modes, offer) => modes + (problem.suppliers[problem.offers[offer]?.supplier ?? -1]?.modes.length ?? 0),
            0,
          ),
        0,
      ),
    0,
  );

/** Requirements that no stock in the world of this problem can meet, taken one by one. */
function hopeless(problem: OrderProblem): number[] {
  const units = new Map<number, number>();
  for (const offer of problem.offers) {
    if ((problem.suppliers[offer.supplier]?.modes.length ?? 0) === 0) continue;
    for (const { part, quantity } of offer.contents) units.set(part, (units.get(part) ?? 0) + quantity * offer.stock);
  }
  return problem.requirements.flatMap((requirement, index) =>
    requirement.skip !== undefined ||
    requirement.alternatives.some(({ part }) => (units.get(part) ?? 0) >= requirement.quantity)
      ? []
      : [index],
  );
}

/**
 * The cheapest purchase plan: goods + shipping + adaptation + lateness, in integer minor units. Small problems are solved whole. Otherwise sets of suppliers and modes are reckoned, and the best of them
 * searched; then the relaxation says which ways a better plan can have at all and which it has likely, and a tree over the orders and a large-neighbourhood search make plans of them.
 * Returned with its proven gap. Rejects with InfeasibleOrder (names the requirements). Exponential in the worst case, bounded by budgetMs.
 */
export async function planOrder(
  problem: OrderProblem,
  solver: MilpSolver,
  options: { budgetMs: number; clock: () => number },
): Promise<OrderPlan> {
  if (problem.requirements.length === 0)
    return { buys: [], gives: [], goods: 0, shipping: 0, adaptation: 0, lateness: 0, skipped: 0, provenGap: 0 };
  const impossible = hopeless(problem);
  if (impossible.length) throw new InfeasibleOrder(impossible, false);
  const { clock, budgetMs } = options;
  const deadline = clock() + budgetMs;
  const quick = heuristicPlan(problem, { clock, budgetMs: budgetMs * HEURISTIC_SHARE });
  const { plan, bound, status } = searched(problem, solver, quick, { clock, deadline });
  if (!plan)
    throw new InfeasibleOrder(
      status === 'infeasible' ? conflicting(problem, solver, budgetMs) : problem.requirements.map((_, index) => index),
      true,
    );
  const cost = planCost(plan);
  const gap = cost > 0 ? Math.max(0, (cost - bound) / cost) : 0;
  return { ...plan, provenGap: cost - bound < 1 ? 0 : gap };
}

type Found = { plan: HeuristicPlan | null; bound: number; status: MilpResult['status'] };
type Time = { clock: () => number; deadline: number };

function searched(
  problem: OrderProblem,
  solver: MilpSolver,
  quick: HeuristicPlan | null,
  { clock, deadline }: Time,
): Found {
  const columns = columnsOf(problem);
  const left = () => Math.max(50, deadline - clock());
  const until = (share: number) => clock() + left() * share;
  const search = { problem, solver, clock };
  if (columns <= SMALL_COLUMNS) return wholeOf(problem, solver, quick, left());
  const sets = pairPlans(problem, quick, { clock, deadline: until(SETS.reckoned), most: SETS.most });
  const seen = new Set<string>();
  const start = searchSets(
    cheapest([quick, ...sets.map(({ plan }) => plan)]),
    sets.map(({ opens }) => opens),
    { ...search, deadline: until(SETS.searched), seen },
  );
  const relaxation = columns <= LARGE_COLUMNS ? relaxationOf(problem, solver, left() * RELAXED_SHARE) : null;
  try {
    return around(start, relaxation);
  } finally {
    relaxation?.lp.close();
  }

  function around(start: HeuristicPlan | null, relaxation: Relaxation | null): Found {
    const tree =
      relaxation && isTreeWorthIt(relaxation)
        ? searchOrders(start, { ...search, relaxation, deadline: until(TREE_SHARE), seen })
        : { plan: start, bound: relaxation?.bound ?? 0 };
    if (!tree.plan) return wholeOf(problem, solver, null, left());
    const cooled = relaxation ? tree.plan : anneal(tree.plan, problem, { clock, deadline: until(COOLED_SHARE) });
    const { plan, bound } = improve(cooled, { ...search, relaxation, deadline, coreFirst: tree.plan === start });
    return { plan, bound: Math.max(bound, tree.bound), status: 'feasible' };
  }
}

const cheapest = <Plan extends Totals>(plans: readonly (Plan | null)[]): Plan | null =>
  plans.reduce((best, plan) => (plan && (!best || planCost(plan) < planCost(best)) ? plan : best), null);

/** The whole integer programme, begun at a plan. */
function wholeOf(problem: OrderProblem, solver: MilpSolver, start: HeuristicPlan | null, budgetMs: number): Found {
  const formulation = formulate(problem, { keep: start?.buys ?? [] });
  const result = solver.solve(formulation.model, {
    budgetMs,
    start: start ? formulation.write(start.buys, start.gives) : undefined,
  });
  const { status, bound } = result;
  const solved = planIn(problem, formulation, result);
  const known = Number.isFinite(bound) ? Math.max(0, bound) : 0;
  return {
    plan: cheapest([start, solved]),
    bound: status === 'optimal' && solved ? planCost(solved) : known,
    status,
  };
}

/** The requirements that the elastic programme leaves out: as few as it can. */
function conflicting(problem: OrderProblem, solver: MilpSolver, budgetMs: number): number[] {
  const elastic = formulate(problem, { elastic: true });
  const result = solver.solve(elastic.model, { budgetMs });
  const missed = result.values.length ? elastic.read(result.values).missed : [];
  return missed.length ? missed : problem.requirements.map((_, index) => index);
}
