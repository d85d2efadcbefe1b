import { arrivalDay, type Buy, type Give, type OrderProblem } from './problem';
import type { MilpModel } from './solver';

/** What each column of the programme means. */
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
  /** Reads a point back as a plan. */
  read: (values: readonly number[]) => { buys: Buy[]; gives: Give[]; missed: number[] };
  /** Writes a plan as a point, for the warm start. */
  write: (buys: readonly Buy[], gives: readonly Give[]) => number[];
};

/**
 * The order problem as an integer programme. Columns: packs per offer and mode; an order per supplier and mode; its fee waived; the alternative
 * each requirement takes; units given; lateness of a job by steps. With `elastic`, a requirement may be missed at a price above everything else.
 */
export function formulate(problem: OrderProblem, elastic = false): Formulation {
  const cost: number[] = [];
  const upper: number[] = [];
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

  problem.suppliers.forEach((supplier, s) => {
    const offers = problem.offers
      .map((offer, index) => ({ offer, at: index }))
      .filter(({ offer }) => offer.supplier === s && offer.stock > 0);
    const orders: [number, number][] = [];
    supplier.modes.forEach((mode, m) => {
      const order = column(mode.fee, 1);
      columns.order.set(`${s} ${m}`, order);
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
        if (bound <= 0) continue;
        const packs = column(offer.price, bound);
        columns.packs.set(`${index} ${m}`, packs);
        goods.push([packs, offer.price]);
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
        columns.free.set(`${s} ${m}`, free);
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
    if (problem.oneMode) row(orders, -Infinity, 1);
    for (const { offer, at: index } of offers) {
      const packs = supplier.modes.flatMap((_, m): [number, number][] => {
        const found = columns.packs.get(`${index} ${m}`);
        return found === undefined ? [] : [[found, 1]];
      });
      if (packs.length > 1) row(packs, -Infinity, offer.stock);
    }
  });

  const penalty = elastic ? missPenalty(problem) : 0;
  const from = new Map<string, [number, number][]>();
  problem.requirements.forEach((requirement, r) => {
    const choices: [number, number][] = [];
    const byLateness = new Map<number, [number, number][]>();
    for (const { part, adaptation } of requirement.alternatives) {
      const alternative = column(adaptation, 1);
      columns.alternative.set(`${r} ${part}`, alternative);
      choices.push([alternative, 1]);
      const given: [number, number][] = [[alternative, -requirement.quantity]];
      problem.offers.forEach((offer, index) => {
        if (!offer.contents.some((content) => content.part === part)) return;
        problem.suppliers[offer.supplier]?.modes.forEach((_, m) => {
          if (!columns.packs.has(`${index} ${m}`)) return;
          const units = column(0, requirement.quantity);
          columns.units.set(`${r} ${part} ${index} ${m}`, {
            column: units,
            give: { requirement: r, part, offer: index, mode: m },
          });
          given.push([units, 1]);
          const key = `${index} ${m} ${part}`;
          from.set(key, [...(from.get(key) ?? []), [units, 1]]);
          const order = columns.order.get(`${offer.supplier} ${m}`);
          if (order !== undefined)
            row(
              [
                [units, 1],
                [order, -requirement.quantity],
              ],
              -Infinity,
              0,
            );
          const late = arrivalDay(problem, index, m) - (problem.jobs[requirement.job]?.needBy ?? 0);
          if (late > 0) byLateness.set(late, [...(byLateness.get(late) ?? []), [units, 1]]);
        });
      });
      row(given, 0, 0);
    }
    if (elastic) {
      const miss = column(penalty, 1);
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
    if (packs !== undefined) row([...units, [packs, -content]], -Infinity, 0);
  }
  addLateness(problem, columns, column, row);

  return {
    model: { cost, upper, rows },
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
        index !== undefined && Math.round(values[index] ?? 0) > 0 ? [r] : [],
      ),
    }),
    write: (buys, gives) => writePoint(problem, columns, cost.length, buys, gives),
  };
}

const missPenalty = (problem: OrderProblem): number =>
  1 +
  problem.offers.reduce((sum, offer) => sum + offer.price * Math.min(offer.stock, 1000), 0) +
  problem.suppliers.reduce((sum, supplier) => sum + supplier.modes.reduce((fees, mode) => fees + mode.fee, 0), 0) +
  problem.jobs.reduce((sum, job) => sum + job.latePerDay * 120, 0);

/** late[job, step] = 1: the job is late by at least `step` days. Each step costs the days since the step below it. */
function addLateness(
  problem: OrderProblem,
  columns: Columns,
  column: (price: number, bound: number) => number,
  row: (terms: readonly (readonly [number, number])[], lower: number, upper: number) => void,
) {
  problem.jobs.forEach((job, j) => {
    const steps = [...columns.late.keys()]
      .filter((key) => key.startsWith(`${j} `))
      .map((key) => Number(key.split(' ')[1]))
      .sort((a, b) => a - b);
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
      problem.requirements.forEach((requirement, r) => {
        if (requirement.job !== j) return;
        const units = [...columns.units.values()].filter(
          ({ give }) => give.requirement === r && arrivalDay(problem, give.offer, give.mode) - job.needBy >= step,
        );
        if (units.length)
          row(
            [...units.map(({ column: index }): [number, number] => [index, 1]), [late, -requirement.quantity]],
            -Infinity,
            0,
          );
      });
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
  const put = (at: number | undefined, value: number) => {
    if (at !== undefined && at >= 0) point[at] = value;
  };
  const goods = new Map<string, number>();
  for (const { offer, mode, packs } of buys) {
    const spec = problem.offers[offer];
    if (!spec) continue;
    put(columns.packs.get(`${offer} ${mode}`), packs);
    const key = `${spec.supplier} ${mode}`;
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
    for (const [key, column] of columns.late) {
      const [j = -1, step = Infinity] = key.split(' ').map(Number);
      if (j === job && late >= step) put(column, 1);
    }
  }
  return point;
}
