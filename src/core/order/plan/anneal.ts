import { groupBy, seededRandom } from '../../units';
import { judged, topUp, type HeuristicPlan } from './heuristic';
import { arrivalDay, offersWith, pairName, planCost, type Buy, type Give, type OrderProblem } from './problem';

/** Temperatures, in minor units: at first an order more is taken now and then, at last hardly a coin. */
const HOTTEST = 1500;
const COLDEST = 5;
/** So often the clock is looked at. */
const STRIDE = 200;

type Limits = { clock: () => number; deadline: number };

/**
 * Simulated annealing (Kirkpatrick, Gelatt & Vecchi, Science 220, 1983) over what gives each unit: moves of a requirement to another source, of one unit, of all that an order holds, and of
 * all that another order has cheaper. Bills are kept up move by move, so that some hundred thousand moves are tried in a second. A minimum or a threshold that is not
 * reached is reckoned at what is missing and filled up at the end; the judge is `evaluate`. Never worse than the plan that it begins at.
 */
export function anneal(start: HeuristicPlan, problem: OrderProblem, { clock, deadline }: Limits): HeuristicPlan {
  const bench = new Bill(problem, start);
  const random = seededRandom(problem.offers.length * 101 + problem.requirements.length);
  const from = clock();
  let best = start;
  let least = bench.total;
  let kept = bench.remember();
  const keepBest = () => {
    bench.recall(kept);
    const plan = bench.plan();
    if (plan && planCost(plan) < planCost(best)) best = plan;
  };
  for (let round = 0; ; round += 1) {
    const share = Math.min(1, (clock() - from) / Math.max(1, deadline - from));
    if (share >= 1) break;
    const heat = HOTTEST * (COLDEST / HOTTEST) ** share;
    for (let step = 0; step < STRIDE; step += 1) {
      const before = bench.total;
      const moved = bench.move(random);
      const worse = bench.total - before;
      if (!moved || (worse > 0 && random() >= Math.exp(-worse / heat))) bench.undo();
      else bench.settle();
      if (bench.total < least - 0.5) {
        least = bench.total;
        kept = bench.remember();
      }
    }
  }
  keepBest();
  return best;
}

/** One thing that can give a unit of a part to a requirement. */
type Source = {
  part: number;
  adaptation: number;
  slot: number;
  /** Of the slot's contents, which one. */
  content: number;
  /** Days after which its job would be late. */
  late: number;
};

/** The bill of an assignment of units to sources, kept up with each change. */
class Bill {
  total = 0;
  private readonly sources: Source[][] = [];
  /** A place to buy: an offer in a mode. */
  private readonly slots: { offer: number; mode: number; pair: number; used: number[]; packs: number }[] = [];
  private readonly pairs: { supplier: number; mode: number; goods: number; packs: number; cost: number }[] = [];
  private readonly bought: number[];
  private readonly units: { requirement: number; at: number }[] = [];
  private readonly unitsOf: number[][] = [];
  private readonly ofJob: Map<number, number[]>;
  private readonly jobCost: number[];
  private readonly requirementsOf: Map<number, number[]>;
  /** Places whose packs may serve several: who takes what of them, by content. */
  private readonly sharedSlots: { r: number; at: number }[][][];
  /** Of what is to be left for later. */
  private readonly optional: number[] = [];
  private changes: { unit: number; at: number }[] = [];

