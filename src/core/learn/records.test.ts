import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoTickets } from '../../../tests/support/demo';
import { eventsAfter } from '../../../tests/support/acts';
import { applyEvents, remark, summarise, waitedIn } from '../ticket';
import {
  addDays,
  addHours,
  asDay,
  asId,
  asInstant,
  defined,
  hoursBetween,
  money,
  seededRandom,
  sum,
  type TicketId,
} from '../units';
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
  waited: { you: 24, customer: 24, parts: 48, cure: 0, collection: 0 },
  price: null,
  earned: null,
  advice: null,
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
      const { ticketId, number, at, closed } = lessonOf(applyEvents(events), waitedIn(events));
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

  it('say where the days went: all of a machine’s time, whatever happened to it', () => {
    for (const events of demoTickets().values()) {
      const state = applyEvents(events);
      const [first, last] = [events[0], events.at(-1)];
      if (!first || !last) throw new Error('no events');
      const waited = waitedIn(events);
      const hours = hoursBetween(first.at, state.closed?.at ?? last.at);
      expect(sum(Object.values(waited)), `ticket ${state.number}`).toBeCloseTo(hours, 6);
      expect(Math.min(...Object.values(waited))).toBeGreaterThanOrEqual(0);
    }
    const records = of([one(1), one(2, { waited: { you: 0, customer: 0, parts: 240, cure: 0, collection: 0 } })]);
    expect(records.waits[0]).toMatchObject({ what: 'parts', days: 6, longest: [{ number: 2 }, { number: 1 }] });
    expect(sum(records.waits.map(({ share }) => share))).toBeCloseTo(1, 9);
    expect(records.waits.map(({ what }) => what)).not.toContain('cure');
  });

  it('a cure that ends between two notes waits for the shop from then on', () => {
    const number = 211;
    const events = defined(demoTickets().get(number), 'a curing ticket');
    const { waiting } = summarise(applyEvents(events));
    if (waiting.for !== 'cure') throw new Error('it does not cure');
    const until = waiting.until;
    const later = eventsAfter(events, addHours(until, 5), remark('looked at it'));
    const [before, after] = [waitedIn(events), waitedIn(later)];
    expect(after.you - before.you).toBeCloseTo(5, 6);
    expect(after.cure - before.cure).toBeCloseTo(hoursBetween(defined(events.at(-1), 'last').at, until), 6);
  });

  it('hold told prices, margins and rules against what came, in the currency of most', () => {
    const price = (agreed: number) => ({ low: 8000, high: 19000, agreed, currency: 'EUR' });
    const earned = (net: number, parts: number, currency = 'EUR') => ({ net, parts, minutes: 30, currency });
    const advice = (repair: boolean, rule: boolean, advantage: number) => ({
      repair,
      advantage,
      currency: 'EUR',
      rules: [{ id: 'share-of-new', repair: rule }],
    });
    const records = of([
      one(1, { price: price(8000), earned: earned(10_000, 4000), advice: advice(true, true, 80) }),
      one(2, { price: price(19_001), earned: earned(6000, 5000), advice: advice(true, false, 120) }),
      one(3, { price: price(7999), earned: earned(90_000, 0, 'CHF'), advice: advice(false, true, -30) }),
      one(4, { price: price(12_000), earned: earned(9000, 1000) }),
    ]);
    expect(records.prices).toMatchObject({
      inside: { share: 0.5, no: [{ number: 2 }, { number: 3 }] },
      above: 1,
      below: 1,
    });
    expect(records.margin).toMatchObject({ of: 3, unknown: 1, currency: 'EUR', median: 6000, perHour: 10_000 });
    expect(records.margin?.least[0]).toMatchObject({ number: 2 });
    expect(records.rules).toMatchObject([
      { id: 'share-of-new', costs: 150, otherwise: { of: 3, yes: [{ number: 2 }, { number: 3 }] } },
    ]);
    expect(of([one(1)])).toMatchObject({ prices: null, margin: null, rules: [] });
  });

  it('months follow each other without a gap, and hold every case once', () => {
    const day = fc.integer({ min: 0, max: 900 });
    fc.assert(
      fc.property(fc.array(day, { minLength: 1, maxLength: 30 }), (days) => {
        const cases = days.map((back, index) => one(index, { closedAt: addHours(CLOSED, -24 * back) }));
        const months = of(cases).months.cameBack;
        expect(sum(months.map((month) => month.of))).toBe(cases.length);
        expect(months.every(({ of: all, yes }) => yes <= all)).toBe(true);
        const index = ({ month }: { month: string }) => 12 * Number(month.slice(0, 4)) + Number(month.slice(5));
        months.slice(1).forEach((month, at) => expect(index(month) - index(defined(months[at], 'before'))).toBe(1));
      }),
    );
  });

  it('a repair leaves what was paid less what its parts cost; with a cost unknown it says nothing', () => {
    const lesson = (number: number) => {
      const events = defined(demoTickets().get(number), 'a ticket');
      return lessonOf(applyEvents(events), waitedIn(events)).closed?.record;
    };
    const sold = [...demoTickets()].filter(([, events]) => applyEvents(events).closed?.outcome === 'repaired');
    const seen = { known: 0, unknown: 0 };
    for (const [number, events] of sold) {
      const { round } = applyEvents(events);
      const option = round.offer?.options[0];
      const hasPart = option?.lines.some(({ kind }) => kind === 'part');
      const costs = round.parts.map(({ bought }) => bought.cost?.amountMinor ?? null);
      const record = lesson(number);
      const isKnown = !costs.includes(null) && (costs.length > 0 || !hasPart);
      seen[isKnown ? 'known' : 'unknown'] += 1;
      if (isKnown)
        expect(record?.earned, `ticket ${number}`).toMatchObject({
          net: option?.net.amountMinor,
          parts: sum(costs.map((cost) => cost ?? 0)),
        });
      else expect(record?.earned, `ticket ${number}`).toBeNull();
      expect(record?.advice?.rules.length ?? 0, `ticket ${number}`).toBeGreaterThan(0);
    }
    expect(Math.min(seen.known, seen.unknown)).toBeGreaterThan(10);
  });

  it('more work that was agreed is paid for as well, without its tax', () => {
    const [events = []] = [...demoTickets().values()].filter((one) => {
      const { closed, round } = applyEvents(one);
      return closed?.outcome === 'repaired' && !round.offer?.options[0]?.lines.some(({ kind }) => kind === 'part');
    });
    const withMore = (agreed: boolean) =>
      events.flatMap((event) =>
        event.data.type === 'handed-over'
          ? [
              {
                ...event,
                id: asId<never>('more'),
                data: { type: 'more-answered' as const, minutes: 20, gross: money(2380, 'EUR'), agreed },
              },
              event,
            ]
          : [event],
      );
    const earned = (of: typeof events) => lessonOf(applyEvents(of), waitedIn(of)).closed?.record?.earned;
    const plain = defined(earned(events) ?? undefined, 'what it earned');
    const more = defined(earned(withMore(true)) ?? undefined, 'what it earned with more');
    // To the cent, as the offer's own tax is rounded.
    expect(Math.abs(more.net - plain.net - 2000)).toBeLessThanOrEqual(1);
    expect(more.minutes).toBe(plain.minutes + 20);
    expect(earned(withMore(false))).toEqual(plain);
  });
});
