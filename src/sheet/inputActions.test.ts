import 'fake-indexeddb/auto';
import { beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { demoCatalogue } from '../../tests/support/demo';
import { buildModelIndex, readPlate, type InputReading } from '@/core/identify';
import { closeTicket, note as noteFact, type TicketState } from '@/core/ticket';
import { defined, asDay, type TicketId, asId, type OrderId, type PartId, type RoleId } from '@/core/units';
import { database, eventStore, onTicket, openTicket } from '@/store';
import { actionsFor, plainActions } from './inputActions';

const { models } = demoCatalogue();
const index = buildModelIndex(models);
const readText = (text: string) => {
  const reading = readPlate(index, text);
  const found = reading.candidates.flatMap(({ modelId }) => models.find(({ id }) => id === modelId) ?? []);
  return Promise.resolve({ reading, models: found });
};
vi.mock('@/workers', () => ({ searchWorker: { get: () => ({ readPlate: readText }) } }));

const badges = new Map([['vessby', 'Vessby']]);
const weight = 1;
/** A line with nothing said in it. */
const plainLine = (number: string) => ({ number, words: '' });
const [model] = models;
const number = defined(model, 'a model').modelNumber;
const asModel: InputReading = {
  kind: 'model',
  modelId: defined(model, 'a model').id,
  modelNumber: number,
  probability: 1,
  differences: [],
  taken: '',
  weight,
};
const stateOf = async (ticketId: TicketId): Promise<TicketState> =>
  defined(await eventStore().ticket(ticketId), 'the ticket').state;
const ticketOf = (path: string | null) => stateOf(asId(defined(path, 'a path').replace('/ticket/', '')));

describe('what Enter does', () => {
  let here: TicketState;
  beforeAll(async () => {
    await database().open();
  });
  beforeEach(async () => {
    const opened = await openTicket(eventStore(), []);
    here = await stateOf(defined(opened.ok ? opened.value.tickets[0] : undefined, 'a ticket'));
  });
  const role = { roleId: asId<RoleId>('pump'), roleName: 'drain pump' };
  const first = (reading: InputReading, text: string, ticket: TicketState | null, line = plainLine(text)) =>
    defined(actionsFor(reading, { text, line, ticket, badges, role })[0], 'an action');
  const onHere = (reading: InputReading, text = number) => first(reading, text, here);
  const nowhere = (reading: InputReading, text = number) => first(reading, text, null);

  it('names the machine of the ticket that lies open without one', async () => {
    const action = onHere(asModel);
    expect(action.does).toContain(number);
    expect(await action.run()).toBeNull();
    expect((await stateOf(here.ticketId)).plate).toMatchObject({
      modelNumber: number,
      badge: 'Vessby',
      confirmed: true,
    });
  });

  it('opens a new ticket for a plate where none is open, or the open one has its machine', async () => {
    expect((await ticketOf(await nowhere(asModel).run())).plate?.modelNumber).toBe(number);
    await onHere(asModel).run();
    here = await stateOf(here.ticketId);
    const other = await ticketOf(await onHere(asModel).run());
    expect(other.ticketId).not.toBe(here.ticketId);
    expect(other.plate?.modelNumber).toBe(number);
  });

  it('takes a doubtful reading as doubtful: with its others, not as confirmed', async () => {
    const text = number.replace(/\d(?=\/|$)/, '?');
    const lead = defined(readPlate(index, text).candidates[0], 'a candidate');
    const doubtful: InputReading = { ...asModel, modelId: lead.modelId, modelNumber: lead.modelNumber };
    const { plate } = await ticketOf(await nowhere(doubtful, text).run());
    expect(plate).toMatchObject({ confirmed: false, modelNumber: lead.modelNumber });
    expect(plate?.probability).toBeCloseTo(lead.probability, 9);
  });

  it.each<[InputReading, keyof TicketState, unknown]>([
    [
      { kind: 'serial', serial: 'H20K40931', builtFrom: asDay('2019-03-04'), builtTo: asDay('2019-03-10'), weight },
      'serial',
      'H20K40931',
    ],
    [
      { kind: 'code', code: 'E21', meaning: 'drain', findingId: 'stands-full', weight },
      'codes',
      [expect.objectContaining({ code: 'E21' })],
    ],
    [
      { kind: 'finding', findingId: 'stands-full', text: 'Stands full', threeWords: 'stands full', weight },
      'findings',
      expect.anything(),
    ],
  ])('notes %o on the open ticket', async (reading, where, wanted) => {
    expect(await onHere(reading).run()).toBeNull();
    expect((await stateOf(here.ticketId))[where]).toEqual(wanted);
  });

  it.each<[InputReading, string]>([
    [
      { kind: 'part', partId: asId<PartId>('p'), partNumber: 'FJ-20 33/90', differences: [], roleId: null, weight },
      '/catalogue?q=FJ-20%2033%2F90',
    ],
    [{ kind: 'bearing', designation: '6204', bore: 20, outside: 47, width: 14, weight }, '/catalogue?q=6204'],
    [{ kind: 'size', first: 25, second: 47, third: 8, weight }, '/catalogue?q=25x47x8'],
    [{ kind: 'ticket', ticketId: asId<TicketId>('t-7'), number: 7, weight }, '/ticket/t-7'],
    [{ kind: 'order', orderId: asId<OrderId>('o-1'), number: 'HW-41', weight }, '/orders'],
  ])('goes from %o to where it is', async (reading, path) => {
    const before = await database().events.count();
    expect(await nowhere(reading, '25x47x8').run()).toBe(path);
    expect(await database().events.count()).toBe(before);
  });

  it('notes a part’s number as that on the old part: first where it is of this machine, else beside the catalogue', async () => {
    const partId = asId<PartId>('p');
    const part = (roleId: RoleId | null): InputReading => ({
      kind: 'part',
      partId,
      partNumber: 'FJ-20',
      differences: [],
      roleId,
      weight,
    });
    const ids = (reading: InputReading, asked: typeof role | null = role) =>
      actionsFor(reading, { text: 'FJ 2O', line: plainLine('FJ 2O'), ticket: here, badges, role: asked }).map(
        ({ id }) => id,
      );
    expect(ids(part(role.roleId))).toEqual(['old p', 'part p']);
    expect(ids(part(null))).toEqual(['part p', 'old p']);
    // Before it is known which part is asked for, there is no old one.
    expect(ids(part(null), null)).toEqual(['part p']);
    expect(await onHere(part(asId<RoleId>('belt'))).run()).toBeNull();
    const plain = plainActions('QQ 77-1', plainLine('QQ 77-1'), here, role).find(
      ({ action }) => action.id === 'old number',
    );
    expect(plain?.what).toContain('drain pump');
    expect(await defined(plain, 'an action').action.run()).toBeNull();
    const { oldNumbers } = await stateOf(here.ticketId);
    expect(oldNumbers).toMatchObject({ belt: { text: 'FJ-20' }, pump: { text: 'QQ 77-1' } });
  });

  it('always offers a machine that is not listed, and a note where a ticket is open', async () => {
    expect(plainActions('QQ 77-1', plainLine('QQ 77-1'), null, role).map(({ what }) => what)).toEqual([
      'none of these: a machine that is not listed',
    ]);
    const [unlisted] = plainActions('QQ 77-1', plainLine('QQ 77-1'), null, null);
    expect((await ticketOf(defined(await defined(unlisted, 'an action').action.run(), 'a path'))).plate).toBeNull();
    const [note, complaint] = plainActions('smells of rubber', plainLine('smells of rubber'), here, role);
    expect(await defined(note, 'a note').action.run()).toBeNull();
    expect(defined(complaint, 'a complaint').what).toContain('complaint');
    const opened = await ticketOf(await defined(complaint, 'a complaint').action.run());
    expect(opened.complaint).toBe('smells of rubber');
  });

  it('notes on the ticket that lies open without a plate that its machine is not listed, else opens one for it', async () => {
    const none: InputReading = { kind: 'unlisted', probability: 0.7, weight };
    expect(await onHere(none, 'QK-77120').run()).toBeNull();
    const noted = await stateOf(here.ticketId);
    expect(noted.plateNotListed).toBe('QK-77120');
    const again = await ticketOf(await first(none, 'QK-77121', noted).run());
    expect(again).toMatchObject({ plateNotListed: 'QK-77121', plate: null });
    expect((await ticketOf(await nowhere(none, 'QK-77122').run())).plateNotListed).toBe('QK-77122');
  });

  it('takes what is said beside the number as what the customer says, and a machine that is not listed by its number alone', async () => {
    const line = { number: 'QK-77120', words: 'does not drain' };
    const text = `${number} does not drain`;
    const model = first(asModel, text, null, line);
    expect(model.does).toContain('“does not drain” as the complaint');
    expect(await ticketOf(await model.run())).toMatchObject({
      complaint: 'does not drain',
      // On the plate stands the number, not what is said of the machine.
      plate: { modelNumber: number, text: line.number },
    });
    const none = first({ kind: 'unlisted', probability: 0.7, weight }, text, null, line);
    expect(await ticketOf(await none.run())).toMatchObject({ complaint: 'does not drain', plateNotListed: 'QK-77120' });
    const [plain] = plainActions(text, line, null, null);
    expect((await ticketOf(await defined(plain, 'an action').action.run())).plateNotListed).toBe('QK-77120');
    const short = first({ kind: 'unlisted', probability: 0.7, weight }, 'KW7 hums', null, {
      number: '',
      words: 'KW7 hums',
    });
    expect(await ticketOf(await short.run())).toMatchObject({ complaint: '', plateNotListed: 'KW7 hums' });
    // What they said before is kept.
    await onTicket(eventStore(), here.ticketId, noteFact({ type: 'complaint-noted', text: 'hums' }));
    await first(asModel, text, await stateOf(here.ticketId), line).run();
    expect((await stateOf(here.ticketId)).complaint).toBe('hums; does not drain');
    // Without a number all of it is.
    const [said] = plainActions('hums for 30 days', { number: '', words: 'hums for 30 days' }, null, null);
    expect(defined(said, 'an action').action.id).toBe('complaint');
  });

  it('keeps the line and says why when what is noted does not fit', async () => {
    const long: InputReading = {
      kind: 'serial',
      serial: 'L30K40931 '.repeat(9),
      builtFrom: asDay('2019-03-04'),
      builtTo: asDay('2019-03-10'),
      weight,
    };
    await expect(onHere(long).run()).rejects.toThrow(/at most 80 characters.*was kept|at most 80 characters/);
    expect((await stateOf(here.ticketId)).serial).toBeNull();
  });

  it('writes nothing more on a ticket that is closed', async () => {
    await onTicket(
      eventStore(),
      here.ticketId,
      closeTicket({ outcome: 'declined', takenMinutes: null, listMinutes: null, rightFirstTime: null }),
    );
    const closed = await stateOf(here.ticketId);
    expect(plainActions('a word', plainLine('a word'), closed, role).map(({ action }) => action.id)).toEqual([
      'complaint',
    ]);
    expect(first(asModel, number, closed).id).toMatch(/^new/);
  });
});
