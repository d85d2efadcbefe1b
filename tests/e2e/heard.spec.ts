import { doNext, enter, expect, expectNoSeriousAxe, openTicket, settled, test, findingNamed } from './support';

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
    /“washing blankets”:.*blankets, rugs or a full drum/,
  ]);
  await expectNoSeriousAxe(page);
  await heard.getByRole('button', { name: /twitches/ }).click();
  await expect(findings.getByRole('button', { name: /Turns in fits and starts/, pressed: true })).toBeVisible();
  await heard.getByRole('button', { name: /banging/ }).click();
  await expect(findings.getByRole('button', { name: /Bangs in spin\s*: no/ })).toBeVisible();
  // An answer given before the question was asked answers it.
  await heard.getByRole('button', { name: /washing blankets/ }).click();
  await expect(heard.getByRole('button')).toHaveCount(1);
  await page.reload();
  await expect(words).toHaveValue(/twitches, was washing/, { timeout: 30_000 });
  await expect(heard.getByRole('button')).toHaveText([/burning smell/]);
});

test('a line with a number and words names the machine and is what the customer says; one touch notes the findings', async ({
  shop: page,
}) => {
  await enter(
    page,
    'vb61569 E21, does not drain, humming',
    /VB 61-569\/3.*“E21, does not drain, humming” as the complaint/,
  );
  await expect(page.getByRole('heading', { level: 1 })).toContainText('VB 61-569/3');
  const findings = page.getByRole('region', { name: 'Findings', exact: true });
  await expect(findings.getByLabel('What the customer says')).toHaveValue('E21, does not drain, humming', {
    timeout: 30_000,
  });
  const heard = findings.getByRole('list', { name: 'Heard in these words' });
  await expect(heard.getByRole('button')).toHaveText([
    /“does not drain”: water stands in it/,
    /“humming”: hums/,
    /“E21”: .*drain/i,
  ]);
  // With the key as well, before the plain choices.
  await doNext(page, /Say what it does/);
  await page.keyboard.press('Enter');
  await expect(findings.getByRole('button', { name: /Water stands in it/, pressed: true })).toBeVisible();
  await heard.getByRole('button', { name: /E21/ }).click();
  await expect(findings.getByLabel('Displayed code')).toHaveValue('E21');
  await expect(heard.getByRole('button')).toHaveText([/“humming”: hums/]);
  // One that no list has is named by its number alone.
  await enter(page, 'zx 4471 q roars in spin', /not listed.*“roars in spin” as the complaint/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('zx 4471 q');
  await expect(page.getByRole('region', { name: 'Findings', exact: true })).toContainText('roars in spin');
});

test('a machine that trips is not run live: what must wait is said, and what lifts it', async ({ shop: page }) => {
  await openTicket(page, 201);
  const findings = page.getByRole('region', { name: 'Findings', exact: true });
  const chosen = findings.getByLabel('Another check was done');
  await expect(chosen.locator('option', { hasText: 'Run straight to spin and listen' })).toHaveCount(1);
  await (await findingNamed(findings, 'Trips the breaker')).click();
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

test('what was mended already and did not help is evidence, of any cause', async ({ shop: page }) => {
  await openTicket(page, 201);
  const findings = page.getByRole('region', { name: 'Findings', exact: true });
  const lead = findings.getByTestId('cause-share').first();
  const before = Number(await lead.getAttribute('data-share'));
  const name = await findings
    .getByRole('listitem')
    .filter({ has: page.getByTestId('cause-share') })
    .first()
    .getByRole('button', { name: /: why$/ })
    .innerText();
  // Why it is thought so, and how much each finding speaks for it.
  await findings.getByRole('button', { name: `${name}: why` }).click();
  await expect(page.getByText(/speaks for it, ×\s\d/).first()).toBeVisible();
  await page.keyboard.press('Escape');
  const tried = findings.getByLabel('Mended already, and it did not help');
  await tried.selectOption({ label: name });
  await expect(findings.getByText('Done already, no help:')).toBeVisible();
  await expect(tried.locator('option', { hasText: name })).toHaveCount(0);
  await settled(page);
  await expect
    .poll(async () => {
      const row = findings.locator('li', { has: page.getByRole('button', { name: `${name}: why` }) });
      return (await row.count()) === 0 ? 0 : Number(await row.getByTestId('cause-share').getAttribute('data-share'));
    })
    .toBeLessThan(before / 4);
});
