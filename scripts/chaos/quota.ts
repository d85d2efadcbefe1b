import { readFileSync } from 'node:fs';
import type { Page, Worker } from '@playwright/test';
import Papa from 'papaparse';
import { seededRandom } from '@/core/units';
import { opened, pause, toTicket } from './browser';
import { seeded } from './kills';
import { withServer } from './server';
import { below, type Random } from './spoil';

export type QuotaFigures = { tries: number; hit: number; unsaid: string[]; lost: string[] };

/** A way of saving: what a person does, and what must be there in the end: the mark, or what `act` says instead. */
type Way = {
  name: string;
  go: (page: Page, base: string) => Promise<void>;
  act: (page: Page, mark: string) => Promise<string | void>;
  isThere: (page: Page, base: string, expected: string) => Promise<boolean>;
};

const inHistory = async (page: Page, base: string, mark: string): Promise<boolean> => {
  await toTicket(page, base, 201);
  await page.getByText(/^History/).click();
  return (await page.locator('details', { hasText: 'History' }).innerText()).includes(mark);
};
const onTicket = (page: Page, base: string) => toTicket(page, base, 201);
const onShop = async (page: Page, base: string) => {
  await page.goto(`${base}/shop`);
  await opened(page);
  await page
    .getByLabel('Telephone')
    .waitFor({ timeout: 20_000 })
    .catch(() => undefined);
};

const onCatalogue = async (page: Page, base: string) => {
  await page.goto(`${base}/catalogue`);
  await opened(page);
};
const findings = async (page: Page, base: string) => {
  await onTicket(page, base);
  const buttons = page.locator('#station-findings button[aria-pressed]');
  await pause(500);
  if ((await buttons.count()) === 0) await page.keyboard.press('2');
  await buttons.first().waitFor();
  return buttons;
};
const FINDING = /Roars, louder with speed/;
/** A touch says yes, the next no, the next that one is not sure. */
const TOUCHED: Record<string, string> = { '●': '✕', '✕': '?', '?': '●' };
const finding = (page: Page) => page.locator('#station-findings').getByRole('button', { name: FINDING }).first();
const stateOf = async (page: Page): Promise<string> => (await finding(page).innerText()).slice(0, 1);
const ticks = (page: Page) => page.getByRole('checkbox').first();
const prices = (page: Page) => page.getByRole('region', { name: 'Price lists' });
const layer = (page: Page) => page.getByRole('button', { name: /^Switch (on|off): / }).first();
const photosOf = (page: Page): Promise<string> =>
  page.evaluate(
    () =>
      new Promise<string>((resolve, reject) => {
        const open = indexedDB.open('sorter-demo');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const counted = open.result.transaction('photos').objectStore('photos').count();
          counted.onerror = () => reject(counted.error);
          counted.onsuccess = () => {
            resolve(String(counted.result));
            open.result.close();
          };
        };
      }),
  );
const underWay = (page: Page) => page.getByRole('region', { name: 'Under way' });
const tries = async (page: Page): Promise<number> =>
  [...(await underWay(page).innerText()).matchAll(/tried (\d+) times?/g)].reduce(
    (sum, [, times]) => sum + Number(times),
    0,
  );
const onOrders = async (page: Page, base: string) => {
  await page.goto(`${base}/orders`);
  await opened(page);
  const again = underWay(page).getByRole('button', { name: 'Try again now' }).first();
  await again.waitFor({ timeout: 3000 }).catch(() => undefined);
  if (await again.isVisible()) return;
  await page.getByRole('button', { name: 'Work out the plan' }).click();
  await page.getByRole('button', { name: /^Send \d+ orders?$/ }).click({ timeout: 40_000 });
  await again.waitFor();
};

