import type { Page } from '@playwright/test';
import { doNext, emptyShop, enter, expect, expectNoSeriousAxe, press, settled, test, unfold } from './support';

const kind = (page: Page) => page.getByRole('region', { name: 'Kind of machine' });

/** An empty shop, opened for the first time, and a plate that no catalogue lists. */
async function opened(page: Page): Promise<void> {
  await emptyShop(page);
  await page.getByLabel('Name of the shop').fill('Drum & Belt');
  await page.getByRole('button', { name: 'Begin' }).click();
  await enter(page, 'KX 9100 W', /opens a ticket/);
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText('Say which kind of machine it is');
}

test('an empty shop: from a plate that nobody lists to an offer with a typed part, repair held against replace', async ({
  shop: page,
}) => {
  await opened(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('KX 9100 W');
  await kind(page)
    .getByRole('button', { name: /In front/ })
    .click();
  await kind(page)
    .getByRole('button', { name: /A belt to a pulley/ })
    .click();
  await expect(kind(page)).toContainText(/front loader, belt, brushed motor \d+\s%/);
  const plate = await unfold(page, 'Plate');
  await expectNoSeriousAxe(page);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await expectNoSeriousAxe(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  await plate.getByLabel('About how old, the owner says').fill('7');
  await plate.getByLabel('About how old, the owner says').blur();
  await expect(plate.getByLabel('Where does the washing go in?')).toHaveValue('front');
  const findings = await unfold(page, 'Findings');
  await findings.getByRole('button', { name: 'Water stands in it' }).first().click();
  await settled(page);
  await page.getByRole('button', { name: /Settle on Drain pump/ }).click();
  const part = await unfold(page, 'Part');
  await part.getByLabel('Number: drain pump').fill('ZP-4471');
  await part.getByLabel('Price a piece, net: drain pump').fill('31.50');
  await part.getByLabel('Supplier: drain pump').fill('Old Quay Parts');
  await part.getByRole('button', { name: 'Note it: drain pump' }).click();
  await expect(part).toContainText('typed here');
  await expectNoSeriousAxe(page);
  await press(page, 'd');
  await page.keyboard.press('Enter');
  const worth = await unfold(page, 'Worth');
  await expect(worth).toContainText('ZP-4471');
  await expect(worth).toContainText('a year repaired');
  await expect(worth).toContainText('defaults of the trade, not yours');
  await doNext(page, /Make the offer/);
  await page.keyboard.press('Enter');
  await expect(worth).toContainText('What does the customer say?');
  await worth.getByRole('button', { name: /^Yes/ }).first().click();
  const order = await unfold(page, 'Order');
  await expect(order).toContainText('order it from Old Quay Parts by hand');
  // Nobody lists it, so no plan can buy it: it is got by hand, noted when it is here, and the work goes on.
  await order.getByRole('button', { name: /shelf/i }).first().click();
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText(/Unplug|isolate/i);
});
