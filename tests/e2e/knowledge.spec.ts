import { enter, expect, expectNoSeriousAxe, findingNamed, settled, test, unfold } from './support';

test('the shop corrects a likelihood, adds a check and a phrase; they count at once, and can be taken out', async ({
  shop: page,
}) => {
  await page.goto('/catalogue');
  await page.getByRole('link', { name: /What is known of causes/ }).click();
  await page.getByLabel('Cause', { exact: true }).selectOption({ label: 'Brushes worn (F-BB)' });
  const card = page.getByRole('region', { name: 'Brushes worn' });
  await expect(card).toContainText('Why it comes about');
  await expect(card).toContainText('brings drive motor');
  await expectNoSeriousAxe(page);

  const sparks = card.getByLabel('Sparks at the motor: with brushes worn');
  await sparks.fill('160');
  await expect(card).toContainText('From 0 to 100.');
  await sparks.fill('85');
  await card.getByRole('button', { name: 'Note it' }).click();
  await expect(card.getByRole('button', { name: 'As before: Sparks at the motor' })).toBeVisible();

  await card.locator('summary', { hasText: 'Add a check of your own' }).click();
  await card.getByLabel('What to do, in a few words').fill('Smell at the vent');
  await card.getByLabel('How it is done').fill('Nose to the vent, unplugged.');
  await card.getByLabel('It takes').fill('1');
  await card.getByLabel('Seen when it is this cause').fill('Burnt carbon');
  await card.getByLabel('Seen otherwise').fill('Nothing of the kind');
  await card.getByRole('button', { name: 'Add the check' }).click();
  await expect(card.getByRole('button', { name: 'Remove: Smell at the vent' })).toBeVisible();

  const words = page.getByRole('region', { name: 'How customers say it' });
  await words.getByLabel('Finding or answer').selectOption({ label: 'Roars, louder with speed' });
  await words.getByLabel('In their words').fill('like a tractor');
  await words.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(words.getByRole('button', { name: 'Remove: like a tractor' })).toBeVisible();
  await words
    .getByLabel('Finding or answer')
    .selectOption({ label: 'Ask: how did it begin? Worse over weeks or months' });
  await words.getByLabel('In their words').fill('bit by bit');
  await words.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(words.getByRole('button', { name: 'Remove: bit by bit' })).toBeVisible();
  await expect(page.getByText('7 own rows')).toBeVisible();
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Take out the shop’s own rows' }).click();
  expect((await file).suggestedFilename()).toBe('learned.zip');

  // At the bench: the words are heard, the check is asked for or can be said to be done.
  await enter(page, 'NR 1165 B', /NR 1165 B/);
  const findings = await unfold(page, 'Findings');
  await findings.getByLabel('What the customer says').fill('sounds like a tractor, came bit by bit');
  const heard = findings.getByRole('list', { name: 'Heard in these words' });
  await expect(heard).toContainText('roars, louder with speed');
  await expect(heard).toContainText('“bit by bit”: worse over weeks or months');
  await (await findingNamed(findings, 'Drum does not turn, motor silent')).click();
  await settled(page);
  await expect(findings.getByText('Smell at the vent').first()).toBeAttached({ timeout: 30_000 });

  // Taken back, the trade's word counts again.
  await page.goto('/catalogue/knowledge?cause=brushes');
  await page.getByRole('button', { name: 'As before: Sparks at the motor' }).click();
  await expect(page.getByLabel('Sparks at the motor: with brushes worn')).toHaveValue('30');
});
