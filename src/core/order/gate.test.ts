import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, asDay, asId, asInstant, defined, money, type LineId, type Money } from '../units';
import {
  applyOrderEvents,
  isDue,
  judgeAnswer,
  noteAnswer,
  noteSendFailed,
  orderEventSchema,
  type HeardAnswer,
  type HeardLine,
  type OrderEvent,
  type OrderEventData,
  type OrderState,
} from '.';

const TODAY = asDay('2026-11-24');

const lineOf = (id: string, packs: number, packPrice: Money) => ({
  lineId: asId<LineId>(id),
  partId: asId<never>(`p ${id}`),
  partNumber: `FJ-${id}`,
  description: 'pump',
  supplierNumber: `N${id}`,
  packs,
  packPrice,
  for: [
    {
      ticketId: asId<never>('t'),
      requirementId: asId<never>(`r ${id}`),
      partId: asId<never>('p'),
      units: 1,
      perPack: 1,
    },
  ],
});
const made: OrderEventData = {
  type: 'order-made',
  number: 'HW-1',
  supplierId: asId('s'),
  supplierName: 'S',
  modeId: 'm',
  modeName: 'M',
  shipping: money(0, 'EUR'),
  expectedOn: asDay('2026-11-26'),
  lines: [lineOf('a', 2, money(1999, 'EUR')), lineOf('b', 1, money(450, 'EUR'))],
};
const orderAfter = (...data: OrderEventData[]): OrderState =>
  defined(
    applyOrderEvents(
      [made, ...data].map((entry, index): OrderEvent => ({
        id: asId(`e${index}`),
        stream: 'order:x',
        sequence: index + 1,
        version: 2,
        at: asInstant('2026-11-24T08:00:00.000Z'),
        groupId: `g${index}`,
        data: entry,
      })),
    ),
    'an order',
  );
const order = orderAfter({ type: 'send-tried', attempt: 1 });

const heardLine = (id: string, price: string, change: Partial<HeardLine> = {}): HeardLine => ({
  lineId: id,
  status: 'accepted',
  statusCode: '5',
  partId: `p ${id}`,
  partNumber: `FJ-${id}`,
  price,
  currency: 'EUR',
  packs: '',
  dueOn: '2026-11-26',
  note: '',
  ...change,
});
const heard = (change: Partial<HeardLine> = {}, whole: Partial<HeardAnswer> = {}): HeardAnswer => ({
  orderNumber: 'HW-1',
  reference: 'R-1',
  lines: [heardLine('a', '19.99', change), heardLine('b', '4.50')],
  ...whole,
});
const judged = (answer: HeardAnswer) => {
  const verdict = judgeAnswer(order, answer, TODAY);
  return verdict.kind === 'taken'
    ? verdict.doubts.map(({ kind }) => kind)
    : verdict.problems.map(({ kind }) => `aside: ${kind}`);
};

