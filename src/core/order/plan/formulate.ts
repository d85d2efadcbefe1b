import { arrivalDay, offersWith, pairName, type Buy, type Give, type OrderProblem } from './problem';
import { groupBy, sum } from '../../units';
import { judged, type HeuristicPlan } from './heuristic';
import type { MilpModel, MilpResult } from './solver';

/** What each column of the programme means. */
export type Limits = {
  /** Requirements may be missed at a price above everything else: to find those that cannot be met together. */
  elastic?: boolean;
  /** Whether a requirement may be given units so; everything where it is missing. */
  allows?: (requirement: number, part: number, offer: number, mode: number) => boolean;
  /** What a plan buys that the programme is to begin at: it may be bought whatever it is for. */
  keep?: readonly Buy[];
  /** Whether anything may be bought from a supplier in a mode. */
  opens?: (supplier: number, mode: number) => boolean;
  /** Of these orders, by name of their pair, all are placed, whether anything is bought with them or not; of those of `waived`, and no others, the fee is waived. */
  placed?: ReadonlySet<string>;
  waived?: ReadonlySet<string>;
};

type Columns = {
  packs: Map<string, number>;
  order: Map<string, number>;
  free: Map<string, number>;
  alternative: Map<string, number>;
  units: Map<string, { column: number; give: Omit<Give, 'units'> }>;
  late: Map<string, number>;
  miss: number[];
};

export type Formulation = {
  model: MilpModel;
  /** Each way of giving units to a requirement, with its column and all that are at least one with it: its packs, their order, its number, how late it makes the job. */
  ways: readonly (Omit<Give, 'units'> & { column: number; forces: readonly number[] })[];
  /** By name of a pair of supplier and mode, the column of its order, and that of its fee waived. */
  orders: ReadonlyMap<string, number>;
  fees: ReadonlyMap<string, number>;
  /** Reads a point back as a plan. */
  read: (values: readonly number[]) => { buys: Buy[]; gives: Give[]; missed: number[] };
  /** Writes a plan as a point, for the warm start. */
  write: (buys: readonly Buy[], gives: readonly Give[]) => number[];
};

/**
 * The order problem as an integer programme. Columns: packs per offer and mode; an order per supplier and mode; its fee waived; the alternative
 * each requirement takes; units given; lateness of a job by steps; what is left for later. `limits`: a part of it, for looking around a plan.
 */
