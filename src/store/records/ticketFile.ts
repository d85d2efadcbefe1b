import type { TicketFileOutcome } from '@/core/ticket';
import { asId, instantSchema, type TicketId } from '@/core/units';
import * as z from '@/core/units/zod';
import { fromBase64, toBase64 } from '../base64';
import type { SorterDatabase } from '../database';
import { eventsOf, takeIn } from './act';
import { ticketStream, viewOfTicket, type AnyEvent } from './door';
import { isTicketEvents, storedEventSchema } from './parse';
import { RECORD_VERSION } from './version';

const FORMAT = 'sorter-ticket';
/** Larger than any ticket with its pictures. */
const LARGEST_BYTES = 200_000_000;

const fileSchema = z.object({
  format: z.literal(FORMAT),
  version: z.number().int(),
  events: z.array(storedEventSchema).min(1),
  photos: z.array(
    z.object({
      id: z.string().min(1).max(200),
      at: instantSchema,
      type: z.string().max(100),
      of: z.literal('bench').optional(),
      base64: z.string().transform((text, context) => {
        try {
          return fromBase64(text);
        } catch {
          context.issues.push({ code: 'custom', message: 'is no picture', input: text });
          return z.NEVER;
        }
      }),
    }),
  ),
});

/** One ticket with all that was noted on it and its pictures: for another device or another person. null: there is none. */
export async function ticketToFile(db: SorterDatabase, ticketId: TicketId): Promise<Blob | null> {
  const events = await eventsOf(db, ticketStream(ticketId));
  if (events.length === 0) return null;
  const photos = await db.photos.where('ticketId').equals(ticketId).sortBy('at');
  const file: z.input<typeof fileSchema> = {
    format: FORMAT,
    version: RECORD_VERSION,
    events,
    photos: photos.map(({ id, at, type, of, bytes }) => ({
      id,
      at,
      type,
      ...(of ? { of } : {}),
      base64: toBase64(bytes),
    })),
  };
  return new Blob([JSON.stringify(file)], { type: 'application/json' });
}

/**
 * Takes a ticket's file in: a ticket that is not here yet, or what went on there since. All or nothing; one that is further here stays as it is, and its missing pictures
 * are filled in. O(events + pictures).
 */
export async function ticketFromFile(db: SorterDatabase, file: Blob): Promise<TicketFileOutcome> {
  const read = file.size > LARGEST_BYTES ? null : parsed(await file.text());
  if (!read) return { kind: 'no-ticket-file' };
  if (read.version !== RECORD_VERSION) return { kind: 'other-version', newer: read.version > RECORD_VERSION };
  const { events } = read;
  const [first] = events;
  const whole = events.every(({ stream, sequence }, index) => stream === first?.stream && sequence === index + 1);
  if (!first || !whole || !isTicketEvents(events) || events[0]?.data.type !== 'opened')
    return { kind: 'no-ticket-file' };
  const ticketId = asId<TicketId>(first.stream.replace(/^ticket:/, ''));
  const { number } = viewOfTicket(events).state;
  return takeIn<TicketFileOutcome>(db, async () => {
    const before = await eventsOf(db, first.stream);
    const common = before.findIndex((event, index) => event.id !== events[index]?.id);
    const shared = common < 0 ? before.length : common;
    if (shared < Math.min(before.length, events.length))
      return {
        outcome: { kind: 'diverged', number, here: before.length - shared, there: events.length - shared },
        grown: [],
      };
    if (before.length === 0 && (await isTaken(db, number)))
      return { outcome: { kind: 'number-taken', number }, grown: [] };
    const added = events.slice(before.length);
    for (const { base64: bytes, of, ...photo } of read.photos)
      if (!(await db.photos.get(photo.id))) await db.photos.put({ ...photo, ...(of ? { of } : {}), ticketId, bytes });
    return {
      outcome: { kind: 'taken-in', ticketId, number, isNew: before.length === 0, added: added.length },
      grown: added.length
        ? [{ kind: 'ticket', id: ticketId, stream: first.stream, before: ofTicket(before), added }]
        : [],
    };
  });
}

const ofTicket = (events: AnyEvent[]) => (isTicketEvents(events) ? events : []);

const isTaken = async (db: SorterDatabase, number: number): Promise<boolean> =>
  (await db.summaries.where('[kind+number]').equals(['ticket', number]).count()) > 0;

function parsed(text: string): z.infer<typeof fileSchema> | null {
  try {
    const read = fileSchema.safeParse(JSON.parse(text));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
}
