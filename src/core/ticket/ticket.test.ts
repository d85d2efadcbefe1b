import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoTickets } from '../../../tests/support/demo';
import { money } from '../units';
import {
  applyEvents,
  awaited,
  evidenceOf,
  nextKind,
  summarise,
  ticketEventSchema,
  unordered,
  waitsFor,
  waitsNow,
  type TicketEvent,
  type TicketEventData,
} from '.';

const AT = '2026-11-24T08:00:00.000Z';
const stream = (...data: TicketEventData[]): TicketEvent[] =>
  [{ type: 'opened' as const, number: 7, customerId: null, machineId: 'mach' }, ...data].map((entry, at) => ({
    id: `e${at}`,
    stream: 'ticket:t',
    sequence: at + 1,
    version: 1,
    at: AT,
    data: entry,
  }));

const plate: TicketEventData = {
  type: 'plate-read',
  text: 'VB 1',
  modelId: 'm1',
  modelNumber: 'VB 1',
  makerId: 'mk',
  platformId: 'p',
  badge: 'Vessby',
  probability: 1,
  others: [],
  confirmed: true,
};
const bought = { partId: 'p1', partNumber: 'FJ-1', description: 'Pump', quantity: 2, unitPrice: money(100, 'EUR') };
const chosen: TicketEventData = {
  type: 'parts-chosen',
  causeId: 'c',
  parts: [
    {
      requirementId: 'pump any',
      roleId: 'pump',
      causeId: 'c',
      companion: false,
      position: 'any',
      route: 'maker',
      buy: [bought],
      alternatives: [],
    },
  ],
};
const ordered = (orderId: string, dueOn: string): TicketEventData => ({
  type: 'part-ordered',
  requirementId: 'pump any',
  orderId,
  orderNumber: orderId,
  supplierName: 'S',
  dueOn,
});
const received = (
  orderId: string | null,
  verdict: 'as-ordered' | 'wrong' | 'from-shelf' = 'as-ordered',
): TicketEventData => ({ type: 'part-received', requirementId: 'pump any', orderId, partNumber: 'FJ-1', verdict });
const quoted: TicketEventData = {
  type: 'quoted',
  worth: null,
  options: [
    {
      id: 'best-fit',
      title: 'x',
      causeId: 'c',
      net: money(1, 'EUR'),
      tax: money(0, 'EUR'),
      gross: money(1, 'EUR'),
      handsOnMinutes: 1,
      readyOn: null,
    },
  ],
};
const yes: TicketEventData = { type: 'customer-answered', answer: 'yes', optionId: 'best-fit' };
const finding = (findingId: string, answer: 'yes' | 'no' | 'not-sure'): TicketEventData => ({
  type: 'finding-noted',
  findingId,
  answer,
  threeWords: findingId,
});

describe('a ticket from its events', () => {
  it('keeps the last answer to each question, and not sure is no evidence', () => {
    const state = applyEvents(
      stream(
        plate,
        finding('hums', 'yes'),
        finding('hums', 'no'),
        finding('roars', 'yes'),
        finding('walks', 'not-sure'),
        { type: 'code-noted', code: 'E21', findingId: 'code-drain', meaning: '' },
        { type: 'code-noted', code: 'X9', findingId: null, meaning: '' },
      ),
    );
    expect(evidenceOf(state).findings).toEqual([
      { findingId: 'hums', present: false },
      { findingId: 'roars', present: true },
      { findingId: 'code-drain', present: true },
    ]);
  });

  it('does not depend on the order in which events are read', () => {
    const events = stream(plate, finding('hums', 'yes'), chosen, quoted, yes, ordered('o1', '2026-11-25'));
    fc.assert(
      fc.property(fc.shuffledSubarray(events, { minLength: events.length }), (shuffled) => {
        expect(applyEvents(shuffled)).toEqual({ ...applyEvents(events), ticketId: 't' });
      }),
    );
  });

  it('is as it was when the last event is taken back', () => {
    const events = stream(plate, finding('hums', 'yes'), chosen, quoted, yes);
    for (let length = 2; length <= events.length; length += 1) {
      const before = applyEvents(events.slice(0, length - 1));
      const last = events[length - 1];
      const undone: TicketEvent = {
        id: 'u',
        stream: 'ticket:t',
        sequence: length + 1,
        version: 1,
        at: AT,
        data: { type: 'undone', eventId: last?.id ?? '' },
      };
      const after = applyEvents([...events.slice(0, length), undone]);
      expect({ ...after, sequence: 0 }).toEqual({ ...before, sequence: 0 });
    }
  });

  it('throws on no events: a ticket begins with one', () => {
    expect(() => applyEvents([])).toThrow(/Bug/);
  });
});