const learned = (page: Page) => page.getByRole('region', { name: 'Learned here' });
const onLearned = async (page: Page, base: string) => {
  await onCatalogue(page, base);
  const correct = learned(page).getByRole('button', { name: /^(Correct|As learned): / });
  await correct
    .first()
    .waitFor({ timeout: 4000 })
    .catch(() => undefined);
  if ((await correct.count()) > 0) return;
  // A machine that nobody lists teaches the first row.
  await page.locator('#one-input').fill('KX 9100 W');
  await page
    .getByRole('option', { name: /not listed/ })
    .first()
    .click();
  await page.locator('#station-plate').waitFor();
  await page
    .getByRole('region', { name: 'Kind of machine' })
    .getByRole('button', { name: /In front/ })
    .click();
  await pause(1500);
  await onCatalogue(page, base);
  await correct.first().waitFor();
};
/** A row that was struck out or corrected says so; it is brought back for the other ways. */
const asCorrected = async (page: Page, base: string, named: string): Promise<boolean> => {
  await onLearned(page, base);
  const back = learned(page)
    .getByRole('button', { name: `As learned: ${named}`, exact: true })
    .first();
  const found = await back.waitFor({ timeout: 5000 }).then(
    () => true,
    () => false,
  );
  if (found) await back.click();
  await pause(500);
  return found;
};

const WAYS: readonly Way[] = [
  {
    name: 'a note',
    go: onTicket,
    act: async (page, mark) => {
      await page.locator('#one-input').fill(`heard ${mark}`);
      await page.getByRole('option', { name: /note/ }).first().click();
    },
    isThere: inHistory,
  },
  ...(['Telephone', 'Where it stands', 'Customer'] as const).map((label): Way => ({
    name: `the field “${label}”`,
    go: async (page, base) => {
      await onTicket(page, base);
      await page.keyboard.press('1');
      if (!(await page.getByLabel(label).first().isVisible())) await page.keyboard.press('1');
    },
    act: async (page, mark) => {
      await page.getByLabel(label).first().fill(mark);
      await page.getByLabel(label).first().press('Enter');
    },
    isThere: async (page, base, mark) => {
      await onTicket(page, base);
      await page.keyboard.press('1');
      await pause(500);
      if (!(await page.getByLabel(label).first().isVisible())) await page.keyboard.press('1');
      await pause(500);
      return (await page.getByLabel(label).first().inputValue()) === mark;
    },
  })),
  {
    name: 'a draft',
    go: async (page, base) => {
      await onTicket(page, base);
      await page.getByText(/^History/).click();
    },
    act: async (page, mark) => {
      await page.locator('details', { hasText: 'History' }).locator('input').first().fill(mark);
    },
    isThere: async (page, base, mark) => {
      await onTicket(page, base);
      await page.getByText(/^History/).click();
      await pause(500);
      const history = page.locator('details', { hasText: 'History' });
      return (
        (await history.locator('input').first().inputValue()) === mark || (await history.innerText()).includes(mark)
      );
    },
  },
  {
    name: 'a setting',
    go: onShop,
    act: async (page, mark) => {
      const field = page.getByLabel('Name of the shop').or(page.getByLabel('Shop name')).first();
      await field.fill(mark);
      await field.blur();
    },
    isThere: async (page, base, mark) => {
      await onShop(page, base);
      await pause(500);
      return (await page.getByLabel('Name of the shop').or(page.getByLabel('Shop name')).first().inputValue()) === mark;
    },
  },
  {
    name: 'a finding ticked',
    go: async (page, base) => void (await findings(page, base)),
    act: async (page) => {
      const expected = TOUCHED[await stateOf(page)] ?? '●';
      await finding(page).click();
      return expected;
    },
    isThere: async (page, base, expected) => {
      await findings(page, base);
      return (await stateOf(page)) === expected;
    },
  },
  {
    name: 'a setting ticked',
    go: onShop,
    act: async (page) => {
      const expected = String(!(await ticks(page).isChecked()));
      await ticks(page).click();
      return expected;
    },
    isThere: async (page, base, expected) => {
      await onShop(page, base);
      await pause(500);
      return String(await ticks(page).isChecked()) === expected;
    },
  },
  {
    name: 'a picture',
    go: async (page, base) => {
      await onTicket(page, base);
      await page.keyboard.press('1');
      if ((await page.getByLabel('Picture of the plate from a file').count()) === 0) await page.keyboard.press('1');
    },
    act: async (page) => {
      const expected = String(Number(await photosOf(page)) + 1);
      await page.getByLabel('Picture of the plate from a file').setInputFiles('demo-shop/plates/clean.jpg');
      // It is read before it is kept.
      await page
        .locator('[aria-label="Saving"]:text-is("saving"), [role="alert"][aria-label="Not saved"]')
        .first()
        .waitFor({ state: 'attached', timeout: 20_000 })
        .catch(() => undefined);
      return expected;
    },
    isThere: async (page, _, expected) => Number(await photosOf(page)) >= Number(expected),
  },
  {
    name: 'a package switched',
    go: onCatalogue,
    act: async (page) => {
      const now = (await layer(page).getAttribute('aria-label')) ?? '';
      await layer(page).click();
      return now.startsWith('Switch on')
        ? now.replace('Switch on', 'Switch off')
        : now.replace('Switch off', 'Switch on');
    },
    isThere: async (page, base, expected) => {
      await onCatalogue(page, base);
      await layer(page).waitFor();
      const found = await layer(page).getAttribute('aria-label');
      // The other ways need it.
      if (found?.startsWith('Switch on')) await layer(page).click();
      await pause(500);
      return found === expected;
    },
  },
  {
    name: 'a price list',
    go: async (page, base) => {
      await onCatalogue(page, base);
      await prices(page).locator('button:enabled', { hasText: 'Choose a price list' }).waitFor();
    },
    act: async (page, mark) => {
      await prices(page)
        .getByLabel('Price list', { exact: true })
        .setInputFiles({ name: `${mark}.xml`, mimeType: 'text/xml', buffer: Buffer.from(listNamed(mark)) });
      await prices(page).getByRole('button', { name: 'Use these prices' }).click();
    },
    isThere: async (page, base, mark) => {
      await onCatalogue(page, base);
      return prices(page)
        .getByRole('listitem')
        .filter({ hasText: mark })
        .waitFor({ timeout: 5000 })
        .then(
          () => true,
          () => false,
        );
    },
  },
  {
    name: 'a learned row struck out',
    go: onLearned,
    act: async (page) => {
      const strike = learned(page)
        .getByRole('button', { name: /^Strike out: / })
        .first();
      const named = ((await strike.getAttribute('aria-label')) ?? '').replace('Strike out: ', '');
      await strike.click();
      return named;
    },
    isThere: asCorrected,
  },
  {
    name: 'a learned row corrected by hand',
    go: onLearned,
    act: async (page) => {
      const correct = learned(page)
        .getByRole('button', { name: /^Correct: / })
        .first();
      const named = ((await correct.getAttribute('aria-label')) ?? '').replace('Correct: ', '');
      await correct.click();
      await page.getByRole('button', { name: 'Save the row' }).click();
      return named;
    },
    isThere: asCorrected,
  },
  {
    name: 'an order sent again',
    go: onOrders,
    act: async (page) => {
      const expected = String((await tries(page)) + 1);
      await underWay(page).getByRole('button', { name: 'Try again now' }).first().click();
      return expected;
    },
    isThere: async (page, base, expected) => {
      await onOrders(page, base);
      await pause(500);
      return (await tries(page)) >= Number(expected);
    },
  },
];

