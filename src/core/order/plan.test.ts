import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import {
  defined,
  money,
  seededRandom,
  addDays,
  arrivalDate,
  asDay,
  asInstant,
  isoWeekday,
  type LocalDate,
  USUAL_SHIPPING,
  type PartId,
  type TicketId,
  asId,
  type RequirementId,
} from '../units';
import { SHELF, withStock } from '../stock';
import { formulate } from './plan/formulate';
import { anneal } from './plan/anneal';
import { heuristicPlan } from './plan/heuristic';
import { improve } from './plan/improve';
import { arrivalDay } from './plan/problem';
import {
  createHighsSolver,
  evaluate,
  aspectsOf,
  explainAspect,
  withWishes,
  type Wish,
  InfeasibleOrder,
  planCost,
  planOrder,
  planPurchases,
  type MilpSolver,
  type OrderProblem,
} from '.';

let solver: MilpSolver;
beforeAll(async () => {
  solver = await createHighsSolver();
});

const clock = () => performance.now();
const options = { budgetMs: 10_000, clock };

/** A small market: a few requirements, parts, suppliers with thresholds and two speeds, packs and kits. */
function makeProblem(
  seed: number,
  size: { requirements: number; suppliers: number; offersEach: number },
): OrderProblem {
  const random = seededRandom(seed);
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const parts = size.requirements + 1;
  return {
    oneMode: random() < 0.3,
    jobs: Array.from({ length: Math.max(1, size.requirements - 1) }, () => ({
      needBy: whole(1, 5),
      latePerDay: whole(0, 600),
    })),
    requirements: Array.from({ length: size.requirements }, (_, index) => ({
      job: index % Math.max(1, size.requirements - 1),
      quantity: whole(1, 2),
      alternatives: [
        { part: index, adaptation: 0 },
        ...(random() < 0.4 ? [{ part: parts - 1, adaptation: whole(0, 500) }] : []),
      ],
    })),
    suppliers: Array.from({ length: size.suppliers }, () => ({
      minimumOrder: random() < 0.4 ? whole(500, 2500) : 0,
      modes: [
        { fee: whole(300, 900), freeOver: random() < 0.5 ? whole(2000, 6000) : null, transit: whole(2, 4) },
        ...(random() < 0.6 ? [{ fee: whole(900, 1800), freeOver: null, transit: 1 }] : []),
      ],
    })),
    offers: Array.from({ length: size.suppliers }, (_, supplier) =>
      Array.from({ length: size.offersEach }, () => ({
        supplier,
        price: whole(200, 3000),
        contents:
          random() < 0.2
            ? [
                { part: whole(0, parts - 1), quantity: 1 },
                { part: whole(0, parts - 1), quantity: 1 },
              ].filter((entry, index, all) => all.findIndex((other) => other.part === entry.part) === index)
            : [{ part: whole(0, parts - 1), quantity: whole(1, 2) }],
        stock: whole(0, 3),
        handling: whole(0, 2),
      })),
    ).flat(),
  };
}

/** The optimum by trying all numbers of packs in all modes, and for each the best hand-out of units. Infinity when nothing works. */
function bruteForce(problem: OrderProblem): number {
  const columns = problem.offers.flatMap((offer, index) =>
    (problem.suppliers[offer.supplier]?.modes ?? []).map((_, mode) => ({ offer: index, mode, stock: offer.stock })),
  );
  let best = Infinity;
  const packs = columns.map(() => 0);
  const tryPacks = (index: number) => {
    if (index === columns.length) {
      best = Math.min(
        best,
        cheapestHandOut(
          problem,
          columns.map((column, i) => ({ ...column, packs: packs[i] ?? 0 })).filter((buy) => buy.packs > 0),
          best,
        ),
      );
      return;
    }
    for (let count = 0; count <= (columns[index]?.stock ?? 0); count += 1) {
      packs[index] = count;
      tryPacks(index + 1);
    }
    packs[index] = 0;
  };
  tryPacks(0);
  return best;
}