  constructor(
    private readonly problem: OrderProblem,
    start: HeuristicPlan,
  ) {
    const slotOf = new Map<string, number>();
    const pairOf = new Map<string, number>();
    for (const [supplier, { modes }] of problem.suppliers.entries())
      for (const mode of modes.keys()) {
        pairOf.set(pairName(supplier, mode), this.pairs.length);
        this.pairs.push({ supplier, mode, goods: 0, packs: 0, cost: 0 });
      }
    this.bought = problem.offers.map(() => 0);
    this.jobCost = problem.jobs.map(() => 0);
    const given = groupBy(start.gives, ({ requirement }) => requirement);
    for (const [r, requirement] of problem.requirements.entries()) {
      const list: Source[] = [];
      for (const { part, adaptation } of requirement.alternatives)
        for (const offer of offersWith(problem, part)) {
          const spec = problem.offers[offer];
          if (!spec || spec.stock === 0 || spec.supplier === requirement.notFrom) continue;
          for (const mode of (problem.suppliers[spec.supplier]?.modes ?? []).keys()) {
            const key = `${offer} ${mode}`;
            let slot = slotOf.get(key);
            if (slot === undefined) {
              slot = this.slots.length;
              slotOf.set(key, slot);
              const pair = pairOf.get(pairName(spec.supplier, mode)) ?? 0;
              this.slots.push({ offer, mode, pair, used: spec.contents.map(() => 0), packs: 0 });
            }
            list.push({
              part,
              adaptation,
              slot,
              content: spec.contents.findIndex((content) => content.part === part),
              late: Math.max(0, arrivalDay(problem, offer, mode) - (problem.jobs[requirement.job]?.needBy ?? 0)),
            });
          }
        }
      this.sources.push(list);
      const own: number[] = [];
      const starts = (given.get(r) ?? []).flatMap((give) =>
        Array.from({ length: give.units }, () =>
          list.findIndex(({ part, slot }) => part === give.part && slot === slotOf.get(`${give.offer} ${give.mode}`)),
        ),
      );
      for (let unit = 0; unit < requirement.quantity; unit += 1) {
        own.push(this.units.length);
        this.units.push({ requirement: r, at: -1 });
      }
      this.unitsOf.push(own);
      if (requirement.skip !== undefined) {
        this.optional.push(r);
        this.total += requirement.skip;
      }
      own.forEach((unit, index) => this.assign(unit, starts[index] ?? -1));
    }
    this.requirementsOf = groupBy(problem.requirements.keys(), (r) => problem.requirements[r]?.job ?? -1);
    const takers = this.slots.map(({ used }) => used.map((): { r: number; at: number }[] => []));
    for (const [r, list] of this.sources.entries())
      for (const [at, { slot, content }] of list.entries()) takers[slot]?.[content]?.push({ r, at });
    this.sharedSlots = takers
      .map((contents) => contents.filter(({ length }) => length > 0))
      .filter((contents) => contents.length > 1 || (contents[0]?.length ?? 0) > 1);
    this.ofJob = groupBy(this.units.keys(), (unit) => this.jobOf(unit));
    for (const job of problem.jobs.keys()) this.weighJob(job);
    this.settle();
  }

  /** One change, drawn; false: nothing could be changed. What it did can be undone until it is settled. */
  move(random: () => number): boolean {
    const kind = random();
    if (kind < 0.8) return this.moveRequirement(random);
    if (kind < 0.86) return this.moveUnit(random);
    if (kind < 0.93) return this.fillPack(random);
    if (kind < 0.985) return this.moveJob(random);
    return kind < 0.993 ? this.empty(random) : this.gather(random);
  }

  settle(): void {
    this.changes = [];
  }

  undo(): void {
    for (const { unit, at } of this.changes.splice(0).reverse()) this.change(unit, at, false);
  }

  remember = (): Int32Array => Int32Array.from(this.units, ({ at }) => at);

  recall(kept: Int32Array): void {
    for (const [unit, at] of kept.entries()) if (this.units[unit]?.at !== at) this.change(unit, at);
    this.settle();
  }

  /** The plan as it stands, filled up; null where it is none. */
  plan(): HeuristicPlan | null {
    const { problem } = this;
    const buys = new Map<string, Buy>();
    const goodsOf = new Map<string, number>();
    for (const { offer, mode, packs, pair } of this.slots)
      if (packs > 0) {
        buys.set(`${offer} ${mode}`, { offer, mode, packs });
        const { supplier } = this.pairs[pair] ?? { supplier: -1 };
        const key = pairName(supplier, mode);
        goodsOf.set(key, (goodsOf.get(key) ?? 0) + packs * (problem.offers[offer]?.price ?? 0));
      }
    topUp(
      problem,
      buys,
      problem.offers.map(({ stock }, offer) => stock - (this.bought[offer] ?? 0)),
      goodsOf,
    );
    const gives = new Map<string, Give>();
    for (const { requirement, at } of this.units) {
      const source = this.sources[requirement]?.[at];
      const slot = source && this.slots[source.slot];
      if (!source || !slot) continue;
      const key = `${requirement} ${source.slot}`;
      const known = gives.get(key);
      if (known) known.units += 1;
      else gives.set(key, { requirement, part: source.part, offer: slot.offer, mode: slot.mode, units: 1 });
    }
    return judged(problem, [...buys.values()], [...gives.values()]);
  }

  private jobOf = (unit: number): number => this.problem.requirements[this.units[unit]?.requirement ?? -1]?.job ?? -1;

  /** A requirement whole to another source, or left for later. */
  private moveRequirement(random: () => number): boolean {
    const r = Math.floor(random() * this.sources.length);
    const list = this.sources[r] ?? [];
    if (this.problem.requirements[r]?.skip !== undefined && random() < 0.3) return this.giveAll(r, -1);
    // Mostly from what is ordered from already.
    let at = Math.floor(random() * list.length);
    for (let tries = 0; tries < 6 && random() < 0.8 && !this.isOpen(list[at]); tries += 1)
      at = Math.floor(random() * list.length);
    return list.length > 0 && this.giveAll(r, at);
  }

