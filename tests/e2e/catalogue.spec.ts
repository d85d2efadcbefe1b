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
  await expect(outcome).toContainText('Nothing was applied; the catalogue is as it was');
  await expect(page.getByText(counted(0))).toBeVisible();
});

test('a good package says what it changes, and replaces the catalogue only when told to; tickets stay', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const zip = packageZip({
    'models.csv': (text) =>
      `${text.replace(/^(m-fj-a1-01,.*),\d+$/m, '$1,1777')}m-new,VB 99-999/9,vessby,fjordal,fj-a1,1,2011-01-01,,7,1400\n`,
    'offers.csv': (text) => text.replace(/^o-00007,.*\n/m, ''),
  });
  const outcome = page.getByRole('region', { name: 'Import' });
  await page.getByLabel('Catalogue as a zip').setInputFiles(asFile(zip));
  await expect(outcome).toContainText('It is not in use yet', { timeout: 60_000 });
  const models = outcome.getByRole('group').filter({ hasText: 'Models' });
  await expect(models).toContainText('1 added');
  await expect(models).toContainText('1 changed');
  await models.locator('summary').click();
  await expect(models).toContainText('spinRpm: 1400 → 1777');
  await expect(models).toContainText('VB 99-999/9');
  await expect(outcome.getByRole('group').filter({ hasText: 'Offers' })).toContainText('1 gone');
  await expect(outcome).toContainText('nothing replaces it');
  // Seen, and left: nothing has changed. Then again, and taken.
  await outcome.getByRole('button', { name: 'Discard it' }).click();
  await expect(page.getByText(counted(0))).toBeVisible();
  await page.getByLabel('Catalogue as a zip').setInputFiles(asFile(zip));
  await outcome.getByRole('button', { name: 'Put it to use' }).click({ timeout: 60_000 });
  await expect(page.getByText(counted(1))).toBeVisible({ timeout: 60_000 });
  await page.locator('#one-input').fill('VB 99-999/9');
  await expect(page.getByRole('option').first()).toContainText('model VB 99-999/9');
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12);
});

test('what waits for a word still waits after a look at something else; another import takes its place', async ({
  shop: page,
}) => {
  const editions = () =>
    page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const open = indexedDB.open('sorter-demo');
          open.onsuccess = () => {
            const count = open.result.transaction('editions').objectStore('editions').count();
            count.onsuccess = () => resolve(count.result);
          };
        }),
    );
  const toCatalogue = () => page.getByRole('link', { name: 'Catalogue' }).click();
  const adding = (number: string) => ({
    'models.csv': (text: string) => `${text}m-new,${number},vessby,fjordal,fj-a1,1,2011-01-01,,7,1400\n`,
  });
  await toCatalogue();
  const outcome = page.getByRole('region', { name: 'Import' });
  await page.getByLabel('Catalogue as a zip').setInputFiles(asFile(packageZip(adding('VB 99-998/8'))));
  await page.getByRole('link', { name: /^Orders/ }).click();
  await toCatalogue();
  await expect(outcome).toContainText('It is not in use yet', { timeout: 60_000 });
  await page.getByRole('link', { name: 'Shop' }).click();
  await toCatalogue();
  await expect(outcome).toContainText('It is not in use yet');
  expect(await editions()).toBe(2);

  await page.getByLabel('Catalogue as a zip').setInputFiles(asFile(packageZip(adding('VB 99-997/7'))));
  const models = outcome.getByRole('group').filter({ hasText: 'Models' });
  await models.locator('summary').click({ timeout: 60_000 });
  await expect(models).toContainText('VB 99-997/7');
  await expect(models).not.toContainText('VB 99-998/8');
  expect(await editions()).toBe(2);
  await outcome.getByRole('button', { name: 'Put it to use' }).click();
  await expect(page.getByText(counted(1))).toBeVisible({ timeout: 60_000 });
  await expect.poll(editions).toBe(1);
});

test('the catalogue is browsed from a word to a part, to its models and to their parts', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const lookUp = page.getByRole('region', { name: 'Look up' });
  await expect(lookUp.getByRole('heading', { name: `${rows('models.csv')} models` })).toBeVisible();
  await lookUp.getByRole('textbox').fill('drain pump');
  await expect(lookUp.getByRole('heading', { name: '0 models' })).toBeVisible();
  const parts = lookUp.getByRole('region', { name: 'Parts found' });
  await parts.getByRole('button').first().click();
  await expect(lookUp.getByRole('region', { name: /^Cross-reference of/ })).toBeVisible();
  // The first that some model lists: its models, then one of them, then its parts.
  await lookUp.getByRole('textbox').fill('61-407/2');
  const models = lookUp.getByRole('region', { name: 'Models found' });
  await models.getByRole('button', { name: /61-407/ }).click();
  const byRole = lookUp.getByRole('region', { name: 'Parts by role' });
  await expect(byRole.getByRole('row').filter({ hasText: 'drain pump' })).toContainText('the whole platform');
  await byRole.getByRole('row').filter({ hasText: 'drain pump' }).getByRole('button').first().click();
  const fitted = lookUp.getByRole('region', { name: 'Models that take this part' });
  await expect(fitted.getByRole('button').first()).toContainText('by its platform');
  await fitted.getByRole('button').first().click();
  await expect(lookUp.getByRole('region', { name: /^Parts of/ })).toBeVisible();
});

test('a long list holds only what is in view, and goes to its end by keyboard', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const list = page.getByRole('region', { name: 'Parts found' });
  await expect(list.getByRole('button').first()).toBeVisible();
  const total = rows('parts.csv');
  expect(await list.getByRole('listitem').count()).toBeLessThan(60);
  await list.focus();
  await page.keyboard.press('End');
  await expect(list.locator(`li[aria-posinset="${total}"]`).getByRole('button')).toBeVisible();
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
