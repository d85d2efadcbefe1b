import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { expect, expectNoSeriousAxe, openTicket, supplierFault, suppliersBooks, test } from './support';

const underWay = (page: Page): Locator => page.getByRole('region', { name: 'Under way' });

/** Opens the Orders page, works the plan out and sends it. Returns how many orders were made. */
async function sendPlan(page: Page): Promise<number> {
  await page.getByRole('link', { name: /^Orders/ }).click();
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  const send = page.getByRole('button', { name: /^Send \d+ orders?$/ });
  await expect(send).toBeVisible({ timeout: 40_000 });
  const count = Number((await send.innerText()).replace(/\D/g, ''));
  await send.click();
  return count;
}

test('a supplier that is down is told, tried again by itself or by hand, and never ordered from twice', async ({
  shop: page,
}) => {
  await supplierFault(page, 'down');
  const made = await sendPlan(page);
  await expect(underWay(page).getByText(/not reached|does not answer|down/i)).toHaveCount(made, { timeout: 30_000 });
  await expect(underWay(page).getByText('It cannot be placed twice').first()).toBeVisible();

  // The answer is lost on the way back: the supplier has the order, the shop does not know.
  await supplierFault(page, 'lost-answer');
  for (const retry of await underWay(page).getByRole('button', { name: 'Try again now' }).all()) {
    await retry.click();
    break;
  }
  await expect(
    underWay(page)
      .getByText(/tried [2-9] times/)
      .first(),
  ).toBeVisible({ timeout: 30_000 });

  await supplierFault(page, null);
  await underWay(page).getByRole('button', { name: 'Try again now' }).first().click();
  await expect(underWay(page).getByText('not answered yet')).toHaveCount(0, { timeout: 30_000 });
  await expect(underWay(page).getByRole('button', { name: 'Try again now' })).toHaveCount(0);

  // What is on its way, as days in a calendar.
  const [calendar] = await Promise.all([
    page.waitForEvent('download'),
    underWay(page).getByRole('button', { name: 'Arrivals and returns into a calendar' }).click(),
  ]);
  const days = readFileSync(await calendar.path(), 'utf8');
  expect(days.match(/BEGIN:VEVENT/g)?.length).toBeGreaterThanOrEqual(made);
  expect(days).toMatch(/SUMMARY:Parcel from /);
  expect(days).toMatch(/DTSTART;VALUE=DATE:\d{8}/);

  // The suppliers' own books: as many orders as were made, though the request came three times.
  expect(await suppliersBooks(page)).toBe(made);
});

