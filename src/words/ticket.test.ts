import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../tests/support/demo';
import { assess, type DoNext } from '@/core/case';
import { nothingLearned } from '@/core/learn';
import { applyEvents, type TicketEvent, type TicketEventData } from '@/core/ticket';
import { defined } from '@/core/units';
import { ageWords, doNextWords, eventWords, NEXT_WORDS, STATION_NAMES, WAITING_NAMES, type Moment } from '.';

const plain = (text: string) => text.replace(/\u00a0/g, ' ');
const catalogue = demoCatalogue();
const settings = demoSettings();
const at: Moment = { now: '2026-11-24T09:00:00.000Z', today: '2026-11-24', zone: 'UTC' };
const streams = [...demoTickets().values()];
const assessed = (stream: readonly TicketEvent[]) =>
  assess(catalogue, applyEvents(stream), settings, nothingLearned(), at.now);
const anyAssessment = assessed(defined(streams[0], 'a ticket'));
const say = (next: DoNext) => doNextWords(next, anyAssessment, at, 'EUR');

/** What no sentence for a person may hold. */
const BROKEN = /undefined|null|NaN|\[object|Infinity/;

describe('a ticket’s next step in words', () => {
  it('is a whole sentence for every ticket of the demo at every moment of its life', () => {
    const seen = new Set<string>();
    for (const stream of streams.slice(-4))
      for (let length = 1; length <= stream.length; length += Math.max(1, Math.floor(stream.length / 4))) {
        const assessment = assessed(stream.slice(0, length));
        const { title, why, minutes } = doNextWords(assessment.doNext, assessment, at, settings.currency);
        seen.add(assessment.doNext.kind);
        expect(title, `${assessment.doNext.kind}`).toMatch(/^\p{Lu}/u);
        expect(`${title} ${why}`).not.toMatch(BROKEN);
        expect(why.trim()).toMatch(/[.!?]$/);
        expect(minutes === null || minutes >= 0).toBe(true);
        expect(ageWords(assessment)).not.toMatch(BROKEN);
        expect(STATION_NAMES).toHaveProperty(assessment.station === 'done' ? 'proof' : assessment.station);
        expect(WAITING_NAMES).toHaveProperty(assessment.waiting.for);
      }
    expect(seen.size).toBeGreaterThan(5);
  });

  it('gives the day, the time and the count that belong to it', () => {
    expect(say({ kind: 'await-parts', dueOn: '2026-11-25' }).why).toContain('tomorrow');
    expect(say({ kind: 'await-parts', dueOn: null }).why).toContain('no date');
    expect(say({ kind: 'order-parts', count: 1 }).title).toBe('Order 1 part');
    expect(say({ kind: 'order-parts', count: 3 }).title).toBe('Order 3 parts');
    expect(say({ kind: 'wait-cure', until: '2026-11-24T15:30:00.000Z' }).title).toContain('15:30');
    expect(say({ kind: 'work', key: 'a', title: 'Take off the lid', minutes: 12 })).toMatchObject({ minutes: 12 });
  });

  it('settles on a likely cause, and only tries a doubtful one', () => {
    const causeId = defined(anyAssessment.knowledge?.causes[0]?.id, 'a cause');
    expect(say({ kind: 'decide-cause', causeId, probability: 0.9 }).title).toMatch(/^Settle on/);
    const doubtful = say({ kind: 'decide-cause', causeId, probability: 0.4 });
    expect(doubtful.title).toMatch(/^Mend first/);
    expect(plain(doubtful.why)).toContain('40 %');
  });

  it('has a name for every kind', () => {
    for (const words of Object.values(NEXT_WORDS)) expect(words).toMatch(/^\p{Ll}/u);
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

  const due: TicketEventData = { type: 'part-due', requirementId: 'r', orderId: 'o', why: 'on the water', dueOn: null };
  const measured: TicketEventData = { type: 'part-measured', roleId: 'r', property: 'bore', label: 'Bore', value: '' };
  const arrived: TicketEventData = {
    type: 'part-received',
    requirementId: 'r',
    orderId: null,
    partNumber: 'A-1',
    verdict: 'from-shelf',
  };
  const reading: TicketEventData = {
    type: 'reading-noted',
    limitId: 'l',
    label: 'Heater',
    unit: 'Ω',
    value: null,
    ambientCelsius: null,
    verdict: 'broken',
    checkId: null,
    outcomeId: null,
  };
  const closed: TicketEventData = {
    type: 'closed',
    outcome: 'not-mendable',
    minutesTaken: null,
    plannedMinutes: null,
    rightFirstTime: null,
  };
  it.each<[TicketEventData, string]>([
    [{ type: 'customer-noted', customerId: 'c', name: 'A. Holt', phone: '', place: 'Kay' }, 'Customer: A. Holt, Kay'],
    [{ type: 'plate-not-listed', text: 'Q'.repeat(90) }, `Plate “${'Q'.repeat(60)}” is not in the catalogue`],
    [reading, 'Measured Heater: open, broken'],
    [{ ...reading, value: 24.5 }, 'Measured Heater: 24.5 Ω, broken'],
    [measured, 'Not measured after all: Bore'],
    [{ ...measured, value: '20.02' }, 'Measured on the old part: Bore 20.02'],
    [{ type: 'customer-answered', answer: 'thinking', optionId: null }, 'The customer is thinking'],
    [{ type: 'customer-answered', answer: 'no', optionId: null }, 'The customer said no'],
    [due, 'Supplier: on the water'],
    [{ ...due, dueOn: '2026-12-01' }, 'Supplier: on the water, due 2026-12-01'],
    [arrived, 'Taken from the shelf: A-1'],
    [{ ...arrived, verdict: 'newer-number' }, 'Arrived: A-1, newer number'],
    [
      { type: 'proof-noted', proofId: 'p', title: 'No drop in ten minutes', passed: false },
      'Failed: No drop in ten minutes',
    ],
    [closed, 'Closed: not mendable'],
    [{ ...closed, outcome: 'repaired', minutesTaken: 95 }, 'Closed: repaired, 1 h 35 min taken'],
    [
      { type: 'donor-part-taken', roleId: 'drain-pump', position: 'any', forTicket: 7 },
      'Taken from it for ticket 7: drain pump',
    ],
    [{ type: 'undone', eventId: 'e' }, 'Taken back'],
  ])('%o', (data, words) => {
    expect(plain(eventWords(data))).toBe(words);
  });
});