function cheapestHandOut(
  problem: OrderProblem,
  buys: { offer: number; mode: number; packs: number }[],
  bound: number,
): number {
  const bare = evaluate(problem, buys, []);
  if (bare.faults.some((fault) => ['stock', 'minimum', 'one-mode'].includes(fault.kind))) return Infinity;
  const fixed = bare.totals.goods + bare.totals.shipping;
  if (fixed >= bound) return Infinity;
  const left = new Map<string, number>();
  for (const buy of buys)
    for (const content of problem.offers[buy.offer]?.contents ?? [])
      left.set(
        `${buy.offer} ${buy.mode} ${content.part}`,
        (left.get(`${buy.offer} ${buy.mode} ${content.part}`) ?? 0) + content.quantity * buy.packs,
      );
  let best = Infinity;
  const give = (requirement: number, late: readonly number[], adaptation: number) => {
    const wanted = problem.requirements[requirement];
    if (!wanted) {
      const lateness = late.reduce((sum, days, job) => sum + days * (problem.jobs[job]?.latePerDay ?? 0), 0);
      best = Math.min(best, fixed + adaptation + lateness);
      return;
    }
    if (wanted.skip !== undefined) give(requirement + 1, late, adaptation + wanted.skip);
    for (const alternative of wanted.alternatives) {
      const sources = [...left]
        .filter(([key, units]) => units > 0 && Number(key.split(' ')[2]) === alternative.part)
        .filter(([key]) => problem.offers[Number(key.split(' ')[0])]?.supplier !== wanted.notFrom)
        .map(([key]) => key);
      const take = (missing: number, from: number, latest: readonly number[]) => {
        if (missing === 0) return give(requirement + 1, latest, adaptation + alternative.adaptation);
        for (let s = from; s < sources.length; s += 1) {
          const key = sources[s] ?? '';
          const units = left.get(key) ?? 0;
          if (units === 0) continue;
          const [offer = -1, mode = -1] = key.split(' ').map(Number);
          const days = Math.max(0, arrivalDay(problem, offer, mode) - (problem.jobs[wanted.job]?.needBy ?? 0));
          left.set(key, units - 1);
          take(
            missing - 1,
            s,
            latest.map((value, job) => (job === wanted.job ? Math.max(value, days) : value)),
          );
          left.set(key, units);
        }
      };
      take(wanted.quantity, 0, late);
    }
  };
  give(
    0,
    problem.jobs.map(() => 0),
    0,
  );
  return best;
}

