import { enter, expect, openTicket, press, test } from './support';

test('two tabs stay in step, also while both write', async ({ shop: page, context }) => {
  const other = await context.newPage();
  await other.goto('/');
  await expect(other.getByRole('heading', { level: 1 })).toContainText('12 machines', { timeout: 30_000 });
  await openTicket(page, 201);
  await other.goto(page.url());
  await expect(other.getByRole('heading', { level: 1 })).toContainText('VB 66-442/1', { timeout: 30_000 });
  await Promise.all([enter(page, 'said in the first tab', /a note/), enter(other, 'said in the second tab', /a note/)]);
  for (const tab of [page, other]) {
    await tab.getByText(/^History/).click();
    const history = tab.locator('details', { hasText: 'History' });
    await expect(history).toContainText('said in the first tab');
    await expect(history).toContainText('said in the second tab');
  }
});

test('what was typed survives a killed tab, and becomes one entry', async ({ shop: page, context }) => {
  await openTicket(page, 201);
  const url = page.url();
  await page.keyboard.press('1');
  await page.getByLabel('Telephone').fill('0555 099 1');
  // At once, before the second's rest: the tab dies.
  await page.close({ runBeforeUnload: false });
  const again = await context.newPage();
  await again.goto(url);
  await expect(again.getByRole('heading', { level: 1 })).toContainText('VB 66-442/1', { timeout: 30_000 });
  await expect(again.getByRole('region', { name: 'Do next' })).toBeVisible({ timeout: 30_000 });
  await again.keyboard.press('1');
  await expect(again.getByLabel('Telephone')).toHaveValue('0555 099 1');
  await again.getByLabel('Telephone').press('Enter');
  await again.getByText(/^History/).click();
  await expect(again.locator('details', { hasText: 'History' }).getByText(/0555 099 1/)).toHaveCount(1);
});

test('everything can be taken back, step by step, and what was taken back stays readable', async ({ shop: page }) => {
  await openTicket(page, 201);
  await enter(page, 'roars', /roars/i);
  const roars = page.getByRole('button', { name: /Roars, louder with speed/ });
  await expect(roars).toHaveAttribute('aria-pressed', 'true');
  await press(page, 'u');
  await expect(roars).toHaveAttribute('aria-pressed', 'false');
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' }).getByText(/Found: roars.*taken back/i)).toBeVisible();
});

test('an unlisted plate is said to be unlisted, and the work goes on', async ({ shop: page }) => {
  await page.keyboard.press('/');
  await page.keyboard.type('WKX 9931-QQ/7');
  await expect(page.getByRole('option').first()).toContainText('none of these: a machine that is not listed');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/ticket\//);
  await expect(page.getByRole('region', { name: 'Plate', exact: true })).toContainText(
    'No catalogue lists WKX 9931-QQ/7',
  );
  await page.keyboard.press('2');
  await page.getByLabel('What the customer says').fill('Will not spin');
  await page.getByLabel('What the customer says').press('Enter');
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText('Complaint: Will not spin');
});
