import { describe, expect, it } from 'vitest';
import { eventsAfter } from '../../../tests/support/acts';
import { demoCatalogue, demoSettings, demoTickets } from '../../../tests/support/demo';
import { learnFrom, lessonOf, nothingLearned, without, type Learned } from '../learn';
import { applyEvents, offer, settleCause, waitedIn, type TicketEvent } from '../ticket';
import { asId, asInstant, defined, type CauseId } from '../units';
import { compose, fromScratch, offerOf, settlementOf, type Weighed } from '.';

const NOW = asInstant('2026-11-24T08:00:00.000Z');
const catalogue = demoCatalogue();
const open = defined(
  [...demoTickets()].find(
    ([number, events]) => number > 200 && applyEvents(events).plate && !applyEvents(events).round.cause,
  ),
  'an open ticket with a plate',
)[1];
/** By the years of the model alone nobody knows how old it is. */
const ageless = open.filter(({ data }) => data.type !== 'serial-noted' && data.type !== 'age-guessed');
const told = eventsAfter(ageless, NOW, { type: 'age-guessed', years: 8 });

const weighed = (events: readonly TicketEvent[], learned: Learned): Weighed => {
  const result = compose(fromScratch, { catalogue, settings: demoSettings(), learned }, applyEvents(events), NOW);
  if (result.kind === 'unread') throw new Error('not read');
  return result;
};
const designOf = (events: readonly TicketEvent[]) =>
  defined(
    catalogue.platforms.find(({ id }) => id === applyEvents(events).plate?.platformId),
    'its platform',
  ).design;
/** Forty machines of the design that failed of one cause young. */
const failing = (causeId: string): Learned => ({
  ...nothingLearned(),
  failures: [{ design: designOf(open), platformId: null, causeId: asId<CauseId>(causeId), halfYears: 8, count: 40 }],
});

describe('lives that the shop has seen', () => {
  it('move what owning comes to, and no cause', () => {
    const [plain, learned] = [weighed(told, nothingLearned()), weighed(told, failing('bearings'))];
    expect(learned.worth?.annualRepair).not.toBe(plain.worth?.annualRepair);
    expect(learned.causes.causes).toEqual(plain.causes.causes);
    // Left out, they count no more.
    const left = weighed(told, without(failing('bearings'), [`lives ${designOf(open)}`]));
    expect(left.worth).toEqual(plain.worth);
  });

  it('come from the age at the offer, where the serial, the receipt or the owner says so', () => {
    const ageIn = (from: readonly TicketEvent[]) => {
      const { lore } = weighed(from, nothingLearned());
      const cause = defined(lore.causes[0], 'a cause');
      const settled = eventsAfter(from, NOW, settleCause(settlementOf(cause)));
      const draft = defined(offerOf(weighed(settled, nothingLearned())) ?? undefined, 'an offer');
      const closed = eventsAfter(settled, NOW, offer(draft), {
        type: 'closed',
        outcome: 'repaired',
        takenMinutes: null,
        listMinutes: null,
        rightFirstTime: true,
      });
      return { causeId: cause.id, lesson: lessonOf(applyEvents(closed), waitedIn(closed)).closed };
    };
    const { causeId, lesson } = ageIn(told);
    expect(lesson).toMatchObject({ causeId, ageYears: 8 });
    const { failures } = learnFrom([
      { modelId: null, design: designOf(open), platformId: null, ...defined(lesson ?? undefined, 'a lesson') },
    ]);
    expect(failures).toEqual([{ design: designOf(open), platformId: null, causeId, halfYears: 16, count: 1 }]);
    expect(weighed(ageless, nothingLearned()).age.source).toBe('production');
    expect(ageIn(ageless).lesson?.ageYears).toBeNull();
  });
});
