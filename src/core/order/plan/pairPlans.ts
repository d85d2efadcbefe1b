import { seededRandom } from '../../units';
import { Basket } from './basket';
import { dealer, type HeuristicPlan } from './heuristic';
import { marketOf, orderCost, type Job, type Market, type Pair } from './market';
import { pairName, type OrderProblem } from './problem';

/** Pairs to buy from, and a plan that buys from them alone; null where the reckoning found no whole one. */
export type PairPlan = { opens: ReadonlySet<string>; plan: HeuristicPlan | null };

/** Of sets reckoned so much dearer than the best nothing is kept. */
const NEAR = 1.03;
/** Of the time, for sets reckoned roughly; so many of the best are where the search with a basket begins. */
const ROUGH_SHARE = 0.25;
const MOST_ROUGH = 30;
/** What is so much dearer than the best when it is reckoned roughly is no better with a basket. */
const ROUGHLY_NEAR = 1.05;
/** So many of them are held against each other. */
const MOST_COMPARED = 200;
/** So many pairs change at once where no single change helps any more; after so many times in vain it ends. */
const SHAKEN = 3;
const MOST_IN_VAIN = 30;

type Limits = { clock: () => number; deadline: number; most: number };
type Reckoned = { cost: number; used: number[] };

/**
 * The sets of suppliers and modes from which all is bought most cheaply, the best first. Given the set, jobs nearly fall apart: each takes the lateness that its cheapest ways are worth. Reckoned first
 * as if nothing were shared, in some ten microseconds, and where that comes near the best, with a basket. An iterated local search (one pair in, out, or for another; Lourenço, Martin and Stützle,
 * 2003) begins at the pairs of a plan, or at all.
 */
export function pairPlans(
  problem: OrderProblem,
  start: HeuristicPlan | null,
  { clock, deadline, most }: Limits,
): PairPlan[] {
  const market = marketOf(problem);
  const { pairs } = market;
  const nameOf = (index: number) => pairName(pairs[index]?.supplier ?? -1, pairs[index]?.mode ?? -1);
  const inUse = new Set(
    start?.buys.map(({ offer, mode }) => pairName(problem.offers[offer]?.supplier ?? -1, mode)) ??
      [...pairs.keys()].map(nameOf),
  );
  const reckoning = new Reckoning(problem, market);
  const basket = new Basket(problem, market);
  const search = { pairs, oneMode: problem.oneMode, clock };
  const roughly = localSearch([[...pairs.keys()].filter((index) => inUse.has(nameOf(index)))], {
    ...search,
    deadline: clock() + ROUGH_SHARE * (deadline - clock()),
    reckon: (open) => reckoning.reckon(open),
  });
  const least = roughly[0]?.cost ?? Infinity;
  const filled = new Map<string, Reckoned>();
  const near = localSearch(
    roughly.slice(0, MOST_ROUGH).map(({ used }) => used),
    {
      ...search,
      deadline,
      reckon: (open) => {
        const rough = reckoning.reckon(open);
        if (rough.cost > least * ROUGHLY_NEAR) return rough;
        const key = keyOf(rough.used);
        const known = filled.get(key) ?? { cost: basket.fill(rough.used), used: basket.used() };
        filled.set(key, known);
        return known;
      },
    },
  );
  const dealtFrom = dealer(problem);
  return apart(near.map(({ used }) => used))
    .slice(0, most)
    .map((open) => {
      const opens = new Set(open.map(nameOf));
      const plan = basket.fill(open) < Infinity ? basket.plan() : null;
      return { opens, plan: plan ?? dealtFrom((s, m) => opens.has(pairName(s, m))) };
    });
}

const keyOf = (pairs: readonly number[]): string => [...pairs].sort((a, b) => a - b).join(' ');

type LocalSearch = {
  pairs: readonly Pair[];
  oneMode: boolean;
  clock: () => number;
  deadline: number;
  /** What is bought where only these pairs are open. */
  reckon: (open: readonly number[]) => Reckoned;
};

/** Down from the best of `starts`, then shaken and down again until that is in vain or the time is over. What it saw that is near the best, the cheapest first. */
function localSearch(
  starts: readonly (readonly number[])[],
  { pairs, oneMode, clock, deadline, reckon }: LocalSearch,
): Reckoned[] {
  const random = seededRandom(pairs.length * 13 + starts.length);
  const seen = new Map<string, Reckoned>();
  let least = Infinity;
  const costOf = (open: readonly number[]): number => {
    const found = reckon(open);
    const key = keyOf(found.used);
    if (found.cost < least * NEAR && !seen.has(key)) seen.set(key, found);
    least = Math.min(least, found.cost);
    return found.cost;
  };
  const descend = (from: readonly number[]): { open: readonly number[]; cost: number } => {
    let at = { open: from, cost: costOf(from) };
    for (let better = true; better && clock() < deadline;) {
      better = false;
      for (const open of neighbours(at.open, pairs, oneMode)) {
        const cost = costOf(open);
        if (cost < at.cost) {
          at = { open, cost };
          better = true;
          break;
        }
        if (clock() >= deadline) break;
      }
    }
    return at;
  };
  let first: readonly number[] = [];
  let cheapest = Infinity;
  for (const open of starts) {
    const cost = clock() < deadline ? costOf(open) : Infinity;
    if (cost <= cheapest) [first, cheapest] = [open, cost];
  }
  let best = descend(first);
  for (let inVain = 0; inVain < MOST_IN_VAIN && clock() < deadline; inVain += 1) {
    const shaken = new Set(best.open);
    for (let change = 0; change < SHAKEN; change += 1) {
      const pair = Math.floor(random() * pairs.length);
      if (!shaken.delete(pair)) shaken.add(pair);
    }
    const found = descend([...shaken]);
    if (found.cost < best.cost) [best, inVain] = [found, 0];
  }
  return [...seen.values()].filter(({ cost }) => cost <= least * NEAR).sort((a, b) => a.cost - b.cost);
}

