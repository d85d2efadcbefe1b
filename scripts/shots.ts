/**
 * Takes one picture of each main view from the demo data into docs/screenshots/. Needs a running demo: `PORT=3300 ./demo`, then `npm run shots`.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { demoMorning } from '../tests/support/demoDay';

const PORT = process.env['PORT'] ?? '3300';
const OUT = process.env['OUT'] ?? 'docs/screenshots';

type Shot = { name: string; width?: number; height?: number; dark?: boolean; steps: (page: Page) => Promise<void> };

const ticket =
  (number: number, key?: string) =>
  async (page: Page): Promise<void> => {
    await page.goto('/');
    await page.locator('#one-input').fill(`#${number}`);
    await page.getByRole('option', { name: `ticket ${number}` }).click();
    await page.locator('#station-plate').waitFor({ timeout: 30_000 });
    if (key) await page.keyboard.press(key);
    await page.waitForTimeout(600);
  };

const go = (url: string) => async (page: Page) => {
  await page.goto(url);
  await page.waitForTimeout(900);
};

const SHOTS: Shot[] = [
  { name: 'floor', steps: go('/') },
  { name: 'findings', steps: ticket(201) },
  { name: 'part', steps: ticket(203) },
  { name: 'worth', steps: ticket(205) },
  {
    name: 'bench',
    steps: async (page) => {
      await ticket(210)(page);
      await page
        .getByRole('heading', { name: 'Before the first step' })
        .evaluate((element) => element.scrollIntoView({ block: 'start' }));
      await page.waitForTimeout(400);
    },
  },
  { name: 'proof-cure', steps: ticket(211, '7') },
  {
    name: 'orders',
    steps: async (page) => {
      await go('/orders')(page);
      await page.getByRole('button', { name: 'Work out the plan' }).click();
      await page.getByRole('button', { name: /^Send/ }).waitFor({ timeout: 30_000 });
    },
  },
  {
    name: 'goods-in',
    steps: async (page) => {
      await go('/orders')(page);
      await page.getByRole('button', { name: 'Work out the plan' }).click();
      await page.getByRole('button', { name: /^Send/ }).click({ timeout: 30_000 });
      const line = page
        .getByRole('region', { name: 'Under way' })
        .locator('li')
        .filter({ hasText: 'Carbon brush' })
        .filter({ has: page.getByLabel(/^Number on the parcel/) });
      await line.getByText('Check its sizes, too').click({ timeout: 30_000 });
      await line.getByLabel('Length, in the hand').fill('33,1');
      await line.getByLabel('Width, in the hand').fill('11');
      const number = await line.locator('.font-mono').first().innerText();
      await line.getByLabel(/^Number on the parcel/).fill(number.replace(/1$/, '7'));
      await line.getByRole('button', { name: 'Check in' }).click();
      await line.getByRole('alert').waitFor();
    },
  },
  {
    name: 'catalogue',
    steps: async (page) => {
      await go('/catalogue')(page);
      await page.getByLabel(/Model or part number/).fill('VB 61');
      await page.getByRole('region', { name: 'Models found' }).getByRole('button').nth(1).click();
      await page.getByRole('region', { name: 'Parts by role' }).waitFor();
    },
  },
  {
    name: 'plate-doubt',
    steps: async (page) => {
      await go('/')(page);
      await page.locator('#one-input').fill('MT1 920');
      await page
        .getByRole('option', { name: /model MT1-920/ })
        .first()
        .click();
      await page.locator('#station-plate').waitFor({ timeout: 30_000 });
      await page.getByText(/Look again: /).waitFor();
      await page.waitForTimeout(600);
    },
  },
  {
    name: 'shelf',
    steps: async (page) => {
      await go('/shelf')(page);
      await page.getByRole('button', { name: 'Work out what to keep' }).click();
      await page.getByText(/closed tickets since/).waitFor({ timeout: 60_000 });
      await page.waitForTimeout(400);
    },
  },
  {
    name: 'caliper',
    steps: async (page) => {
      await ticket(203)(page);
      await page
        .getByRole('button', { name: /generic/ })
        .first()
        .click();
      await page.getByLabel('Shaft, old').fill('31');
      await page.getByLabel('Shaft, old').press('Enter');
      await page.waitForTimeout(900);
      await page.getByText('Compare with the old part').scrollIntoViewIfNeeded();
    },
  },
  {
    name: 'plate-camera',
    steps: async (page) => {
      await ticket(202)(page);
      const picture = page.getByRole('region', { name: 'Picture of the plate' });
      await picture.getByLabel('Picture of the plate from a file').setInputFiles('demo-shop/plates/worn.jpg');
      await picture.getByLabel('Line 1 of the plate').waitFor({ timeout: 60_000 });
      await picture.getByLabel('Line 4 of the plate').focus();
      await picture.evaluate((element) => element.parentElement?.scrollIntoView({ block: 'start' }));
      await page.waitForTimeout(600);
    },
  },
  {
    name: 'lists',
    steps: async (page) => {
      await go('/catalogue')(page);
      const lists = page.getByRole('region', { name: 'Lists', exact: true });
      await lists.getByLabel('List', { exact: true }).setInputFiles({
        name: 'Teile.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(
          'Modell,Teile-Nr.,Bezeichnung,Anzahl\nWZ 4410,77-100,Laugenpumpe,1\nWZ 4410,77-200,Zierleiste,1\nWZ 4420,77-400,Keilriemen,zwei\n',
        ),
      });
      await lists.getByLabel('Whose list it is').fill('Corner Wholesale');
      await lists.getByRole('button', { name: 'Read the rows' }).click();
      await lists.getByText(/cannot be read/).waitFor();
      await lists.evaluate((element) => element.scrollIntoView({ block: 'start' }));
      await page.waitForTimeout(400);
    },
  },
  {
    name: 'records',
    steps: async (page) => {
      await go('/records')(page);
      await page.getByRole('heading', { name: 'Where the days go' }).evaluate((element) => element.scrollIntoView());
      await page.waitForTimeout(400);
    },
  },
  { name: 'shop', steps: go('/shop') },
  { name: 'knowledge', dark: true, steps: go('/catalogue/knowledge?cause=brushes') },
  { name: 'phone', width: 390, height: 844, steps: ticket(201) },
  {
    // Last: from here on the page is in the own shop.
    name: 'learned',
    steps: async (page) => {
      await page.goto('/');
      await page.getByRole('button', { name: 'To my own shop' }).click();
      await page.getByLabel('Name of the shop').fill('Drum & Belt');
      await page.getByRole('button', { name: 'Begin' }).click();
      await page.locator('#one-input').fill('KX 9100 W');
      await page
        .getByRole('option', { name: /opens a ticket/ })
        .first()
        .click();
      const kind = page.getByRole('region', { name: 'Kind of machine' });
      await kind.getByRole('button', { name: /In front/ }).click({ timeout: 30_000 });
      await kind.getByRole('button', { name: /A belt to a pulley/ }).click();
      await page.getByRole('button', { name: 'Water stands in it' }).click();
      await page.waitForTimeout(900);
      await page.getByRole('button', { name: /Settle on Drain pump/ }).click();
      await page.getByLabel('Number: drain pump').fill('ZP-4471');
      await page.getByLabel('Price a piece, net: drain pump').fill('31.50');
      await page.getByLabel('Supplier: drain pump').fill('Old Quay Parts');
      await page.getByRole('button', { name: 'Note it: drain pump' }).click();
      await page.getByRole('link', { name: 'Catalogue' }).click();
      await page.getByRole('region', { name: 'Learned here' }).waitFor({ timeout: 30_000 });
      await page.waitForTimeout(600);
      await page
        .getByRole('region', { name: 'Learned here' })
        .evaluate((element) => element.scrollIntoView({ block: 'start' }));
      await page.waitForTimeout(400);
    },
  },
];

const only = process.argv.slice(2);
mkdirSync(OUT, { recursive: true });
const context = await chromium.launchPersistentContext(mkdtempSync(path.join(tmpdir(), 'shots-')), {
  executablePath: execFileSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' }).trim(),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
  ],
  baseURL: `http://localhost:${PORT}`,
  viewport: { width: 1280, height: 800 },
});
const page = await context.newPage();
// The demo's own day, so that no picture hangs on the day of the week.
await page.clock.setSystemTime(demoMorning());
await page.goto('/');
await page.getByText('machines in the shop').waitFor({ timeout: 60_000 });
for (const shot of SHOTS.filter(({ name }) => only.length === 0 || only.includes(name))) {
  await page.setViewportSize({ width: shot.width ?? 1280, height: shot.height ?? 800 });
  await page.emulateMedia({ colorScheme: shot.dark ? 'dark' : 'light' });
  await shot.steps(page);
  await page.screenshot({ path: path.join(OUT, `${shot.name}.png`) });
  console.log(shot.name);
}
await context.close();