test('a slow supplier is given up for now and asked again; the page stays usable', async ({ shop: page }) => {
  await supplierFault(page, 'slow');
  await sendPlan(page);
  await page.getByRole('link', { name: 'Catalogue' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Catalogue' })).toBeVisible();
  await page.getByRole('link', { name: /^Orders/ }).click();
  await expect(
    underWay(page)
      .getByText(/the supplier is slow/)
      .first(),
  ).toBeVisible({ timeout: 30_000 });
  await supplierFault(page, null);
  await underWay(page).getByRole('button', { name: 'Try again now' }).first().click();
  await expect(underWay(page).getByText('not answered yet')).toHaveCount(0, { timeout: 30_000 });
});

test('a substitution and a back-order are shown, and the ticket learns the new date', async ({ shop: page }) => {
  await supplierFault(page, 'back-order');
  await sendPlan(page);
  await expect(underWay(page).getByText('Not in stock: follows by itself.').first()).toBeVisible({ timeout: 30_000 });
  await openTicket(page, 207);
  await expect(page.getByRole('region', { name: 'Order', exact: true })).toContainText('On the way', {
    timeout: 30_000,
  });
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText('Not in stock: follows by itself.');
});

test('a refused line goes back into the plan', async ({ shop: page }) => {
  await supplierFault(page, 'reject');
  await sendPlan(page);
  await expect(page.getByText(/refused: We do not carry this number/).first()).toBeAttached({ timeout: 30_000 });
  await supplierFault(page, null);
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await expect(page.getByRole('button', { name: /^Send \d+ orders?$/ })).toBeVisible({ timeout: 40_000 });
});

test('what goes back to one supplier goes in one parcel', async ({ shop: page }) => {
  const made = await sendPlan(page);
  await expect(underWay(page).getByText(/the supplier answered/)).toHaveCount(1 + made, { timeout: 30_000 });
  const together = page.getByRole('region', { name: 'Going back together' });
  const open = underWay(page).getByText('Damaged, too many, or not all of it?');
  for (let left = await open.count(); left > 0 && (await together.count()) === 0; left -= 1) {
    await open.first().click();
    await underWay(page)
      .getByRole('button', { name: /1 pack damaged/ })
      .first()
      .click();
    await expect(open).toHaveCount(left - 1, { timeout: 30_000 });
  }
  await expect(together.getByText(/things in one parcel/)).toBeVisible();
  await expectNoSeriousAxe(page);
  await together.getByText('The paper that goes with it').click();
  await expect(together.getByText(/these go back in one parcel, 2 positions/)).toBeVisible();
  await together.getByLabel('Number of the parcel, if it has one').fill('RT 9');
  await together.getByRole('button', { name: 'It is on its way' }).click();
  await expect(together).toHaveCount(0);
  await expect(page.getByText(/on its way back \(RT 9\)/)).toHaveCount(2);
});

test('a wrong number on the parcel is stopped before it is opened; the right one says what to keep and prepare', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: /^Orders/ }).click();
  const field = underWay(page)
    .getByLabel(/^Number on the parcel for/)
    .first();
  await field.fill('ZZ-000000');
  await underWay(page).getByRole('button', { name: 'Check in' }).first().click();
  await expect(underWay(page).getByRole('alert')).toContainText('Do not open it');
  const number = (await field.locator('xpath=ancestor::li').locator('.font-mono').first().innerText()).trim();
  await field.fill(number.toLowerCase());
  await underWay(page).getByRole('button', { name: 'Check in' }).first().click();
  await expect(page.getByText(/^Checked in/)).toContainText('the number that was ordered');
  await expect(page.getByText(/Do not bin the old one yet|On the new one/).first()).toBeVisible();
});

test('parcels with a newer part, a wrong one and one too few: each leads somewhere, and what is missing is planned again', async ({
  shop: page,
}) => {
  test.slow();
  const made = await sendPlan(page);
  await expect(underWay(page).getByText(/the supplier answered/)).toHaveCount(1 + made, { timeout: 30_000 });
  const cards = underWay(page).getByRole('article');
  const two = cards.filter({ has: page.getByLabel(/^Number on the parcel for/).nth(1) }).first();
  const parcel = underWay(page).getByRole('article', { name: (await two.getAttribute('aria-label')) ?? '' });
  const other = cards.filter({ hasText: 'HW-41' });
  const lineOf = (card: Locator, number: string) => card.locator('li', { hasText: number }).first();
  const numberAt = async (card: Locator, at: number) =>
    (
      await card
        .getByLabel(/^Number on the parcel for/)
        .nth(at)
        .locator('xpath=ancestor::li')
        .locator('.font-mono')
        .first()
        .innerText()
    ).trim();
  const [wrong, newer, short] = [await numberAt(parcel, 0), await numberAt(parcel, 1), await numberAt(other, 0)];

  // Since it was ordered, its maker has given it another number.
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const lists = page.getByRole('region', { name: 'Lists', exact: true });
  await lists.getByLabel('List', { exact: true }).setInputFiles({
    name: 'renumbered.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Old number,New number\n${newer},ZN-5501\n`),
  });
  await lists.getByLabel('It is a list of').selectOption('replaced');
  await lists.getByLabel('Whose list it is').fill('Corner Wholesale');
  await lists.getByRole('button', { name: 'Read the rows' }).click();
  await lists.getByRole('button', { name: /^Take (the )?1/ }).click();
  await expect(lists).toContainText('is in use: 1 row');

  await page.getByRole('link', { name: /^Orders/ }).click();
  await lineOf(parcel, newer)
    .getByLabel(/^Number on the parcel for/)
    .fill('ZN-5501');
  await lineOf(parcel, newer).getByRole('button', { name: 'Check in' }).click();
  await expect(page.getByText(/^Checked in: ZN-5501, the newer number of what was ordered/)).toBeVisible();
  await expect(lineOf(parcel, newer)).toContainText('checked in: ZN-5501');

  await lineOf(parcel, wrong)
    .getByLabel(/^Number on the parcel for/)
    .fill(short);
  await lineOf(parcel, wrong).getByRole('button', { name: 'Check in' }).click();
  await expect(lineOf(parcel, wrong).getByRole('alert')).toContainText('Do not open it');
  await lineOf(parcel, wrong).getByRole('button', { name: 'Send it back, order again' }).click();
  await expect(lineOf(parcel, wrong)).toContainText(`wrong part: ${short}`);
  await expect(parcel.getByRole('region', { name: /^Returns of order/ })).toContainText(/to be on its way by/);

  await lineOf(other, short).getByText('Damaged, too many, or not all of it?').click();
  await lineOf(other, short).getByRole('button', { name: 'The rest does not come: order again' }).click();
  // Nothing of that order is on its way any more.
  await expect(other.getByLabel(/^Number on the parcel for/)).toHaveCount(0);

  // Both are wanted still: the next plan buys them.
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await expect(page.getByRole('button', { name: /^Send \d+ orders?$/ })).toBeVisible({ timeout: 40_000 });
  const plan = page.getByRole('region', { name: 'Order plan' });
  await expect(plan).toContainText(wrong);
  await expect(plan).toContainText(short);
});