/** A UBL catalogue with one part of the demo, by a number that only one has. */
function listNamed(name: string): string {
  const numbers = Papa.parse<Record<string, string>>(readFileSync('demo-shop/catalogue/parts.csv', 'utf8'), {
    header: true,
  }).data.map((part) => part['partNumber'] ?? '');
  const number = numbers.find(
    (one, index) => one !== '' && index > 10 && numbers.indexOf(one) === numbers.lastIndexOf(one),
  );
  return `<Catalogue xmlns:cac="a" xmlns:cbc="b"><cbc:Name>${name}</cbc:Name><cac:CatalogueLine><cac:RequiredItemLocationQuantity><cac:Price><cbc:PriceAmount currencyID="EUR">4.20</cbc:PriceAmount></cac:Price></cac:RequiredItemLocationQuantity><cac:Item><cac:ManufacturersItemIdentification><cbc:ID>${number}</cbc:ID></cac:ManufacturersItemIdentification></cac:Item></cac:CatalogueLine></Catalogue>`;
}

/** Runs in pages and in workers: a write fails for want of room when a draw says so. */
function spoilWrites(): void {
  if (Reflect.has(globalThis, 'chaosFull')) return;
  Reflect.set(globalThis, 'chaosFull', 0);
  for (const name of ['put', 'add'] as const) {
    const real = IDBObjectStore.prototype[name];
    IDBObjectStore.prototype[name] = function (...given: Parameters<typeof real>) {
      const share = Number(Reflect.get(globalThis, 'chaosFull') ?? 0);
      // As drawn by the seed that came with the share.
      const state = (Number(Reflect.get(globalThis, 'chaosState') ?? 1) * 1_664_525 + 1_013_904_223) % 4_294_967_296;
      if (share > 0) Reflect.set(globalThis, 'chaosState', state);
      if (share > 0 && state / 4_294_967_296 < share) {
        Reflect.set(globalThis, 'chaosHits', Number(Reflect.get(globalThis, 'chaosHits') ?? 0) + 1);
        throw new DOMException('no room', 'QuotaExceededError');
      }
      return real.apply(this, given);
    };
  }
}

