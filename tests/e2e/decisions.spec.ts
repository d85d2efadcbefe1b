import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import {
  emptyShop,
  enter,
  expect,
  openTicket,
  settled,
  stepsOf,
  suppliersBooks,
  test,
  unfold,
  workThrough,
} from './support';

const planned = async (page: Page) => {
  await page.goto('/orders');
  await page.getByRole('button', { name: 'Work out the plan' }).click({ timeout: 30_000 });
  const send = page.getByRole('button', { name: /^Send \d+ orders?$/ });
  await expect(send).toBeVisible({ timeout: 40_000 });
  return { send, count: Number((await send.innerText()).replace(/\D/g, '')) };
};

test('two tabs hold the same plan: it is ordered once, and the second is told why not', async ({
  shop: page,
  context,
}) => {
  const here = await planned(page);
  const other = await context.newPage();
  const there = await planned(other);
  expect(there.count).toBe(here.count);
  await here.send.click();
  await expect(page.getByText(/orders? made; sending/)).toBeVisible();
  await there.send.click();
  await expect(other.getByText(/ordered already/).first()).toBeVisible({ timeout: 30_000 });
  await expect(
    page.getByRole('region', { name: 'Under way' }).getByText(/not answered yet|never answered/),
  ).toHaveCount(0, { timeout: 30_000 });
  expect(await suppliersBooks(page)).toBe(here.count);
});

test('a plate read again as another machine shakes the part and the offer, and says what to do', async ({
  shop: page,
}) => {
  await openTicket(page, 207);
  const plate = await unfold(page, 'Plate');
  await plate.getByLabel('Read again').fill('NR 1290 B');
  await plate.getByRole('button', { name: /NR 1290 B.*take this one/ }).click({ timeout: 30_000 });
  await expect(page.getByRole('heading', { level: 1 })).toContainText('NR 1290 B');

  const part = await unfold(page, 'Part');
  await expect(part.getByRole('status').first()).toContainText('the plate was read again as another machine');
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText(/again/i);
  const worth = await unfold(page, 'Worth');
  await expect(worth.getByRole('status').first()).toContainText('Look again at the offer');
  // Nothing is ordered on it until then.
  const order = await unfold(page, 'Order');
  await expect(order.getByRole('button', { name: /^Taken from/ })).toHaveCount(0);

  // Looked at in the hand: it is the same part after all, and the price stands.
  await (await unfold(page, 'Part')).getByRole('button', { name: /still the right part: keep it/ }).click();
  await (await unfold(page, 'Worth')).getByRole('button', { name: /price stand: keep them/ }).click();
  await settled(page);
  await expect(part.getByText('Look again.')).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText(/[Oo]rder/);
});

test('a repair that did not help: the second one is offered, accepted, ordered and proved by itself', async ({
  shop: page,
}) => {
  await openTicket(page, 210);
  await finishBench(page);
  const proof = await unfold(page, 'Proof');
  await proof.getByRole('button', { name: /^Failed: The cycle that failed/ }).click();
  await proof.getByRole('button', { name: /It was another cause/ }).click();

  // Nothing of the first repair counts for the second: no part, no offer, no tick.
  const findings = await unfold(page, 'Findings');
  // A cause that needs a part of its own: washers for the screens are on the shelf.
  const settle = findings.getByRole('button', { name: /^Settle on (?!it$|Tap shut)/ });
  await expect(settle.first()).toBeVisible({ timeout: 30_000 });
  await settle.first().click();
  const worth = page.getByRole('region', { name: 'Worth', exact: true });
  await choosePart(page);
  await unfold(page, 'Worth');
  await expect(worth.getByRole('button', { name: /^Yes, to/ })).toHaveCount(0);
  await worth.getByRole('button', { name: /Offer this to the customer/ }).click({ timeout: 30_000 });
  await worth.getByRole('button', { name: /^Yes, to/ }).click({ timeout: 30_000 });

  const order = await unfold(page, 'Order');
  await expect(order).toContainText(/\d part.* to order/);
  await orderAndCheckIn(page);
  await expect(await unfold(page, 'Order')).toContainText('Everything is here');

  const bench = await unfold(page, 'Bench');
  await expect(stepsOf(bench, true)).toHaveCount(0);
  await finishBench(page);
  await unfold(page, 'Proof');
  const passed = proof.getByRole('button', { name: /^Passed:/ });
  for (let left = await passed.count(); left > 0; left -= 1) {
    await passed.first().click();
    await expect(passed).toHaveCount(left - 1);
  }
  await proof.getByRole('button', { name: /knows that it is ready/ }).click({ timeout: 30_000 });
  await proof.getByRole('button', { name: 'Handed over' }).click({ timeout: 30_000 });
  await proof.getByRole('button', { name: 'Close the ticket' }).click({ timeout: 30_000 });
  await expect(page.locator('main')).toContainText('· closed');
});

async function choosePart(page: Page): Promise<void> {
  const part = await unfold(page, 'Part');
  await settled(page);
  const take = part.getByRole('button', { name: /^Take/ });
  if (await part.getByText('needs no part').count()) return;
  await take.first().click({ timeout: 30_000 });
}

