import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import { demoMorning } from '../support/demoDay';
import { SEEDED } from './seedOnce';

type Fixtures = { shop: Page };

/** A page with the demo shop in it, in a profile of its own. Fails on any breach of the content security policy, page error or console error. */
export const test = base.extend<Fixtures>({
  context: async ({ playwright }, use) => {
    const folder = mkdtempSync(path.join(tmpdir(), 'sorter-test-'));
    cpSync(process.env[SEEDED] ?? '', folder, { recursive: true });
    const context = await playwright.chromium.launchPersistentContext(folder);
    await use(context);
    await context.close();
    rmSync(folder, { recursive: true, force: true });
  },
  page: async ({ context }, use) => {
    await use(context.pages()[0] ?? (await context.newPage()));
  },
  shop: async ({ page }, use) => {
    const wrong: string[] = [];
    await page.exposeFunction('reportViolation', (text: string) => wrong.push(`policy: ${text}`));
    await page.addInitScript(() => {
      document.addEventListener('securitypolicyviolation', (event) => {
        const report: unknown = Reflect.get(window, 'reportViolation');
        if (typeof report === 'function') report(`${event.violatedDirective} ${event.blockedURI}`);
      });
    });
    page.on('pageerror', (error) => wrong.push(`error: ${error.message}`));
    page.on('console', (message) => {
      if (message.type() === 'error' && !/Failed to load resource/.test(message.text()))
        wrong.push(`console: ${message.text()}`);
    });
    await page.clock.setSystemTime(demoMorning());
    await page.goto('/');
    await expect(page.getByRole('heading', { level: 1 })).toContainText('machines in the shop', { timeout: 60_000 });
    await use(page);
    expect(wrong).toEqual([]);
  },
});

export { expect };

/** Tab until the control with this accessible name has the focus: what a person without a mouse does. */
export async function tabTo(page: Page, name: string | RegExp, most = 150): Promise<void> {
  const matches = (text: string) => (typeof name === 'string' ? text === name : name.test(text));
  for (let i = 0; i < most; i += 1) {
    const focused = page.locator(':focus');
    if ((await focused.count()) > 0 && matches(await nameOf(page))) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`No control named ${String(name)} within ${most} tabs; last: ${await nameOf(page)}`);
}

/** Accessible name of the focused control, by label, aria-label or text. */
const nameOf = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const element = document.activeElement;
    if (!(element instanceof HTMLElement)) return '';
    const label =
      element instanceof HTMLInputElement || element instanceof HTMLSelectElement ? element.labels?.[0] : null;
    return (element.getAttribute('aria-label') ?? label?.innerText ?? element.innerText ?? '')
      .replace(/\s+/g, ' ')
      .trim();
  });

/** Single keys work while nobody types. */
const leaveField = (page: Page): Promise<void> =>
  page.evaluate(() => {
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  });

/** Types into the one input and takes what Enter is said to do. */
export async function enter(page: Page, text: string, expected: RegExp): Promise<void> {
  // Pressed while a page is still opening, the key goes nowhere: a person presses it again.
  await expect(async () => {
    await leaveField(page);
    await page.keyboard.press('/');
    await expect(page.locator('#one-input')).toBeFocused({ timeout: 500 });
  }).toPass();
  await page.keyboard.type(text);
  await expect(page.getByRole('option').first()).toContainText(expected);
  await page.keyboard.press('Enter');
  await expect(page.locator('#one-input')).toHaveValue('');
}

/** What the key d leads to must be this; then Enter does it. */
export async function doNext(page: Page, expected: RegExp): Promise<void> {
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText(expected);
  // The focus moves after the station has unfolded, however long that takes.
  await expect(async () => {
    await press(page, 'd');
    const reached = '[data-do-next]:focus, [data-heard] button:focus, #station-findings button[aria-pressed]:focus';
    await expect(page.locator(reached)).toHaveCount(1, { timeout: 500 });
  }).toPass();
}

/** The shown assessment is that of what was noted last. */
export const settled = (page: Page): Promise<void> =>
  expect(page.locator('[aria-label="The scale"] [aria-busy="true"]')).toHaveCount(0, { timeout: 30_000 });

/** A single key that works while nobody types: leaves the field first. */
export async function press(page: Page, key: string): Promise<void> {
  await settled(page);
  await leaveField(page);
  await page.keyboard.press(key);
  // The focus moves after the station has unfolded.
  await page.waitForTimeout(120);
}

