import type { Instant, LocalDate } from '../units';
import { awaited, unordered, type TicketState } from './state';

export type Waiting =
  | { for: 'you'; since: Instant }
  | { for: 'customer'; since: Instant }
  | { for: 'parts'; since: Instant; dueOn: LocalDate | null }
  | { for: 'cure'; since: Instant; until: Instant }
  | { for: 'collection'; since: Instant }
  | { for: 'nothing'; since: Instant };

/**
 * What a ticket waits for. A cure names its end, never whether it is over: the caller compares `until` with its own clock (see waitsNow). O(parts + ticks).
 */
export function waitsFor(state: TicketState): Waiting {
  if (state.closed) return { for: 'nothing', since: state.closed.at };
  if (state.readyToldAt && !state.handedOverAt) return { for: 'collection', since: state.readyToldAt };
  const cure = state.ticks
    .flatMap((tick) => (tick.waitUntil ? [{ at: tick.at, until: tick.waitUntil }] : []))
    .sort((a, b) => (a.until < b.until ? 1 : -1))[0];
  if (cure && !state.benchFinishedAt) return { for: 'cure', since: cure.at, until: cure.until };
  if (state.quoted && (!state.answer || state.answer.answer === 'thinking'))
    return { for: 'customer', since: state.answer?.at ?? state.quoted.at };
  const coming = awaited(state);
  if (coming.length > 0 && unordered(state).length === 0) {
    const dates = coming.map((part) => state.progress[part.requirementId]?.dueOn ?? null);
    const dueOn = dates.includes(null) ? null : (dates.sort().at(-1) ?? null);
    return { for: 'parts', since: state.lastAt, dueOn };
  }
  return { for: 'you', since: state.lastAt };
}

/** The same at a given moment: a cure that is over waits for you. */
export function waitsNow(waiting: Waiting, now: Instant): Waiting {
  return waiting.for === 'cure' && waiting.until <= now ? { for: 'you', since: waiting.until } : waiting;
}
