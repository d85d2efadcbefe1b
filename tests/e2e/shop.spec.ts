import { readFileSync } from 'node:fs';
import type { Locator } from '@playwright/test';
import { expect, expectNoSeriousAxe, openTicket, supplierFault, test, unfold } from './support';

test('the shop’s figures change the offer at once, and nonsense is refused with the old value kept', async ({
  shop: page,
}) => {
  // Settled and not offered yet: priced by today's figures.
  await openTicket(page, 204);
  const worth = await unfold(page, 'Worth');
  const labourLine = worth.locator('tr', { hasText: 'Labour,' }).first();
  await expect(labourLine).toBeVisible();
  const before = await amountOf(labourLine);
  await page.getByRole('link', { name: 'Shop' }).click();
  const labour = page.getByLabel('Labour per hour, net');
  await labour.fill('a lot');
  await labour.press('Enter');
  await expect(page.getByText('An amount like 54.00.')).toBeVisible();
  await labour.fill('108,00');
  await labour.press('Enter');
  await expect(page.getByText('An amount like 54.00.')).toHaveCount(0);
  await page.getByLabel('House rule: nothing over this age').fill('5');
  await page.getByLabel('House rule: nothing over this age').press('Enter');
  await openTicket(page, 204);
  await unfold(page, 'Worth');
  await expect(worth).toContainText('Nothing over 5 years');
  await expect(worth).toContainText('says replace');
  expect(await amountOf(labourLine)).toBeCloseTo(2 * before, 2);
  // What was offered stays as it was offered; what it would be today is said beside it.
  await openTicket(page, 205);
  await unfold(page, 'Worth');
  await expect(worth).toContainText('Today this would be');
});

const amountOf = async (row: Locator): Promise<number> =>
  Number((await row.locator('td').last().innerText()).replace(/[^\d.]/g, ''));

test('an order that a closed tab did not send is sent by the next one, once', async ({ shop: page, context }) => {
  await supplierFault(page, 'down');
  await page.getByRole('link', { name: /^Orders/ }).click();
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await page.getByRole('button', { name: /^Send \d+ orders?$/ }).click({ timeout: 40_000 });
  await expect(page.getByText('It cannot be placed twice').first()).toBeVisible({ timeout: 30_000 });
  await page.close();
  const next = await context.newPage();
  await next.goto('/orders');
  const underWay = next.getByRole('region', { name: 'Under way' });
  await expect(underWay).toBeVisible({ timeout: 30_000 });
  // By itself, when it is due: no button is pressed.
  await expect(underWay.getByText('not answered yet')).toHaveCount(0, { timeout: 60_000 });
  await expect(underWay.getByText(/the supplier answered/).first()).toBeVisible();
});

test('an import can be stopped, and a folder is as good as a zip', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  await page.getByLabel('Catalogue as a folder').setInputFiles('demo-shop/catalogue');
  const outcome = page.getByRole('region', { name: 'Import' });
  await expect(outcome).toContainText('Nothing differs: Catalogue of the demo shop', { timeout: 60_000 });
  await page.getByLabel('Catalogue as a folder').setInputFiles('demo-shop/catalogue');
  await outcome.getByRole('button', { name: 'Stop' }).click();
  await expect(outcome).toContainText(/Stopped\. The catalogue in use was not changed|Nothing differs/, {
    timeout: 60_000,
  });
  await page.locator('#one-input').fill('VB 61-407/2');
  await expect(page.getByRole('option').first()).toContainText('model VB 61-407/2');
});

test('a cure is counted in hours: it waits, names the moment, and then waits for you', async ({ shop: page }) => {
  await openTicket(page, 211);
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText(/Let it cure until/);
  await expect(page.getByRole('region', { name: 'Bench', exact: true })).toContainText(/Cures until/);
  await expect(page.getByRole('button', { name: /Nothing left over/ })).toBeDisabled();
  const now = await page.evaluate(() => Date.now());
  await page.clock.setSystemTime(now + 3 * 86_400_000);
  await page.reload();
  await expect(page.getByRole('region', { name: 'Do next' })).not.toContainText(/Let it cure until/, {
    timeout: 60_000,
  });
  const floor = page.getByRole('navigation', { name: 'Machines in the shop' });
  await expect(floor.getByRole('link', { name: /work on it/ })).not.toHaveCount(0);
  await expect(floor.getByText(/let it cure|safe at/)).toHaveCount(0);
});

