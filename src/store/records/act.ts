import Dexie from 'dexie';
import { applyOrderEvents, hasOpenReturns } from '@/core/order';
import { lessonOf } from '@/core/learn';
import { applyStockEvents, type StockState } from '@/core/stock';
import { applyEvents, summarise, waitedIn, type Refusal } from '@/core/ticket';
import {
  defined,
  ok,
  stableJson,
  type Result,
  type OrderId,
  type StockId,
  type TicketId,
  type Branded,
  asId,
} from '@/core/units';
import { now } from '../clock';
import { database, type SorterDatabase, type SummaryRecord } from '../database';

import {
  doneOf,
  orderStream,
  stockStream,
  throughTheDoor,
  ticketStream,
  viewOfOrder,
  viewOfStock,
  viewOfTicket,
  type AnyEvent,
  type Decide,
  type Done,
  type EventStore,
  type Grown,
  type Loaded,
  type StreamNames,
} from './door';
import { isOrderEvents, isStockEvents, isTicketEvents } from './parse';
import { CLOSED_VERSION, OWN_VERSION, STOCK_VERSION } from './versions';

const TABLES = ['events', 'summaries', 'customers', 'machines', 'meta'] as const;

export const eventsOf = (db: SorterDatabase, stream: string): Promise<AnyEvent[]> =>
  db.events.where('[stream+sequence]').between([stream, Dexie.minKey], [stream, Dexie.maxKey]).toArray();

async function ticketEvents(db: SorterDatabase, ticketId: TicketId) {
  const events = await eventsOf(db, ticketStream(ticketId));
  return isTicketEvents(events) ? viewOfTicket(events) : null;
}

async function orderEvents(db: SorterDatabase, orderId: OrderId) {
  const events = await eventsOf(db, orderStream(orderId));
  return isOrderEvents(events) ? viewOfOrder(events) : null;
}

async function stockEvents(db: SorterDatabase, stockId: StockId) {
  const events = await eventsOf(db, stockStream(stockId));
  return isStockEvents(events) ? viewOfStock(events) : null;
}

async function load(db: SorterDatabase, { tickets = [], orders = [], stocks = [] }: StreamNames): Promise<Loaded> {
  const last = await db.summaries
    .where('[kind+number]')
    .between(['ticket', Dexie.minKey], ['ticket', Dexie.maxKey])
    .last();
  const found: Omit<Loaded, 'lastNumber'> = {
    tickets: new Map(
      (await Promise.all(tickets.map(async (id) => [id, await ticketEvents(db, id)] as const))).flatMap(([id, view]) =>
        view ? [[id, view]] : [],
      ),
    ),
    orders: new Map(
      (await Promise.all(orders.map(async (id) => [id, await orderEvents(db, id)] as const))).flatMap(([id, view]) =>
        view ? [[id, view]] : [],
      ),
    ),
    stocks: new Map(
      (await Promise.all(stocks.map(async (id) => [id, await stockEvents(db, id)] as const))).flatMap(([id, view]) =>
        view ? [[id, view]] : [],
      ),
    ),
  };
  return { ...found, lastNumber: last?.number ?? 0 };
}

/** The summary that belongs to a stream's events; null for an empty stream. */
export function summaryOf(stream: string, events: readonly AnyEvent[]): SummaryRecord | null {
  if (isTicketEvents(events)) {
    const state = applyEvents(events);
    const summary = summarise(state);
    const { number, closed } = summary;
    const lesson = lessonOf(state, waitedIn(events));
    return { stream, kind: 'ticket', open: closed ? 0 : 1, number, modelId: lesson.modelId ?? '', summary, lesson };
  }
  if (isOrderEvents(events)) {
    const summary = applyOrderEvents(events);
    return summary
      ? {
          stream,
          kind: 'order',
          open: summary.phase === 'done' && !hasOpenReturns(summary) ? 0 : 1,
          number: 0,
          modelId: '',
          summary,
        }
      : null;
  }
  if (isStockEvents(events)) {
    const summary = applyStockEvents(events);
    // A lot with nothing in it and nobody's claim is past.
    return summary
      ? {
          stream,
          kind: 'stock',
          open: summary.units === 0 && summary.reserved.length === 0 ? 0 : 1,
          number: 0,
          modelId: '',
          summary,
        }
      : null;
  }
  return null;
}

async function grow(db: SorterDatabase, grown: readonly Grown[]): Promise<void> {
  for (const { stream, before, added } of grown) {
    const all: AnyEvent[] = [...before, ...added];
    const was = before.length ? summaryOf(stream, before) : null;
    await db.events.bulkAdd([...added]);
    const summary = summaryOf(stream, all);
    if (summary) await db.summaries.put(summary);
    // What was taken back from its very beginning is gone.
    else await db.summaries.delete(stream);
    if (summary?.kind === 'stock' || was?.kind === 'stock')
      await db.meta.put({ key: STOCK_VERSION, value: defined(added[0], 'an act adds something').id });
    if (summary?.kind === 'ticket' && (summary.open === 0 || was?.open === 0))
      await db.meta.put({ key: CLOSED_VERSION, value: defined(added[0], 'an act adds something').groupId });
    if (taught(summary) !== taught(was))
      await db.meta.put({ key: OWN_VERSION, value: defined(added[0], 'an act adds something').id });
    await remember(db, all);
  }
}

