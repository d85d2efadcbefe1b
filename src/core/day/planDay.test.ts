import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoSettings, demoTickets } from '../../../tests/support/demo';
import { applyEvents, summarise, type TicketSummary } from '../ticket';
import {
  addDays,
  addHours,
  asDay,
  asId,
  asInstant,
  defined,
  sum,
  type LocalDate,
  type OrderId,
  type TicketId,
} from '../units';
import { planDay, type OnTheWay } from '.';

const NOW = asInstant('2026-11-24T08:00:00.000Z');
const TODAY = asDay('2026-11-24');
const settings = demoSettings();
const open = [...demoTickets().values()]
  .map((events) => summarise(applyEvents(events)))
  .filter((summary) => !summary.closed);
const one = defined(open[0], 'a ticket');

/** A machine on a rung, promised for a day, with so much work. */
const machine = (id: string, rung: TicketSummary['rung'], more: Partial<TicketSummary> = {}): TicketSummary => ({
  ...one,
  ticketId: asId<TicketId>(id),
  rung,
  waiting: { for: 'you', since: NOW },
  promisedOn: addDays(TODAY, 3),
  benchMinutes: 0,
  ...more,
});
const day = (tickets: readonly TicketSummary[], onTheWay: readonly OnTheWay[] = [], change = {}, now = NOW) =>
  planDay({ tickets, onTheWay, now, settings: { ...settings, ...change } });
const idsOf = (tickets: readonly TicketSummary[]) =>
  day(tickets).tasks.flatMap((task) => task.tickets.map(({ ticketId }): string => ticketId));

