import exceljs from 'exceljs';
import { readFileSync } from 'node:fs';
import Papa from 'papaparse';
import { expect, test } from './support';

const table = (name: string) =>
  Papa.parse<Record<string, string>>(readFileSync(`demo-shop/catalogue/${name}.csv`, 'utf8'), {
    header: true,
    skipEmptyLines: true,
  }).data;

/** A few parts of the demo whose number is used once. */
const numbers = table('parts').map((part) => part['partNumber'] ?? '');
const parts = numbers
  .filter((number, index) => numbers.indexOf(number) === index && numbers.lastIndexOf(number) === index)
  .slice(10, 16);

async function workbook(): Promise<Buffer> {
  const book = new exceljs.Workbook();
  const sheet = book.addWorksheet('list');
  sheet.addRow(['Artikel', 'Teil', 'EK netto', 'Bestand']);
  parts.forEach((number, index) => sheet.addRow([`A${index}`, number, `${index + 1},50`, 9]));
  sheet.addRow(['A90', 'NOWHERE-1', '3,00', 1]);
  sheet.addRow(['A91', parts[0], 'ask', 1]);
  return Buffer.from(await book.xlsx.writeBuffer());
}

test('a workbook’s columns are named once, checked, used; the next list of that supplier needs no naming', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const panel = page.getByRole('region', { name: 'Price lists' });
  const file = panel.getByLabel('Price list', { exact: true });
  const list = { name: 'winter.xlsx', mimeType: 'application/octet-stream', buffer: await workbook() };
  await panel.getByLabel('Supplier', { exact: true }).selectOption({ label: 'Brightwater Wholesale' });
  await file.setInputFiles(list);
  await expect(panel.getByRole('region', { name: 'First rows of the list' })).toContainText(parts[0] ?? '');
  await expect(panel.getByLabel('Price, net')).toHaveValue('EK netto');
  await expect(panel.getByLabel('Decimal mark of the prices')).toHaveValue('comma');
  await panel.getByLabel('Part number').selectOption('Teil');
  await panel.getByLabel('Supplier’s number').selectOption('Artikel');
  await panel.getByRole('button', { name: 'Check the rows' }).click();
  await expect(panel).toContainText(`${parts.length} prices can be used`, { timeout: 30_000 });
  await expect(panel).toContainText('1 row whose number no part of the catalogue has');
  await expect(panel).toContainText('row 9 · price, net · “ask” · is not an amount');
  await panel.getByRole('button', { name: 'Use these prices' }).click();
  await expect(panel).toContainText(`Brightwater Wholesale: winter.xlsx, ${parts.length} prices`);
  // Again: the columns are known, and nothing has changed.
  await file.setInputFiles(list);
  await expect(panel).toContainText('The columns are read as the last time', { timeout: 30_000 });
  await expect(panel).toContainText(`${parts.length} as before`);
  await page.reload();
  await panel.getByRole('button', { name: 'Back to the catalogue’s prices of Brightwater Wholesale' }).click();
  await expect(panel.getByRole('listitem')).toHaveCount(0);
});

test('a UBL catalogue needs no columns; what is no price list is refused and changes nothing', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const panel = page.getByRole('region', { name: 'Price lists' });
  const file = panel.getByLabel('Price list', { exact: true });
  await expect(panel.getByRole('button', { name: 'Choose a price list' })).toBeEnabled();
  const xml = `<Catalogue xmlns:cac="a" xmlns:cbc="b"><cbc:Name>Spring list</cbc:Name>${parts
    .map(
      (number) =>
        `<cac:CatalogueLine><cac:RequiredItemLocationQuantity><cac:Price><cbc:PriceAmount currencyID="EUR">4.20</cbc:PriceAmount></cac:Price></cac:RequiredItemLocationQuantity><cac:Item><cac:ManufacturersItemIdentification><cbc:ID>${number}</cbc:ID></cac:ManufacturersItemIdentification></cac:Item></cac:CatalogueLine>`,
    )
    .join('')}</Catalogue>`;
  await file.setInputFiles({ name: 'list.xml', mimeType: 'text/xml', buffer: Buffer.from(xml) });
  await expect(panel).toContainText(`Spring list: ${parts.length} priced lines`, { timeout: 30_000 });
  await expect(panel).toContainText(`${parts.length} prices can be used`);
  await file.setInputFiles({ name: 'x.xlsx', mimeType: 'x', buffer: (await workbook()).subarray(0, 900) });
  await expect(panel).toContainText('damaged, cut off, or no workbook at all. Nothing was changed.');
});
