import Dexie from 'dexie';
import { applyOrderEvents, type OrderEventData, type OrderState } from '@/core/order';
import {
  applyEvents,
  NOT_UNDOABLE,
  summarise,
  TICKET_EVENT_VERSION,
  type TicketEventData,
  type TicketState,
} from '@/core/ticket';
import { liveEvents } from '@/core/units';
import { now } from '../clock';
import { database, type AnyEvent, type SorterDatabase, type SummaryRecord } from '../database';
import { isOrderEvents, isTicketEvents } from './parse';

export const ticketStream = (ticketId: string) => `ticket:${ticketId}`;
export const orderStream = (orderId: string) => `order:${orderId}`;

const ORDER_EVENT_VERSION = 1;

export const eventsOf = (db: SorterDatabase, stream: string): Promise<AnyEvent[]> =>
  db.events.where('[stream+sequence]').between([stream, Dexie.minKey], [stream, Dexie.maxKey]).toArray();

/** The summary that belongs to a stream's events; null for an empty stream. */
export function summaryOf(stream: string, events: readonly AnyEvent[]): SummaryRecord | null {
  if (isTicketEvents(events)) {
    const summary = summarise(applyEvents(events));
    return {
      stream,
      kind: 'ticket',
      open: summary.closed ? 0 : 1,
      number: summary.number,
      modelId: summary.modelId ?? '',
      summary,
    };
  }
  if (isOrderEvents(events)) {
    const summary = applyOrderEvents(events);
    return summary
      ? { stream, kind: 'order', open: summary.phase === 'done' ? 0 : 1, number: 0, modelId: '', summary }
      : null;
  }
  return null;
}

export type Append = { stream: string; data: readonly (TicketEventData | OrderEventData)[] };

/** Tables that an append touches; a caller with a transaction of its own must open at least these. */
export const APPEND_TABLES = ['events', 'summaries', 'customers', 'machines', 'outbox', 'meta'] as const;

/** Appends to streams and rewrites their summaries, inside the caller's transaction. */
export async function appendWithin(db: SorterDatabase, appends: readonly Append[], at = now()): Promise<void> {
  for (const { stream, data } of appends) {
    const before = await eventsOf(db, stream);
    const first = (before.at(-1)?.sequence ?? 0) + 1;
    const version = stream.startsWith('ticket:') ? TICKET_EVENT_VERSION : ORDER_EVENT_VERSION;
    const added = data.map((entry, index): AnyEvent => ({
      id: crypto.randomUUID(),
      stream,
      sequence: first + index,
      version,
      at,
      data: entry,
    }));
    await db.events.bulkAdd(added);
    const summary = summaryOf(stream, [...before, ...added]);
    if (summary) await db.summaries.put(summary);
    for (const event of added) await remember(db, event, [...before, ...added]);
  }
}

/** Customers and machines are known beyond their ticket. */
async function remember(db: SorterDatabase, event: AnyEvent, all: readonly AnyEvent[]): Promise<void> {
  const { data } = event;
  if (data.type === 'customer-noted')
    await db.customers.put({ id: data.customerId, name: data.name, phone: data.phone, place: data.place });
  if ((data.type === 'serial-noted' || data.type === 'plate-read') && isTicketEvents(all)) {
    const state = applyEvents(all);
    if (state.machineId && state.plate && state.serial)
      await db.machines.put({
        id: state.machineId,
        modelId: state.plate.modelId,
        modelNumber: state.plate.modelNumber,
        serial: state.serial,
        customerId: state.customer?.customerId ?? null,
      });
  }
}

const RETRIES = 3;

/** One user action, one transaction. A clash of sequences with another tab reloads and tries again. */
export async function append(
  appends: readonly Append[],
  alongside?: (db: SorterDatabase) => Promise<void>,
): Promise<void> {
  const db = database();
  for (let attempt = 1; ; attempt += 1) {
    try {
      await db.transaction(
        'rw',
        APPEND_TABLES.map((name) => db.table(name)),
        async () => {
          await appendWithin(db, appends);
          await alongside?.(db);
        },
      );
      return;
    } catch (error) {
      if (
        !(error instanceof Dexie.ConstraintError || (error instanceof Error && error.name === 'BulkError')) ||
        attempt >= RETRIES
      )
        throw error;
    }
  }
}

export const record = (ticketId: string, ...data: TicketEventData[]): Promise<void> =>
  append([{ stream: ticketStream(ticketId), data }]);

/** Opens a ticket; its number is given in the transaction that makes it. */
export async function openTicket(...first: TicketEventData[]): Promise<string> {
  const db = database();
  const ticketId = crypto.randomUUID();
  await db.transaction(
    'rw',
    APPEND_TABLES.map((name) => db.table(name)),
    async () => {
      const last = await db.summaries
        .where('[kind+number]')
        .between(['ticket', Dexie.minKey], ['ticket', Dexie.maxKey])
        .last();
      const number = (last?.number ?? 0) + 1;
      await appendWithin(db, [
        {
          stream: ticketStream(ticketId),
          data: [{ type: 'opened', number, customerId: null, machineId: crypto.randomUUID() }, ...first],
        },
      ]);
    },
  );
  return ticketId;
}

/** The event that undo would take back; null when there is none. */
export function undoable(events: readonly AnyEvent[]): AnyEvent | null {
  if (!isTicketEvents(events)) return null;
  const last = liveEvents(events).at(-1);
  return last && !NOT_UNDOABLE.includes(last.data.type) ? last : null;
}

/** Takes back the latest thing that can be taken back; returns what it was. */
export async function undoLast(ticketId: string): Promise<AnyEvent | null> {
  const stream = ticketStream(ticketId);
  const last = undoable(await eventsOf(database(), stream));
  if (last) await append([{ stream, data: [{ type: 'undone', eventId: last.id }] }]);
  return last;
}

export async function loadTicket(ticketId: string): Promise<{ state: TicketState; events: AnyEvent[] } | null> {
  const events = await eventsOf(database(), ticketStream(ticketId));
  return isTicketEvents(events) ? { state: applyEvents(events), events } : null;
}

export async function loadOrder(orderId: string): Promise<OrderState | null> {
  const events = await eventsOf(database(), orderStream(orderId));
  return isOrderEvents(events) ? applyOrderEvents(events) : null;
}

/** Rebuilds every summary from the events: after a restore, and when the shape of summaries changes. */
export async function rebuildSummaries(db: SorterDatabase): Promise<void> {
  const events = await db.events.orderBy('[stream+sequence]').toArray();
  const streams = new Map<string, AnyEvent[]>();
  for (const event of events) streams.set(event.stream, [...(streams.get(event.stream) ?? []), event]);
  await db.summaries.clear();
  await db.summaries.bulkPut([...streams].flatMap(([stream, list]) => summaryOf(stream, list) ?? []));
}
