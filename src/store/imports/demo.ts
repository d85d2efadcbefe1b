import { settingsSchema } from '@/core/case';
import { customerAfter, type Customer } from '@/core/ticket';
import { addDays, daysBetween, stableJson, type LocalDate, asDay, localDateSchema } from '@/core/units';
import * as z from '@/core/units/zod';
import { wipeWithin } from '../backup/backup';
import type { SorterDatabase } from '../database';
import { mustBeThere, setLayers, sweep } from '../editions/layers';
import { rebuildSummaries } from '../records/act';
import type { AnyEvent } from '../records/door';
import { storedEventSchema } from '../records/parse';
import { importPackage, type ImportProgress } from './importPackage';
import { openPackage, readText } from './packageFiles';

const shopSchema = z.object({ anchorDate: localDateSchema, settings: settingsSchema });

/** Whole weeks from the day on which the demo was written down to now, so that weekdays stay. */
export const weeksToShift = (anchorDate: LocalDate, today: LocalDate): number =>
  Math.floor(daysBetween(anchorDate, today) / 7);

/** Moves every date and instant in a text of JSON by whole days. Part numbers and the like are not touched: the pattern is a whole quoted value. */
export function shiftDates(json: string, days: number): string {
  const shifted = json.replace(/"(\d{4}-\d{2}-\d{2})"/g, (_, date: string) => `"${addDays(asDay(date), days)}"`);
  return shifted.replace(
    /"(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2}:\d{2}\.\d{3}Z)"/g,
    (_, date: string, time: string) => `"${addDays(asDay(date), days)}T${time}"`,
  );
}

/** What stands in a shop that is somebody's own: asked about before the demo takes its place. */
export async function hasOwnData(db: SorterDatabase): Promise<boolean> {
  return (await db.events.count()) > 0 || (await db.settings.count()) > 0 || (await db.editions.count()) > 0;
}

/**
 * The demo shop in place of everything that is in the database, through the same readers as a user's files; never mixed with what was there. Returns what
 * was wrong, if anything: then nothing was changed.
 */
export async function loadDemo(
  db: SorterDatabase,
  file: File,
  today: LocalDate,
  progress: (at: ImportProgress) => void,
): Promise<string | null> {
  const { entries } = await openPackage([file]);
  const [shopEntry, eventEntry] = [entries.get('shop.json'), entries.get('events.jsonl')];
  if (!shopEntry || !eventEntry) return 'shop.json or events.jsonl is missing';
  const [shopText, eventText] = await Promise.all([readText(shopEntry), readText(eventEntry)]);
  if (typeof shopText !== 'string' || typeof eventText !== 'string') return 'shop.json or events.jsonl cannot be read';
  const shop = shopSchema.parse(JSON.parse(shopText));
  const days = weeksToShift(shop.anchorDate, today) * 7;
  const events: AnyEvent[] = shiftDates(eventText, days)
    .split('\n')
    .filter(Boolean)
    .map((line) => storedEventSchema.parse(JSON.parse(line)));
  const result = await importPackage(db, [file], progress, () => false, 'alone');
  if (result.kind === 'cancelled') return 'cancelled';
  if (result.kind === 'problems') return `${result.problems[0]?.file}: ${result.problems[0]?.why}`;
  await db.transaction('rw', db.tables, async () => {
    await wipeWithin(db, 'catalogue-stays');
    await db.events.bulkAdd(events);
    await db.settings.put({ key: 'shop', value: shop.settings });
    const customers = new Map<string, Customer>();
    for (const { data } of events)
      if (data.type === 'customer-noted')
        customers.set(data.customerId, customerAfter(customers.get(data.customerId) ?? null, data));
    await db.customers.bulkPut([...customers.values()].map(({ customerId: id, ...rest }) => ({ id, ...rest })));
    await db.meta.put({ key: 'seeded', value: stableJson({ anchorDate: shop.anchorDate, days }) });
    await mustBeThere(db, result.editionId);
    await setLayers(db, [{ id: result.editionId, on: true }]);
    await rebuildSummaries(db);
  });
  await sweep(db);
  return null;
}
