import { seededRandom, type Random } from '../../units';
import { formulate, planIn, type Limits } from './formulate';
import { pairName, planCost, type OrderProblem } from './problem';
import type { HeuristicPlan } from './heuristic';
import { countUsed, within, type Relaxation, type Way } from './relaxation';
import type { MilpSolver } from './solver';

/** Of one look around: long enough to solve what is left open, short enough to take many. */
const LOOK_MS = 400;
/** Requirements that are open at first, and at least. */
const FIRST_OPEN = 16;
const FEWEST = 5;
/** In so many looks at some requirements only the pairs of supplier and mode in use are open, and so many others. */
const SOME_PAIRS = 0.7;
const MORE_PAIRS = 3;
/** Pairs of which the relaxation buys nothing are drawn, too, as if it bought so much of an order. */
const UNUSED_PAIR = 0.05;
/** Ways that are open in a look at all requirements, times those that the relaxation uses: how that grows and shrinks. */
const GROWS = 2;
const SHRINKS = 0.75;
/** Such a look may take so much longer. */
const WIDER_LOOK = 2.5;
/** Of the time that is left, for each of them where they come first. */
const CORE_SHARE = 0.5;
/** No kind of look is given up. */
const LEAST_LIKING = 0.05;

type Pair = { supplier: number; mode: number };
const named = ({ supplier, mode }: Pair) => pairName(supplier, mode);

export type Improve = {
  problem: OrderProblem;
  solver: MilpSolver;
  clock: () => number;
  deadline: number;
  /** Without it no look leaves all requirements open. */
  relaxation?: Relaxation | null;
  /** The first looks are at all requirements by the ways that the relaxation likes: where the plan owes nothing to it yet. */
  coreFirst?: boolean;
};

/**
 * A plan as good as the one given, or better, and what no plan is cheaper than: a large-neighbourhood search (Shaw, CP 1998). Each look around the plan is an integer programme that begins at it:
 * of all requirements by the ways that the relaxation likes (kernel search: Angelelli, Mansini and Speranza, Computers & Operations Research, 2010); of all by the pairs of supplier and mode in use and
 * a few others; or of some (of a few suppliers, of some jobs, or drawn), the others held to what gives them now. How much is open, and which kind of look is taken, follows from what the
 * last ones came to. What would cost the relaxation more than the plan is above it is in no better plan and stays out. Ends before the deadline where nothing better is left.
 */
export function improve(
  start: HeuristicPlan,
  { problem, solver, clock, deadline, relaxation = null, coreFirst = false }: Improve,
): { plan: HeuristicPlan; bound: number } {
  const random = seededRandom(problem.requirements.length * 7919 + problem.offers.length);
  const pairs = problem.suppliers.flatMap(({ modes }, supplier) => modes.map((_, mode) => ({ supplier, mode })));
  let best = start;
  let bound = relaxation?.bound ?? 0;
  const look = Math.min(LOOK_MS, Math.max(100, (deadline - clock()) / 6));
  const all = problem.requirements.length;
  let open = Math.min(all, FIRST_OPEN);
  let core = 1;
  const used = countUsed(relaxation?.ways ?? []);
  const liking: Liking = coreFirst
    ? { core: 0.4, pairs: 0.1, some: 0.5 }
    : relaxation
      ? { core: 0.15, pairs: 0.2, some: 0.65 }
      : { core: 0, pairs: 0, some: 1 };
  for (let turn = 0; clock() + 30 < deadline && planCost(best) - bound >= 1; turn += 1) {
    const from = clock();
    const better = relaxation?.ways.filter(({ rank }) => rank < planCost(best) - relaxation.bound) ?? null;
    const kind = turn < 2 && coreFirst ? 'core' : kindOf(random(), liking);
    const inCore = better?.slice(0, Math.round(used * core)) ?? [];
    const formulation = formulate(problem, { ...limitsOf(kind, better, inCore), keep: best.buys });
    const budget =
      kind === 'some' ? look : kind === 'core' && coreFirst ? CORE_SHARE * (deadline - from) : WIDER_LOOK * look;
    const result = solver.solve(formulation.model, {
      budgetMs: Math.max(30, Math.min(budget, deadline - clock())),
      start: formulation.write(best.buys, best.gives),
    });
    const took = clock() - from;
    const before = best;
    const found = planIn(problem, formulation, result);
    if (found && planCost(found) < planCost(best)) best = found;
    const solved = result.status === 'optimal';
    // What found something is taken again, what came to no end less and less.
    liking[kind] = Math.min(1, Math.max(LEAST_LIKING, liking[kind] * (best !== before ? 1.5 : solved ? 0.9 : 0.4)));
    if (kind === 'some') {
      if (!solved) open = Math.max(FEWEST, open * 0.85);
      else if (took < look / 2) open = Math.min(all, open * 1.12);
    } else if (kind === 'core' && relaxation && better) {
      // A plan that is cheaper uses a way that was not open.
      const next = better[inCore.length]?.rank ?? Infinity;
      if (solved) bound = Math.max(bound, Math.min(planCost(best), relaxation.bound + next));
      core = solved ? core * GROWS : Math.max(1, core * SHRINKS);
    }
  }
  return { plan: best, bound };

  function limitsOf(kind: Kind, better: readonly Way[] | null, inCore: readonly Way[]): Limits {
    if (kind === 'core') return within(inCore, best);
    const fewPairs = () => aroundPairs(problem, best, pairs, relaxation, random);
    if (kind === 'pairs') return { ...fewPairs(), ...(better && within(better, best)) };
    const around = aroundRequirements(problem, best, Math.round(open), random);
    const { allows } = better ? within(better, best) : around;
    const limits: Limits = { allows: (...way) => around.allows(...way) && allows(...way) };
    return random() < SOME_PAIRS ? { ...limits, ...fewPairs() } : limits;
  }
}

