import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import {
  addDays,
  asDay,
  asId,
  daysBetween,
  defined,
  isoWeekday,
  money,
  seededRandom,
  USUAL_SHIPPING,
  type PartId,
  type RequirementId,
  type SupplierId,
  type TicketId,
} from '../units';
import {
  createHighsSolver,
  daysBeyond,
  orderHabits,
  planDifference,
  planPurchases,
  supplierDelays,
  waitingFor,
  type Delays,
  withWishes,
  type MilpSolver,
  type OrderHabits,
  type PurchaseTicket,
} from '.';

const { suppliers, shipping_modes: modes, offers, relations } = demoCatalogue();
const market = { suppliers, modes, offers, relations };
const today = asDay('2026-11-24');
const settings = {
  today,
  currency: 'EUR',
  oneMode: false,
  calendar: USUAL_SHIPPING,
  budgetMs: 5000,
  clock: () => performance.now(),
};
const sold = offers.filter(({ stockPacks, packQuantity }) => stockPacks > 2 && packQuantity === 1);
const often = orderHabits(
  suppliers.flatMap(({ id }) =>
    Array.from({ length: 40 }, (_, at) => ({ supplierId: id, on: addDays(today, -2 * at) })),
  ),
  suppliers.map(({ id }) => id),
  today,
);
const seen = (habits: OrderHabits, delays: Delays = new Map()) => ({ habits, delays });
const requirement = (partId: PartId) => ({
  id: asId<RequirementId>(`r-${partId}`),
  quantity: 1,
  alternatives: [{ partId, adaptation: money(0, 'EUR') }],
});
const ticket = (name: string, inDays: number, partIds: readonly PartId[]): PurchaseTicket => ({
  ticketId: asId<TicketId>(name),
  needBy: addDays(today, inDays),
  latePerDay: money(350, 'EUR'),
  requirements: partIds.map(requirement),
});
const first = defined(sold[0], 'an offer').partId;

let solver: MilpSolver;
beforeAll(async () => {
  solver = await createHighsSolver();
});

describe('how often the shop orders', () => {
  it('is the rate of its own orders, pulled to a small one while there are few', () => {
    const [busy, other] = [asId<SupplierId>('busy'), asId<SupplierId>('other')];
    const made = Array.from({ length: 60 }, (_, at) => ({ supplierId: busy, on: addDays(today, -at) }));
    const habits = orderHabits(made, [busy, other], today);
    expect(habits.get(busy)).toBeCloseTo(60.5 / 69, 9);
    expect(habits.get(other)).toBeCloseTo(0.5 / 69, 9);
    // What is longer ago than a quarter of a year counts no more; a new shop knows nothing.
    expect(orderHabits([{ supplierId: busy, on: addDays(today, -120) }], [busy], today).get(busy)).toBeCloseTo(0.05, 9);
    expect(orderHabits([], [busy], today).get(busy)).toBeCloseTo(0.05, 9);
  });
});

describe('how late a supplier comes', () => {
  const supplier = asId<SupplierId>('s');
  const came = (...late: number[]) =>
    late.map((days) => ({ supplierId: supplier, dueOn: today, cameOn: addDays(today, days) }));

  it('is what was seen of it, pulled to one parcel in ten by two days while there are few', () => {
    expect(daysBeyond(new Map(), supplier, 0)).toBeCloseTo(0.2, 9);
    const often = supplierDelays(came(...Array.from({ length: 90 }, (_, at) => (at % 3 === 0 ? 4 : -1))));
    expect(often.get(supplier)).toEqual({ parcels: 90, late: 30, daysLate: 120 });
    expect(daysBeyond(often, supplier, 0)).toBeCloseTo((31 / 100) * (122 / 31), 9);
  });

  it('reaches the truth of drawn parcels, and says less the more days are in hand', () => {
    const random = seededRandom(91);
    const daysOf = () => {
      let days = 1;
      while (random() < 0.6) days += 1;
      return random() < 0.3 ? days : 0;
    };
    const seen = supplierDelays(came(...Array.from({ length: 6000 }, daysOf)));
    const fresh = Array.from({ length: 40_000 }, daysOf);
    for (const inHand of [0, 1, 3]) {
      const truth = fresh.reduce((sum, days) => sum + Math.max(0, days - inHand), 0) / fresh.length;
      expect(daysBeyond(seen, supplier, inHand)).toBeGreaterThan(truth * 0.85);
      expect(daysBeyond(seen, supplier, inHand)).toBeLessThan(truth * 1.15);
    }
  });

  it('makes waiting dearer where parcels come late', () => {
    const wanted = ticket('t', 14, [first]);
    const cost = (delays: Delays) =>
      defined(
        waitingFor(wanted, requirement(first), market, seen(often, delays), settings, false) ?? undefined,
        'a way to wait',
      ).cost.amountMinor;
    const late = new Map(suppliers.map(({ id }) => [id, { parcels: 40, late: 30, daysLate: 300 }]));
    expect(cost(late)).toBeGreaterThan(cost(new Map()));
  });
});

