import fc from 'fast-check';
import { SHELF } from '../stock';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { partsFor } from '../fit';
import { normaliseNumber, typedPart, unlistedModel } from '../identify';
import { asDay, asId, defined, keyBy, money, type PlatformId, type RoleId } from '../units';
import {
  ambiguityOf,
  guessColumns,
  guessKind,
  isComplete,
  isDayFirst,
  kindOfText,
  readSheetRow,
  roleOfName,
  sheetCatalogue,
  UNSORTED_ROLE,
  type SheetKind,
  type SheetMapping,
  type SheetRow,
  type SheetWorld,
} from '.';

const today = asDay('2026-11-26');
const catalogue = demoCatalogue();
const style = { decimalComma: false, currency: 'EUR', dayFirst: true };
const nothing: SheetWorld = {
  ...catalogue,
  makers: [],
  badges: [],
  suppliers: [],
  models: new Map(),
  parts: new Map(),
};
const listed: SheetWorld = {
  ...catalogue,
  models: keyBy(catalogue.models, (model) => normaliseNumber(model.modelNumber)),
  parts: keyBy(catalogue.parts, (part) => normaliseNumber(part.partNumber)),
};

/** Other people's heads, and what each of their columns is. */
const HEADS: [SheetKind, Record<string, string>][] = [
  [
    'models',
    {
      'Model No.': 'model',
      Brand: 'make',
      'Production from': 'from',
      'Production to': 'to',
      'Load kg': 'capacity',
      'Spin rpm': 'spin',
    },
  ],
  [
    'models',
    { Gerätetyp: 'model', Hersteller: 'make', Bauart: 'built', Füllmenge: 'capacity', Schleuderdrehzahl: 'spin' },
  ],
  ['parts', { Model: 'model', 'Part number': 'part', Description: 'partName', Qty: 'quantity' }],
  ['parts', { Modell: 'model', 'Teile-Nr.': 'part', Bezeichnung: 'partName', Lage: 'position', Anzahl: 'quantity' }],
  ['replaced', { 'Old number': 'part', 'New number': 'newPart' }],
  ['replaced', { 'Alte Nummer': 'part', Nachfolger: 'newPart', Bezeichnung: 'partName' }],
  ['equal', { 'OEM part': 'part', Equivalent: 'newPart' }],
  [
    'prices',
    { 'Part no': 'part', 'Net price': 'price', 'Lead days': 'days', Stock: 'stock', 'Your order no': 'supplierNumber' },
  ],
  ['stock', { Teilenummer: 'part', Bestand: 'stock', Bezeichnung: 'partName' }],
  ['customers', { Customer: 'name', Telephone: 'phone', Town: 'place' }],
  ['customers', { Kunde: 'name', Telefon: 'phone', Adresse: 'place' }],
];

const read = (kind: SheetKind, mapping: SheetMapping, cells: Record<string, string>, over = {}): SheetRow => {
  const row = readSheetRow(kind, mapping, { ...style, ...over }, cells, 2);
  if (!row.ok) throw new Error(JSON.stringify(row.error));
  return row.value;
};
const rowsOf = (kind: SheetKind, mapping: SheetMapping, rows: Record<string, string>[]): SheetRow[] =>
  rows.map((cells) => read(kind, mapping, cells));
const words = (roles: Record<string, RoleId | null> = {}) => ({
  source: 'Corner Wholesale',
  today,
  currency: 'EUR',
  roles,
});

describe('other people’s columns', () => {
  it.each(HEADS)('are recognised: a list of %s', (kind, head) => {
    const header = Object.keys(head);
    expect(guessKind(header)).toBe(kind);
    const mapping = guessColumns(kind, header);
    expect(Object.fromEntries(Object.entries(mapping).map(([field, column]) => [column, field]))).toEqual(head);
    expect(isComplete(kind, mapping)).toBe(true);
  });

  it('of which nothing is known are left to the person', () => {
    expect(guessKind(['a', 'b', 'c'])).toBeNull();
    expect(isComplete('parts', guessColumns('parts', ['a', 'Model']))).toBe(false);
  });

  it('are each taken once, whatever they are called', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(...HEADS.flatMap(([, head]) => Object.keys(head))), { minLength: 1 }),
        (header) => {
          for (const kind of ['models', 'parts', 'prices', 'customers'] as const) {
            const columns = Object.values(guessColumns(kind, header));
            expect(new Set(columns).size).toBe(columns.length);
          }
        },
      ),
    );
  });
});

