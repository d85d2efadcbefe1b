import { describe, expect, it } from 'vitest';
import { NOW, catalogue, settings, eventsOf, assessed, live } from '../../../tests/support/demoCases';
import { applyEvents, keep, standing } from '../ticket';
import { defined, money, sum, asDay, asId, type PartId } from '../units';
import { bestPurchase, marketOf, defaultSettings, candidateKey, settingsSchema } from '.';

describe('offers and settings', () => {
  const market = marketOf(settings, asDay('2026-11-24'));
  it('buy the quantity that is needed at the least cost in whole packs, never what is not in stock', () => {
    for (const quantity of [1, 3])
      for (const part of catalogue.parts.slice(0, 200)) {
        const best = bestPurchase(catalogue, part.id, quantity, market);
        // A second way of computing: every offer, by hand.
        const costs = catalogue.offers
          .filter((entry) => entry.partId === part.id)
          .map((entry) => ({ ...entry, packs: Math.ceil(quantity / entry.packQuantity) }))
          .filter((entry) => entry.stockPacks >= entry.packs)
          .map((entry) => entry.packs * entry.packPrice.amountMinor);
        if (costs.length === 0) expect(best).toBeNull();
        else expect(best?.cost.amountMinor).toBe(Math.min(...costs));
      }
  });

  it('do not take a pack of a hundred for one screw', () => {
    const [template] = catalogue.offers;
    const base = defined(template, 'an offer');
    const offers = [
      {
        ...base,
        id: 'single',
        partId: asId<PartId>('screw'),
        packPrice: money(60, 'EUR'),
        packQuantity: 1,
        stockPacks: 9,
      },
      {
        ...base,
        id: 'hundred',
        partId: asId<PartId>('screw'),
        packPrice: money(900, 'EUR'),
        packQuantity: 100,
        stockPacks: 9,
      },
    ];
    const of = (quantity: number) => bestPurchase({ ...catalogue, offers }, asId('screw'), quantity, market);
    expect(of(1)).toMatchObject({ offer: { id: 'single' }, packs: 1, cost: money(60, 'EUR') });
    expect(of(40)).toMatchObject({ offer: { id: 'hundred' }, packs: 1, cost: money(900, 'EUR') });
    expect(of(101)).toMatchObject({ offer: { id: 'hundred' }, packs: 2 });
  });

  it('say the same price on the card and in the line, for every number of every machine in the shop', () => {
    let compared = 0;
    for (const [, events] of live) {
      const state = applyEvents(events);
      if (!state.plate) continue;
      const { part, offer } = assessed(state);
      const answers = [part.parts?.main, ...(part.parts?.companions ?? [])].flatMap((answer) => answer ?? []);
      for (const { id, parts } of offer?.options ?? [])
        for (const answer of answers) {
          const own = parts.filter(({ roleId }) => roleId === answer.roleId).map(({ bought }) => bought.partId);
          const candidate = answer.candidates.find((entry) => candidateKey(entry) === own.join('+'));
          if (!candidate) continue;
          const lines = offer?.quote.options.find((option) => option.id === id)?.lines ?? [];
          const nets = lines.filter(({ partId }) => partId && own.includes(partId)).map(({ amounts }) => amounts?.net);
          if (candidate.sellingPrice === null) expect(nets).toContain(undefined);
          else expect(sum(nets.map((net) => net?.amountMinor ?? NaN))).toBe(candidate.sellingPrice.amountMinor);
          compared += 1;
        }
    }
    expect(compared).toBeGreaterThan(20);
  });

  it('keep a line for a number that nobody prices any more: it is to be asked, and the offer is not complete', () => {
    const events = eventsOf(205);
    const result = assessed(applyEvents(events));
    const chosen = new Set(applyEvents(events).round.parts.map(({ bought }) => bought.partId));
    expect(result.offer?.quote.options[0]?.complete).toBe(true);
    const gone = { ...catalogue, offers: catalogue.offers.filter(({ partId }) => !chosen.has(partId)) };
    const option = defined(assessed(applyEvents(events), { catalogue: gone }).offer?.quote.options[0], 'an option');
    expect(option.complete).toBe(false);
    const asked = option.lines.filter(({ amounts }) => amounts === null);
    expect(asked.map(({ partId }) => partId)).toEqual(expect.arrayContaining([...chosen]));
    expect(option.gross.amountMinor).toBe(sum(option.lines.map(({ amounts }) => amounts?.gross.amountMinor ?? 0)));
  });

  it('are the same whether read on the offer that was made or from today’s figures, on the day itself', () => {
    const state = applyEvents(eventsOf(205));
    const made = defined(state.round.offer, 'an offer');
    expect(standing(state).offer).toBe('stands');
    const today = assessed(state).offer?.quote.options.find(({ id }) => id === made.options[0]?.id);
    expect(today?.gross).toEqual(made.options[0]?.gross);
    expect(keep('offer')(state, { at: NOW, newId: () => asId('x') }).ok).toBe(true);
  });

  it('have defaults that are valid', () => {
    expect(settingsSchema.safeParse(defaultSettings()).success).toBe(true);
  });

  it('are all numbers when an hour costs nothing', () => {
    const free = { ...settings, labourPerHour: money(0, settings.currency) };
    const result = assessed(applyEvents(eventsOf(201)), { settings: free });
    expect(result.steps.length).toBeGreaterThan(3);
    for (const step of result.steps) {
      expect(Number.isFinite(step.minutes)).toBe(true);
      expect(Number.isFinite(step.expectedCost)).toBe(true);
    }
  });
});
