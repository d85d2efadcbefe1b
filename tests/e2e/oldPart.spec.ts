import { expect, expectNoSeriousAxe, openTicket, test, unfold } from './support';

test('the number on the old part: where the lists lead, what a slip may be, and that nothing leads to it', async ({
  shop: page,
}) => {
  await openTicket(page, 203);
  const part = page.getByRole('region', { name: 'Part', exact: true });
  const old = part.getByRole('region', { name: /^The old / });
  const field = old.getByLabel(/^Number on the old/);
  const lead = part.locator('button[aria-pressed="true"]').first();
  const number = (await lead.locator('.font-mono').first().innerText()).trim();

  await field.fill('QX 11-7790');
  await field.press('Enter');
  await expect(old).toContainText(/No list at hand has this number.*earlier repair may have fitted another part/);
  await expect(old).toContainText(/in no list (100|over\s99)/);

  await field.fill(number.replace('8', 'B').replace('0', 'O'));
  await field.press('Enter');
  await expect(old).toContainText(/if it was misread \(.*read as (O|B)/);
  await expectNoSeriousAxe(page);
  await old.getByRole('button', { name: new RegExp(`It is\\s+${number}`) }).click();
  await expect(old).toContainText(`The lists lead from this machine to ${number}`);
  await expect(lead).toContainText('the old part bears this number');
  await page.reload();
  await expect(field).toHaveValue(number, { timeout: 30_000 });
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText(`On the old part: “${number}”`);

  // Emptied, it is taken back.
  await field.fill('');
  await field.press('Enter');
  await expect(lead).not.toContainText('the old part bears');
});

test('typed in the one input it is noted on the ticket, and questions a part that was chosen before', async ({
  shop: page,
}) => {
  await openTicket(page, 203);
  const part = page.getByRole('region', { name: 'Part', exact: true });
  const lead = part.locator('button[aria-pressed="true"]').first();
  const number = (await lead.locator('.font-mono').first().innerText()).trim();
  await part.getByRole('button', { name: /^Take / }).click();
  const next = page.getByRole('region', { name: 'Do next' });
  await expect(next).toContainText('Make the offer', { timeout: 30_000 });

  await page.keyboard.press('/');
  await page.keyboard.type('QX 11-7790');
  await page.getByRole('option', { name: /on the old .*just as typed/ }).click();
  await expect(next).toContainText('Look at the part again: the old one bears another number', { timeout: 30_000 });
  await expect(part).toContainText('Nothing leads from the number on the old part to the part that was chosen');
  await expect(await unfold(page, 'Order')).toContainText('look at Part before it is ordered');
  await part.getByRole('button', { name: /right part all the same/ }).click();
  await expect(next).toContainText('Make the offer');

  // Another look: it was the listed one, through two slips that the machine’s own parts explain.
  await page.keyboard.press('/');
  await page.keyboard.type(`P/N ${number.replace('8', 'B').replace('0', 'O')}`);
  const options = page.getByRole('option');
  await expect(options.first()).toContainText(`part ${number}`);
  await expect(options.first()).toContainText('of this machine');
  await expect(options.first().locator('mark').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(await unfold(page, 'Part')).toContainText(`The lists lead from this machine to ${number}`);
  await expect(next).toContainText('Make the offer');
});
