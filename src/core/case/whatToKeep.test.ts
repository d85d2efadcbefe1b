import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../../tests/support/demo';
import { nothingLearned } from '../learn';
import { withStock, type StockState } from '../stock';
import { applyEvents } from '../ticket';
import { addDays, asDay, asId, asInstant, defined, money, sum, type PartId, type StockId } from '../units';
import { bestPurchase, compose, fromScratch, harvestList, marketOf, possibleNeeds, whatToKeep } from '.';

const NOW = asInstant('2026-11-24T08:00:00.000Z');
const TODAY = asDay('2026-11-24');
const catalogue = demoCatalogue();
const settings = demoSettings();

const needsOf = (number: number) => {
  const state = applyEvents(defined(demoTickets().get(number), `ticket ${number}`));
  const world = { catalogue, settings, learned: nothingLearned() };
  const weighed = compose(fromScratch, world, state, NOW);
  return weighed.kind === 'unread' ? [] : possibleNeeds(catalogue, state, weighed, 0.9, settings, TODAY);
};
const sold = defined(
  catalogue.parts.find(({ id }) => bestPurchase(catalogue, id, 1, marketOf(settings, TODAY))),
  'a part that somebody sells',
);
const lot = (change: Partial<StockState> = {}): StockState => ({
  stockId: asId<StockId>('lot'),
  partId: sold.id,
  partNumber: sold.partNumber,
  description: sold.description,
  place: '',
  unitCost: money(1, settings.currency),
  used: false,
  works: null,
  origin: { kind: 'by-hand' },
  since: NOW,
  lastAt: NOW,
  units: 2,
  free: 2,
  reserved: [],
  movements: [],
  ...change,
});
const keep = (change: Partial<Parameters<typeof whatToKeep>[0]> = {}) =>
  whatToKeep({
    catalogue,
    lots: [],
    uses: [],
    needs: [],
    coming: new Map(),
    from: addDays(TODAY, -700),
    today: TODAY,
    settings: { ...settings, latePerDay: money(2000, settings.currency) },
    ...change,
  });
const uses = Array.from({ length: 30 }, (_, index) => ({
  partId: sold.id,
  units: 1,
  at: addDays(TODAY, -20 * index - 5),
}));

describe('what open machines may take', () => {
  it('is each number by the chance of its cause, of the number and of a yes: never more than the yes', () => {
    const needs = needsOf(201);
    expect(needs.length).toBeGreaterThan(3);
    for (const { chance } of needs) {
      expect(chance).toBeGreaterThan(0);
      expect(chance).toBeLessThanOrEqual(0.9 + 1e-9);
    }
  });

  it('is nothing where the customer said yes: that is on the order plan', () => {
    expect(needsOf(207)).toEqual([]);
  });
});

describe('what to keep', () => {
  it('is missing as long as it is neither here nor on the way', () => {
    const row = (change = {}) => keep({ uses, ...change }).find(({ partId }) => partId === sold.id);
    const missing = defined(row(), 'it was used');
    expect(missing.packs).toBeGreaterThan(0);
    expect(missing.gain).toBeGreaterThan(0);
    const enough = missing.level.level;
    expect(row({ lots: [lot({ units: enough, free: enough })] })).toMatchObject({ packs: 0, gain: 0, free: enough });
    expect(row({ coming: new Map<PartId, number>([[sold.id, enough]]) })).toMatchObject({ packs: 0 });
    // What is used, or promised to others, is no new piece that is free.
    expect(row({ lots: [lot({ used: true })] })?.packs).toBe(missing.packs);
    expect(row({ lots: [lot({ free: 0 })] })?.packs).toBe(missing.packs);
  });
});

describe('the shelf among the suppliers', () => {
  it('sells what is free at what it cost, today; and what a list once said of it counts no more', () => {
    const stocked = withStock(catalogue, [lot()], settings.currency);
    const purchase = bestPurchase(stocked, sold.id, 1, marketOf(settings, TODAY));
    expect(purchase).toMatchObject({ cost: money(1, settings.currency), offer: { supplierId: 'shelf' } });
    expect(bestPurchase(stocked, sold.id, 3, marketOf(settings, TODAY))?.offer.supplierId).not.toBe('shelf');
    const listed = withStock(stocked, [lot({ free: 0, units: 0 })], settings.currency);
    expect(listed.offers.some(({ supplierId }) => supplierId === 'shelf')).toBe(false);
  });

  it('never sells a used part as new, nor one that nobody lists', () => {
    const lots = [lot({ used: true }), lot({ partId: null })];
    expect(withStock(catalogue, lots, settings.currency)).toBe(catalogue);
  });
});

describe('what of a donor is worth the minutes', () => {
  const model = defined(
    catalogue.models.find(({ platformId }) => platformId === 'fj-a1'),
    'a model',
  );
  const donor = {
    ticketId: asId<never>('d'),
    number: 3,
    modelId: model.id,
    platformId: model.platformId,
    causeId: null,
    taken: [],
  };
  const platform = defined(
    catalogue.platforms.find(({ id }) => id === 'fj-a1'),
    'its platform',
  );
  const list = (usesOfEach: number, taken: { roleId: never; position: string }[] = []) =>
    harvestList({
      catalogue,
      donor: { ...donor, taken },
      platform,
      demand: () => ({ uses: usesOfEach, days: 365, needs: [] }),
      there: () => 0,
      settings,
      today: TODAY,
    });

  it('grows with what is asked for, and what comes first opens the way for what comes after', () => {
    const [rare, asked] = [list(0), list(12)];
    const worth = (rows: typeof rare) => rows.filter((row) => row.worth.amountMinor > 0);
    expect(worth(asked).length).toBeGreaterThan(worth(rare).length);
    expect(worth(asked).length).toBeGreaterThan(1);
    // Together they take fewer minutes than one by one: the way in is shared.
    const together = sum(worth(asked).map(({ minutes }) => minutes));
    const alone = sum(
      worth(asked).map((row) => {
        const others = worth(asked)
          .filter((other) => other !== row)
          .map(({ roleId, position }) => ({ roleId: roleId as never, position }));
        return list(12, others).find((one) => one.roleId === row.roleId && one.position === row.position)?.minutes ?? 0;
      }),
    );
    expect(together).toBeLessThan(alone);
  });

  it('lists nothing that is taken, and says what it loses where it does not pay', () => {
    const [first] = list(12);
    const row = defined(first, 'a part');
    const rest = list(12, [{ roleId: row.roleId as never, position: row.position }]);
    expect(rest.some((one) => one.roleId === row.roleId && one.position === row.position)).toBe(false);
    expect(list(0).some(({ worth }) => worth.amountMinor < 0)).toBe(true);
  });
});
