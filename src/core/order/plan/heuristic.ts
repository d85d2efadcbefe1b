import {
  arrivalDay,
  evaluate,
  offersWith,
  pairName,
  planCost,
  type Buy,
  type Give,
  type OrderPlan,
  type OrderProblem,
} from './problem';

type Source = {
  requirement: number;
  part: number;
  adaptation: number;
  offer: number;
  mode: number;
  /** Its supplier and mode. */
  pair: string;
};

export type HeuristicPlan = Omit<OrderPlan, 'provenGap'>;

/** A plan with its totals; null where it cannot be carried out. */
export function judged(problem: OrderProblem, buys: readonly Buy[], gives: readonly Give[]): HeuristicPlan | null {
  const { totals, faults } = evaluate(problem, buys, gives);
  return faults.length > 0 ? null : { buys: [...buys], gives: [...gives], ...totals };
}

/**
 * A good plan quickly: every requirement takes the source that adds least to the bill as it stands (goods, shipping, adaptation, lateness);
 * then supplier–mode pairs are shut one after the other and the whole re-dealt while that saves. null when it finds no feasible plan
 * (which is no proof that there is none). O(rounds × pairs × requirements × sources).
 */
export function heuristicPlan(
  problem: OrderProblem,
  limits: { clock: () => number; budgetMs: number },
): HeuristicPlan | null {
  const deadline = limits.clock() + limits.budgetMs;
  const pairs = problem.suppliers.flatMap((supplier, s) => supplier.modes.map((_, m) => pairName(s, m)));
  const sources = sourcesOf(problem);
  let best: HeuristicPlan | null = null;
  let closed: Set<string> = new Set();
  const consider = (shut: Set<string>): boolean => {
    const plan = deal(problem, sources, shut);
    if (!plan || (best && planCost(plan) >= planCost(best))) return false;
    best = plan;
    closed = shut;
    return true;
  };
  consider(closed);
  // Each supplier alone, and each speed alone, are common good answers.
  problem.suppliers.forEach((_, s) => consider(new Set(pairs.filter((pair) => !pair.startsWith(`${s} `)))));
  if (problem.oneMode || best === null)
    for (const bit of [0, 1]) consider(new Set(pairs.filter((pair) => Number(pair.split(' ')[1]) !== bit)));
  for (let improved = true; improved && limits.clock() < deadline;) {
    improved = false;
    for (const pair of pairs) {
      if (limits.clock() >= deadline) break;
      const toggled = new Set(closed);
      if (!toggled.delete(pair)) toggled.add(pair);
      if (consider(toggled)) improved = true;
    }
  }
  return best;
}

/** Deals plans from some pairs alone, each dealt once; what can give what is found out once for all of them. */
export function dealer(
  problem: OrderProblem,
): (isOpen: (supplier: number, mode: number) => boolean) => HeuristicPlan | null {
  const sources = sourcesOf(problem);
  return (isOpen) => {
    const shut = problem.suppliers.flatMap(({ modes }, s) =>
      modes.flatMap((_, m) => (isOpen(s, m) ? [] : [pairName(s, m)])),
    );
    return deal(problem, sources, new Set(shut));
  };
}

/** Everything that can give a part to each requirement. */
const sourcesOf = (problem: OrderProblem): Source[][] =>
  problem.requirements.map(({ alternatives }, requirement) =>
    alternatives.flatMap(({ part, adaptation }) =>
      offersWith(problem, part).flatMap((offer) => {
        const { supplier } = problem.offers[offer] ?? { supplier: -1 };
        return (problem.suppliers[supplier]?.modes ?? []).map((_, mode) => ({
          requirement,
          part,
          adaptation,
          offer,
          mode,
          pair: pairName(supplier, mode),
        }));
      }),
    ),
  );

