import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { BrowserContext, Page } from '@playwright/test';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { seededRandom } from '@/core/units';
import { dump, killTab, opened, pause, Profile, toTicket, unwhole, type ShopDump } from './browser';
import { templateFiles } from './files';
import { withServer } from './server';
import { below, oneOf, type Files, type Random } from './spoil';

export type KillFigures = {
  kills: number;
  by: Record<string, number>;
  /** Said to be saved, and gone. */
  lost: string[];
  /** Shops that do not open, or are not whole. */
  broken: string[];
};

const FOLDER = 'demo-shop/catalogue';

/** The demo's catalogue as a package that renews it, with other figures; and one that comes beside it. */
export function packages(folder: string): { renewing: string; beside: string } {
  const files: Files = Object.fromEntries(
    readdirSync(FOLDER).map((name) => [name, new Uint8Array(readFileSync(path.join(FOLDER, name)))]),
  );
  const models = strFromU8(files['models.csv'] ?? new Uint8Array()).replace(/^([^\n]*\n[^\n]*?,)(\d+),/, '$19$2,');
  const renewing = path.join(folder, 'renewing.zip');
  writeFileSync(renewing, zipSync({ ...files, 'models.csv': strToU8(models) }, { level: 1 }));
  const beside = path.join(folder, 'beside.zip');
  writeFileSync(beside, zipSync(templateFiles(), { level: 1 }));
  return { renewing, beside };
}

type Seen = { saved: boolean; fields: Record<string, string>; pressed: string[] };

/** Reports, thirty times a second, what the page says and shows; the last word that it called saved is kept. */
async function watch(page: Page): Promise<() => Seen | null> {
  let last: Seen | null = null;
  await page.exposeFunction('chaosSeen', (seen: Seen) => {
    if (seen.saved) last = seen;
  });
  await page.evaluate(() => {
    const report = () => {
      const saved = document.querySelector('[aria-label="Saving"]')?.textContent === 'saved';
      const fields: Record<string, string> = {};
      for (const input of document.querySelectorAll('input'))
        if (input.labels?.[0]) fields[input.labels[0].innerText] = input.value;
      const pressed = [...document.querySelectorAll('[aria-pressed="true"]')].map((button) => button.textContent ?? '');
      const say: unknown = Reflect.get(window, 'chaosSeen');
      if (typeof say === 'function') void say({ saved, fields, pressed });
    };
    setInterval(report, 30);
  });
  return () => last;
}

type World = {
  base: string;
  random: Random;
  page: Page;
  context: BrowserContext;
  files: ReturnType<typeof packages>;
  backup: string;
};
/** Begins something that goes on by itself; what must be true of it afterwards, given what the page had called saved. */
type Activity = {
  name: string;
  begin: (world: World) => Promise<void>;
  check?: (world: World, seen: Seen | null) => Promise<string[]>;
};

const typed = 'the customer says that it roars when it spins, louder with speed';

/** The findings that can be ticked, of a ticket that waits for them. */
async function findings(page: Page, base: string) {
  await toTicket(page, base, 201);
  const buttons = page.locator('#station-findings button[aria-pressed]');
  await pause(500);
  if ((await buttons.count()) === 0) await page.keyboard.press('2');
  await buttons.first().waitFor({ timeout: 20_000 });
  return buttons;
}

const ACTIVITIES: readonly Activity[] = [
  {
    name: 'typing',
    begin: async ({ page, base, random }) => {
      await toTicket(page, base, 201);
      await page.keyboard.press('1');
      const field = page.getByLabel(oneOf(random, ['Telephone', 'Where it stands']));
      await field.fill('');
      void field.pressSequentially(typed.slice(0, 50), { delay: 15 + below(random, 60) }).catch(() => undefined);
    },
    check: async ({ page, base }, seen) => {
      await toTicket(page, base, 201);
      await page.keyboard.press('1');
      await page.getByLabel('Telephone').waitFor();
      await pause(400);
      const lost: string[] = [];
      for (const label of ['Telephone', 'Where it stands']) {
        const was = seen?.fields[label];
        const is = await page.getByLabel(label).inputValue();
        if (was !== undefined && !is.startsWith(was.trim()))
          lost.push(`${label}: “${was}” was saved, “${is}” is there`);
      }
      return lost;
    },
  },
  {
    name: 'ticking',
    begin: async ({ page, base, random }) => {
      const buttons = await findings(page, base);
      const count = await buttons.count();
      void (async () => {
        for (let times = 0; times < 8; times += 1) await buttons.nth(below(random, count)).click({ timeout: 3000 });
      })().catch(() => undefined);
    },
    check: async ({ page, base }, seen) => {
      if (!seen) return [];
      await findings(page, base);
      await pause(300);
      const now = await page.locator('[aria-pressed="true"]').allTextContents();
      // One more press may have been saved and not yet shown: at most that one differs.
      const gone = seen.pressed.filter((text) => !now.includes(text));
      return gone.length > 1 ? [`pressed and gone: ${gone.join(' | ')}`] : [];
    },
  },
  {
    name: 'noting',
    begin: async ({ page, base, random }) => {
      await toTicket(page, base, 203);
      void (async () => {
        for (let times = 0; times < 5; times += 1) {
          await page.locator('#one-input').fill(`said ${below(random, 1e9)} to us`);
          await page.getByRole('option').first().waitFor();
          await page.keyboard.press('Enter');
          await pause(below(random, 200));
        }
      })().catch(() => undefined);
    },
  },
  {
    name: 'quoting',
    begin: async ({ page, base }) => {
      await toTicket(page, base, 204);
      void (async () => {
        for (let times = 0; times < 4; times += 1) {
          await page.keyboard.press('d');
          await pause(250);
          await page.keyboard.press('Enter');
          await pause(250);
        }
      })().catch(() => undefined);
    },
  },
  {
    name: 'sending',
    begin: async ({ page, base }) => {
      await page.goto(`${base}/orders`);
      await opened(page);
      void (async () => {
        await page.getByRole('button', { name: 'Work out the plan' }).click();
        await page.getByRole('button', { name: /^Send/ }).click({ timeout: 30_000 });
      })().catch(() => undefined);
    },
  },
  {
    name: 'importing',
    begin: async ({ page, base, random, files }) => {
      await page.goto(`${base}/catalogue`);
      await opened(page);
      void (async () => {
        await page.getByLabel('Catalogue as a zip').setInputFiles(random() < 0.5 ? files.renewing : files.beside);
        await page.getByRole('button', { name: 'Put it to use' }).click({ timeout: 60_000 });
      })().catch(() => undefined);
    },
  },
  {
    name: 'restoring',
    begin: async ({ page, base, backup }) => {
      await page.goto(`${base}/shop`);
      await opened(page);
      void (async () => {
        await page.getByLabel('Backup file').setInputFiles(backup);
        await page.getByRole('button', { name: 'Replace everything' }).click({ timeout: 10_000 });
      })().catch(() => undefined);
    },
  },
  {
    name: 'filling',
    begin: async ({ page, base }) => {
      await page.goto(`${base}/shop`);
      await opened(page);
      void (async () => {
        await page.getByRole('button', { name: 'Put the demo back as it was' }).click();
        await page.getByRole('button', { name: 'Put it back' }).click({ timeout: 10_000 });
      })().catch(() => undefined);
    },
  },
];

