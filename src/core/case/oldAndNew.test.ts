import { describe, expect, it } from 'vitest';
import { catalogue, settings, eventsOf, assessed, add, live, type World } from '../../../tests/support/demoCases';
import { applyEvents, type TicketEventData, type TicketState } from '../ticket';
import { defined, asDay, asId, type ModelId } from '../units';

describe('old and new in the hand', () => {
  const events = eventsOf(203);
  const role = (state: TicketState) => assessed(state).part.parts?.main?.roleId ?? asId('none');
  const measure = (property: string, value: string): TicketEventData => ({
    type: 'part-measured',
    roleId: role(applyEvents(events)),
    property,
    label: property,
    value,
  });

  it('compares every number that is not the maker’s own word, and charges the work that it needs', () => {
    let generics = 0;
    for (const [, stream] of live) {
      const state = applyEvents(stream);
      if (!state.plate) continue;
      for (const candidate of assessed(state).part.parts?.main?.candidates ?? []) {
        if (candidate.route === 'generic' && candidate.comparison) generics += 1;
        const minutes = candidate.comparison?.workMinutes ?? 0;
        expect(candidate.adaptation.amountMinor).toBe(Math.round((settings.labourPerHour.amountMinor * minutes) / 60));
      }
    }
    expect(generics).toBeGreaterThan(0);
  });

  it('puts what does not fit by the caliper behind what does, and never offers it as an alternative', () => {
    const state = applyEvents(add(events, measure('shaftMm', '31')));
    const result = assessed(state);
    const candidates = result.part.parts?.main?.candidates ?? [];
    const fits = candidates.map((candidate) => candidate.comparison?.verdict !== 'does-not-fit');
    expect(fits).toContain(false);
    expect(fits.lastIndexOf(true)).toBeLessThan(fits.includes(true) ? fits.indexOf(false) : Infinity);
    const bad = new Set(candidates.flatMap((candidate, index) => (fits[index] ? [] : [candidate.part.id])));
    const chosen = defined(result.offer?.options[0], 'an option').parts;
    for (const alternative of chosen.flatMap(({ alternatives }) => alternatives))
      expect(bad.has(alternative.partId)).toBe(false);
  });

  it('offers as alternatives only numbers of which the same quantity does', () => {
    let compared = 0;
    for (const [, stream] of live) {
      const state = applyEvents(stream);
      if (!state.plate) continue;
      for (const option of assessed(state).offer?.options ?? [])
        for (const part of option.parts)
          for (const alternative of part.alternatives) {
            expect(alternative.quantity).toBe(part.bought.quantity);
            compared += 1;
          }
    }
    expect(compared).toBeGreaterThan(0);
  });

  it('takes a measurement back when it is emptied', () => {
    const state = applyEvents(add(events, measure('shaftMm', '31'), measure('shaftMm', '')));
    expect(state.measured[role(state)]).toEqual({});
    expect(assessed(state).part.parts).toEqual(assessed(applyEvents(events)).part.parts);
  });

  it('says when a doubtful plate does not matter for this job', () => {
    const state = applyEvents(events);
    const plate = defined(state.plate, 'a plate');
    const doubt = (others: { id: ModelId; modelNumber: string }[], more: World & { serial?: null } = {}) => {
      const share = 0.9 / (others.length + 1);
      return assessed(
        {
          ...state,
          ...('serial' in more ? { serial: null } : {}),
          plate: {
            ...plate,
            confirmed: false,
            probability: share,
            others: others.map(({ id, modelNumber }) => ({ modelId: id, modelNumber, probability: share })),
          },
        },
        more,
      ).part;
    };
    const sister = defined(
      catalogue.models.find(
        (model) =>
          model.platformId === 'fj-a2' &&
          model.id !== plate.modelId &&
          model.producedFrom < '2014' &&
          (model.producedTo ?? '') > '2016',
      ),
      'a sister',
    );
    const stranger = defined(
      catalogue.models.find((model) => model.platformId === 'qu-m3'),
      'a stranger',
    );
    expect(doubt([stranger]).doubtMatters).toBe(true);
    expect(doubt([sister]).doubtMatters).toBe(false);
    expect(assessed(state).part.doubtMatters).toBeNull();
    // A build date that is open for both alike is no reason to read the plate again: it is the serial that is to be read.
    const main = defined(assessed(state).part.parts?.main, 'a part');
    const listed = main.candidates[0]?.listedPartId;
    const broken = catalogue.fits.map((fit) =>
      fit.partId === listed ? { ...fit, builtTo: asDay('2015-01-01') } : fit,
    );
    const own = defined(
      catalogue.models.find(({ id }) => id === plate.modelId),
      'a model',
    );
    const twin = { ...own, id: asId<ModelId>('twin'), modelNumber: `${own.modelNumber}X` };
    const asked = doubt([twin], {
      catalogue: { ...catalogue, fits: broken, models: [...catalogue.models, twin] },
      serial: null,
    });
    expect(asked.parts?.main?.candidates[0]?.probability).toBeLessThan(0.85);
    expect(asked.doubtMatters).toBe(false);
  });
});
