import { learnFrom, type ClosedTicket, type Learned } from '@/core/learn';
import { applyEvents } from '@/core/ticket';
import { groupBy } from '@/core/units';
import type { SorterDatabase } from '../database';
import { isTicketEvents } from './parse';

/** What the closed tickets teach. `designs`: platform → design. */
export async function loadLearned(db: SorterDatabase, designs: ReadonlyMap<string, string>): Promise<Learned> {
  const closed = new Set((await db.summaries.where('[kind+open]').equals(['ticket', 0]).primaryKeys()).map(String));
  const streams = groupBy(
    (await db.events.toArray()).filter((event) => closed.has(event.stream)),
    (event) => event.stream,
  );
  const tickets = [...streams.values()].flatMap((events): ClosedTicket[] => {
    if (!isTicketEvents(events)) return [];
    const state = applyEvents(events.sort((a, b) => a.sequence - b.sequence));
    const repaired = state.closed?.outcome === 'repaired';
    return [
      {
        modelId: state.plate?.modelId ?? null,
        design: state.plate ? (designs.get(state.plate.platformId) ?? null) : null,
        causeId: repaired ? (state.cause?.causeId ?? null) : null,
        minutesTaken: state.closed?.minutesTaken ?? null,
        plannedMinutes: state.closed?.plannedMinutes ?? null,
        rightFirstTime: state.closed?.rightFirstTime ?? null,
      },
    ];
  });
  return learnFrom(tickets);
}
