import type { LocalDate, OrderId } from '../../units';
import { fellAway, type OrderState } from '../stream/orderStream';

/** What comes with one parcel: the lines of an order that are due on one day and not here. */
export type Arrival = {
  orderId: OrderId;
  number: string;
  supplierName: string;
  dueOn: LocalDate;
  lines: { partNumber: string; description: string; packs: number }[];
};

/** Parcels on their way with the day that is known of each, the earliest first; an order of which parts come on different days is several. O(lines log lines). */
export function arrivalsOf(orders: readonly OrderState[]): Arrival[] {
  const parcels = new Map<string, Arrival>();
  for (const { orderId, number, supplierName, lines } of orders)
    for (const line of lines) {
      const { dueOn, outstanding, partNumber, description } = line;
      if (!dueOn || outstanding === 0 || fellAway(line)) continue;
      const key = `${orderId} ${dueOn}`;
      const parcel = parcels.get(key) ?? { orderId, number, supplierName, dueOn, lines: [] };
      parcel.lines.push({ partNumber, description, packs: outstanding });
      parcels.set(key, parcel);
    }
  return [...parcels.values()].sort((a, b) => (a.dueOn < b.dueOn ? -1 : a.dueOn > b.dueOn ? 1 : 0));
}

/** What has still to be sent back, and by when. O(returns). */
export const goingBackOf = (orders: readonly OrderState[]) =>
  orders.flatMap(({ orderId, number, supplierName, returns }) =>
    returns.flatMap(({ stand, returnId, sendBy }) =>
      stand === 'open' ? [{ orderId, returnId, number, supplierName, sendBy }] : [],
    ),
  );