function deal(problem: OrderProblem, sources: readonly Source[][], closed: ReadonlySet<string>): HeuristicPlan | null {
  const stock = problem.offers.map((offer) => offer.stock);
  const buys = new Map<string, Buy>();
  const spare = new Map<string, number>();
  const gives: Give[] = [];
  const usedMode = new Map<number, number>();
  const goodsOf = new Map<string, number>();
  const late = new Map<number, number>();

  /** Units that this source can give now, and what taking `wanted` of them adds to the bill. */
  const price = (source: Source, wanted: number): { units: number; packs: number; cost: number } => {
    const offer = problem.offers[source.offer];
    const requirement = problem.requirements[source.requirement];
    if (!offer || !requirement) return { units: 0, packs: 0, cost: Infinity };
    const locked = usedMode.get(offer.supplier);
    if (problem.oneMode && locked !== undefined && locked !== source.mode)
      return { units: 0, packs: 0, cost: Infinity };
    const content = offer.contents.find((entry) => entry.part === source.part)?.quantity ?? 0;
    const free = spare.get(`${source.offer} ${source.mode} ${source.part}`) ?? 0;
    const packs = Math.min(stock[source.offer] ?? 0, Math.max(0, Math.ceil((wanted - free) / Math.max(1, content))));
    const units = Math.min(wanted, free + packs * content);
    const key = pairName(offer.supplier, source.mode);
    const mode = problem.suppliers[offer.supplier]?.modes[source.mode];
    const before = goodsOf.get(key);
    const after = (before ?? 0) + packs * offer.price;
    const feeAt = (goods: number | undefined) =>
      goods === undefined || !mode || (mode.freeOver !== null && goods >= mode.freeOver) ? 0 : mode.fee;
    const shipping =
      feeAt(after) - feeAt(before) + Math.max(0, (problem.suppliers[offer.supplier]?.minimumOrder ?? 0) - after);
    const job = problem.jobs[requirement.job];
    const already = late.get(requirement.job) ?? 0;
    const lateness =
      Math.max(0, arrivalDay(problem, source.offer, source.mode) - (job?.needBy ?? 0) - already) *
      (job?.latePerDay ?? 0);
    return { units, packs, cost: packs * offer.price + shipping + lateness };
  };

  const take = (source: Source, wanted: number): number => {
    const offer = problem.offers[source.offer];
    const requirement = problem.requirements[source.requirement];
    const { units, packs } = price(source, wanted);
    if (!offer || !requirement || units <= 0) return 0;
    const line = `${source.offer} ${source.mode}`;
    if (packs > 0) {
      const buy = buys.get(line) ?? { offer: source.offer, mode: source.mode, packs: 0 };
      buys.set(line, { ...buy, packs: buy.packs + packs });
      stock[source.offer] = (stock[source.offer] ?? 0) - packs;
      const key = pairName(offer.supplier, source.mode);
      goodsOf.set(key, (goodsOf.get(key) ?? 0) + packs * offer.price);
      usedMode.set(offer.supplier, source.mode);
      for (const content of offer.contents)
        spare.set(`${line} ${content.part}`, (spare.get(`${line} ${content.part}`) ?? 0) + packs * content.quantity);
    }
    spare.set(`${line} ${source.part}`, (spare.get(`${line} ${source.part}`) ?? 0) - units);
    gives.push({ requirement: source.requirement, part: source.part, offer: source.offer, mode: source.mode, units });
    late.set(
      requirement.job,
      Math.max(
        late.get(requirement.job) ?? 0,
        arrivalDay(problem, source.offer, source.mode) - (problem.jobs[requirement.job]?.needBy ?? 0),
      ),
    );
    return units;
  };

  // What may be left for later is left here; the programme takes it up where it pays.
  const all = problem.requirements.map(({ skip }, index) =>
    skip === undefined ? (sources[index] ?? []).filter(({ pair }) => !closed.has(pair)) : [],
  );
  // Those with the fewest sources first: they have no choice.
  const order = problem.requirements
    .map((_, index) => index)
    .sort((a, b) => (all[a]?.length ?? 0) - (all[b]?.length ?? 0));
  for (const index of order) {
    const requirement = problem.requirements[index];
    if (!requirement || requirement.skip !== undefined) continue;
    const perPart = requirement.alternatives.map(({ part, adaptation }) => {
      const own = (all[index] ?? [])
        .filter((source) => source.part === part)
        .map((source) => ({ source, ...price(source, requirement.quantity) }));
      const whole = own.filter((entry) => entry.units >= requirement.quantity).sort((a, b) => a.cost - b.cost)[0];
      return {
        part,
        cost:
          (whole?.cost ?? own.reduce((sum, entry) => sum + (Number.isFinite(entry.cost) ? entry.cost : 0), 1e6)) +
          adaptation,
        whole: whole?.source,
        own,
      };
    });
    let met = false;
    for (const choice of perPart.sort((a, b) => a.cost - b.cost)) {
      if (choice.whole) met = take(choice.whole, requirement.quantity) >= requirement.quantity;
      else {
        const available = new Map<number, number>();
        for (const entry of choice.own)
          available.set(entry.source.offer, Math.max(available.get(entry.source.offer) ?? 0, entry.units));
        if ([...available.values()].reduce((sum, units) => sum + units, 0) < requirement.quantity) continue;
        let missing = requirement.quantity;
        for (const entry of choice.own.sort((a, b) => a.cost / Math.max(1, a.units) - b.cost / Math.max(1, b.units)))
          if (missing > 0) missing -= take(entry.source, missing);
        met = missing <= 0;
        if (!met) return null;
      }
      if (met) break;
    }
    if (!met) return null;
  }
  topUp(problem, buys, stock, goodsOf);
  return judged(problem, [...buys.values()], gives);
}

/** Fills orders below the supplier's minimum, and those where reaching free shipping is cheaper than the fee, with the offer that overshoots least. */
export function topUp(
  problem: OrderProblem,
  buys: Map<string, Buy>,
  stock: number[],
  goodsOf: Map<string, number>,
): void {
  for (const [key, goods] of goodsOf) {
    const [s = -1, m = -1] = key.split(' ').map(Number);
    const supplier = problem.suppliers[s];
    const mode = supplier?.modes[m];
    if (!supplier || !mode) continue;
    const targets = [supplier.minimumOrder, ...(mode.freeOver !== null ? [mode.freeOver] : [])].filter(
      (target) => target > goods,
    );
    for (const target of targets) {
      const missing = target - (goodsOf.get(key) ?? goods);
      if (missing <= 0) continue;
      const fillers = problem.offers
        .map((offer, index) => ({ offer, at: index, packs: Math.ceil(missing / Math.max(1, offer.price)) }))
        .filter(
          ({ offer, at: index, packs }) => offer.supplier === s && offer.price > 0 && packs <= (stock[index] ?? 0),
        )
        .sort((a, b) => a.packs * a.offer.price - b.packs * b.offer.price);
      const filler = fillers[0];
      if (!filler) continue;
      const extra = filler.packs * filler.offer.price;
      if (target !== supplier.minimumOrder && extra >= mode.fee) continue;
      const line = `${filler.at} ${m}`;
      const buy = buys.get(line) ?? { offer: filler.at, mode: m, packs: 0 };
      buys.set(line, { ...buy, packs: buy.packs + filler.packs });
      stock[filler.at] = (stock[filler.at] ?? 0) - filler.packs;
      goodsOf.set(key, (goodsOf.get(key) ?? 0) + extra);
    }
  }
}
