import { applyEvents, type TicketDecision, type TicketEvent, type TicketEventData } from '@/core/ticket';
import { asId, type Instant } from '@/core/units';

let ids = 0;

/** The same ticket after more of them, each decided on what came of the ones before. Throws where one is refused. */
export function eventsAfter(
  events: readonly TicketEvent[],
  at: Instant,
  ...acts: readonly (TicketEventData | TicketDecision)[]
): TicketEvent[] {
  const all = [...events];
  for (const act of acts) {
    const decided =
      typeof act === 'function' ? act(applyEvents(all), { at, newId: () => asId(`id${(ids += 1)}`) }) : null;
    if (decided && !decided.ok) throw new Error(JSON.stringify(decided.error));
    for (const data of decided?.ok ? decided.value : typeof act === 'function' ? [] : [act])
      all.push({
        id: asId(`new${(ids += 1)}`),
        stream: events[0]?.stream ?? '',
        sequence: all.length + 1,
        version: 2,
        at,
        groupId: `g${ids}`,
        data,
      });
  }
  return all;
}
