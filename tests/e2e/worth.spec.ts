import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { XMLParser } from 'fast-xml-parser';
import { enter, expect, expectNoSeriousAxe, findingNamed, openTicket, settled, test, unfold } from './support';

const ticketFor = (page: Page, model: string) => enter(page, model, /opens a ticket for it/);

async function settleOn(page: Page, finding: string, cause: string): Promise<void> {
  const findings = await unfold(page, 'Findings');
  await (await findingNamed(findings, finding)).click();
  await findings.getByRole('button', { name: `Settle on ${cause}` }).click({ timeout: 30_000 });
  await settled(page);
}

test('the phone question: from a plate and an age one sentence for the customer, what would turn it, and the other ways out', async ({
  shop: page,
}) => {
  await ticketFor(page, 'NR 1165 B');
  const plate = await unfold(page, 'Plate');
  await plate.getByLabel('About how old, the owner says').fill('11');
  await page.keyboard.press('Tab');
  await settled(page);
  const worth = await unfold(page, 'Worth');
  const said = worth.getByTestId('to-the-customer');
  await expect(said).toContainText(/Mending it, for about \d+\s€ as far as we can tell,/i, { timeout: 30_000 });
  await expect(worth).toContainText(/The cause is open: [\d,]+\s€ to [\d,]+\s€/);
  await expect(worth.getByTestId('tipping')).toContainText(/as long as the quote stays under|No repair pays/);
  await expect(worth).toContainText('What could be known and moves it most: which cause it is');
  const ways = worth.getByRole('table').filter({ hasText: 'Ways out' });
  for (const way of ['Repair here', 'The maker', 'A good used one', 'A new one'])
    await expect(ways.getByRole('row').filter({ hasText: way }).last()).toContainText(/of 100$/);
  await expectNoSeriousAxe(page);
  const here = ways.getByRole('row').filter({ hasText: 'Repair here' }).last();
  const open = (await here.textContent()) ?? '';
  const sentence = await said.innerText();

  // What this customer says a day costs them is in it at once.
  await worth.getByLabel('A day without a machine costs this customer').fill('150');
  await page.keyboard.press('Tab');
  await expect(here).not.toHaveText(open, { timeout: 30_000 });
  await expect(said).not.toHaveText(sentence, { timeout: 30_000 });
  await worth.getByLabel('A day without a machine costs this customer').fill('');
  await page.keyboard.press('Tab');
  await expect(here).toHaveText(open, { timeout: 30_000 });
  await expect(said).toHaveText(sentence, { timeout: 30_000 });

  // Where later money counts in full the answer is in all, not a year.
  const ticket = page.url();
  await page.goto('/shop');
  await page.getByLabel('Interest: later money counts less, a year').fill('0');
  await page.keyboard.press('Tab');
  await expect(page.getByText('saved').first()).toBeVisible();
  await page.goto(ticket);
  await expect(page.getByRole('complementary', { name: 'The scale' })).toContainText(/in all|about the same/, {
    timeout: 30_000,
  });
});

test('the front dampers, and the rear pair while it is open: both are priced, accepted and ordered; the offer is a file', async ({
  shop: page,
}) => {
  await ticketFor(page, 'PLR 5805 S');
  await settleOn(page, 'Bangs', 'Front dampers worn');
  const worth = await unfold(page, 'Worth');
  const near = worth.getByRole('region', { name: 'While it is open' });
  await near.locator('summary').last().click({ timeout: 30_000 });
  const rear = near.getByRole('listitem').filter({ hasText: 'Rear dampers worn' });
  await expect(rear).toContainText(/more today\. Needed before the machine’s end in \d+ of 100: saves/);
  if (await rear.getByRole('button', { name: 'Offer it together' }).isVisible())
    await rear.getByRole('button', { name: 'Offer it together' }).click();
  await settled(page);
  const both = worth.getByRole('radio').filter({ hasText: 'and rear dampers worn while it is open' });
  await both.click({ timeout: 30_000 });
  await expect(
    worth
      .locator('tr')
      .filter({ hasText: /dampers?.*front/i })
      .first(),
  ).toBeVisible();
  await expect(
    worth
      .locator('tr')
      .filter({ hasText: /dampers?.*rear/i })
      .first(),
  ).toBeVisible();
  await worth.getByRole('button', { name: /Offer this to the customer/ }).click({ timeout: 30_000 });
  await expect(worth).toContainText(/Stands until/);

  await both.click();
  const sum = (await worth.getByTestId('to-pay').innerText()).replace(/[^\d.]/g, '');
  await worth.locator('summary').filter({ hasText: 'The offer as a file' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    worth.getByRole('button', { name: 'The marked way (UBL Quotation)' }).click(),
  ]);
  const quotation: unknown = new XMLParser({ parseTagValue: false }).parse(readFileSync(await file.path(), 'utf8'));
  expect(quotation).toMatchObject({ Quotation: { 'cac:QuotedMonetaryTotal': { 'cbc:PayableAmount': sum } } });

  await worth.getByLabel('By what means').selectOption({ label: 'by telephone' });
  await worth.getByLabel('Who says it, if not the customer').fill('her neighbour');
  await worth.getByRole('button', { name: /^Yes, to “Front dampers worn, and rear dampers worn/ }).click();
  await settled(page);
  await expect(await unfold(page, 'Worth')).toContainText('Answered by her neighbour, by telephone');
  await expect(await unfold(page, 'Order')).toContainText(/2 parts? to order/, { timeout: 30_000 });
});

test('who pays is asked before anything is priced: the maker’s warranty by the receipt', async ({ shop: page }) => {
  await ticketFor(page, 'NR 1165 B');
  const plate = await unfold(page, 'Plate');
  await plate.getByLabel('Bought on (receipt)').fill('2026-01-15');
  await page.keyboard.press('Tab');
  await settled(page);
  // At the plate already, and again where it is priced.
  await expect(plate.getByRole('region', { name: 'Who pays' })).toContainText('The maker’s warranty', {
    timeout: 30_000,
  });
  const worth = await unfold(page, 'Worth');
  const payers = worth.getByRole('region', { name: 'Who pays' });
  await expect(payers).toContainText('The maker’s warranty', { timeout: 30_000 });
  await expect(payers).toContainText('24 months on all of it');
  await expectNoSeriousAxe(page);
});

test('what is told while the cause is open is kept, and the offer says when it comes to more', async ({
  shop: page,
}) => {
  await openTicket(page, 201);
  const worth = await unfold(page, 'Worth');
  await worth.getByRole('button', { name: /^Told the customer: \d+\s€ to \d+\s€/ }).click({ timeout: 30_000 });
  await expect(worth).toContainText(/Told .*: \d+\s€ to \d+\s€\./, { timeout: 30_000 });
  await expect(worth.getByRole('button', { name: /^Told the customer/ })).toHaveCount(0);
  // It turns out to be the dear one.
  const findings = await unfold(page, 'Findings');
  await findings.getByRole('button', { name: 'Settle on Drum spider broken' }).click();
  await settled(page);
  await expect(await unfold(page, 'Worth')).toContainText(/It comes to [\d.,]+\s€: say so before anything else/, {
    timeout: 30_000,
  });
  await page.reload();
  await expect(await unfold(page, 'Worth')).toContainText(/It comes to [\d.,]+\s€/, { timeout: 30_000 });
});
