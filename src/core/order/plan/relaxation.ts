import { sum } from '../../units';
import { formulate, type Formulation, type Limits } from './formulate';
import type { Give, OrderProblem } from './problem';
import type { HeuristicPlan } from './heuristic';
import type { MilpSolver, OpenRelaxation, Relaxed } from './solver';

/** A way of giving units. `rank`: what it costs the relaxation at least to use it at all, with all that this brings with it; −1 if it does. */
export type Way = Omit<Give, 'units'> & { rank: number };

/** What the linear relaxation says. */
export type Relaxation = {
  /** No plan is cheaper. */
  bound: number;
  /** Those first that it uses or that would cost it least. */
  ways: readonly Way[];
  programme: Formulation;
  root: Relaxed;
  /** Kept open: solved again when orders are placed or not. Close it. */
  lp: OpenRelaxation;
};

/** Less of a way is rounding. */
const USED = 1e-6;

/** null where it is not solved in time. */
export function relaxationOf(
  problem: OrderProblem,
  solver: MilpSolver,
  budgetMs: number,
  limits: Limits = {},
): Relaxation | null {
  const programme = formulate(problem, limits);
  const lp = solver.open(programme.model);
  const root = lp.solve(budgetMs);
  if (!root) {
    lp.close();
    return null;
  }
  return { bound: root.cost, ways: rankedWays(programme, root), programme, root, lp };
}

/** At its best point no plan is cheaper than what it costs and the reduced costs of all that the plan has and the point has not: what a way brings with it adds up. */
export const rankedWays = ({ ways }: Formulation, { values, reducedCosts }: Relaxed): Way[] =>
  ways
    .map(({ column, forces, ...way }): Way => ({
      ...way,
      rank: (values[column] ?? 0) > USED ? -1 : sum(forces.map((index) => Math.max(0, reducedCosts[index] ?? 0))),
    }))
    .sort((a, b) => a.rank - b.rank);

export const countUsed = (ways: readonly Way[]): number => ways.filter(({ rank }) => rank < 0).length;

const wayName = ({ requirement, part, offer, mode }: Omit<Give, 'units'>) => `${requirement} ${part} ${offer} ${mode}`;

/** Only these ways, and what the plan uses. */
export function within(
  ways: readonly Omit<Give, 'units'>[],
  plan: HeuristicPlan | null,
): Required<Pick<Limits, 'allows'>> {
  const open = new Set([...(plan?.gives ?? []), ...ways].map(wayName));
  return { allows: (requirement, part, offer, mode) => open.has(wayName({ requirement, part, offer, mode })) };
}