describe('the order plan', () => {
  it('equals trying everything, on small markets', async () => {
    let feasible = 0;
    let impossible = 0;
    for (let seed = 1; seed <= 30; seed += 1) {
      const problem = makeProblem(seed * 104729, { requirements: 2 + (seed % 2), suppliers: 2, offersEach: 2 });
      const expected = bruteForce(problem);
      if (expected === Infinity) {
        await expect(planOrder(problem, solver, options), `seed ${seed}`).rejects.toBeInstanceOf(InfeasibleOrder);
        impossible += 1;
        continue;
      }
      const plan = await planOrder(problem, solver, options);
      expect(planCost(plan), `seed ${seed}`).toBe(expected);
      expect(plan.provenGap).toBe(0);
      feasible += 1;
    }
    expect(feasible).toBeGreaterThan(4);
    expect(impossible).toBeGreaterThan(4);
  });

  it('buys what may be left for later exactly where that pays, and not from where it must not', async () => {
    let bought = 0;
    let left = 0;
    for (let seed = 1; seed <= 50; seed += 1) {
      const random = seededRandom(seed * 77);
      const drawn = makeProblem(seed * 32452843, { requirements: 2, suppliers: 2, offersEach: 2 });
      const problem: OrderProblem = {
        ...drawn,
        requirements: drawn.requirements.map((requirement, index) =>
          index < 1
            ? { ...requirement, skip: Math.round(random() * 4000), ...(random() < 0.3 ? { notFrom: 0 } : {}) }
            : requirement,
        ),
      };
      const expected = bruteForce(problem);
      if (expected === Infinity) continue;
      const plan = await planOrder(problem, solver, options);
      expect(planCost(plan), `seed ${seed}`).toBe(expected);
      const own = plan.gives.filter(({ requirement }) => requirement === 0);
      if (own.length) bought += 1;
      else left += 1;
      expect(own.every(({ offer }) => drawn.offers[offer]?.supplier !== problem.requirements[0]?.notFrom)).toBe(true);
    }
    expect(bought).toBeGreaterThan(5);
    expect(left).toBeGreaterThan(5);
  });

  it('annealing and looking around never make a plan worse, and leave one that can be carried out', () => {
    let better = 0;
    for (let seed = 1; seed <= 14; seed += 1) {
      const problem = makeProblem(seed * 49979687, { requirements: 9, suppliers: 4, offersEach: 14 });
      const quick = heuristicPlan(problem, { clock, budgetMs: 200 });
      if (!quick) continue;
      const cooled = anneal(quick, problem, { clock, deadline: clock() + 120 });
      const { plan: looked } = improve(cooled, { problem, solver, clock, deadline: clock() + 150 });
      for (const plan of [cooled, looked]) {
        const { totals, faults } = evaluate(problem, plan.buys, plan.gives);
        expect(faults, `seed ${seed}`).toEqual([]);
        expect(planCost(totals)).toBe(planCost(plan));
      }
      expect(planCost(cooled)).toBeLessThanOrEqual(planCost(quick));
      expect(planCost(looked)).toBeLessThanOrEqual(planCost(cooled));
      if (planCost(looked) < planCost(quick)) better += 1;
    }
    expect(better).toBeGreaterThan(1);
  });

  it('is feasible, its totals are those of its lines, and it is never dearer than the heuristic', async () => {
    let tested = 0;
    for (let seed = 1; seed <= 12; seed += 1) {
      const problem = makeProblem(seed * 15485863, { requirements: 6, suppliers: 4, offersEach: 9 });
      const quick = heuristicPlan(problem, { clock, budgetMs: 500 });
      let plan;
      try {
        plan = await planOrder(problem, solver, { ...options, budgetMs: 3000 });
      } catch (error) {
        expect(error).toBeInstanceOf(InfeasibleOrder);
        continue;
      }
      const { totals, faults } = evaluate(problem, plan.buys, plan.gives);
      expect(faults, `seed ${seed}`).toEqual([]);
      expect(plan).toMatchObject(totals);
      if (quick) expect(planCost(plan)).toBeLessThanOrEqual(planCost(quick));
      tested += 1;
    }
    expect(tested).toBeGreaterThan(3);
  });

  it('writes a plan as a point of the programme that meets every row, and reads it back', () => {
    let tested = 0;
    for (let seed = 1; seed <= 25; seed += 1) {
      const problem = makeProblem(seed * 32452843, { requirements: 4, suppliers: 3, offersEach: 6 });
      const quick = heuristicPlan(problem, { clock, budgetMs: 300 });
      if (!quick) continue;
      const { model, read, write } = formulate(problem);
      const point = write(quick.buys, quick.gives);
      for (const row of model.rows) {
        const value = row.columns.reduce(
          (sum, column, index) => sum + (point[column] ?? 0) * (row.values[index] ?? 0),
          0,
        );
        expect(value, `seed ${seed}`).toBeGreaterThanOrEqual(row.lower - 1e-9);
        expect(value, `seed ${seed}`).toBeLessThanOrEqual(row.upper + 1e-9);
      }
      const cost = model.cost.reduce((sum, price, column) => sum + price * (point[column] ?? 0), 0);
      expect(cost).toBe(planCost(quick));
      const back = read(point);
      expect(planCost(evaluate(problem, back.buys, back.gives).totals)).toBe(planCost(quick));
      tested += 1;
    }
    expect(tested).toBeGreaterThan(5);
  });

  it('has no point for more packs than there are, spread over two modes', () => {
    const problem: OrderProblem = {
      oneMode: false,
      jobs: [{ needBy: 9, latePerDay: 0 }],
      requirements: [{ job: 0, quantity: 2, alternatives: [{ part: 0, adaptation: 0 }] }],
      suppliers: [
        {
          minimumOrder: 0,
          modes: [
            { fee: 1, freeOver: null, transit: 1 },
            { fee: 2, freeOver: null, transit: 2 },
          ],
        },
      ],
      offers: [{ supplier: 0, price: 100, contents: [{ part: 0, quantity: 1 }], stock: 1, handling: 0 }],
    };
    const { model, write } = formulate(problem);
    const point = write(
      [0, 1].map((mode) => ({ offer: 0, mode, packs: 1 })),
      [0, 1].map((mode) => ({ requirement: 0, part: 0, offer: 0, mode, units: 1 })),
    );
    const broken = model.rows.filter((row) => {
      const value = row.columns.reduce(
        (sum, column, index) => sum + (point[column] ?? 0) * (row.values[index] ?? 0),
        0,
      );
      return value < row.lower - 1e-9 || value > row.upper + 1e-9;
    });
    expect(broken).toHaveLength(1);
  });

  it('finds every fault in a bad plan', () => {
    const problem: OrderProblem = {
      oneMode: true,
      jobs: [{ needBy: 1, latePerDay: 100 }],
      requirements: [
        {
          job: 0,
          quantity: 2,
          alternatives: [
            { part: 0, adaptation: 0 },
            { part: 1, adaptation: 30 },
          ],
        },
      ],
      suppliers: [
        {
          minimumOrder: 1000,
          modes: [
            { fee: 500, freeOver: 2000, transit: 2 },
            { fee: 900, freeOver: null, transit: 1 },
          ],
        },
      ],
      offers: [
        { supplier: 0, price: 300, contents: [{ part: 0, quantity: 1 }], stock: 1, handling: 0 },
        { supplier: 0, price: 400, contents: [{ part: 1, quantity: 1 }], stock: 5, handling: 0 },
      ],
    };
    const kinds = evaluate(
      problem,
      [
        { offer: 0, mode: 0, packs: 2 },
        { offer: 1, mode: 1, packs: 1 },
      ],
      [
        { requirement: 0, part: 0, offer: 0, mode: 0, units: 1 },
        { requirement: 0, part: 1, offer: 1, mode: 1, units: 3 },
      ],
    ).faults.map((fault) => fault.kind);
    expect(new Set(kinds)).toEqual(new Set(['stock', 'minimum', 'one-mode', 'mixed-parts', 'units']));
    expect(evaluate(problem, [], []).faults.map((fault) => fault.kind)).toEqual(['not-met']);
  });

  it('pays for a kit when it is cheaper than its parts, and pools what is left over', async () => {
    const problem: OrderProblem = {
      oneMode: false,
      jobs: [
        { needBy: 9, latePerDay: 0 },
        { needBy: 9, latePerDay: 0 },
      ],
      requirements: [
        { job: 0, quantity: 1, alternatives: [{ part: 0, adaptation: 0 }] },
        { job: 1, quantity: 1, alternatives: [{ part: 1, adaptation: 0 }] },
      ],
      suppliers: [{ minimumOrder: 0, modes: [{ fee: 500, freeOver: null, transit: 2 }] }],
      offers: [
        { supplier: 0, price: 1000, contents: [{ part: 0, quantity: 1 }], stock: 9, handling: 0 },
        { supplier: 0, price: 1000, contents: [{ part: 1, quantity: 1 }], stock: 9, handling: 0 },
        {
          supplier: 0,
          price: 1500,
          contents: [
            { part: 0, quantity: 1 },
            { part: 1, quantity: 1 },
          ],
          stock: 9,
          handling: 0,
        },
      ],
    };
    const plan = await planOrder(problem, solver, options);
    expect(plan.buys).toEqual([{ offer: 2, mode: 0, packs: 1 }]);
    expect(planCost(plan)).toBe(2000);
  });

  it('names what cannot be bought', async () => {
    const problem = makeProblem(3, { requirements: 2, suppliers: 2, offersEach: 2 });
    const none: OrderProblem = { ...problem, offers: problem.offers.map((offer) => ({ ...offer, stock: 0 })) };
    await expect(planOrder(none, solver, options)).rejects.toMatchObject({ requirements: [0, 1] });
    expect(await planOrder({ ...problem, requirements: [] }, solver, options)).toMatchObject({
      buys: [],
      provenGap: 0,
    });
  });
});

