import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type FullConfig } from '@playwright/test';
import { demoMorning } from '../support/demoDay';

/** Where the browser profile with the demo shop lies that every test begins with a copy of. */
export const SEEDED = 'SORTER_SEEDED_PROFILE';

/** Fills the demo shop once, as a first start does; the tests copy the profile instead of importing it each. */
export default async function seedOnce(config: FullConfig): Promise<() => void> {
  const { baseURL = '', launchOptions } = config.projects[0]?.use ?? {};
  const folder = mkdtempSync(path.join(tmpdir(), 'sorter-profile-'));
  const context = await chromium.launchPersistentContext(folder, { ...launchOptions, baseURL });
  const [page = await context.newPage()] = context.pages();
  await page.clock.setSystemTime(demoMorning());
  await page.goto('/');
  await page.getByRole('heading', { level: 1, name: /machines in the shop/ }).waitFor({ timeout: 120_000 });
  await context.close();
  process.env[SEEDED] = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
