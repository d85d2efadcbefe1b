import type { Instant } from '../units';
import { awaited, unordered, type TicketState } from './state';
import { waitsFor, type Waiting } from './waitsFor';

/** The next thing to do as far as the ticket alone tells; the assessment knows it more exactly. */
export type NextKind =
  | 'read-plate'
  | 'note-findings'
  | 'find-cause'
  | 'choose-part'
  | 'quote'
  | 'ring-customer'
  | 'order'
  | 'await-parts'
  | 'work'
  | 'wait-cure'
  | 'prove'
  | 'tell-ready'
  | 'hand-over'
  | 'close'
  | 'none';

/** What the floor shows of a ticket: rebuildable from its events, without a 'now'. */
export type TicketSummary = {
  ticketId: string;
  number: number;
  sequence: number;
  machine: string;
  modelId: string | null;
  platformId: string | null;
  customer: string;
  place: string;
  words: string;
  causeId: string | null;
  openedAt: Instant;
  lastAt: Instant;
  waiting: Waiting;
  next: NextKind;
  closed: boolean;
  /** What is gone from a donor, by role and position; null for a machine that is none. Missing in summaries of older versions. */
  donor?: { taken: { roleId: string; position: string }[] } | null;
};

export function nextKind(state: TicketState): NextKind {
  if (state.closed) return 'none';
  if (state.handedOverAt) return 'close';
  if (state.answer?.answer === 'no') return 'hand-over';
  if (!state.plate) return 'read-plate';
  const told =
    state.findings.some((finding) => finding.answer === 'yes') || state.codes.length > 0 || state.checks.length > 0;
  if (!state.cause) return told ? 'find-cause' : 'note-findings';
  if (!state.quoted) return state.partsFor === state.cause.causeId ? 'quote' : 'choose-part';
  if (!state.answer || state.answer.answer === 'thinking') return 'ring-customer';
  if (unordered(state).length > 0) return 'order';
  if (awaited(state).length > 0) return 'await-parts';
  if (!state.benchFinishedAt) return state.ticks.some((tick) => tick.waitUntil) ? 'wait-cure' : 'work';
  if (state.readyToldAt) return 'hand-over';
  return state.proofs.length > 0 && state.proofs.every((proof) => proof.passed) ? 'tell-ready' : 'prove';
}

/** O(parts + findings). */
export function summarise(state: TicketState): TicketSummary {
  const words =
    state.findings.find((finding) => finding.answer === 'yes')?.threeWords ??
    state.complaint.split(/\s+/).slice(0, 4).join(' ');
  return {
    ticketId: state.ticketId,
    number: state.number,
    sequence: state.sequence,
    machine: state.plate ? `${state.plate.badge} ${state.plate.modelNumber}` : '',
    modelId: state.plate?.modelId ?? null,
    platformId: state.plate?.platformId ?? null,
    customer: state.customer?.name ?? '',
    place: state.customer?.place ?? '',
    words,
    causeId: state.cause?.causeId ?? null,
    openedAt: state.openedAt,
    lastAt: state.lastAt,
    waiting: waitsFor(state),
    next: nextKind(state),
    closed: state.closed !== null,
    donor: state.donor ? { taken: state.donor.taken.map(({ roleId, position }) => ({ roleId, position })) } : null,
  };
}

/** The next step as of now: with the cure over, the work goes on. */
export const nextNow = (next: NextKind, waiting: Waiting): NextKind =>
  next === 'wait-cure' && waiting.for === 'you' ? 'work' : next;