const catalogue = demoCatalogue();
const market = {
  suppliers: catalogue.suppliers,
  modes: catalogue.shipping_modes,
  offers: catalogue.offers,
  relations: catalogue.relations,
};
const settings = {
  today: asDay('2026-11-24'),
  currency: 'EUR',
  oneMode: false,
  calendar: USUAL_SHIPPING,
  budgetMs: 5000,
  clock,
};

describe('purchases of tickets', () => {
  const inStock = catalogue.offers.filter((offer) => offer.stockPacks > 2).slice(0, 6);
  const ticket = (ticketId: TicketId, partIds: readonly PartId[]) => ({
    ticketId,
    needBy: asDay('2026-11-27'),
    latePerDay: money(350, 'EUR'),
    requirements: partIds.map((partId) => ({
      id: asId<RequirementId>(`r-${partId}`),
      quantity: 1,
      alternatives: [{ partId, adaptation: money(0, 'EUR') }],
    })),
  });

  it('plans what can be bought and says what cannot', async () => {
    const plan = await planPurchases(
      [
        ticket(asId('t1'), [inStock[0]?.partId ?? asId('none'), asId('p-nowhere')]),
        ticket(asId('t2'), [inStock[3]?.partId ?? asId('none')]),
      ],
      market,
      solver,
      settings,
    );
    expect(plan.cannotBuy).toEqual([{ ticketId: 't1', requirementId: 'r-p-nowhere', why: 'no-offer' }]);
    const given = plan.orders.flatMap((order) =>
      order.lines.flatMap((line) => line.for.map((entry) => entry.ticketId)),
    );
    expect(new Set(given)).toEqual(new Set(['t1', 't2']));
    expect(plan.total.amountMinor).toBe(
      plan.goods.amountMinor + plan.shipping.amountMinor + plan.adaptation.amountMinor + plan.lateness.amountMinor,
    );
    for (const order of plan.orders)
      expect(order.goods.amountMinor).toBe(order.lines.reduce((sum, line) => sum + line.linePrice.amountMinor, 0));
  });

  it('opens a kit for what is in it or sells it whole, never both of one; what nobody needs is said to stay over', async () => {
    const [offer] = inStock;
    const kitId = asId<PartId>('kit');
    const inside = ['seal', 'bearing', 'clip'].map((name) => asId<PartId>(name));
    const base = { ...defined(offer, 'an offer'), packQuantity: 1, stockPacks: 5 };
    const priced = (partId: PartId, minor: number) => ({
      ...base,
      id: `o-${partId}`,
      partId,
      packPrice: money(minor, 'EUR'),
    });
    const kits = {
      ...market,
      offers: [priced(kitId, 3000), ...inside.map((partId) => priced(partId, 2500))],
      relations: inside.map((toPartId, index) => ({
        ...defined(catalogue.relations[0], 'a relation'),
        id: `k${index}`,
        fromPartId: kitId,
        toPartId,
        kind: 'contains' as const,
        quantity: 1,
      })),
    };
    const lines = async (...wanted: PartId[]) =>
      (await planPurchases([ticket(asId('t1'), wanted)], kits, solver, settings)).orders
        .flatMap((order) => order.lines)
        .map(({ partId, packs, spare, contents, for: given }) => ({
          partId,
          packs,
          spare,
          holds: contents.length,
          gives: given.length,
        }));
    expect(await lines(...inside.slice(0, 2))).toEqual([{ partId: kitId, packs: 1, spare: 1, holds: 3, gives: 2 }]);
    // The kit itself is wanted too: one stays whole, another is opened.
    const both = await lines(kitId, ...inside.slice(0, 2));
    expect(both).toHaveLength(2);
    expect(both).toContainEqual({ partId: kitId, packs: 1, spare: 0, holds: 1, gives: 1 });
    expect(both).toContainEqual({ partId: kitId, packs: 1, spare: 1, holds: 3, gives: 2 });
  });

  it('buys what the shelf lacks where that is cheaper than later, for nobody; never out of the shelf itself', async () => {
    const [own, other] = [
      defined(inStock[0], 'an offer'),
      defined(
        inStock.find(({ partId }) => partId !== inStock[0]?.partId),
        'another',
      ),
    ];
    const { packPrice } = other;
    const asked = async (later: number) =>
      planPurchases([ticket(asId('t1'), [own.partId])], market, solver, {
        ...settings,
        shelf: [{ partId: other.partId, pieces: 1, later: money(later, 'EUR') }],
      });
    const bought = (plan: Awaited<ReturnType<typeof asked>>) =>
      plan.orders.flatMap(({ lines }) => lines).find(({ partId }) => partId === other.partId);
    const dear = await asked(packPrice.amountMinor * 3 + 5000);
    expect(bought(dear)).toMatchObject({ for: [], packs: 1 });
    expect(bought(dear)?.spare).toBeGreaterThan(0);
    expect(dear.forLater.amountMinor).toBe(0);
    const cheap = await asked(1);
    expect(bought(cheap)).toBeUndefined();
    // What is left for later is nobody's bill today.
    expect(cheap.forLater).toEqual(money(1, 'EUR'));
    const alone = await planPurchases([ticket(asId('t1'), [own.partId])], market, solver, settings);
    expect(cheap.total).toEqual(alone.total);
    // The shelf has one, at a price that nobody else has: it is no way to fill the shelf.
    const stocked = withStock(
      { suppliers: market.suppliers, shipping_modes: market.modes, offers: market.offers },
      [
        {
          stockId: asId('lot'),
          partId: other.partId,
          partNumber: 'N',
          description: '',
          place: '',
          unitCost: money(1, 'EUR'),
          used: false,
          works: null,
          origin: { kind: 'by-hand' },
          since: asInstant('2026-11-24T08:00:00.000Z'),
          lastAt: asInstant('2026-11-24T08:00:00.000Z'),
          units: 1,
          free: 1,
          reserved: [],
          movements: [],
        },
      ],
      'EUR',
    );
    const withLot = { ...market, suppliers: stocked.suppliers, modes: stocked.shipping_modes, offers: stocked.offers };
    const filled = await planPurchases([ticket(asId('t1'), [own.partId])], withLot, solver, {
      ...settings,
      shelf: [{ partId: other.partId, pieces: 1, later: money(5, 'EUR') }],
    });
    expect(filled.orders.some(({ supplierId }) => supplierId === SHELF.id)).toBe(false);
    // For a machine it is.
    const taken = await planPurchases([ticket(asId('t1'), [other.partId])], withLot, solver, settings);
    expect(taken.orders.map(({ supplierId }) => supplierId)).toEqual([SHELF.id]);
    expect(taken.total.amountMinor - taken.lateness.amountMinor).toBe(1);
  });

  it('says of two machines and one piece in the world that the other takes it, and of none that nobody has it', async () => {
    const base = defined(inStock[0], 'an offer');
    const only = (stockPacks: number) => ({
      ...market,
      relations: [],
      offers: [{ ...base, partId: asId<PartId>('rare'), packQuantity: 1, stockPacks }],
    });
    const free = { ...settings, budgetMs: 3000 };
    const suppliers = market.suppliers.map((supplier) => ({ ...supplier, minimumOrder: money(0, 'EUR') }));
    const plan = (stock: number) =>
      planPurchases(
        [ticket(asId('t1'), [asId('rare')]), ticket(asId('t2'), [asId('rare')])],
        { ...only(stock), suppliers },
        solver,
        free,
      );
    const one = await plan(1);
    expect(one.cannotBuy).toHaveLength(1);
    expect(one.cannotBuy[0]?.why).toBe('not-enough-together');
    expect(one.orders.flatMap((order) => order.lines)).toHaveLength(1);
    expect((await plan(0)).cannotBuy.map(({ why }) => why)).toEqual(['out-of-stock', 'out-of-stock']);
    expect((await plan(2)).cannotBuy).toEqual([]);
  });

  it('never pays more for two tickets together than for each alone', async () => {
    const a = ticket(
      asId('t1'),
      inStock.slice(0, 2).map((offer) => offer.partId),
    );
    const b = ticket(
      asId('t2'),
      inStock.slice(2, 4).map((offer) => offer.partId),
    );
    const [together, alone, other] = await Promise.all([
      planPurchases([a, b], market, solver, settings),
      planPurchases([a], market, solver, settings),
      planPurchases([b], market, solver, settings),
    ]);
    expect(together.total.amountMinor).toBeLessThanOrEqual(alone.total.amountMinor + other.total.amountMinor);
  });
});