describe('a supplier’s answer', () => {
  it('that says what was ordered is taken without a word', () => {
    expect(judged(heard())).toEqual([]);
    expect(judged(heard({ packs: '2', status: 'back-ordered', dueOn: '2027-01-31' }))).toEqual([]);
    expect(judged(heard({ partNumber: ' fj a ' }))).toEqual([]);
    // A refused line needs no price, no day and no number.
    expect(judged(heard({ status: 'rejected', price: '', currency: '', dueOn: '', partNumber: '' }))).toEqual([]);
  });

  it.each<[string, Partial<HeardLine>, string[]]>([
    ['in another currency', { currency: 'USD' }, ['aside: other-currency']],
    ['in the name of an object’s own function', { currency: 'constructor' }, ['aside: other-currency']],
    ['without a currency', { currency: '' }, ['aside: price-senseless']],
    ['with a negative price', { price: '-19.99' }, ['aside: price-senseless']],
    ['with a price a hundredfold', { price: '1999.00' }, ['aside: price-senseless']],
    ['with a hundredth of the price', { price: '0.19' }, ['aside: price-senseless']],
    ['with a price that is no number', { price: 'NaN' }, ['aside: price-senseless']],
    ['somewhat dearer', { price: '24.50' }, ['dearer']],
    ['somewhat cheaper', { price: '15.00' }, ['cheaper']],
    ['due on a day that is none', { dueOn: '2026-13-45' }, ['day-senseless']],
    ['due in 1999', { dueOn: '1999-01-01' }, ['day-senseless']],
    ['due in 2090', { dueOn: '2090-01-01' }, ['day-senseless']],
    ['due yesterday', { dueOn: '2026-11-23' }, ['day-senseless']],
    ['of no packs', { packs: '0' }, ['aside: quantity-senseless']],
    ['of less than none', { packs: '-2' }, ['aside: quantity-senseless']],
    ['of 1e21 packs', { packs: '1e21' }, ['aside: quantity-senseless']],
    ['of fewer packs', { packs: '1' }, ['fewer']],
    ['of more packs', { packs: '3' }, ['more']],
    ['as another number, called accepted', { partNumber: 'ZZ-9' }, ['other-number']],
    ['neither accepted nor refused', { status: null, statusCode: '99' }, ['aside: status-unknown']],
  ])('%s', (_, change, expected) => {
    expect(judged(heard(change))).toEqual(expected);
  });

  it('for another order, with foreign lines only, or leaving lines out never leads to a second order', () => {
    expect(judged(heard({}, { orderNumber: 'HW-2' }))).toEqual(['aside: other-order']);
    expect(judged(heard({}, { lines: [heardLine('x', '1.00')] }))).toEqual(['aside: nothing-of-ours']);
    expect(judged(heard({}, { lines: [] }))).toEqual(['aside: nothing-of-ours']);
    expect(judged(heard({}, { lines: [heardLine('b', '4.50')] }))).toEqual(['aside: line-missing']);
    expect(judged(heard({}, { lines: [...heard().lines, heardLine('x', '1.00')] }))).toEqual(['foreign-lines']);
    expect(judged(heard({}, { reference: '' }))).toEqual(['no-reference']);
    expect(judged(heard({}, { lines: Array.from({ length: 900 }, () => heardLine('a', '19.99')) }))).toEqual([
      'aside: too-many-lines',
    ]);
  });

  it('that says two things of one line is set aside; the same thing twice is one', () => {
    const { lines } = heard();
    expect(judged(heard({}, { lines: [...lines, heardLine('a', '19.99', { status: 'rejected' })] }))).toEqual([
      'aside: contradiction',
    ]);
    expect(judged(heard({}, { lines: [...lines, heardLine('a', '19.99', { note: 'again' })] }))).toEqual([]);
  });

  it('set aside is noted with why, and its parts stay ordered; taken with doubts, it keeps them', () => {
    const bad = judgeAnswer(order, heard({ currency: 'USD' }), TODAY);
    if (bad.kind !== 'set-aside') throw new Error('taken');
    const noted = noteSendFailed(
      order,
      { why: 'not-believed', status: 200, problems: bad.problems },
      asInstant('2026-11-24T08:15:00.000Z'),
    );
    if (!noted.ok) throw new Error('refused');
    expect(noted.value.map(({ kind }) => kind)).toEqual(['order']);
    const [event] = noted.value.flatMap((entry) => (entry.kind === 'order' ? entry.data : []));
    const after = orderAfter({ type: 'send-tried', attempt: 1 }, orderEventSchema.parse(event));
    expect(after).toMatchObject({
      phase: 'unknown',
      failures: [{ problems: [{ kind: 'other-currency', lineId: 'a' }] }],
    });
    const odd = judgeAnswer(order, heard({ price: '24.50' }), TODAY);
    if (odd.kind !== 'taken') throw new Error('set aside');
    const taken = noteAnswer(order, odd.answer, odd.doubts);
    const [answered] = taken.ok ? taken.value.flatMap((entry) => (entry.kind === 'order' ? entry.data : [])) : [];
    expect(orderAfter({ type: 'send-tried', attempt: 1 }, orderEventSchema.parse(answered))).toMatchObject({
      phase: 'open',
      doubts: [{ kind: 'dearer', said: '24.50 EUR' }],
    });
  });

  it('whatever it says, is either set aside or names every line of the order once, in its currency, within reason', () => {
    const text = fc.oneof(
      fc.string({ maxLength: 12 }),
      fc.constantFrom('', '0', '19.99', '4.50', '1', '2', '-1', '2026-11-30', 'EUR', 'USD', '__proto__'),
    );
    const line = fc.record({
      lineId: fc.constantFrom('a', 'b', 'x', '__proto__'),
      status: fc.constantFrom('accepted', 'substituted', 'back-ordered', 'rejected', null),
      statusCode: text,
      partId: text,
      partNumber: fc.oneof(text, fc.string({ minLength: 100, maxLength: 300 })),
      price: fc.oneof(text, fc.constantFrom('19.99', '4.50')),
      currency: fc.constantFrom('EUR', 'EUR', 'EUR', 'USD', 'constructor', ''),
      packs: text,
      dueOn: text,
      note: fc.string({ maxLength: 900 }),
    }) as fc.Arbitrary<HeardLine>;
    fc.assert(
      fc.property(fc.array(line, { maxLength: 5 }), text, (lines, reference) => {
        const verdict = judgeAnswer(order, { orderNumber: 'HW-1', reference, lines }, TODAY);
        if (verdict.kind === 'set-aside') {
          expect(verdict.problems.length).toBeGreaterThan(0);
          return;
        }
        expect(verdict.answer.lines.map(({ lineId }) => lineId)).toEqual(['a', 'b']);
        for (const [index, { packPrice, dueOn }] of verdict.answer.lines.entries()) {
          const ordered = defined(order.lines[index], 'a line').packPrice.amountMinor;
          expect(packPrice.currency).toBe('EUR');
          expect(packPrice.amountMinor).toBeGreaterThan(ordered / 10);
          expect(packPrice.amountMinor).toBeLessThan(ordered * 10);
          if (dueOn) expect(dueOn >= TODAY && dueOn <= addDays(TODAY, 400)).toBe(true);
        }
        const noted = noteAnswer(order, verdict.answer, verdict.doubts);
        for (const entry of noted.ok ? noted.value : [])
          if (entry.kind === 'order')
            for (const data of entry.data) expect(orderEventSchema.safeParse(data).success).toBe(true);
      }),
      { numRuns: 500 },
    );
  });
});