async function finishBench(page: Page): Promise<void> {
  const bench = await unfold(page, 'Bench');
  await workThrough(bench);
  await bench.getByRole('button', { name: /Nothing left over/ }).click({ timeout: 30_000 });
}

/** Orders what all machines lack, and takes everything in by the number on its parcel. */
async function orderAndCheckIn(page: Page): Promise<void> {
  const ticketUrl = page.url();
  const { send, count } = await planned(page);
  await send.click();
  const underWay = page.getByRole('region', { name: 'Under way' });
  // One was under way before.
  await expect(underWay.getByText(/the supplier answered/)).toHaveCount(1 + count, { timeout: 30_000 });
  const line = underWay.locator('li').filter({ has: page.getByLabel(/^Number on the parcel for/) });
  for (let left = await line.count(); left > 0; left -= 1) {
    const number = (await line.first().locator('.font-mono').first().innerText()).trim();
    await line
      .first()
      .getByLabel(/^Number on the parcel for/)
      .fill(number);
    await line.first().getByRole('button', { name: 'Check in' }).click();
    await expect(line).toHaveCount(left - 1);
  }
  await page.goto(ticketUrl);
}

test('the demo shop is put back as it was only after a question', async ({ shop: page }) => {
  await openTicket(page, 201);
  await enter(page, 'belongs to nobody', /a note/);
  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('button', { name: 'Put the demo back as it was' }).click();
  const asked = page.getByRole('dialog');
  await expect(asked).toContainText('Put the demo shop back as it was?');
  await asked.getByRole('button', { name: 'Leave it' }).click();
  await openTicket(page, 201);
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText('belongs to nobody');

  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('button', { name: 'Put the demo back as it was' }).click();
  await asked.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByText('The demo shop is as it was.')).toBeVisible({ timeout: 60_000 });
  // In its place, not beside it: nothing is mixed.
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12);
  await openTicket(page, 201);
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).not.toContainText('belongs to nobody');
});

test('a shop that was never asked where it is, and has machines in it, is asked as well before anything replaces them', async ({
  shop: page,
}) => {
  // As a shop of an earlier version that never changed a figure.
  await page.evaluate(
    () =>
      new Promise<void>((resolve, reject) => {
        const open = indexedDB.open('sorter-demo');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const change = open.result.transaction('settings', 'readwrite');
          change.objectStore('settings').clear();
          change.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
  );
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Your shop' })).toBeVisible({ timeout: 30_000 });
  const asked = page.getByRole('dialog');
  await page.getByRole('button', { name: 'Put the demo back as it was' }).click();
  await expect(asked).toContainText('Put the demo shop back as it was?');
  await asked.getByRole('button', { name: 'Leave it' }).click();
  await page
    .getByLabel('Backup file')
    .setInputFiles({ name: 'b.zip', mimeType: 'application/zip', buffer: Buffer.from('x') });
  await expect(asked).toContainText('Restore b.zip?');
  await asked.getByRole('button', { name: 'Leave it' }).click();
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link')).toHaveCount(12);
});

test('a new shop elsewhere: its zone and its currency are asked first, and everything after is in them', async ({
  shop: page,
}) => {
  await emptyShop(page);
  await page.getByLabel('Name of the shop').fill('Drum & Belt');
  await page.getByLabel('Time zone').selectOption('Pacific/Auckland');
  await page.getByLabel('Currency').selectOption('NZD');
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByRole('link', { name: 'Shop' }).click();
  await expect(page.getByLabel('Time zone')).toHaveValue('Pacific/Auckland');
  await expect(page.getByLabel('Currency')).toHaveValue('NZD');
  await expect(page.getByText(/NZ\$|NZD/).first()).toBeVisible();

  // Eight in the morning in UTC is the evening there: a ticket opened now is of that day.
  await page.getByRole('link', { name: 'Sorter' }).click();
  await enter(page, 'NR 1400 B', /opens a ticket|a note/);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText(/(20|21):00/);
});

for (const version of ['version-0', 'version-1', 'version-2', 'version-2-long-texts'])
  test(`a backup written by an earlier Sorter restores, and the work goes on: ${version}`, async ({ shop: page }) => {
    await emptyShop(page);
    const folder = path.join(import.meta.dirname, '../fixtures/backups');
    await page.getByLabel('Backup file').setInputFiles({
      name: `${version}.zip`,
      mimeType: 'application/zip',
      buffer: readFileSync(path.join(folder, `${version}.zip`)),
    });
    const machines = page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link');
    await expect(machines).toHaveCount(12, { timeout: 60_000 });
    // It was written without a catalogue: one is imported, and every ticket knows its machine again.
    await page.getByRole('link', { name: 'Catalogue' }).click();
    await page.getByLabel('Catalogue as a folder').setInputFiles('demo-shop/catalogue');
    await expect(page.getByRole('main')).toContainText('420 models', { timeout: 60_000 });
    await machines.filter({ hasText: 'Norrund NR 1400 B' }).click();
    await expect(page.getByRole('region', { name: 'Do next' })).toBeVisible({ timeout: 30_000 });
    await expect(page.getByRole('region', { name: 'Findings', exact: true })).toBeVisible();
    await enter(page, 'still here', /a note/);
    await page.getByText(/^History/).click();
    await expect(page.locator('details', { hasText: 'History' })).toContainText('still here');
  });
