import { seededRandom, sum, unique } from '../../units';
import { dealer, judged, topUp, type HeuristicPlan } from './heuristic';
import { formulate, planIn } from './formulate';
import type { MilpSolver } from './solver';
import { arrivalDay, offersWith, pairName, planCost, type Buy, type Give, type OrderProblem } from './problem';

/** A supplier in one of its modes. */
type Pair = { supplier: number; mode: number; fee: number; freeOver: number; minimum: number };

/** Pairs to buy from, and a plan that buys from them alone; null where the reckoning found no whole one. */
export type PairPlan = { opens: ReadonlySet<string>; plan: HeuristicPlan | null };

/** What a requirement costs from one pair when it is late by no more than a step of its job. */
type Way = { cost: number; goods: number; offer: number; part: number; packs: number };

/** Of sets reckoned so much dearer than the best nothing is kept. */
const NEAR = 1.03;
/** So many of them are held against each other. */
const MOST_COMPARED = 200;
/** Where so many looks came to no end, or were so far behind the best plan, sets are not the way. */
const MOST_IN_VAIN = 2;
const FAR_BEHIND = 1.02;
/** Less is too little for a look. */
const LEAST_LOOK_MS = 40;
/** So many pairs change at once where no single change helps any more. */
const SHAKEN = 3;

type Limits = { clock: () => number; deadline: number; most: number };

/**
 * The sets of suppliers and modes from which all is bought most cheaply, the best first. Given the set, jobs fall apart: each takes the lateness that its cheapest ways, all whole and each by itself,
 * are worth (packs that several could share, and stocks that several use up, are left to the programme that looks at the set afterwards), and fees, thresholds and minimums follow from the
 * goods. So a set is reckoned in microseconds, and an iterated local search (one pair in, out, or for another; Lourenço, Martin and Stützle, 2003) sees tens of thousands.
 * O(sets × requirements × pairs × steps).
 */
export function pairPlans(problem: OrderProblem, { clock, deadline, most }: Limits): PairPlan[] {
  const market = new Reckoning(problem);
  const random = seededRandom(problem.offers.length * 13 + problem.requirements.length);
  const count = market.pairs.length;
  const pick = () => Math.floor(random() * count);
  const seen = new Map<string, { cost: number; open: number[] }>();
  let least = Infinity;
  const reckon = (open: readonly number[]): number => {
    const { cost, used } = market.reckon(open);
    const key = used.join(' ');
    if (cost < least * NEAR && !seen.has(key)) seen.set(key, { cost, open: used });
    least = Math.min(least, cost);
    return cost;
  };
  const descend = (from: readonly number[]): number[] => {
    let open = [...from];
    let cost = reckon(open);
    for (let better = true; better && clock() < deadline;) {
      better = false;
      for (const next of market.neighbours(open)) {
        const found = reckon(next);
        if (found >= cost) continue;
        [open, cost, better] = [next, found, true];
        break;
      }
    }
    return open;
  };
  let best = descend(Array.from({ length: count }, (_, index) => index));
  let bestCost = reckon(best);
  while (clock() < deadline) {
    const shaken = new Set(best);
    for (let change = 0; change < SHAKEN; change += 1) {
      const pair = pick();
      if (!shaken.delete(pair)) shaken.add(pair);
    }
    const found = descend([...shaken]);
    const cost = reckon(found);
    if (cost < bestCost) [best, bestCost] = [found, cost];
  }
  const near = [...seen.values()].filter(({ cost }) => cost <= least * NEAR).sort((a, b) => a.cost - b.cost);
  const dealtFrom = dealer(problem);
  return apart(near.map(({ open }) => open))
    .slice(0, most)
    .map((open) => {
      const opens = new Set(open.map((index) => market.nameOf(index)));
      return { opens, plan: market.planOf(open) ?? dealtFrom((s, m) => opens.has(pairName(s, m))) };
    });
}

/** A look at a set sees all that is within it: what lies within one that is kept already is left out. */
function apart(sets: readonly number[][]): number[][] {
  const kept: Set<number>[] = [];
  for (const set of sets.slice(0, MOST_COMPARED))
    if (!kept.some((other) => set.every((one) => other.has(one)))) kept.push(new Set(set));
  return kept.map((set) => [...set]);
}

type Look = { problem: OrderProblem; solver: MilpSolver; clock: () => number; deadline: number; lookShare: number };

/**
 * The best plan of these sets: of each the integer programme of what is sold in it, begun at the plan that was reckoned. `lookShare`: of the time, for a look at first; twice that after each
 * that came to no end, which then waits behind the others. Never worse than `start`. Bounded by the deadline.
 */