test('a part with the right label and the wrong size is stopped; a slip in the number is shown where it is', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: /^Orders/ }).click();
  const answered = underWay(page).getByText(/the supplier answered/);
  await expect(answered).toHaveCount(1);
  const made = await sendPlan(page);
  await expect(answered).toHaveCount(1 + made, { timeout: 30_000 });
  // The first line whose part has sizes.
  const lines = underWay(page)
    .locator('li')
    .filter({ has: page.getByLabel(/^Number on the parcel for/) });
  let line = lines.first();
  for (let index = 0; index < (await lines.count()); index += 1) {
    line = lines.nth(index);
    await line.getByText('Check its sizes, too').click();
    await expect(line.getByText(/^listed|^No size is listed/).first()).toBeVisible();
    if ((await line.getByLabel(/in the hand$/).count()) > 0) break;
  }
  const size = line.getByLabel(/in the hand$/).first();
  const listed =
    /listed ([\d.]+)/.exec(
      (await line
        .getByText(/^listed/)
        .first()
        .innerText()) ?? '',
    )?.[1] ?? '';
  const number = (await line.locator('.font-mono').first().innerText()).trim();
  const label = line.getByLabel(/^Number on the parcel for/);

  await label.fill(`${number.slice(0, -1)}${number.endsWith('B') ? '8' : 'B'}`);
  await line.getByRole('button', { name: 'Check in' }).click();
  await expect(line.getByRole('alert')).toContainText('Look again at that place');

  await label.fill(number);
  await size.fill(`${Number(listed) + 40}`);
  await expect(line.getByText(`${Number(listed) + 40} instead of ${listed}`)).toBeVisible();
  await line.getByRole('button', { name: 'Check in' }).click();
  await expect(line.getByRole('alert')).toContainText('the number is right, the part is not');

  await size.fill(listed.replace('.', ','));
  await expect(line.getByText('as it should be')).toBeVisible();
  await line.getByRole('button', { name: 'Check in' }).click();
  await expect(
    underWay(page)
      .getByText(new RegExp(`measured .* ${listed}`))
      .first(),
  ).toBeVisible();
});

