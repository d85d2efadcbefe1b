import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { crossReference } from '../fit';
import { defined, money, seededRandom, sum } from '../units';
import fc from 'fast-check';
import { formulate } from './plan/formulate';
import { heuristicPlan } from './plan/heuristic';
import { arrivalDay } from './plan/problem';
import {
  applyOrderEvents,
  cancelOrder,
  checkIn,
  checkInLine,
  noteAnswer,
  noteRefused,
  noteTrying,
  noteVoid,
  orderTotal,
  type Decision,
  createHighsSolver,
  evaluate,
  InfeasibleOrder,
  planCost,
  planOrder,
  planPurchases,
  type MilpSolver,
  type OrderEvent,
  type OrderEventData,
  type OrderProblem,
} from '.';
import { orderAsCsv, orderAsUbl, readUblOrder, readUblOrderResponse, writeUblOrderResponse } from './documents';

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
    requirements: Array.from({ length: size.requirements }, (_, at) => ({
      job: at % Math.max(1, size.requirements - 1),
      quantity: whole(1, 2),
      alternatives: [
        { part: at, adaptation: 0 },
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
              ].filter((entry, at, all) => all.findIndex((other) => other.part === entry.part) === at)
            : [{ part: whole(0, parts - 1), quantity: whole(1, 2) }],
        stock: whole(0, 3),
        handling: whole(0, 2),
      })),
    ).flat(),
  };
}

