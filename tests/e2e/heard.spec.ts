import { expect, expectNoSeriousAxe, openTicket, settled, test } from './support';

test('the customer’s words propose their findings, one touch each, and the bars move', async ({ shop: page }) => {
  await openTicket(page, 201);
  const findings = page.getByRole('region', { name: 'Findings', exact: true });
  const words = findings.getByLabel('What the customer says');
  await words.fill('twitches, was washing blankets, and a burning smell. Not banging');
  const heard = findings.getByRole('list', { name: 'Heard in these words' });
  await expect(heard.getByRole('button')).toHaveText([
    /“twitches”:.*turns in fits and starts/,
    /“burning smell”:.*smells burnt/,
    /“banging”:.*not: bangs in spin/,
  ]);
  await expectNoSeriousAxe(page);
  await heard.getByRole('button', { name: /twitches/ }).click();
  await expect(findings.getByRole('button', { name: /Turns in fits and starts/, pressed: true })).toBeVisible();
  await heard.getByRole('button', { name: /banging/ }).click();
  await expect(findings.getByRole('button', { name: /Bangs in spin\s*: no/ })).toBeVisible();
  await expect(heard.getByRole('button')).toHaveCount(1);
  await page.reload();
  await expect(words).toHaveValue(/twitches, was washing/, { timeout: 30_000 });
  await expect(heard.getByRole('button')).toHaveText([/burning smell/]);
});

test('a machine that trips is not run live: what must wait is said, and what lifts it', async ({ shop: page }) => {
  await openTicket(page, 201);
  const findings = page.getByRole('region', { name: 'Findings', exact: true });
  const chosen = findings.getByLabel('Another check was done');
  await expect(chosen.locator('option', { hasText: 'Run straight to spin and listen' })).toHaveCount(1);
  await findings.getByRole('button', { name: 'Trips the breaker' }).click();
  const notNow = findings.getByRole('region', { name: 'Not now' });
  await expect(notNow).toContainText('Not live now. It trips the breaker', { timeout: 30_000 });
  await expect(notNow).toContainText('Run straight to spin and listen');
  await expect(chosen.locator('option', { hasText: 'Run straight to spin and listen' })).toHaveCount(0);
  await expectNoSeriousAxe(page);
  await notNow.getByRole('button', { name: /Supply, plug and filter/ }).click();
  await findings.getByRole('button', { name: /^Sound/ }).click();
  await settled(page);
  await expect(notNow).toHaveCount(0);
  await expect(chosen.locator('option', { hasText: 'Run straight to spin and listen' })).toHaveCount(1);
});