describe('leaving a part for a later order', () => {
  it('comes to the goods and the shipping as often as nothing else goes there before: played out day by day', () => {
    const offer = defined(sold[0], 'an offer');
    const mode = defined(
      modes.find(({ supplierId }) => supplierId === offer.supplierId),
      'a mode',
    );
    const supplier = {
      ...defined(
        suppliers.find(({ id }) => id === offer.supplierId),
        'a supplier',
      ),
      minimumOrder: money(0, 'EUR'),
    };
    const never = { ...mode, freeOver: undefined };
    const one = { suppliers: [supplier], modes: [never], offers: [offer], relations: [] };
    const rate = 0.2;
    const waiting = defined(
      waitingFor(
        ticket('t', 14, [first]),
        requirement(first),
        one,
        seen(new Map([[supplier.id, rate]])),
        settings,
        true,
      ) ?? undefined,
      'a way to wait',
    );
    expect(daysBetween(waiting.arrivesOn, addDays(today, 14))).toBeGreaterThanOrEqual(2);
    const random = seededRandom(4411);
    let paid = 0;
    const played = 20_000;
    for (let run = 0; run < played; run += 1) {
      const next = -Math.log(1 - random()) / rate;
      paid += offer.packPrice.amountMinor + (next <= daysBetween(today, waiting.orderBy) ? 0 : mode.fee.amountMinor);
    }
    expect(Math.abs(paid / played - waiting.cost.amountMinor)).toBeLessThan(mode.fee.amountMinor * 0.02 + 1);
  });

  it('is in time with two days in hand, on a day on which suppliers take orders, or is no way at all', () => {
    fc.assert(
      fc.property(fc.nat(25), fc.nat(sold.length - 1), fc.boolean(), (inDays, at, inTime) => {
        const wanted = ticket('t', inDays, [defined(sold[at], 'an offer').partId]);
        const waiting = waitingFor(
          wanted,
          defined(wanted.requirements[0], 'a part'),
          market,
          seen(often),
          settings,
          inTime,
        );
        if (!waiting) return void expect(inTime).toBe(true);
        expect(waiting.orderBy > today).toBe(true);
        expect(USUAL_SHIPPING.supplierDays).toContain(isoWeekday(waiting.orderBy));
        expect(waiting.arrivesOn >= waiting.orderBy).toBe(true);
        if (inTime) expect(daysBetween(waiting.arrivesOn, wanted.needBy)).toBeGreaterThanOrEqual(2);
      }),
    );
  });
});