describe('the day', () => {
  it('has every machine that waits for a person once, of the demo, and the orders of all in one task', () => {
    const { tasks } = day(open);
    const shown = tasks.flatMap(({ tickets }) => tickets.map(({ ticketId }) => ticketId));
    const yours = open.filter(({ waiting }) => waiting.for === 'you').map(({ ticketId }) => ticketId);
    expect([...shown].sort()).toEqual([...yours].sort());
    expect(tasks.filter(({ rung }) => rung === 'order')).toHaveLength(1);
    expect(tasks.find(({ rung }) => rung === 'order')?.tickets.length).toBeGreaterThan(1);
  });

  it('puts the short before the long, and what is late before what has time', () => {
    const long = machine('long', 'work', { benchMinutes: 200 });
    const short = machine('short', 'work', { benchMinutes: 20 });
    expect(idsOf([long, short])).toEqual(['short', 'long']);
    const late = machine('late', 'work', { benchMinutes: 60, promisedOn: addDays(TODAY, -1) });
    const early = machine('early', 'work', { benchMinutes: 50, promisedOn: addDays(TODAY, 9) });
    expect(idsOf([early, late])).toEqual(['late', 'early']);
    expect(day([late]).tasks[0]?.daysLeft).toBe(-1);
  });

  it('orders what is late as shortest first: no exchange of two neighbours makes customers wait less', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 5, max: 300 }), { minLength: 2, maxLength: 8 }), (minutes) => {
        const late = minutes.map((benchMinutes, index) =>
          machine(`m${index}`, 'work', { benchMinutes, promisedOn: addDays(TODAY, -2) }),
        );
        const order = day(late).tasks.map((task) => task.minutes);
        const waited = (list: readonly number[]) => sum(list.map((_, index) => sum(list.slice(0, index + 1))));
        for (let at = 1; at < order.length; at += 1) {
          const swapped = [...order];
          [swapped[at - 1], swapped[at]] = [order[at] ?? 0, order[at - 1] ?? 0];
          expect(waited(order)).toBeLessThanOrEqual(waited(swapped));
        }
      }),
    );
  });

  it('counts hands-on work against what is left of the day, and says what is tomorrow’s', () => {
    const work = [90, 100, 110].map((benchMinutes, index) => machine(`m${index}`, 'work', { benchMinutes }));
    // 14:00 in the shop's zone, it closes at 17:00: three hours.
    const at = asInstant('2026-11-24T13:00:00.000Z');
    const afternoon = day(work, [], {}, at);
    expect(afternoon).toMatchObject({ handsOnMinutes: 300, minutesLeft: 180 });
    expect(afternoon.tasks.map(({ fits }) => fits)).toEqual([true, false, false]);
    expect(day(work, [], { benches: 2 }, at).tasks.map(({ fits }) => fits)).toEqual([true, true, true]);
    expect(day(work, [], { holidays: [TODAY] }, at).minutesLeft).toBe(0);
    expect(day(work, [], { closesAt: '12:00' }, at).minutesLeft).toBe(0);
    // A day has no more than a bench gives in one.
    expect(day(work, [], { closesAt: '23:00' }, asInstant('2026-11-24T05:00:00.000Z')).minutesLeft).toBe(360);
  });

  it('asks again who has not answered for a day, and tells again who has not fetched for three', () => {
    const asked = (hours: number) =>
      machine('asked', 'ring-customer', { waiting: { for: 'customer', since: addHours(NOW, -hours) } });
    const told = (hours: number) =>
      machine('told', 'hand-over', { waiting: { for: 'collection', since: addHours(NOW, -hours) } });
    expect([day([asked(3)]).calls.length, day([asked(30)]).calls[0]?.why]).toEqual([0, 'no-answer']);
    expect([day([told(30)]).calls.length, day([told(80)]).calls[0]?.why]).toEqual([0, 'not-fetched']);
    expect(day([machine('ready', 'tell-ready')]).calls[0]?.why).toBe('ready');
  });

  it('names parcels that are due or late, and the cures that end today: then the machine is work again', () => {
    const way = (orderId: string, dueOn: LocalDate): OnTheWay => ({
      orderId,
      number: orderId,
      supplierName: 's',
      dueOn,
    });
    const parcels = [way('later', addDays(TODAY, 1)), way('today', TODAY), way('late', addDays(TODAY, -2))];
    expect(day([], parcels).parcels.map(({ orderId }) => orderId)).toEqual(['late', 'today']);
    const until = addHours(NOW, 4);
    const cures = machine('cures', 'wait-cure', { waiting: { for: 'cure', since: NOW, until }, benchMinutes: 40 });
    expect(day([cures])).toMatchObject({ tasks: [], cures: [{ until }] });
    expect(day([cures], [], {}, until).tasks).toMatchObject([{ rung: 'work', minutes: 40 }]);
    expect(day([cures], [], {}, addHours(NOW, -48)).cures).toEqual([]);
  });

  it('names what has to go back in the next days, and what should have gone, the most pressing first', () => {
    const back = (returnId: string, sendBy: LocalDate) => ({
      orderId: asId<OrderId>('o'),
      returnId,
      number: '1',
      supplierName: 's',
      sendBy,
    });
    const goingBack = [
      back('far', addDays(TODAY, 9)),
      back('soon', addDays(TODAY, 3)),
      back('late', addDays(TODAY, -1)),
    ];
    const { returns } = planDay({ tickets: [], onTheWay: [], goingBack, now: NOW, settings });
    expect(returns.map(({ returnId }) => returnId)).toEqual(['late', 'soon']);
  });

  it('is empty for an empty shop', () => {
    expect(day([])).toMatchObject({ tasks: [], calls: [], parcels: [], cures: [], handsOnMinutes: 0 });
  });

  it('draws work that needs a helper, or the wet place, behind work that does already, and never past what is much more urgent', () => {
    const two = { people: 2, wet: false };
    const work = (id: string, benchMinutes: number, takes: NonNullable<TicketSummary['takes']>, days = 3) =>
      machine(id, 'work', { benchMinutes, takes, promisedOn: addDays(TODAY, days) });
    const plain = { people: 1, wet: false };
    // By time alone it would be a, b, c, d.
    const jobs = [work('a', 30, plain), work('b', 40, two), work('c', 42, plain), work('d', 60, two)];
    expect(idsOf(jobs)).toEqual(['a', 'c', 'b', 'd']);
    expect(idsOf([work('a', 40, two), work('b', 42, plain), work('c', 60, two)]).join()).not.toBe('a,b,c');
    expect(idsOf([work('late', 50, { people: 2, wet: true }, -1), work('early', 45, plain, 9)])).toEqual([
      'late',
      'early',
    ]);
    expect(day(jobs).tasks.map(({ twoPeople }) => twoPeople)).toEqual([false, false, true, true]);
    // Nothing is lost or done twice, and where nothing needs either it is as before.
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 5, max: 200 }), fc.boolean(), fc.boolean()), { maxLength: 8 }),
        (drawn) => {
          const all = drawn.map(([minutes, wet, both], at) => work(`m${at}`, minutes, { people: both ? 2 : 1, wet }));
          expect([...idsOf(all)].sort()).toEqual(all.map(({ ticketId }) => String(ticketId)).sort());
          const bare = all.map((ticket) => ({ ...ticket, takes: plain }));
          const { tasks } = day(bare);
          expect(tasks.map(({ urgency }) => urgency)).toEqual(
            [...tasks.map(({ urgency }) => urgency)].sort((a, b) => b - a),
          );
        },
      ),
    );
  });
});