  private isOpen = (source: Source | undefined): boolean =>
    (this.pairs[this.slots[source?.slot ?? -1]?.pair ?? -1]?.packs ?? 0) > 0;

  private giveAll(r: number, at: number): boolean {
    const own = this.unitsOf[r] ?? [];
    if (own.every((unit) => this.units[unit]?.at === at)) return false;
    // First out of everything, so that two numbers are never mixed.
    for (const unit of own) this.change(unit, -1);
    for (const unit of own) if (at >= 0) this.change(unit, at);
    return this.isFine();
  }

  private moveUnit(random: () => number): boolean {
    const unit = Math.floor(random() * this.units.length);
    const { requirement, at } = this.units[unit] ?? { requirement: -1, at: -1 };
    const list = this.sources[requirement] ?? [];
    const now = list[at];
    const other = Math.floor(random() * list.length);
    if (!now || other === at || list[other]?.part !== now.part) return false;
    this.change(unit, other);
    return this.isFine();
  }

  /** To one pack all that it holds and somebody wants: a kit pays only whole. */
  private fillPack(random: () => number): boolean {
    const shared = this.sharedSlots[Math.floor(random() * this.sharedSlots.length)];
    if (!shared) return false;
    let moved = false;
    for (const takers of shared) {
      const { r = -1, at = -1 } = takers[Math.floor(random() * takers.length)] ?? {};
      if (r >= 0) moved = this.giveAll(r, at) || moved;
    }
    return moved && this.isFine();
  }

  /** A job's parts all in time for one day, each from where that costs least: one late part keeps the machine waiting as well as three. */
  private moveJob(random: () => number): boolean {
    const job = Math.floor(random() * this.problem.jobs.length);
    const wanted = this.requirementsOf.get(job) ?? [];
    const some = this.sources[wanted[Math.floor(random() * wanted.length)] ?? -1] ?? [];
    const latest = some[Math.floor(random() * some.length)]?.late ?? 0;
    let moved = false;
    for (const r of wanted) {
      const list = this.sources[r] ?? [];
      const now = list[this.units[this.unitsOf[r]?.[0] ?? -1]?.at ?? -1];
      if (now && now.late <= latest) continue;
      const choices: number[] = [];
      for (let tries = 0; tries < 24 && choices.length < 8; tries += 1) {
        const at = Math.floor(random() * list.length);
        const source = list[at];
        if (source && source.late <= latest && (this.isOpen(source) || random() < 0.2)) choices.push(at);
      }
      if (!this.toBest(r, choices)) return false;
      moved = true;
    }
    return moved && this.isFine();
  }

  /** Everything out of one order, to where it costs least among those that are open. */
  private empty(random: () => number): boolean {
    const open = [...this.pairs.keys()].filter((pair) => (this.pairs[pair]?.packs ?? 0) > 0);
    const pair = open[Math.floor(random() * open.length)];
    if (pair === undefined || open.length < 2) return false;
    for (const r of this.inPair(pair)) {
      const list = this.sources[r] ?? [];
      const choices = list.flatMap((source, at) => {
        const own = this.slots[source.slot]?.pair ?? -1;
        return own !== pair && (this.pairs[own]?.packs ?? 0) > 0 ? [at] : [];
      });
      if (!this.toBest(r, choices)) return false;
    }
    return this.isFine();
  }

  /** To one order everything that costs less there. */
  private gather(random: () => number): boolean {
    const pair = Math.floor(random() * this.pairs.length);
    let moved = false;
    for (const [r, list] of this.sources.entries()) {
      const choices = list.flatMap((source, at) => (this.slots[source.slot]?.pair === pair ? [at] : []));
      if (choices.length === 0 || random() < 0.2) continue;
      const here = this.units[this.unitsOf[r]?.[0] ?? -1]?.at ?? -1;
      const now = here < 0 ? undefined : list[here];
      const bare = (at: number) => {
        const source = list[at];
        const offer = this.problem.offers[this.slots[source?.slot ?? -1]?.offer ?? -1];
        return (
          (offer?.price ?? Infinity) / (offer?.contents[source?.content ?? -1]?.quantity ?? 1) +
          (source?.adaptation ?? 0)
        );
      };
      const [cheapest] = choices.sort((a, b) => bare(a) - bare(b));
      if (cheapest === undefined || (now && bare(here) <= bare(cheapest) && random() < 0.9)) continue;
      moved = this.giveAll(r, cheapest) || moved;
      if (!this.isFine()) return false;
    }
    return moved;
  }

