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
    let tested = 0;
    for (const [, events] of [...tickets].filter(([number]) => number > 200)) {
      const result = assessed(applyEvents(events));
      const both = result.options.find((option) => option.id === 'while-open');
      if (!both) continue;
      expect(both.plan.handsOnMinutes).toBeLessThan(both.plan.separateMinutes);
      tested += 1;
    }
    expect(tested).toBeGreaterThan(0);
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

describe('old and new in the hand', () => {
  const events = eventsOf(203);
  const role = (state: TicketState) => assessed(state).parts?.main?.roleId ?? '';
  const measure = (property: string, value: string): TicketEventData => ({
    type: 'part-measured',
    roleId: role(applyEvents(events)),
    property,
    label: property,
    value,
  });

  it('compares every number that is not the maker’s own word, and charges the work that it needs', () => {
    let generics = 0;
    for (const [, stream] of [...tickets].filter(([number]) => number > 200))
      for (const candidate of assessed(applyEvents(stream)).parts?.main?.candidates ?? []) {
        if (candidate.route === 'generic' && candidate.comparison) generics += 1;
        const minutes = candidate.comparison?.workMinutes ?? 0;
        expect(candidate.adaptation.amountMinor).toBe(Math.round((settings.labourPerHour.amountMinor * minutes) / 60));
      }
    expect(generics).toBeGreaterThan(0);
  });

  it('puts what does not fit by the caliper behind what does, and never offers it as an alternative', () => {
    const state = applyEvents(add(events, measure('shaftMm', '31')));
    const result = assessed(state);
    const candidates = result.parts?.main?.candidates ?? [];
    expect(candidates.some((candidate) => candidate.comparison?.verdict === 'does-not-fit')).toBe(true);
    const chosen = partsChosen(defined(result.options[0], 'an option'), 'bearings');
    const bad = new Set(
      candidates
        .filter((candidate) => candidate.comparison?.verdict === 'does-not-fit')
        .map((candidate) => candidate.part.id),
    );
    const main = chosen.parts.find((part) => !part.companion);
    for (const alternative of main?.alternatives ?? []) expect(bad.has(alternative.partId)).toBe(false);
  });

  it('takes a measurement back when it is emptied', () => {
    const state = applyEvents(add(events, measure('shaftMm', '31'), measure('shaftMm', '')));
    expect(state.measured[role(state)]).toEqual({});
    expect(assessed(state).parts).toEqual(assessed(applyEvents(events)).parts);
  });

  it('says when a doubtful plate does not matter for this job', () => {
    const doubt = (
      others: TicketState['plate'] extends infer P ? (P extends { others: infer O } ? O : never) : never,
    ) => {
      const state = applyEvents(events);
      const plate = defined(state.plate, 'a plate');
      const share = 0.9 / (others.length + 1);
      return assessed({
        ...state,
        plate: {
          ...plate,
          confirmed: false,
          probability: share,
          others: others.map((other) => ({ ...other, probability: share })),
        },
      }).doubtMatters;
    };
    const sister = defined(
      catalogue.models.find(
        (model) =>
          model.platformId === 'fj-a2' &&
          model.id !== applyEvents(events).plate?.modelId &&
          model.producedFrom < '2014' &&
          (model.producedTo ?? '') > '2016',
      ),
      'a sister',
    );
    const stranger = defined(
      catalogue.models.find((model) => model.platformId === 'qu-m3'),
      'a stranger',
    );
    const as = (model: { id: string; modelNumber: string }) => ({
      modelId: model.id,
      modelNumber: model.modelNumber,
      probability: 0,
    });
    expect(doubt([as(stranger)])).toBe(true);
    expect(doubt([as(sister)])).toBe(false);
    expect(assessed(applyEvents(events)).doubtMatters).toBeNull();
    // A build date that is open for both alike is no reason to read the plate again: it is the serial that is to be read.
    const main = defined(assessed(applyEvents(events)).parts?.main, 'a part');
    const listed = main.candidates[0]?.listedPartId;
    const broken = catalogue.fits.map((fit) => (fit.partId === listed ? { ...fit, builtTo: '2015-01-01' } : fit));
    const plate = defined(applyEvents(events).plate, 'a plate');
    const own = defined(
      catalogue.models.find(({ id }) => id === plate.modelId),
      'a model',
    );
    const twin = { ...own, id: 'twin', modelNumber: `${own.modelNumber}X` };
    const changed = { ...catalogue, fits: broken, models: [...catalogue.models, twin] };
    const state = applyEvents(events);
    const asked = assess(
      changed,
      {
        ...state,
        serial: null,
        plate: { ...plate, confirmed: false, probability: 0.5, others: [{ ...as(twin), probability: 0.4 }] },
      },
      settings,
      nothingLearned(),
      NOW,
    );
    expect(asked.parts?.main?.candidates[0]?.probability).toBeLessThan(0.85);
    expect(asked.doubtMatters).toBe(false);
  });
});
