import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { enter, expect, openTicket, test } from './support';

async function backup(page: Page): Promise<Buffer> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /Save everything|Export/ }).click(),
  ]);
  return readFileSync(await download.path());
}

test('backup, wipe, restore: the same shop, and again the same bytes', async ({ shop: page }) => {
  await openTicket(page, 201);
  await enter(page, 'rang twice, no answer', /a note/);
  await page.getByRole('link', { name: 'Shop' }).click();
  const first = await backup(page);
  expect(first.length).toBeGreaterThan(50_000);

  await page.getByRole('button', { name: /Empty the shop|Wipe/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /Empty|Wipe/ })
    .click();
  // Nothing of the old shop is left, not even where it was: a wiped shop is asked like a new one, and not filled with demo data by itself.
  await expect(page.getByRole('heading', { name: 'Your shop' })).toBeVisible({ timeout: 30_000 });
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Your shop' })).toBeVisible({ timeout: 30_000 });

  await page.getByLabel('Backup file').setInputFiles({ name: 'b.zip', mimeType: 'application/zip', buffer: first });
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12, {
    timeout: 60_000,
  });
  const second = await backup(page);
  expect(second.equals(first)).toBe(true);

  await openTicket(page, 201);
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText('rang twice, no answer');
});

test('a file that is no backup changes nothing and says so', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Shop' }).click();
  await page
    .getByLabel('Backup file')
    .setInputFiles({ name: 'b.zip', mimeType: 'application/zip', buffer: Buffer.from('not a zip') });
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /Restore|Replace/ })
    .click();
  await expect(page.getByText('This file is not a backup of Sorter')).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12);
});
