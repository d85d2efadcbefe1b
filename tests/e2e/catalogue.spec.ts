import { readdirSync, readFileSync } from 'node:fs';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { expect, test } from './support';

const FOLDER = 'demo-shop/catalogue/';

/** The demo catalogue as a zip, with some files changed. */
function packageZip(change: Record<string, (text: string) => string> = {}): Buffer {
  const files = readdirSync(FOLDER).map((name) => {
    const bytes = readFileSync(`${FOLDER}${name}`);
    return [name, change[name] ? strToU8(change[name](strFromU8(bytes))) : new Uint8Array(bytes)] as const;
  });
  return Buffer.from(zipSync(Object.fromEntries(files)));
}

const rows = (name: string) => readFileSync(`${FOLDER}${name}`, 'utf8').trim().split('\n').length - 1;

/** What the page says of the catalogue in use, with so many models more. */
const counted = (more: number) =>
  new RegExp(
    `${rows('models.csv') + more} models, ${rows('parts.csv')} parts, ${rows('fits.csv').toLocaleString('en-GB')} fits`,
  );

const asFile = (buffer: Buffer) => ({ name: 'catalogue.zip', mimeType: 'application/zip', buffer });

test('bad rows are listed one by one, and nothing is applied', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  await expect(page.getByText(counted(0))).toBeVisible();
  const zip = packageZip({
    'models.csv': (text) => `${text}m-bad,XX 1,vessby,fjordal,no-such-platform,-3,2011-99-01,,7,1400\n`,
    'offers.csv': (text) => text.replace(/\d+\.\d\d EUR/, '=1+1').replace(/^(o-00002,.*)$/m, '$1\n$1'),
  });
  await page.getByLabel('Catalogue as a zip').setInputFiles(asFile(zip));
  const outcome = page.getByRole('region', { name: 'Import' });
  await expect(outcome).toContainText('models.csv', { timeout: 60_000 });
  for (const expected of [
    'platformId',
    'no-such-platform',
    'popularity',
    '-3 is below 0',
    '2011-99-01',
    'offers.csv',
    '=1+1',
    'stands in this file twice',
  ])
    await expect(outcome).toContainText(expected);
  await expect(outcome).toContainText('Nothing was applied; the catalogue in use was not changed');
  await expect(page.getByText(counted(0))).toBeVisible();
});

test('a good package replaces the catalogue; tickets stay', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const zip = packageZip({
    'models.csv': (text) => `${text}m-new,VB 99-999/9,vessby,fjordal,fj-a1,1,2011-01-01,,7,1400\n`,
  });
  await page.getByLabel('Catalogue as a zip').setInputFiles(asFile(zip));
  await expect(page.getByText(counted(1))).toBeVisible({ timeout: 60_000 });
  await page.locator('#one-input').fill('VB 99-999/9');
  await expect(page.getByRole('option').first()).toContainText('model VB 99-999/9');
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12);
});

test('a file that is no package, and a cut-off zip, are refused in words', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const outcome = page.getByRole('region', { name: 'Import' });
  await page
    .getByLabel('Catalogue as a zip')
    .setInputFiles(asFile(Buffer.from(zipSync({ 'x.txt': strToU8('hello') }))));
  await expect(outcome).toContainText('this is not a catalogue package', { timeout: 30_000 });
  await page.getByLabel('Catalogue as a zip').setInputFiles(asFile(packageZip().subarray(0, 20_000)));
  await expect(outcome).toContainText('damaged or cut-off', { timeout: 30_000 });
});