/** A look at a set sees all that is within it: what lies within one that is kept already is left out. */
function apart(sets: readonly number[][]): number[][] {
  const kept: Set<number>[] = [];
  for (const set of sets.slice(0, MOST_COMPARED))
    if (!kept.some((other) => set.every((one) => other.has(one)))) kept.push(new Set(set));
  return kept.map((set) => [...set]);
}

/** One pair out, in, or for another. Where a supplier delivers in one mode only, another of its modes goes out. */
function* neighbours(open: readonly number[], pairs: readonly Pair[], oneMode: boolean): Generator<number[]> {
  const closed = [...pairs.keys()].filter((pair) => !open.includes(pair));
  const taken = (pair: number, others: readonly number[]): number[] => [
    ...(oneMode ? others.filter((other) => pairs[other]?.supplier !== pairs[pair]?.supplier) : others),
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

/** What all comes to in a set where each requirement has its own packs: some per cent more than with shared ones, in a tenth of the time. */
class Reckoning {
  /** Of each requirement, by step of lateness and pair, what the cheapest way that is no later costs, and of that the goods. */
  private readonly costs: Float64Array[];
  private readonly goodsOf: Float64Array[];
  private readonly goods: Float64Array;

  constructor(
    private readonly problem: OrderProblem,
    private readonly market: Market,
  ) {
    const { pairs, jobs, ways } = market;
    this.goods = new Float64Array(pairs.length);
    this.costs = problem.requirements.map(() => new Float64Array());
    this.goodsOf = problem.requirements.map(() => new Float64Array());
    for (const { late, requirements } of jobs)
      for (const r of requirements) {
        const costs = new Float64Array(late.length * pairs.length).fill(Infinity);
        const goodsOf = new Float64Array(costs.length);
        for (const { pair, late: days, content, units, price, adaptation } of (ways[r] ?? []).flat()) {
          const goods = Math.ceil(units / content) * price;
          for (let step = late.indexOf(days); step < late.length; step += 1) {
            const at = step * pairs.length + pair;
            if (goods + adaptation >= (costs[at] as number)) continue;
            costs[at] = goods + adaptation;
            goodsOf[at] = goods;
          }
        }
        this.costs[r] = costs;
        this.goodsOf[r] = goodsOf;
      }
  }

  /** Infinity: something cannot be had there. `used`: from which anything is bought. */
  reckon(open: readonly number[]): { cost: number; used: number[] } {
    const { pairs, jobs } = this.market;
    this.goods.fill(0);
    let cost = 0;
    for (const job of jobs) {
      const { step, cost: own } = this.cheapestStep(job, open);
      cost += own;
      if (cost === Infinity) return { cost, used: [...open] };
      for (const r of job.requirements) this.buy(r, step, open);
    }
    const used = open.filter((pair) => (this.goods[pair] as number) > 0).sort((a, b) => a - b);
    for (const pair of used) {
      const goods = this.goods[pair] as number;
      cost += orderCost(pairs[pair] as Pair, goods) - goods;
    }
    return { cost, used };
  }

  private cheapestStep({ late, perDay, requirements }: Job, open: readonly number[]): { step: number; cost: number } {
    const count = this.market.pairs.length;
    let best = { step: 0, cost: Infinity };
    for (const [step, days] of late.entries()) {
      let cost = days * perDay;
      if (cost >= best.cost) break;
      for (const r of requirements) {
        const costs = this.costs[r] as Float64Array;
        let least = this.problem.requirements[r]?.skip ?? Infinity;
        for (const pair of open) {
          const own = costs[step * count + pair] as number;
          if (own < least) least = own;
        }
        cost += least;
        if (cost >= best.cost) break;
      }
      if (cost < best.cost) best = { step, cost };
    }
    return best;
  }

  private buy(r: number, step: number, open: readonly number[]): void {
    const costs = this.costs[r] as Float64Array;
    let least = this.problem.requirements[r]?.skip ?? Infinity;
    let from = -1;
    for (const pair of open) {
      const own = costs[step * this.market.pairs.length + pair] as number;
      if (own < least) [least, from] = [own, pair];
    }
    if (from < 0) return;
    const goods = this.goodsOf[r]?.[step * this.market.pairs.length + from] ?? 0;
    this.goods[from] = (this.goods[from] as number) + goods;
  }
}
