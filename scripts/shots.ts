/**
 * Takes one picture of each main view from the demo data into docs/screenshots/. Needs a running demo: `PORT=3300 ./demo`, then `npm run shots`.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';

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
  { name: 'bench', steps: ticket(210) },
  { name: 'proof-cure', steps: ticket(211, '7') },
  {
    name: 'orders',
    steps: async (page) => {
      await go('/orders')(page);
      await page.getByRole('button', { name: 'Work out the plan' }).click();
      await page.getByRole('button', { name: /^Send/ }).waitFor({ timeout: 30_000 });
    },
  },
  { name: 'catalogue', steps: go('/catalogue') },
  {
    name: 'plate-doubt',
    steps: async (page) => {
      await go('/')(page);
      await page.locator('#one-input').fill('NR 11?5 B');
      await page
        .getByRole('option', { name: /model NR 11/ })
        .first()
        .click();
      await page.locator('#station-plate').waitFor({ timeout: 30_000 });
      await page.keyboard.press('1');
      await page.getByText(/Look again at/).waitFor();
      await page.waitForTimeout(600);
    },
  },
  {
    name: 'reference-map',
    steps: async (page) => {
      await go('/catalogue')(page);
      await page.getByLabel(/Model or part number/).fill('Drain pump FA 1');
      await page.getByRole('button').filter({ hasText: /^FJ-/ }).nth(1).click();
      await page.getByRole('region', { name: 'Map of connected numbers' }).waitFor();
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
  { name: 'shop', steps: go('/shop') },
  { name: 'part-dark', dark: true, steps: ticket(203) },
  { name: 'phone', width: 390, height: 844, steps: ticket(201) },
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