export function formulate(
  problem: OrderProblem,
  {
    elastic = false,
    allows = () => true,
    opens = () => true,
    keep = [],
    placed = new Set(),
    waived = new Set(),
  }: Limits = {},
): Formulation {
  const cost: number[] = [];
  const upper: number[] = [];
  const lower = new Map<number, number>();
  const rows: MilpModel['rows'] = [];
  const columns: Columns = {
    packs: new Map(),
    order: new Map(),
    free: new Map(),
    alternative: new Map(),
    units: new Map(),
    late: new Map(),
    miss: [],
  };
  const column = (price: number, bound: number): number => {
    upper.push(bound);
    return cost.push(price) - 1;
  };
  const row = (terms: readonly (readonly [number, number])[], lower: number, upperBound: number) => {
    rows.push({
      columns: terms.map(([index]) => index),
      values: terms.map(([, value]) => value),
      lower,
      upper: upperBound,
    });
  };
  const wanted = new Map<number, number>();
  for (const requirement of problem.requirements)
    for (const { part } of requirement.alternatives) wanted.set(part, (wanted.get(part) ?? 0) + requirement.quantity);

  const isWorthAColumn = columnsWorth(problem, { allows, opens, keep });
  problem.suppliers.forEach((supplier, s) => {
    const offers = problem.offers
      .map((offer, index) => ({ offer, at: index }))
      .filter(({ offer }) => offer.supplier === s && offer.stock > 0);
    const orders: [number, number][] = [];
    supplier.modes.forEach((mode, m) => {
      if (!opens(s, m)) return;
      const order = column(mode.fee, 1);
      columns.order.set(pairName(s, m), order);
      if (placed.has(pairName(s, m))) lower.set(order, 1);
      orders.push([order, 1]);
      const goods: [number, number][] = [];
      for (const { offer, at: index } of offers) {
        const threshold = Math.max(supplier.minimumOrder, mode.freeOver ?? 0);
        const useful = Math.max(
          ...offer.contents.map((content) =>
            Math.ceil((wanted.get(content.part) ?? 0) / Math.max(1, content.quantity)),
          ),
          0,
        );
        const bound = Math.min(offer.stock, useful + (offer.price > 0 ? Math.ceil(threshold / offer.price) : 0));
        if (bound <= 0 || !isWorthAColumn(index, m)) continue;
        const packs = column(offer.price, bound);
        columns.packs.set(`${index} ${m}`, packs);
        goods.push([packs, offer.price]);
        // What costs something is bought for its units, which need the order, or for its threshold, which does; only a gift would be taken without.
        if (offer.price === 0)
          row(
            [
              [packs, 1],
              [order, -bound],
            ],
            -Infinity,
            0,
          );
      }
      if (supplier.minimumOrder > 0) row([...goods, [order, -supplier.minimumOrder]], 0, Infinity);
      if (mode.freeOver !== null && mode.fee > 0) {
        const free = column(-mode.fee, 1);
        columns.free.set(pairName(s, m), free);
        if (waived.has(pairName(s, m))) lower.set(free, 1);
        else if (placed.has(pairName(s, m))) upper[free] = 0;
        row(
          [
            [free, 1],
            [order, -1],
          ],
          -Infinity,
          0,
        );
        row([...goods, [free, -mode.freeOver]], 0, Infinity);
      }
    });
    if (problem.oneMode && orders.length > 1) row(orders, -Infinity, 1);
    for (const { offer, at: index } of offers) {
      const packs = supplier.modes.flatMap((_, m): [number, number][] => {
        const found = columns.packs.get(`${index} ${m}`);
        return found === undefined ? [] : [[found, 1]];
      });
      const most = sum(packs.map(([column]) => upper[column] ?? 0));
      if (packs.length > 1 && most > offer.stock) row(packs, -Infinity, offer.stock);
    }
  });

  const penalty = elastic ? missPenalty(problem) : 0;
  const from = new Map<string, [number, number][]>();
  problem.requirements.forEach((requirement, r) => {
    const choices: [number, number][] = [];
    const byLateness = new Map<number, [number, number][]>();
    const byOrder = new Map<number, [number, number][]>();
    for (const { part, adaptation } of requirement.alternatives) {
      const alternative = column(adaptation, 1);
      columns.alternative.set(`${r} ${part}`, alternative);
      choices.push([alternative, 1]);
      const given: [number, number][] = [[alternative, -requirement.quantity]];
      for (const index of offersWith(problem, part)) {
        const offer = problem.offers[index];
        const modes = problem.suppliers[offer?.supplier ?? -1]?.modes ?? [];
        for (const m of modes.keys()) {
          if (!offer || offer.supplier === requirement.notFrom) continue;
          if (!columns.packs.has(`${index} ${m}`) || !allows(r, part, index, m)) continue;
          const units = column(0, requirement.quantity);
          columns.units.set(`${r} ${part} ${index} ${m}`, {
            column: units,
            give: { requirement: r, part, offer: index, mode: m },
          });
          given.push([units, 1]);
          const key = `${index} ${m} ${part}`;
          from.set(key, [...(from.get(key) ?? []), [units, 1]]);
          const order = columns.order.get(pairName(offer.supplier, m));
          if (order !== undefined) byOrder.set(order, [...(byOrder.get(order) ?? []), [units, 1]]);
          const late = arrivalDay(problem, index, m) - (problem.jobs[requirement.job]?.needBy ?? 0);
          if (late > 0) byLateness.set(late, [...(byLateness.get(late) ?? []), [units, 1]]);
        }
      }
      row(given, 0, 0);
    }
    // A requirement gets no more than it wants from one order, whichever of its numbers.
    for (const [order, units] of byOrder) row([...units, [order, -requirement.quantity]], -Infinity, 0);
    if (elastic || requirement.skip !== undefined) {
      const miss = column(requirement.skip ?? penalty, 1);
      columns.miss[r] = miss;
      choices.push([miss, 1]);
    }
    row(choices, 1, 1);
    for (const step of byLateness.keys()) {
      const key = `${requirement.job} ${step}`;
      if (!columns.late.has(key)) columns.late.set(key, -1);
    }
  });
  for (const [key, units] of from) {
    const [index = -1, m = -1, part = -1] = key.split(' ').map(Number);
    const packs = columns.packs.get(`${index} ${m}`);
    const content = problem.offers[index]?.contents.find((entry) => entry.part === part)?.quantity ?? 0;
    if (packs === undefined) continue;
    row([...units, [packs, -content]], -Infinity, 0);
  }
  coverPacks(problem, columns, row);
  addLateness(problem, columns, column, row);

  return {
    model: { cost, lower: cost.map((_, index) => lower.get(index) ?? 0), upper, rows },
    ways: waysOf(problem, columns),
    orders: columns.order,
    fees: columns.free,
    read: (values) => ({
      buys: [...columns.packs].flatMap(([key, index]) => {
        const [offer = -1, mode = -1] = key.split(' ').map(Number);
        const packs = Math.round(values[index] ?? 0);
        return packs > 0 ? [{ offer, mode, packs }] : [];
      }),
      gives: [...columns.units.values()].flatMap(({ column: index, give }) => {
        const units = Math.round(values[index] ?? 0);
        return units > 0 ? [{ ...give, units }] : [];
      }),
      missed: columns.miss.flatMap((index, r) =>
        index !== undefined && problem.requirements[r]?.skip === undefined && Math.round(values[index] ?? 0) > 0
          ? [r]
          : [],
      ),
    }),
    write: (buys, gives) => {
      const point = writePoint(problem, columns, cost.length, buys, gives);
      for (const [index, least] of lower) point[index] = least;
      return point;
    },
  };
}

