import { seededRandom, type Random } from '../../units';
import { formulate, type Limits } from './formulate';
import { evaluate, pairName, planCost, type Give, type OrderProblem } from './problem';
import type { HeuristicPlan } from './heuristic';
import type { MilpSolver } from './solver';

/** Of one look around: long enough to solve what is left open, short enough to take many. */
const LOOK_MS = 700;
/** Requirements that are open at first, and at least. */
const FIRST_OPEN = 16;
const FEWEST = 5;
/** In so many looks only the pairs of supplier and mode in use are open, and so many others. */
const SOME_PAIRS = 0.7;
const MORE_PAIRS = 3;
/** Ways that are open in a look at all requirements, times those that the relaxation uses: at first, and at least. */
const FIRST_CORE = 2;
const LEAST_CORE = 1.1;
/** Such a look may take so much longer. */
const WIDER_LOOK = 2.5;
/** Of the time, for the first of them: it begins furthest from the end. */
const FIRST_SHARE = 0.4;
/** No kind of look is given up. */
const LEAST_LIKING = 0.05;
/** Less of a way is rounding. */
const USED = 1e-6;

type Pair = { supplier: number; mode: number };
const named = ({ supplier, mode }: Pair) => pairName(supplier, mode);

/** As good as a plan, or better: a large-neighbourhood search (Shaw, CP 1998). */
export type Improve = {
  problem: OrderProblem;
  solver: MilpSolver;
  clock: () => number;
  deadline: number;
  /** `rankedWays` of the problem; without them no look leaves all requirements open. */
  ranked?: readonly Way[] | null;
};

/**
 * Looks around a plan until the time is over: some requirements are given anew (of a few suppliers, of some jobs, or drawn), the others are held to what gives them now; in most looks only
 * from the pairs of supplier and mode that are in use and a few others. Where the relaxation is known, most looks leave all requirements open, but only to the ways that it likes. Each
 * look is an integer programme that begins at the plan; how much is open, and which kind of look is taken, follows from what the last ones came to. Never worse than the plan that it is given.
 */
export function improve(
  start: HeuristicPlan,
  { problem, solver, clock, deadline, ranked = null }: Improve,
): HeuristicPlan {
  const random = seededRandom(problem.requirements.length * 7919 + problem.offers.length);
  const pairs = problem.suppliers.flatMap(({ modes }, supplier) => modes.map((_, mode) => ({ supplier, mode })));
  let best = start;
  const look = Math.min(LOOK_MS, Math.max(100, (deadline - clock()) / 12));
  const all = problem.requirements.length;
  let open = Math.min(all, FIRST_OPEN);
  let core = FIRST_CORE;
  const liking: Liking = { core: ranked ? 0.6 : 0, pairs: ranked ? 0.15 : 0, some: 0.25 };
  for (let turn = 0; clock() + 30 < deadline; turn += 1) {
    const from = clock();
    const kind = turn === 0 && ranked ? 'core' : kindOf(random(), liking);
    const limits = limitsOf(kind);
    const budget = kind === 'some' ? look : turn === 0 ? FIRST_SHARE * (deadline - from) : WIDER_LOOK * look;
    const formulation = formulate(problem, { ...limits, keep: best.buys });
    const result = solver.solve(formulation.model, {
      budgetMs: Math.max(30, Math.min(budget, deadline - clock())),
      start: formulation.write(best.buys, best.gives),
    });
    const took = clock() - from;
    const before = best;
    if (result.values.length) {
      const { buys, gives } = formulation.read(result.values);
      const { totals, faults } = evaluate(problem, buys, gives);
      if (faults.length === 0 && planCost(totals) < planCost(best)) best = { buys, gives, ...totals };
    }
    const solved = result.status === 'optimal';
    // What found something is taken again, what came to no end less and less.
    liking[kind] = Math.min(1, Math.max(LEAST_LIKING, liking[kind] * (best !== before ? 1.5 : solved ? 0.9 : 0.4)));
    if (kind === 'some') {
      if (!solved) open = Math.max(FEWEST, open * 0.85);
      else if (took < look / 2) open = Math.min(all, open * 1.12);
    } else if (kind === 'core') {
      if (!solved) core = Math.max(LEAST_CORE, core * 0.75);
      else if (took < look) core *= 1.2;
    }
  }
  return best;

  function limitsOf(kind: Kind): Limits {
    if (kind === 'core' && ranked) return aroundCore(ranked, best, core, random);
    if (kind === 'pairs') return aroundPairs(problem, best, pairs, random);
    const around = aroundRequirements(problem, best, Math.round(open), random);
    return random() < SOME_PAIRS ? { ...around, ...aroundPairs(problem, best, pairs, random) } : around;
  }
}

