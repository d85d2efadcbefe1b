/** The plain order problem (docs/methods.md). Integer minor units, whole days; ids are positions. */
export type OrderProblem = {
  /** true: each supplier is used in at most one mode. */
  oneMode: boolean;
  jobs: { needBy: number; latePerDay: number }[];
  requirements: {
    job: number;
    quantity: number;
    alternatives: { part: number; adaptation: number }[];
    /** What it costs not to buy it now; it must be bought where this is missing. */
    skip?: number;
    /** A supplier that cannot give it. */
    notFrom?: number;
  }[];
  suppliers: { minimumOrder: number; modes: { fee: number; freeOver: number | null; transit: number }[] }[];
  offers: {
    supplier: number;
    price: number;
    contents: { part: number; quantity: number }[];
    stock: number;
    handling: number;
  }[];
  /** Days until each offer is here by each mode of its supplier, where the calendar says more than their sum. */
  arrives?: readonly (readonly number[])[];
};

export type Buy = { offer: number; mode: number; packs: number };
export type Give = { requirement: number; part: number; offer: number; mode: number; units: number };

export type OrderPlan = {
  buys: Buy[];
  gives: Give[];
  goods: number;
  shipping: number;
  adaptation: number;
  lateness: number;
  /** Of what may be left for later and is. */
  skipped: number;
  /** (cost − bound) / cost; 0 = proven optimal. */
  provenGap: number;
};

/** Names the requirements that cannot be met together with the others. */
export class InfeasibleOrder extends Error {
  readonly requirements: number[];
  /** false: each of them cannot be met even by itself. */
  readonly together: boolean;
  constructor(requirements: number[], together = true) {
    super(`These requirements cannot be bought: ${requirements.join(', ')}`);
    this.name = 'InfeasibleOrder';
    this.requirements = requirements;
    this.together = together;
  }
}

/** A supplier in one of its modes, as a key. */
export const pairName = (supplier: number, mode: number): string => `${supplier} ${mode}`;

export type Totals = Pick<OrderPlan, 'goods' | 'shipping' | 'adaptation' | 'lateness' | 'skipped'>;

export const planCost = (plan: Totals): number =>
  plan.goods + plan.shipping + plan.adaptation + plan.lateness + plan.skipped;

const byPart = new WeakMap<OrderProblem['offers'], Map<number, number[]>>();

/** Offers that have a part in them. */
export function offersWith({ offers }: Pick<OrderProblem, 'offers'>, part: number): readonly number[] {
  let known = byPart.get(offers);
  if (!known) {
    known = new Map();
    for (const [index, { contents }] of offers.entries())
      for (const content of contents) {
        const list = known.get(content.part);
        if (!list) known.set(content.part, [index]);
        else if (list.at(-1) !== index) list.push(index);
      }
    byPart.set(offers, known);
  }
  return known.get(part) ?? [];
}

export const arrivalDay = (problem: OrderProblem, offer: number, mode: number): number => {
  const spec = problem.offers[offer];
  const known = problem.arrives?.[offer]?.[mode];
  if (known !== undefined) return known;
  return (spec?.handling ?? 0) + (problem.suppliers[spec?.supplier ?? -1]?.modes[mode]?.transit ?? 0);
};

export type Fault = {
  kind: 'stock' | 'units' | 'not-met' | 'mixed-parts' | 'minimum' | 'one-mode' | 'unknown-part';
  index: number;
};

/**
 * Totals of a plan, in integers, and everything that is wrong with it. The one judge of every plan, from whichever solver. O(plan).
 */
export function evaluate(
  problem: OrderProblem,
  buys: readonly Buy[],
  gives: readonly Give[],
): { totals: Totals; faults: Fault[] } {
  const faults: Fault[] = [];
  const orders = new Map<string, { supplier: number; mode: number; goods: number }>();
  const packsOf = new Map<number, number>();
  for (const { offer, mode, packs } of buys) {
    const spec = problem.offers[offer];
    if (!spec || packs <= 0) continue;
    packsOf.set(offer, (packsOf.get(offer) ?? 0) + packs);
    const key = pairName(spec.supplier, mode);
    const order = orders.get(key) ?? { supplier: spec.supplier, mode, goods: 0 };
    order.goods += packs * spec.price;
    orders.set(key, order);
  }
  for (const [offer, packs] of packsOf)
    if (packs > (problem.offers[offer]?.stock ?? 0)) faults.push({ kind: 'stock', index: offer });
  const modesUsed = new Map<number, number>();
  let shipping = 0;
  let goods = 0;
  for (const order of orders.values()) {
    const supplier = problem.suppliers[order.supplier];
    const mode = supplier?.modes[order.mode];
    goods += order.goods;
    modesUsed.set(order.supplier, (modesUsed.get(order.supplier) ?? 0) + 1);
    if (order.goods < (supplier?.minimumOrder ?? 0)) faults.push({ kind: 'minimum', index: order.supplier });
    if (mode && (mode.freeOver === null || order.goods < mode.freeOver)) shipping += mode.fee;
  }
  if (problem.oneMode)
    for (const [supplier, count] of modesUsed) if (count > 1) faults.push({ kind: 'one-mode', index: supplier });

  const used = new Map<string, number>();
  const lateBy = new Map<number, number>();
  let adaptation = 0;
  let skipped = 0;
  problem.requirements.forEach((requirement, index) => {
    const own = gives.filter((give) => give.requirement === index && give.units > 0);
    const parts = new Set(own.map((give) => give.part));
    if (own.length === 0 && requirement.skip !== undefined) skipped += requirement.skip;
    else if (own.reduce((sum, give) => sum + give.units, 0) < requirement.quantity)
      faults.push({ kind: 'not-met', index: index });
    if (parts.size > 1) faults.push({ kind: 'mixed-parts', index: index });
    for (const part of parts) {
      const alternative = requirement.alternatives.find((candidate) => candidate.part === part);
      if (!alternative) faults.push({ kind: 'unknown-part', index: index });
      adaptation += alternative?.adaptation ?? 0;
    }
    for (const give of own) {
      if (requirement.notFrom !== undefined && problem.offers[give.offer]?.supplier === requirement.notFrom)
        faults.push({ kind: 'unknown-part', index });
      const key = `${give.offer} ${give.mode} ${give.part}`;
      used.set(key, (used.get(key) ?? 0) + give.units);
      const late = arrivalDay(problem, give.offer, give.mode) - (problem.jobs[requirement.job]?.needBy ?? 0);
      lateBy.set(requirement.job, Math.max(lateBy.get(requirement.job) ?? 0, late));
    }
  });
  for (const [key, units] of used) {
    const [offer = -1, mode = -1, part = -1] = key.split(' ').map(Number);
    const bought = buys
      .filter((buy) => buy.offer === offer && buy.mode === mode)
      .reduce((sum, buy) => sum + buy.packs, 0);
    const content = problem.offers[offer]?.contents.find((entry) => entry.part === part)?.quantity ?? 0;
    if (units > bought * content) faults.push({ kind: 'units', index: offer });
  }
  let lateness = 0;
  for (const [job, late] of lateBy) lateness += Math.max(0, late) * (problem.jobs[job]?.latePerDay ?? 0);
  return { totals: { goods, shipping, adaptation, lateness, skipped }, faults };
}