describe('a plan and its reasons', () => {
  const sold = catalogue.offers.filter((offer) => offer.stockPacks > 2).slice(0, 12);
  const world = {
    market,
    tickets: [0, 1, 2].map((index) => ({
      ticketId: asId<TicketId>(`t${index}`),
      needBy: asDay('2026-11-27'),
      latePerDay: money(350, 'EUR'),
      requirements: sold.slice(4 * index, 4 * index + 2).map(({ partId }) => ({
        id: asId<RequirementId>(`r${index}-${partId}`),
        quantity: 1,
        alternatives: [{ partId, adaptation: money(0, 'EUR') }],
      })),
    })),
  };

  it('what a line saves is the difference of two solved plans: solved again by hand, without it', async () => {
    const plan = await planPurchases(world.tickets, market, solver, settings);
    expect(plan.provenGap).toBe(0);
    const reasons = await Promise.all(
      aspectsOf(plan).map((aspect) => explainAspect(aspect, plan, world, solver, settings)),
    );
    const lines = plan.orders.flatMap((order) => order.lines);
    expect(reasons.filter(({ of }) => of === 'offer').map(({ id }) => id)).toEqual(lines.map(({ offerId }) => offerId));
    for (const { of, id, without } of reasons) {
      const offers = of === 'offer' ? market.offers.filter((offer) => offer.id !== id) : market.offers;
      const modes = of === 'mode' ? market.modes.filter((mode) => mode.id !== id) : market.modes;
      const other = await planPurchases(world.tickets, { ...market, offers, modes }, solver, settings);
      expect(without.total.amountMinor).toBe(other.total.amountMinor - plan.total.amountMinor);
      const { goods, shipping, adaptation, lateness } = without;
      expect(goods.amountMinor + shipping.amountMinor + adaptation.amountMinor + lateness.amountMinor).toBe(
        without.total.amountMinor,
      );
      // Proven the cheapest: nothing is cheaper without one of its lines.
      if (without.cannotBuy.length === 0) expect(without.total.amountMinor).toBeGreaterThanOrEqual(0);
    }
  });

  it('keeps to what is wished, and never costs less for it', async () => {
    const plan = await planPurchases(world.tickets, market, solver, settings);
    const [order] = plan.orders;
    const [line] = defined(order, 'an order').lines;
    const { supplierId, modeId } = defined(order, 'an order');
    const { partId } = defined(line, 'a line');
    const wished = async (...wishes: Wish[]) => {
      const { tickets, market: left } = withWishes(world, wishes);
      const other = await planPurchases(tickets, left, solver, settings);
      if (other.cannotBuy.length === plan.cannotBuy.length)
        expect(other.total.amountMinor).toBeGreaterThanOrEqual(plan.total.amountMinor);
      return other.orders;
    };
    expect((await wished({ kind: 'not-from', supplierId })).some((one) => one.supplierId === supplierId)).toBe(false);
    expect((await wished({ kind: 'not-by', modeId })).some((one) => one.modeId === modeId)).toBe(false);
    const only = await wished({ kind: 'only-from', partId, supplierId });
    for (const one of only)
      if (one.lines.some((bought) => bought.partId === partId)) expect(one.supplierId).toBe(supplierId);
    const express = defined(
      market.modes.find(({ id }) => id === 'lh-ex'),
      'a faster mode',
    );
    const by = await wished({ kind: 'only-by', supplierId: express.supplierId, modeId: express.id });
    for (const one of by) if (one.supplierId === express.supplierId) expect(one.modeId).toBe(express.id);
  });

  it('takes only the number that is wished where a requirement has several, and is as before for one that it does not take', () => {
    const [ticket] = world.tickets;
    const [requirement] = defined(ticket, 'a ticket').requirements;
    const { id } = defined(requirement, 'a requirement');
    const two = [asId<PartId>('a'), asId<PartId>('b')].map((partId) => ({ partId, adaptation: money(0, 'EUR') }));
    const tickets = [{ ...defined(ticket, 'a ticket'), requirements: [{ id, quantity: 1, alternatives: two }] }];
    const left = (partId: string) =>
      withWishes({ tickets, market }, [
        { kind: 'only-number', requirementId: id, partId: asId(partId) },
      ]).tickets[0]?.requirements[0]?.alternatives.map((one): string => one.partId);
    expect([left('b'), left('c')]).toEqual([['b'], ['a', 'b']]);
  });
});

