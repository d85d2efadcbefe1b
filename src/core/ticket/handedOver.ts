import type { TicketId } from '../units';

/** What became of a ticket's file. Nothing is changed where it was not taken in. */
export type TicketFileOutcome =
  | { kind: 'no-ticket-file' }
  | { kind: 'other-version'; newer: boolean }
  /** Another machine has this number here. */
  | { kind: 'number-taken'; number: number }
  /** Here and there it went on differently. */
  | { kind: 'diverged'; number: number; here: number; there: number }
  | { kind: 'taken-in'; ticketId: TicketId; number: number; isNew: boolean; added: number };
