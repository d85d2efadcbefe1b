import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { emptyShop, enter, expect, openTicket, test, unfold } from './support';

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

  // Into the own shop, which then is emptied: nothing is left, and it is not filled by itself.
  await emptyShop(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await enter(page, 'NR 1400 B', /opens a ticket/);
  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('button', { name: 'Empty the shop' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Empty it' }).click();
  await expect(page.getByRole('heading', { name: 'Your shop' })).toBeVisible({ timeout: 30_000 });
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Your shop' })).toBeVisible({ timeout: 30_000 });

  await page.getByLabel('Backup file').setInputFiles({ name: 'b.zip', mimeType: 'application/zip', buffer: first });
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12, {
    timeout: 60_000,
  });
  await page.getByRole('link', { name: 'Shop' }).click();
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

test('a photograph of a step survives a killed tab, a backup and its restore in another shop', async ({
  shop: page,
  context,
}) => {
  const pictures = (bench: Locator) =>
    bench.getByRole('list', { name: /^Pictures: Drum pulley on/ }).getByRole('button');
  await openTicket(page, 211);
  const url = page.url();
  const bench = await unfold(page, 'Bench');
  await bench.getByLabel(/^Photograph: Drum pulley on/).setInputFiles('docs/screenshots/bench.png');
  await expect(pictures(bench)).toHaveCount(1, { timeout: 30_000 });
  await page.close({ runBeforeUnload: false });
  const again = await context.newPage();
  await again.goto(url);
  await expect(pictures(await unfold(again, 'Bench'))).toHaveCount(1, { timeout: 30_000 });
  await again.getByRole('link', { name: 'Shop' }).click();
  const file = await backup(again);

  await emptyShop(again);
  await again.getByLabel('Backup file').setInputFiles({ name: 'b.zip', mimeType: 'application/zip', buffer: file });
  await expect(again.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12, {
    timeout: 60_000,
  });
  await openTicket(again, 211);
  const picture = pictures(await unfold(again, 'Bench'));
  await expect(picture).toHaveCount(1, { timeout: 30_000 });
  // The picture itself, and not its place alone.
  await expect(picture.locator('img')).toHaveJSProperty('complete', true);
  expect(
    await picture.locator('img').evaluate((image) => (image instanceof HTMLImageElement ? image.naturalWidth : 0)),
  ).toBeGreaterThan(100);
});
