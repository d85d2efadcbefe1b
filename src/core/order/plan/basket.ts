import { judged, topUp, type HeuristicPlan } from './heuristic';
import { orderCost, type Group, type Job, type Market, type Pair, type Way } from './market';
import { pairName, type Buy, type Give, type OrderProblem } from './problem';

/** How often at most all jobs are taken out and put back. */
const SWEEPS = 3;
/** Steps of lateness are bits of a number: what is later than so many is not reckoned with. */
const MOST_STEPS = 30;

/**
 * What is bought from a set of pairs, packs shared and thresholds counted: jobs are put in one by one, each with the lateness and the ways that cost least beside what is bought already; then they are
 * taken out and put back, and what several want of a part is tried from one offer, until nothing gets cheaper. Each requirement has all from one offer. O(sweeps × requirements × steps × ways of the
 * set), some hundred microseconds.
 */
export class Basket {
  /** Of each requirement what it costs to leave it for later. */
  private readonly skips: number[];
  /** By job and pair, at which steps of lateness there is anything. */
  private readonly steps: Int32Array[];
  private readonly units: Int32Array;
  private readonly packs: Int32Array;
  private readonly stocks: Int32Array;
  private readonly left: Int32Array;
  private readonly goods: Float64Array;
  /** Of each job what is not goods: lateness, adaptation, what is left for later. */
  private readonly beside: Float64Array;
  private readonly days: Int32Array;
  private readonly taken: (Way | null)[];
  private open: readonly number[] = [];

  constructor(
    private readonly problem: OrderProblem,
    private readonly market: Market,
  ) {
    const { pairs, jobs, lines, contents } = market;
    this.skips = problem.requirements.map(({ skip }) => skip ?? Infinity);
    this.steps = jobs.map((job) => this.stepsOf(job));
    this.units = new Int32Array(contents.length);
    this.packs = new Int32Array(lines.length);
    this.stocks = Int32Array.from(problem.offers, ({ stock }) => stock);
    this.left = new Int32Array(problem.offers.length);
    this.goods = new Float64Array(pairs.length);
    this.beside = new Float64Array(jobs.length);
    this.days = new Int32Array(jobs.length);
    this.taken = problem.requirements.map(() => null);
  }

  private stepsOf({ late, requirements }: Job): Int32Array {
    const steps = new Int32Array(this.market.pairs.length);
    for (const r of requirements)
      for (const { pair, late: days } of (this.market.ways[r] ?? []).flat()) {
        const step = late.indexOf(days);
        if (step < MOST_STEPS) steps[pair] = (steps[pair] as number) | (1 << step);
      }
    return steps;
  }

  /** Fills the basket from these pairs alone; what it costs, orders filled up. Infinity: something cannot be had there. */
  fill(open: readonly number[]): number {
    this.open = open;
    this.units.fill(0);
    this.packs.fill(0);
    this.goods.fill(0);
    this.taken.fill(null);
    this.left.set(this.stocks);
    for (let job = 0; job < this.market.jobs.length; job += 1) if (!this.put(job, false)) return Infinity;
    let cost = this.cost();
    for (let sweep = 0; sweep < SWEEPS; sweep += 1) {
      for (let job = 0; job < this.market.jobs.length; job += 1) {
        this.takeOut(job);
        if (!this.put(job, true)) return Infinity;
      }
      for (const group of this.market.groups) this.share(group);
      const now = this.cost();
      if (now >= cost - 0.5) return now;
      cost = now;
    }
    return cost;
  }

  private cost(): number {
    return this.beside.reduce((all, one) => all + one, this.orders());
  }

  private orders(): number {
    let cost = 0;
    for (const pair of this.open) cost += orderCost(this.market.pairs[pair] as Pair, this.goods[pair] as number);
    return cost;
  }

  /** Pairs from which something is bought. */
  used(): number[] {
    return this.open.filter((pair) => (this.goods[pair] as number) > 0);
  }

  /** What is in it as a plan, orders filled up; null where it cannot be carried out. */
  plan(): HeuristicPlan | null {
    const { problem, market } = this;
    const buys = new Map<string, Buy>();
    market.lines.forEach(({ offer, mode }, line) => {
      const packs = this.packs[line] as number;
      if (packs > 0) buys.set(`${offer} ${mode}`, { offer, mode, packs });
    });
    const gives = this.taken.flatMap((way, requirement): Give[] => {
      if (!way) return [];
      const { part, offer, line, units } = way;
      return [{ requirement, part, offer, mode: market.lines[line]?.mode ?? 0, units }];
    });
    const goodsOf = new Map(
      this.used().map((pair) => {
        const { supplier = -1, mode = -1 } = market.pairs[pair] ?? {};
        return [pairName(supplier, mode), this.goods[pair] as number];
      }),
    );
    topUp(problem, buys, [...this.left], goodsOf);
    return judged(problem, [...buys.values()], gives);
  }