/** Which looks: all requirements by the ways that the relaxation likes, all by a few pairs, or some requirements by all ways. */
type Kind = 'core' | 'pairs' | 'some';
type Liking = Record<Kind, number>;
function kindOf(drawn: number, { core, pairs, some }: Liking): Kind {
  const at = drawn * (core + pairs + some);
  return at < core ? 'core' : at < core + pairs ? 'pairs' : 'some';
}

/** `rank`: what it costs the relaxation to use it. */
export type Way = Omit<Give, 'units'> & { rank: number };

/** What the linear relaxation says: no plan is cheaper than `bound`; and the ways of giving units, those first that it uses or that would cost it least. null where it is not solved in time. */
export function rankedWays(
  problem: OrderProblem,
  solver: MilpSolver,
  budgetMs: number,
): { ways: readonly Way[]; bound: number } | null {
  const { model, ways } = formulate(problem);
  const relaxed = solver.relax(model, { budgetMs });
  return (
    relaxed && {
      bound: relaxed.values.reduce((sum, value, column) => sum + value * (model.cost[column] ?? 0), 0),
      ways: ways
        .map(({ column, ...way }): Way => ({
          ...way,
          rank: (relaxed.values[column] ?? 0) > USED ? -1 : (relaxed.reducedCosts[column] ?? 0),
        }))
        .sort((a, b) => a.rank - b.rank),
    }
  );
}

/**
 * What the plan uses, what the relaxation uses, and of the rest those that would cost it least, `core` times as many in all, more or less (kernel search: Angelelli,
 * Mansini and Speranza, Computers & Operations Research, 2010).
 */
function aroundCore(ways: readonly Way[], plan: HeuristicPlan, core: number, random: Random): Limits {
  const nameOf = ({ requirement, part, offer, mode }: Omit<Give, 'units'>) => `${requirement} ${part} ${offer} ${mode}`;
  const used = ways.filter(({ rank }) => rank < 0).length;
  const count = used * (1 + (core - 1) * (0.5 + random()));
  const open = new Set([...plan.gives, ...ways.slice(0, Math.round(count))].map(nameOf));
  return { allows: (requirement, part, offer, mode) => open.has(nameOf({ requirement, part, offer, mode })) };
}

const usedPairs = (problem: OrderProblem, { buys }: HeuristicPlan): Set<string> =>
  new Set(buys.map(({ offer, mode }) => named({ supplier: problem.offers[offer]?.supplier ?? -1, mode })));

/** Only the pairs in use, and some others. */
function aroundPairs(problem: OrderProblem, plan: HeuristicPlan, pairs: readonly Pair[], random: Random): Limits {
  const open = usedPairs(problem, plan);
  const others = shuffled(
    pairs.filter((pair) => !open.has(named(pair))),
    random,
  );
  for (const pair of others.slice(0, MORE_PAIRS)) open.add(named(pair));
  return { opens: (supplier, mode) => open.has(named({ supplier, mode })) };
}

/** Some requirements from everywhere: of one supplier, of some jobs, or drawn. The others as they are. */
function aroundRequirements(problem: OrderProblem, plan: HeuristicPlan, count: number, random: Random): Limits {
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
  const now = new Set(
    plan.gives.map(({ requirement, part, offer, mode }) => `${requirement} ${part} ${offer} ${mode}`),
  );
  return { allows: (r, part, offer, mode) => free.has(r) || now.has(`${r} ${part} ${offer} ${mode}`) };
}

function shuffled<T>(list: readonly T[], random: Random): T[] {
  const out = [...list];
  for (let index = out.length - 1; index > 0; index -= 1) {
    const other = Math.floor(random() * (index + 1));
    [out[index], out[other]] = [out[other] as T, out[index] as T];
  }
  return out;
}
