import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { money } from '../units';
import { buildQuote, chargedMinutes, labourLine, reserveOf, type QuoteLineInput } from '.';

const line = (minor: number, quantity = 1): QuoteLineInput => ({
  kind: 'part',
  text: 'x',
  partId: null,
  partNumber: null,
  quantity,
  unit: money(minor, 'EUR'),
});
const quote = (lines: QuoteLineInput[], waived = true) =>
  buildQuote({
    currency: 'EUR',
    taxBasisPoints: 1900,
    fee: money(3500, 'EUR'),
    feeWaivedIfRepaired: waived,
    options: [{ id: 'a', title: 'a', lines, handsOnMinutes: 1, readyOn: null, notes: [] }],
  });

describe('a quote', () => {
  it('sums its lines, tax per line, in whole minor units', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 100_000 }), fc.integer({ min: 1, max: 9 })), { maxLength: 8 }),
        (rows) => {
          const option = quote(rows.map(([minor, quantity]) => line(minor, quantity))).options[0];
          const net = rows.reduce((sum, [minor, quantity]) => sum + minor * quantity, 0);
          const tax = rows.reduce((sum, [minor, quantity]) => sum + Math.floor((minor * quantity * 19 + 50) / 100), 0);
          expect(option?.net.amountMinor).toBe(net);
          expect(option?.tax.amountMinor).toBe(tax);
          expect(option?.gross.amountMinor).toBe(net + tax);
        },
      ),
    );
  });
  it('adds the inspection fee only where it is not waived', () => {
    expect(quote([line(1000)]).options[0]?.net.amountMinor).toBe(1000);
    expect(quote([line(1000)], false).options[0]?.net.amountMinor).toBe(4500);
    expect(quote([]).feeGross.amountMinor).toBe(4165);
  });
  it('charges labour by the started quarter of an hour', () => {
    expect([0, 1, 15, 15.1, 46].map(chargedMinutes)).toEqual([0, 15, 15, 30, 60]);
    expect(labourLine(46, money(5400, 'EUR'))).toMatchObject({ text: '60 min labour', unit: money(5400, 'EUR') });
    expect(labourLine(20, money(5555, 'EUR')).unit.amountMinor).toBe(2778);
    expect(reserveOf(money(12_345, 'EUR'), 0.04).amountMinor).toBe(494);
  });
  it('offers at most three ways', () => {
    const one = { id: 'a', title: 'a', lines: [line(1)], handsOnMinutes: 1, readyOn: null, notes: [] };
    expect(
      buildQuote({
        currency: 'EUR',
        taxBasisPoints: 0,
        fee: money(0, 'EUR'),
        feeWaivedIfRepaired: true,
        options: [one, one, one, one],
      }).options,
    ).toHaveLength(3);
  });
});
