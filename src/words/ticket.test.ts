import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../tests/support/demo';
import { assess, type DoNext, type Weighed } from '@/core/case';
import { nothingLearned } from '@/core/learn';
import { applyEvents, type Refusal, type TicketEvent, type TicketEventData } from '@/core/ticket';
import {
  defined,
  asInstant,
  asDay,
  asId,
  type TicketId,
  type LineId,
  type EventId,
  type RoleId,
  type RequirementId,
  type OrderId,
} from '@/core/units';
import {
  ageWords,
  doNextWords,
  eventWords,
  refusalWords,
  RUNG_WORDS,
  shakenWords,
  STATION_NAMES,
  WAITING_NAMES,
  type Moment,
} from '.';

const plain = (text: string) => text.replace(/\u00a0/g, ' ');
const catalogue = demoCatalogue();
const settings = demoSettings();
const at: Moment = { now: asInstant('2026-11-24T09:00:00.000Z'), today: asDay('2026-11-24'), zone: 'UTC' };
const streams = [...demoTickets().values()];
const assessed = (stream: readonly TicketEvent[]) =>
  assess(catalogue, applyEvents(stream), settings, nothingLearned(), at.now);
const anyAssessment = assessed(defined(streams[0], 'a ticket')) as Weighed;
const say = (doNext: DoNext) => doNextWords({ ...anyAssessment, next: { ...anyAssessment.next, doNext } }, at, 'EUR');

