import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { applyEvents } from '@/core/ticket';
import { demoTickets } from '../support/demo';
import { enter, expect, expectNoSeriousAxe, findingNamed, settled, test, unfold } from './support';

/** One machine of every design: its complaint, what is true of it, and the answers that such a machine gives to the checks that the page may ask for. */
const MACHINES = [
  {
    design: 'F-BB',
    model: 'NR 1165 B',
    findings: ['Drum does not turn, motor silent'],
    cause: 'Brushes worn',
    answers: [/^Short or stuck/, /^Silence/, /^Silent/, /^Alike and clear/, /^On and sound/, /^Worse over/],
  },
  {
    design: 'F-BI',
    model: 'VI 84-807/2',
    findings: ['Motor runs, drum or agitator does not', 'Black dust under the machine'],
    cause: 'Belt off, worn or shredded',
    answers: [/^Off, worn or shredded/, /^Motor runs freely/, /^Motor runs, drum stands/, /^Too easily/],
  },
  {
    design: 'F-DD',
    model: 'QD5026G',
    code: 'F12',
    findings: ['Hums'],
    cause: 'Rotor splines stripped',
    answers: [
      /^Teeth rounded/,
      /^A hum/,
      /^Too easily/,
      /^Sound/,
      /^Alike/,
      /^Clean signal/,
      /^Suddenly/,
      /^Only with heavy/,
    ],
  },
  {
    design: 'T-CP',
    model: 'OT4872XW1',
    findings: ['Motor runs, drum or agitator does not', 'Does not agitate'],
    cause: 'Coupler sheared',
    answers: [/^Sheared or melted/, /^Motor runs freely/, /^Too easily/, /^Suddenly/],
  },
  {
    design: 'T-BT',
    platform: 'mw-t1',
    findings: ['Squeals'],
    cause: 'Tensioner or idler',
    answers: [/^Tensioner stiff/, /^Turns freely/, /^Worse over/, /^It spins/, /^Only with heavy/, /^Seven seconds/],
  },
  {
    design: 'T-SR',
    platform: 'os-r8',
    findings: ['Bangs in spin', 'Tub hangs low or to one side'],
    cause: 'Suspension rods weak',
    answers: [/^Sags or bounces/, /^Low or crooked/, /^More than once/, /^Worse over/, /^Only with heavy/],
  },
];

const MOST_STEPS = 7;

/** The first model of a platform of the demo. */
const modelOn = (platform: string): string =>
  readFileSync('demo-shop/catalogue/models.csv', 'utf8')
    .split('\n')
    .find((line) => line.includes(`,${platform},`))
    ?.split(',')[1] ?? '';

/** Follows the page's advice, one touch a step, until it says what to mend. */
async function followed(page: Page, answers: readonly RegExp[]): Promise<string> {
  const advice = page.getByRole('region', { name: 'The next check' });
  const steps: string[] = [];
  while (steps.length < MOST_STEPS) {
    await settled(page);
    const before = await advice.innerText();
    steps.push(before.split('\n')[1] ?? '');
    if ((await advice.getByRole('button', { name: /^Settle on (it|both)$/ }).count()) > 0) break;
    const offered = await advice.getByRole('button').allInnerTexts();
    const said = answers.map((answer) => offered.find((text) => answer.test(text))).find((text) => text !== undefined);
    // What it cannot tell is 'not sure', which is an answer, too.
    const first = (said ?? 'Not sure').split('\n')[0] ?? '';
    if (!offered.some((text) => text.startsWith(first))) break;
    // The page may have thought of something better in the meantime: then it is read again.
    const pressed = await advice
      .getByRole('button', { name: first })
      .first()
      .click({ timeout: 3000 })
      .then(
        () => true,
        () => false,
      );
    if (pressed) await expect.poll(() => advice.innerText(), { timeout: 30_000 }).not.toBe(before);
  }
  return steps.join(' → ');
}

for (const { design, model, code, platform = '', findings: shown, cause, answers } of MACHINES)
  test(`${design}: from complaint to cause by the shown advice alone`, async ({ shop: page }) => {
    const number = model ?? modelOn(platform);
    await enter(page, number, new RegExp(number.replace(/[/.]/g, '.')));
    // Young enough that searching pays: of an old one the advice is to stop.
    await (await unfold(page, 'Plate')).getByLabel('About how old, the owner says').fill('6');
    await page.keyboard.press('Tab');
    await settled(page);
    const findings = await unfold(page, 'Findings');
    for (const name of shown) await (await findingNamed(findings, name)).click();
    if (code !== undefined) {
      await findings.getByLabel('Displayed code').fill(code);
      await findings.getByLabel('Displayed code').press('Enter');
      await expect(findings).toContainText('Motor circuit');
    }
    const steps = await followed(page, answers);
    const settle = findings.getByRole('button', { name: /^Settle on (?!it$|both$)/ }).first();
    await expect(settle, steps).toHaveAccessibleName(`Settle on ${cause}`, { timeout: 30_000 });
    await settle.click();
    await expect(page.getByRole('complementary', { name: 'The scale' })).toContainText('settled', { timeout: 30_000 });
  });