describe('what can be read in two ways', () => {
  it('is asked: a thousand or one and a bit, the third of April or the fourth of March', () => {
    const mapping = { price: 'p', from: 'f' };
    expect(ambiguityOf(mapping, [{ p: '1,234', f: '03/04/2019' }])).toEqual({ marks: true, dates: true });
    expect(
      ambiguityOf(mapping, [
        { p: '1,234', f: '03/04/2019' },
        { p: '12,50', f: '31/12/2019' },
      ]),
    ).toEqual({
      marks: false,
      dates: false,
    });
    expect(ambiguityOf(mapping, [{ p: '120', f: '2019' }])).toEqual({ marks: false, dates: false });
    expect(isDayFirst(mapping, [{ f: '12/31/2019' }])).toBe(false);
  });

  it('is read as it was said', () => {
    const mapping = { model: 'm', from: 'f', to: 't', capacity: 'c' };
    const cells = { m: 'A 1', f: '03/04/2019', t: '2021', c: '7,5 kg' };
    expect(read('models', mapping, cells, { decimalComma: true })).toMatchObject({
      from: '2019-04-03',
      to: '2021-12-31',
      numbers: { capacity: 7.5 },
    });
    expect(read('models', mapping, { ...cells, c: '7.5' }, { dayFirst: false }).from).toBe('2019-03-04');
  });

  it('is asked of no unit that the cell names itself', () => {
    const mapping = { model: 'm', capacity: 'c' };
    expect(read('models', mapping, { m: 'A 1', c: '15 lbs' }).numbers.capacity).toBe(6.8);
    expect(readSheetRow('models', mapping, style, { m: 'A 1', c: '4.5 cu ft' }, 2)).toMatchObject({
      ok: false,
      error: [{ field: 'capacity', why: 'is no weight: a load is in kg or lb' }],
    });
  });

  it('that makes no sense says so, with its row and its column', () => {
    const mapping = { model: 'm', part: 'p', quantity: 'q' };
    expect(readSheetRow('parts', mapping, style, { m: '', p: '--', q: 'two' }, 7)).toEqual({
      ok: false,
      error: [
        { row: 7, field: 'model', value: '', why: 'is empty' },
        { row: 7, field: 'part', value: '--', why: 'is no number: it has neither letter nor digit' },
        { row: 7, field: 'quantity', value: 'two', why: 'is not a number' },
      ],
    });
  });
});

describe('the names of parts', () => {
  it('mean the role whose word they hold, the longest first', () => {
    expect(roleOfName('Drain pump 30 W, complete', catalogue.roles)).toBe('pump');
    expect(roleOfName('Türmanschette', catalogue.roles)).toBe('door-seal');
    expect(roleOfName('Decorative strip', catalogue.roles)).toBeNull();
  });

  it('and how a machine is built, in words, are answers to the kind questions', () => {
    expect(kindOfText('Front loader, direct drive, brushless')).toEqual({
      loading: 'front',
      drive: 'direct',
      motor: 'inverter',
    });
    expect(kindOfText('Toplader')).toEqual({ loading: 'top' });
    expect(kindOfText('')).toEqual({});
  });
});