test('the first page is the day: what to do next over all machines, whom to call; and it moves on with the work', async ({
  shop: page,
}) => {
  await page.goto('/');
  const next = page.getByRole('region', { name: 'Next, in this order' });
  await expect(next.getByRole('listitem').first()).toContainText('Order the parts of 2 machines', { timeout: 30_000 });
  await expect(page.getByRole('main')).toContainText(/\d+\smin of hands-on work wait, .* left today/);
  const tasks = await next.getByRole('listitem').count();
  // No machine stands there twice, and no sentence of a customer is cut off on its tag.
  await expect(next.getByRole('link', { name: /^Work on it/ })).toHaveCount(1);
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' })).not.toContainText('Just brought in');
  const side = page.getByRole('complementary', { name: 'Calls, parcels and cures' });
  await expect(side.getByRole('link', { name: /has not answered the offer/ }).first()).toBeVisible();
  await expectNoSeriousAxe(page);
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(next.getByRole('listitem').first()).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
  await page.setViewportSize({ width: 1280, height: 800 });
  // The offer is made: it waits for the customer, and is no task any more.
  await next.getByRole('link', { name: /^Make the offer/ }).click();
  await page
    .getByRole('region', { name: 'Worth', exact: true })
    .getByRole('button', { name: 'Offer this to the customer' })
    .click({ timeout: 30_000 });
  await expect(page.getByRole('button', { name: 'Offer this to the customer' })).toHaveCount(0, { timeout: 30_000 });
  await page.goto('/');
  await expect(next.getByRole('listitem')).toHaveCount(tasks - 1, { timeout: 30_000 });
});

test('the records say how the shop works, how surely, and open the tickets of each figure', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Records', exact: true }).click();
  const main = page.getByRole('main');
  await expect(main.getByText(/\d+ closed tickets/)).toBeVisible({ timeout: 30_000 });
  await expect(main).toContainText(/\d+\s% of \d+ machines; very likely between \d+\s% and \d+\s%/);
  const closed = async () => Number((await main.getByText(/\d+ closed tickets/).innerText()).match(/\d+/)?.[0]);
  const year = await closed();
  await main.getByLabel('Over').selectOption('all');
  await expect(main).toContainText('200 closed tickets');
  expect(year).toBeLessThan(200);
  await expect(main).toContainText(/Said 95\s% to 100\s%/);
  await expect(main.locator('section', { has: page.getByText('Causes, as settled on') })).toContainText(
    /Said 80\s% to 95\s%, on average \d+\s%: true in \d+\s% of \d+/,
  );
  await main.getByRole('button', { name: 'How sure: why' }).first().click();
  await expect(page.getByText(/in 95 of 100 shops the true share lies between such bounds/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(main).toContainText(/Waits for you[\d.\s]+days, \d+\s%/);
  await expect(main).toContainText(/What was agreed lay between what had been told in \d+\s% of \d+/);
  await expect(main).toContainText(/Nothing over an age: said otherwise in \d+\s% of 200 offers/);
  await expect(main).toContainText(/A column a month, .* in the first half, \d+\s% in the second/);
  await expectNoSeriousAxe(page);
  const [zip] = await Promise.all([
    page.waitForEvent('download'),
    main.getByRole('button', { name: 'Tickets, orders and shelf as a data package' }).click(),
  ]);
  expect(zip.suggestedFilename()).toBe('records.zip');
  expect(
    readFileSync(await zip.path())
      .subarray(0, 2)
      .toString(),
  ).toBe('PK');
  await main.getByText('Wrong at first').click();
  await main
    .getByRole('link', { name: /^ticket \d+$/ })
    .first()
    .click();
  await expect(page.locator('main')).toContainText('· closed', { timeout: 30_000 });
});

test('what closed tickets taught is said thing by thing; what is left out counts no more, until it is let in again', async ({
  shop: page,
}) => {
  await page.goto('/catalogue');
  const learned = page.getByRole('region', { name: 'From closed tickets' });
  const causes = learned.getByRole('listitem', { name: /causes of \d+ machines\. .* \d+\s% → \d+\s%/ });
  await expect(causes.first()).toBeVisible({ timeout: 30_000 });
  const name = (await causes.first().getAttribute('aria-label')) ?? '';
  await learned.getByRole('button', { name: `Leave out: ${name}` }).click();
  await expect(learned.getByRole('button', { name: `Let in: ${name}` })).toBeVisible({ timeout: 30_000 });
  await expectNoSeriousAxe(page);
  await page.reload();
  await learned.getByRole('button', { name: `Let in: ${name}` }).click({ timeout: 30_000 });
  await expect(learned.getByRole('button', { name: `Leave out: ${name}` })).toBeVisible({ timeout: 30_000 });
});
