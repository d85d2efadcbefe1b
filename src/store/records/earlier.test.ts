import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { applyEvents, note, noteCustomer, settleCause, type Fact } from '@/core/ticket';
import { asId, type TicketId } from '@/core/units';
import { dexieStore } from './act';
import { onTicket, openTicket } from './acts';
import { earlierTickets } from './earlier';
import { isTicketEvents } from './parse';

const plate = (modelId: string): Fact => ({
  type: 'plate-read',
  text: modelId,
  modelId: asId(modelId),
  modelNumber: modelId,
  makerId: asId('m'),
  platformId: asId('p'),
  badge: 'Badge',
  probability: 1,
  others: [],
  confirmed: true,
});

describe('tickets of before', () => {
  it('are those of this machine by model and serial, then those of this customer; nobody else’s', async () => {
    const db = freshDatabase();
    const store = dexieStore(db);
    const opened = async (modelId: string, serial: string, name: string, phone: string): Promise<TicketId> => {
      const done = await openTicket(store, [plate(modelId), { type: 'serial-noted', serial }]);
      if (!done.ok) throw new Error(done.error.kind);
      const ticketId = asId<TicketId>(done.value.tickets[0] ?? '');
      await onTicket(store, ticketId, noteCustomer({ name, phone }));
      return ticketId;
    };
    const first = await opened('A-1', 'S1', 'A. Holt', '0555 1');
    await onTicket(store, first, settleCause({ causeId: asId('pump'), name: 'Drain pump', needsPart: true }));
    const theirs = await opened('B-2', 'S9', 'A. Holt', '05551');
    await opened('A-1', 'S2', 'B. Marl', '0555 2');
    await opened('C-3', 'S1', 'A. Holt', '0555 777');
    const now = await opened('A-1', 'S1', 'a. holt', '0555-1');
    const events = await db.events.where('stream').equals(`ticket:${now}`).sortBy('sequence');
    if (!isTicketEvents(events)) throw new Error('no ticket');
    const before = await earlierTickets(db, applyEvents(events));
    expect(before.map(({ ticketId, sameMachine }) => [ticketId, sameMachine])).toEqual([
      [first, true],
      [theirs, false],
    ]);
    expect(before[0]).toMatchObject({ cause: { causeId: 'pump', name: 'Drain pump' }, outcome: 'open', number: 1 });
    // A serial that nobody has read is no sign of the same machine.
    await onTicket(store, now, note({ type: 'serial-unreadable' }));
    const again = await db.events.where('stream').equals(`ticket:${now}`).sortBy('sequence');
    if (!isTicketEvents(again)) throw new Error('no ticket');
    expect((await earlierTickets(db, applyEvents(again))).every(({ sameMachine }) => !sameMachine)).toBe(true);
  });
});
