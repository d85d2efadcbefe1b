import { parse as parseCsv } from 'csv-parse/sync';
import fc from 'fast-check';
import { XmlDocument, XmlElement } from 'libxml2-wasm';
import { describe, expect, it } from 'vitest';
import { asDay, asId, asInstant, defined, money, moneyToDecimal, type LineId, type PartId } from '../../units';
import { applyOrderEvents, judgeAnswer, type OrderEvent, type OrderState } from '..';
import { orderAsCsv, orderAsUbl, readUblOrder, readUblOrderResponse, writeUblOrderResponse } from '.';

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
  it('in whatever prefixes, and written again by another library: it says the same', () => {
    const renamed = (xml: string) =>
      xml
        .replaceAll('xmlns:cac=', 'xmlns:x=')
        .replaceAll('xmlns:cbc=', 'xmlns:basic=')
        .replaceAll('<cac:', '<x:')
        .replaceAll('</cac:', '</x:')
        .replaceAll('<cbc:', '<basic:')
        .replaceAll('</cbc:', '</basic:');
    const again = (xml: string) => {
      const document = XmlDocument.fromString(xml);
      try {
        return document.toString();
      } finally {
        document.dispose();
      }
    };
    /** The document's own namespace under a prefix, the basic one as the default of each leaf. */
    const inside = (xml: string) =>
      xml
        .replace('<Order xmlns=', '<doc:Order xmlns:doc=')
        .replace('</Order>', '</doc:Order>')
        .replaceAll(/<cbc:(\w+)/g, `<$1 xmlns="${NAMES.b}"`)
        .replaceAll('</cbc:', '</');
    fc.assert(
      fc.property(fc.array(lineArb, { minLength: 1, maxLength: 4 }), words, (lines, supplier) => {
        const xml = orderAsUbl(orderOf(lines, supplier), 'Shop', 'Europe/Berlin');
        const read = readUblOrder(xml);
        expect(read.ok && read.value.lines.map(({ name }) => name)).toEqual(
          lines.map(({ description }) => description),
        );
        for (const other of [renamed(xml), again(renamed(xml)), inside(xml), again(inside(xml))])
          expect(readUblOrder(other)).toEqual(read);
      }),
      { numRuns: 40 },
    );
  });
  it('the elements stand in the order of the standard’s schema, and our own ids where the buyer’s belong', () => {
    const line = { partNumber: 'N', supplierNumber: 'S', description: 'D', packs: 1, price: 5 };
    const children = (xml: string, path: string) =>
      reading(xml, () => {
        const document = XmlDocument.fromString(xml);
        const names = document.find(`${path}/*`, NAMES).map((node) => (node instanceof XmlElement ? node.name : ''));
        document.dispose();
        return names;
      });
    const inOrder = (names: readonly string[], schema: readonly string[]) => {
      expect(names.every((name) => schema.includes(name))).toBe(true);
      const places = names.map((name) => schema.indexOf(name));
      expect(places).toEqual([...places].sort((a, b) => a - b));
    };
    // As UBL 2.1 writes these types, what is between left out.
    const ORDER = ['UBLVersionID', 'ID', 'IssueDate', 'Note', 'DocumentCurrencyCode', 'BuyerCustomerParty'];
    const ITEM = ['Description', 'Name', 'BuyersItemIdentification', 'SellersItemIdentification'];
    const xml = orderAsUbl(orderOf([line], 'S'), 'B', 'UTC');
    inOrder(children(xml, '/o:Order'), [...ORDER, 'SellerSupplierParty', 'OrderLine']);
    inOrder(children(xml, '//a:LineItem'), ['ID', 'LineStatusCode', 'Quantity', 'Delivery', 'Price', 'Item']);
    inOrder(children(xml, '//a:Item'), [...ITEM, 'ManufacturersItemIdentification', 'StandardItemIdentification']);
    reading(xml, (at) => {
      expect(at('//a:Item/a:BuyersItemIdentification/b:ID')).toEqual(['p0']);
      expect(at('//a:Item/a:StandardItemIdentification')).toEqual([]);
    });
    // An order of an earlier Sorter had its own ids where a standard's number belongs: it is read as before.
    const earlier = xml.replaceAll('BuyersItemIdentification', 'StandardItemIdentification');
    expect(readUblOrder(earlier)).toEqual(readUblOrder(xml));
  });
  it('a simple answer is a yes or a no to every line', () => {
    const order = orderOf(
      [0, 1].map((n) => ({ partNumber: `N${n}`, supplierNumber: '', description: 'D', packs: 1, price: 5 })),
      'S',
    );
    const simple = (accepted: string, note = '') => `<s:OrderResponseSimple
      xmlns:s="urn:oasis:names:specification:ubl:schema:xsd:OrderResponseSimple-2" xmlns:a="${NAMES.a}" xmlns:b="${NAMES.b}">
      <b:ID>R-7</b:ID><b:AcceptedIndicator>${accepted}</b:AcceptedIndicator>${note ? `<b:RejectionNote>${note}</b:RejectionNote>` : ''}
      <a:OrderReference><b:ID>HW-1</b:ID></a:OrderReference></s:OrderResponseSimple>`;
    const judged = (xml: string) => {
      const read = readUblOrderResponse(xml);
      if (!read.ok) throw new Error('not read');
      return judgeAnswer(order, read.value, asDay('2026-11-24'));
    };
    const yes = judged(simple('true'));
    expect(yes.kind === 'taken' && yes.answer).toMatchObject({
      reference: 'R-7',
      lines: order.lines.map(({ lineId, packPrice }) => ({ lineId, status: 'accepted', packPrice })),
    });
    const no = judged(simple('false', 'Account closed'));
    expect(no.kind === 'taken' && no.answer.lines.map(({ status, note }) => [status, note])).toEqual([
      ['rejected', 'Account closed'],
      ['rejected', 'Account closed'],
    ]);
    expect(readUblOrderResponse(simple('maybe')).ok).toBe(false);
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