  private inPair(pair: number): Set<number> {
    const found = new Set<number>();
    for (const { requirement, at } of this.units) {
      const source = this.sources[requirement]?.[at];
      if (source && this.slots[source.slot]?.pair === pair) found.add(requirement);
    }
    return found;
  }

  /** The choice after which the bill is least; false where none is fine. */
  private toBest(r: number, choices: readonly number[]): boolean {
    let best = -1;
    let least = Infinity;
    const own = this.unitsOf[r] ?? [];
    for (const unit of own) this.change(unit, -1);
    for (const at of choices) {
      const mark = this.changes.length;
      for (const unit of own) this.change(unit, at);
      if (this.isFine() && this.total < least) {
        least = this.total;
        best = at;
      }
      for (const change of this.changes.splice(mark).reverse()) this.change(change.unit, change.at, false);
    }
    if (best < 0) return false;
    for (const unit of own) this.change(unit, best);
    return true;
  }

  private over = 0;
  private clashes = 0;
  /** No offer is bought beyond its stock, and no supplier in two modes where one is allowed. */
  private isFine = (): boolean => this.over === 0 && this.clashes === 0;

  private change(unit: number, at: number, log = true): void {
    const now = this.units[unit]?.at ?? -1;
    if (now === at) return;
    if (log) this.changes.push({ unit, at: now });
    this.assign(unit, at);
    if (this.ofJob) this.weighJob(this.jobOf(unit));
  }

  private assign(unit: number, at: number): void {
    const entry = this.units[unit];
    if (!entry) return;
    const { requirement } = entry;
    const { quantity = 1, skip } = this.problem.requirements[requirement] ?? {};
    const was = this.sources[requirement]?.[entry.at];
    const is = this.sources[requirement]?.[at];
    entry.at = at;
    if (was) {
      this.use(was, -1);
      this.total -= was.adaptation / quantity;
    }
    if (is) {
      this.use(is, 1);
      this.total += is.adaptation / quantity;
    }
    if (skip !== undefined) this.total += ((was ? skip : 0) - (is ? skip : 0)) / quantity;
  }

  private use({ slot: index, content }: Source, count: number): void {
    const slot = this.slots[index];
    const spec = this.problem.offers[slot?.offer ?? -1];
    const pair = this.pairs[slot?.pair ?? -1];
    if (!slot || !spec || !pair) return;
    slot.used[content] = (slot.used[content] ?? 0) + count;
    let packs = 0;
    for (const [which, { quantity }] of spec.contents.entries())
      packs = Math.max(packs, Math.ceil((slot.used[which] ?? 0) / quantity));
    const more = packs - slot.packs;
    if (more === 0) return;
    slot.packs = packs;
    const had = this.bought[slot.offer] ?? 0;
    this.bought[slot.offer] = had + more;
    this.over += Math.max(0, had + more - spec.stock) - Math.max(0, had - spec.stock);
    const wasOpen = pair.packs > 0;
    pair.packs += more;
    pair.goods += more * spec.price;
    if (this.problem.oneMode && wasOpen !== pair.packs > 0) {
      const others = this.pairs.filter(
        (other) => other !== pair && other.supplier === pair.supplier && other.packs > 0,
      );
      this.clashes += wasOpen ? -others.length : others.length;
    }
    const cost = this.costOf(pair);
    this.total += cost - pair.cost;
    pair.cost = cost;
  }

  private costOf({ supplier, mode, goods, packs }: Bill['pairs'][number]): number {
    const spec = this.problem.suppliers[supplier];
    const terms = spec?.modes[mode];
    if (packs === 0 || !spec || !terms) return 0;
    const filled = Math.max(goods, spec.minimumOrder);
    const fee =
      terms.freeOver === null ? terms.fee : filled >= terms.freeOver ? 0 : Math.min(terms.fee, terms.freeOver - filled);
    return filled + fee;
  }

  private weighJob(job: number): void {
    let late = 0;
    for (const unit of this.ofJob.get(job) ?? []) {
      const { requirement, at } = this.units[unit] ?? { requirement: -1, at: -1 };
      late = Math.max(late, this.sources[requirement]?.[at]?.late ?? 0);
    }
    const cost = late * (this.problem.jobs[job]?.latePerDay ?? 0);
    this.total += cost - (this.jobCost[job] ?? 0);
    this.jobCost[job] = cost;
  }
}
