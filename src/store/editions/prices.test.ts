import exceljs from 'exceljs';
import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { demoCatalogue } from '../../../tests/support/demo';
import { normaliseNumber } from '@/core/identify';
import { defined, groupBy, asId, type MakerId, type SupplierId, type PartId } from '@/core/units';
import { exportBackup } from '../backup/backup';
import { activate } from './layers';
import { catalogueOf } from './catalogueReader';
import { writeEdition } from './editionWriter';
import { readPriceFile } from '../imports/priceFiles';
import { restoreBackup } from '../backup/restore';
import { dropPrices, habitOf, matchPrices, putPrices, rememberHabit } from './prices';

const catalogue = demoCatalogue();
const eur = (amountMinor: number) => ({ amountMinor, currency: 'EUR' });
const row = (partNumber: string, minor = 500, maker = '') => ({
  partNumber,
  supplierNumber: `S ${partNumber}`,
  packPrice: eur(minor),
  packQuantity: 1,
  stockPacks: 3,
  handlingDays: 2,
  maker,
});
const byNumber = groupBy(catalogue.parts, (part) => normaliseNumber(part.partNumber));
const makers = new Map(catalogue.makers.map((maker) => [maker.id, maker.name]));

async function shop() {
  const db = freshDatabase();
  await activate(db, await writeEdition(db, 'x', catalogue));
  return { db, reader: await catalogueOf(db) };
}

describe('a supplier’s own prices', () => {
  const part = catalogue.parts.find(
    ({ id, partNumber }) =>
      byNumber.get(normaliseNumber(partNumber))?.length === 1 &&
      catalogue.offers.some((offer) => offer.partId === id && offer.supplierId === 'northquay') &&
      catalogue.offers.some((offer) => offer.partId === id && offer.supplierId !== 'northquay'),
  );
  if (!part) throw new Error('no part to test with');

  it('take the place of what the catalogue says of that supplier, and of no other', async () => {
    const { db, reader } = await shop();
    const before = (await reader.partsWith([part.id])).offers;
    const others = before.filter((offer) => offer.supplierId !== 'northquay');
    const { rows } = matchPrices(asId('northquay'), [row(part.partNumber.toLowerCase(), 77)], byNumber, makers);
    await putPrices(db, { supplierId: asId<SupplierId>('northquay'), title: 'list.csv' }, rows);
    const after = (await reader.partsWith([part.id])).offers;
    expect(after.filter((offer) => offer.supplierId === 'northquay')).toEqual([
      expect.objectContaining({ partId: part.id, packPrice: eur(77), stockPacks: 3, handlingDays: 2 }),
    ]);
    expect(after.filter((offer) => offer.supplierId !== 'northquay')).toEqual(others);
    await dropPrices(db, asId('northquay'));
    expect((await reader.partsWith([part.id])).offers).toEqual(before);
  });

  it('outlive a new edition, and a backup', async () => {
    const { db } = await shop();
    const { rows } = matchPrices(asId('northquay'), [row(part.partNumber, 77)], byNumber, makers);
    await putPrices(db, { supplierId: asId<SupplierId>('northquay'), title: 'list.csv' }, rows);
    await rememberHabit(db, asId('northquay'), {
      mapping: { price: 'net' },
      style: { decimalComma: true, currency: 'EUR' },
    });
    const renumbered = catalogue.parts.map((entry) =>
      entry.id === part.id ? { ...entry, id: asId<PartId>('other-id') } : entry,
    );
    await activate(db, await writeEdition(db, 'x', { ...catalogue, parts: renumbered, relations: [] }));
    const other = freshDatabase();
    expect(await restoreBackup(other, await exportBackup(db))).toEqual({ ok: true, aside: 0 });
    for (const place of [db, other]) {
      const { offers } = await (await catalogueOf(place)).partsWith([asId('other-id')]);
      expect(offers.filter(({ partId }) => partId === 'other-id')).toMatchObject([{ packPrice: eur(77) }]);
      expect((await habitOf(place, asId('northquay')))?.mapping).toEqual({ price: 'net' });
    }
  });

  it('name what could not be placed: unknown numbers, numbers of several makers, numbers given twice', () => {
    const twins = new Map([
      [
        'AB1',
        [
          { ...part, id: asId<PartId>('a'), makerId: asId<MakerId>('fjordal') },
          { ...part, id: asId<PartId>('b'), makerId: asId<MakerId>('ostra') },
        ],
      ],
    ]);
    const rows = [row('AB-1'), row('nowhere 9'), row('AB 1', 900, 'Fjordal'), row('ab1', 901, 'fjordal')];
    const matched = matchPrices(asId('s'), rows, twins, makers);
    expect(matched).toMatchObject({ unknown: ['nowhere 9'], ambiguous: ['AB-1'], doubled: [] });
    expect(matched.rows.map(({ makerId, packPrice }) => [makerId, packPrice.amountMinor])).toEqual([
      ['fjordal', 900],
      ['fjordal', 901],
    ]);
    expect(matchPrices(asId('s'), [row('AB 1', 1, 'Fjordal'), row('AB 1', 2, 'Fjordal')], twins, makers)).toMatchObject(
      {
        doubled: ['AB 1'],
        rows: [{ packPrice: eur(2) }],
      },
    );
  });
});

