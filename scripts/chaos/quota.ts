import type { Page } from '@playwright/test';
import { seededRandom } from '@/core/units';
import { opened, pause, toTicket } from './browser';
import { seeded } from './kills';
import { withServer } from './server';
import { below, type Random } from './spoil';

export type QuotaFigures = { tries: number; hit: number; unsaid: string[]; lost: string[] };

/** A way of saving: what a person does, and what must be there in the end. */
type Way = {
  name: string;
  go: (page: Page, base: string) => Promise<void>;
  act: (page: Page, mark: string) => Promise<void>;
  isThere: (page: Page, base: string, mark: string) => Promise<boolean>;
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
];

/** Makes the page’s writes fail for want of room: this share of them, until it is nought. */
const full = (page: Page, share: number): Promise<void> =>
  page.evaluate((part) => {
    Reflect.set(window, 'chaosFull', part);
  }, share);

/** No room for a share of all writes: said each time, kept, and saved when there is room again. */
export async function quota(seed: number, count: number, port = 3294): Promise<QuotaFigures> {
  const random: Random = seededRandom(seed);
  const result: QuotaFigures = { tries: 0, hit: 0, unsaid: [], lost: [] };
  await withServer(port, async (base) => {
    const start = await seeded(base);
    const context = await start.profile.open();
    await context.addInitScript(() => {
      for (const name of ['put', 'add'] as const) {
        const real = IDBObjectStore.prototype[name];
        IDBObjectStore.prototype[name] = function (...given: Parameters<typeof real>) {
          const share = Number(Reflect.get(window, 'chaosFull') ?? 0);
          if (share > 0 && Math.random() < share) {
            Reflect.set(window, 'chaosHits', Number(Reflect.get(window, 'chaosHits') ?? 0) + 1);
            throw new DOMException('no room', 'QuotaExceededError');
          }
          return real.apply(this, given);
        };
      }
    });
    for (let run = 0; run < count; run += 1) {
      const way = WAYS[run % WAYS.length];
      if (!way) continue;
      const share = [1, 0.5, 0.1][Math.floor(run / WAYS.length) % 3] ?? 1;
      const named = `${way.name}, ${share * 100} % of writes`;
      const mark = `M${below(random, 1e9)}`;
      const page = await context.newPage();
      page.setDefaultTimeout(20_000);
      page.on('dialog', (dialog) => void dialog.accept().catch(() => undefined));
      try {
        await way.go(page, base);
        await full(page, share);
        await way.act(page, mark);
        await pause(1600);
        const hits = Number(await page.evaluate(() => Number(Reflect.get(window, 'chaosHits') ?? 0)));
        const said = await page.getByRole('alert', { name: 'Not saved' }).isVisible();
        result.tries += 1;
        if (hits > 0) result.hit += 1;
        // At half or a tenth it may have been saved at the next try already.
        const isSaved = (await page.locator('[aria-label="Saving"]').textContent()) === 'saved';
        if (hits > 0 && !said && !(share < 1 && isSaved)) result.unsaid.push(named);
        await full(page, 0);
        await page
          .locator('[aria-label="Saving"]:text-is("saved")')
          .waitFor({ state: 'attached', timeout: 10_000 })
          .catch(() => undefined);
        await pause(1300);
        if (!(await way.isThere(page, base, mark))) result.lost.push(named);
      } catch (error) {
        result.lost.push(`${named}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
      }
      await Promise.race([page.close({ runBeforeUnload: false }), pause(2000)]);
    }
    await start.profile.remove();
  });
  return result;
}