describe('a list as a layer', () => {
  const parts = { model: 'm', part: 'p', partName: 'n', quantity: 'q' };

  it('of parts makes them answer for their model, where nothing else is known', () => {
    const rows = rowsOf('parts', parts, [
      { m: 'ZX 1', p: '77-1', n: 'Laugenpumpe', q: '1' },
      { m: 'ZX 1', p: '77-9', n: 'Zierleiste', q: '' },
    ]);
    const made = sheetCatalogue('parts', rows, words({ Laugenpumpe: asId('pump'), Zierleiste: null }), nothing);
    expect(made.catalogue.models).toMatchObject([{ id: unlistedModel('zx-1'), modelNumber: 'ZX 1' }]);
    expect(made.catalogue.parts.map(({ roleId }) => roleId)).toEqual(['pump', UNSORTED_ROLE]);
    const found = partsFor(
      { ...catalogue, ...made.catalogue, roles: catalogue.roles },
      { models: [{ modelId: unlistedModel('ZX 1'), probability: 1 }], roleId: asId('pump'), today },
    );
    expect(found.candidates).toMatchObject([{ part: { id: typedPart('771'), partNumber: '77-1' }, probability: 1 }]);
  });

  it('keeps the ids of what is listed, and adds nothing of it', () => {
    const [model, part] = [defined(catalogue.models[3], 'a model'), defined(catalogue.parts[5], 'a part')];
    const rows = rowsOf('parts', parts, [{ m: model.modelNumber.toLowerCase(), p: part.partNumber, n: '', q: '2' }]);
    const { catalogue: made, platformOf } = sheetCatalogue('parts', rows, words(), listed);
    expect([made.models, made.parts]).toEqual([[], []]);
    expect(made.fits).toMatchObject([{ modelId: model.id, partId: part.id, roleId: part.roleId, quantity: 2 }]);
    expect(platformOf.get(model.id)).toBe<PlatformId>(model.platformId);
  });

  it('of prices buys from its source, of stock from the own shelf at once', () => {
    const mapping = { part: 'p', price: 'e', stock: 's', pack: 'v' };
    const [row] = rowsOf('prices', mapping, [{ p: '77-1', e: '12.50', s: '25', v: '10' }]);
    const prices = sheetCatalogue('prices', [defined(row, 'a row')], words(), nothing).catalogue;
    expect(prices.suppliers).toMatchObject([{ name: 'Corner Wholesale' }]);
    expect(prices.offers).toMatchObject([
      { packPrice: money(1250, 'EUR'), packQuantity: 10, stockPacks: 2, asOf: today },
    ]);
    const shelf = sheetCatalogue(
      'stock',
      rowsOf('stock', { part: 'p', stock: 's' }, [{ p: '77-1', s: '3' }]),
      words(),
      nothing,
    );
    expect(shelf.catalogue.offers).toMatchObject([{ supplierId: SHELF.id, stockPacks: 3, handlingDays: 0 }]);
  });

  it('of old and new numbers leads on from each old one, and never to itself', () => {
    const rows = rowsOf('replaced', { part: 'a', newPart: 'b' }, [
      { a: 'A-1', b: 'A-2' },
      { a: 'A-2', b: 'A-3' },
      { a: 'A-3', b: 'a3' },
    ]);
    const made = sheetCatalogue('replaced', rows, words(), nothing).catalogue;
    expect(made.relations.map(({ fromPartId, toPartId }) => [fromPartId, toPartId])).toEqual([
      [typedPart('A1'), typedPart('A2')],
      [typedPart('A2'), typedPart('A3')],
    ]);
  });

  it('is the same whatever the order of its rows, but for what two rows say differently', () => {
    const rows = rowsOf(
      'parts',
      parts,
      Array.from({ length: 12 }, (_, index) => ({ m: `M ${index % 3}`, p: `P ${index}`, n: '', q: '1' })),
    );
    const sorted = (list: readonly object[]) => list.map((entry) => JSON.stringify(entry)).sort();
    const whole = sheetCatalogue('parts', rows, words(), nothing).catalogue;
    fc.assert(
      fc.property(fc.shuffledSubarray(rows, { minLength: rows.length }), (some) => {
        const made = sheetCatalogue('parts', some, words(), nothing).catalogue;
        expect(sorted(made.fits)).toEqual(sorted(whole.fits));
        expect(sorted(made.parts)).toEqual(sorted(whole.parts));
      }),
      { numRuns: 20 },
    );
  });
});