/** The optimum by trying all numbers of packs in all modes, and for each the best hand-out of units. Infinity when nothing works. */
function bruteForce(problem: OrderProblem): number {
  const columns = problem.offers.flatMap((offer, at) =>
    (problem.suppliers[offer.supplier]?.modes ?? []).map((_, mode) => ({ offer: at, mode, stock: offer.stock })),
  );
  let best = Infinity;
  const packs = columns.map(() => 0);
  const tryPacks = (at: number) => {
    if (at === columns.length) {
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
    for (let count = 0; count <= (columns[at]?.stock ?? 0); count += 1) {
      packs[at] = count;
      tryPacks(at + 1);
    }
    packs[at] = 0;
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
    for (const alternative of wanted.alternatives) {
      const sources = [...left]
        .filter(([key, units]) => units > 0 && Number(key.split(' ')[2]) === alternative.part)
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
        const value = row.columns.reduce((sum, column, at) => sum + (point[column] ?? 0) * (row.values[at] ?? 0), 0);
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
      const value = row.columns.reduce((sum, column, at) => sum + (point[column] ?? 0) * (row.values[at] ?? 0), 0);
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

describe('purchases of tickets', () => {
  const catalogue = demoCatalogue();
  const market = {
    suppliers: catalogue.suppliers,
    modes: catalogue.shipping_modes,
    offers: catalogue.offers,
    relations: catalogue.relations,
  };
  const inStock = catalogue.offers.filter((offer) => offer.stockPacks > 2).slice(0, 6);
  const settings = { today: '2026-11-24', currency: 'EUR', oneMode: false, budgetMs: 5000, clock };
  const ticket = (ticketId: string, partIds: readonly string[]) => ({
    ticketId,
    needBy: '2026-11-27',
    latePerDay: money(350, 'EUR'),
    requirements: partIds.map((partId) => ({
      id: `r-${partId}`,
      quantity: 1,
      alternatives: [{ partId, adaptation: money(0, 'EUR') }],
    })),
  });

  it('plans what can be bought and says what cannot', async () => {
    const plan = await planPurchases(
      [ticket('t1', [inStock[0]?.partId ?? '', 'p-nowhere']), ticket('t2', [inStock[3]?.partId ?? ''])],
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
      expect(order.goods.amountMinor).toBe(order.lines.reduce((sum, line) => sum + line.price.amountMinor, 0));
  });

  it('says of two machines and one piece in the world that the other takes it, and of none that nobody has it', async () => {
    const base = defined(inStock[0], 'an offer');
    const only = (stockPacks: number) => ({
      ...market,
      relations: [],
      offers: [{ ...base, partId: 'rare', packQuantity: 1, stockPacks }],
    });
    const free = { ...settings, budgetMs: 3000 };
    const suppliers = market.suppliers.map((supplier) => ({ ...supplier, minimumOrder: money(0, 'EUR') }));
    const plan = (stock: number) =>
      planPurchases([ticket('t1', ['rare']), ticket('t2', ['rare'])], { ...only(stock), suppliers }, solver, free);
    const one = await plan(1);
    expect(one.cannotBuy).toHaveLength(1);
    expect(one.cannotBuy[0]?.why).toBe('not-enough-together');
    expect(one.orders.flatMap((order) => order.lines)).toHaveLength(1);
    expect((await plan(0)).cannotBuy.map(({ why }) => why)).toEqual(['out-of-stock', 'out-of-stock']);
    expect((await plan(2)).cannotBuy).toEqual([]);
  });

  it('never pays more for two tickets together than for each alone', async () => {
    const a = ticket(
      't1',
      inStock.slice(0, 2).map((offer) => offer.partId),
    );
    const b = ticket(
      't2',
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

const made: Extract<OrderEventData, { type: 'order-made' }> = {
  type: 'order-made',
  number: 'HW-1',
  supplierId: 'northquay',
  supplierName: 'Northquay Spares',
  modeId: 'nq-day',
  modeName: 'next day',
  shipping: money(690, 'EUR'),
  expectedOn: '2026-11-25',
  lines: [
    {
      lineId: 'o1',
      partId: 'p1',
      partNumber: 'FJ-1',
      description: '=Pump & <valve>',
      supplierNumber: '+NO1',
      packs: 2,
      packPrice: money(1999, 'EUR'),
      for: [{ ticketId: 't', requirementId: 'r', partId: 'p1', units: 2, perPack: 1 }],
    },
  ],
};
const orderEvents = (...data: OrderEventData[]): OrderEvent[] =>
  data.map((entry, at) => ({
    id: `e${at}`,
    stream: 'order:x',
    sequence: at + 1,
    version: 2,
    at: '2026-11-24T09:00:00.000Z',
    groupId: `g${at}`,
    data: entry,
  }));
const answer = (status: 'accepted' | 'rejected' | 'back-ordered' | 'substituted') => ({
  reference: 'NO-1',
  lines: [
    {
      lineId: 'o1',
      status,
      partId: 'p1',
      partNumber: 'FJ-1',
      packPrice: money(1899, 'EUR'),
      dueOn: status === 'rejected' ? null : '2026-11-26',
      note: 'Ask & see <later>',
    },
  ],
});

describe('an order’s events', () => {
  const phase = (...data: OrderEventData[]) => applyOrderEvents(orderEvents(...data))?.phase;
  const received: OrderEventData = {
    type: 'line-received',
    lineId: 'o1',
    numberRead: 'FJ-1',
    verdict: 'as-ordered',
    packs: 1,
    measured: [],
  };
  const answered: OrderEventData = { type: 'answered', answer: answer('accepted') };
  const tried: OrderEventData = { type: 'send-tried', attempt: 1 };
  const retryAt = '2026-11-24T09:05:00.000Z';
  it('go from unsent over unknown and open to done', () => {
    expect(phase(made)).toBe('unsent');
    expect(phase(made, tried)).toBe('unknown');
    expect(phase(made, tried, { type: 'send-failed', why: 'down', status: 503, retryAt })).toBe('unknown');
    expect(phase(made, tried, answered)).toBe('open');
    expect(phase(made, tried, { type: 'answered', answer: answer('rejected') })).toBe('done');
    expect(phase(made, tried, answered, received)).toBe('open');
    expect(phase(made, tried, answered, received, received)).toBe('done');
    expect(phase(made, { type: 'cancelled', why: 'not-sent' })).toBe('done');
    expect(phase(made, tried, { type: 'cancel-asked' })).toBe('unknown');
    expect(phase(made, tried, { type: 'refused', status: 422, detail: 'x' })).toBe('done');
    expect(applyOrderEvents([])).toBeNull();
  });
  it('count a goods-in that was taken back as not come', () => {
    const events = orderEvents(made, tried, answered, received, received);
    const undone = orderEvents(made, tried, answered, received, received, {
      type: 'undone',
      eventId: events[4]?.id ?? '',
    });
    expect(applyOrderEvents(undone)).toMatchObject({ phase: 'open', lines: [{ outstanding: 1 }] });
  });
  it('total what is to be paid: packs at their answered price, without what fell away', () => {
    const total = (...data: OrderEventData[]) => {
      const state = applyOrderEvents(orderEvents(...data));
      return state ? orderTotal(state).amountMinor : NaN;
    };
    expect(total(made)).toBe(2 * 1999 + 690);
    expect(total(made, tried, answered)).toBe(2 * 1899 + 690);
    expect(total(made, tried, { type: 'answered', answer: answer('rejected') })).toBe(690);
  });
});

describe('what is decided on an order', () => {
  const lines = [
    { lineId: 'l1', units: 2, packs: 2, perPack: 1 },
    { lineId: 'l2', units: 3, packs: 1, perPack: 4 },
  ];
  const order = (...more: OrderEventData[]) =>
    defined(
      applyOrderEvents(
        orderEvents(
          {
            ...made,
            lines: lines.map(({ lineId, units, packs, perPack }) => ({
              ...defined(made.lines[0], 'a line'),
              lineId,
              packs,
              for: [
                { ticketId: 'a', requirementId: `a-${lineId}`, partId: 'p1', units: units - 1, perPack },
                { ticketId: 'b', requirementId: `b-${lineId}`, partId: 'p1', units: 1, perPack },
              ],
            })),
          },
          ...more,
        ),
      ),
      'an order',
    );
  const tried: OrderEventData = { type: 'send-tried', attempt: 1 };
  const accepted = {
    reference: 'R',
    lines: lines.map(({ lineId }) => ({
      ...defined(answer('accepted').lines[0], 'a line'),
      lineId,
      status: 'accepted' as const,
    })),
  };
  const open = order(tried, { type: 'answered', answer: accepted });
  const told = (decision: Decision) =>
    decision.ok
      ? decision.value.flatMap((append) =>
          append.kind === 'ticket' ? append.data.map((data) => ({ ticket: append.ticketId, ...data })) : [],
        )
      : [];

  it('one line that is refused falls away alone', () => {
    const mixed = {
      ...accepted,
      lines: accepted.lines.map((line) => (line.lineId === 'l1' ? { ...line, status: 'rejected' as const } : line)),
    };
    const events = told(noteAnswer(order(tried), mixed));
    expect(events.filter(({ type }) => type === 'part-order-cancelled')).toHaveLength(2);
    expect(events.filter(({ type }) => type === 'part-due')).toHaveLength(2);
    const missing = told(noteAnswer(order(tried), { ...accepted, lines: accepted.lines.slice(1) }));
    expect(missing.filter((event) => event.type === 'part-order-cancelled')).toMatchObject([
      { lineId: 'l1', why: 'not-in-answer' },
      { lineId: 'l1', why: 'not-in-answer' },
    ]);
  });

  it('a second answer, or an answer to what is cancelled, changes nothing', () => {
    expect(noteAnswer(open, accepted)).toMatchObject({ ok: false, error: { kind: 'order-is-past' } });
    expect(noteAnswer(order({ type: 'cancelled', why: 'not-sent' }), accepted).ok).toBe(false);
  });

  it('cancelling asks the supplier first once it was tried', () => {
    const kinds = (decision: Decision) =>
      decision.ok ? decision.value.flatMap(({ data }) => data.map(({ type }) => type)) : [];
    expect(kinds(cancelOrder(order()))).toContain('cancelled');
    expect(kinds(cancelOrder(order()))).toContain('part-order-cancelled');
    expect(kinds(cancelOrder(order(tried)))).toEqual(['cancel-asked']);
    expect(cancelOrder(open).ok).toBe(false);
    expect(kinds(noteVoid(order(tried, { type: 'cancel-asked' })))).toContain('part-order-cancelled');
    // Nothing is sent any more once cancelling was asked.
    expect(noteTrying(order(tried, { type: 'cancel-asked' })).ok).toBe(false);
  });

  it('a refusal gives every part back and is not sent again', () => {
    const refused = noteRefused(order(tried), 422, 'closed');
    expect(told(refused).map(({ type }) => type)).toEqual(Array.from({ length: 4 }, () => 'part-order-cancelled'));
    expect(noteTrying(order(tried, { type: 'refused', status: 422, detail: '' })).ok).toBe(false);
  });

  it('part of a line goes to the tickets in its order, and the last pack brings the rest', () => {
    const receipt = { lineId: 'l1', numberRead: 'FJ-1', verdict: 'as-ordered' as const, packs: 1, measured: [] };
    expect(told(checkInLine(open, receipt))).toMatchObject([{ ticket: 'a', requirementId: 'a-l1', units: 1 }]);
    const half = order(tried, { type: 'answered', answer: accepted }, { type: 'line-received', ...receipt });
    expect(told(checkInLine(half, receipt))).toMatchObject([{ ticket: 'b', requirementId: 'b-l1', units: 1 }]);
    expect(checkInLine(half, { ...receipt, packs: 2 })).toMatchObject({ ok: false });
    expect(told(checkInLine(open, { ...receipt, lineId: 'l2' }))).toMatchObject([
      { ticket: 'a', units: 2 },
      { ticket: 'b', units: 1 },
    ]);
  });

  it('whatever way a line comes in, every ticket gets its units and none gets more', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 4 }),
        fc.infiniteStream(fc.integer({ min: 1, max: 3 })),
        (wants, perPack, draw) => {
          const wanted = wants.map((units, at) => ({
            ticketId: `t${at}`,
            requirementId: `r${at}`,
            partId: 'p1',
            units,
            perPack,
          }));
          const packs = Math.ceil(sum(wants) / perPack);
          const line = { ...defined(made.lines[0], 'a line'), packs, for: wanted };
          const events: OrderEventData[] = [
            { ...made, lines: [line] },
            tried,
            {
              type: 'answered',
              answer: { ...accepted, lines: [{ ...defined(accepted.lines[0], 'l'), lineId: 'o1' }] },
            },
          ];
          const given = new Map<string, number>();
          for (let left = packs; left > 0;) {
            const some = Math.min(left, draw.next().value ?? 1);
            left -= some;
            const receipt = {
              lineId: 'o1',
              numberRead: 'x',
              verdict: 'as-ordered' as const,
              packs: some,
              measured: [],
            };
            const state = defined(applyOrderEvents(orderEvents(...events)), 'an order');
            for (const event of told(checkInLine(state, receipt)))
              if (event.type === 'part-received')
                given.set(event.requirementId, (given.get(event.requirementId) ?? 0) + event.units);
            events.push({ type: 'line-received', ...receipt });
          }
          expect([...given].sort()).toEqual(wanted.map(({ requirementId, units }) => [requirementId, units]).sort());
        },
      ),
    );
  });
});

describe('documents', () => {
  const order = defined(applyOrderEvents(orderEvents(made)), 'an order');
  it('as UBL go out and come back the same', () => {
    const read = readUblOrder(orderAsUbl(order, 'Shop & Sons', 'Europe/Berlin'));
    expect(read).toMatchObject({
      ok: true,
      value: {
        number: 'HW-1',
        issuedOn: '2026-11-24',
        buyer: 'Shop & Sons',
        mode: 'nq-day',
        lines: [{ id: 'o1', packs: 2, partNumber: 'FJ-1', supplierNumber: '+NO1', packPrice: money(1999, 'EUR') }],
      },
    });
  });
  it.each(['accepted', 'rejected', 'back-ordered', 'substituted'] as const)(
    'an answer “%s” comes back the same',
    (status) => {
      const read = readUblOrderResponse(writeUblOrderResponse(answer(status), 'HW-1', '2026-11-24'));
      expect(read).toEqual({ ok: true, value: answer(status) });
    },
  );
  it('that are none are refused with what is missing', () => {
    expect(readUblOrder('not xml <')).toMatchObject({ ok: false });
    expect(readUblOrderResponse('<a/>')).toMatchObject({ ok: false, error: { kind: 'not-an-order' } });
    const negative = orderAsUbl(order, 'x', 'UTC').replace('>2<', '>-2<');
    expect(readUblOrder(negative)).toMatchObject({ ok: false, error: { kind: 'not-an-order' } });
  });
  it('as CSV start no formula in a spreadsheet', () => {
    const csv = orderAsCsv(order);
    expect(csv.split('\r\n')).toHaveLength(2);
    expect(csv).toContain("'=Pump & <valve>");
    expect(csv).toContain("'+NO1");
    expect(csv).toContain('19.99');
  });
});

describe('goods-in', () => {
  const catalogue = demoCatalogue();
  const superseded = defined(
    catalogue.relations.find((relation) => relation.kind === 'superseded-by'),
    'a supersession',
  );
  const number = (id: string) => catalogue.parts.find((part) => part.id === id)?.partNumber ?? '';
  it('lets the ordered number and its newer number in, stops others', () => {
    const check = (read: string) => checkIn(catalogue, superseded.fromPartId, number(superseded.fromPartId), read);
    expect(check(number(superseded.fromPartId).toLowerCase().replace('-', ' '))).toMatchObject({
      verdict: 'as-ordered',
    });
    expect(check(number(superseded.toPartId))).toMatchObject({ verdict: 'newer-number', reason: 'supersession' });
    expect(check('ZZ-0')).toMatchObject({ verdict: 'wrong', reason: 'unknown-number' });
    expect(check('TR-34934')).toMatchObject({ verdict: 'wrong', reason: 'other-part' });
  });

  it('takes a newer number only for machines built when it holds', () => {
    const from = { ...superseded, builtFrom: '2015-01-01' };
    const dated = {
      ...catalogue,
      relations: catalogue.relations.map((row) => (row.id === superseded.id ? from : row)),
    };
    const built = (builtFrom: string, builtTo: string) => [{ builtFrom, builtTo, probability: 1 }];
    const check = (...machines: { builtFrom: string; builtTo: string; probability: number }[][]) =>
      checkIn(dated, superseded.fromPartId, number(superseded.fromPartId), number(superseded.toPartId), machines);
    const [old, young, open] = [
      built('2012-03-01', '2012-03-07'),
      built('2018-03-01', '2018-03-07'),
      built('2014-12-29', '2015-01-04'),
    ];
    expect(check(old)).toMatchObject({ verdict: 'wrong', reason: 'other-build-date' });
    expect(check(young)).toMatchObject({ verdict: 'newer-number', reason: 'supersession' });
    expect(check(open)).toMatchObject({ verdict: 'newer-number', reason: 'supersession-open' });
    expect(check(young, old)).toMatchObject({ verdict: 'wrong', reason: 'other-build-date' });
  });

  it('says where to look again when the number is only a slip away from a fine one', () => {
    const ordered = number(superseded.fromPartId);
    const newer = number(crossReference(catalogue, superseded.fromPartId).soldToday?.parts[0]?.partId ?? '');
    const check = (read: string) => checkIn(catalogue, superseded.fromPartId, ordered, read);
    const last = ordered.length - 1;
    const misread = `${ordered.slice(0, last)}${ordered.endsWith('B') ? '8' : 'B'}`;
    expect(check(misread)).toMatchObject({
      verdict: 'wrong',
      misread: { partNumber: ordered, differences: [{ at: last, listed: ordered.charAt(last) }] },
    });
    expect(check(newer.slice(0, -1)).misread?.partNumber).toBe(newer);
    expect(check(ordered).misread).toBeNull();
    expect(check('QQQQ-0-ZZZZ').misread).toBeNull();
  });
});
