import { fail, liveEvents, ok, type Result } from '../../units';
import type { TicketEvent, TicketEventType } from '../events';
import type { Refusal } from './refusal';

/** What has left the shop is cancelled, not taken back; and a ticket was opened once for all. */
const STAYS: readonly TicketEventType[] = ['opened', 'part-ordered', 'part-order-cancelled'];
/** A supplier's word is not the person's: it is passed over when the last thing done is looked for. */
const NOT_OURS: readonly TicketEventType[] = ['part-due'];
/** Work that rests on a part being here. */
const RESTS_ON_PARTS: readonly TicketEventType[] = ['step-ticked', 'bench-finished', 'closed'];

/** The latest event that can be taken back, with what it is called; or why there is none. */
export function lastToTakeBack(events: readonly TicketEvent[]): Result<TicketEvent, Refusal> {
  const last = liveEvents(events)
    .filter(({ data }) => !NOT_OURS.includes(data.type))
    .at(-1);
  if (!last || last.data.type === 'opened') return fail({ kind: 'nothing-to-take-back', leftTheShop: false });
  return STAYS.includes(last.data.type) ? fail({ kind: 'nothing-to-take-back', leftTheShop: true }) : ok(last);
}

/**
 * Whether the events of a group may be taken back on another ticket as well: not when that ticket's work went on since.
 * O(events).
 */
export function mayTakeBack(events: readonly TicketEvent[], groupId: string): boolean {
  const live = liveEvents(events);
  const own = live.findLastIndex((event) => event.groupId === groupId);
  return !live.slice(own + 1).some(({ data }) => RESTS_ON_PARTS.includes(data.type));
}