describe('a plan in which parts may wait', () => {
  const planned = (tickets: readonly PurchaseTicket[], mayWait: boolean, habits = often) =>
    planPurchases(tickets, market, solver, { ...settings, mayWait, seen: seen(habits) });

  it('leaves a part that is needed in two weeks where orders go out every other day, and buys what is needed now', async () => {
    const far = ticket('far', 14, [first]);
    const plan = await planned([far], true);
    expect(plan.orders).toEqual([]);
    expect(plan.waits).toMatchObject([{ ticketId: 'far', requirementId: `r-${first}` }]);
    expect(plan.tickets[0]?.arrivesOn).toBe(plan.waits[0]?.arrivesOn);
    expect(plan.tickets[0]?.lateDays).toBe(0);
    // Nobody pays it now; it is said what it comes to then.
    expect(plan.total.amountMinor).toBe(0);
    expect(plan.forLater).toEqual(plan.waits[0]?.cost);
    const near = await planned([ticket('near', 2, [first])], true);
    expect(near.waits).toEqual([]);
    expect(near.orders).toHaveLength(1);
  });

  it('buys it now where its shipping is paid anyway', async () => {
    const supplierId = defined(sold[0], 'an offer').supplierId;
    const cheap = { ...market, offers: offers.filter((offer) => offer.supplierId === supplierId) };
    const own = sold.filter((offer) => offer.supplierId === supplierId);
    const [one, other] = [
      defined(own[0], 'one').partId,
      defined(
        own.find(({ partId }) => partId !== own[0]?.partId),
        'two',
      ).partId,
    ];
    const rare = new Map([[supplierId, 0.02]]);
    const plan = await planPurchases([ticket('near', 2, [one]), ticket('far', 14, [other])], cheap, solver, {
      ...settings,
      mayWait: true,
      seen: seen(rare),
    });
    expect(plan.waits).toEqual([]);
    expect(plan.orders.flatMap(({ lines }) => lines.map(({ partId }) => partId)).sort()).toEqual([one, other].sort());
  });

  it('is never dearer than one in which nothing may wait, and makes nobody wait longer than promised', async () => {
    const random = seededRandom(90_210);
    for (let run = 0; run < 12; run += 1) {
      const tickets = Array.from({ length: 3 }, (_, at) =>
        ticket(
          `t${at}`,
          1 + Math.floor(random() * 16),
          [0, 1].map(() => defined(sold[Math.floor(random() * sold.length)], 'an offer').partId),
        ),
      ).map((one) => ({
        ...one,
        requirements: one.requirements.filter((part, at, all) => all.findIndex(({ id }) => id === part.id) === at),
      }));
      const [waiting, at] = await Promise.all([planned(tickets, true), planned(tickets, false)]);
      expect(waiting.total.amountMinor + waiting.forLater.amountMinor).toBeLessThanOrEqual(at.total.amountMinor);
      const bought = waiting.orders.flatMap(({ lines }) =>
        lines.flatMap((line) => line.for.map((one) => one.requirementId)),
      );
      const all = [...bought, ...waiting.waits.map(({ requirementId }) => requirementId)];
      // Every part is bought, or left, once.
      expect(new Set(all).size).toBe(
        new Set(tickets.flatMap(({ requirements }) => requirements.map(({ id }) => id))).size,
      );
      for (const wait of waiting.waits) {
        const needBy = tickets.find(({ ticketId }) => ticketId === wait.ticketId)?.needBy;
        expect(wait.arrivesOn < (needBy ?? '')).toBe(true);
      }
    }
  });

  it('keeps to what is wished: in this order after all, or in a later one though it comes too late, and says what that costs', async () => {
    const [far, near] = [ticket('far', 14, [first]), ticket('near', 2, [first])];
    const wish = (kind: 'now' | 'later', requirementId: RequirementId, tickets: readonly PurchaseTicket[]) =>
      withWishes({ tickets, market }, [{ kind, requirementId, partId: first }]).tickets;
    const id = asId<RequirementId>(`r-${first}`);
    const now = await planned(wish('now', id, [far]), true);
    expect(now.waits).toEqual([]);
    expect(now.orders).toHaveLength(1);
    const plain = await planned([near], false);
    const later = await planned(wish('later', id, [near]), false);
    expect(later.orders).toEqual([]);
    expect(later.waits).toMatchObject([{ ticketId: 'near' }]);
    const { total, forLater, days } = planDifference(later, plain);
    expect(forLater).toEqual(later.waits[0]?.cost);
    expect(total.amountMinor).toBe(defined(later.waits[0], 'what waits').cost.amountMinor - plain.total.amountMinor);
    expect(days[0]?.days).toBeGreaterThan(0);
    const nowhere = asId<PartId>('p-nowhere');
    const gone = await planned(wish('later', asId(`r-${nowhere}`), [ticket('t', 5, [nowhere])]), false);
    expect(gone.cannotBuy).toMatchObject([{ why: 'no-offer' }]);
  });
});