/** What no sentence for a person may hold. */
const BROKEN = /undefined|null|NaN|\[object|Infinity/;

describe('a ticket’s next step in words', () => {
  it('is a whole sentence for every ticket of the demo at every moment of its life', () => {
    const seen = new Set<string>();
    for (const stream of streams.slice(-4))
      for (let length = 1; length <= stream.length; length += Math.max(1, Math.floor(stream.length / 4))) {
        const assessment = assessed(stream.slice(0, length));
        const { title, why, minutes } = doNextWords(assessment, at, settings.currency);
        const { next } = assessment;
        seen.add(next.doNext.kind);
        expect(title, next.doNext.kind).toMatch(/^\p{Lu}/u);
        expect(`${title} ${why}`).not.toMatch(BROKEN);
        expect(why.trim()).toMatch(/[.!?]$/);
        expect(minutes === null || minutes >= 0).toBe(true);
        if (assessment.kind === 'weighed') expect(ageWords(assessment.age)).not.toMatch(BROKEN);
        expect(STATION_NAMES).toHaveProperty(next.station === 'done' ? 'proof' : next.station);
        expect(WAITING_NAMES).toHaveProperty(next.waiting.for);
      }
    expect(seen.size).toBeGreaterThan(5);
  });

  it('gives the day, the time and the count that belong to it', () => {
    expect(say({ kind: 'await-parts', dueOn: asDay('2026-11-25') }).why).toContain('tomorrow');
    expect(say({ kind: 'await-parts', dueOn: null }).why).toContain('no date');
    expect(say({ kind: 'order', count: 1 }).title).toBe('Order 1 part');
    expect(say({ kind: 'order', count: 3 }).title).toBe('Order 3 parts');
    expect(say({ kind: 'wait-cure', until: asInstant('2026-11-24T15:30:00.000Z') }).title).toContain('15:30');
    expect(
      say({ kind: 'work', step: { phase: 'strip', operationId: 'a' }, title: 'Take off the lid', minutes: 12 }),
    ).toMatchObject({ minutes: 12 });
  });

  it('settles on a likely cause, and only tries a doubtful one', () => {
    const causeId = defined(anyAssessment.lore.causes[0]?.id, 'a cause');
    expect(
      say({ kind: 'decide-cause', causeId, fixId: null, also: null, probability: 0.9, certain: true }).title,
    ).toMatch(/^Settle on/);
    const doubtful = say({ kind: 'decide-cause', causeId, fixId: null, also: null, probability: 0.4, certain: false });
    expect(doubtful.title).toMatch(/^Mend first/);
    expect(plain(doubtful.why)).toContain('40 %');
  });

  it('has a name for every kind', () => {
    for (const words of Object.values(RUNG_WORDS)) expect(words).toMatch(/^\p{Ll}/u);
  });
});

describe('a ticket’s history in words', () => {
  it('says every event of the demo', () => {
    const kinds = new Set<string>();
    for (const { data } of streams.flat()) {
      kinds.add(data.type);
      expect(eventWords(data), data.type).not.toMatch(BROKEN);
      expect(eventWords(data).length, data.type).toBeGreaterThan(5);
    }
    expect(kinds.size).toBeGreaterThan(15);
  });

  const due: TicketEventData = {
    type: 'part-due',
    requirementId: asId<RequirementId>('r'),
    orderId: asId<OrderId>('o'),
    lineId: asId<LineId>('l'),
    status: 'back-ordered',
    note: 'on the water',
    dueOn: null,
  };
  const measured: TicketEventData = {
    type: 'part-measured',
    roleId: asId<RoleId>('r'),
    property: 'bore',
    label: 'Bore',
    value: '',
  };
  const arrived: TicketEventData = {
    type: 'part-received',
    requirementId: asId<RequirementId>('r'),
    from: { kind: 'shelf' },
    units: 1,
    partNumber: 'A-1',
    verdict: 'as-ordered',
  };
  const reading: TicketEventData = {
    type: 'reading-noted',
    limitId: 'l',
    label: 'Heater',
    unit: 'Ω',
    value: null,
    ambientCelsius: null,
    verdict: 'open',
    low: 20,
    high: null,
    checkId: null,
    outcomeId: null,
  };
  const closed: TicketEventData = {
    type: 'closed',
    outcome: 'not-mendable',
    takenMinutes: null,
    listMinutes: null,
    rightFirstTime: null,
  };
  it.each<[TicketEventData, string]>([
    [{ type: 'customer-noted', customerId: 'c', name: 'A. Holt', phone: '', place: 'Kay' }, 'Customer: A. Holt, Kay'],
    [{ type: 'plate-not-listed', text: 'Q'.repeat(90) }, `Plate “${'Q'.repeat(60)}” is not in the catalogue`],
    [reading, 'Measured Heater: open, Open: no continuity (20.0 Ω or more)'],
    [{ ...reading, verdict: 'within', value: 24.5 }, 'Measured Heater: 24.5 Ω, Within limits (20.0 Ω or more)'],
    [measured, 'Not measured after all: Bore'],
    [{ ...measured, value: '20.02' }, 'Measured on the old part: Bore 20.02'],
    [{ type: 'serial-unreadable' }, 'No serial number that can be read'],
    [{ type: 'age-not-known' }, 'The owner cannot say how old it is'],
    [{ type: 'old-number-read', roleId: asId('pump'), text: 'FJ-1 ; 30 W' }, 'On the old part: “FJ-1 ; 30 W”'],
    [{ type: 'old-number-read', roleId: asId('pump'), text: '' }, 'The number on the old part was taken back'],
    [{ type: 'customer-answered', answer: 'thinking', offer: asId('o'), optionId: null }, 'The customer is thinking'],
    [{ type: 'customer-answered', answer: 'no', offer: asId('o'), optionId: null }, 'The customer said no'],
    [due, 'Supplier: on the water'],
    [{ ...due, dueOn: asDay('2026-12-01') }, 'Supplier: on the water, due 2026-12-01'],
    [arrived, 'Taken from the shelf: A-1'],
    [
      {
        ...arrived,
        from: { kind: 'order', orderId: asId<OrderId>('o'), lineId: asId<LineId>('l') },
        verdict: 'newer-number',
      },
      'Arrived: A-1, newer number',
    ],
    [{ ...arrived, from: { kind: 'donor', ticketId: asId<TicketId>('d'), number: 90 } }, 'Taken from donor 90: A-1'],
    [{ ...due, note: null }, 'Supplier: back ordered'],
    [
      {
        type: 'part-order-cancelled',
        requirementId: asId<RequirementId>('r'),
        orderId: asId<OrderId>('o'),
        lineId: asId<LineId>('l'),
        why: 'rejected',
        note: 'No.',
      },
      'Order line fell away: refused by the supplier (“No.”)',
    ],
    [{ type: 'code-noted', code: 'X9', findingId: null, meaning: null }, 'Shows X9: not listed for this maker'],
    [
      { type: 'proof-noted', proofId: 'p', title: 'No drop in ten minutes', passed: false },
      'Failed: No drop in ten minutes',
    ],
    [closed, 'Closed: not mendable'],
    [{ ...closed, outcome: 'repaired', takenMinutes: 95 }, 'Closed: repaired, 1 h 35 min taken'],
    [
      { type: 'donor-part-taken', roleId: asId<RoleId>('drain-pump'), position: 'any', forTicket: 7 },
      'Taken from it for ticket 7: drain pump',
    ],
    [{ type: 'undone', eventId: asId<EventId>('e') }, 'Taken back'],
  ])('%o', (data, words) => {
    expect(plain(eventWords(data))).toBe(words);
  });
});

describe('what was refused, and what no longer stands', () => {
  const refusals: Refusal[] = [
    { kind: 'closed' },
    { kind: 'not-closed' },
    { kind: 'gone' },
    { kind: 'does-not-fit', field: 'serial-noted serial', why: 'too_big', limit: 80 },
    { kind: 'does-not-fit', field: 'x', why: 'invalid_type', limit: null },
    { kind: 'shaken', by: ['plate', 'price'] },
    { kind: 'no-offer' },
    { kind: 'no-yes' },
    { kind: 'curing', until: at.now },
    { kind: 'not-finished' },
    { kind: 'not-proved', proofs: 2 },
    { kind: 'nothing-to-keep' },
    { kind: 'nothing-to-take-back', leftTheShop: true },
    { kind: 'nothing-to-take-back', leftTheShop: false },
    { kind: 'others-went-on', ticket: 7 },
    { kind: 'not-needed', ticket: 7 },
    { kind: 'donor-gone', donor: 90 },
    { kind: 'sent-back-since', number: 'HW-1' },
    {
      kind: 'plan-is-stale',
      tickets: [
        { number: 7, why: 'ordered' },
        { number: 8, why: 'shaken' },
      ],
    },
    { kind: 'order-is-past', number: 'HW-1' },
    { kind: 'nothing-to-come', number: 'HW-1' },
  ];
  it('is said in whole sentences with its facts', () => {
    for (const refusal of refusals) {
      const words = refusalWords(refusal);
      expect(words, refusal.kind).toMatch(/^\p{Lu}.*\.$/u);
      expect(words).not.toMatch(BROKEN);
    }
    expect(refusalWords({ kind: 'does-not-fit', field: 'serial-noted serial', why: 'too_big', limit: 80 })).toMatch(
      /serial number has at most 80 characters.*kept/,
    );
    expect(refusalWords(defined(refusals.at(-3), 'stale'))).toContain('Ticket 7 is ordered already and Ticket 8 has');
    expect(
      shakenWords([
        { decision: 'part', by: 'plate' },
        { decision: 'offer', by: 'plate' },
      ]),
    ).toMatch(/plate was read again.*the part and the offer/);
  });
});