describe('a row that names its maker', () => {
  it('takes no other maker’s part', () => {
    const known = new Map([
      ['AB1', [{ ...defined(catalogue.parts[0], 'a part'), id: asId<PartId>('a'), makerId: asId<MakerId>('fjordal') }]],
    ]);
    const matched = matchPrices(
      asId('s'),
      [row('AB-1', 5, 'Nobody we know'), row('AB-1', 7, 'Fjordal')],
      known,
      makers,
    );
    expect(matched).toMatchObject({ unknown: [], otherMaker: ['AB-1'] });
    expect(matched.rows.map(({ packPrice }) => packPrice.amountMinor)).toEqual([7]);
  });
});

describe('a price list from a file', () => {
  const asFile = (content: BlobPart, name = 'list') => new File([content], name);

  async function workbook(): Promise<ArrayBuffer> {
    const book = new exceljs.Workbook();
    book.addWorksheet('empty');
    const sheet = book.addWorksheet('prices');
    sheet.addRow(['Number', 'Net', 'Stock', 'Net']);
    sheet.addRow(['FJ-1', 12.5, { formula: 'A1+1', result: 7 }, { richText: [{ text: '1' }, { text: '2' }] }]);
    sheet.addRow(['FJ-2', { formula: '1/0', result: { error: '#DIV/0!' } }, null, new Date(Date.UTC(2026, 0, 31))]);
    return (await book.xlsx.writeBuffer()) as unknown as ArrayBuffer;
  }

  it('is a workbook: formulas by their stored result, and said so', async () => {
    const read = await readPriceFile(asFile(await workbook()));
    expect(read).toMatchObject({
      kind: 'table',
      header: ['Number', 'Net', 'Stock', 'Net (2)'],
      rows: [
        ['FJ-1', '12.5', '7', '12'],
        ['FJ-2', '', '', '2026-01-31'],
      ],
    });
    const notes = read.kind === 'table' ? read.notes.join(' ') : '';
    expect(notes).toContain('2 cells hold a formula');
    expect(notes).toContain('sheet “prices”');
  });

  it('of 20,000 rows with one stray cell in the last column is read as what it is', async () => {
    const book = new exceljs.Workbook();
    const sheet = book.addWorksheet('prices');
    sheet.addRow(['Number', 'Net']);
    for (let index = 0; index < 20_000; index += 1) sheet.addRow([`FJ-${index}`, index / 100]);
    sheet.getCell('XFD7').value = 'stray';
    sheet.getCell('A20010').value = 'FJ-last';
    const told: number[] = [];
    const file = asFile((await book.xlsx.writeBuffer()) as unknown as ArrayBuffer);
    const read = await readPriceFile(file, (done, total) => told.push(done / total));
    if (read.kind !== 'table') throw new Error(read.kind === 'unreadable' ? read.why : read.kind);
    expect(read.rows).toHaveLength(20_001);
    expect(read.rows[19_999]).toEqual(['FJ-19999', '199.99']);
    expect(read.rows[20_000]).toEqual(['FJ-last']);
    expect(read.notes.join(' ')).toContain('left alone');
    expect(told).toEqual([...told].sort((a, b) => a - b));
    expect(Math.max(0, ...told)).toBeLessThanOrEqual(1);
    expect(await readPriceFile(file, undefined, () => true)).toMatchObject({ why: expect.stringContaining('stopped') });
  });

  it('shows days where the workbook shows them, from either beginning of the calendar, and no day that is none', async () => {
    for (const date1904 of [false, true]) {
      const book = new exceljs.Workbook();
      book.properties.date1904 = date1904;
      const sheet = book.addWorksheet('s');
      sheet.addRow(['a', 'b', 'c']);
      sheet.addRow([new Date(Date.UTC(2026, 1, 28)), 45_000, 1e15]);
      sheet.getCell('B2').numFmt = '"day" 0.00 [Red]';
      sheet.getCell('C2').numFmt = 'dd/mm/yyyy';
      const read = await readPriceFile(asFile((await book.xlsx.writeBuffer()) as unknown as ArrayBuffer));
      expect(read).toMatchObject({ rows: [['2026-02-28', '45000', '1000000000000000']] });
    }
  });

  it('is a CSV, whatever stands between its columns, in UTF-8 or as Windows writes it', async () => {
    expect(await readPriceFile(asFile('No;Preis\nFJ-1;"1,50"\n\n'))).toMatchObject({
      header: ['No', 'Preis'],
      rows: [['FJ-1', '1,50']],
      notes: [],
    });
    const read = await readPriceFile(asFile(Uint8Array.from('No\tRéf\nA\té\n', (c) => c.charCodeAt(0))));
    expect(read).toMatchObject({ header: ['No', 'Réf'], rows: [['A', 'é']] });
    expect(read.kind === 'table' ? read.notes[0] : '').toContain('Windows-1252');
  });

  it('that cannot be one is refused in words', async () => {
    const why = async (content: BlobPart) => {
      const read = await readPriceFile(asFile(content));
      return read.kind === 'unreadable' ? read.why : read.kind;
    };
    expect(await why('only one column\nx\n')).toContain('no two columns');
    expect(await why((await workbook()).slice(0, 900))).toContain('damaged');
    expect(await why('<Order/>')).toContain('no UBL Catalogue');
    expect(await why('<a><b></a>')).toContain('damaged XML');
    expect(await why(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]))).toContain('old binary kind');
    expect(await why(`a,b\n${'1,2\n'.repeat(100_001)}`)).toContain('more than 100,000 rows');
  });
});