export function lookAtSets(
  start: HeuristicPlan | null,
  sets: readonly PairPlan[],
  { problem, solver, clock, deadline, lookShare }: Look,
): HeuristicPlan | null {
  let best = start;
  let look = lookShare * (deadline - clock());
  let unended = 0;
  let behind = 0;
  const queue = [...sets];
  for (let set = queue.shift(); set; set = queue.shift()) {
    const { opens, plan } = set;
    const left = deadline - clock();
    if (left < LEAST_LOOK_MS || Math.max(unended, behind) >= MOST_IN_VAIN) break;
    const formulation = formulate(problem, {
      opens: (supplier, mode) => opens.has(pairName(supplier, mode)),
      keep: plan?.buys ?? [],
    });
    const result = solver.solve(formulation.model, {
      budgetMs: Math.min(left, look),
      start: plan ? formulation.write(plan.buys, plan.gives) : undefined,
    });
    if (result.status === 'infeasible') continue;
    if (result.status !== 'optimal') {
      queue.push(set);
      look *= 2;
      unended += 1;
    }
    const found = planIn(problem, formulation, result);
    if (!found) continue;
    if (best && planCost(found) > planCost(best) * FAR_BEHIND) behind += 1;
    if (!best || planCost(found) < planCost(best)) best = found;
  }
  return best;
}

class Reckoning {
  readonly pairs: Pair[];
  /** Of each job: the latenesses that any of its ways has, and its requirements. */
  private readonly jobs: { late: number[]; perDay: number; requirements: number[] }[];
  /** Of each requirement, by step of lateness and pair: the cheapest way that is no later. */
  private readonly ways: (Way | null)[][];
  private readonly costs: Float64Array[];
  private readonly goods: Float64Array;

  constructor(private readonly problem: OrderProblem) {
    this.pairs = problem.suppliers.flatMap(({ minimumOrder, modes }, supplier) =>
      modes.map(({ fee, freeOver }, mode) => ({
        supplier,
        mode,
        fee,
        freeOver: freeOver ?? Infinity,
        minimum: minimumOrder,
      })),
    );
    this.goods = new Float64Array(this.pairs.length);
    const waysOf = problem.requirements.map((_, r) => this.waysOf(r));
    this.jobs = problem.jobs.map(({ latePerDay }, job) => {
      const requirements = problem.requirements.flatMap((one, r) =>
        one.job === job && (waysOf[r]?.length ?? 0) > 0 ? [r] : [],
      );
      const late = unique([0, ...requirements.flatMap((r) => (waysOf[r] ?? []).map((way) => way.late))]);
      return { late: late.sort((a, b) => a - b), perDay: latePerDay, requirements };
    });
    this.ways = problem.requirements.map(() => []);
    this.costs = problem.requirements.map(() => new Float64Array());
    for (const { late, requirements } of this.jobs)
      for (const r of requirements) {
        const table: (Way | null)[] = new Array<Way | null>(late.length * this.pairs.length).fill(null);
        for (const { pair, late: own, ...way } of waysOf[r] ?? [])
          for (let step = late.indexOf(own); step < late.length; step += 1) {
            const at = step * this.pairs.length + pair;
            if (way.cost < (table[at]?.cost ?? Infinity)) table[at] = way;
          }
        this.ways[r] = table;
        this.costs[r] = Float64Array.from(table, (way) => way?.cost ?? Infinity);
      }
  }

  private waysOf(r: number): (Way & { pair: number; late: number })[] {
    const { problem } = this;
    const requirement = problem.requirements[r];
    if (!requirement) return [];
    const needBy = problem.jobs[requirement.job]?.needBy ?? 0;
    return requirement.alternatives.flatMap(({ part, adaptation }) =>
      offersWith(problem, part).flatMap((offer) => {
        const spec = problem.offers[offer];
        const content = spec?.contents.find((entry) => entry.part === part)?.quantity ?? 0;
        const packs = Math.ceil(requirement.quantity / Math.max(1, content));
        if (!spec || content === 0 || packs > spec.stock || spec.supplier === requirement.notFrom) return [];
        const goods = packs * spec.price;
        return this.pairs.flatMap(({ supplier, mode }, pair) =>
          supplier === spec.supplier
            ? [
                {
                  pair,
                  late: Math.max(0, arrivalDay(problem, offer, mode) - needBy),
                  cost: goods + adaptation,
                  goods,
                  offer,
                  part,
                  packs,
                },
              ]
            : [],
        );
      }),
    );
  }

  nameOf(index: number): string {
    const pair = this.pairs[index];
    return pair ? pairName(pair.supplier, pair.mode) : '';
  }

