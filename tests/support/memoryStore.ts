import type { OrderEvent, OrderState } from '@/core/order';
import {
  liveEvents,
  ok,
  seededRandom,
  type Instant,
  type TicketId,
  type OrderId,
  type StockId,
  type Branded,
  asId,
} from '@/core/units';
import type { StockEvent, StockState } from '@/core/stock';
import type { TicketEvent } from '@/core/ticket';
import {
  doneOf,
  throughTheDoor,
  viewOfOrder,
  viewOfStock,
  viewOfTicket,
  type AnyEvent,
  type EventStore,
  type Loaded,
} from '@/store/records/door';

export type MemoryStore = EventStore & {
  /** Every event, as lines of a backup would hold them: in the order of stream and sequence. */
  lines: () => string[];
  orders: () => OrderState[];
  lots: () => StockState[];
};

/** A store of events that keeps them in memory, behind the same door: for tests that draw thousands of histories. `clock`: the time of the next act. */
export function memoryStore(clock: () => Instant, seed = 1): MemoryStore {
  const tickets = new Map<TicketId, TicketEvent[]>();
  const orders = new Map<OrderId, OrderEvent[]>();
  const stocks = new Map<StockId, StockEvent[]>();
  const random = seededRandom(seed);
  const newId = <Id extends Branded<string>>() =>
    asId<Id>('xxxxxxxx-xxxx-4xxx-8xxx-xxxxxxxxxxxx'.replace(/x/g, () => Math.floor(random() * 16).toString(16)));
  const viewT = (id: TicketId) => {
    const events = tickets.get(id);
    return events ? viewOfTicket(events) : null;
  };
  const viewO = (id: OrderId) => {
    const events = orders.get(id);
    return events ? viewOfOrder(events) : null;
  };
  const viewS = (id: StockId) => {
    const events = stocks.get(id);
    return events ? viewOfStock(events) : null;
  };
  const all = (): AnyEvent[] => [...tickets.values(), ...orders.values(), ...stocks.values()].flat();
  return {
    act: async (streams, decide) => {
      const loaded: Loaded = {
        tickets: new Map(
          (streams.tickets ?? [])
            .flatMap((id) => [[id, viewT(id)] as const])
            .flatMap(([id, view]) => (view ? [[id, view] as const] : [])),
        ),
        orders: new Map(
          (streams.orders ?? [])
            .flatMap((id) => [[id, viewO(id)] as const])
            .flatMap(([id, view]) => (view ? [[id, view] as const] : [])),
        ),
        stocks: new Map(
          (streams.stocks ?? [])
            .flatMap((id) => [[id, viewS(id)] as const])
            .flatMap(([id, view]) => (view ? [[id, view] as const] : [])),
        ),
        lastNumber: Math.max(0, ...[...tickets.values()].map((events) => viewOfTicket(events).state.number)),
      };
      const decided = throughTheDoor(loaded, decide, { at: clock(), newId });
      if (!decided.ok) return decided;
      for (const grown of decided.value) {
        if (grown.kind === 'ticket') tickets.set(grown.id, [...grown.before, ...grown.added]);
        else if (grown.kind === 'order') orders.set(grown.id, [...grown.before, ...grown.added]);
        else stocks.set(grown.id, [...grown.before, ...grown.added]);
      }
      return ok(doneOf(decided.value));
    },
    ticket: async (id) => viewT(id),
    order: async (id) => viewO(id),
    stock: async (id) => viewS(id),
    streamsOf: async (groupId) => {
      const names = [...new Set(all().flatMap((event) => (event.groupId === groupId ? [event.stream] : [])))];
      const of = <Id extends Branded<string>>(kind: string) =>
        names.flatMap((name) => (name.startsWith(`${kind}:`) ? [asId<Id>(name.slice(kind.length + 1))] : []));
      return { tickets: of<TicketId>('ticket'), orders: of<OrderId>('order'), stocks: of<StockId>('stock') };
    },
    lines: () =>
      all()
        .sort((a, b) => (a.stream < b.stream ? -1 : a.stream > b.stream ? 1 : a.sequence - b.sequence))
        .map((event) => JSON.stringify(event)),
    lots: () => [...stocks.values()].flatMap((events) => viewOfStock(events)?.state ?? []),
    orders: () =>
      [...orders.values()].flatMap((events) => (liveEvents(events).length ? (viewOfOrder(events)?.state ?? []) : [])),
  };
}
