import { emptyShop, enter, expect, expectNoSeriousAxe, openTicket, suppliersBooks, test } from './support';

test('a full disk is said on top of the page; what was done waits, and is saved when there is room', async ({
  shop: page,
  context,
}) => {
  await openTicket(page, 201);
  const url = page.url();
  await page.evaluate(() => {
    const real = IDBObjectStore.prototype.put;
    const realAdd = IDBObjectStore.prototype.add;
    const full = () => {
      if (Reflect.get(window, 'isFull') !== false) throw new DOMException('no room', 'QuotaExceededError');
    };
    IDBObjectStore.prototype.put = function (...given: Parameters<typeof real>) {
      full();
      return real.apply(this, given);
    };
    IDBObjectStore.prototype.add = function (...given: Parameters<typeof realAdd>) {
      full();
      return realAdd.apply(this, given);
    };
  });
  await page.keyboard.press('1');
  await page.getByLabel('Telephone').fill('0555 123');
  const bar = page.getByRole('alert', { name: 'Not saved' });
  await expect(bar).toContainText('Not saved: the disk is full');
  await expect(page.getByLabel('Saving')).toHaveText('not saved');
  await expectNoSeriousAxe(page);
  await page.getByLabel('Telephone').fill('0555 1234');
  await page.getByLabel('Where it stands').fill('Quay 4');
  await page.evaluate(() => Reflect.set(window, 'isFull', false));
  await bar.getByRole('button', { name: 'Try again now' }).click();
  await expect(bar).toHaveCount(0);
  await expect(page.getByLabel('Saving')).toHaveText('saved');
  await expect(page.getByLabel('Telephone')).toHaveValue('0555 1234');
  await page.getByLabel('Where it stands').press('Enter');
  await page.waitForTimeout(1300);
  const again = await context.newPage();
  await again.goto(url);
  await expect(again.getByRole('region', { name: 'Do next' })).toBeVisible({ timeout: 30_000 });
  await again.keyboard.press('1');
  await expect(again.getByLabel('Telephone')).toHaveValue('0555 1234');
  await expect(again.getByLabel('Where it stands')).toHaveValue('Quay 4');
});

test('two tabs fill two fields of one form: both are kept', async ({ shop: page, context }) => {
  await openTicket(page, 201);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('region', { name: 'Do next' })).toBeVisible({ timeout: 30_000 });
  await page.keyboard.press('1');
  await other.keyboard.press('1');
  await page.getByLabel('Telephone').fill('0555 777');
  await other.getByLabel('Where it stands').fill('Weir 9');
  await Promise.all([page.getByLabel('Telephone').press('Enter'), other.getByLabel('Where it stands').press('Enter')]);
  for (const tab of [page, other]) {
    await expect(tab.getByLabel('Telephone')).toHaveValue('0555 777');
    await expect(tab.getByLabel('Where it stands')).toHaveValue('Weir 9');
  }
});

test('while one tab restores a backup the other stands by, and then shows what is there', async ({
  shop: page,
  context,
}) => {
  await page.goto('/shop');
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export everything' }).click();
  const file = await (await saving).path();
  const other = await context.newPage();
  await other.goto('/');
  await expect(other.getByRole('heading', { level: 1 })).toContainText('machines in the shop', { timeout: 30_000 });
  // Seen as soon as it is under way, however short it is.
  const stoodBy = other
    .getByRole('alert')
    .filter({ hasText: 'Another tab restores a backup' })
    .waitFor({ timeout: 60_000 });
  await page.getByLabel('Backup file').setInputFiles(file);
  await page.getByRole('button', { name: 'Replace everything' }).click();
  await stoodBy;
  await expect(page.getByText('Restored. The shop is as it was')).toBeVisible({ timeout: 60_000 });
  await expect(other.getByText('The shop was replaced in another tab')).toBeVisible({ timeout: 30_000 });
  await expect(other.getByRole('heading', { level: 1 })).toContainText('12 machines');
});

