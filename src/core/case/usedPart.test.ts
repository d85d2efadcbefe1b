import { describe, expect, it } from 'vitest';
import { eventsAfter } from '../../../tests/support/acts';
import { catalogue, modelOn, NOW, readAs, settings } from '../../../tests/support/demoCases';
import type { Donor } from '../fit';
import { nothingLearned } from '../learn';
import { takeFromStock, type StockState } from '../stock';
import {
  acceptedOption,
  answerOffer,
  applyEvents,
  chooseParts,
  offer,
  rungOf,
  settleCause,
  takeFromDonor,
  toBuy,
  unordered,
  type TicketEvent,
} from '../ticket';
import { asId, defined, money, toMajor, type TicketId } from '../units';
import { compose, createDesk, offerOf, settlementOf, type Weighed } from '.';

const model = modelOn('fj-a2');
const plated = readAs(model);
const donor = (change: Partial<Donor> = {}): Donor => ({
  ticketId: asId<TicketId>('the-donor'),
  number: 88,
  modelId: model.id,
  platformId: model.platformId,
  causeId: null,
  taken: [],
  ...change,
});
const assessed = (
  events: readonly TicketEvent[],
  donors: readonly Donor[],
  change = {},
  lots: readonly StockState[] = [],
): Weighed => {
  const world = { catalogue, settings: { ...settings, ...change }, learned: nothingLearned(), donors, lots };
  const result = compose(createDesk().run, world, applyEvents(events), NOW);
  if (result.kind === 'unread') throw new Error('not read');
  return result;
};
const settled = (id: string) => {
  const { lore } = assessed(plated, []);
  const cause = defined(
    lore.causes.find((one) => one.id === id),
    id,
  );
  return eventsAfter(plated, NOW, settleCause(settlementOf(cause)));
};
const waysOf = ({ offer: made }: Weighed) => [...(made?.quote.options ?? []), ...(made?.notOffered ?? [])];
const partOf = (way: ReturnType<typeof waysOf>[number]) =>
  'lines' in way ? way.lines.find(({ kind }) => kind === 'part') : undefined;
const usedIn = (weighed: Weighed) => waysOf(weighed).find(({ kind }) => kind === 'used-part');