describe('parts of a ticket', () => {
  it('are here only when every delivery is', () => {
    const state = applyEvents(stream(chosen, ordered('o1', '2026-11-25'), ordered('o2', '2026-11-28'), received('o1')));
    expect(state.progress['pump any']).toMatchObject({ dueOn: '2026-11-28', received: null });
    expect(awaited(state)).toHaveLength(1);
    const all = applyEvents(
      stream(chosen, ordered('o1', '2026-11-25'), ordered('o2', '2026-11-28'), received('o1'), received('o2')),
    );
    expect(awaited(all)).toHaveLength(0);
    expect(all.progress['pump any']?.received).toEqual({ partNumber: 'FJ-1', verdict: 'as-ordered' });
  });

  it('are to be ordered again when the wrong one came or the line fell away', () => {
    expect(unordered(applyEvents(stream(chosen)))).toHaveLength(1);
    expect(unordered(applyEvents(stream(chosen, ordered('o1', '2026-11-25'))))).toHaveLength(0);
    expect(unordered(applyEvents(stream(chosen, ordered('o1', '2026-11-25'), received('o1', 'wrong'))))).toHaveLength(
      1,
    );
    expect(
      unordered(
        applyEvents(
          stream(chosen, ordered('o1', '2026-11-25'), {
            type: 'part-order-cancelled',
            requirementId: 'pump any',
            orderId: 'o1',
            why: 'no',
          }),
        ),
      ),
    ).toHaveLength(1);
    expect(unordered(applyEvents(stream(chosen, received(null, 'from-shelf'))))).toHaveLength(0);
  });

  it('take a new date from the supplier', () => {
    const state = applyEvents(
      stream(chosen, ordered('o1', '2026-11-25'), {
        type: 'part-due',
        requirementId: 'pump any',
        orderId: 'o1',
        dueOn: '2026-12-04',
        why: 'back-order',
      }),
    );
    expect(state.progress['pump any']?.dueOn).toBe('2026-12-04');
  });
});

describe('what a ticket waits for', () => {
  const waits = (...data: TicketEventData[]) => waitsFor(applyEvents(stream(...data))).for;
  it('follows the job', () => {
    expect(waits(plate)).toBe('you');
    expect(waits(plate, quoted)).toBe('customer');
    expect(waits(plate, quoted, { type: 'customer-answered', answer: 'thinking', optionId: null })).toBe('customer');
    expect(waits(plate, chosen, quoted, yes)).toBe('you');
    expect(waits(plate, chosen, quoted, yes, ordered('o1', '2026-11-25'))).toBe('parts');
    expect(waits(plate, chosen, quoted, yes, ordered('o1', '2026-11-25'), received('o1'))).toBe('you');
    expect(waits(plate, { type: 'ready-told', how: 'phone' })).toBe('collection');
    expect(
      waits(plate, {
        type: 'closed',
        outcome: 'repaired',
        minutesTaken: null,
        plannedMinutes: null,
        rightFirstTime: null,
      }),
    ).toBe('nothing');
  });
  it('names the end of a cure; the caller’s clock says whether it is over', () => {
    const waiting = waitsFor(
      applyEvents(
        stream(plate, {
          type: 'step-ticked',
          key: 'refit tub',
          operationId: 'tub',
          waitUntil: '2026-11-25T08:00:00.000Z',
        }),
      ),
    );
    expect(waiting).toMatchObject({ for: 'cure', until: '2026-11-25T08:00:00.000Z' });
    expect(waitsNow(waiting, '2026-11-25T07:59:00.000Z').for).toBe('cure');
    expect(waitsNow(waiting, '2026-11-25T08:00:00.000Z').for).toBe('you');
  });
});

describe('the demo’s tickets', () => {
  it('parse, and stand at every station', () => {
    const tickets = demoTickets();
    const states = [...tickets.values()].map((events) => applyEvents(events));
    for (const events of tickets.values())
      for (const event of events) expect(ticketEventSchema.safeParse(event.data).success).toBe(true);
    expect(states.filter((state) => state.closed)).toHaveLength(200);
    const open = states.filter((state) => !state.closed);
    expect(open).toHaveLength(12);
    expect(new Set(open.map((state) => nextKind(state))).size).toBeGreaterThanOrEqual(8);
    for (const state of states) expect(summarise(state).number).toBe(state.number);
  });
});
