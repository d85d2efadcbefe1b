import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../tests/support/demo';
import { DEMO_DAY } from '../../tests/support/demoDay';
import { fillWithDemo, startWorker } from '../../tests/support/worker';
import { compose, fromScratchRefined, type Weighed } from '@/core/case';
import { applyEvents, benchMinutes } from '@/core/ticket';
import { defined, asInstant, sum, type RoleId, type TicketId, asId } from '@/core/units';
import type { SorterDatabase } from '@/store';
import type { AssessApi, Assessed } from './assess.worker';

const settings = demoSettings();
const now = asInstant(`${DEMO_DAY}T09:00:00.000Z`);
const open = [...demoTickets().values()]
  .map((stream) => applyEvents(stream))
  .filter((state) => state.closed === null && state.plate !== null);

const shelf = [...demoTickets().values()]
  .map((stream) => applyEvents(stream))
  .flatMap((state) =>
    state.donor && state.plate
      ? [
          {
            ticketId: state.ticketId,
            number: state.number,
            modelId: state.plate.modelId,
            platformId: state.plate.platformId,
            causeId: state.round.cause?.causeId ?? null,
            taken: state.donor.taken,
          },
        ]
      : [],
  );

/** A whole answer, put together as the page does it, until no chapter can be answered better. */
async function whole(api: AssessApi, ticketId: TicketId): Promise<Weighed> {
  let answer: Assessed | null = await api.assess(ticketId, now, 0);
  let held: Partial<Weighed> = {};
  while (answer?.kind === 'weighed') {
    held = { ...held, ...answer.changed };
    answer = await api.refine(ticketId, answer.version);
  }
  return { ...held, kind: 'weighed' } as Weighed;
}

describe('a machine weighed in the worker', () => {
  let api: AssessApi;
  let db: SorterDatabase;
  beforeAll(async () => {
    ({ api, db } = await startWorker<AssessApi>(() => import('./assess.worker')));
  });

  it('is nothing where there is no such ticket', async () => {
    expect(await api.assess(asId('x'), now, 0)).toEqual({ kind: 'gone' });
    expect(await api.donors(asId('x'), { roleId: asId('pump'), position: 'any', listedPartIds: [] }, now)).toEqual([]);
  });

  it('comes out as with the whole catalogue in memory', async () => {
    await fillWithDemo(db);
    const { loadLearned } = await import('@/store');
    const catalogue = demoCatalogue();
    const learned = await loadLearned(db, new Map(catalogue.platforms.map(({ id, design }) => [id, design])));
    expect(open.length).toBeGreaterThan(4);
    expect(await api.assess(asId('nobody'), now, 0)).toEqual({ kind: 'gone' });
    for (const state of open.slice(0, 3)) {
      const near = await whole(api, state.ticketId);
      // What crosses to the page is plain data: functions do not.
      expect(structuredClone(near)).toEqual(near);
      const owed = open.filter(({ ticketId }) => ticketId !== state.ticketId).map(benchMinutes);
      const world = { catalogue, settings, learned, donors: shelf, waitingMinutes: sum(owed) };
      const all = compose(fromScratchRefined, world, state, now);
      expect(near, `ticket ${state.number}`).toEqual(all);
    }
  });

  it('gives only what is new: for a finding on a settled cause its chapters, in a few kilobytes', async () => {
    const { eventStore, onTicket } = await import('@/store');
    const { note } = await import('@/core/ticket');
    const state = defined(
      open.find(({ round }) => round.cause !== null),
      'a settled ticket',
    );
    const first = await api.assess(state.ticketId, now, 0);
    if (first.kind !== 'weighed') throw new Error(first.kind);
    const tick = note({ type: 'finding-noted', findingId: 'walks', answer: 'no', threeWords: 'walks' });
    await onTicket(eventStore(), state.ticketId, tick);
    const second = await api.assess(state.ticketId, now, first.version);
    if (second.kind !== 'weighed') throw new Error(second.kind);
    expect(Object.keys(second.changed).sort()).toEqual(['along', 'causes', 'next', 'range', 'steps', 'telling']);
    expect(JSON.stringify(second.changed).length).toBeLessThan(40_000);
    expect(JSON.stringify(first.changed).length).toBeGreaterThan(JSON.stringify(second.changed).length);
    // Who has something else is given everything.
    const other = await api.assess(state.ticketId, now, first.version);
    if (other.kind !== 'weighed') throw new Error(other.kind);
    expect(Object.keys(other.changed)).toHaveLength(23);
  });

  it('finds the same donors from the shelf as from all closed tickets', async () => {
    const { donorsFor } = await import('@/core/fit');
    expect(shelf.length).toBeGreaterThan(0);
    const catalogue = demoCatalogue();
    let matches = 0;
    for (const donor of shelf.slice(0, 3)) {
      // Any machine of the donor's platform on the bench.
      const state = defined(
        [...demoTickets().values()]
          .map((stream) => applyEvents(stream))
          .find(({ plate }) => plate?.platformId === donor.platformId),
        'a sister',
      );
      for (const role of catalogue.roles) {
        const listedPartIds = catalogue.fits
          .filter((fit) => fit.roleId === role.id && (fit.platformId ?? fit.modelId) !== undefined)
          .map((fit) => fit.partId);
        const question = { roleId: role.id, position: 'any', listedPartIds };
        const found = await api.donors(state.ticketId, question, now);
        const wanted = donorsFor(catalogue, shelf, { ...question, platformId: donor.platformId, today: DEMO_DAY });
        const told = (list: typeof wanted) =>
          list.map((match) => `${match.donor.number} ${match.modelNumber} ${match.probability.toFixed(6)}`).sort();
        expect(told(found), role.id).toEqual(told(wanted));
        matches += found.length;
      }
    }
    expect(matches).toBeGreaterThan(0);
  });

  it('no longer offers what has been taken from a donor', async () => {
    const { eventStore } = await import('@/store');
    const { ok } = await import('@/core/units');
    const catalogue = demoCatalogue();
    const donor = defined(
      [...demoTickets().values()].map((stream) => applyEvents(stream)).find((state) => state.donor && state.plate),
      'a donor',
    );
    // Any other machine of its platform on the bench.
    const sister = defined(
      [...demoTickets().values()]
        .map((stream) => applyEvents(stream))
        .find(({ plate, ticketId }) => ticketId !== donor.ticketId && plate?.platformId === donor.plate?.platformId),
      'a sister',
    );
    const ask = async (roleId: RoleId) => {
      const listedPartIds = catalogue.fits.filter((fit) => fit.roleId === roleId).map((fit) => fit.partId);
      const found = await api.donors(sister.ticketId, { roleId, position: 'any', listedPartIds }, now);
      return found.some((match) => match.donor.ticketId === donor.ticketId);
    };
    const offered: RoleId[] = [];
    for (const { id } of catalogue.roles) if (await ask(id)) offered.push(id);
    const [taken, other] = offered;
    if (!taken || !other) throw new Error('this donor offers too little');
    const ticketId = donor.ticketId;
    await eventStore().act({ tickets: [ticketId] }, () =>
      ok([
        {
          kind: 'ticket',
          ticketId,
          data: [{ type: 'donor-part-taken', roleId: taken, position: 'any', forTicket: 7 }],
        },
      ]),
    );
    expect(await ask(taken)).toBe(false);
    expect(await ask(other)).toBe(true);
  });
});
