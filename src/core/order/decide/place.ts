import type { Context, Refusal, TicketAppend, TicketState } from '../../ticket';
import { mayBuy, supplyOf } from '../../ticket';
import {
  fail,
  ok,
  type Result,
  type OrderId,
  type LineId,
  type PartId,
  type StockId,
  type TicketId,
} from '../../units';
import { lotOfOffer, reserve, SHELF, type StockAppend, type StockState } from '../../stock';
import { isOpened, type SupplierOrder } from '../plan/planPurchases';
import type { OrderEventData } from '../stream/orderStream';

export type OrderAppend = { kind: 'order'; orderId: OrderId; data: readonly OrderEventData[] };
/** What is appended where. The kind of the stream is part of its type: an order's event cannot go to a ticket. */
export type Append = TicketAppend | OrderAppend | StockAppend;
export type Decision = Result<readonly Append[], Refusal>;

/** An order of a plan with the names it is written down with. */
export type OrderDraft = SupplierOrder & {
  supplierName: string;
  modeName: string;
  byHand: boolean;
  parts: ReadonlyMap<string, { partNumber: string; description: string }>;
};

type Stale = Extract<Refusal, { kind: 'plan-is-stale' }>['tickets'][number];

/**
 * Makes the orders of a plan. Every requirement is looked at as it stands now: one that is bought already, no longer wanted, or of a ticket whose yes does
 * not stand stops the whole plan, and says which. What the plan takes off the shelf is no order: its pieces are kept for their tickets. `orderNumber`: the readable number of an order by its id.
 */
export function placeOrders(
  orders: readonly OrderDraft[],
  tickets: ReadonlyMap<TicketId, TicketState>,
  lots: ReadonlyMap<StockId, StockState>,
  orderNumber: (orderId: OrderId) => string,
  { newId }: Context,
): Decision {
  const stale = staleness(orders, tickets);
  if (stale.length) return fail({ kind: 'plan-is-stale', tickets: stale });
  const kept = keepFromShelf(
    orders.filter(({ supplierId }) => supplierId === SHELF.id),
    tickets,
    lots,
  );
  if (!kept.ok) return kept;
  return ok([
    ...kept.value,
    ...orders
      .filter(({ supplierId }) => supplierId !== SHELF.id)
      .flatMap((order): Append[] => {
        const orderId = newId<OrderId>();
        const number = orderNumber(orderId);
        const { supplierId, supplierName, modeId, modeName, shipping, arrivesOn, byHand } = order;
        const named = (partId: PartId, otherwise: string) => ({
          partId,
          partNumber: order.parts.get(partId)?.partNumber ?? otherwise,
          description: order.parts.get(partId)?.description ?? '',
        });
        const lines = order.lines.map((line) => ({
          lineId: newId<LineId>(),
          ...named(line.partId, line.supplierNumber),
          supplierNumber: line.supplierNumber,
          packs: line.packs,
          packPrice: line.packPrice,
          packSize: line.packSize,
          ...(isOpened(line)
            ? { contents: line.contents.map(({ partId, perPack }) => ({ ...named(partId, partId), perPack })) }
            : {}),
          for: line.for.map((entry) => ({ ...entry })),
        }));
        return [
          {
            kind: 'order',
            orderId,
            data: [
              {
                type: 'order-made',
                number,
                supplierId,
                supplierName,
                modeId,
                modeName,
                lines,
                shipping,
                expectedOn: arrivesOn,
                byHand,
              },
            ],
          },
          ...lines.flatMap(({ lineId, for: wanted }) =>
            wanted.map(({ ticketId, requirementId, units }): Append => ({
              kind: 'ticket',
              ticketId,
              data: [
                {
                  type: 'part-ordered',
                  requirementId,
                  orderId,
                  lineId,
                  units,
                  orderNumber: number,
                  supplierName,
                  dueOn: arrivesOn,
                },
              ],
            })),
          ),
        ];
      }),
  ]);
}

/** Keeps what the plan takes off the shelf. Claims of one plan on one lot add up: each is judged after those before it. */
function keepFromShelf(
  orders: readonly OrderDraft[],
  tickets: ReadonlyMap<TicketId, TicketState>,
  lots: ReadonlyMap<StockId, StockState>,
): Decision {
  const free = new Map([...lots].map(([id, lot]) => [id, lot.free]));
  const appends: Append[] = [];
  for (const line of orders.flatMap((order) => order.lines))
    for (const { ticketId, requirementId, units } of line.for) {
      const stockId = lotOfOffer(line.offerId);
      const [lot, ticket] = [stockId && lots.get(stockId), tickets.get(ticketId)];
      if (!stockId || !lot || !ticket) return fail({ kind: 'not-in-stock', partNumber: line.supplierNumber });
      const left = free.get(stockId) ?? 0;
      const kept = reserve({ ...lot, free: left }, ticket, requirementId, units);
      if (!kept.ok) return kept;
      free.set(stockId, left - units);
      appends.push(...kept.value);
    }
  return ok(appends);
}

function staleness(orders: readonly OrderDraft[], tickets: ReadonlyMap<TicketId, TicketState>): Stale[] {
  const wanted = new Map<TicketId, Map<string, number>>();
  for (const { ticketId, requirementId, units } of orders.flatMap((order) => order.lines.flatMap((line) => line.for))) {
    const own = wanted.get(ticketId) ?? new Map<string, number>();
    own.set(requirementId, (own.get(requirementId) ?? 0) + units);
    wanted.set(ticketId, own);
  }
  return [...wanted].flatMap(([ticketId, units]): Stale[] => {
    const ticket = tickets.get(ticketId);
    if (!ticket) return [{ number: 0, why: 'not-wanted' }];
    const { number } = ticket;
    const may = mayBuy(ticket);
    if (!may.ok)
      return [
        {
          number,
          why: may.error.kind === 'closed' ? 'closed' : may.error.kind === 'shaken' ? 'shaken' : 'no-yes',
        },
      ];
    for (const [requirementId, count] of units) {
      const requirement = ticket.round.parts.find((part) => part.requirementId === requirementId);
      if (!requirement) return [{ number, why: 'not-wanted' }];
      if (supplyOf(ticket.deliveries, requirement).missing < count) return [{ number, why: 'ordered' }];
    }
    return [];
  });
}