const REPLACING = ['restoring', 'filling'];
/** The longest that each goes on before it is killed. */
const LONGEST: Record<string, number> = { importing: 7000, restoring: 5000, filling: 6000, sending: 6000 };

/** The demo shop in a fresh profile, and a backup of it. */
/** Writes a shop's backup to a file. */
export async function exported(page: Page, base: string, to: string): Promise<void> {
  await page.goto(`${base}/shop`);
  await opened(page);
  const saving = page.waitForEvent('download', { timeout: 120_000 });
  await page.getByRole('button', { name: 'Export everything' }).click();
  await (await saving).saveAs(to);
}

export async function seeded(base: string): Promise<{ profile: Profile; backup: string }> {
  const profile = new Profile();
  const context = await profile.open();
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto(base);
  await opened(page);
  const backup = path.join(profile.folder, 'backup.zip');
  await exported(page, base, backup);
  await profile.close();
  return { profile, backup };
}

/** The tab or the whole browser dies at a drawn moment of everything that writes. */
export async function kills(seed: number, count: number, port = 3291): Promise<KillFigures> {
  const random = seededRandom(seed);
  const result: KillFigures = { kills: 0, by: {}, lost: [], broken: [] };
  await withServer(port, async (base) => {
    const start = await seeded(base);
    const files = packages(start.profile.folder);
    let profile = new Profile(start.profile);
    // As it was found after the kill before; null in a new profile.
    let last: ShopDump | null = null;
    for (let run = 0; run < count; run += 1) {
      // A first filling begins with nothing; otherwise the shop goes on from what the last kill left.
      const isFirst = run % 12 === 11;
      if (isFirst || run % 40 === 0) {
        await profile.remove();
        profile = isFirst ? new Profile() : new Profile(start.profile);
        last = null;
      }
      const activity = isFirst ? null : oneOf(random, ACTIVITIES);
      const name = activity?.name ?? 'first filling';
      const killsBrowser = random() < 0.25;
      if (process.env['LOUD']) console.log(run, name, killsBrowser);
      const named = `${run} ${name}${killsBrowser ? ', browser' : ''}`;
      result.by[name] = (result.by[name] ?? 0) + 1;
      try {
        const context = await profile.open();
        const page = await context.newPage();
        page.setDefaultTimeout(30_000);
        if (!activity) await page.goto(base);
        let before: ShopDump | null = null;
        let seen: (() => Seen | null) | null = null;
        const world: World = { base, random, page, context, files, backup: start.backup };
        if (activity) {
          await activity.begin(world);
          seen = await watch(page);
          before = last;
        }
        await pause(below(random, isFirst ? 5000 : (LONGEST[name] ?? 2500)));
        const shown = seen?.() ?? null;
        if (killsBrowser) await profile.killBrowser();
        else await killTab(page);
        result.kills += 1;
        const again = await (await profile.open()).newPage();
        await again.goto(base);
        if (!(await opened(again))) {
          result.broken.push(
            `${named}: the shop does not open: ${(
              await again
                .locator('main')
                .innerText()
                .catch(() => '')
            ).slice(0, 200)}`,
          );
          await profile.remove();
          profile = new Profile(start.profile);
          last = null;
          continue;
        }
        await pause(300);
        const after = await dump(again, 'sorter-demo');
        for (const fault of unwhole(after)) result.broken.push(`${named}: ${fault}`);
        if (after.tickets === 0) result.broken.push(`${named}: an empty shop`);
        if (before && !REPLACING.includes(name) && after.events < before.events)
          result.lost.push(`${named}: ${before.events} events before, ${after.events} after`);
        if (activity?.check)
          for (const lost of await activity.check({ ...world, page: again }, shown))
            result.lost.push(`${named}: ${lost}`);
        last = after;
        await again.close();
      } catch (error) {
        result.broken.push(`${named}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
        await profile.remove();
        profile = new Profile(start.profile);
        last = null;
      }
    }
    await profile.remove();
    await start.profile.remove();
  });
  return result;
}
