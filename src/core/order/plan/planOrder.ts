import { anneal } from './anneal';
import { formulate } from './formulate';
import { heuristicPlan, type HeuristicPlan } from './heuristic';
import { improve, rankedWays } from './improve';
import {
  evaluate,
  InfeasibleOrder,
  offersWith,
  planCost,
  type OrderPlan,
  type OrderProblem,
  type Totals,
} from './problem';
import { lookAtSets, pairPlans } from './pairPlans';
import type { MilpSolver } from './solver';

/** Share of the budget for the heuristic; it seldom needs it. */
const HEURISTIC_SHARE = 0.15;
/** Ways to give a unit to a requirement: up to so many the whole programme is solved at once; beyond the largest number not even its bound is found in time. */
const SMALL_COLUMNS = 250;
const MIDDLE_COLUMNS = 900;
const LARGE_COLUMNS = 6000;
/** Shares of the time that is left at each step: annealing, ranking the ways, looking around that plan, the whole programme; what is left of it then is for looking around again. */
const COOLED_SHARE = 0.1;
const RANKED_SHARE = 0.4;
const SHARES = { middle: { around: 0.45, whole: 0.7 }, many: { around: 0.75, whole: 0.3 } };
/** The same where not even the relaxation is solved in time. */
const LARGE_SHARES = { heuristic: 0.04, looked: 0.85, cooled: 0.5 };
/** Of the time after the heuristic, for the sets of suppliers and modes; how many of them are looked at. */
const SETS_SHARE = 0.12;
/** Of what is left then, for looking at them, and for the first look. */
const SETS_LOOKED = { share: 0.8, first: 0.08 };
const MOST_SETS = 30;

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
 * The cheapest purchase plan: goods + shipping + adaptation + lateness, in integer minor units. Where the problem is not small, sets of suppliers and modes are reckoned and the best of them solved, a plan is
 * annealed, and a large-neighbourhood search looks around it. The best plan so far warm-starts the integer programme; where that is not solved within its share of the time, the search goes on from the better one. Returned with its proven gap. Rejects with InfeasibleOrder (names the requirements). Exponential in the worst case, bounded by budgetMs.
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
  const startedAt = options.clock();
  const columns = columnsOf(problem);
  const [isSmall, isLarge] = [columns <= SMALL_COLUMNS, columns > LARGE_COLUMNS];
  const quick = heuristicPlan(problem, {
    clock: options.clock,
    budgetMs: options.budgetMs * (isLarge ? LARGE_SHARES.heuristic : HEURISTIC_SHARE),
  });
  const deadline = startedAt + options.budgetMs;
  const left = () => Math.max(50, deadline - options.clock());
  const until = (share: number) => options.clock() + left() * share;
  const { clock } = options;
  const isTight = !isSmall && !isLarge;
  const share = columns <= MIDDLE_COLUMNS ? SHARES.middle : SHARES.many;
  const sets = isSmall ? [] : pairPlans(problem, { clock, deadline: until(SETS_SHARE), most: MOST_SETS });
  const reckoned = cheapest([quick, ...sets.map(({ plan }) => plan)]);
  const anneals = (plan: HeuristicPlan | null, share: number) =>
    plan && !isSmall ? anneal(plan, problem, { clock, deadline: until(share) }) : plan;
  const looks = (plan: HeuristicPlan | null, share: number, lookShare: number) =>
    isSmall ? plan : lookAtSets(plan, sets, { problem, solver, clock, deadline: until(share), lookShare });
  const looked = isLarge
    ? anneals(looks(reckoned, LARGE_SHARES.looked, 1), LARGE_SHARES.cooled)
    : looks(anneals(reckoned, COOLED_SHARE), SETS_LOOKED.share, SETS_LOOKED.first);
  const relaxed = isTight ? rankedWays(problem, solver, left() * RANKED_SHARE) : null;
  const ranked = relaxed?.ways ?? null;
  const start =
    looked && isTight ? improve(looked, { problem, solver, clock, ranked, deadline: until(share.around) }) : looked;
  const whole =
    isLarge && start ? null : wholeOf(problem, solver, start, left() * (isSmall || !start ? 1 : share.whole));
  const bound = Math.max(0, relaxed?.bound ?? 0, whole && Number.isFinite(whole.bound) ? whole.bound : 0);
  const isProven = whole?.status === 'optimal';
  const found = cheapest([start, whole?.plan ?? null]);
  const best =
    found && !isProven && planCost(found) - bound >= 1
      ? improve(found, { problem, solver, clock, deadline, ranked })
      : found;
  if (!best)
    throw new InfeasibleOrder(
      whole?.status === 'infeasible'
        ? conflicting(problem, solver, options.budgetMs)
        : problem.requirements.map((_, index) => index),
      true,
    );
  const cost = planCost(best);
  const gap = cost > 0 ? Math.max(0, (cost - bound) / cost) : 0;
  return { ...best, provenGap: isProven && cost - bound < 1 ? 0 : gap };
}

const cheapest = <Plan extends Totals>(plans: readonly (Plan | null)[]): Plan | null =>
  plans.reduce((best, plan) => (plan && (!best || planCost(plan) < planCost(best)) ? plan : best), null);

/** The whole integer programme, begun at a plan. */
function wholeOf(problem: OrderProblem, solver: MilpSolver, start: HeuristicPlan | null, budgetMs: number) {
  const formulation = formulate(problem, { keep: start?.buys ?? [] });
  const { values, status, bound } = solver.solve(formulation.model, {
    budgetMs,
    start: start ? formulation.write(start.buys, start.gives) : undefined,
  });
  return { status, bound, plan: values.length ? checked(problem, formulation.read(values)) : null };
}

function checked(
  problem: OrderProblem,
  point: { buys: OrderPlan['buys']; gives: OrderPlan['gives'] },
): HeuristicPlan | null {
  const { totals, faults } = evaluate(problem, point.buys, point.gives);
  return faults.length ? null : { buys: point.buys, gives: point.gives, ...totals };
}

/** The requirements that the elastic programme leaves out: as few as it can. */
function conflicting(problem: OrderProblem, solver: MilpSolver, budgetMs: number): number[] {
  const elastic = formulate(problem, { elastic: true });
  const result = solver.solve(elastic.model, { budgetMs });
  const missed = result.values.length ? elastic.read(result.values).missed : [];
  return missed.length ? missed : problem.requirements.map((_, index) => index);
}
