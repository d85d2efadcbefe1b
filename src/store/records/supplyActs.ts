import {
  cancelOrder as decideCancel,
  checkInLine,
  noteParcelSent,
  placeOrders as decidePlace,
  type OrderDraft,
  type Receipt,
  type ReturnTerms,
} from '@/core/order';
import {
  harvest,
  idleHere,
  lotOfOffer,
  shelve,
  stock,
  type Lot,
  type StockDecision,
  type StockState,
} from '@/core/stock';
import { takeFromDonor as decideFromDonor, type Refusal, type TicketState } from '@/core/ticket';
import {
  localDateOf,
  ok,
  unique,
  type OrderId,
  type RequirementId,
  type Result,
  type StockId,
  type TicketId,
} from '@/core/units';
import { gone, onOrder } from './acts';
import type { Done, EventStore, Loaded } from './door';

/*
 * What a person asks for that brings parts: orders, parcels, the shelf, donors. Apart from the other acts, so that the first page does not carry it.
 */

/** Makes the orders of a plan, unless a requirement was bought meanwhile. Nothing is sent here. */
export const placeOrders = (
  store: EventStore,
  orders: readonly OrderDraft[],
  zone: string,
): Promise<Result<Done, Refusal>> => {
  const lines = orders.flatMap((order) => order.lines);
  const tickets = unique(lines.flatMap((line) => line.for.map((entry) => entry.ticketId)));
  const stocks = unique(lines.flatMap(({ offerId }) => lotOfOffer(offerId) ?? []));
  return store.act({ tickets, stocks }, (loaded, context) => {
    const day = localDateOf(context.at, zone).replaceAll('-', '').slice(2);
    const numberOf = (orderId: OrderId) => `${day}-${orderId.slice(0, 4).toUpperCase()}`;
    const states = new Map([...loaded.tickets].map(([id, { state }]) => [id, state]));
    return decidePlace(orders, states, statesOf(loaded), numberOf, context);
  });
};

const statesOf = ({ stocks }: Loaded) => new Map([...stocks].map(([id, { state }]) => [id, state]));

export const cancelOrder = (store: EventStore, orderId: OrderId) => onOrder(store, orderId, decideCancel);

export const checkIn = (store: EventStore, orderId: OrderId, receipt: Receipt, terms: ReturnTerms) =>
  onOrder(store, orderId, (order, context) => checkInLine(order, receipt, context, terms));

/** A part from a donor, on both tickets. */
export const takeFromDonor = (store: EventStore, ticketId: TicketId, donorId: TicketId, requirementId: RequirementId) =>
  store.act({ tickets: [ticketId, donorId] }, ({ tickets }) => {
    const [ticket, donor] = [tickets.get(ticketId), tickets.get(donorId)];
    return ticket && donor ? decideFromDonor(ticket.state, donor.state, requirementId) : gone;
  });

/** A decision on one lot, and on a ticket where it is for one. */
export const onLot = (
  store: EventStore,
  stockId: StockId,
  decide: (lot: StockState) => StockDecision,
): Promise<Result<Done, Refusal>> =>
  store.act({ stocks: [stockId] }, ({ stocks }) => {
    const lot = stocks.get(stockId);
    return lot ? decide(lot.state) : gone;
  });

export const onLotAndTicket = (
  store: EventStore,
  stockId: StockId,
  ticketId: TicketId,
  decide: (lot: StockState, ticket: TicketState) => StockDecision,
): Promise<Result<Done, Refusal>> =>
  store.act({ stocks: [stockId], tickets: [ticketId] }, ({ stocks, tickets }) => {
    const [lot, ticket] = [stocks.get(stockId), tickets.get(ticketId)];
    return lot && ticket ? decide(lot.state, ticket.state) : gone;
  });

/** New lots, all or none. */
export const putInStock = (store: EventStore, lots: readonly Lot[]): Promise<Result<Done, Refusal>> =>
  store.act({}, (_, context) => ok(lots.map((lot) => stock(lot, context))));

/** A part out of a donor, for the shelf. */
export const harvestPart = (
  store: EventStore,
  donorId: TicketId,
  part: Parameters<typeof harvest>[1],
  lot: Parameters<typeof harvest>[2],
): Promise<Result<Done, Refusal>> =>
  store.act({ tickets: [donorId] }, ({ tickets }, context) => {
    const donor = tickets.get(donorId);
    return donor ? harvest(donor.state, part, lot, context) : gone;
  });

/** What a ticket has here and needs no more goes on the shelf. */
export const shelvePart = async (
  store: EventStore,
  ticketId: TicketId,
  requirementId: RequirementId,
  currency: string,
): Promise<Result<Done, Refusal>> => {
  const known = await store.ticket(ticketId);
  const stocks = known ? idleHere(known.state).flatMap(({ stockIds }) => stockIds) : [];
  return store.act({ tickets: [ticketId], stocks }, (loaded, context) => {
    const ticket = loaded.tickets.get(ticketId);
    return ticket ? shelve(ticket.state, requirementId, statesOf(loaded), currency, context) : gone;
  });
};

/** Things of several orders that leave for one supplier in one parcel. */
export const sendReturns = (
  store: EventStore,
  returns: readonly { orderId: OrderId; returnId: string }[],
  reference: string,
): Promise<Result<Done, Refusal>> =>
  store.act({ orders: [...new Set(returns.map(({ orderId }) => orderId))] }, ({ orders }) =>
    noteParcelSent(new Map([...orders].map(([id, { state }]) => [id, state])), returns, reference),
  );
