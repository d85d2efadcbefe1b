import { readFileSync } from 'node:fs';
import path from 'node:path';
import { asDay, type LocalDate } from '@/core/units';

/** The day on which the demo was written down. */
export const DEMO_DAY = ((): LocalDate => {
  const raw: unknown = JSON.parse(readFileSync(path.join(import.meta.dirname, '../../demo-shop/shop.json'), 'utf8'));
  return typeof raw === 'object' && raw !== null && 'anchorDate' in raw ? asDay(String(raw.anchorDate)) : asDay('');
})();

const WEEK = 7 * 86_400_000;

/**
 * The demo is moved by whole weeks, so it is up to six days old. Eight in the morning of its own day this week: on that clock the shop is the same on
 * every day of the week.
 */
export const demoMorning = (): number =>
  Date.parse(`${DEMO_DAY}T08:00:00.000Z`) + Math.floor((Date.now() - Date.parse(DEMO_DAY)) / WEEK) * WEEK;
