import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { moneyToDecimal } from '../units';
import { guessMapping, parseAmount, readPriceRow, readUblCatalogue, usesDecimalComma } from '.';

const style = { decimalComma: false, currency: 'EUR' };

describe('the columns of a price list', () => {
  it('are guessed from what suppliers call them', () => {
    expect(guessMapping(['Our No.', 'OEM Number', 'Net price', 'Stock', 'Lead time (days)', 'Brand'])).toEqual({
      supplierNumber: 'Our No.',
      partNumber: 'OEM Number',
      price: 'Net price',
      stock: 'Stock',
      handlingDays: 'Lead time (days)',
      maker: 'Brand',
    });
    expect(guessMapping(['Artikelnummer', 'Teilenummer', 'EK', 'Währung', 'VE', 'Bestand'])).toEqual({
      supplierNumber: 'Artikelnummer',
      partNumber: 'Teilenummer',
      price: 'EK',
      currency: 'Währung',
      packQuantity: 'VE',
      stock: 'Bestand',
    });
    expect(guessMapping(['a', 'b'])).toEqual({});
  });
});

describe('an amount', () => {
  it('comes back as it was written, with comma or full stop, grouped or not, with or without its currency', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 99_999_999 }),
        fc.boolean(),
        fc.boolean(),
        fc.constantFrom('', ' EUR', '€ '),
        (minor, comma, grouped, currency) => {
          const plain = moneyToDecimal({ amountMinor: minor, currency: 'EUR' });
          const [whole = '', cents = ''] = plain.split('.');
          const groups = grouped ? whole.replace(/\B(?=(\d{3})+$)/g, comma ? '.' : ',') : whole;
          const text = `${currency === '€ ' ? currency : ''}${groups}${comma ? ',' : '.'}${cents}${currency === ' EUR' ? currency : ''}`;
          expect(parseAmount(text, { decimalComma: comma, currency: 'EUR' })).toEqual({
            ok: true,
            value: { amountMinor: minor, currency: 'EUR' },
          });
        },
      ),
    );
  });

  it('with the wrong decimal mark is refused, not read a thousand times too dear', () => {
    expect(parseAmount('12,50', style)).toMatchObject({ ok: false });
    expect(parseAmount('1.234,50', style)).toMatchObject({ ok: false });
    expect(parseAmount('12.50', { ...style, decimalComma: true })).toMatchObject({ ok: false });
    for (const text of ['=1+1', 'free', '-3', '1.2.3']) expect(parseAmount(text, style).ok, text).toBe(false);
    expect(parseAmount('12.50 XQZ', style)).toMatchObject({ ok: false });
  });

  it('of drawn 0 to 4 decimals is what its digits say, or refused as too fine: never a thousand times it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 999_999 }),
        fc.integer({ min: 0, max: 4 }),
        fc.integer({ min: 0, max: 9999 }),
        fc.boolean(),
        (whole, places, digits, comma) => {
          const fraction = String(digits).padStart(4, '0').slice(0, places);
          const text = `${whole}${places > 0 ? `${comma ? ',' : '.'}${fraction}` : ''}`;
          const read = parseAmount(text, { decimalComma: comma, currency: 'EUR' });
          const exact = whole * 10_000 + Number(fraction.padEnd(4, '0'));
          if (exact % 100 === 0)
            expect(read).toEqual({ ok: true, value: { amountMinor: exact / 100, currency: 'EUR' } });
          else expect(read).toMatchObject({ ok: false, error: expect.stringContaining('decimal places') });
        },
      ),
    );
  });
  it.each([
    ['1,250', true, 125],
    ['1,250', false, 125_000],
    ['1.250', false, 125],
    ['1.250', true, 125_000],
  ])('%s with a decimal comma (%s) is %s cents', (text, decimalComma, minor) => {
    expect(parseAmount(text, { decimalComma, currency: 'EUR' })).toMatchObject({
      ok: true,
      value: { amountMinor: minor },
    });
  });

  it('tells by itself which mark is meant', () => {
    expect(usesDecimalComma(['12,50', '1.234,00', '7'])).toBe(true);
    expect(usesDecimalComma(['12.50', '1,234.00', '7'])).toBe(false);
    expect(usesDecimalComma([])).toBe(false);
  });
});

