import { readFileSync } from 'node:fs';
import exceljs from 'exceljs';
import type { Page } from '@playwright/test';
import { emptyShop, enter, expect, expectNoSeriousAxe, settled, test, unfold, findingNamed } from './support';

const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

async function workbook(name: string, rows: (string | number)[][]) {
  const book = new exceljs.Workbook();
  const sheet = book.addWorksheet('Preise');
  rows.forEach((row) => sheet.addRow(row));
  return {
    name,
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: Buffer.from(await book.xlsx.writeBuffer()),
  };
}

const lists = (page: Page) => page.getByRole('region', { name: 'Lists', exact: true });

test('three spreadsheets of other people fill an empty shop: models, parts per model, prices; bad rows come out again', async ({
  shop: page,
}) => {
  await emptyShop(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const panel = lists(page);

  // Models, with columns in another language and years.
  await panel
    .getByLabel('List', { exact: true })
    .setInputFiles(
      csv(
        'Geraete.csv',
        'Gerätetyp;Hersteller;Bauart;Füllmenge\nWZ 4410;Quellwerk;Frontlader, Riemen;7\nWZ 4420;Quellwerk;Toplader;6\n',
      ),
    );
  await expect(panel.getByLabel('It is a list of')).toHaveValue('models');
  await expect(panel.getByLabel('Model number')).toHaveValue('Gerätetyp');
  await panel.getByLabel('Whose list it is').fill('Corner Wholesale');
  await expectNoSeriousAxe(page);
  await panel.getByRole('button', { name: 'Read the rows' }).click();
  await expect(panel).toContainText('2 rows can be taken');
  await panel.getByRole('button', { name: 'Take 2 rows' }).click();
  await expect(panel).toContainText('Corner Wholesale: models is in use: 2 rows');

  // Parts per model, with bad rows: listed, downloaded, the good ones taken.
  await panel
    .getByLabel('List', { exact: true })
    .setInputFiles(
      csv(
        'Teile.csv',
        'Modell,Teile-Nr.,Bezeichnung,Anzahl\nWZ 4410,77-100,Laugenpumpe,1\nWZ 4410,77-200,Zierleiste,1\n,77-300,Keilriemen,1\nWZ 4420,77-400,Keilriemen,zwei\n',
      ),
    );
  await expect(panel.getByLabel('It is a list of')).toHaveValue('parts');
  await panel.getByLabel('Whose list it is').fill('Corner Wholesale');
  await panel.getByRole('button', { name: 'Read the rows' }).click();
  await expect(panel).toContainText('2 rows can be taken, 2 cannot');
  await expect(panel).toContainText('row 4 · model number · is empty');
  await expect(panel).toContainText('row 5 · pieces in a machine · “zwei” · is not a number');
  await expectNoSeriousAxe(page);
  await expect(panel.getByLabel('Laugenpumpe (1 row)')).toHaveValue('pump');
  await expect(panel.getByLabel('Zierleiste (1 row)')).toHaveValue('');
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    panel.getByRole('button', { name: /Download these rows/ }).click(),
  ]);
  const toMend = readFileSync(await saved.path(), 'utf8');
  expect(toMend).toContain('WZ 4420,77-400,Keilriemen,zwei,quantity is not a number');
  await panel.getByRole('button', { name: 'Take the 2 good rows' }).click();
  await expect(panel).toContainText('parts of models is in use: 2 rows');

  // Prices, from a workbook, with figures that can be read in two ways: asked, not guessed.
  await panel.getByLabel('List', { exact: true }).setInputFiles(
    await workbook('Preise.xlsx', [
      ['Teilenummer', 'Preis', 'Lieferzeit Tage'],
      ['77-100', '1,234', 2],
      ['77 200', '2,500', 2],
    ]),
  );
  await expect(panel.getByLabel('It is a list of')).toHaveValue('prices');
  await expect(panel).toContainText('Figures like 1,234 can be read in two ways');
  await expect(panel.getByRole('button', { name: 'Read the rows' })).toBeDisabled();
  await panel.getByLabel('Decimal mark').selectOption('point');
  await panel.getByLabel('Supplier', { exact: true }).fill('Corner Wholesale');
  await panel.getByRole('button', { name: 'Read the rows' }).click();
  await expect(panel).toContainText(/price of a pack, net 1,234.00/);
  await panel.getByRole('button', { name: 'Take 2 rows' }).click();
  await expect(panel).toContainText('prices of a supplier is in use: 2 rows');
  await expect(page.getByRole('region', { name: 'Layers' }).getByRole('listitem')).toHaveCount(5);

  // The machine is known now, with how it is built, its part and its price.
  await enter(page, 'WZ 4410', /WZ 4410/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Quellwerk WZ 4410');
  await (await findingNamed(await unfold(page, 'Findings'), 'Water stands in it')).click();
  await settled(page);
  await page.getByRole('button', { name: /Settle on Drain pump/ }).click();
  const part = await unfold(page, 'Part');
  await expect(part).toContainText('77-100');
  await expect(part).toContainText(/1,604.20/);

  // Read again with the same columns: nothing is asked twice.
  await page.getByRole('link', { name: 'Catalogue' }).click();
  await panel
    .getByLabel('List', { exact: true })
    .setInputFiles(csv('neu.csv', 'Gerätetyp;Hersteller;Bauart;Füllmenge\nWZ 4410;Quellwerk;Frontlader, Riemen;8\n'));
  await expect(panel).toContainText('A list with these columns was read before');
  await expect(panel.getByLabel('Whose list it is')).toHaveValue('Corner Wholesale');
  await panel.getByRole('button', { name: 'Read the rows' }).click();
  await expect(panel).toContainText(/Against the last list of this source: 0 rows added, 1 changed, \d+ gone/);
});

test('a list of customers is known where a name is typed', async ({ shop: page }) => {
  await emptyShop(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const panel = lists(page);
  await panel
    .getByLabel('List', { exact: true })
    .setInputFiles(
      csv('kunden.csv', 'Kunde;Telefon;Ort\nMarit Lund;0555 010 777;Slipway 4\nTove Kvall;0555 010 888;Quay 2\n'),
    );
  await panel.getByLabel('Whose list it is').fill('our list');
  await panel.getByRole('button', { name: 'Read the rows' }).click();
  await panel.getByRole('button', { name: 'Take 2 rows' }).click();
  await expect(panel).toContainText('customers is in use: 2 rows');
  await enter(page, 'KX 1', /opens a ticket/);
  const plate = await unfold(page, 'Plate');
  const name = plate.getByLabel('Customer', { exact: true });
  await name.fill('Marit Lund');
  await expect(plate.locator('datalist option')).toHaveCount(1);
  await name.press('Enter');
  await expect(plate.getByLabel('Telephone')).toHaveValue('0555 010 777');
  await expect(plate.getByLabel('Where it stands')).toHaveValue('Slipway 4');
});
