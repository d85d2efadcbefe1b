import { readFileSync } from 'node:fs';
import type { BrowserContext, Locator, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { seededRandom } from '@/core/units';
import { dump, opened, pause, unwhole, type Profile } from './browser';
import { figures, packageFiles, sizeOf, someLists, timed, type FileFigures, type Spoiled } from './files';
import { exported, seeded } from './kills';
import { inOurWords } from './node';
import { withServer } from './server';
import { spoiledBlob, spoiledFile, spoiledZip, type Random } from './spoil';

/** The longest that a page may take to say what came of a file, in fifths of a second. */
const LONGEST = 600;

type Kind = {
  name: string;
  /** The page where it is given, and the control that takes it. */
  at: 'catalogue' | 'shop';
  control: string;
  /** The button that asks for the file. */
  button: string;
  panel: string;
  /** A file, and the bytes of what lies in it before it was spoiled. */
  draw: (random: Random) => { file: File; bytes: number };
  /** Said when it was taken, so far as the page takes it without a further word. */
  taken: RegExp;
  refused: RegExp;
};

/** What a page says once it is through with a file. */
async function outcome(
  panel: Locator,
  { taken, refused }: Kind,
): Promise<{ kind: 'taken' | 'refused'; text: string } | null> {
  for (let waited = 0; waited < LONGEST; waited += 1) {
    const text = await panel.innerText().catch(() => '');
    if (refused.test(text)) return { kind: 'refused', text };
    if (taken.test(text)) return { kind: 'taken', text };
    await pause(200);
  }
  return null;
}

/**
 * `count` spoiled packages, price lists and backups each, through the pages that take them. `crashed`: the page broke, or never said what came of it. A package
 * that is named is in the backup as well.
 */
export async function spoiledInBrowser(
  seed: number,
  count: number,
  what: Spoiled = {},
  port = 3295,
): Promise<FileFigures> {
  const random = seededRandom(seed);
  const result = figures(0);
  const whole = packageFiles(what);
  const lists = await someLists(what.rows);
  await withServer(port, async (base) => {
    const start = await seeded(base);
    if (what.packagePath !== undefined) await addPackage(await start.profile.open(), base, what.packagePath, start);
    const backup = new Uint8Array(readFileSync(start.backup));
    const inside = unzipSync(backup);
    const sheet = unzipSync(lists.xlsx);
    const kinds: readonly Kind[] = [
      {
        name: 'package',
        at: 'catalogue',
        control: 'Catalogue as a zip',
        button: 'Choose a zip',
        panel: 'Import',
        draw: (drawn) => ({ file: spoiledZip(drawn, whole, 'package.zip'), bytes: sizeOf(whole) }),
        taken: /Put it to use|is in use: |Nothing differs/,
        refused: /Nothing was applied|was not changed/,
      },
      {
        name: 'list',
        at: 'catalogue',
        control: 'Price list',
        button: 'Choose a price list',
        panel: 'Price lists',
        draw: (drawn) =>
          drawn() < 0.5
            ? { file: spoiledFile(drawn, lists.csv, 'list.csv'), bytes: lists.csv.length }
            : {
                file:
                  drawn() < 0.5 ? spoiledBlob(drawn, lists.xlsx, 'list.xlsx') : spoiledZip(drawn, sheet, 'list.xlsx'),
                bytes: sizeOf(sheet),
              },
        taken: /Check the rows|can be used/i,
        refused: /Nothing was changed/i,
      },
      {
        name: 'backup',
        at: 'shop',
        control: 'Backup file',
        button: 'Restore from a file',
        panel: 'Backup',
        draw: (drawn) => ({
          file: drawn() < 0.2 ? spoiledBlob(drawn, backup, 'b.zip') : spoiledZip(drawn, inside, 'b.zip'),
          bytes: sizeOf(inside),
        }),
        taken: /Restored/,
        refused: /Nothing was changed/i,
      },
    ];
    const context = await start.profile.open();
    for (let run = 0; run < count; run += 1)
      for (const kind of kinds.filter(({ name }) => what.only === undefined || what.only === name)) {
        const named = `${kind.name} ${run}`;
        const page = await context.newPage();
        page.setDefaultTimeout(20_000);
        page.on('pageerror', (error) => result.crashed.push(`${named}: ${error.message}`));
        try {
          await give(page, base, kind, kind.draw(random), named, result);
        } catch (error) {
          result.crashed.push(`${named}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
        }
        await Promise.race([page.close({ runBeforeUnload: false }), pause(2000)]);
      }
    await start.profile.remove();
  });
  return result;
}

/** A package put to use in a shop, and what is exported then. */
async function addPackage(
  context: BrowserContext,
  base: string,
  packagePath: string,
  { profile, backup }: { profile: Profile; backup: string },
): Promise<void> {
  const page = await context.newPage();
  await page.goto(`${base}/catalogue`);
  await opened(page);
  await page.getByLabel('Catalogue as a zip', { exact: true }).setInputFiles(packagePath);
  const use = page.getByRole('button', { name: 'Put it to use' });
  await use.click({ timeout: 300_000 });
  await use.waitFor({ state: 'hidden', timeout: 60_000 });
  await exported(page, base, backup);
  await profile.close();
}

async function give(
  page: Page,
  base: string,
  kind: Kind,
  { file, bytes }: ReturnType<Kind['draw']>,
  named: string,
  result: FileFigures,
): Promise<void> {
  await page.goto(`${base}/${kind.at}`);
  if (!(await opened(page))) throw new Error('the shop does not open');
  const panel = page.getByRole('region', { name: kind.panel, exact: true });
  // A person cannot press it earlier.
  await panel.locator('button:enabled', { hasText: kind.button }).waitFor();
  const before = await panel.innerText();
  await page
    .getByLabel(kind.control, { exact: true })
    .setInputFiles({ name: file.name, mimeType: file.type, buffer: Buffer.from(await file.arrayBuffer()) });
  if (kind.name === 'backup')
    await page
      .getByRole('button', { name: 'Replace everything' })
      .click({ timeout: 3000 })
      .catch(() => undefined);
  const from = performance.now();
  const came = await timed(result, bytes, () => outcome(panel, kind));
  if (process.env['LOUD'])
    console.log(
      named,
      came?.kind,
      `${((performance.now() - from) / 1000).toFixed(1)} s`,
      `${(bytes / 1e6).toFixed(1)} MB`,
    );
  result.files += 1;
  if (!came) {
    result.crashed.push(`${named}: the page does not say what came of it: ${(await panel.innerText()).slice(-200)}`);
    return;
  }
  result[came.kind] += 1;
  const check = panel.getByRole('button', { name: 'Check the rows' });
  if (came.kind === 'taken' && (await check.isVisible()) && (await check.isEnabled())) {
    await check.click();
    await panel
      .getByText(/can be used/)
      .first()
      .waitFor();
  }
  const said = came.text.replace(before, '');
  if (came.kind === 'refused' && !inOurWords(said)) result.foreignWords.push(`${named}: ${said}`);
  for (const fault of unwhole(await dump(page, 'sorter-demo'))) result.half.push(`${named}: ${fault}`);
}
