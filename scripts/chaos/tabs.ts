import path from 'node:path';
import type { Page } from '@playwright/test';
import { seededRandom } from '@/core/units';
import { dump, opened, pause, Profile, toTicket, unwhole } from './browser';
import { packages, seeded } from './kills';
import { withServer } from './server';
import { below, oneOf, type Random } from './spoil';

export type TabFigures = {
  events: number;
  lost: string[];
  outOfOrder: string[];
  fields: number;
  overwritten: string[];
};

const sequencesOf = (page: Page): Promise<Record<string, number[]>> =>
  page.evaluate(
    () =>
      new Promise<Record<string, number[]>>((resolve, reject) => {
        const open = indexedDB.open('sorter-demo');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const read = open.result.transaction('events').objectStore('events').getAll();
          read.onerror = () => reject(read.error);
          read.onsuccess = () => {
            const found: Record<string, number[]> = {};
            for (const { stream, sequence } of read.result as { stream: string; sequence: number }[])
              (found[stream] ??= []).push(sequence);
            open.result.close();
            resolve(found);
          };
        };
      }),
  );

/** Three tabs write to one ticket at once; then two tabs fill two fields of one form at the same moment. */
export async function threeTabs(seed: number, count: number, port = 3292): Promise<TabFigures> {
  const random = seededRandom(seed);
  const result: TabFigures = { events: 0, lost: [], outOfOrder: [], fields: 0, overwritten: [] };
  await withServer(port, async (base) => {
    const start = await seeded(base);
    const context = await start.profile.open();
    const tabs: Page[] = [];
    for (let index = 0; index < 3; index += 1) {
      const page = await context.newPage();
      await toTicket(page, base, 201);
      tabs.push(page);
    }
    const [first, second] = tabs;
    if (!first || !second) throw new Error('Bug: no tabs');
    const texts = Array.from({ length: count }, (_, index) => `note ${index} of ${below(random, 1e9)}`);
    await Promise.all(
      tabs.map(async (page, tab) => {
        for (let index = tab; index < count; index += 3) {
          await page.locator('#one-input').fill(texts[index] ?? '');
          await page
            .getByRole('option', { name: /note on|a note/ })
            .first()
            .click({ timeout: 30_000 });
          await page.locator('#one-input[value=""]').waitFor({ timeout: 30_000 });
        }
      }),
    );
    await pause(500);
    await first.getByText(/^History/).click();
    const history = await first.locator('details', { hasText: 'History' }).innerText();
    result.events = count;
    for (const text of texts) if (!history.includes(text)) result.lost.push(text);
    for (const [stream, list] of Object.entries(await sequencesOf(first)))
      if ([...list].sort((a, b) => a - b).some((sequence, index) => sequence !== index + 1))
        result.outOfOrder.push(stream);
    for (const page of [first, second]) {
      await page.keyboard.press('1');
      if (!(await page.getByLabel('Telephone').isVisible())) await page.keyboard.press('1');
      await page.getByLabel('Telephone').waitFor();
    }
    for (let run = 0; run < 10; run += 1) {
      const [phone, place] = [`0555 ${100_000 + below(random, 900_000)}`, `Quay ${below(random, 1e6)}`];
      await Promise.all([
        first
          .getByLabel('Telephone')
          .fill(phone)
          .then(() => first.getByLabel('Telephone').press('Enter')),
        second
          .getByLabel('Where it stands')
          .fill(place)
          .then(() => second.getByLabel('Where it stands').press('Enter')),
      ]);
      result.fields += 1;
      const wrong = async () => {
        for (const page of [first, second]) {
          const found = [
            await page.getByLabel('Telephone').inputValue(),
            await page.getByLabel('Where it stands').inputValue(),
          ];
          if (found[0] !== phone || found[1] !== place) return `${phone}, ${place}: ${found.join(', ')}`;
        }
        return null;
      };
      // A tab shows what the other saved as soon as it has drawn it.
      let fault = await wrong();
      for (let waited = 0; fault && waited < 20; waited += 1) {
        await pause(300);
        fault = await wrong();
      }
      if (fault) result.overwritten.push(fault);
    }
    await start.profile.remove();
  });
  return result;
}

export type PairFigures = { pairs: number; by: Record<string, number>; broken: string[] };

type Files = ReturnType<typeof packages> & { backup: string };
type Deed = 'import' | 'put-to-use' | 'restore' | 'demo' | 'empty' | 'tab';

/** The deeds that the own shop knows, and those of the demo shop: a pair is done in one of them. */
const DEEDS = {
  own: ['import', 'put-to-use', 'restore', 'empty', 'tab'],
  demo: ['import', 'put-to-use', 'restore', 'demo', 'tab'],
} as const;

const quiet = (work: Promise<unknown>): Promise<void> =>
  work.then(
    () => undefined,
    () => undefined,
  );

/** Gets a tab ready, so that the deed itself is one press away. */
async function ready(page: Page, base: string, deed: Deed, files: Files): Promise<void> {
  await page.goto(`${base}/${deed === 'import' || deed === 'put-to-use' ? 'catalogue' : 'shop'}`);
  await opened(page);
  if (deed === 'put-to-use') {
    await quiet(page.getByLabel('Catalogue as a zip').setInputFiles(files.renewing));
    await quiet(page.getByRole('button', { name: 'Put it to use' }).waitFor({ timeout: 25_000 }));
  }
}

