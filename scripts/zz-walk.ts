import { chromium } from '@playwright/test';
import { demoMorning } from '../tests/support/demoDay';
const port = process.env['PORT'] ?? '3371';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' });
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
page.on('console', (m) => { if (m.type() === 'error') console.log('console', m.text()); });
page.on('pageerror', (e) => console.log('pageerror', e.message));
await page.clock.install({ time: demoMorning() });
await page.goto(`http://localhost:${port}/shelf`);
await page.getByRole('heading', { name: 'Shelf', exact: true }).waitFor({ timeout: 120000 });
await page.getByRole('button', { name: 'Work out what to keep' }).click();
await page.getByText('closed tickets since').or(page.getByText('could not be worked out')).waitFor({ timeout: 120000 });
await page.screenshot({ path: '/tmp/s1.png', fullPage: false });
console.log((await page.locator('main').innerText()).slice(0, 3000));
const d = page.getByRole('button', { name: /What is worth taking/ }).first();
if (await d.count()) { await d.click(); await page.waitForTimeout(5000); await d.scrollIntoViewIfNeeded(); await page.screenshot({ path: '/tmp/s2.png' }); console.log((await page.locator('section[aria-label="Kept for their parts"]').innerText()).slice(0,3000)); }
await browser.close();