/** Which looks: all requirements by the ways that the relaxation likes, all by a few pairs, or some requirements by all ways. */
type Kind = 'core' | 'pairs' | 'some';
type Liking = Record<Kind, number>;
function kindOf(drawn: number, { core, pairs, some }: Liking): Kind {
  const at = drawn * (core + pairs + some);
  return at < core ? 'core' : at < core + pairs ? 'pairs' : 'some';
}

const usedPairs = (problem: OrderProblem, { buys }: HeuristicPlan): Set<string> =>
  new Set(buys.map(({ offer, mode }) => named({ supplier: problem.offers[offer]?.supplier ?? -1, mode })));

/** Only the pairs in use, and some others: sooner those that the relaxation orders from. */
function aroundPairs(
  problem: OrderProblem,
  plan: HeuristicPlan,
  pairs: readonly Pair[],
  relaxation: Relaxation | null,
  random: Random,
): Limits {
  const open = usedPairs(problem, plan);
  // Drawn without putting back, by weight (Efraimidis and Spirakis, 2006).
  const others = pairs
    .map(named)
    .filter((name) => !open.has(name))
    .map((name) => ({
      name,
      key:
        Math.log(random()) /
        (UNUSED_PAIR + (relaxation?.root.values[relaxation.programme.orders.get(name) ?? -1] ?? 0)),
    }))
    .sort((a, b) => b.key - a.key);
  for (const { name } of others.slice(0, MORE_PAIRS)) open.add(name);
  return { opens: (supplier, mode) => open.has(named({ supplier, mode })) };
}

/** Some requirements from everywhere: of one supplier, of some jobs, or drawn. The others as they are. */
function aroundRequirements(
  problem: OrderProblem,
  plan: HeuristicPlan,
  count: number,
  random: Random,
): Required<Pick<Limits, 'allows'>> {
  const free = new Set<number>();
  const all = problem.requirements.map((_, index) => index);
  const kind = random();
  const supplierOf = new Map(plan.gives.map((give) => [give.requirement, problem.offers[give.offer]?.supplier ?? -1]));
  if (kind < 0.45) {
    const some = new Set(shuffled([...new Set(supplierOf.values())], random).slice(0, 2));
    for (const r of shuffled(all, random)) if (some.has(supplierOf.get(r) ?? -1) && free.size < count) free.add(r);
  } else if (kind < 0.75) {
    for (const job of shuffled([...problem.jobs.keys()], random))
      if (free.size < count) for (const r of all) if (problem.requirements[r]?.job === job) free.add(r);
  }
  for (const r of shuffled(all, random)) if (free.size < count) free.add(r);
  // What is left for later may be taken up wherever it is.
  for (const r of all) if (problem.requirements[r]?.skip !== undefined) free.add(r);
  const { allows } = within([], plan);
  return {
    allows: (requirement, part, offer, mode) => free.has(requirement) || allows(requirement, part, offer, mode),
  };
}

function shuffled<T>(list: readonly T[], random: Random): T[] {
  const out = [...list];
  for (let index = out.length - 1; index > 0; index -= 1) {
    const other = Math.floor(random() * (index + 1));
    [out[index], out[other]] = [out[other] as T, out[index] as T];
  }
  return out;
}
