import { formulate } from './formulate';
import { heuristicPlan } from './heuristic';
import { evaluate, InfeasibleOrder, planCost, type OrderPlan, type OrderProblem } from './problem';
import type { MilpSolver } from './solver';

/** Share of the budget for the heuristic; it seldom needs it. */
const HEURISTIC_SHARE = 0.15;

/** Requirements that no stock in the world of this problem can meet, taken one by one. */
function hopeless(problem: OrderProblem): number[] {
  const units = new Map<number, number>();
  for (const offer of problem.offers) {
    if ((problem.suppliers[offer.supplier]?.modes.length ?? 0) === 0) continue;
    for (const { part, quantity } of offer.contents) units.set(part, (units.get(part) ?? 0) + quantity * offer.stock);
  }
  return problem.requirements.flatMap((requirement, index) =>
    requirement.alternatives.some(({ part }) => (units.get(part) ?? 0) >= requirement.quantity) ? [] : [index],
  );
}

/**
 * The cheapest purchase plan: goods + shipping + adaptation + lateness, in integer minor units. A heuristic plan warm-starts the integer programme;
 * the better of the two is returned with its proven gap. Rejects with InfeasibleOrder (names the requirements). Exponential in the worst case, bounded by budgetMs.
 */
export async function planOrder(
  problem: OrderProblem,
  solver: MilpSolver,
  options: { budgetMs: number; clock: () => number },
): Promise<OrderPlan> {
  if (problem.requirements.length === 0)
    return { buys: [], gives: [], goods: 0, shipping: 0, adaptation: 0, lateness: 0, provenGap: 0 };
  const impossible = hopeless(problem);
  if (impossible.length) throw new InfeasibleOrder(impossible, false);
  const startedAt = options.clock();
  const quick = heuristicPlan(problem, { clock: options.clock, budgetMs: options.budgetMs * HEURISTIC_SHARE });
  const formulation = formulate(problem);
  const left = () => Math.max(50, options.budgetMs - (options.clock() - startedAt));
  const result = solver.solve(formulation.model, {
    budgetMs: left(),
    start: quick ? formulation.write(quick.buys, quick.gives) : undefined,
  });
  const bound = Number.isFinite(result.bound) ? Math.max(0, result.bound) : 0;
  const candidates = [quick, result.values.length ? checked(problem, formulation.read(result.values)) : null].filter(
    (plan) => plan !== null,
  );
  const best = candidates.sort((a, b) => planCost(a) - planCost(b))[0];
  if (!best)
    throw new InfeasibleOrder(
      result.status === 'infeasible'
        ? conflicting(problem, solver, options.budgetMs)
        : problem.requirements.map((_, index) => index),
      true,
    );
  const cost = planCost(best);
  const gap = cost > 0 ? Math.max(0, (cost - bound) / cost) : 0;
  return { ...best, provenGap: result.status === 'optimal' && cost - bound < 1 ? 0 : gap };
}

function checked(
  problem: OrderProblem,
  point: { buys: OrderPlan['buys']; gives: OrderPlan['gives'] },
): Omit<OrderPlan, 'provenGap'> | null {
  const { totals, faults } = evaluate(problem, point.buys, point.gives);
  return faults.length ? null : { buys: point.buys, gives: point.gives, ...totals };
}

/** The requirements that the elastic programme leaves out: as few as it can. */
function conflicting(problem: OrderProblem, solver: MilpSolver, budgetMs: number): number[] {
  const elastic = formulate(problem, true);
  const result = solver.solve(elastic.model, { budgetMs });
  const missed = result.values.length ? elastic.read(result.values).missed : [];
  return missed.length ? missed : problem.requirements.map((_, index) => index);
}
