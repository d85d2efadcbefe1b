import { expect, expectNoSeriousAxe, openTicket, test } from './support';

const SIZES = [
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
  { width: 390, height: 844 },
];

const VIEWS = ['/', '/catalogue', '/orders', '/records', '/shop'];

for (const scheme of ['light', 'dark'] as const) {
  test(`every page passes axe and fits its screen, ${scheme}`, async ({ shop: page }) => {
    test.slow();
    await page.emulateMedia({ colorScheme: scheme });
    for (const size of SIZES) {
      await page.setViewportSize(size);
      for (const view of VIEWS) {
        await page.goto(view);
        await expect(page.getByRole('heading', { level: 1 })).toBeVisible({ timeout: 30_000 });
        // Colours are the same at every width, the structure is the same in both schemes.
        if (size.width === 1280 || (size.width === 390 && scheme === 'light')) await expectNoSeriousAxe(page);
        const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
        expect(wide, `${view} at ${size.width} is not wider than the screen`).toBeLessThanOrEqual(0);
      }
    }
  });
}

test('every station of a ticket passes axe, unfolded, in both schemes and on a phone', async ({ shop: page }) => {
  test.slow();
  await openTicket(page, 207);
  for (const key of ['1', '2', '3', '4', '5', '6', '7']) {
    const station = page.locator('main section[id^="station-"]').nth(Number(key) - 1);
    const toggle = station.getByRole('button').first();
    if ((await toggle.getAttribute('aria-expanded')) === 'false') await page.keyboard.press(key);
    await expect(toggle).toHaveAttribute('aria-expanded', 'true');
  }
  await expectNoSeriousAxe(page);
  await page.emulateMedia({ colorScheme: 'dark' });
  await expectNoSeriousAxe(page);
  await page.setViewportSize({ width: 390, height: 844 });
  await expectNoSeriousAxe(page);
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(wide).toBeLessThanOrEqual(0);
});

test('on a phone the next thing to do is always in sight, and the scale one touch away', async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
  const page = await context.newPage();
  await page.goto(baseURL ?? '/');
  // Once as the day's task, once as the machine.
  await page
    .getByRole('link', { name: /find the cause/i })
    .first()
    .tap({ timeout: 60_000 });
  const bar = page.getByRole('complementary', { name: 'The scale' });
  await expect(bar).toBeInViewport({ timeout: 30_000 });
  await expect(bar).toContainText('Mend first: drain filter or sump blocked');
  await bar.getByRole('button', { name: /%/ }).tap();
  await expect(bar).toContainText('sure that repair is cheaper');
  await page.getByRole('button', { name: 'Settle on Drain filter or sump blocked' }).tap();
  await expect(bar).toContainText('Make the offer');
  await bar.getByRole('button', { name: /Do next/ }).tap();
  await page.getByRole('button', { name: /Offer this to the customer/ }).tap();
  await page.getByRole('button', { name: /^Yes, to/ }).tap();
  await expect(bar).toContainText('Unplug, prove it dead');
  await context.close();
});

test('what is to be pressed is 44 px high', async ({ shop: page }) => {
  await openTicket(page, 207);
  await page.keyboard.press('2');
  await expect(page.getByLabel('What the customer says')).toBeVisible();
  for (const fold of await page.locator('#station-findings summary').all()) await fold.click();
  const small = await page
    .locator('button:visible, summary:visible, a:visible, select:visible, input:not([type=file]):visible')
    .evaluateAll((nodes) =>
      nodes
        .filter((node) => !node.closest('.sr-only') && node.getBoundingClientRect().height > 1)
        .filter((node) => {
          // A label around a box is pressed as a whole.
          const target = node.closest('label') ?? node;
          return (
            target.getBoundingClientRect().height < 43.5 && getComputedStyle(target, '::after').position !== 'absolute'
          );
        })
        .map((node) => `${node.tagName} ${(node.getAttribute('aria-label') ?? node.textContent ?? '').slice(0, 40)}`),
    );
  // The one input's own field lies inside its 44 px frame.
  expect(small.filter((name) => !name.includes('Type, paste or scan'))).toEqual([]);
});

test('the keys are listed, work everywhere, and Escape goes one step back', async ({ shop: page }) => {
  await page.keyboard.press('?');
  const list = page.getByRole('dialog', { name: 'Keys' });
  await expect(list).toContainText('take the last thing back');
  await page.keyboard.press('Escape');
  await expect(list).toHaveCount(0);
  await page.keyboard.press('o');
  await expect(page).toHaveURL(/\/orders$/);
  await page.keyboard.press('c');
  await expect(page).toHaveURL(/\/catalogue$/);
  await page.keyboard.press('s');
  await expect(page).toHaveURL(/\/shop$/);
  await page.keyboard.press('f');
  await expect(page).toHaveURL(/\/$/);
  await page.keyboard.press('/');
  await page.keyboard.type('6204 2RS');
  await expect(page.getByRole('option').first()).toContainText('bearing 6204');
  await expect(page.getByRole('option').first()).toContainText('20 × 47 × 14 mm');
  await page.keyboard.press('Escape');
  await expect(page.locator('#one-input')).toHaveValue('');
});

test('no motion for a person who asked for none', async ({ shop: page }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openTicket(page, 207);
  const moving = await page
    .locator('.moves')
    .evaluateAll((nodes) => nodes.filter((node) => getComputedStyle(node).transitionDuration !== '0s').length);
  expect(moving).toBe(0);
});

test('the page itself never scrolls: only its columns do, however long they are', async ({ shop: page }) => {
  for (const path of ['/', '/catalogue', '/orders', '/shop']) {
    await page.goto(path);
    await expect(page.getByRole('main')).toBeVisible();
    await page.waitForTimeout(500);
    expect(
      await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight),
      path,
    ).toBeLessThanOrEqual(0);
  }
  await openTicket(page, 203);
  await expect(page.getByRole('region', { name: 'Seats of the bearings' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight)).toBeLessThanOrEqual(0);
});
