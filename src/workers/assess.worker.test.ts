import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../tests/support/demo';
import { DEMO_DAY } from '../../tests/support/demoDay';
import { fillWithDemo, startWorker } from '../../tests/support/worker';
import { assess, type Assessment } from '@/core/case';
import { applyEvents } from '@/core/ticket';
import { defined } from '@/core/units';
import type { SorterDatabase } from '@/store';
import type { AssessApi } from './assess.worker';

const settings = demoSettings();
const now = `${DEMO_DAY}T09:00:00.000Z`;
const open = [...demoTickets().values()]
  .map((stream) => applyEvents(stream))
  .filter((state) => state.closed === null && state.plate !== null);

describe('a machine weighed in the worker', () => {
  let api: AssessApi;
  let db: SorterDatabase;
  beforeAll(async () => {
    ({ api, db } = await startWorker<AssessApi>(() => import('./assess.worker')));
  });

  it('is nothing without a catalogue', async () => {
    const [state] = open;
    expect(await api.assess(defined(state, 'an open ticket'), settings, now)).toBeNull();
    expect(
      await api.donors(
        defined(state, 'an open ticket'),
        { roleId: 'pump', position: 'any', listedPartIds: [] },
        DEMO_DAY,
      ),
    ).toEqual([]);
  });

  it('comes out as with the whole catalogue in memory', async () => {
    await fillWithDemo(db);
    const { loadLearned } = await import('@/store');
    const catalogue = demoCatalogue();
    const learned = await loadLearned(db, new Map(catalogue.platforms.map(({ id, design }) => [id, design])));
    expect(open.length).toBeGreaterThan(4);
    for (const state of open.slice(0, 3)) {
      const near = defined(await api.assess(state, settings, now), 'an assessment');
      const whole = assess(catalogue, state, settings, learned, now);
      // The whole catalogue knows the numbers of parts that have nothing to do with this machine; those that are known to both are the same.
      const told = ({ partNumbers, partProperties, ...rest }: Assessment) => ({ rest, partNumbers, partProperties });
      expect(told(near).rest, `ticket ${state.number}`).toEqual(told(whole).rest);
      expect(whole.partNumbers).toMatchObject(near.partNumbers);
      expect(whole.partProperties).toMatchObject(near.partProperties);
      expect(Object.keys(near.partNumbers).length).toBeGreaterThan(0);
    }
  });

  it('finds the same donors from the shelf as from all closed tickets', async () => {
    const { donorsFor } = await import('@/core/fit');
    const closed = [...demoTickets().values()].map((stream) => applyEvents(stream));
    const shelf = closed.flatMap((state) =>
      state.donor && state.plate
        ? [
            {
              ticketId: state.ticketId,
              number: state.number,
              modelId: state.plate.modelId,
              platformId: state.plate.platformId,
              causeId: state.cause?.causeId ?? null,
              taken: state.donor.taken,
            },
          ]
        : [],
    );
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
        const found = await api.donors(state, question, DEMO_DAY);
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
    const { record } = await import('@/store');
    const catalogue = demoCatalogue();
    const donor = defined(
      [...demoTickets().values()].map((stream) => applyEvents(stream)).find((state) => state.donor && state.plate),
      'a donor',
    );
    const state = { ...donor, donor: null };
    const ask = async (roleId: string) => {
      const listedPartIds = catalogue.fits.filter((fit) => fit.roleId === roleId).map((fit) => fit.partId);
      const found = await api.donors(state, { roleId, position: 'any', listedPartIds }, DEMO_DAY);
      return found.some((match) => match.donor.ticketId === donor.ticketId);
    };
    const offered: string[] = [];
    for (const { id } of catalogue.roles) if (await ask(id)) offered.push(id);
    const [taken, other] = offered;
    if (!taken || !other) throw new Error('this donor offers too little');
    await record(donor.ticketId, { type: 'donor-part-taken', roleId: taken, position: 'any', forTicket: 7 });
    expect(await ask(taken)).toBe(false);
    expect(await ask(other)).toBe(true);
  });
});
