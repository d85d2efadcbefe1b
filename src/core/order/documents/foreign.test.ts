import { parse as parseCsv } from 'csv-parse/sync';
import fc from 'fast-check';
import { XmlDocument } from 'libxml2-wasm';
import { describe, expect, it } from 'vitest';
import { asDay, asId, asInstant, defined, money, moneyToDecimal, type LineId, type PartId } from '../../units';
import { applyOrderEvents, type OrderEvent, type OrderState } from '..';
import { orderAsCsv, orderAsUbl, writeUblOrderResponse } from '.';

/** Prefixes that are not the application's: a namespace is known by its address. */
const NAMES = {
  o: 'urn:oasis:names:specification:ubl:schema:xsd:Order-2',
  r: 'urn:oasis:names:specification:ubl:schema:xsd:OrderResponse-2',
  a: 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2',
  b: 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2',
};

function reading<T>(xml: string, read: (at: (path: string) => string[]) => T): T {
  const document = XmlDocument.fromString(xml);
  try {
    return read((path) => document.find(path, NAMES).map((node) => node.content));
  } finally {
    document.dispose();
  }
}

type Line = { partNumber: string; supplierNumber: string; description: string; packs: number; price: number };

const orderOf = (lines: readonly Line[], supplierName: string): OrderState => {
  const event: OrderEvent = {
    id: asId('e1'),
    stream: 'order:x',
    sequence: 1,
    version: 2,
    at: asInstant('2026-11-24T23:30:00.000Z'),
    groupId: 'g',
    data: {
      type: 'order-made',
      number: 'HW-1',
      supplierId: asId('s'),
      supplierName,
      modeId: 'day',
      modeName: 'next day',
      shipping: money(690, 'EUR'),
      expectedOn: asDay('2026-11-26'),
      lines: lines.map(({ price, ...line }, index) => ({
        ...line,
        lineId: asId(`l${index}`),
        partId: asId(`p${index}`),
        packPrice: money(price, 'EUR'),
        for: [
          { ticketId: asId('t'), requirementId: asId(`r${index}`), partId: asId(`p${index}`), units: 1, perPack: 1 },
        ],
      })),
    },
  };
  return defined(applyOrderEvents([event]), 'an order');
};

// What a label may say; control characters and halves of a surrogate pair are in no document.
const words = fc
  .string({ unit: fc.constantFrom(...'aZ9 -/&<>"\'=+@;,|µ°é漢😀'), minLength: 1, maxLength: 24 })
  .map((text) => `x${text}x`);
const lineArb: fc.Arbitrary<Line> = fc.record({
  partNumber: words,
  supplierNumber: words,
  description: words,
  packs: fc.integer({ min: 1, max: 5000 }),
  price: fc.integer({ min: 0, max: 9_999_999 }),
});

describe('an order, read by programs that are not ours', () => {
  it('as UBL: an XML parser finds every number, quantity and price by the standard’s namespaces', () => {
    fc.assert(
      fc.property(fc.array(lineArb, { minLength: 1, maxLength: 6 }), words, words, (lines, supplier, buyer) => {
        const order = orderOf(lines, supplier);
        reading(orderAsUbl(order, buyer, 'Europe/Berlin'), (at) => {
          // Half past midnight in the shop's zone: the next day.
          expect(at('/o:Order/b:IssueDate')).toEqual(['2026-11-25']);
          expect(at('/o:Order/b:DocumentCurrencyCode')).toEqual(['EUR']);
          expect(at('/o:Order/a:BuyerCustomerParty/a:Party/a:PartyName/b:Name')).toEqual([buyer]);
          expect(at('/o:Order/a:SellerSupplierParty/a:Party/a:PartyName/b:Name')).toEqual([supplier]);
          const item = '/o:Order/a:OrderLine/a:LineItem';
          expect(at(`${item}/b:Quantity[@unitCode="C62"]`).map(Number)).toEqual(lines.map(({ packs }) => packs));
          expect(at(`${item}/a:Price/b:PriceAmount[@currencyID="EUR"]`)).toEqual(
            order.lines.map(({ packPrice }) => moneyToDecimal(packPrice)),
          );
          expect(at(`${item}/a:Item/a:SellersItemIdentification/b:ID`)).toEqual(
            lines.map(({ supplierNumber }) => supplierNumber),
          );
          expect(at(`${item}/a:Item/a:ManufacturersItemIdentification/b:ID`)).toEqual(
            lines.map(({ partNumber }) => partNumber),
          );
        });
      }),
    );
  });
  it('as CSV: a parser finds every line, and no cell begins a formula', () => {
    fc.assert(
      fc.property(fc.array(lineArb, { minLength: 1, maxLength: 6 }), words, (lines, supplier) => {
        const order = orderOf(lines, supplier);
        const rows: Record<string, string>[] = parseCsv(orderAsCsv(order), { columns: true });
        expect(rows).toMatchObject(
          lines.map(({ partNumber, supplierNumber, description, packs }, index) => ({
            order: 'HW-1',
            supplier,
            partNumber,
            supplierNumber,
            description,
            packs: String(packs),
            packPrice: moneyToDecimal(defined(order.lines[index], 'a line').packPrice),
          })),
        );
      }),
    );
    const [row]: Record<string, string>[] = parseCsv(
      orderAsCsv(orderOf([{ partNumber: '=1+1', supplierNumber: '+5', description: '@x', packs: 1, price: 1 }], 's')),
      { columns: true },
    );
    for (const cell of [row?.['partNumber'], row?.['supplierNumber'], row?.['description']])
      expect(cell).toMatch(/^'[=+@]/);
  });
  it('and its answer as UBL: status, promised day and note of every line', () => {
    const lines = [
      { status: 'accepted' as const, dueOn: asDay('2026-11-26'), note: null },
      { status: 'back-ordered' as const, dueOn: asDay('2026-12-04'), note: 'on the <water> & due' },
    ].map((line, index) => ({
      ...line,
      lineId: asId<LineId>(`l${index}`),
      partId: asId<PartId>(`p${index}`),
      partNumber: `N ${index}`,
      packPrice: money(105 + index, 'EUR'),
    }));
    reading(writeUblOrderResponse({ reference: 'R-1', lines }, 'HW-1', asDay('2026-11-24')), (at) => {
      const item = '/r:OrderResponse/a:OrderLine/a:LineItem';
      expect(at('/r:OrderResponse/a:OrderReference/b:ID')).toEqual(['HW-1']);
      expect(at(`${item}/b:LineStatusCode`)).toEqual(['5', '42']);
      expect(at(`${item}/a:Delivery/a:PromisedDeliveryPeriod/b:EndDate`)).toEqual(['2026-11-26', '2026-12-04']);
      expect(at('/r:OrderResponse/a:OrderLine/b:Note')).toEqual(['on the <water> & due']);
    });
  });
});