test('a broken spider is found through the pump that its crumbs have stopped', async ({ shop: page }) => {
  await enter(page, 'VB 61-569/3', /VB 61-569.3/);
  const findings = await unfold(page, 'Findings');
  await (await findingNamed(findings, 'Water stands in it')).click();
  await settled(page);
  await findings.getByLabel('Another check was done').selectOption({ label: 'Open the drain filter and look' });
  await findings
    .getByRole('button', { name: /^Metal crumbs/ })
    .last()
    .click();
  await settled(page);
  await (await findingNamed(findings, 'Drum has play at the lip')).click();
  await settled(page);
  const first = findings
    .getByRole('listitem')
    .filter({ has: page.getByTestId('cause-share') })
    .first();
  await expect(first).toContainText('Drum spider broken', { timeout: 30_000 });
  await expect(first).toContainText(/with it: drain (filter|pump)/);
  await expectNoSeriousAxe(page);

  // Settled: why it failed is asked at once, and becomes the advice.
  await findings.getByRole('button', { name: 'Settle on Drum spider broken' }).click();
  // The page goes on to the part by itself: only then is Findings opened again.
  await expect(page.getByRole('region', { name: 'Part', exact: true })).toContainText('This is the part', {
    timeout: 30_000,
  });
  const why = (await unfold(page, 'Findings')).getByRole('region', { name: 'Why it failed' });
  await why.getByRole('button', { name: 'Arms white and crumbling' }).click();
  await expect(why).toContainText('Eaten by detergent', { timeout: 30_000 });
  await expect(why).toContainText('eaten by detergent and standing water 95 %');
  await page.reload();
  await expect(
    (await unfold(page, 'Findings')).getByRole('button', { name: 'Arms white and crumbling', pressed: true }),
  ).toBeVisible({ timeout: 30_000 });
});

test('the run in which it fails is kept for the proof', async ({ shop: page }) => {
  await enter(page, 'VB 61-569/3', /VB 61-569.3/);
  const findings = await unfold(page, 'Findings');
  await findings.locator('summary', { hasText: 'The run in which it fails' }).click();
  await findings.getByLabel('Programme or item').selectOption({ label: 'Spin with one wet towel alone' });
  await expect(findings.getByLabel('Load', { exact: true })).toHaveValue('0.6');
  await findings.getByLabel('Failed in minute').fill('4');
  await findings.getByLabel('What was seen').fill('bang, then off its axis');
  await findings.getByRole('button', { name: 'Note the run' }).click();
  await expect(findings.locator('summary', { hasText: 'The run in which it fails' })).toContainText(
    'Spin with one wet towel alone (0.6 kg, 1,000 rpm, in minute 4): bang, then off its axis',
  );
});

test('questions to the customer move the bars and can be answered otherwise', async ({ shop: page }) => {
  await enter(page, 'VB 61-569/3', /VB 61-569.3/);
  const findings = await unfold(page, 'Findings');
  await (await findingNamed(findings, 'Roars, louder with speed')).click();
  const lead = findings.getByTestId('cause-share').first();
  await expect
    .poll(async () => Number(await lead.getAttribute('data-share')), { timeout: 30_000 })
    .toBeGreaterThan(0.4);
  const before = Number(await lead.getAttribute('data-share'));
  await findings.locator('summary', { hasText: 'Ask the customer' }).click();
  const began = findings.getByRole('group', { name: 'Ask: how did it begin?' });
  await began.getByRole('button', { name: 'Worse over weeks or months' }).click();
  await settled(page);
  await expect.poll(async () => Number(await lead.getAttribute('data-share'))).toBeGreaterThan(before);
  await began.getByRole('button', { name: 'Could not say' }).click();
  await settled(page);
  await expect.poll(async () => Number(await lead.getAttribute('data-share'))).toBeCloseTo(before, 3);
});

test('bounces are counted and coasting is timed by touch, and judged at once', async ({ shop: page }) => {
  await enter(page, modelOn('mw-t1'), new RegExp(modelOn('mw-t1').replace(/[/.]/g, '.')));
  const findings = await unfold(page, 'Findings');
  const done = findings.getByLabel('Another check was done');
  await done.selectOption({ label: 'Time the coasting' });
  await findings.getByRole('button', { name: 'Start the stopwatch: Coasting after spin' }).click();
  await findings.getByRole('button', { name: 'Stop the stopwatch: Coasting after spin' }).click();
  await expect(findings).toContainText('Within limits (7.0 s or less)');
  await done.selectOption({ label: 'Press the tub and let go' });
  const more = findings.getByRole('button', { name: 'One more: Bounces after letting go' });
  await more.click();
  await expect(findings).toContainText('Within limits (1.0 times or less)');
  await more.click();
  await expect(findings).toContainText('Too high (1.0 times or less)');
  // What it sounds like can be compared; a second sound takes the place of the first.
  await done.selectOption({ label: 'Run straight to spin and listen' });
  const sounds = findings.getByRole('group', { name: 'Sounds to compare with' });
  for (const name of ['Play a roar', 'Play a hum', 'Play a click']) await sounds.getByRole('button', { name }).click();
  await expectNoSeriousAxe(page);
});

test('a machine that was here before is known again: which visit it is, what was mended, and the warranty on it', async ({
  shop: page,
}) => {
  // The last machine that was mended here, by its number and serial.
  const before = [...demoTickets().values()]
    .map((events) => applyEvents(events))
    .filter(({ closed, plate, serial }) => closed?.outcome === 'repaired' && plate && serial)
    .at(-1);
  if (!before?.plate || !before.serial) throw new Error('the demo has mended machines');
  await enter(page, before.plate.modelNumber, /opens a ticket for it/);
  const plate = await unfold(page, 'Plate');
  await plate.getByLabel('Serial number').fill(before.serial);
  await page.keyboard.press('Tab');
  const head = page.getByRole('banner').or(page.locator('main header')).last();
  await expect(head).toContainText('2nd visit of this machine.', { timeout: 30_000 });
  await expect(head).toContainText(before.round.cause?.name ?? 'a cause');
  await expect(head).toContainText(/our warranty until/);
  await head.getByRole('link', { name: `ticket ${before.number}` }).click();
  await expect(page.getByText(`ticket ${before.number} ·`)).toBeVisible({ timeout: 30_000 });
});
