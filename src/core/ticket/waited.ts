import { hoursBetween, type Instant } from '../units';
import type { TicketEvent } from './events';
import { waitsFor, waitsNow, type Waiting } from './ladder';
import { statesOf } from './state';

export type WaitedFor = Exclude<Waiting['for'], 'nothing'>;
export type Waited = Record<WaitedFor, number>;

/**
 * Hours by the clock, nights and holidays in them, that a machine stood in the shop, by what it waited for: each from one event to the next, as the ticket stood between
 * them; what was closed waits for nothing. A cure that ends between two events waits for the shop from then on. They sum to the time from the first event to the closing,
 * less what lay between a closing and a coming back. O(events).
 */
export function waitedIn(events: readonly TicketEvent[]): Waited {
  const waited: Waited = { you: 0, customer: 0, parts: 0, cure: 0, collection: 0 };
  const add = (what: Waiting['for'], from: Instant, to: Instant) => {
    if (what !== 'nothing') waited[what] += hoursBetween(from, to);
  };
  let before: { waiting: Waiting; from: Instant } | null = null;
  for (const { state, from: noted } of statesOf(events)) {
    // Another device's clock may be slow: time does not run backwards.
    const from: Instant = before && noted < before.from ? before.from : noted;
    if (before) {
      const { waiting } = before;
      const cured = waiting.for === 'cure' && waiting.until < from ? waiting.until : from;
      add(waiting.for, before.from, cured);
      add(waitsNow(waiting, from).for, cured, from);
    }
    before = { waiting: waitsFor(state), from };
  }
  return waited;
}
