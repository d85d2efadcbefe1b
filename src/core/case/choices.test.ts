import { describe, expect, it } from 'vitest';
import { add, catalogue, modelOn, NOW, readAs, settings } from '../../../tests/support/demoCases';
import type { Donor } from '../fit';
import { nothingLearned } from '../learn';
import { answerOffer, applyEvents, chooseParts, note, offer, settleCause, type TicketEvent } from '../ticket';
import { asDay, asId, defined, toMajor, type TicketId } from '../units';
import { compose, createDesk, offerOf, settlementOf, type Settings, type Weighed } from '.';

const model = modelOn('fj-a2');
const donor: Donor = {
  ticketId: asId<TicketId>('the-donor'),
  number: 88,
  modelId: model.id,
  platformId: model.platformId,
  causeId: null,
  taken: [],
};

function weighed(events: readonly TicketEvent[], change: Partial<Settings> = {}): Weighed {
  const world = { catalogue, settings: { ...settings, ...change }, learned: nothingLearned(), donors: [donor] };
  const result = compose(createDesk().run, world, applyEvents(events), NOW);
  if (result.kind === 'unread') throw new Error('not read');
  return result;
}

const opened = (boughtOn: string) => add(readAs(model), note({ type: 'bought-on', date: asDay(boughtOn) }));

const settled = (id: string, boughtOn = '2019-03-01') => {
  const events = opened(boughtOn);
  const cause = defined(
    weighed(events).lore.causes.find((one) => one.id === id),
    id,
  );
  return add(events, settleCause(settlementOf(cause)));
};

describe('the ways that are offered, against a new machine', () => {
  it('the first says what the comparison says; the others cost what they cost, and what may come after them', () => {
    let compared = 0;
    for (const id of ['board', 'drain-pump', 'inlet-valve', 'lock', 'bearings', 'element']) {
      const { choices, worth, offer: made } = weighed(settled(id));
      if (choices.length === 0) continue;
      const [first, ...others] = choices;
      expect(first?.advantage).toBeCloseTo(defined(worth, 'a comparison').advantage, 6);
      expect(first).toMatchObject({ fails: 0, again: 0, probabilityRepair: worth?.probabilityRepair });
      for (const other of others) {
        const way = defined(
          made?.options.find((one) => one.id === other.id),
          other.id,
        );
        const lead = defined(made?.options[0], 'the first');
        expect(other.fails).toBeCloseTo(Math.max(0, 1 - way.cure / lead.cure), 6);
        if (way.lifeShare < lead.lifeShare) expect(other.again).toBeGreaterThan(0);
        // Its price and its days, the first way's where it fails, and the mend that comes again.
        const waits = (days: number) => days * toMajor(settings.latePerDay);
        const after = defined(first, 'the first').quote + waits(daysOf(lead.readyOn));
        const comesTo = other.quote + waits(daysOf(way.readyOn)) + other.again + other.fails * after;
        expect(other.advantage).toBeCloseTo(defined(first, 'the first').advantage + after - comesTo, 6);
        compared += 1;
      }
    }
    expect(compared).toBeGreaterThan(2);
  });

  it('a way that is surer or lasts longer is never worse for it', () => {
    const events = settled('board');
    const of = (kind: string, result: Weighed) => {
      const id = result.offer?.quote.options.find((one) => one.kind === kind)?.id;
      return result.choices.find((choice) => choice.id === id);
    };
    const used = defined(of('used-part', weighed(events)), 'a used board');
    const roles = catalogue.roles.map((role) =>
      role.id === 'board' ? { ...role, usedWorks: 0.99, usedLife: 1 } : role,
    );
    const world = { catalogue: { ...catalogue, roles }, settings, learned: nothingLearned(), donors: [donor] };
    const better = compose(createDesk().run, world, applyEvents(events), NOW);
    const sure = defined(better.kind === 'weighed' ? of('used-part', better) : undefined, 'a sure one');
    expect(sure.fails).toBeLessThan(used.fails);
    expect(sure.again).toBe(0);
    expect(sure.advantage).toBeGreaterThan(used.advantage);
  });

  it('are weighed only while one is to be chosen: not before the cause is settled, nor once one is agreed on', () => {
    expect(weighed(opened('2019-03-01')).choices).toEqual([]);
    const events = settled('board');
    const draft = defined(offerOf(weighed(events)), 'an offer');
    const [own] = draft.options;
    const agreed = add(
      events,
      chooseParts(draft.causeId, defined(own, 'the first').parts),
      offer(draft),
      answerOffer('yes', defined(own, 'the first').id),
    );
    expect(weighed(events).choices.length).toBeGreaterThan(1);
    expect(weighed(agreed).choices).toEqual([]);
  });
});

function daysOf(readyOn: string | null): number {
  return readyOn ? Math.max(0, (Date.parse(readyOn) - Date.parse('2026-11-24')) / 86_400_000) : 0;
}
