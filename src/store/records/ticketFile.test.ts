import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { demoTickets } from '../../../tests/support/demo';
import { applyEvents, remark } from '@/core/ticket';
import { asId, asInstant, defined, type TicketId } from '@/core/units';
import type { SorterDatabase } from '../database';
import { dexieStore, eventsOf, rebuildSummaries } from './act';
import { onTicket } from './acts';
import { ticketFromFile, ticketToFile } from './ticketFile';

const parked = defined(demoTickets().get(211), 'a ticket at the bench');
const ticketId = asId<TicketId>(defined(parked[0], 'its first event').stream.replace('ticket:', ''));

async function deviceWith(tickets: readonly (typeof parked)[]): Promise<SorterDatabase> {
  const db = freshDatabase();
  await db.events.bulkAdd(tickets.flat());
  await rebuildSummaries(db);
  return db;
}
const withPicture = async (db: SorterDatabase) => {
  await db.photos.add({
    id: 'p',
    ticketId,
    at: asInstant('2026-11-24T08:00:00.000Z'),
    type: 'image/jpeg',
    bytes: new Uint8Array([1, 2, 255]),
    of: 'bench',
  });
  return db;
};
const fileOf = async (db: SorterDatabase) => defined(await ticketToFile(db, ticketId), 'a file');
const noted = (db: SorterDatabase, text: string) => onTicket(dexieStore(db), ticketId, remark(text));
const stateOf = async (db: SorterDatabase) => defined(await dexieStore(db).ticket(ticketId), 'the ticket').state;

describe('a machine handed over as a file', () => {
  it('is the same ticket on the other device, with its pictures, and known there by its number', async () => {
    const here = await withPicture(await deviceWith([parked]));
    const there = freshDatabase();
    expect(await ticketFromFile(there, await fileOf(here))).toMatchObject({
      kind: 'taken-in',
      number: 211,
      isNew: true,
      added: parked.length,
    });
    expect(await stateOf(there)).toEqual(applyEvents(parked));
    expect((await there.photos.get('p'))?.bytes).toEqual(new Uint8Array([1, 2, 255]));
    expect(await there.summaries.toArray()).toEqual(await here.summaries.toArray());
  });

  it('goes there and back again: what was noted there goes on here, and taking it twice changes nothing', async () => {
    const here = await deviceWith([parked]);
    const there = freshDatabase();
    await ticketFromFile(there, await fileOf(here));
    await noted(there, 'gone on at the other bench');
    const back = await fileOf(there);
    expect(await ticketFromFile(here, back)).toMatchObject({ kind: 'taken-in', isNew: false, added: 1 });
    expect(await ticketFromFile(here, back)).toMatchObject({ kind: 'taken-in', added: 0 });
    expect(await stateOf(here)).toEqual(await stateOf(there));
    // An older file takes nothing away.
    await noted(here, 'and here');
    expect(await ticketFromFile(here, back)).toMatchObject({ kind: 'taken-in', added: 0 });
    expect((await stateOf(here)).notes.map(({ text }) => text)).toContain('and here');
  });

  it('is refused where both went on, where the number is another machine’s, and where it is no such file; nothing is changed', async () => {
    const here = await deviceWith([parked]);
    const there = await deviceWith([parked]);
    await noted(here, 'here');
    await noted(there, 'there');
    const before = await eventsOf(here, `ticket:${ticketId}`);
    expect(await ticketFromFile(here, await fileOf(there))).toEqual({
      kind: 'diverged',
      number: 211,
      here: 1,
      there: 1,
    });
    expect(await eventsOf(here, `ticket:${ticketId}`)).toEqual(before);

    const foreign = await deviceWith([
      parked.map((event) => ({ ...event, id: asId(`x${event.id}`), stream: 'ticket:another' })),
    ]);
    expect(await ticketFromFile(foreign, await fileOf(here))).toEqual({ kind: 'number-taken', number: 211 });
    expect(await foreign.events.count()).toBe(parked.length);

    const text = await (await fileOf(here)).text();
    const spoiled = [
      'no file',
      '{}',
      text.slice(0, -20),
      text.replace('sorter-ticket', 'other'),
      text.replace('"sequence":2,', '"sequence":7,'),
      text.replace('"opened"', '"closed"'),
    ];
    const empty = freshDatabase();
    for (const one of spoiled)
      expect(await ticketFromFile(empty, new Blob([one])), one.slice(0, 30)).toEqual({ kind: 'no-ticket-file' });
    expect(
      await ticketFromFile(empty, new Blob([text.replace(/"version":\d+,"events"/, '"version":9999,"events"')])),
    ).toEqual({ kind: 'other-version', newer: true });
    expect(await empty.events.count()).toBe(0);
  });
});