/** The plan that a solved programme says; null where it has no point, or one that cannot be carried out. */
export function planIn(problem: OrderProblem, { read }: Formulation, { values }: MilpResult): HeuristicPlan | null {
  if (values.length === 0) return null;
  const { buys, gives } = read(values);
  return judged(problem, buys, gives);
}

function waysOf(problem: OrderProblem, { units, packs, order, alternative, late }: Columns): Formulation['ways'] {
  const stepsOf = groupBy(late, ([key]) => Number(key.split(' ')[0]));
  return [...units.values()].map(({ column, give }) => {
    const { requirement, part, offer, mode } = give;
    const job = problem.requirements[requirement]?.job ?? -1;
    const lateBy = arrivalDay(problem, offer, mode) - (problem.jobs[job]?.needBy ?? 0);
    const forces = [
      column,
      packs.get(`${offer} ${mode}`) ?? -1,
      order.get(pairName(problem.offers[offer]?.supplier ?? -1, mode)) ?? -1,
      alternative.get(`${requirement} ${part}`) ?? -1,
      ...(stepsOf.get(job) ?? []).flatMap(([key, step]) => (Number(key.split(' ')[1]) <= lateBy ? [step] : [])),
    ];
    return { ...give, column, forces: forces.filter((index) => index >= 0) };
  });
}

/** Up to so many columns of packs everything may fill an order up to a threshold; beyond, only so many of a supplier: the cheapest, which overshoot least. */
const ALL_FILL = 600;
const MOST_FILLERS = 8;

/** Whether packs of an offer may be bought in a mode: for units that are allowed, as a plan does that is begun at, or to fill an order up. */
function columnsWorth(
  problem: OrderProblem,
  { allows, opens, keep }: Required<Pick<Limits, 'allows' | 'opens' | 'keep'>>,
): (offer: number, mode: number) => boolean {
  const modesOf = (offer: number) => problem.suppliers[problem.offers[offer]?.supplier ?? -1]?.modes ?? [];
  const all = sum(problem.offers.map((_, offer) => modesOf(offer).length));
  if (all <= ALL_FILL) return () => true;
  const wanted = new Set(keep.map(({ offer, mode }) => `${offer} ${mode}`));
  for (const [r, { alternatives }] of problem.requirements.entries())
    for (const { part } of alternatives)
      for (const offer of offersWith(problem, part))
        for (const mode of modesOf(offer).keys())
          if (opens(problem.offers[offer]?.supplier ?? -1, mode) && allows(r, part, offer, mode))
            wanted.add(`${offer} ${mode}`);
  const fillers = new Set(
    [...groupBy(problem.offers.keys(), (offer) => problem.offers[offer]?.supplier ?? -1).values()].flatMap((offers) =>
      offers
        .filter((offer) => (problem.offers[offer]?.stock ?? 0) > 0)
        .sort((a, b) => (problem.offers[a]?.price ?? 0) - (problem.offers[b]?.price ?? 0))
        .slice(0, MOST_FILLERS),
    ),
  );
  return (offer, mode) => wanted.has(`${offer} ${mode}`) || fillers.has(offer);
}

const missPenalty = (problem: OrderProblem): number =>
  1 +
  problem.offers.reduce((sum, offer) => sum + offer.price * Math.min(offer.stock, 1000), 0) +
  problem.suppliers.reduce((sum, supplier) => sum + supplier.modes.reduce((fees, mode) => fees + mode.fee, 0), 0) +
  problem.jobs.reduce((sum, job) => sum + job.latePerDay * 120, 0);