/** Makes the writes of the page and of its workers fail for want of room: this share of them, until it is nought. */
async function full(page: Page, fault: Fault): Promise<void> {
  for (const worker of page.workers()) await fullWorker(worker, fault);
  await page.evaluate(setFault, fault);
}

/** A share of the writes, and the seed of which ones. */
type Fault = { share: number; state: number };

function setFault({ share, state }: Fault): void {
  Reflect.set(globalThis, 'chaosFull', share);
  Reflect.set(globalThis, 'chaosState', state);
}

async function fullWorker(worker: Worker, fault: Fault): Promise<void> {
  await quietly(worker, spoilWrites, undefined);
  await quietly(worker, setFault, fault);
}

/** How many writes met it. */
async function met(page: Page): Promise<number> {
  const count = () => Number(Reflect.get(globalThis, 'chaosHits') ?? 0);
  let sum = await page.evaluate(count);
  for (const worker of page.workers()) sum += (await quietly(worker, count, undefined)) ?? 0;
  return sum;
}

/** A worker may end while it is asked. */
const quietly = <A, T>(worker: Worker, work: (given: A) => T, given: A): Promise<T | undefined> =>
  worker.evaluate(work as (given: unknown) => T, given).catch(() => undefined);

/** No room for a share of all writes: said each time, kept, and saved when there is room again. */
export async function quota(seed: number, count: number, port = 3294): Promise<QuotaFigures> {
  const random: Random = seededRandom(seed);
  const result: QuotaFigures = { tries: 0, hit: 0, unsaid: [], lost: [] };
  await withServer(port, async (base) => {
    const start = await seeded(base);
    const context = await start.profile.open();
    await context.addInitScript(spoilWrites);
    // Every supplier is down: what is sent stays under way, to be tried again by hand.
    await context.route('**/api/suppliers/**', (route) =>
      route.continue({ headers: { ...route.request().headers(), 'x-sorter-fault': 'down' } }),
    );
    const ways = WAYS.filter(({ name }) => name.includes(process.env['ONLY'] ?? ''));
    for (let run = 0; run < count; run += 1) {
      const way = ways[run % ways.length];
      if (!way) continue;
      const share = [1, 0.5, 0.1][Math.floor(run / ways.length) % 3] ?? 1;
      const named = `${way.name}, ${share * 100} % of writes`;
      const mark = `M${below(random, 1e9)}`;
      const page = await context.newPage();
      page.setDefaultTimeout(20_000);
      page.on('dialog', (dialog) => void dialog.accept().catch(() => undefined));
      try {
        await way.go(page, base);
        const fault = { share, state: below(random, 1e9) };
        await full(page, fault);
        // One that begins only now.
        page.on('worker', (worker) => void fullWorker(worker, fault));
        const expected = (await way.act(page, mark)) ?? mark;
        await pause(1600);
        const hits = await met(page);
        const said = await page.getByRole('alert', { name: 'Not saved' }).isVisible();
        result.tries += 1;
        if (hits > 0) result.hit += 1;
        // At half or a tenth it may have been saved at the next try already.
        const isSaved = (await page.locator('[aria-label="Saving"]').textContent()) === 'saved';
        if (hits > 0 && !said && !(share < 1 && isSaved)) result.unsaid.push(named);
        page.removeAllListeners('worker');
        await full(page, { share: 0, state: 0 });
        await page
          .locator('[aria-label="Saving"]:text-is("saved")')
          .waitFor({ state: 'attached', timeout: 10_000 })
          .catch(() => undefined);
        await pause(1300);
        if (!(await way.isThere(page, base, expected))) result.lost.push(named);
      } catch (error) {
        result.lost.push(`${named}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
      }
      await Promise.race([page.close({ runBeforeUnload: false }), pause(2000)]);
    }
    await start.profile.remove();
  });
  return result;
}