describe('a part out of a machine on the shelf', () => {
  it('is a way of its own: here today, at the shop’s share of a new one, less sure and shorter-lived', () => {
    const weighed = assessed(settled('board'), [donor()]);
    const used = defined(
      weighed.offer?.quote.options.find(({ kind }) => kind === 'used-part'),
      'a used board',
    );
    const own = defined(weighed.offer?.quote.options[0], 'a new board');
    const [line, new_] = [used, own].map((option) =>
      defined(
        option.lines.find(({ kind }) => kind === 'part'),
        'its line',
      ),
    );
    expect(line?.usedFrom).toBe(88);
    const share = toMajor(defined(line?.amounts, 'a price').net) / toMajor(defined(new_?.amounts, 'a price').net);
    expect(share).toBeCloseTo(settings.usedPartsBasisPoints / 10_000, 2);
    const promised = (id: string) =>
      defined(
        weighed.offer?.options.find((option) => option.id === id),
        id,
      );
    expect(promised(used.id).cure).toBeLessThan(promised(own.id).cure);
    expect(promised(used.id).lifeShare).toBeLessThan(promised(own.id).lifeShare);
    expect(used.readyOn && own.readyOn && used.readyOn < own.readyOn).toBe(true);
  });

  it('is there only where the donor carries it, did not fail of it and still has it, and where such a part is ever fitted used', () => {
    const board = settled('board');
    const causeId = applyEvents(board).round.cause?.causeId ?? null;
    const roleId = defined(assessed(board, []).part?.parts?.main, 'a board').roleId;
    expect(usedIn(assessed(board, []))).toBeUndefined();
    expect(usedIn(assessed(board, [donor({ causeId })]))).toBeUndefined();
    expect(usedIn(assessed(board, [donor({ taken: [{ roleId, position: 'any' }] })]))).toBeUndefined();
    expect(usedIn(assessed(settled('bearings'), [donor()]))).toBeUndefined();
    expect(usedIn(assessed(settled('door-seal'), [donor()]))).toBeUndefined();
  });

  it('is not bought: the customer’s yes to it asks for the donor, and once it is taken nothing is missing', () => {
    const board = settled('board');
    const weighed = assessed(board, [donor()]);
    const draft = defined(offerOf(weighed), 'an offer');
    const used = defined(
      draft.options.find(({ kind }) => kind === 'used-part'),
      'a used board',
    );
    const own = defined(draft.options[0], 'a new board');
    const agreed = eventsAfter(
      board,
      NOW,
      chooseParts(draft.causeId, own.parts),
      offer(draft),
      answerOffer('yes', used.id),
    );
    const state = applyEvents(agreed);
    expect(acceptedOption(state.round)?.kind).toBe('used-part');
    const [need, ...others] = unordered(state);
    expect(need?.requirement).toMatchObject({ route: 'donor', donor: { number: 88 }, alternatives: [] });
    expect(toBuy(state)).toHaveLength(others.length);
    // What remains is not an order: the floor, the day and the sheet say so.
    expect(rungOf(state)).toBe(others.length ? 'order' : 'take-part');
    const kept = { ...state, ticketId: asId<TicketId>('the-donor'), number: 88, donor: { taken: [] } };
    const taken = takeFromDonor(state, kept, defined(need, 'a need').requirement.requirementId);
    expect(taken.ok).toBe(true);
  });

  it('lies on the shelf already: surer where it was tried, quicker for nothing is taken apart, and taken from there', () => {
    const board = settled('board');
    const fromDonor = defined(usedIn(assessed(board, [donor()])), 'out of a donor');
    const part = defined(partOf(fromDonor)?.partId, 'its number');
    const lot = (works: boolean | null): StockState => ({
      stockId: asId('lot'),
      partId: part,
      partNumber: 'N',
      description: '',
      place: 'C1',
      unitCost: money(1000, 'EUR'),
      used: true,
      works,
      origin: {
        kind: 'donor',
        ticketId: asId<TicketId>('gone'),
        number: 77,
        roleId: defined(assessed(board, []).part?.parts?.main, 'a board').roleId,
        position: 'any',
      },
      since: NOW,
      lastAt: NOW,
      units: 1,
      free: works === false ? 0 : 1,
      reserved: [],
      movements: [],
    });
    const [tried, untried, broken] = [true, null, false].map((works) => usedIn(assessed(board, [], {}, [lot(works)])));
    expect(broken).toBeUndefined();
    const shelf = defined(tried, 'off the shelf');
    expect(partOf(shelf)?.usedFrom).toBe(77);
    expect(shelf.handsOnMinutes).toBeLessThanOrEqual(fromDonor.handsOnMinutes);
    const cureOf = (lots: StockState[]) =>
      assessed(board, [], {}, lots).offer?.options.find(({ id }) => id === shelf.id)?.cure ?? 0;
    expect(cureOf([lot(true)])).toBeGreaterThan(cureOf([lot(null)]));
    expect(defined(untried, 'not tried').id).toBe(shelf.id);
    // The customer says yes: it is taken off the shelf, and nothing is missing.
    const weighed = assessed(board, [], {}, [lot(true)]);
    const draft = defined(offerOf(weighed), 'an offer');
    const own = defined(draft.options[0], 'a new board');
    const agreed = eventsAfter(
      board,
      NOW,
      chooseParts(draft.causeId, own.parts),
      offer(draft),
      answerOffer('yes', shelf.id),
    );
    const state = applyEvents(agreed);
    const need = defined(
      unordered(state).find(({ requirement }) => requirement.route === 'donor'),
      'a used board is needed',
    );
    const { requirementId } = need.requirement;
    const taken = takeFromStock(lot(true), state, requirementId);
    if (!taken.ok) throw new Error(taken.error.kind);
    const heard = taken.value.flatMap((append) => (append.kind === 'ticket' ? [...append.data] : []));
    const after = applyEvents(eventsAfter(agreed, NOW, () => ({ ok: true, value: heard })));
    expect(unordered(after).map(({ requirement }) => requirement.requirementId)).not.toContain(requirementId);
  });
});