/** What the shop's own layer of the catalogue takes from a stream, as a text. */
function taught(record: SummaryRecord | null): string {
  if (record?.kind === 'ticket') {
    const { at, unlisted, typed, measured, fitted, modelId } = record.lesson;
    const sizes = Object.keys(typed).map((roleId) => measured[roleId]);
    return unlisted || fitted.length || Object.keys(typed).length
      ? stableJson({ at, unlisted, typed, sizes, fitted, modelId })
      : '';
  }
  return record?.kind === 'order'
    ? stableJson(
        record.summary.lines.map(({ status, answeredNumber, received }) => [status, answeredNumber, received.length]),
      )
    : '';
}

/** Customers and machines are known beyond their ticket. */
async function remember(db: SorterDatabase, all: readonly AnyEvent[]): Promise<void> {
  if (!isTicketEvents(all)) return;
  const { customer, machineId, plate, serial } = applyEvents(all);
  if (customer) {
    const { customerId: id, name, phone, place } = customer;
    await db.customers.put({ id, name, phone, place });
  }
  if (machineId && plate && serial)
    await db.machines.put({
      id: machineId,
      modelId: plate.modelId,
      modelNumber: plate.modelNumber,
      serial,
      customerId: customer?.customerId ?? null,
    });
}

/** Takes in events that were made elsewhere, in one transaction with the pictures of their ticket. `take` decides on what is here. */
export const takeIn = <T>(
  db: SorterDatabase,
  take: () => Promise<{ outcome: T; grown: readonly Grown[] }>,
): Promise<T> =>
  db.transaction(
    'rw',
    [...TABLES, 'photos' as const].map((name) => db.table(name)),
    async () => {
      const { outcome, grown } = await take();
      await grow(db, grown);
      return outcome;
    },
  );

const RETRIES = 3;

/** The events of the browser's database: the only place that writes them. */
export const dexieStore = (db: SorterDatabase): EventStore => ({
  act: async (streams: StreamNames, decide: Decide): Promise<Result<Done, Refusal>> => {
    for (let attempt = 1; ; attempt += 1) {
      try {
        return await db.transaction(
          'rw',
          TABLES.map((name) => db.table(name)),
          async () => {
            const context = { at: now(), newId: <Id extends Branded<string>>() => asId<Id>(crypto.randomUUID()) };
            const decided = throughTheDoor(await load(db, streams), decide, context);
            if (!decided.ok) return decided;
            await grow(db, decided.value);
            return ok(doneOf(decided.value));
          },
        );
      } catch (error) {
        // Two tabs that number the same event: the second reads again.
        const clash = error instanceof Error && ['ConstraintError', 'BulkError'].includes(error.name);
        if (!clash || attempt >= RETRIES) throw error;
      }
    }
  },
  ticket: (ticketId) => ticketEvents(db, ticketId),
  order: (orderId) => orderEvents(db, orderId),
  stock: (stockId) => stockEvents(db, stockId),
  streamsOf: async (groupId) => {
    const events = await db.events.where('groupId').equals(groupId).toArray();
    const names = [...new Set(events.map(({ stream }) => stream))];
    const of = <Id extends Branded<string>>(kind: string) =>
      names.flatMap((name) => (name.startsWith(`${kind}:`) ? [asId<Id>(name.slice(kind.length + 1))] : []));
    return { tickets: of<TicketId>('ticket'), orders: of<OrderId>('order'), stocks: of<StockId>('stock') };
  },
});

/** Lots on the shelf: with something in them (1), or past (0). */
export const lotsOf = async (db: SorterDatabase, open: 0 | 1 = 1): Promise<StockState[]> =>
  (await db.summaries.where('[kind+open]').equals(['stock', open]).toArray()).flatMap((record) =>
    record.kind === 'stock' ? [record.summary] : [],
  );

/** The store of this page or worker. */
export const eventStore = (): EventStore => dexieStore(database());

/** Rebuilds every summary, and what is known of customers and machines, from the events. */
export async function rebuildSummaries(db: SorterDatabase): Promise<void> {
  const streams = new Map<string, AnyEvent[]>();
  await db.events.orderBy('[stream+sequence]').each((event) => {
    const known = streams.get(event.stream);
    if (known) known.push(event);
    else streams.set(event.stream, [event]);
  });
  await db.summaries.clear();
  await db.summaries.bulkPut([...streams].flatMap(([stream, list]) => summaryOf(stream, list) ?? []));
  const version = crypto.randomUUID();
  await db.meta.bulkPut([
    { key: CLOSED_VERSION, value: version },
    { key: OWN_VERSION, value: version },
    { key: STOCK_VERSION, value: version },
  ]);
}