describe('an order that failed', () => {
  const failed = (at: string, nextAt: string) => ({
    nextAt: asInstant(nextAt),
    failures: [{ why: 'down' as const, status: null, problems: [], retryAt: asInstant(nextAt), at: asInstant(at) }],
  });
  it('waits its minutes, and not those of a clock that was wrong', () => {
    const waits = failed('2026-11-24T08:00:00.000Z', '2026-11-24T08:05:00.000Z');
    expect(isDue(waits, asInstant('2026-11-24T08:04:00.000Z'))).toBe(false);
    expect(isDue(waits, asInstant('2026-11-24T08:05:00.000Z'))).toBe(true);
    // The clock was an hour ahead, or a year; or it was behind and is right now.
    expect(
      isDue(failed('2026-11-24T09:00:00.000Z', '2026-11-24T09:05:00.000Z'), asInstant('2026-11-24T08:01:00.000Z')),
    ).toBe(true);
    expect(
      isDue(failed('2027-11-24T08:00:00.000Z', '2027-11-24T08:05:00.000Z'), asInstant('2026-11-24T08:01:00.000Z')),
    ).toBe(true);
    expect(
      isDue(failed('2025-11-24T08:00:00.000Z', '2025-11-24T08:05:00.000Z'), asInstant('2026-11-24T08:01:00.000Z')),
    ).toBe(true);
    // Written while it was ahead, although the failure itself was not.
    expect(
      isDue(failed('2026-11-24T08:00:00.000Z', '2026-11-24T18:00:00.000Z'), asInstant('2026-11-24T08:01:00.000Z')),
    ).toBe(true);
  });
});
