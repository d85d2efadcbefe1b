import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { money } from '../units';
import { buildQuote, chargedMinutes, labourLine, reserveLine, type QuoteLineInput } from '.';

const line = (minor: number, quantity = 1): QuoteLineInput => ({
  kind: 'part',
  description: 'x',
  partId: null,
  partNumber: null,
  quantity,
  minutes: null,
  net: money(minor * quantity, 'EUR'),
});
const named = {
  id: 'a',
  kind: 'best-fit',
  causeNames: ['a'],
  fixId: null,
  fixName: null,
  handsOnMinutes: 1,
  readyOn: null,
} as const;
const quote = (lines: QuoteLineInput[], waived = true) =>
  buildQuote({
    currency: 'EUR',
    taxBasisPoints: 1900,
    fee: money(3500, 'EUR'),
    feeWaivedIfRepaired: waived,
    options: [{ ...named, lines }],
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
    expect(labourLine(46, money(5400, 'EUR'))).toMatchObject({ minutes: 60, net: money(5400, 'EUR') });
    expect(labourLine(20, money(5555, 'EUR')).net?.amountMinor).toBe(2778);
    expect(reserveLine(money(12_345, 'EUR'), 400).net?.amountMinor).toBe(494);
    // A share that no float holds exactly: 28.5 % of 1000 is 285, not 284 or 286.
    expect(reserveLine(money(1000, 'EUR'), 2850).net?.amountMinor).toBe(285);
  });

  it('keeps a line without a price, counts it in no sum, and says that the offer is not complete', () => {
    const [option] = quote([line(1000), { ...line(500), net: null }]).options;
    expect(option).toMatchObject({ complete: false, net: money(1000, 'EUR'), gross: money(1190, 'EUR') });
    expect(option?.lines.map(({ amounts }) => amounts === null)).toEqual([false, true]);
    expect(quote([line(1000)]).options[0]?.complete).toBe(true);
  });
});
