import type { Page } from '@playwright/test';
import { enter, expect, expectNoSeriousAxe, findingNamed, settled, test, unfold } from './support';

/** A machine of this model on a new ticket, its cause settled on. */
async function settledOn(page: Page, model: string, finding: string, cause: string): Promise<void> {
  await enter(page, model, /opens a ticket for it/);
  const findings = await unfold(page, 'Findings');
  await (await findingNamed(findings, finding)).click();
  await findings.getByRole('button', { name: `Settle on ${cause}` }).click({ timeout: 30_000 });
  await settled(page);
}

test('another way of mending is offered or one touch away with why not, and what is taken is priced, bought and worked to', async ({
  shop: page,
}) => {
  await settledOn(page, 'NR 1165 B', 'Hums', 'Drain pump jammed or dead');
  const worth = await unfold(page, 'Worth');
  const ways = worth.getByRole('radiogroup', { name: 'Ways to offer' }).getByRole('radio');
  const cleared = ways.filter({ hasText: 'opened, cleared and kept' });
  // What it promises stands beside its price.
  await expect(cleared).toContainText(/50\s% likely to mend it, for about 40\s% of a new part’s life/, {
    timeout: 30_000,
  });
  await expectNoSeriousAxe(page);

  // What the customer takes is what is worked to.
  await worth.getByRole('button', { name: /Offer this to the customer/ }).click({ timeout: 30_000 });
  await cleared.click();
  await worth.getByRole('button', { name: /^Yes, to “Drain pump jammed or dead: opened, cleared and kept”/ }).click();
  await settled(page);
  const bench = await unfold(page, 'Bench');
  await expect(bench).toContainText('Open the pump, clear it', { timeout: 30_000 });
  await expect(bench).not.toContainText('Swap the drain pump');
});

test('a welded tub: a shop that opens none offers the whole tub and says why; one that opens it offers the bearings', async ({
  shop: page,
}) => {
  await settledOn(page, 'NR 1274 W', 'Roars', 'Drum bearings and shaft seal');
  const worth = await unfold(page, 'Worth');
  const first = worth.getByRole('radio').first();
  await expect(first).toBeVisible({ timeout: 30_000 });
  await expect(worth).toContainText('The tub is welded: it is cut open');
  await expect(first).not.toContainText('the whole tub');
  const ticket = page.url();

  // One that is not offered is one touch away, and is then what is offered first.
  await worth.locator('summary', { hasText: 'Other ways to mend it' }).click();
  const other = worth.locator('li', { hasText: 'the rear half of the tub' });
  await other.getByRole('button', { name: 'Mend it so' }).click();
  await settled(page);
  await unfold(page, 'Worth');
  await expect(first).toContainText('the rear half of the tub', { timeout: 30_000 });
  await page.getByRole('button', { name: /Take back/ }).click();
  // The station folds once the work has moved back, which may be after it was unfolded here.
  await expect(async () => {
    await unfold(page, 'Worth');
    await expect(first).not.toContainText('the rear half of the tub', { timeout: 1000 });
  }).toPass({ timeout: 30_000 });

  await page.goto('/shop');
  await page.getByRole('checkbox', { name: /welded/i }).click();
  await page.goto(ticket);
  await unfold(page, 'Worth');
  await expect(first).toContainText('the whole tub', { timeout: 30_000 });
  await worth.locator('summary', { hasText: 'Other ways to mend it' }).click();
  await expect(worth).toContainText('this shop opens none');
});
