import type { ProofBar, StepBar } from '../../bench';
import type { Branded, Instant, Result, TicketId } from '../../units';
import type { TicketEvent, TicketEventData } from '../events';
import type { ShakenBy } from '../standing';
import type { TicketState } from '../state';

/** Why something was not done, as facts; `words/refusals.ts` says it. Nothing was changed. */
export type Refusal =
  | { kind: 'closed' }
  | { kind: 'not-closed' }
  | { kind: 'gone' }
  | { kind: 'does-not-fit'; field: string; why: string; limit: number | null }
  | { kind: 'shaken'; by: ShakenBy[] }
  | { kind: 'no-offer' }
  | { kind: 'no-yes' }
  | { kind: 'curing'; until: Instant }
  | { kind: 'step-barred'; by: StepBar }
  | { kind: 'pieces-left'; pieces: number[] }
  | { kind: 'proof-barred'; by: ProofBar }
  | { kind: 'not-finished' }
  | { kind: 'not-proved'; proofs: number }
  | { kind: 'nothing-to-keep' }
  | { kind: 'nothing-to-take-back'; leftTheShop: boolean }
  | { kind: 'others-went-on'; ticket: number }
  | { kind: 'not-needed'; ticket: number }
  | { kind: 'donor-gone'; donor: number }
  | { kind: 'not-in-stock'; partNumber: string }
  | { kind: 'lot-went-on'; partNumber: string }
  | {
      kind: 'plan-is-stale';
      tickets: { number: number; why: 'ordered' | 'not-wanted' | 'shaken' | 'no-yes' | 'closed' }[];
    }
  | { kind: 'order-is-past'; number: string }
  | { kind: 'nothing-to-come'; number: string }
  | { kind: 'sent-back-since'; number: string };

/** What the door gives to a decision beside the streams: the time, and ids that nobody else has. */
export type Context = { at: Instant; newId: <Id extends Branded<string>>() => Id };

export type TicketAppend = { kind: 'ticket'; ticketId: TicketId; data: readonly TicketEventData[] };

export type TicketView = { state: TicketState; events: readonly TicketEvent[] };

/** What a person asked for on one ticket: events, or why not. Pure. */
export type TicketDecision = (ticket: TicketState, context: Context) => Result<readonly TicketEventData[], Refusal>;