/**
 * Packs are whole: who takes two of a pack of ten pays the pack. Of each way by itself (a mixed-integer rounding of units ≤ content × packs, units ≤ quantity), which broken packs would
 * get round.
 */
function coverPacks(
  problem: OrderProblem,
  columns: Columns,
  row: (terms: readonly (readonly [number, number])[], lower: number, upper: number) => void,
) {
  for (const { column: units, give } of columns.units.values()) {
    const packs = columns.packs.get(`${give.offer} ${give.mode}`);
    const content = problem.offers[give.offer]?.contents.find(({ part }) => part === give.part)?.quantity ?? 0;
    const wanted = problem.requirements[give.requirement]?.quantity ?? 0;
    const rest = wanted % content;
    if (packs === undefined || rest === 0) continue;
    row(
      [
        [units, 1],
        [packs, -rest],
      ],
      -Infinity,
      (content - rest) * Math.floor(wanted / content),
    );
  }
}

/** late[job, step] = 1: the job is late by at least `step` days. Each step costs the days since the step below it. */
function addLateness(
  problem: OrderProblem,
  columns: Columns,
  column: (price: number, bound: number) => number,
  row: (terms: readonly (readonly [number, number])[], lower: number, upper: number) => void,
) {
  const unitsOf = groupBy(columns.units.values(), ({ give }) => give.requirement);
  const ofJob = groupBy(problem.requirements.keys(), (r) => problem.requirements[r]?.job ?? -1);
  const stepsOf = groupBy(
    [...columns.late.keys()].map((key) => key.split(' ').map(Number)),
    ([j = -1]) => j,
  );
  problem.jobs.forEach((job, j) => {
    const steps = (stepsOf.get(j) ?? []).map(([, step = 0]) => step).sort((a, b) => a - b);
    let below = 0;
    let previous: number | null = null;
    for (const step of steps) {
      const late = column((step - below) * job.latePerDay, 1);
      columns.late.set(`${j} ${step}`, late);
      if (previous !== null)
        row(
          [
            [late, 1],
            [previous, -1],
          ],
          -Infinity,
          0,
        );
      for (const r of ofJob.get(j) ?? []) {
        const requirement = problem.requirements[r];
        const units = (unitsOf.get(r) ?? []).filter(
          ({ give }) => arrivalDay(problem, give.offer, give.mode) - job.needBy >= step,
        );
        if (!requirement) continue;
        if (units.length)
          row(
            [...units.map(({ column: index }): [number, number] => [index, 1]), [late, -requirement.quantity]],
            -Infinity,
            0,
          );
      }
      below = step;
      previous = late;
    }
  });
}

function writePoint(
  problem: OrderProblem,
  columns: Columns,
  size: number,
  buys: readonly Buy[],
  gives: readonly Give[],
): number[] {
  const point = new Array<number>(size).fill(0);
  const given = new Set(gives.map(({ requirement }) => requirement));
  const lateOf = groupBy(columns.late, ([key]) => Number(key.split(' ')[0]));
  const put = (at: number | undefined, value: number) => {
    if (at !== undefined && at >= 0) point[at] = value;
  };
  columns.miss.forEach((index, r) => {
    if (!given.has(r)) put(index, 1);
  });
  const goods = new Map<string, number>();
  for (const { offer, mode, packs } of buys) {
    const spec = problem.offers[offer];
    if (!spec) continue;
    put(columns.packs.get(`${offer} ${mode}`), packs);
    const key = pairName(spec.supplier, mode);
    put(columns.order.get(key), 1);
    goods.set(key, (goods.get(key) ?? 0) + packs * spec.price);
  }
  for (const [key, sum] of goods) {
    const [s = -1, m = -1] = key.split(' ').map(Number);
    const over = problem.suppliers[s]?.modes[m]?.freeOver;
    if (over !== null && over !== undefined && sum >= over) put(columns.free.get(key), 1);
  }
  for (const give of gives) {
    put(columns.alternative.get(`${give.requirement} ${give.part}`), 1);
    const at = columns.units.get(`${give.requirement} ${give.part} ${give.offer} ${give.mode}`)?.column;
    if (at !== undefined) point[at] = (point[at] ?? 0) + give.units;
    const job = problem.requirements[give.requirement]?.job ?? -1;
    const late = arrivalDay(problem, give.offer, give.mode) - (problem.jobs[job]?.needBy ?? 0);
    for (const [key, column] of lateOf.get(job) ?? []) if (late >= Number(key.split(' ')[1])) put(column, 1);
  }
  return point;
}
