import { orderEventSchema, type OrderEvent } from '@/core/order';
import { stockEventSchema, type StockEvent } from '@/core/stock';
import { ticketEventSchema, type TicketEvent } from '@/core/ticket';
import { instantSchema, idSchema, type EventId } from '@/core/units';
import * as z from '@/core/units/zod';

const envelope = {
  id: idSchema<EventId>(),
  sequence: z.number().int().min(1),
  version: z.number().int().min(1),
  at: instantSchema,
  groupId: z.string().min(1),
};

const ticketStored = z.object({ ...envelope, stream: z.string().startsWith('ticket:'), data: ticketEventSchema });
const orderStored = z.object({ ...envelope, stream: z.string().startsWith('order:'), data: orderEventSchema });
const stockStored = z.object({ ...envelope, stream: z.string().startsWith('stock:'), data: stockEventSchema });

/** What an event looks like in the table and in a backup: whatever the door lets in parses here. */
export const storedEventSchema = z.union([ticketStored, orderStored, stockStored]);

const ofStream = (event: { stream: string }, kind: string) => event.stream.startsWith(`${kind}:`);

/** Rows of this database were parsed when they came in; the stream's name tells which kind they are. */
export const isTicketEvents = (events: readonly { stream: string }[]): events is TicketEvent[] =>
  events.length > 0 && events.every((event) => ofStream(event, 'ticket'));
export const isOrderEvents = (events: readonly { stream: string }[]): events is OrderEvent[] =>
  events.length > 0 && events.every((event) => ofStream(event, 'order'));
export const isStockEvents = (events: readonly { stream: string }[]): events is StockEvent[] =>
  events.length > 0 && events.every((event) => ofStream(event, 'stock'));