async function does(page: Page, base: string, deed: Deed, files: Files, random: Random): Promise<void> {
  switch (deed) {
    case 'tab':
      await quiet(page.goto(`${base}/`));
      return;
    case 'import':
      await quiet(page.getByLabel('Catalogue as a zip').setInputFiles(random() < 0.5 ? files.renewing : files.beside));
      return;
    case 'put-to-use':
      await quiet(page.getByRole('button', { name: 'Put it to use' }).click({ timeout: 5000 }));
      return;
    case 'restore':
      await quiet(page.getByLabel('Backup file').setInputFiles(files.backup));
      await quiet(page.getByRole('button', { name: 'Replace everything' }).click({ timeout: 4000 }));
      return;
    case 'demo':
      await quiet(page.getByRole('button', { name: 'Put the demo back as it was' }).click({ timeout: 4000 }));
      await quiet(page.getByRole('button', { name: 'Put it back' }).click({ timeout: 4000 }));
      return;
    case 'empty':
      await quiet(page.getByRole('button', { name: 'Empty the shop' }).click({ timeout: 4000 }));
      await quiet(page.getByRole('button', { name: 'Empty it' }).click({ timeout: 4000 }));
  }
}

/** Nothing is under way any more: the lock of what replaces a shop or a catalogue is free. */
const calm = (page: Page, database: string): Promise<void> =>
  page.evaluate((name) => navigator.locks.request(`${name}-whole`, () => undefined).then(() => undefined), database);

/** Two deeds in two tabs, the second at a drawn moment of the first: the shop is whole afterwards, old or new. */
export async function pairs(seed: number, count: number, port = 3293): Promise<PairFigures> {
  const random = seededRandom(seed);
  const result: PairFigures = { pairs: 0, by: {}, broken: [] };
  await withServer(port, async (base) => {
    const start = await seeded(base);
    const files: Files = { ...packages(start.profile.folder), backup: start.backup };
    const owned = await ownShop(base, files);
    const context = { own: await owned.open(), demo: await start.profile.open() };
    for (let run = 0; run < count; run += 1) {
      const shop = oneOf(random, ['own', 'demo'] as const);
      const database = shop === 'own' ? 'sorter' : 'sorter-demo';
      const deeds: readonly Deed[] = DEEDS[shop];
      const [first, second] = [oneOf(random, deeds), oneOf(random, deeds)];
      const named = `${run} ${shop}: ${first} and ${second}`;
      const kind = [first, second].sort().join(' + ');
      result.by[kind] = (result.by[kind] ?? 0) + 1;
      const tabs: Page[] = [];
      try {
        for (const deed of [first, second]) {
          const page = await context[shop].newPage();
          page.setDefaultTimeout(30_000);
          tabs.push(page);
          await ready(page, base, deed, files);
        }
        const [one, two] = tabs;
        if (!one || !two) throw new Error('Bug: no tabs');
        await Promise.all([
          does(one, base, first, files, random),
          pause(below(random, 2500)).then(() => does(two, base, second, files, random)),
        ]);
        await calm(one, database);
        await pause(200);
        await calm(one, database);
        const look = await context[shop].newPage();
        tabs.push(look);
        await look.goto(base);
        if (!(await opened(look))) result.broken.push(`${named}: the shop does not open`);
        await calm(look, database);
        const found = await dump(look, database);
        for (const fault of unwhole(found)) result.broken.push(`${named}: ${fault}`);
        const held =
          tabs.length > 1 &&
          (first === 'import' || second === 'import' || first === 'put-to-use' || second === 'put-to-use');
        if (!held && found.editions.length > found.layers.length) result.broken.push(`${named}: an edition was left`);
        result.pairs += 1;
        // Emptied: filled again for the next pair.
        if (shop === 'own' && found.events === 0) await restoreHere(look, base, files.backup);
      } catch (error) {
        result.broken.push(`${named}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
      }
      for (const page of tabs) await Promise.race([page.close(), pause(2000)]);
    }
    await owned.remove();
    await start.profile.remove();
  });
  return result;
}

async function restoreHere(page: Page, base: string, backup: string): Promise<void> {
  await page.goto(`${base}/shop`);
  await page.getByLabel('Backup file').setInputFiles(backup);
  await quiet(page.getByRole('button', { name: 'Replace everything' }).click({ timeout: 1500 }));
  await page.locator('#one-input').waitFor({ timeout: 30_000 });
}

/** A profile whose own shop holds what the backup holds. */
async function ownShop(base: string, files: Files): Promise<Profile> {
  const profile = new Profile();
  const context = await profile.open();
  const page = await context.newPage();
  await page.addInitScript(() => {
    sessionStorage.setItem('sorter-shop', 'own');
    localStorage.setItem('sorter-shop', 'own');
  });
  await page.goto(base);
  await page.getByRole('heading', { name: 'Your shop' }).waitFor({ timeout: 60_000 });
  await page.getByLabel('Backup file').setInputFiles(path.resolve(files.backup));
  await page.locator('#one-input').waitFor({ timeout: 60_000 });
  await page.close();
  return profile;
}
