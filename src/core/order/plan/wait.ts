import {
  addDays,
  arrivalDate,
  daysBetween,
  money,
  nextWorkingDay,
  type LocalDate,
  type Money,
  type ShippingCalendar,
  type SupplierId,
} from '../../units';
import { SHELF } from '../../stock';
import { daysBeyond, type Delays } from './delays';
import type { Market, PurchaseRequirement, PurchaseTicket } from './wanted';

/** How many orders a day the shop makes with each supplier, whatever is needed now. */
export type OrderHabits = ReadonlyMap<SupplierId, number>;

/** Days of the past that count. */
const LOOKED_BACK = 90;
/** A supplier that was never ordered from: half an order in as many days (the mean of a Gamma distribution). */
const BEFORE = { orders: 0.5, days: 10 };
/** How far ahead an order may be put off. */
const LOOKED_AHEAD = 21;
/** Days in hand that must be left. */
const IN_HAND = 2;

/** `made`: an order each. Rates of a Poisson process, shrunk: (orders + ½) / (days + 10). O(orders). */
export function orderHabits(
  made: readonly { supplierId: SupplierId; on: LocalDate }[],
  suppliers: readonly SupplierId[],
  today: LocalDate,
): OrderHabits {
  const recent = made.filter(({ on }) => on <= today && daysBetween(on, today) < LOOKED_BACK);
  const first = recent.reduce<LocalDate>((least, { on }) => (on < least ? on : least), today);
  const days = daysBetween(first, today) + BEFORE.days;
  return new Map(
    suppliers.map((id) => [id, (recent.filter(({ supplierId }) => supplierId === id).length + BEFORE.orders) / days]),
  );
}

/** What leaving a part for a later order comes to. */
export type Waiting = {
  supplierId: SupplierId;
  /**
   * Expected: goods, what making it fit costs, the shipping where no other order with that supplier comes before, and what waiting costs the customer: the days that
   * are known, and those by which a late parcel is later needed than one of today would be.
   */
  cost: Money;
  /** The last day on which it is to be ordered so. */
  orderBy: LocalDate;
  /** When it is here then, at the latest. */
  arrivesOn: LocalDate;
};

/** What was seen of the suppliers: how often they are ordered from, and how late they come. */
export type Seen = { habits: OrderHabits; delays: Delays };

type Question = { today: LocalDate; currency: string; calendar: ShippingCalendar };

/**
 * The cheapest way of leaving a requirement for a later order: it goes with the next order that the shop makes with that supplier anyway (P(none in d days) =
 * e^(−rate · d)), and by itself on its last day. `inTime`: only where it is here two days before it is needed. null where nobody could bring it so, or nobody sells
 * it. Pieces on the shelf cost nothing to take and are no reason to wait. O(offers × modes × days).
 */
export function waitingFor(
  ticket: Pick<PurchaseTicket, 'needBy' | 'latePerDay'>,
  requirement: PurchaseRequirement,
  market: Market,
  { habits, delays }: Seen,
  { today, currency, calendar }: Question,
  inTime: boolean,
): Waiting | null {
  const modes = market.modes.filter(({ fee }) => fee.currency === currency);
  const days = orderDays(today, calendar);
  let best: Waiting | null = null;
  for (const { partId, adaptation } of requirement.alternatives)
    for (const offer of market.offers) {
      if (offer.partId !== partId || offer.packPrice.currency !== currency || offer.supplierId === SHELF.id) continue;
      const packs = Math.ceil(requirement.quantity / Math.max(1, offer.packQuantity));
      const supplier = market.suppliers.find(({ id }) => id === offer.supplierId);
      if (!supplier || packs > offer.stockPacks) continue;
      const goods = packs * offer.packPrice.amountMinor;
      for (const mode of modes.filter(({ supplierId }) => supplierId === offer.supplierId)) {
        const isFree = mode.freeOver !== undefined && goods >= mode.freeOver.amountMinor;
        // Alone it must reach what the supplier asks for.
        const beyond = (arrivesOn: LocalDate) =>
          daysBeyond(delays, offer.supplierId, daysBetween(arrivesOn, ticket.needBy));
        const atOnce = beyond(arrivalDate(today, { ...offer, transitDays: mode.transitDays }, calendar));
        const alone = (isFree ? 0 : mode.fee.amountMinor) + Math.max(0, supplier.minimumOrder.amountMinor - goods);
        for (const orderBy of days) {
          const arrivesOn = arrivalDate(orderBy, { ...offer, transitDays: mode.transitDays }, calendar);
          if (inTime && daysBetween(arrivesOn, ticket.needBy) < IN_HAND) break;
          const none = Math.exp(-(habits.get(supplier.id) ?? 0) * daysBetween(today, orderBy));
          const late = Math.max(0, daysBetween(ticket.needBy, arrivesOn)) + beyond(arrivesOn) - atOnce;
          const cost = Math.round(goods + adaptation.amountMinor + none * alone + late * ticket.latePerDay.amountMinor);
          if (best && cost >= best.cost.amountMinor) continue;
          best = { supplierId: supplier.id, cost: money(cost, currency), orderBy, arrivesOn };
        }
      }
    }
  return best;
}

/** The days after today on which suppliers take orders. */
function orderDays(today: LocalDate, { supplierDays, holidays }: ShippingCalendar): LocalDate[] {
  const days: LocalDate[] = [];
  for (let ahead = 1; ahead <= LOOKED_AHEAD; ahead += 1) {
    const day = addDays(today, ahead);
    if (nextWorkingDay(day, { weekdays: supplierDays, holidays }) === day) days.push(day);
  }
  return days;
}
