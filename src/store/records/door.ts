import {
  applyOrderEvents,
  ORDER_EVENT_VERSION,
  orderEventSchema,
  type Append,
  type Decision,
  type OrderEvent,
  type OrderState,
} from '@/core/order';
import {
  applyEvents,
  TICKET_EVENT_VERSION,
  ticketEventSchema,
  type Context,
  type Refusal,
  type TicketEvent,
  type TicketView,
} from '@/core/ticket';
import {
  applyStockEvents,
  STOCK_EVENT_VERSION,
  stockEventSchema,
  type StockEvent,
  type StockState,
} from '@/core/stock';
import { fail, ok, type Result, type OrderId, type StockId, type TicketId, type EventId } from '@/core/units';
import type * as z from '@/core/units/zod';

export type AnyEvent = TicketEvent | OrderEvent | StockEvent;
export type StreamNames = {
  tickets?: readonly TicketId[];
  orders?: readonly OrderId[];
  stocks?: readonly StockId[];
};

export type OrderView = { state: OrderState; events: readonly OrderEvent[] };
export type StockView = { state: StockState; events: readonly StockEvent[] };
/** The streams that an act named, as they stand inside its transaction. */
export type Loaded = {
  tickets: ReadonlyMap<TicketId, TicketView>;
  orders: ReadonlyMap<OrderId, OrderView>;
  stocks: ReadonlyMap<StockId, StockView>;
  /** The highest number given to a ticket. */
  lastNumber: number;
};
export type Decide = (loaded: Loaded, context: Context) => Decision;

export const ticketStream = (ticketId: TicketId) => `ticket:${ticketId}`;
export const orderStream = (orderId: OrderId) => `order:${orderId}`;
export const stockStream = (stockId: StockId) => `stock:${stockId}`;

/** What an act adds to one stream, with what was there before. */
export type Grown =
  | { kind: 'ticket'; id: TicketId; stream: string; before: readonly TicketEvent[]; added: readonly TicketEvent[] }
  | { kind: 'order'; id: OrderId; stream: string; before: readonly OrderEvent[]; added: readonly OrderEvent[] }
  | { kind: 'stock'; id: StockId; stream: string; before: readonly StockEvent[]; added: readonly StockEvent[] };

/** What was done: the group of its events, and the streams that grew. */
export type Done = { groupId: string; tickets: TicketId[]; orders: OrderId[]; stocks: StockId[] };

export const viewOfTicket = (events: readonly TicketEvent[]): TicketView => ({ state: applyEvents(events), events });
export function viewOfStock(events: readonly StockEvent[]): StockView | null {
  const state = applyStockEvents(events);
  return state && { state, events };
}
export function viewOfOrder(events: readonly OrderEvent[]): OrderView | null {
  const state = applyOrderEvents(events);
  return state && { state, events };
}

/**
 * The one door: decides on the streams as they stand, parses every event by the schema that reads it back, and numbers it. Pure; a store calls it
 * inside its transaction. Events of one act share a group.
 */
export function throughTheDoor(loaded: Loaded, decide: Decide, context: Context): Result<Grown[], Refusal> {
  const decision = decide(loaded, context);
  if (!decision.ok) return decision;
  const groupId = context.newId();
  const grown: Grown[] = [];
  for (const append of merged(decision.value)) {
    const parsed = parseAll(SCHEMAS[append.kind], append.data);
    if (!parsed.ok) return parsed;
    grown.push(numbered(append, loaded, groupId, context));
  }
  return ok(grown);
}

const SCHEMAS: Record<Append['kind'], z.ZodType> = {
  ticket: ticketEventSchema,
  order: orderEventSchema,
  stock: stockEventSchema,
};

const streamOf = (append: Append): string =>
  append.kind === 'ticket'
    ? ticketStream(append.ticketId)
    : append.kind === 'order'
      ? orderStream(append.orderId)
      : stockStream(append.stockId);

/** One entry per stream, in the order in which they were named first. */
function merged(appends: readonly Append[]): Append[] {
  const streams = new Map<string, Append>();
  for (const append of appends) {
    if (append.data.length === 0) continue;
    const key = streamOf(append);
    const known = streams.get(key);
    if (known?.kind === 'ticket' && append.kind === 'ticket')
      streams.set(key, { ...known, data: [...known.data, ...append.data] });
    else if (known?.kind === 'order' && append.kind === 'order')
      streams.set(key, { ...known, data: [...known.data, ...append.data] });
    else if (known?.kind === 'stock' && append.kind === 'stock')
      streams.set(key, { ...known, data: [...known.data, ...append.data] });
    else streams.set(key, append);
  }
  return [...streams.values()];
}

function parseAll(schema: z.ZodType, data: readonly { type: string }[]): Result<null, Refusal> {
  for (const entry of data) {
    const read = schema.safeParse(entry);
    const [issue] = read.success ? [] : read.error.issues;
    if (issue)
      return fail({
        kind: 'does-not-fit',
        field: `${entry.type} ${issue.path.join('.')}`.trim(),
        why: issue.code,
        limit: issue.code === 'too_big' ? Number(issue.maximum) : null,
      });
  }
  return ok(null);
}

function numbered(append: Append, loaded: Loaded, groupId: string, { at, newId }: Context): Grown {
  const envelope = (stream: string, before: readonly AnyEvent[], index: number, version: number) => ({
    id: newId<EventId>(),
    stream,
    sequence: (before.at(-1)?.sequence ?? 0) + 1 + index,
    version,
    at,
    groupId,
  });
  if (append.kind === 'ticket') {
    const { ticketId: id } = append;
    const stream = ticketStream(id);
    const before = loaded.tickets.get(id)?.events ?? [];
    const added = append.data.map((data, index): TicketEvent => ({
      ...envelope(stream, before, index, TICKET_EVENT_VERSION),
      data,
    }));
    return { kind: 'ticket', id, stream, before, added };
  }
  if (append.kind === 'stock') {
    const { stockId: id } = append;
    const stream = stockStream(id);
    const before = loaded.stocks.get(id)?.events ?? [];
    const added = append.data.map((data, index): StockEvent => ({
      ...envelope(stream, before, index, STOCK_EVENT_VERSION),
      data,
    }));
    return { kind: 'stock', id, stream, before, added };
  }
  const { orderId: id } = append;
  const stream = orderStream(id);
  const before = loaded.orders.get(id)?.events ?? [];
  const added = append.data.map((data, index): OrderEvent => ({
    ...envelope(stream, before, index, ORDER_EVENT_VERSION),
    data,
  }));
  return { kind: 'order', id, stream, before, added };
}

export const doneOf = (grown: readonly Grown[]): Done => ({
  groupId: grown[0]?.added[0]?.groupId ?? '',
  tickets: grown.flatMap((entry) => (entry.kind === 'ticket' ? [entry.id] : [])),
  orders: grown.flatMap((entry) => (entry.kind === 'order' ? [entry.id] : [])),
  stocks: grown.flatMap((entry) => (entry.kind === 'stock' ? [entry.id] : [])),
});

/** A store of events: whatever keeps them, acts go through its one door and are all or nothing. */
export type EventStore = {
  /** Names the streams, decides on them as they stand, and appends: one transaction. */
  act: (streams: StreamNames, decide: Decide) => Promise<Result<Done, Refusal>>;
  ticket: (ticketId: TicketId) => Promise<TicketView | null>;
  order: (orderId: OrderId) => Promise<OrderView | null>;
  stock: (stockId: StockId) => Promise<StockView | null>;
  /** The streams in which events of a group lie. */
  streamsOf: (groupId: string) => Promise<Required<StreamNames>>;
};
