import { fail, ok } from '../../units';
import type { TicketEventOf, TicketEventType } from '../events';
import type { Customer } from '../state';
import type { TicketDecision } from './refusal';

/** What is simply true and can be noted at any time while the ticket is open. */
export type FactType =
  | 'plate-read'
  | 'plate-not-listed'
  | 'serial-noted'
  | 'serial-unreadable'
  | 'bought-on'
  | 'age-guessed'
  | 'age-not-known'
  | 'day-without-noted'
  | 'carriage-noted'
  | 'make-noted'
  | 'relative-judged'
  | 'kind-judged'
  | 'part-typed'
  | 'old-number-read'
  | 'complaint-noted'
  | 'range-told'
  | 'finding-noted'
  | 'code-noted'
  | 'check-done'
  | 'reading-noted'
  | 'failing-run-noted'
  | 'wreck-read'
  | 'part-measured'
  | 'seats-judged';
export type Fact = { [T in FactType & TicketEventType]: TicketEventOf<T> }[FactType];

/** Notes facts. What they shake shows by itself: see `standing`. */
export const note =
  (...facts: readonly Fact[]): TicketDecision =>
  (ticket) =>
    ticket.closed ? fail({ kind: 'closed' }) : ok(facts);

/**
 * Notes something of the customer, and nothing else: two fields that are filled at the same moment are both kept. `known`: who is meant, with what is known of
 * them; it fills what is not noted yet.
 */
export const noteCustomer =
  (
    said: Partial<Pick<Customer, 'name' | 'phone' | 'place'>>,
    known: Pick<Customer, 'phone' | 'place'> | null = null,
  ): TicketDecision =>
  (ticket) => {
    if (ticket.closed) return fail({ kind: 'closed' });
    const { customer } = ticket;
    const filled = {
      ...(known?.phone && !customer?.phone ? { phone: known.phone } : {}),
      ...(known?.place && !customer?.place ? { place: known.place } : {}),
    };
    const customerId = customer?.customerId ?? ticket.ticketId;
    return ok([{ type: 'customer-noted', customerId, ...filled, ...said }]);
  };

/** A remark; on a closed ticket, too. */
export const remark =
  (text: string): TicketDecision =>
  () =>
    ok([{ type: 'note-added', text }]);
