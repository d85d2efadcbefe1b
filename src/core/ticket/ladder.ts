import type { Instant, LocalDate } from '../units';
import { isTold } from './evidence';
import { cureOf, unnamedParts, type Round } from './round';
import { isReserved } from './deliveries';
import { awaited, standing, toBuy, unordered } from './standing';
import type { TicketState } from './state';

/** The rungs of the ladder, from the plate to the close. Floor, sheet and scale name the same one. */
export type Rung =
  | 'read-plate'
  | 'tell-kind'
  | 'note-findings'
  | 'find-cause'
  | 'choose-part'
  | 'part-again'
  | 'offer'
  | 'offer-again'
  | 'ring-customer'
  | 'order'
  | 'take-part'
  | 'fetch-part'
  | 'await-parts'
  | 'get-parts'
  | 'work'
  | 'wait-cure'
  | 'prove'
  | 'tell-ready'
  | 'hand-over'
  | 'close'
  | 'none';

/** A machine that nobody listed: where the washing goes in and what turns the drum is seen without taking it apart. The rest is asked for, and waits. */
const LOOKS_FROM_OUTSIDE = 2;

/** The next thing to do, from the ticket alone. Nothing forces the order: it is a proposal. A cure counts until its end: see `rungNow`. O(parts + findings). */
export function rungOf(state: TicketState): Rung {
  const { round } = state;
  if (state.closed) return 'none';
  if (round.handedOverAt) return 'close';
  if (round.answer?.answer === 'no') return 'hand-over';
  if (round.finished) return afterTheBench(state);
  if (!state.plate && state.plateNotListed === null) return 'read-plate';
  if (!state.plate && !state.relative && Object.keys(state.kind).length < LOOKS_FROM_OUTSIDE) return 'tell-kind';
  if (!round.cause) return isTold(state) ? 'find-cause' : 'note-findings';
  const { part, offer } = standing(state);
  if (part === 'shaken') return 'part-again';
  if (part === 'open' && round.cause.needsPart) return 'choose-part';
  if (offer === 'open') return 'offer';
  if (offer === 'shaken') return 'offer-again';
  if (round.answer?.answer !== 'yes') return 'ring-customer';
  if (unordered(state).length > 0) return toBuy(state).length > 0 ? 'order' : 'take-part';
  if (awaited(state).length > 0) return isFetched(state) ? 'fetch-part' : 'await-parts';
  if (lacksAllNumbers(round)) return 'get-parts';
  return cureOf(round) ? 'wait-cure' : 'work';
}

/** The customer said yes to parts none of which has a number, nobody has said that they are here, and the work has not begun. */
const lacksAllNumbers = (round: Round): boolean =>
  unnamedParts(round).length > 0 &&
  round.parts.length === 0 &&
  !round.readied.includes('parts') &&
  round.ticks.length <= round.leftOpen.length;

/** All that is still to come lies on the shelf, kept for this ticket. */
const isFetched = (state: TicketState): boolean =>
  awaited(state).every(({ supply }) =>
    supply.deliveries.every((delivery) => delivery.here >= delivery.units || isReserved(delivery)),
  );

/** At this the reading of a plate is taken without another look. */
const CERTAIN = 0.95;

/** Whether it is known which model a plate names: it was compared, or the reading is certain. */
export const isSettled = ({ confirmed, probability }: { confirmed: boolean; probability: number }): boolean =>
  confirmed || probability >= CERTAIN;

/** Whether a reading is taken without a look at the plate. `slips`: places in which it differs from the listed number. */
export const isTakenAtOnce = (probability: number, slips: number): boolean => slips === 0 && probability >= CERTAIN;

/** Proofs that are due and not passed yet. */
export function openProofs({ round }: TicketState): string[] {
  const passed = (id: string) => round.proofs.some((proof) => proof.proofId === id && proof.passed);
  const due = round.finished?.proofIds;
  if (due) return due.filter((id) => !passed(id));
  return round.proofs.length > 0 ? round.proofs.map(({ proofId }) => proofId).filter((id) => !passed(id)) : ['any'];
}

function afterTheBench(state: TicketState): Rung {
  if (openProofs(state).length > 0) return 'prove';
  return state.round.toldAt ? 'hand-over' : 'tell-ready';
}

export type Waiting =
  | { for: 'you'; since: Instant }
  | { for: 'customer'; since: Instant }
  | { for: 'parts'; since: Instant; dueOn: LocalDate | null }
  | { for: 'cure'; since: Instant; until: Instant }
  | { for: 'collection'; since: Instant }
  | { for: 'nothing'; since: Instant };

/**
 * What a ticket waits for, as its rung says. A cure names its end, never whether it is over: the caller compares `until` with its own clock (see waitsNow).
 * O(parts + ticks).
 */
export function waitsFor(state: TicketState): Waiting {
  const { round, lastAt } = state;
  switch (rungOf(state)) {
    case 'none':
      return { for: 'nothing', since: state.closed?.at ?? lastAt };
    case 'ring-customer':
      return { for: 'customer', since: round.answer?.at ?? round.offer?.at ?? lastAt };
    case 'await-parts': {
      const dates = awaited(state).map(({ supply }) => supply.dueOn);
      return { for: 'parts', since: lastAt, dueOn: dates.includes(null) ? null : (dates.sort().at(-1) ?? null) };
    }
    case 'wait-cure': {
      const cure = cureOf(round);
      return cure?.waitUntil ? { for: 'cure', since: cure.at, until: cure.waitUntil } : { for: 'you', since: lastAt };
    }
    case 'hand-over':
      return round.toldAt ? { for: 'collection', since: round.toldAt } : { for: 'you', since: lastAt };
    default:
      return { for: 'you', since: lastAt };
  }
}

/** The same at a given moment: a cure that is over waits for you. */
export const waitsNow = (waiting: Waiting, now: Instant): Waiting =>
  waiting.for === 'cure' && waiting.until <= now ? { for: 'you', since: waiting.until } : waiting;

/** The rung at a given moment: with the cure over, the work goes on. */
export const rungNow = (rung: Rung, waiting: Waiting, now: Instant): Rung =>
  rung === 'wait-cure' && waitsNow(waiting, now).for === 'you' ? 'work' : rung;