test('an answer that cannot be meant is set aside, said, and asked for again; nothing is ordered twice', async ({
  shop: page,
}) => {
  let lies = true;
  await page.route('**/api/suppliers/*/orders', async (route) => {
    const response = await route.fetch();
    const body = await response.text();
    await route.fulfill({
      response,
      body: lies ? body.replace(/(<cbc:PriceAmount[^>]*>)/g, '$1100') : body,
    });
  });
  await page.goto('/orders');
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await page.getByRole('button', { name: /^Send/ }).click({ timeout: 30_000 });
  const aside = page.getByRole('article').filter({ hasText: 'their answer was set aside' });
  await expect(aside.first()).toBeVisible({ timeout: 30_000 });
  await expect(aside.first()).toContainText('the price cannot be meant');
  await expectNoSeriousAxe(page);
  const taken = await suppliersBooks(page);
  const count = await aside.count();
  lies = false;
  await aside.first().getByRole('button', { name: 'Try again now' }).click();
  await expect(aside).toHaveCount(0, { timeout: 30_000 });
  expect(count).toBeGreaterThan(0);
  expect(await suppliersBooks(page)).toEqual(taken);
});

test('no address answers without a policy, and none can be framed', async ({ shop: page }) => {
  for (const path of [
    '/',
    '/readers/x',
    '/plates/x',
    '/icon.svgx',
    '/favicon.icox',
    '/demo-shop.zip/x',
    '/knowledge.jsonx',
    '/nowhere',
  ]) {
    const { headers } = await page.request.get(path).then((response) => ({ headers: response.headers() }));
    expect(headers['content-security-policy'], path).toMatch(/script-src .*'self'.*frame-ancestors 'none'/);
    expect(headers['x-frame-options'], path).toBe('DENY');
  }
  for (const path of ['/api/suppliers/%E0%A4%A/orders', '/%ZZ']) {
    const response = await page.request.post(path);
    expect(response.status(), path).toBe(400);
  }
});

test('a copy goes into the folder that was chosen, and is restored from there', async ({ shop: page }) => {
  // The browser's own folder stands in for one that a person would choose in a dialogue.
  await page.addInitScript(() => {
    Object.assign(window, { showDirectoryPicker: () => navigator.storage.getDirectory() });
  });
  await emptyShop(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await enter(page, 'KX 9100 W', /opens a ticket/);
  await page.goto('/shop');
  await expect(page.getByText(/No copy of this shop was taken yet/)).toBeVisible();
  await page.getByRole('button', { name: 'Keep a copy in a folder' }).click();
  await expect(page.getByText('A copy is in the folder.')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText(/The last copy is less than a day old; nothing since/)).toBeVisible();
  await expectNoSeriousAxe(page);
  const copy = await page.evaluate(async () => {
    const folder = await navigator.storage.getDirectory();
    const names: string[] = [];
    for await (const name of (folder as unknown as { keys: () => AsyncIterable<string> }).keys()) names.push(name);
    const file = await (await folder.getFileHandle(names.find((name) => name.endsWith('.zip')) ?? '')).getFile();
    return { name: file.name, bytes: [...new Uint8Array(await file.arrayBuffer())] };
  });
  expect(copy.name).toMatch(/^sorter-\d{4}-\d{2}-\d{2}\.zip$/);
  await page.getByRole('button', { name: 'Empty the shop' }).click();
  await page.getByRole('button', { name: 'Empty it' }).click();
  await expect(page.getByRole('heading', { name: 'Your shop' })).toBeVisible({ timeout: 30_000 });
  await page
    .getByLabel('Backup file')
    .setInputFiles({ name: copy.name, mimeType: 'application/zip', buffer: Buffer.from(copy.bytes) });
  await page.getByRole('link', { name: 'Sorter' }).click({ timeout: 30_000 });
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 machine');
});
