import { fail, ok } from '../../units';
import type { TicketEventOf, TicketEventType } from '../events';
import type { TicketDecision } from './refusal';

/** What is simply true and can be noted at any time while the ticket is open. */
export type FactType =
  | 'customer-noted'
  | 'plate-read'
  | 'plate-not-listed'
  | 'serial-noted'
  | 'bought-on'
  | 'age-guessed'
  | 'make-noted'
  | 'relative-judged'
  | 'kind-judged'
  | 'part-typed'
  | 'complaint-noted'
  | 'finding-noted'
  | 'code-noted'
  | 'check-done'
  | 'reading-noted'
  | 'part-measured'
  | 'seats-judged';
export type Fact = { [T in FactType & TicketEventType]: TicketEventOf<T> }[FactType];

/** Notes facts. What they shake shows by itself: see `standing`. */
export const note =
  (...facts: readonly Fact[]): TicketDecision =>
  (ticket) =>
    ticket.closed ? fail({ kind: 'closed' }) : ok(facts);

/** A remark; on a closed ticket, too. */
export const remark =
  (text: string): TicketDecision =>
  () =>
    ok([{ type: 'note-added', text }]);
