import { daysBetween, groupBy, localDateOf, sum, unique, type LocalDate, type SupplierId } from '../../units';
import type { OrderState } from '../stream/orderStream';

/** What a supplier's parcels were like: of so many with a day, so many late, by how many days together. */
export type Delay = {
  parcels: number;
  late: number;
  daysLate: number;
};
export type Delays = ReadonlyMap<SupplierId, Delay>;

/** A supplier of whom nothing is known: one parcel in ten is late, by two days on average; it counts as ten parcels. */
const BEFORE = { parcels: 10, late: 1, daysLate: 2 };
const NOTHING_SEEN: Delay = { parcels: 0, late: 0, daysLate: 0 };

/** Parcels as they came: what of an order was due on one day and came on one. O(receipts). */
export const parcelsOf = (orders: readonly OrderState[], zone: string) =>
  orders.flatMap(({ supplierId, lines }) => {
    const days = lines.flatMap(({ dueOn, received }) =>
      dueOn ? unique(received.map(({ at }) => `${dueOn} ${localDateOf(at, zone)}`)) : [],
    );
    return unique(days).map((day) => {
      const [dueOn, cameOn] = day.split(' ') as [LocalDate, LocalDate];
      return { supplierId, dueOn, cameOn };
    });
  });

/** What was seen of each supplier. O(parcels). */
export const supplierDelays = (
  parcels: readonly { supplierId: SupplierId; dueOn: LocalDate; cameOn: LocalDate }[],
): Delays =>
  new Map(
    [...groupBy(parcels, ({ supplierId }) => supplierId)].map(([supplierId, own]) => {
      const late = own.map(({ dueOn, cameOn }) => daysBetween(dueOn, cameOn)).filter((days) => days > 0);
      return [supplierId, { parcels: own.length, late: late.length, daysLate: sum(late) }];
    }),
  );

/**
 * Days by which a parcel is expected to come after it is needed, when it is due `inHand` days before that: P(late) · E[(days late − days in hand)⁺]. P(late) is the mean
 * of a Beta distribution that begins as one late in ten, the days late are geometric with the mean of its late parcels and one of two days: d · (1 − 1/d)^inHand.
 */
export function daysBeyond(delays: Delays, supplierId: SupplierId, inHand: number): number {
  const { parcels, late, daysLate } = delays.get(supplierId) ?? NOTHING_SEEN;
  const share = (late + BEFORE.late) / (parcels + BEFORE.parcels);
  const days = (daysLate + BEFORE.daysLate) / (late + BEFORE.late);
  return share * days * (1 - 1 / days) ** Math.max(0, inHand);
}