  /** Puts a job in at the step of lateness that costs least; false: it cannot be had. `whole`: fees and thresholds count, beside the goods. */
  private put(job: number, whole: boolean): boolean {
    const { late, perDay, requirements } = this.market.jobs[job] as Job;
    const stepsOf = this.steps[job] as Int32Array;
    let steps = 1;
    for (const pair of this.open) steps |= stepsOf[pair] as number;
    let least = Infinity;
    let best: (Way | null)[] = [];
    for (let step = 0; step < late.length && step < MOST_STEPS; step += 1) {
      if ((steps & (1 << step)) === 0) continue;
      const days = late[step] as number;
      let cost = days * perDay;
      if (cost >= least) break;
      const ways: (Way | null)[] = [];
      for (const r of requirements) {
        const way = this.cheapest(r, days, whole);
        cost += this.leastCost;
        if (cost >= least) break;
        ways.push(way);
        if (way) this.take(way);
      }
      for (const way of ways) if (way) this.putBack(way);
      if (cost < least) [least, best] = [cost, ways];
    }
    if (least === Infinity) return false;
    let beside = 0;
    let days = 0;
    for (let index = 0; index < requirements.length; index += 1) {
      const r = requirements[index] as number;
      const way = best[index] as Way | null;
      this.taken[r] = way;
      beside += this.besideOf(r, way);
      if (!way) continue;
      this.take(way);
      if (way.late > days) days = way.late;
    }
    this.beside[job] = beside + days * perDay;
    this.days[job] = days;
    return true;
  }

  private takeOut(job: number): void {
    for (const r of (this.market.jobs[job] as Job).requirements) {
      const way = this.taken[r];
      if (way) this.putBack(way);
      this.taken[r] = null;
    }
  }

  /** Takes what several want of a part from one offer, no later than now, where that costs less than what each has. */
  private share({ requirements, shares }: Group): void {
    const had = requirements.map((r) => this.taken[r] as Way | null);
    for (const way of had) if (way) this.putBack(way);
    let least = this.tryOn(requirements, had);
    let best = had;
    for (const { pair, ways } of shares) {
      if (!this.open.includes(pair)) continue;
      const joined = ways.map((way, index) =>
        way && way.late <= (this.days[this.jobOf(requirements[index] as number)] as number)
          ? way
          : (had[index] as Way | null),
      );
      const cost = this.tryOn(requirements, joined);
      if (cost < least) [least, best] = [cost, joined];
    }
    for (let index = 0; index < requirements.length; index += 1) {
      const r = requirements[index] as number;
      const job = this.jobOf(r);
      const way = best[index] as Way | null;
      this.beside[job] =
        (this.beside[job] as number) + this.besideOf(r, way) - this.besideOf(r, had[index] as Way | null);
      this.taken[r] = way;
      if (way) this.take(way);
    }
  }

  private jobOf(r: number): number {
    return this.problem.requirements[r]?.job ?? -1;
  }

  private besideOf(r: number, way: Way | null): number {
    return way ? way.adaptation : (this.skips[r] as number);
  }

  /** What all orders cost with these ways, and the ways beside their goods; Infinity where a stock does not reach. */
  private tryOn(requirements: readonly number[], ways: readonly (Way | null)[]): number {
    let cost = 0;
    let count = 0;
    for (; count < ways.length; count += 1) {
      const way = ways[count] as Way | null;
      cost += this.besideOf(requirements[count] as number, way);
      if (!way) continue;
      if (this.morePacks(way) > (this.left[way.offer] as number)) {
        cost = Infinity;
        break;
      }
      this.take(way);
    }
    if (cost < Infinity) cost += this.orders();
    for (count -= 1; count >= 0; count -= 1) {
      const way = ways[count];
      if (way) this.putBack(way);
    }
    return cost;
  }

  /** What the way of `cheapest` costs. */
  private leastCost = 0;

  /** null: it is left for later, or cannot be had (at an infinite cost). */
  private cheapest(r: number, days: number, whole: boolean): Way | null {
    const byPair = this.market.ways[r] as Way[][];
    let least = this.skips[r] as number;
    let best: Way | null = null;
    for (const pair of this.open) {
      const ways = byPair[pair] as Way[];
      if (ways.length === 0) continue;
      const spec = this.market.pairs[pair] as Pair;
      const goods = this.goods[pair] as number;
      const now = whole ? orderCost(spec, goods) : goods;
      for (const way of ways) {
        if (way.late > days) continue;
        const more = this.morePacks(way);
        let cost = way.adaptation;
        if (more > 0) {
          if (more > (this.left[way.offer] as number)) continue;
          const then = goods + more * way.price;
          cost += (whole ? orderCost(spec, then) : then) - now;
        }
        if (cost < least) {
          least = cost;
          best = way;
        }
      }
    }
    this.leastCost = least;
    return best;
  }

  private morePacks({ slot, line, units, content }: Way): number {
    const wanted = (this.units[slot] as number) + units;
    const needed = content === 1 ? wanted : ((wanted + content - 1) / content) | 0;
    const more = needed - (this.packs[line] as number);
    return more > 0 ? more : 0;
  }

  private take(way: Way): void {
    const more = this.morePacks(way);
    this.units[way.slot] = (this.units[way.slot] as number) + way.units;
    if (more > 0) this.buy(way, more);
  }

  private putBack(way: Way): void {
    this.units[way.slot] = (this.units[way.slot] as number) - way.units;
    let needed = 0;
    for (const slot of (this.market.lines[way.line] as Market['lines'][number]).slots) {
      const packs = Math.ceil((this.units[slot] as number) / (this.market.contents[slot] as number));
      if (packs > needed) needed = packs;
    }
    const fewer = needed - (this.packs[way.line] as number);
    if (fewer < 0) this.buy(way, fewer);
  }

  private buy({ line, offer, pair, price }: Way, packs: number): void {
    this.packs[line] = (this.packs[line] as number) + packs;
    this.left[offer] = (this.left[offer] as number) - packs;
    this.goods[pair] = (this.goods[pair] as number) + packs * price;
  }
}
