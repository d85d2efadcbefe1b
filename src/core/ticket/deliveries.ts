import { laterOf, sum, type LocalDate, type OrderId, type RequirementId, type LineId, type StockId } from '../units';
import type { Requirement, TicketEventOf } from './events';

type Source = TicketEventOf<'part-received'>['from'];

/** What one line of an order (or the shelf, or a donor) brings of a requirement. */
export type Delivery = {
  from: Source;
  orderNumber: string;
  supplierName: string;
  dueOn: LocalDate | null;
  /** Ordered units, and how many of them are here. */
  units: number;
  here: number;
  partNumber: string | null;
  verdict: TicketEventOf<'part-received'>['verdict'] | null;
};

export type Deliveries = Readonly<Record<string, readonly Delivery[]>>;

type OrderLineKey = { orderId: OrderId; lineId: LineId };
const isOf =
  ({ orderId, lineId }: OrderLineKey) =>
  ({ from }: Delivery): boolean =>
    from.kind === 'order' && from.orderId === orderId && from.lineId === lineId;

const changed = (
  all: Deliveries,
  requirementId: RequirementId,
  change: (list: readonly Delivery[]) => readonly Delivery[],
): Deliveries => ({ ...all, [requirementId]: change(all[requirementId] ?? []) });

export const afterOrdered = (all: Deliveries, data: TicketEventOf<'part-ordered'>): Deliveries =>
  changed(all, data.requirementId, (list) => [
    ...list.filter((delivery) => !isOf(data)(delivery)),
    {
      from: { kind: 'order', orderId: data.orderId, lineId: data.lineId },
      orderNumber: data.orderNumber,
      supplierName: data.supplierName,
      dueOn: data.dueOn,
      units: data.units,
      here: 0,
      partNumber: null,
      verdict: null,
    },
  ]);

export const afterDue = (all: Deliveries, data: TicketEventOf<'part-due'>): Deliveries =>
  changed(all, data.requirementId, (list) =>
    list.map((delivery) => (isOf(data)(delivery) ? { ...delivery, dueOn: data.dueOn } : delivery)),
  );

/** What is here already stays here: only what was still to come falls away. */
export const afterCancelled = (all: Deliveries, data: TicketEventOf<'part-order-cancelled'>): Deliveries =>
  changed(all, data.requirementId, (list) =>
    list.flatMap((delivery) =>
      !isOf(data)(delivery) ? [delivery] : delivery.here > 0 ? [{ ...delivery, units: delivery.here }] : [],
    ),
  );

export function afterReceived(all: Deliveries, data: TicketEventOf<'part-received'>): Deliveries {
  const { from, units, partNumber, verdict } = data;
  return changed(all, data.requirementId, (list) => {
    if (from.kind === 'order' && list.some(isOf(from)))
      return list.flatMap((delivery) => {
        if (!isOf(from)(delivery)) return [delivery];
        // A wrong part goes back: so many fewer are to come.
        if (verdict === 'wrong') {
          const left = delivery.units - units;
          return left > 0 ? [{ ...delivery, units: left }] : [];
        }
        return [{ ...delivery, here: Math.min(delivery.units, delivery.here + units), partNumber, verdict }];
      });
    if (verdict === 'wrong') return list;
    const { stockId } = from.kind === 'shelf' ? from : {};
    const claim = list.findIndex((delivery) => stockId !== undefined && isReserved(delivery, stockId));
    if (claim >= 0)
      return list.map((delivery, index) =>
        index === claim
          ? {
              ...delivery,
              units: Math.max(delivery.units, delivery.here + units),
              here: delivery.here + units,
              partNumber,
              verdict,
            }
          : delivery,
      );
    return [...list, { from, orderNumber: '', supplierName: '', dueOn: null, units, here: units, partNumber, verdict }];
  });
}

/** Kept for it on the shelf: it comes as soon as somebody fetches it. */
export const afterReserved = (all: Deliveries, data: TicketEventOf<'part-reserved'>): Deliveries =>
  changed(all, data.requirementId, (list) => [
    ...list,
    {
      from: { kind: 'shelf', stockId: data.stockId },
      orderNumber: '',
      supplierName: data.place,
      dueOn: null,
      units: data.units,
      here: 0,
      partNumber: data.partNumber,
      verdict: null,
    },
  ]);

export const afterReleased = (all: Deliveries, data: TicketEventOf<'reservation-released'>): Deliveries =>
  changed(all, data.requirementId, (list) =>
    list.flatMap((delivery) =>
      !isReserved(delivery, data.stockId)
        ? [delivery]
        : delivery.here > 0
          ? [{ ...delivery, units: delivery.here }]
          : [],
    ),
  );

/** Of what is here so many pieces go: the latest that came first. */
export const afterShelved = (all: Deliveries, data: TicketEventOf<'part-shelved'>): Deliveries => {
  let left = data.units;
  return changed(all, data.requirementId, (list) =>
    [...list]
      .reverse()
      .flatMap((delivery) => {
        const gone = Math.min(left, delivery.here);
        left -= gone;
        return delivery.units > gone ? [{ ...delivery, units: delivery.units - gone, here: delivery.here - gone }] : [];
      })
      .reverse(),
  );
};

/** A claim on the shelf of which something is still to be fetched. */
export const isReserved = ({ from, units, here }: Delivery, stockId?: StockId): boolean =>
  from.kind === 'shelf' &&
  from.stockId !== undefined &&
  here < units &&
  (stockId === undefined || from.stockId === stockId);

export type Supply = {
  /** Units that are here, on the way, and neither. */
  here: number;
  coming: number;
  missing: number;
  deliveries: readonly Delivery[];
  /** When the last of what is on the way is due; null when a date is missing or nothing comes. What is kept on the shelf is at hand. */
  dueOn: LocalDate | null;
};

/** Where a requirement stands, in units. A part of the shelf's own route needs nothing. */
export function supplyOf(all: Deliveries, requirement: Requirement): Supply {
  const deliveries = all[requirement.requirementId] ?? [];
  const here = sum(deliveries.map((delivery) => delivery.here));
  const coming = sum(deliveries.map((delivery) => delivery.units - delivery.here));
  const wanted = requirement.route === 'shelf' ? 0 : requirement.bought.quantity;
  return { here, coming, missing: Math.max(0, wanted - here - coming), deliveries, dueOn: lastDue(deliveries) };
}

function lastDue(deliveries: readonly Delivery[]): LocalDate | null {
  const dates = deliveries
    .filter((delivery) => delivery.here < delivery.units && !isReserved(delivery))
    .map(({ dueOn }) => dueOn);
  return dates.reduce<LocalDate | null>(
    (last, date) => (last === null || date === null ? null : laterOf(last, date)),
    dates[0] ?? null,
  );
}