describe('working days', () => {
  it('a parcel is packed on the supplier’s days and brought on the carriers’: gone through day by day', () => {
    const weekdays = fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 7 });
    fc.assert(
      fc.property(fc.nat(20), fc.nat(6), fc.nat(5), weekdays, weekdays, fc.array(fc.nat(15)), (...drawn) => {
        const [offset, handlingDays, transitDays, supplierDays, carrierDays, off] = drawn;
        const today = addDays(asDay('2026-12-14'), offset);
        const holidays = off.map((days) => addDays(today, days));
        const arrives = arrivalDate(today, { handlingDays, transitDays }, { supplierDays, carrierDays, holidays });
        if (handlingDays + transitDays === 0) return void expect(arrives).toBe(today);
        const works = (day: LocalDate, on: readonly number[]) =>
          on.includes(isoWeekday(day)) && !holidays.includes(day);
        // A day on which it is packed first; then so many more; then so many days on the way.
        let day = today;
        let packed = -1;
        let carried = transitDays > 0 ? -1 : 0;
        for (let guard = 0; guard < 400; guard += 1, day = addDays(day, 1)) {
          if (packed < handlingDays && works(day, supplierDays)) packed += 1;
          if (packed < handlingDays) continue;
          if (transitDays === 0) break;
          if (works(day, carrierDays)) carried += 1;
          if (carried >= transitDays) break;
        }
        expect(arrives).toBe(day);
      }),
      { numRuns: 400 },
    );
  });
});
