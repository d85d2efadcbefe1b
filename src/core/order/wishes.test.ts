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
  type LocalDate,
  type PartId,
  type RequirementId,
  type SupplierId,
  type TicketId,
} from '../units';
import { createHighsSolver, planPurchases, withWishes, type MilpSolver, type Wish } from '.';

let solver: MilpSolver;
beforeAll(async () => {
  solver = await createHighsSolver();
});

const TODAY = asDay('2026-12-21');
const eur = (minor: number) => money(minor, 'EUR');

/** Two machines that want two parts each, three suppliers with a slow and a quick way, holidays and days off. */
function drawShop(seed: number) {
  const random = seededRandom(seed);
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const some = <T>(list: readonly T[]): T => defined(list[whole(0, list.length - 1)], 'one of them');
  const [offer, supplier, mode] = [
    defined(demoCatalogue().offers[0], 'an offer'),
    defined(demoCatalogue().suppliers[0], 'a supplier'),
    defined(demoCatalogue().shipping_modes[0], 'a mode'),
  ];
  const parts = ['a', 'b', 'c', 'd', 'e'].map((id) => asId<PartId>(id));
  const ids = ['s0', 's1', 's2'].map((id) => asId<SupplierId>(id));
  const market = {
    relations: [],
    suppliers: ids.map((id) => ({ ...supplier, id, minimumOrder: eur(0) })),
    modes: ids.flatMap((supplierId) =>
      [whole(2, 3), 1].map((transitDays, quick) => ({
        ...mode,
        id: `${supplierId} ${quick ? 'express' : 'parcel'}`,
        supplierId,
        fee: eur(quick ? whole(900, 1900) : whole(300, 800)),
        freeOver: undefined,
        transitDays,
      })),
    ),
    offers: ids.flatMap((supplierId) =>
      parts
        .filter(() => random() < 0.75)
        .map((partId) => ({
          ...offer,
          id: `${supplierId} ${partId}`,
          supplierId,
          partId,
          packQuantity: 1,
          packPrice: eur(whole(500, 4000)),
          stockPacks: whole(1, 2),
          handlingDays: whole(0, 2),
        })),
    ),
  };
  const tickets = [0, 1].map((index) => ({
    ticketId: asId<TicketId>(`t${index}`),
    needBy: addDays(TODAY, whole(1, 6)),
    latePerDay: eur(whole(100, 700)),
    requirements: [0, 1].map((which) => ({
      id: asId<RequirementId>(`t${index} r${which}`),
      quantity: 1,
      alternatives: [
        { partId: defined(parts[2 * index + which], 'a part'), adaptation: eur(0) },
        ...(random() < 0.4 ? [{ partId: asId<PartId>('e'), adaptation: eur(whole(0, 900)) }] : []),
      ],
    })),
  }));
  const calendar = {
    supplierDays: [1, 2, 3, 4, 5],
    carrierDays: random() < 0.5 ? [1, 2, 3, 4, 5] : [1, 2, 3, 4, 5, 6],
    holidays: [whole(0, 3), whole(2, 6)].map((days) => addDays(TODAY, days)),
  };
  const supplierId = some(ids);
  const ofIt = market.modes.filter((one) => one.supplierId === supplierId);
  const wishes: Wish[] = [
    some<Wish>([
      { kind: 'not-from', supplierId },
      { kind: 'not-by', modeId: some(market.modes).id },
      { kind: 'only-by', supplierId, modeId: some(ofIt).id },
      { kind: 'not-number', partId: asId<PartId>('e') },
      { kind: 'only-from', partId: some(parts), supplierId },
      { kind: 'only-number', requirementId: asId<RequirementId>('t0 r0'), partId: asId<PartId>('e') },
    ]),
    ...(random() < 0.5 ? [{ kind: 'not-by', modeId: some(market.modes).id } as const] : []),
  ];
  return { tickets, market, calendar, wishes };
}
type Shop = ReturnType<typeof drawShop>;
type Choice = {
  requirement: string;
  partId: PartId;
  adaptation: number;
  offer: Shop['market']['offers'][number];
  mode: Shop['market']['modes'][number];
  /** By which it would make its machine late. */
  late: number;
};