  /** One pair out, in, or for another. Where a supplier is used in one mode only, another of its modes goes out. */
  *neighbours(open: readonly number[]): Generator<number[]> {
    const closed = this.pairs.flatMap((_, index) => (open.includes(index) ? [] : [index]));
    const taken = (pair: number, others: readonly number[]): number[] => [
      ...(this.problem.oneMode
        ? others.filter((other) => this.pairs[other]?.supplier !== this.pairs[pair]?.supplier)
        : others),
      pair,
    ];
    for (const pair of open) yield open.filter((other) => other !== pair);
    for (const pair of closed) yield taken(pair, open);
    for (const out of open)
      for (const pair of closed)
        yield taken(
          pair,
          open.filter((other) => other !== out),
        );
  }

  /** Which step of lateness each job takes, and what all comes to. */
  reckon(open: readonly number[]): { cost: number; used: number[] } {
    this.goods.fill(0);
    let cost = 0;
    for (const job of this.jobs) {
      const { step, cost: own } = this.cheapestStep(job, open);
      cost += own;
      if (cost === Infinity) return { cost, used: [...open].sort((a, b) => a - b) };
      for (const r of job.requirements) {
        const way = this.wayOf(r, step, open);
        if (way) this.goods[way.pair] = (this.goods[way.pair] as number) + way.goods;
      }
    }
    const used = open.filter((pair) => (this.goods[pair] as number) > 0).sort((a, b) => a - b);
    for (const index of used) {
      const { fee, freeOver, minimum } = this.pairs[index] as Pair;
      const goods = Math.max(this.goods[index] as number, minimum);
      cost += goods - (this.goods[index] as number) + (goods >= freeOver ? 0 : Math.min(fee, freeOver - goods));
    }
    return { cost, used };
  }

  private cheapestStep(
    { late, perDay, requirements }: Reckoning['jobs'][number],
    open: readonly number[],
  ): { step: number; cost: number } {
    let best = { step: 0, cost: Infinity };
    for (const [step, days] of late.entries()) {
      let cost = days * perDay;
      if (cost >= best.cost) break;
      for (const r of requirements) {
        const costs = this.costs[r] as Float64Array;
        let least = this.problem.requirements[r]?.skip ?? Infinity;
        for (const pair of open) {
          const own = costs[step * this.pairs.length + pair] as number;
          if (own < least) least = own;
        }
        cost += least;
        if (cost >= best.cost) break;
      }
      if (cost < best.cost) best = { step, cost };
    }
    return best;
  }

  /** null: it is left for later. */
  private wayOf(r: number, step: number, open: readonly number[]): (Way & { pair: number }) | null {
    let best: (Way & { pair: number }) | null = null;
    const skip = this.problem.requirements[r]?.skip ?? Infinity;
    for (const pair of open) {
      const way = this.ways[r]?.[step * this.pairs.length + pair];
      if (way && way.cost < (best?.cost ?? skip)) best = { ...way, pair };
    }
    return best;
  }

  /** The plan as reckoned, packs shared and thresholds filled up; null where a requirement has no whole way or a stock does not reach. */
  planOf(open: readonly number[]): HeuristicPlan | null {
    const { problem } = this;
    const gives: Give[] = [];
    for (const job of this.jobs) {
      const { step } = this.cheapestStep(job, open);
      for (const r of job.requirements) {
        const way = this.wayOf(r, step, open);
        const mode = way ? this.pairs[way.pair]?.mode : undefined;
        if (way && mode !== undefined)
          gives.push({
            requirement: r,
            part: way.part,
            offer: way.offer,
            mode,
            units: problem.requirements[r]?.quantity ?? 0,
          });
      }
    }
    const buys = new Map<string, Buy>();
    const stock = problem.offers.map((offer) => offer.stock);
    const goodsOf = new Map<string, number>();
    for (const { offer, mode } of gives) {
      const line = `${offer} ${mode}`;
      const spec = problem.offers[offer];
      if (!spec || buys.has(line)) continue;
      const own = gives.filter((give) => give.offer === offer && give.mode === mode);
      const packs = Math.max(
        ...spec.contents.map(({ part, quantity }) =>
          Math.ceil(sum(own.filter((give) => give.part === part).map(({ units }) => units)) / quantity),
        ),
      );
      buys.set(line, { offer, mode, packs });
      stock[offer] = (stock[offer] ?? 0) - packs;
      const key = pairName(spec.supplier, mode);
      goodsOf.set(key, (goodsOf.get(key) ?? 0) + packs * spec.price);
    }
    if (stock.some((left) => left < 0)) return null;
    topUp(problem, buys, stock, goodsOf);
    return judged(problem, [...buys.values()], gives);
  }
}
