import { applyEvents, machineName, type TicketState } from '@/core/ticket';
import type { Instant, TicketId } from '@/core/units';
import type { SorterDatabase } from '../database';
import { isTicketEvents } from './parse';

/** What names a machine and a customer among the tickets. */
export type BeforeQuestion = Pick<TicketState, 'ticketId' | 'number' | 'plate' | 'serial' | 'customer'>;

/** A ticket of before, of the same machine or of the same customer. */
export type EarlierTicket = {
  ticketId: TicketId;
  number: number;
  sameMachine: boolean;
  machine: string;
  openedAt: Instant;
  closedAt: Instant | null;
  /** What was mended last, or at least settled. */
  cause: { causeId: string; name: string } | null;
  outcome: 'repaired' | 'declined' | 'not-mendable' | 'open';
  callBacks: number;
};

const MOST = 12;
const plain = (text: string): string => text.replace(/[^\p{L}\p{N}]/gu, '').toLowerCase();

/**
 * Tickets of before: those of the same machine (model and serial) first, then those of the same customer (of that name, and of no other telephone), newest first. Only the
 * streams that may be meant are read. O(tickets + events of those).
 */
export async function earlierTickets(db: SorterDatabase, state: BeforeQuestion): Promise<EarlierTicket[]> {
  const { plate, serial, customer } = state;
  const name = plain(customer?.name ?? '');
  const phone = plain(customer?.phone ?? '');
  const records = (await db.summaries.toArray()).flatMap((record) =>
    record.kind === 'ticket' && record.summary.number < state.number ? [record] : [],
  );
  const meant = records.filter(
    ({ summary, modelId }) =>
      (plate && serial && modelId === plate.modelId) || (name !== '' && plain(summary.customer) === name),
  );
  const found: EarlierTicket[] = [];
  for (const { stream } of meant) {
    const events = await db.events.where('stream').equals(stream).sortBy('sequence');
    if (!isTicketEvents(events) || events.length === 0) continue;
    const before = applyEvents(events);
    const sameMachine =
      serial !== null && before.serial === serial && before.plate !== null && before.plate.modelId === plate?.modelId;
    const theirs = before.customer;
    // A name alone may be another's; with another telephone it is.
    const sameCustomer =
      name !== '' &&
      plain(theirs?.name ?? '') === name &&
      (phone === '' || plain(theirs?.phone ?? '') === '' || plain(theirs?.phone ?? '') === phone);
    if (!sameMachine && !sameCustomer) continue;
    const cause = before.round.cause ?? before.earlier.at(-1)?.cause ?? null;
    found.push({
      ticketId: before.ticketId,
      number: before.number,
      sameMachine,
      machine: machineName(before),
      openedAt: before.openedAt,
      closedAt: before.closed?.at ?? null,
      cause: cause && { causeId: cause.causeId, name: cause.name },
      outcome: before.closed?.outcome ?? 'open',
      callBacks: before.callBacks,
    });
  }
  return found
    .sort((a, b) => Number(b.sameMachine) - Number(a.sameMachine) || b.openedAt.localeCompare(a.openedAt))
    .slice(0, MOST);
}
