import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { quantileOf, table } from './report';

const PORT = 3391;
const FLAGS = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'];

const wait = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

async function serve(): Promise<ChildProcess> {
  const server = spawn('node_modules/.bin/next', ['start', '--port', String(PORT)], {
    stdio: 'ignore',
    detached: true,
  });
  for (let tries = 0; tries < 120; tries += 1) {
    const answer = await fetch(`http://localhost:${PORT}/icon.svg`).catch(() => null);
    if (answer?.ok) return server;
    await wait(250);
  }
  throw new Error('the server did not start: build first (npm run build)');
}

/** Resident megabytes of the page's process, which its workers share. */
function rendererMb(): number {
  const list = execFileSync('ps', ['-eo', 'rss,args'], { encoding: 'utf8', maxBuffer: 1 << 26 });
  const sizes = list
    .split('\n')
    .filter((line) => line.includes('--type=renderer') && !line.includes('--extension-process'))
    .map((line) => Number(line.trim().split(/\s+/)[0]) / 1024);
  return Math.max(0, ...sizes);
}

/** Runs `work` while sampling the renderer's memory. */
async function watched<T>(work: () => Promise<T>): Promise<{ value: T; seconds: number; peakMb: number }> {
  let peakMb = 0;
  const timer = setInterval(() => (peakMb = Math.max(peakMb, rendererMb())), 400);
  const from = performance.now();
  const value = await work();
  clearInterval(timer);
  return { value, seconds: (performance.now() - from) / 1000, peakMb };
}

const longTasks = (page: Page): Promise<number[]> =>
  page.evaluate(() => {
    const found: unknown = Reflect.get(window, 'longTasks');
    Reflect.set(window, 'longTasks', []);
    return Array.isArray(found) ? found.map(Number) : [];
  });

/** Types a text letter by letter; milliseconds until each letter has been painted. */
async function typing(page: Page, text: string): Promise<number[]> {
  const field = page.getByRole('textbox', { name: /Model or part number/ });
  await field.fill('');
  const times: number[] = [];
  for (const letter of text) {
    const from = performance.now();
    await field.press(letter);
    await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(resolve)));
    times.push(performance.now() - from);
  }
  return times;
}

async function importZip(page: Page, path: string, until: RegExp): Promise<void> {
  await page.getByLabel('Catalogue as a zip').setInputFiles(path);
  await page.getByText(until).first().waitFor({ timeout: 900_000 });
}

/** Imports packages of real size through the real interface. PACKAGE (and PACKAGE_CHANGED, to compare) from `npm run package:make`. */
export async function benchImport(): Promise<void> {
  const path = process.env['PACKAGE'] ?? '/tmp/sorter-package.zip';
  const changed = process.env['PACKAGE_CHANGED'];
  if (!existsSync(path)) {
    console.log(`\nImport: no package at ${path}; make one with npm run package:make, or name it in PACKAGE.`);
    return;
  }
  const server = await serve();
  const browser = await chromium.launch({
    executablePath: execFileSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' }).trim(),
    args: FLAGS,
  });
  try {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await page.addInitScript(() => {
      Reflect.set(window, 'longTasks', []);
      new PerformanceObserver((list) => {
        const known: unknown = Reflect.get(window, 'longTasks');
        if (Array.isArray(known)) known.push(...list.getEntries().map((entry) => entry.duration));
      }).observe({ type: 'longtask' });
    });
    await page.goto(`http://localhost:${PORT}/`);
    await page.getByRole('button', { name: 'Set up my shop' }).click();
    await page.getByRole('button', { name: 'Begin' }).click();
    await page.getByRole('link', { name: 'Catalogue' }).click();
    await page.getByRole('heading', { name: 'Catalogue', exact: true }).waitFor();
    await wait(1500);
    const idleMb = rendererMb();
    await longTasks(page);
    const rows: (string | number)[][] = [];
    const row = (name: string, run: { seconds: number; peakMb: number }, tasks: number[]) =>
      rows.push([name, run.seconds, run.peakMb, run.peakMb - idleMb, tasks.length, Math.max(0, ...tasks)]);
    const first = await watched(() => importZip(page, path, /is in use:/));
    row(`${(statSync(path).size / 1e6).toFixed(0)} MB zip, first import`, first, await longTasks(page));
    if (changed) {
      let typed: number[] = [];
      const second = await watched(async () => {
        const waiting = importZip(page, changed, /this is what it changes/);
        await wait(4000);
        typed = await typing(page, 'drain pump 12');
        await waiting;
      });
      row('another with changes, while typing', second, await longTasks(page));
      console.log(`\n${await page.getByRole('region', { name: 'Import' }).innerText()}`);
      const applied = await watched(() =>
        page
          .getByRole('button', { name: 'Put it to use' })
          .click()
          .then(() => page.getByText(/is in use:/).waitFor({ timeout: 300_000 })),
      );
      row('putting it to use', applied, await longTasks(page));
      console.log(
        `\nLetters typed during the import: painted after ${quantileOf(typed, 0.5).toFixed(0)} ms (median), ${Math.max(...typed).toFixed(0)} ms (most)`,
      );
    }
    table('Import in Chromium', ['', 's', 'MB peak', 'MB over idle', 'long tasks', 'longest ms'], rows);
    await page.reload();
    await page.getByRole('region', { name: 'Models found' }).waitFor({ timeout: 120_000 });
    const search: (string | number)[][] = [];
    for (const text of ['4', '40', 'drain pump', 'q12-0', 'zzzz']) {
      const from = performance.now();
      await page.getByRole('textbox', { name: /Model or part number/ }).fill(text);
      await page.waitForFunction(
        (wanted) => document.querySelector('[data-searched]')?.getAttribute('data-searched') === wanted,
        text,
        { polling: 'raf' },
      );
      search.push([text, performance.now() - from]);
    }
    table('Search in the browser, typed to counted', ['text', 'ms'], search);
    const [opened] = await Promise.all([
      watched(async () => {
        await page.getByRole('textbox', { name: /Model or part number/ }).fill('');
        await page.getByRole('region', { name: 'Models found' }).getByRole('button').nth(3).click();
        await page.getByRole('region', { name: 'Parts by role' }).waitFor();
      }),
    ]);
    console.log(
      `\nA model's parts by role, from the click: ${(opened.seconds * 1000).toFixed(0)} ms. Memory after reload: ${rendererMb().toFixed(0)} MB`,
    );
  } finally {
    await browser.close();
    if (server.pid) process.kill(-server.pid);
  }
}
