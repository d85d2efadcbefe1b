import { learnFrom, type ClosedTicket, type Learned } from '@/core/learn';
import { applyEvents, type TicketState } from '@/core/ticket';
import { groupBy } from '@/core/units';
import type { SorterDatabase } from '../database';
import { isTicketEvents } from './parse';

/** What one closed ticket says. A machine that came back with the same fault was not mended right the first time. */
function lessonOf(state: TicketState, designs: ReadonlyMap<string, string>): ClosedTicket {
  const { closed, plate, round, callBacks } = state;
  const repaired = closed?.outcome === 'repaired';
  return {
    modelId: plate?.modelId ?? null,
    design: plate ? (designs.get(plate.platformId) ?? null) : null,
    causeId: repaired ? (round.cause?.causeId ?? null) : null,
    takenMinutes: closed?.takenMinutes ?? null,
    listMinutes: closed?.listMinutes ?? null,
    rightFirstTime: callBacks > 0 ? false : (closed?.rightFirstTime ?? null),
  };
}

/** What the closed tickets teach. `designs`: platform → design. */
export async function loadLearned(db: SorterDatabase, designs: ReadonlyMap<string, string>): Promise<Learned> {
  const closed = new Set((await db.summaries.where('[kind+open]').equals(['ticket', 0]).primaryKeys()).map(String));
  const streams = groupBy(
    (await db.events.toArray()).filter((event) => closed.has(event.stream)),
    (event) => event.stream,
  );
  return learnFrom(
    [...streams.values()].flatMap((events) => (isTicketEvents(events) ? [lessonOf(applyEvents(events), designs)] : [])),
  );
}
