import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoTickets } from '../../../tests/support/demo';
import { applyEvents } from '../ticket';
import { addDays, addHours, asDay, asId, asInstant, defined, seededRandom, type TicketId } from '../units';
import { lessonOf, recordsOf, type RecordedCase } from '.';

const CLOSED = asInstant('2026-11-20T10:00:00.000Z');
const one = (number: number, more: Partial<RecordedCase> = {}): RecordedCase => ({
  ticketId: asId<TicketId>(`t${number}`),
  number,
  openedAt: addHours(CLOSED, -96),
  closedAt: CLOSED,
  outcome: 'repaired',
  answer: 'yes',
  promisedOn: asDay('2026-11-20'),
  toldAt: CLOSED,
  callBacks: 0,
  plate: null,
  causes: [],
  takenMinutes: null,
  listMinutes: null,
  rightFirstTime: null,
  ...more,
});
const of = (cases: readonly RecordedCase[]) => recordsOf(cases, 'Europe/Berlin');

describe('the records', () => {
  it('have a share with its tickets for every figure, and nothing where nothing was noted', () => {
    const records = of([
      one(1, { rightFirstTime: true }),
      one(2, { rightFirstTime: false, callBacks: 1 }),
      one(3, { outcome: 'declined', answer: 'no', toldAt: null, promisedOn: null }),
    ]);
    expect(records.rightFirstTime).toMatchObject({ of: 2, share: 0.5, yes: [{ number: 1 }], no: [{ number: 2 }] });
    expect(records.cameBack).toMatchObject({ of: 2, yes: [{ number: 2 }] });
    expect(records.accepted).toMatchObject({ of: 3, no: [{ number: 3 }] });
    expect(records).toMatchObject({ minutes: null, plates: [], causes: [] });
    expect(of([])).toMatchObject({ cases: 0, rightFirstTime: null, cameBack: null, accepted: null, days: null });
  });

  it('a promise is kept on its day, in the shop’s zone', () => {
    // 23:30 UTC is the next day in the shop.
    const late = one(2, { toldAt: asInstant('2026-11-20T23:30:00.000Z') });
    expect(of([one(1), late]).promiseKept).toMatchObject({ yes: [{ number: 1 }], no: [{ number: 2 }] });
    expect(of([one(3, { promisedOn: addDays(asDay('2026-11-20'), -1) })]).promiseKept?.share).toBe(0);
  });

  it('bounds hold the truth in about 95 of 100 shops, and close in with more cases', () => {
    const random = seededRandom(7);
    let held = 0;
    const width = (n: number) => {
      const cases = Array.from({ length: n }, (_, index) => one(index, { rightFirstTime: index % 5 !== 0 }));
      const { low, high } = defined(of(cases).rightFirstTime, 'a share');
      return high - low;
    };
    for (let shop = 0; shop < 300; shop += 1) {
      const truth = 0.1 + 0.8 * random();
      const cases = Array.from({ length: 30 }, (_, index) => one(index, { rightFirstTime: random() < truth }));
      const { low, high } = defined(of(cases).rightFirstTime, 'a share');
      if (low <= truth && truth <= high) held += 1;
    }
    expect(held / 300).toBeGreaterThan(0.91);
    expect(width(400)).toBeLessThan(width(40));
    expect(width(1)).toBeGreaterThan(0.7);
  });

  it('what was said is held against what was so, bin by bin, and no case is lost: drawn ones', () => {
    const saying = fc.record({ said: fc.double({ min: 0, max: 1, noNaN: true }), true: fc.boolean() });
    fc.assert(
      fc.property(fc.array(saying, { maxLength: 40 }), (said) => {
        const { causes } = of(said.map((each, index) => one(index, { causes: [each] })));
        expect(causes.reduce((sum, bin) => sum + bin.is.of, 0)).toBe(said.length);
        expect(causes.reduce((sum, bin) => sum + bin.is.yes.length, 0)).toBe(said.filter((each) => each.true).length);
        for (const { from, to, meanSaid, is } of causes) {
          expect(meanSaid).toBeGreaterThanOrEqual(from);
          expect(meanSaid).toBeLessThanOrEqual(to);
          expect(is.low).toBeLessThanOrEqual(is.share + 1e-9);
          expect(is.high).toBeGreaterThanOrEqual(is.share - 1e-9);
        }
      }),
    );
  });

  it('minutes are those taken for each of the list, jobs by their size; days are counted to the call', () => {
    const records = of([
      one(1, { takenMinutes: 60, listMinutes: 40 }),
      one(2, { takenMinutes: 60, listMinutes: 60 }),
      one(3, { toldAt: addHours(CLOSED, 48) }),
    ]);
    expect(records.minutes).toMatchObject({ ratio: 1.2, of: 2 });
    expect(records.days).toMatchObject({ median: 4, ninety: 6, of: 3 });
    expect(records.days?.slowest[0]?.number).toBe(3);
  });

  it('come out of the demo’s closed tickets', () => {
    const cases = [...demoTickets().values()].flatMap((events) => {
      const { ticketId, number, at, closed } = lessonOf(applyEvents(events));
      if (!closed?.record) return [];
      const { takenMinutes, listMinutes, rightFirstTime } = closed;
      return [{ ...closed.record, ticketId, number, closedAt: at, takenMinutes, listMinutes, rightFirstTime }];
    });
    const records = of(cases);
    expect(records.cases).toBe(200);
    expect(records.rightFirstTime?.share).toBeGreaterThan(0.5);
    expect(records.plates.reduce((sum, bin) => sum + bin.is.of, 0)).toBeGreaterThan(100);
    expect(records.days?.median).toBeGreaterThan(0);
  });
});