/** A station of the ticket, unfolded: what it says is only there when it is open. */
export async function unfold(page: Page, name: string): Promise<Locator> {
  await settled(page);
  const station = page.getByRole('region', { name, exact: true });
  const head = station.getByRole('button', { name: new RegExp(`^${name}`) }).first();
  // A station also unfolds by itself when its work comes up, at any moment.
  await expect(async () => {
    if ((await head.getAttribute('aria-expanded')) === 'false') await head.click();
    await expect(head).toHaveAttribute('aria-expanded', 'true', { timeout: 300 });
  }).toPass();
  return station;
}

export async function expectNoSeriousAxe(page: Page): Promise<void> {
  // What is fading, a notice or a scale that is being worked out, has no contrast to speak of.
  await settled(page);
  await page.evaluate(() =>
    Promise.race([
      Promise.allSettled(document.getAnimations().map((animation) => animation.finished)),
      new Promise((resolve) => setTimeout(resolve, 1500)),
    ]),
  );
  const { violations } = await new AxeBuilder({ page }).analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(
    serious.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .slice(0, 3)
          .map((node) => `${node.target.join(' ')} ${node.failureSummary ?? ''}`)
          .join(' | ')}`,
    ),
  ).toEqual([]);
}

/** Gives the simulated suppliers a fault, from now on; null takes it away. */
export async function supplierFault(page: Page, fault: string | null): Promise<void> {
  await page.unroute('**/api/suppliers/**');
  if (fault !== null)
    await page.route('**/api/suppliers/**', (route) =>
      route.continue({ headers: { ...route.request().headers(), 'x-sorter-fault': fault } }),
    );
}

/** Opens a ticket of the demo by its number, through the one input. */
export async function openTicket(page: Page, number: number): Promise<void> {
  await enter(page, `#${number}`, new RegExp(`ticket ${number}`));
  await expect(page).toHaveURL(/\/ticket\//);
  await expect(page.locator('main header').first()).toContainText(`ticket ${number}`);
  await expect(page.getByRole('region', { name: 'Do next' })).toBeVisible({ timeout: 30_000 });
}

const shopIdOf = (page: Page): Promise<string> =>
  page.evaluate(
    () =>
      new Promise<string>((resolve, reject) => {
        const open = indexedDB.open('sorter-demo');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const read = open.result.transaction('meta').objectStore('meta').get('shopId');
          read.onsuccess = () => resolve(String(read.result?.value));
          read.onerror = () => reject(read.error);
        };
      }),
  );

/** The suppliers' side of the story: how many orders they have taken from this shop. */
export async function suppliersBooks(page: Page): Promise<unknown> {
  const books = await page.request.get('/api/suppliers/orders', { headers: { 'x-sorter-shop': await shopIdOf(page) } });
  expect(books.ok()).toBe(true);
  const said: unknown = await books.json();
  return typeof said === 'object' && said !== null && 'orders' in said ? said.orders : null;
}

/** Nothing in it: the shop that somebody sets up for himself. */
export async function emptyShop(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'To my own shop' }).click();
  await expect(page.getByRole('heading', { name: 'Your shop' })).toBeVisible({ timeout: 30_000 });
}

/** A finding by its words: beside the complaint where it would tell much, else under "All findings", which is opened. */
export async function findingNamed(findings: Locator, name: string | RegExp, exact = false): Promise<Locator> {
  const all = findings.locator('details', { hasText: 'All findings' });
  await expect(all).toBeVisible({ timeout: 30_000 });
  if (!(await all.evaluate((fold) => fold.hasAttribute('open')))) await all.locator('summary').click();
  return findings.getByRole('button', { name, exact }).first();
}

/** The ticks of the work sheet's steps; of those, the ones that are done or not. */
export const stepsOf = (bench: Locator, done?: boolean): Locator =>
  done === undefined
    ? bench.getByTestId('step')
    : bench.locator(`[data-testid="step"][aria-checked="${String(done)}"]`);

/** The first step that may be done now. */
export const freeStep = (bench: Locator): Locator =>
  bench.locator('[data-testid="step"][aria-checked="false"]:not([aria-disabled="true"])').first();

/** Ticks every step that is left, and counts home before it is closed; how many were ticked. */
export async function workThrough(bench: Locator, by: 'click' | 'tap' = 'click'): Promise<number> {
  const left = stepsOf(bench, false);
  const free = freeStep(bench);
  const home = bench.getByRole('button', { name: 'All of it is home' });
  await expect(stepsOf(bench).first()).toBeAttached({ timeout: 30_000 });
  const steps = await left.count();
  for (let count = steps; count > 0; count -= 1) {
    await expect(free.or(home).first()).toBeVisible({ timeout: 30_000 });
    if (await home.isVisible()) {
      await home[by]();
      await expect(bench).toContainText('All home.', { timeout: 30_000 });
    }
    await free[by]();
    await expect(left).toHaveCount(count - 1, { timeout: 30_000 });
  }
  return steps;
}
