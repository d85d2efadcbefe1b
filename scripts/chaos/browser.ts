import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';

const executablePath = (): string => execFileSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' }).trim();
const ARGS = ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'];

/** A browser with a profile of its own on the disk, that can be killed and started again over what it left. */
export class Profile {
  readonly folder = mkdtempSync(path.join(tmpdir(), 'sorter-chaos-'));
  private context: BrowserContext | null = null;

  constructor(from?: Profile) {
    if (from) cpSync(from.folder, this.folder, { recursive: true });
  }

  async open(): Promise<BrowserContext> {
    if (this.context) return this.context;
    this.context = await chromium.launchPersistentContext(this.folder, {
      executablePath: executablePath(),
      args: ARGS,
      viewport: { width: 1280, height: 800 },
    });
    // What the compiler of these scripts puts around functions is not known in a page.
    await this.context.addInitScript('globalThis.__name = (named) => named;');
    return this.context;
  }

  /** The browser is gone at once, as when the power fails. */
  async killBrowser(): Promise<void> {
    try {
      execFileSync('pkill', ['-9', '-f', this.folder]);
    } catch {
      // None was running.
    }
    await Promise.race([this.context?.close().catch(() => undefined), pause(2000)]);
    this.context = null;
    rmSync(path.join(this.folder, 'SingletonLock'), { force: true });
    rmSync(path.join(this.folder, 'SingletonSocket'), { force: true });
    rmSync(path.join(this.folder, 'SingletonCookie'), { force: true });
  }

  async close(): Promise<void> {
    await Promise.race([this.context?.close().catch(() => undefined), pause(5000)]);
    this.context = null;
  }

  async remove(): Promise<void> {
    await this.close();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** The tab's process dies, in the middle of whatever it does. */
export async function killTab(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  session.send('Page.crash').catch(() => undefined);
  await pause(200);
  // A tab that has died may never say that it is closed.
  await Promise.race([page.close({ runBeforeUnload: false }).catch(() => undefined), pause(1000)]);
}

export type ShopDump = {
  events: number;
  orders: number;
  layers: string[];
  editions: { id: string; title: string; state: string; buckets: number }[];
  seeded: boolean;
  tickets: number;
};

/** What lies in the database, read without Sorter. */
export const dump = (page: Page, name: 'sorter' | 'sorter-demo'): Promise<ShopDump> =>
  page.evaluate(
    (database) =>
      new Promise<ShopDump>((resolve, reject) => {
        const open = indexedDB.open(database);
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const db = open.result;
          if (!db.objectStoreNames.contains('events')) {
            db.close();
            resolve({ events: 0, orders: 0, layers: [], editions: [], seeded: false, tickets: 0 });
            return;
          }
          const transaction = db.transaction(['events', 'meta', 'editions', 'buckets', 'summaries']);
          const ask = <T>(request: IDBRequest<T>) =>
            new Promise<T>((done, failed) => {
              request.onsuccess = () => done(request.result);
              request.onerror = () => failed(request.error);
            });
          const store = (table: string) => transaction.objectStore(table);
          Promise.all([
            ask(store('events').count()),
            ask(store('meta').getAll()),
            ask(store('editions').getAll()),
            ask(store('summaries').getAll()),
          ])
            .then(async ([events, meta, editions, summaries]) => {
              const of = (key: string): unknown => meta.find((row: { key: string }) => row.key === key)?.value;
              const listed = of('layers');
              const counted = [];
              for (const { id, title, state } of editions as { id: string; title: string; state: string }[])
                counted.push({ id, title, state, buckets: await ask(store('buckets').index('edition').count(id)) });
              const kinds = (summaries as { kind: string }[]).map(({ kind }) => kind);
              db.close();
              resolve({
                events,
                orders: kinds.filter((kind) => kind === 'order').length,
                tickets: kinds.filter((kind) => kind === 'ticket').length,
                layers: Array.isArray(listed) ? listed.map(({ id }: { id: string }) => id) : [],
                editions: counted,
                seeded: of('seeded') !== undefined,
              });
            })
            .catch(reject);
        };
      }),
    name,
  );

/** What is wrong with a shop as it lies there: nothing for one that is whole. */
export function unwhole({ layers, editions, events, tickets }: ShopDump): string[] {
  const found: string[] = [];
  for (const id of layers) {
    const edition = editions.find((entry) => entry.id === id);
    if (!edition) found.push('a layer is in use and is not there');
    else if (edition.state !== 'ready') found.push(`${edition.title} is in use and not written to its end`);
    else if (edition.buckets === 0) found.push(`${edition.title} is in use and empty`);
  }
  if (events > 0 && tickets === 0) found.push('events without a ticket');
  return found;
}

/** The page is there and the shop in it: not opening, not failed. */
export async function opened(page: Page): Promise<boolean> {
  return page
    .locator('#one-input, h1:has-text("Your shop")')
    .first()
    .waitFor({ timeout: 60_000 })
    .then(
      () => true,
      () => false,
    );
}

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Opens a ticket of the demo by its number. */
export async function toTicket(page: Page, base: string, number: number): Promise<void> {
  await page.goto(base);
  await opened(page);
  await page.locator('#one-input').fill(`#${number}`);
  await page.getByRole('option', { name: `ticket ${number}` }).click({ timeout: 30_000 });
  await page.locator('#station-plate').waitFor({ timeout: 30_000 });
}