describe('a row of a price list', () => {
  const mapping = { partNumber: 'no', price: 'net', stock: 'qty', packQuantity: 'pack' };
  it('takes what the list does not say for one piece, one day, the part’s own number', () => {
    expect(readPriceRow(mapping, style, { no: 'FJ-1', net: '12.50' }, 2)).toEqual({
      ok: true,
      value: {
        partNumber: 'FJ-1',
        supplierNumber: 'FJ-1',
        packPrice: { amountMinor: 1250, currency: 'EUR' },
        packQuantity: 1,
        stockPacks: 1,
        handlingDays: 1,
        maker: '',
      },
    });
  });
  it('counts stock in packs, as it is bought: a list counts pieces', () => {
    const stockOf = (qty: string, pack: string) => {
      const read = readPriceRow(mapping, style, { no: 'FJ-1', net: '12.50', qty, pack }, 2);
      return read.ok ? read.value.stockPacks : null;
    };
    expect([stockOf('40', '10'), stockOf('9', '10'), stockOf('25', '10'), stockOf('', '10')]).toEqual([4, 0, 2, 1]);
  });
  it('names every fault by row, field and value', () => {
    const read = readPriceRow(mapping, style, { no: ' ', net: 'ask', qty: '-1', pack: '0' }, 7);
    expect(read.ok ? [] : read.error.map(({ row, field, value }) => [row, field, value])).toEqual([
      [7, 'partNumber', ''],
      [7, 'price', 'ask'],
      [7, 'packQuantity', '0'],
      [7, 'stock', '-1'],
    ]);
    expect(readPriceRow(mapping, style, { no: 'x'.repeat(10_000), net: '1' }, 2).ok).toBe(false);
  });
});

describe('a UBL catalogue', () => {
  const item = (number: string, price: string) => `<cac:CatalogueLine><cbc:ID>1</cbc:ID>
    <cac:RequiredItemLocationQuantity><cbc:LeadTimeMeasure unitCode="DAY">3</cbc:LeadTimeMeasure>
    <cac:Price>${price}<cbc:BaseQuantity unitCode="C62">10</cbc:BaseQuantity></cac:Price></cac:RequiredItemLocationQuantity>
    <cac:Item><cac:SellersItemIdentification><cbc:ID>S-77</cbc:ID></cac:SellersItemIdentification>
    ${number ? `<cac:ManufacturersItemIdentification><cbc:ID>${number}</cbc:ID></cac:ManufacturersItemIdentification>` : ''}</cac:Item></cac:CatalogueLine>`;
  const wrap = (
    lines: string,
  ) => `<?xml version="1.0"?><Catalogue xmlns="urn:oasis:names:specification:ubl:schema:xsd:Catalogue-2"
    xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
    <cbc:ID>C1</cbc:ID><cbc:Name>Winter list</cbc:Name>${lines}</Catalogue>`;
  const priced = '<cbc:PriceAmount currencyID="EUR">12.50</cbc:PriceAmount>';

  it('gives its lines as rows, and its faults by their place', () => {
    const read = readUblCatalogue(
      wrap(item('FJ-1', priced) + item('', priced) + item('FJ-2', priced.replace('12.50', 'x'))),
    );
    expect(read).toMatchObject({
      ok: true,
      value: {
        title: 'Winter list',
        rows: [
          {
            partNumber: 'FJ-1',
            supplierNumber: 'S-77',
            packPrice: { amountMinor: 1250, currency: 'EUR' },
            packQuantity: 10,
            handlingDays: 3,
          },
        ],
        problems: [
          { row: 2, field: 'partNumber' },
          { row: 3, field: 'price', value: 'x' },
        ],
      },
    });
  });
  it('reads amounts as machines write them', () => {
    const amount = (text: string) => {
      const read = readUblCatalogue(wrap(item('FJ-1', priced.replace('12.50', text))));
      return read.ok ? (read.value.rows[0]?.packPrice.amountMinor ?? read.value.problems[0]?.field) : null;
    };
    expect([amount('12.500'), amount('12'), amount('0.125'), amount('12,50')]).toEqual([1250, 1200, 'price', 'price']);
  });
  it('that is something else is said to be', () => {
    expect(readUblCatalogue('<Order/>')).toMatchObject({ ok: false, error: { kind: 'not-a-catalogue' } });
    expect(readUblCatalogue('<a><b></a>')).toMatchObject({ ok: false, error: { kind: 'not-xml' } });
  });
});
