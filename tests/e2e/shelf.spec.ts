import type { Page } from '@playwright/test';
import { expect, expectNoSeriousAxe, openTicket, test } from './support';
import { writeUblDespatchAdvice, writeUblInvoice } from '@/core/order/documents';
import { asDay, money } from '@/core/units';

const lots = (page: Page) => page.getByRole('region', { name: 'On the shelf', exact: true });

async function putOnShelf(page: Page, number: string, pieces: number, place: string, cost: string): Promise<void> {
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByRole('button', { name: 'Put something here' }).click();
  const form = page.getByRole('form', { name: 'Put something on the shelf' });
  await form.getByLabel('Number on the part or its box').fill(number);
  await form.getByLabel('Pieces').fill(String(pieces));
  await form.getByLabel('Where it lies').fill(place);
  await form.getByLabel('What one cost').fill(cost);
  await form.getByRole('button', { name: 'Put it here' }).click();
  await expect(lots(page).getByText(place)).toBeVisible({ timeout: 30_000 });
}

test('a part on the shelf: the plan keeps it for its machine, it is fetched there, and the lot knows', async ({
  shop: page,
}) => {
  await openTicket(page, 207);
  const order = page.getByRole('region', { name: 'Order', exact: true });
  const number = (await order.locator('li .font-mono').first().innerText()).trim();
  await putOnShelf(page, number, 3, 'drawer 9', '0.50');
  await expectNoSeriousAxe(page);

  await page
    .getByRole('navigation')
    .getByRole('link', { name: /^Orders/ })
    .click();
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await expect(page.getByText('Our own shelf, At hand')).toBeVisible({ timeout: 40_000 });
  await page.getByRole('button', { name: /shelf/ }).last().click();
  await expect(page.getByText(/^Kept on the shelf/)).toBeVisible({ timeout: 30_000 });

  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await expect(lots(page).getByText(/kept for ticket 207/)).toBeVisible();

  await openTicket(page, 207);
  await order.getByRole('button', { name: /Take .*from the shelf, drawer 9/ }).click();
  await expect(order.getByText(new RegExp(`here: ${number}`))).toBeVisible();

  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  const lot = lots(page).locator('li', { hasText: 'drawer 9' });
  await lot.getByText('Count, move, write off, its story').click();
  await expect(lot.getByText(/taken for ticket 207/)).toBeVisible();
  // Counted: what is found holds, and what was noted stays readable.
  await lot.getByLabel(/that lie there/).fill('9');
  await lot.getByRole('button', { name: 'Counted', exact: true }).click();
  await expect(lot.getByText('9 of 9 pieces free')).toBeVisible();
  await expect(lot.getByText(/more than noted/)).toBeVisible();
});

test('what to keep is worked out with its reasons, a donor’s part goes on the shelf and is tried', async ({
  shop: page,
}) => {
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByRole('button', { name: 'Work out what to keep' }).click();
  await expect(page.getByText(/closed tickets since/)).toBeVisible({ timeout: 60_000 });
  await page
    .getByRole('button', { name: /^Keep \d+ of .*: why$/ })
    .first()
    .click();
  await expect(page.getByText(/One too few makes a machine wait/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: 'Lies here for nothing' })).toBeVisible();

  await page
    .getByRole('button', { name: /What is worth taking out of machine/ })
    .first()
    .click();
  const donors = page.getByRole('region', { name: 'Kept for their parts' });
  const rest = donors.getByText(/^Not worth the minutes/);
  await expect(rest.or(donors.getByRole('button', { name: 'Taken out, on the shelf' })).first()).toBeVisible({
    timeout: 60_000,
  });
  if (await rest.count()) await rest.click();
  const number = await donors.locator('li li .font-mono').first().innerText();
  await donors.getByRole('button', { name: 'Taken out, on the shelf' }).first().click();
  const lot = lots(page).locator('li', { hasText: number }).first();
  await expect(lot.getByText('used, not tried')).toBeVisible({ timeout: 30_000 });
  await lot.getByText('Count, move, write off, its story').click();
  await lot.getByRole('button', { name: 'Tried: it works' }).click();
  await expect(lot.getByText('used, tried: works')).toBeVisible();
});

test('a parcel with its note: a damaged part goes back with its paper, the rest does not come, the invoice is held against it', async ({
  shop: page,
}) => {
  await page
    .getByRole('navigation')
    .getByRole('link', { name: /^Orders/ })
    .click();
  const underWay = page.getByRole('region', { name: 'Under way' });
  const card = underWay.getByRole('article').first();
  const name = (await card.getAttribute('aria-label')) ?? '';
  const orderNumber = name.replace('Order ', '');
  const parties = { supplier: 'S', buyer: 'B' };
  const partNumber = (await card.locator('li .font-mono').first().innerText()).trim();
  const xml = (text: string, file: string) => ({ name: file, mimeType: 'text/xml', buffer: Buffer.from(text) });

  await underWay
    .getByLabel('Despatch advice or invoice')
    .setInputFiles(
      xml(
        writeUblDespatchAdvice(
          { number: 'D-77', orderNumber, lines: [{ lineId: '', partNumber, supplierNumber: '-', packs: 1 }] },
          asDay('2026-11-24'),
          parties,
        ),
        'note.xml',
      ),
    );
  await expect(underWay.getByText('Despatch note D-77')).toBeVisible();
  await expect(card.getByText('1 by its note').first()).toBeVisible();

  const line = card.locator('li').first();
  await line.getByText('Damaged, too many, or not all of it?').click();
  await line.getByRole('button', { name: /1 pack damaged/ }).click();
  const back = card.getByRole('region', { name: /^Returns of order/ });
  await expect(back.getByText(/damaged: to be on its way by/)).toBeVisible({ timeout: 30_000 });
  await expectNoSeriousAxe(page);
  await back.getByText('The paper that goes with it').click();
  await expect(back.getByText(/Reason: damaged/)).toBeVisible();
  await back.getByLabel('Number of the parcel, if it has one').fill('RT 5');
  await back.getByRole('button', { name: 'It is on its way' }).click();
  await expect(back.getByText(/on its way back \(RT 5\)/)).toBeVisible();

  await underWay.getByLabel('Despatch advice or invoice').setInputFiles(
    xml(
      writeUblInvoice(
        {
          number: 'INV-9',
          orderNumber,
          total: null,
          shipping: money(1, 'EUR'),
          lines: [{ lineId: '', supplierNumber: partNumber, name: 'part', packs: 1, packPrice: money(99_900, 'EUR') }],
        },
        asDay('2026-11-24'),
        'EUR',
        parties,
      ),
      'invoice.xml',
    ),
  );
  const invoice = card.getByRole('region', { name: 'Invoice INV-9' });
  await expect(invoice.getByText('not as agreed')).toBeVisible({ timeout: 30_000 });
  await expect(invoice.getByText(/1 charged, 0 here and kept/)).toBeVisible();

  await back.getByRole('button', { name: 'Credited' }).click();
  await expect(page.getByText(/: credited/).first()).toBeAttached();
  // A file that is neither says so, and nothing is lost.
  await page.getByLabel('Despatch advice or invoice').setInputFiles(xml('hello', 'x.xml'));
  await expect(page.getByText(/x.xml is no XML file/)).toBeVisible();
});
