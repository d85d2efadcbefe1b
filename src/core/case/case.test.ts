import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../../tests/support/demo';
import { learnFrom, nothingLearned } from '../learn';
import { applyEvents, type TicketEvent, type TicketEventData, type TicketState } from '../ticket';
import { defined } from '../units';
import { assess, bestOffer, chosenKey, defaultSettings, partsChosen, quoteGiven, settingsSchema } from '.';

const NOW = '2026-11-24T08:00:00.000Z';
const catalogue = demoCatalogue();
const settings = demoSettings();
const tickets = demoTickets();
const eventsOf = (number: number): TicketEvent[] => defined(tickets.get(number), `ticket ${number}`);
const assessed = (state: TicketState) => assess(catalogue, state, settings, nothingLearned(), NOW);

const add = (events: readonly TicketEvent[], ...data: TicketEventData[]): TicketEvent[] => [
  ...events,
  ...data.map((entry, at) => ({
    id: `new${events.length + at}`,
    stream: events[0]?.stream ?? '',
    sequence: events.length + at + 1,
    version: 1,
    at: NOW,
    data: entry,
  })),
];

describe('assessing a ticket', () => {
  it('is pure: the same question gives the same answer', () => {
    const state = applyEvents(eventsOf(201));
    expect(assessed(state)).toEqual(assessed(state));
  });

  it('knows something at every station, for every machine in the shop', () => {
    for (const [, events] of [...tickets].filter(([number]) => number > 200)) {
      const state = applyEvents(events);
      const result = assessed(state);
      if (!state.plate) {
        expect(result).toMatchObject({ station: 'plate', doNext: { kind: 'read-plate' } });
        continue;
      }
      expect(result.ranking?.causes.reduce((sum, entry) => sum + entry.probability, 0)).toBeCloseTo(1, 9);
      expect(result.worth?.probabilityRepair).toBeGreaterThanOrEqual(0);
      expect(result.quote?.options.length).toBeGreaterThan(0);
      expect(result.age?.years).toBeGreaterThan(0);
      expect(result.plan?.unreachable).toEqual([]);
      const range = result.quoteRange;
      expect(range?.low).toBeLessThanOrEqual(range?.high ?? 0);
      expect(range?.expected).toBeGreaterThan(0);
    }
  });

  it('leads from findings to the close, one step after the other', () => {
    const walked: string[] = [];
    let events = eventsOf(201);
    for (let step = 0; step < 60; step += 1) {
      const state = applyEvents(events);
      const result = assessed(state);
      walked.push(result.doNext.kind);
      const { doNext } = result;
      if (doNext.kind === 'closed') break;
      const next = (): TicketEventData[] => {
        switch (doNext.kind) {
          case 'step': {
            const likeliest = [...doNext.step.outcomes].sort((a, b) => b.probability - a.probability)[0];
            return [{ type: 'check-done', checkId: doNext.step.id, outcomeId: likeliest?.outcomeId ?? null, text: '' }];
          }
          case 'decide-cause':
            return [{ type: 'cause-decided', causeId: doNext.causeId, name: 'x' }];
          case 'choose-part':
            return [partsChosen(defined(result.options[0], 'an option'), doNext.causeId)];
          case 'offer-quote':
            return [defined(quoteGiven(result), 'a quote')];
          case 'ring-customer':
            return [{ type: 'customer-answered', answer: 'yes', optionId: 'best-fit' }];
          case 'order-parts':
            return state.parts.map((part) => ({
              type: 'part-received',
              requirementId: part.requirementId,
              orderId: null,
              partNumber: '',
              verdict: 'from-shelf',
            }));
          case 'work':
            return [
              { type: 'step-ticked', key: doNext.key, operationId: doNext.key.split(' ')[1] ?? '', waitUntil: null },
            ];
          case 'finish-bench':
            return [
              { type: 'bench-finished', operationIds: result.plan?.strip.map((entry) => entry.operationId) ?? [] },
            ];
          case 'prove':
            return [{ type: 'proof-noted', proofId: doNext.proof.id, title: doNext.proof.title, passed: true }];
          case 'tell-ready':
            return [{ type: 'ready-told', how: 'phone' }];
          case 'hand-over':
            return [{ type: 'handed-over', advice: '' }];
          case 'close':
            return [
              { type: 'closed', outcome: doNext.outcome, minutesTaken: 30, plannedMinutes: 30, rightFirstTime: null },
            ];
          default:
            throw new Error(`not expected here: ${doNext.kind}`);
        }
      };
      events = add(events, ...next());
    }
    expect(walked.at(-1)).toBe('closed');
    for (const kind of [
      'decide-cause',
      'offer-quote',
      'ring-customer',
      'work',
      'finish-bench',
      'prove',
      'tell-ready',
      'hand-over',
      'close',
    ])
      expect(walked).toContain(kind);
  });

  it('returns to the findings when the repair did not help, and drops that cause', () => {
    const decided = applyEvents(eventsOf(203));
    const cause = defined(decided.cause, 'a decided cause');
    const failed = assessed(applyEvents(add(eventsOf(203), { type: 'fix-failed', causeId: cause.causeId })));
    expect(failed.station).toBe('findings');
    expect(failed.decided).toBe(false);
  });

  it('keeps the number that was decided on at the head of the offer', () => {
    const state = applyEvents(eventsOf(205));
    const result = assessed(state);
    const key = chosenKey(state, result.cause);
    expect(key).not.toBeNull();
    const numbers = result.options[0]?.picks
      .filter((pick) => !pick.companion)
      .flatMap((pick) => pick.candidate.buy.map((entry) => entry.partId));
    expect(numbers?.join('+')).toBe(key);
    expect(chosenKey(applyEvents(eventsOf(203)), result.cause)).toBeNull();
  });

  it('prices two jobs behind one way in below two separate jobs', () => {
    for (const [, events] of [...tickets].filter(([number]) => number > 200)) {
      const result = assessed(applyEvents(events));
      const both = result.options.find((option) => option.id === 'while-open');
      if (!both) continue;
      expect(both.plan.handsOnMinutes).toBeLessThan(both.plan.separateMinutes);
    }
  });

  it('learns: causes that this shop sees more often weigh more', () => {
    const state = applyEvents(eventsOf(201));
    const before = assessed(state).ranking?.causes.find((entry) => entry.causeId === 'drain-pump')?.probability ?? 0;
    const learned = learnFrom(
      Array.from({ length: 60 }, () => ({
        modelId: null,
        design: 'F-BB',
        causeId: 'drain-pump',
        minutesTaken: null,
        plannedMinutes: null,
        rightFirstTime: null,
      })),
    );
    const after =
      assess(catalogue, state, settings, learned, NOW).ranking?.causes.find((entry) => entry.causeId === 'drain-pump')
        ?.probability ?? 0;
    expect(after).toBeGreaterThan(before);
  });
});

describe('offers and settings', () => {
  it('take the cheapest offer that has enough, never one without stock', () => {
    for (const part of catalogue.parts.slice(0, 200)) {
      const best = bestOffer(catalogue, part.id, 1, 'EUR');
      const stocked = catalogue.offers.filter((offer) => offer.partId === part.id && offer.stock > 0);
      if (!best) {
        expect(stocked).toEqual([]);
        continue;
      }
      const cheapest = Math.min(...stocked.map((offer) => offer.price.amountMinor / offer.packQuantity));
      expect(best.offer.price.amountMinor / best.offer.packQuantity).toBeCloseTo(cheapest, 6);
    }
  });
  it('have defaults that are valid', () => {
    expect(settingsSchema.safeParse(defaultSettings()).success).toBe(true);
  });
});
