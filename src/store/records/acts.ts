import { mayUndo, type Append, type Decision, type OrderState } from '@/core/order';
import {
  lastToTakeBack,
  mayTakeBack,
  type Context,
  type Fact,
  type Refusal,
  type TicketDecision,
  type TicketEvent,
} from '@/core/ticket';
import { fail, liveEvents, ok, type Result, type OrderId, type TicketId } from '@/core/units';
import type { Done, EventStore, Loaded } from './door';

/*
 * What a person asks for, for any store of events. Each names the streams that it needs, and the core decides on them inside the transaction.
 */

export const gone: Decision = fail({ kind: 'gone' });

/** A decision on one ticket. */
export const onTicket = (
  store: EventStore,
  ticketId: TicketId,
  decide: TicketDecision,
): Promise<Result<Done, Refusal>> =>
  store.act({ tickets: [ticketId] }, ({ tickets }, context) => {
    const ticket = tickets.get(ticketId);
    if (!ticket) return gone;
    const decision = decide(ticket.state, context);
    return decision.ok ? ok([{ kind: 'ticket', ticketId, data: decision.value }]) : decision;
  });

/** A new ticket; its number is given in the transaction that makes it. */
export const openTicket = (store: EventStore, facts: readonly Fact[]): Promise<Result<Done, Refusal>> =>
  store.act({}, ({ lastNumber }, { newId }) =>
    ok([
      {
        kind: 'ticket',
        ticketId: newId(),
        data: [{ type: 'opened', number: lastNumber + 1, customerId: null, machineId: newId() }, ...facts],
      },
    ]),
  );

/** A decision on one order and the tickets that wait for its lines. */
export async function onOrder(
  store: EventStore,
  orderId: OrderId,
  decide: (order: OrderState, context: Context) => Decision,
): Promise<Result<Done, Refusal>> {
  const known = await store.order(orderId);
  if (!known) return fail({ kind: 'gone' });
  // Which tickets an order is for was settled when it was made.
  const tickets = [...new Set(known.state.lines.flatMap((line) => line.for.map((entry) => entry.ticketId)))];
  return store.act({ orders: [orderId], tickets }, ({ orders }, context) => {
    const order = orders.get(orderId);
    return order ? decide(order.state, context) : gone;
  });
}

/** The event that was taken back, to say what it was. */
export type TakenBack = { event: TicketEvent };

/** Takes back what was done last on a ticket, in every stream that the act reached; or says why it cannot. */
export async function takeBack(store: EventStore, ticketId: TicketId): Promise<Result<TakenBack, Refusal>> {
  const known = await store.ticket(ticketId);
  if (!known) return fail({ kind: 'gone' });
  const last = lastToTakeBack(known.events);
  if (!last.ok) return last;
  const { groupId } = last.value;
  const streams = await store.streamsOf(groupId);
  const done = await store.act(streams, (loaded) => {
    const own = loaded.tickets.get(ticketId);
    const now = own ? lastToTakeBack(own.events) : fail<Refusal>({ kind: 'gone' });
    if (!now.ok) return now;
    // Another tab was quicker: what the person meant is no longer the last.
    if (now.value.groupId !== groupId) return fail({ kind: 'nothing-to-take-back', leftTheShop: false });
    for (const [id, { events, state }] of loaded.tickets)
      if (id !== ticketId && !mayTakeBack(events, groupId))
        return fail({ kind: 'others-went-on', ticket: state.number });
    for (const { events, state } of loaded.stocks.values())
      if (liveEvents(events).at(-1)?.groupId !== groupId)
        return fail({ kind: 'lot-went-on', partNumber: state.partNumber });
    for (const { events, state } of loaded.orders.values())
      if (!mayUndo(events, groupId)) return fail({ kind: 'sent-back-since', number: state.number });
    return ok(undone(loaded, groupId));
  });
  return done.ok ? ok({ event: last.value }) : done;
}

function undone({ tickets, orders, stocks }: Loaded, groupId: string): Append[] {
  const ofGroup = (events: Parameters<typeof liveEvents>[0]) =>
    liveEvents(events)
      .filter((event) => event.groupId === groupId)
      .map(({ id }) => ({ type: 'undone' as const, eventId: id }));
  return [
    ...[...tickets].map(([ticketId, { events }]): Append => ({ kind: 'ticket', ticketId, data: ofGroup(events) })),
    ...[...orders].map(([orderId, { events }]): Append => ({ kind: 'order', orderId, data: ofGroup(events) })),
    ...[...stocks].map(([stockId, { events }]): Append => ({ kind: 'stock', stockId, data: ofGroup(events) })),
  ];
}
