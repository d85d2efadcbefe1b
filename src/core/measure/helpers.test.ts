import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  cureHours,
  driftFor,
  drawingIn,
  drillsFor,
  nextShim,
  runOutOf,
  tighteningOrder,
  vapourPressure,
  BEARINGS,
  type ShimTried,
} from '.';
import { addHours, asInstant, hoursBetween } from '../units';

describe('drift and run-out', () => {
  it('a drift stands on the sleeve, passes the shaft and does not collar; else there is none', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 80, noNaN: true }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        (sleeve, shaft) => {
          const drift = driftFor(sleeve, shaft);
          if (!drift) return void expect(sleeve - shaft).toBeLessThan(4);
          expect(drift.outsideMm).toBeLessThan(sleeve);
          expect(shaft === 0 || drift.atLeastInsideMm > shaft).toBe(true);
          expect(drift.outsideMm - drift.atLeastInsideMm).toBeGreaterThanOrEqual(2);
        },
      ),
    );
    expect([driftFor(0, 0), driftFor(20, -1), driftFor(20, 19)]).toEqual([null, null, null]);
  });

  it('the run-out of a circle beside its axis is twice how far it is beside it, wherever one begins', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 3, noNaN: true }), fc.nat(5), (off, begin) => {
        const gaps = Array.from({ length: 12 }, (_, index) => 5 - off * Math.cos(((index - begin) * Math.PI) / 6));
        const answer = runOutOf(gaps);
        expect(answer?.totalMm).toBeCloseTo(2 * off, 1);
        expect(answer?.offMm).toBeCloseTo(off, 1);
        expect(answer?.nearest).toBe(begin + 1);
      }),
    );
    expect([runOutOf([1, 2]), runOutOf([1, 2, Number.NaN]), runOutOf([1, -2, 3])]).toEqual([null, null, null]);
  });
});

describe('cure by depth and air', () => {
  const usual = { celsius: 23, humidity: 0.5 };
  it('takes a day for the depth of the first day, four for twice that, and longer in cold or dry air', () => {
    expect(cureHours(3, 3, usual)).toBeCloseTo(24, 9);
    expect(cureHours(6, 3, usual)).toBeCloseTo(96, 9);
    expect(cureHours(3, 3, { celsius: 8, humidity: 0.5 })).toBeGreaterThan(48);
    expect(cureHours(3, 3, { celsius: 23, humidity: 0.25 })).toBeCloseTo(48, 9);
    expect(cureHours(0, 3, usual)).toBe(0);
  });

  it('agrees with the skin grown hair by hair through what has cured', () => {
    // dx/dt = k · p / x, the diffusion through the cured depth, integrated by steps.
    const pressure = (room: typeof usual) => room.humidity * vapourPressure(room.celsius);
    const k = 3 ** 2 / (2 * 24 * pressure(usual));
    for (const room of [usual, { celsius: 15, humidity: 0.7 }, { celsius: 30, humidity: 0.35 }])
      for (const depth of [2, 3.6, 5]) {
        const step = 0.001;
        let hours = 0;
        for (let grown = step / 2; grown < depth; grown += step) hours += (step * grown) / (k * pressure(room));
        expect(cureHours(depth, 3, room)).toBeCloseTo(hours, 1);
      }
  });

  it('has the pressure of boiling water and of ice water right', () => {
    expect(vapourPressure(0)).toBeCloseTo(611.2, 1);
    expect(vapourPressure(20)).toBeGreaterThan(2325);
    expect(vapourPressure(20)).toBeLessThan(2345);
  });

  it('counts hours, not clocks: over midnight and over a change of clock', () => {
    // The night in which clocks in Europe go back: 25 hours from noon to noon by the wall.
    const closed = asInstant('2026-10-24T21:30:00.000Z');
    const until = addHours(closed, cureHours(3, 3, usual));
    expect(until).toBe('2026-10-25T21:30:00.000Z');
    expect(hoursBetween(closed, until)).toBe(24);
  });
});

describe('small reckonings at the bench', () => {
  it('draws every bearing in by its outer ring with a rod that passes its bore', () => {
    for (const bearing of BEARINGS) {
      const answer = drawingIn(bearing, 40);
      if (!answer) throw new Error(bearing.designation);
      expect(answer.washer.outsideMm).toBeLessThan(bearing.outside);
      expect(answer.washer.atLeastInsideMm).toBeGreaterThan((bearing.bore + bearing.outside) / 2);
      expect(Number(answer.rod.thread.slice(1))).toBeLessThan(bearing.bore);
      expect(answer.counter.outsideMm).toBeGreaterThan(bearing.outside);
      expect(answer.rod.lengthMm).toBeGreaterThanOrEqual(100);
    }
    expect(drawingIn({ bore: 20, outside: 10 }, 40)).toBeNull();
    expect(drawingIn({ bore: 20, outside: 47 }, Number.NaN)).toBeNull();
  });

  it('tightens every bolt once, the second as far from the first as can be, never a neighbour while a gap is wider', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), (bolts) => {
        const order = tighteningOrder(bolts);
        expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: bolts }, (_, index) => index + 1));
        if (bolts > 1) expect(Math.abs((order[1] ?? 0) - 1)).toBe(Math.floor(bolts / 2));
        const apart = (a: number, b: number) => Math.min((a - b + bolts) % bolts, (b - a + bolts) % bolts);
        const gap = (bolt: number, before: readonly number[]) => Math.min(...before.map((other) => apart(bolt, other)));
        order.forEach((bolt, index) => {
          if (index === 0) return;
          const before = order.slice(0, index);
          for (const later of order.slice(index)) expect(gap(bolt, before)).toBeGreaterThanOrEqual(gap(later, before));
        });
      }),
    );
    expect(tighteningOrder(4)).toEqual([1, 3, 2, 4]);
    expect(tighteningOrder(0)).toEqual([]);
    expect(tighteningOrder(Number.NaN)).toEqual([]);
  });

  it('finds the shim of a kit in as many tries as it has thinner ones, and says when none does it', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 30 }), { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 0, max: 31 }),
        (tenths, needed) => {
          const kit = tenths.map((mm) => mm / 10);
          const tried: ShimTried[] = [];
          let next = nextShim(kit, tried);
          while (next.kind === 'try') {
            const at = Math.round(next.mm * 10);
            tried.push({ mm: next.mm, mark: at < needed ? 'before' : at === needed ? 'in' : 'past' });
            next = nextShim(kit, tried);
          }
          expect(next).toEqual(tenths.includes(needed) ? { kind: 'chosen', mm: needed / 10 } : { kind: 'none' });
          expect(tried.length).toBeLessThanOrEqual(kit.length);
        },
      ),
    );
  });

  it('knows the holes of the common threads', () => {
    expect(drillsFor('M6')).toEqual({ tap: 5, clearance: 6.6, core: 3.5 });
    expect(drillsFor('M8')?.tap).toBeCloseTo(6.8, 1);
    expect(drillsFor('M7')).toBeNull();
  });
});