test('an order can be taken out as UBL and as CSV, and cancelled once the supplier says that they have not got it', async ({
  shop: page,
}) => {
  await supplierFault(page, 'down');
  const made = await sendPlan(page);
  await expect(underWay(page).getByRole('button', { name: 'Cancel it' })).toHaveCount(made, { timeout: 30_000 });
  const [xml] = await Promise.all([
    page.waitForEvent('download'),
    underWay(page).getByRole('button', { name: 'Order as UBL file' }).first().click(),
  ]);
  expect(xml.suggestedFilename()).toMatch(/\.xml$/);
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    underWay(page).getByRole('button', { name: 'Order as CSV file' }).first().click(),
  ]);
  expect(csv.suggestedFilename()).toMatch(/\.csv$/);
  await underWay(page).getByRole('button', { name: 'Cancel it' }).first().click();
  await page.getByRole('button', { name: 'Cancel the order' }).click();
  // It was tried: the supplier is asked first, and until they answer its parts stay ordered.
  await expect(underWay(page).getByText(/to be cancelled: the supplier is asked/)).toHaveCount(1);
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await expect(page.getByText('Nothing is to be ordered')).toBeVisible({ timeout: 40_000 });
  await supplierFault(page, null);
  await underWay(page).getByRole('button', { name: 'Ask again now' }).click();
  await expect(underWay(page).getByText(/to be cancelled/)).toHaveCount(0, { timeout: 30_000 });
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await expect(page.getByRole('button', { name: /^Send 1 order$/ })).toBeVisible({ timeout: 40_000 });
});

test('the plan says why each line stands where it does; a wish is kept, says what it costs, and is taken back', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: /^Orders/ }).click();
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  const plan = page.getByRole('region', { name: 'Order plan' });
  await plan.getByRole('button', { name: 'Why is it this plan?' }).click({ timeout: 40_000 });
  await expect(plan).toContainText(/The next best plan costs|Another plan is as good/, { timeout: 60_000 });
  await expect(plan.getByText(/^Without this offer/).first()).toBeVisible();
  const first = plan.getByRole('heading', { level: 3 }).first();
  const supplier = (await first.innerText()).split(',')[0] ?? '';
  await plan
    .getByLabel(/^Otherwise: /)
    .first()
    .click();
  await plan.getByRole('button', { name: `Nothing from ${supplier}` }).click();
  const wishes = plan.getByRole('region', { name: 'Wishes' });
  await expect(wishes).toContainText(/the plan costs \d+\.\d\d\s€ more than the best one/, { timeout: 60_000 });
  await expect(plan.getByRole('heading', { level: 3, name: new RegExp(`^${supplier}`) })).toHaveCount(0);
  await expectNoSeriousAxe(page);
  await wishes.getByRole('button').click();
  await expect(wishes).toHaveCount(0);
  await expect(plan.getByRole('heading', { level: 3, name: new RegExp(`^${supplier}`) }).first()).toBeVisible({
    timeout: 60_000,
  });
});

test('a part of the plan is left for a later order: by when it must go, what it comes to, and it is not sent now', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: /^Orders/ }).click();
  await page.getByLabel(/^And leave for a later order what still comes in time/).check();
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  const plan = page.getByRole('region', { name: 'Order plan' });
  await plan.getByLabel('Otherwise: TR-66084').click({ timeout: 40_000 });
  await plan.getByRole('button', { name: /in a later order$/ }).click();
  const later = plan.getByRole('region', { name: 'Left for a later order' });
  await expect(later).toContainText(/Ticket 207: .* Order it by .* at the latest; here/, { timeout: 40_000 });
  await later.getByRole('button', { name: /^What waiting comes to/ }).click();
  await expect(page.getByText(/Nothing is ordered for it now: it is in tomorrow’s plan again/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(plan.getByRole('region', { name: 'Wishes' })).toContainText(/the plan costs .* more than the best one/);
  await expectNoSeriousAxe(page);
  await plan.getByRole('button', { name: /^Send 1 order$/ }).click();
  await expect(underWay(page).getByText('N208567').first()).toBeVisible({ timeout: 30_000 });
  // What was left is still wanted: the next plan has it.
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await expect(plan.getByRole('link', { name: 'ticket 207' }).first()).toBeVisible({ timeout: 40_000 });
});
