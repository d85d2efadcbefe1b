import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asDay, asId, asInstant, money, sum, type PartId, type StockId } from '../units';
import {
  applyStockEvents,
  changeLot,
  demandWithin,
  keepLevel,
  packsToFill,
  type StockEvent,
  type StockEventData,
} from '.';
import { deadPieces, demandOf } from './keep';

const eventsOf = (...data: StockEventData[]): StockEvent[] =>
  data.map((one, index) => ({
    id: asId(`e${index}`),
    stream: 'stock:lot',
    sequence: index + 1,
    version: 1,
    at: asInstant('2026-11-24T08:00:00.000Z'),
    groupId: `g${index}`,
    data: one,
  }));
const stocked: StockEventData = {
  type: 'stocked',
  partId: asId<PartId>('p'),
  partNumber: 'FJ 1',
  description: 'Pump',
  place: 'A3',
  units: 3,
  unitCost: money(1200, 'EUR'),
  used: false,
  origin: { kind: 'by-hand' },
};
const claim = { ticketId: asId<never>('t'), number: 7, requirementId: asId<never>('r') };
const lotOf = (...data: StockEventData[]) => {
  const lot = applyStockEvents(eventsOf(stocked, ...data));
  if (!lot) throw new Error('no lot');
  return lot;
};

describe('a lot on the shelf', () => {
  it('is the sum of its movements, and what is kept for a ticket is not free', () => {
    const lot = lotOf({ type: 'reserved', ...claim, units: 2 }, { type: 'written-off', units: 1, why: 'broken' });
    expect(lot).toMatchObject({ units: 2, free: 0 });
    expect(lotOf({ type: 'reserved', ...claim, units: 2 }, { type: 'taken', ...claim, units: 1 })).toMatchObject({
      units: 2,
      free: 1,
      reserved: [{ units: 1 }],
    });
  });

  it('counts as counted, and gives nothing away that does not work', () => {
    expect(lotOf({ type: 'counted', units: 1 })).toMatchObject({ units: 1, free: 1 });
    expect(lotOf({ type: 'tried', works: false })).toMatchObject({ units: 3, free: 0 });
  });

  it('takes back what was undone', () => {
    const events = eventsOf(stocked, { type: 'counted', units: 9 }, { type: 'undone', eventId: asId('e1') });
    expect(applyStockEvents(events)).toMatchObject({ units: 3, stockId: asId<StockId>('lot') });
    expect(applyStockEvents(eventsOf(stocked, { type: 'undone', eventId: asId('e0') }))).toBeNull();
  });

  it('writes nothing off that is kept for a ticket', () => {
    const lot = lotOf({ type: 'reserved', ...claim, units: 2 });
    expect(changeLot(lot, { type: 'written-off', units: 2, why: 'sold' })).toMatchObject({ ok: false });
    expect(changeLot(lot, { type: 'written-off', units: 1, why: 'sold' })).toMatchObject({ ok: true });
  });
});

const demand = fc.record({
  uses: fc.nat({ max: 60 }),
  days: fc.integer({ min: 1, max: 900 }),
  needs: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 6 }),
});
const leads = fc.integer({ min: 1, max: 60 });

describe('what will be asked for', () => {
  it('is a distribution: it sums to one, and its mean is the rate’s and the chances’', () => {
    fc.assert(
      fc.property(demand, leads, (known, days) => {
        const p = demandWithin(known, days);
        expect(sum(p)).toBeCloseTo(1, 9);
        expect(Math.min(...p)).toBeGreaterThanOrEqual(0);
        const mean = ((0.5 + known.uses) / (365 + known.days)) * days + sum(known.needs);
        if (mean < 20) expect(sum(p.map((chance, n) => chance * n))).toBeCloseTo(mean, 2);
      }),
    );
  });

  it('comes to the truth of a drawn shop: a used number’s days without a use are as often as said', () => {
    // 24 uses in two years: over five days e^(-24/730·5) of a Poisson process of that rate.
    const [none = 0] = demandWithin({ uses: 24, days: 730, needs: [] }, 5);
    expect(none).toBeCloseTo(Math.exp((-24.5 / 1095) * 5), 2);
  });
});

describe('what to keep', () => {
  const terms = { leadDays: 3, unitCost: money(1500, 'EUR'), waitingPerDay: money(800, 'EUR'), holdingShare: 0.2 };

  it('is the number with the least expected cost, as counted out by hand', () => {
    fc.assert(
      fc.property(demand, leads, fc.integer({ min: 1, max: 40_000 }), (known, leadDays, cost) => {
        const level = keepLevel(known, { ...terms, leadDays, unitCost: money(cost, 'EUR') });
        const within = demandWithin(known, leadDays);
        const { over } = level;
        // The same by trying every number: one too few costs `under` each, one too many `over` each.
        const under = terms.waitingPerDay.amountMinor * leadDays;
        const costOf = (kept: number) =>
          sum(within.map((p, n) => p * (n > kept ? (n - kept) * under : (kept - n) * Math.max(over, 1e-9))));
        const best = Array.from({ length: 60 }, (_, kept) => costOf(kept));
        expect(costOf(level.level)).toBeLessThanOrEqual(Math.min(...best) + under * 0.01 + 1);
      }),
    );
  });

  it('is more where waiting costs more, where parts come late, where more is asked for; less where a piece is dear', () => {
    fc.assert(
      fc.property(demand, leads, (known, leadDays) => {
        const { level } = keepLevel(known, { ...terms, leadDays });
        expect(
          keepLevel(known, { ...terms, leadDays, waitingPerDay: money(1600, 'EUR') }).level,
        ).toBeGreaterThanOrEqual(level);
        expect(keepLevel({ ...known, uses: known.uses + 5 }, { ...terms, leadDays }).level).toBeGreaterThanOrEqual(
          level,
        );
        expect(keepLevel(known, { ...terms, leadDays, unitCost: money(3000, 'EUR') }).level).toBeLessThanOrEqual(level);
      }),
    );
  });

  it('keeps nothing that is here on the day, nor where nobody waits', () => {
    const known = { uses: 30, days: 365, needs: [0.9] };
    expect(keepLevel(known, { ...terms, leadDays: 0 }).level).toBe(0);
    expect(keepLevel(known, { ...terms, waitingPerDay: money(0, 'EUR') }).level).toBe(0);
  });

  it('fills up in whole packs, counting what is on the way', () => {
    expect(packsToFill(3, 1, 1, 1)).toBe(1);
    expect(packsToFill(3, 0, 0, 5)).toBe(1);
    expect(packsToFill(1, 4, 0, 1)).toBe(0);
  });

  it('counts uses of the days looked at only, and names what lies there dead', () => {
    const [from, today] = [asDay('2025-11-24'), asDay('2026-11-24')];
    const p = asId<PartId>('p');
    const uses = [
      { partId: p, units: 2, at: asDay('2026-03-01') },
      { partId: p, units: 5, at: asDay('2024-03-01') },
    ];
    const known = demandOf(uses, [{ partId: p, chance: 0.4 }], from, today).get(p);
    expect(known).toEqual({ uses: 2, days: 365, needs: [0.4] });
    const lot = lotOf();
    expect(deadPieces(lot, { uses: 0, days: 700, needs: [] }, asDay('2027-12-24'), 'UTC')).toBe(3);
    expect(deadPieces(lot, { uses: 9, days: 700, needs: [] }, asDay('2027-12-24'), 'UTC')).toBe(0);
    expect(deadPieces(lot, { uses: 0, days: 700, needs: [] }, asDay('2026-12-24'), 'UTC')).toBe(0);
  });
});