/** Gone through day by day: packed on the supplier's days, then brought on the carrier's. */
function arrivesOn(
  { offer, mode }: Pick<Choice, 'offer' | 'mode'>,
  { supplierDays, carrierDays, holidays }: Shop['calendar'],
): LocalDate {
  const works = (day: LocalDate, on: readonly number[]) => on.includes(isoWeekday(day)) && !holidays.includes(day);
  let day = TODAY;
  for (let packed = -1; ; day = addDays(day, 1)) {
    if (works(day, supplierDays)) packed += 1;
    if (packed >= offer.handlingDays) break;
  }
  for (let carried = 0; carried < mode.transitDays;) {
    day = addDays(day, 1);
    if (works(day, carrierDays)) carried += 1;
  }
  return day;
}

const keeps = (wish: Wish, { requirement, partId, offer, mode }: Choice, takes: readonly string[]): boolean => {
  switch (wish.kind) {
    case 'not-from':
      return offer.supplierId !== wish.supplierId;
    case 'not-by':
      return mode.id !== wish.modeId;
    case 'only-by':
      return offer.supplierId !== wish.supplierId || mode.id === wish.modeId;
    case 'not-number':
      return partId !== wish.partId;
    case 'only-from':
      return partId !== wish.partId || offer.supplierId === wish.supplierId;
    case 'only-number':
      return requirement !== wish.requirementId || !takes.includes(wish.partId) || partId === wish.partId;
    default:
      throw new Error('not drawn');
  }
};

/** The least that it can cost, by trying every source of every part; Infinity where something cannot be had. */
function byTrying({ tickets, market, calendar, wishes }: Shop): number {
  const needs = tickets.flatMap((ticket) => ticket.requirements.map((requirement) => ({ ticket, requirement })));
  const choices = needs.map(({ ticket, requirement: { id, alternatives } }) =>
    alternatives.flatMap(({ partId, adaptation }) =>
      market.offers
        .filter((offer) => offer.partId === partId)
        .flatMap((offer) =>
          market.modes
            .filter((mode) => mode.supplierId === offer.supplierId)
            .map((mode) => {
              const late = daysBetween(ticket.needBy, arrivesOn({ offer, mode }, calendar));
              return { requirement: id, partId, adaptation: adaptation.amountMinor, offer, mode, late };
            }),
        )
        .filter((choice) =>
          wishes.every((wish) =>
            keeps(
              wish,
              choice,
              alternatives.map((one) => one.partId),
            ),
          ),
        ),
    ),
  );
  let least = Infinity;
  const go = (index: number, taken: readonly Choice[]): void => {
    if (index < choices.length) {
      for (const choice of choices[index] ?? []) {
        const same = taken.filter(({ offer }) => offer.id === choice.offer.id).length;
        if (same < choice.offer.stockPacks) go(index + 1, [...taken, choice]);
      }
      return;
    }
    const fees = new Map(taken.map(({ mode }) => [mode.id, mode.fee.amountMinor]));
    let cost = [...fees.values()].reduce((all, fee) => all + fee, 0);
    for (const { offer, adaptation } of taken) cost += offer.packPrice.amountMinor + adaptation;
    for (const ticket of tickets) {
      const days = taken.filter((_, at) => needs[at]?.ticket === ticket).map(({ late }) => late);
      cost += Math.max(0, ...days) * ticket.latePerDay.amountMinor;
    }
    least = Math.min(least, cost);
  };
  go(0, []);
  return least;
}

describe('a plan with wishes, over working days and holidays', () => {
  it('costs what trying everything comes to, and less without the wishes or as much', async () => {
    let tried = 0;
    let dearer = 0;
    for (let seed = 1; seed <= 40; seed += 1) {
      const shop = drawShop(seed * 7_368_787);
      const best = byTrying(shop);
      if (best === Infinity) continue;
      const { tickets, market } = withWishes(shop, shop.wishes);
      const options = { today: TODAY, currency: 'EUR', oneMode: false, calendar: shop.calendar, budgetMs: 5000 };
      const clock = () => performance.now();
      const plan = await planPurchases(tickets, market, solver, { ...options, clock });
      expect(plan.cannotBuy, `seed ${seed}`).toEqual([]);
      expect(plan.total.amountMinor, `seed ${seed}`).toBe(best);
      const free = await planPurchases(shop.tickets, shop.market, solver, { ...options, clock });
      expect(free.total.amountMinor).toBe(byTrying({ ...shop, wishes: [] }));
      expect(free.total.amountMinor).toBeLessThanOrEqual(best);
      tried += 1;
      if (free.total.amountMinor < best) dearer += 1;
    }
    expect(tried).toBeGreaterThan(10);
    expect(dearer).toBeGreaterThan(4);
  });
});
