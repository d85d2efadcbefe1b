import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asDay, money } from '../units';
import { XMLParser } from 'fast-xml-parser';
import {
  buildQuote,
  carriageLine,
  chargedMinutes,
  labourLine,
  quotationAsJson,
  quotationAsUbl,
  reserveLine,
  type Quotation,
  type QuoteLineInput,
} from '.';

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

describe('a quote in every tax style', () => {
  const styles = fc.constantFrom('added', 'included', 'none');
  const rate = fc.integer({ min: 0, max: 3000 });
  const rows = fc.array(fc.integer({ min: 0, max: 90_000 }), { minLength: 1, maxLength: 9 });

  it('reproduces from its lines to the cent; what the shop names is what is paid where its prices hold the tax', () => {
    fc.assert(
      fc.property(
        styles,
        rate,
        fc.option(rate),
        rows,
        fc.integer({ min: 0, max: 10_000 }),
        (taxStyle, goods, work, minors, deposit) => {
          const made = buildQuote({
            currency: 'EUR',
            taxBasisPoints: goods,
            labourTaxBasisPoints: work,
            taxStyle,
            depositBasisPoints: deposit,
            fee: money(3500, 'EUR'),
            feeWaivedIfRepaired: false,
            extras: [carriageLine('collection', money(2200, 'EUR'))],
            options: [{ ...named, lines: [...minors.map((minor) => line(minor)), labourLine(50, money(5400, 'EUR'))] }],
          });
          const [option] = made.options;
          const priced = option?.lines.flatMap(({ amounts }) => amounts ?? []) ?? [];
          const total = (of: 'net' | 'tax' | 'gross') =>
            priced.reduce((all, amounts) => all + amounts[of].amountMinor, 0);
          expect(option?.net.amountMinor).toBe(total('net'));
          expect(option?.tax.amountMinor).toBe(total('tax'));
          expect(option?.gross.amountMinor).toBe(total('net') + total('tax'));
          const said = minors.reduce((all, minor) => all + minor, 0) + 5400 + 2200 + 3500;
          if (taxStyle === 'added') expect(option?.net.amountMinor).toBe(said);
          else expect(option?.gross.amountMinor).toBe(said);
          if (taxStyle === 'none') expect(option?.tax.amountMinor).toBe(0);
          for (const [index, { kind, amounts }] of (option?.lines ?? []).entries()) {
            if (!amounts) throw new Error(`line ${index} has no price`);
            const share = (kind === 'part' ? goods : (work ?? goods)) / 10_000;
            // The tax is its share of the net, to half a cent of rounding.
            if (taxStyle !== 'none')
              expect(Math.abs(amounts.tax.amountMinor - share * amounts.net.amountMinor)).toBeLessThanOrEqual(
                0.5 * (1 + share) + 1e-6,
              );
          }
          const parts =
            option?.lines
              .filter(({ kind }) => kind === 'part')
              .reduce((all, one) => all + (one.amounts?.gross.amountMinor ?? 0), 0) ?? 0;
          expect(option?.deposit?.amountMinor ?? 0).toBe(Math.floor((parts * deposit + 5000) / 10_000));
        },
      ),
    );
  });
});

describe('an offer as a file', () => {
  const made = buildQuote({
    currency: 'EUR',
    taxBasisPoints: 1900,
    fee: money(0, 'EUR'),
    feeWaivedIfRepaired: true,
    options: [{ ...named, lines: [line(1999), line(250, 3), { ...line(1), net: null }] }],
  });
  const quotation: Quotation = {
    number: '7',
    issuedOn: asDay('2026-11-24'),
    validUntil: asDay('2026-12-08'),
    shop: 'Tide & Son <Repairs>',
    customer: '',
    machine: 'x',
    warrantyMonths: 12,
    options: made.options.map(({ lines, ...option }) => ({
      ...option,
      name: 'a',
      lines: lines.map(({ partNumber, quantity, amounts }) => ({ name: 'x', partNumber, quantity, amounts })),
    })),
  };
  it('is a quotation whose total is that of its lines, what is to be asked said in words', () => {
    const parsed: unknown = new XMLParser({ ignoreAttributes: false, parseTagValue: false }).parse(
      quotationAsUbl(quotation, 0),
    );
    expect(parsed).toMatchObject({
      Quotation: {
        'cbc:ID': '7',
        'cac:ValidityPeriod': { 'cbc:EndDate': '2026-12-08' },
        'cac:SellerSupplierParty': { 'cac:Party': { 'cac:PartyName': { 'cbc:Name': 'Tide & Son <Repairs>' } } },
        'cac:QuotedMonetaryTotal': {
          'cbc:LineExtensionAmount': { '#text': '27.49', '@_currencyID': 'EUR' },
          'cbc:PayableAmount': { '#text': '32.72' },
        },
        'cac:QuotationLine': [
          { 'cac:LineItem': { 'cbc:LineExtensionAmount': { '#text': '19.99' } } },
          { 'cac:LineItem': { 'cbc:Quantity': { '#text': '3', '@_unitCode': 'C62' } } },
        ],
      },
    });
    expect(quotationAsUbl(quotation, 0)).toContain('Price to be asked: 1 × x');
    expect(JSON.parse(quotationAsJson(quotation))).toEqual(quotation);
  });
});
