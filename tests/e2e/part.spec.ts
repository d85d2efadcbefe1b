import { enter, expect, expectNoSeriousAxe, openTicket, test, unfold } from './support';

test('the caliper decides: old against new, dimension by dimension, and the ticket keeps it', async ({
  shop: page,
}) => {
  await openTicket(page, 203);
  const part = page.getByRole('region', { name: 'Part', exact: true });
  const verdict = part.getByText('Compare with the old part:');
  await part
    .getByRole('button', { name: /generic/ })
    .first()
    .click();
  await expect(verdict).toContainText(/drops in|fits/);
  await part.getByLabel('Shaft, old').fill('31');
  await part.getByLabel('Shaft, old').press('Enter');
  await expect(verdict).toContainText('does not fit');
  await expect(part).toContainText('out of tolerance');
  await expect(part.getByRole('img', { name: /^Old 31 by/ })).toBeVisible();
  await expectNoSeriousAxe(page);
  await page.reload();
  await expect(part.getByLabel('Shaft, old')).toHaveValue('31', { timeout: 30_000 });
});

test('a doubtful plate says which character to read again, and that it matters for this part', async ({
  shop: page,
}) => {
  await enter(page, 'NR 11?5 B', /model NR 11\d5 B/);
  const plate = page.getByRole('region', { name: 'Plate', exact: true });
  await expect(plate).toContainText(/% sure/, { timeout: 30_000 });
  // Before anything is looked for: the plate stays open, and where to look is said.
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText(
    /Compare the plate: 5th character: \d(, \d)* or \d/,
  );
  await expect(plate).toContainText(/Look again: 5th character: \d(, \d)* or \d/);
  await expect(plate).toContainText('It settles all of the doubt between them');
  await expect(plate.getByText(/Not in the catalogue: /)).toBeVisible();
  const findings = await unfold(page, 'Findings');
  await findings.getByRole('button', { name: 'Settle on Brushes worn' }).click();
  await expect(await unfold(page, 'Part')).toContainText(
    /its models take different numbers: read it again before ordering/,
  );
});

test('a doubt that does not matter for this part is said not to, and the work goes on', async ({ shop: page }) => {
  await enter(page, 'NR 108? B', /model NR 108\d B/);
  const plate = page.getByRole('region', { name: 'Plate', exact: true });
  await expect(plate).toContainText(/% sure/, { timeout: 30_000 });
  const findings = await unfold(page, 'Findings');
  await findings.getByRole('button', { name: 'Settle on Brushes worn' }).click();
  await page.keyboard.press('3');
  const part = page.getByRole('region', { name: 'Part', exact: true });
  await expect(part).toContainText('the doubt does not matter here');
  await expect(part.getByRole('button', { name: /€/ }).first()).toBeEnabled();
});

test('a number without its ending is answered with its family: what to look for behind it, and which part takes all of them', async ({
  shop: page,
}) => {
  await page.keyboard.press('/');
  await page.keyboard.type('mt1 920');
  const options = page.getByRole('option');
  await expect(options.first()).toContainText(/model MT1-920 [TUV]/);
  // What was not typed is marked.
  await expect(options.first().locator('mark')).toHaveText(/^[TUV]$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText(
    /Compare the plate: what stands behind MT1-920: [TUV], [TUV],? or [TUV]\?/,
    { timeout: 30_000 },
  );
  const plate = page.getByRole('region', { name: 'Plate', exact: true });
  for (const ending of ['T', 'U', 'V'])
    await expect(plate.getByRole('button', { name: new RegExp(`MT1-920 ${ending}`) })).toContainText('is left off');
  await expectNoSeriousAxe(page);
  await plate.getByRole('button', { name: /MT1-920 U/ }).click();
  await expect(plate).toContainText('confirmed');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('MT1-920 U');
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText('Say what it does');
});

test('the map shows how a number is connected and what is sold in its place today', async ({ shop: page }) => {
  await page.getByRole('link', { name: 'Catalogue' }).click();
  await page.getByLabel(/Model or part number/).fill('FJ-1435-40');
  await page.getByRole('button', { name: 'FJ-1435-40' }).click();
  const map = page.getByRole('region', { name: 'Cross-reference of FJ-1435-40' });
  await expect(map).toContainText(/sold today/i);
  await expect(map.getByRole('region', { name: 'Map of connected numbers' }).getByRole('button').first()).toBeVisible();
  await expectNoSeriousAxe(page);
  const other = map.getByRole('button').nth(1);
  if ((await map.getByRole('button').count()) > 1) {
    await other.click();
    await expect(page.getByRole('region', { name: /^Cross-reference of/ })).not.toHaveAttribute(
      'aria-label',
      'Cross-reference of FJ-1435-40',
    );
  }
});

test('bearings: the seats are judged before a part is chosen, and what was judged stays', async ({ shop: page }) => {
  await openTicket(page, 203);
  const part = page.getByRole('region', { name: 'Part', exact: true });
  const seats = part.getByRole('region', { name: 'Seats of the bearings' });
  await expect(seats).toContainText('Rubbing seals on both sides');
  await seats.getByLabel('Shaft journal (bearing, drum side)').fill('24');
  await expect(seats).toContainText(/shaft journal worn .* Price the spider/);
  await seats.getByLabel('Depth of the seal lip’s track').fill('0,02');
  await expect(seats).toContainText('lip track sound');
  await seats.getByRole('button', { name: 'Note it on the ticket' }).click();
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText(/Seats: .*shaft journal worn/);
});

test('a donor on the shelf: taken, noted on both tickets, and gone for the next', async ({ shop: page }) => {
  await openTicket(page, 207);
  const part = await unfold(page, 'Part');
  const shelf = part.getByRole('region', { name: 'On the shelf' });
  await expect(shelf).toContainText(/Donor \d+/);
  const donor = Number(/Donor (\d+)/.exec(await shelf.innerText())?.[1]);
  const order = await unfold(page, 'Order');
  await order.getByRole('button', { name: `Taken from donor ${donor}` }).click();
  // With its part here the work moves on, and the station may have folded by then.
  await expect(order).toContainText(/all 1 part here|here:/);
  await unfold(page, 'Part');
  await expect(shelf.getByText(new RegExp(`Donor ${donor},`))).toHaveCount(0);
  await openTicket(page, donor);
  await page.getByText(/^History/).click();
  await expect(page.locator('details', { hasText: 'History' })).toContainText(/ticket 207/);
});
