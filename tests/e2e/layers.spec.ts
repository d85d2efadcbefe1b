import { northern, smallPackage, southern } from '../support/packages';
import { emptyShop, enter, expect, expectNoSeriousAxe, openTicket, test } from './support';

const zipped = async (file: File) => ({
  name: file.name,
  mimeType: 'application/zip',
  buffer: Buffer.from(await file.arrayBuffer()),
});

test('two packages side by side: what they say differently is shown before, each is switched off and removed by itself', async ({
  shop: page,
}) => {
  await emptyShop(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const outcome = page.getByRole('region', { name: 'Import' });
  const layers = page.getByRole('region', { name: 'Layers' });
  await page.getByLabel('Catalogue as a zip').setInputFiles(await zipped(smallPackage('north', northern())));
  await expect(outcome).toContainText('Package north is in use', { timeout: 30_000 });
  await page.getByLabel('Catalogue as a zip').setInputFiles(await zipped(smallPackage('south', southern())));
  await expect(outcome).toContainText('It comes beside Package north', { timeout: 30_000 });
  await expect(outcome).toContainText('Of the same things Package north says something else');
  await expectNoSeriousAxe(page);
  await outcome
    .getByText(/said differently/)
    .first()
    .click();
  await expect(outcome).toContainText('drain pump, old number');
  await outcome.getByRole('button', { name: 'Put it to use' }).click();
  await expect(layers.getByRole('listitem', { name: 'Package south' })).toBeVisible();

  // One catalogue: a number of the one leads on to a number of the other, and each says whose word it is.
  await page.getByLabel(/Model or part number/).fill('P-100');
  await page.getByRole('region', { name: 'Parts found' }).getByRole('button').first().click();
  await expect(page.getByRole('main')).toContainText('P-200');
  await expect(page.getByRole('region', { name: 'Whose word it is' })).toContainText('Package south');
  await expect(page.getByRole('region', { name: 'Whose word it is' })).toContainText(/Package north.*: drain pump/);
  await page.locator('#one-input').fill('QW 77');
  await expect(page.getByRole('option').first()).toContainText('QW 77');
  await page.locator('#one-input').fill('');

  await layers.getByRole('button', { name: 'Switch off: Package north' }).click();
  await expect(layers.getByRole('listitem', { name: 'Package north' })).toContainText('switched off');
  await page.getByLabel(/Model or part number/).fill('VB 10');
  await expect(page.getByRole('main')).toContainText('0 models');
  await layers.getByRole('button', { name: 'Switch on: Package north' }).click();
  await page.getByLabel(/Model or part number/).fill('VB 10');
  await expect(page.getByRole('main')).toContainText('1 model');
  await layers.getByRole('button', { name: 'Remove: Package south' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove it' }).click();
  await expect(layers.getByRole('listitem', { name: 'Package south' })).toHaveCount(0);
  await page.getByLabel(/Model or part number/).fill('QW');
  await expect(page.getByRole('main')).toContainText('0 models');
  await page.reload();
  await expect(layers.getByRole('listitem', { name: 'Package north' })).toBeVisible();
});

test('a wholesaler’s package is checked without being kept: the template is good, and what is wrong is named', async ({
  shop: page,
}) => {
  await emptyShop(page);
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByRole('link', { name: 'Catalogue' }).click();
  const outcome = page.getByRole('region', { name: 'Import' });
  const [template] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'A package to begin with' }).click(),
  ]);
  await page.getByLabel('Package to check').setInputFiles(await template.path());
  await expect(outcome).toContainText('every row is good', { timeout: 30_000 });
  await expect(outcome).toContainText('Models 3 · Parts 5');
  await expect(page.getByRole('region', { name: 'Layers' }).getByRole('listitem')).toHaveCount(2);
  const [part] = northern().parts ?? [];
  const broken = smallPackage('broken', { ...northern(), parts: [{ ...part, roleId: 'no-such-role' }] });
  await page.getByLabel('Package to check').setInputFiles(await zipped(broken));
  await expect(outcome).toContainText(/parts.csv · row 2 · roleId · “no-such-role” · does not exist in roles/);
  // What was good imports as it is.
  await page.getByLabel('Catalogue as a zip').setInputFiles(await template.path());
  await expect(outcome).toContainText('is in use: 3 models, 5 parts', { timeout: 30_000 });
});

test('the demo and the own shop never mix, in any tab', async ({ shop: page, context }) => {
  const machines = page.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link');
  await openTicket(page, 201);
  await enter(page, 'a note of the demo', /a note/);
  await emptyShop(page);
  await page.getByLabel('Name of the shop').fill('Drum & Belt');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('complementary', { name: 'Demo shop' })).toHaveCount(0);
  await expect(machines).toHaveCount(0);
  // Nothing of the demo is known here: neither its catalogue nor its tickets.
  await enter(page, 'VB 61-407/2', /opens a ticket/);
  await expect(page.getByRole('region', { name: 'Do next' })).toContainText('Say which kind of machine it is');
  await expect(machines).toHaveCount(1);

  // Another tab goes to the demo; this one stays where it is, also after it is loaded anew.
  const other = await context.newPage();
  await other.goto('/shop');
  await other.getByRole('button', { name: 'Look round in the demo shop' }).click();
  const demo = other.getByRole('navigation', { name: 'Machines in the shop' }).getByRole('link');
  await expect(demo).toHaveCount(12, { timeout: 30_000 });
  await expect(other.getByRole('complementary', { name: 'Demo shop' })).toBeVisible();
  await openTicket(other, 201);
  await other.getByText(/^History/).click();
  await expect(other.locator('details', { hasText: 'History' })).toContainText('a note of the demo');
  await page.reload();
  await expect(machines).toHaveCount(1);
  await page.getByRole('link', { name: 'Shop' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Drum & Belt');
});
