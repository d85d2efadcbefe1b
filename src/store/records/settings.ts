import { defaultSettings, settingsSchema, type Settings } from '@/core/case';
import { currencyDecimals, type Money } from '@/core/units';
import * as z from '@/core/units/zod';
import { database } from '../database';

const KEY = 'shop';
const FIELDS = Object.entries(settingsSchema.shape);

export type ReadSettings = {
  settings: Settings;
  /** Fields that are stored but cannot be read: their defaults count, and what is stored stays until it is entered anew. */
  unreadable: string[];
  /** Fields that nobody in this shop has entered or looked at: their figures are defaults, not the shop's. */
  defaults: (keyof Settings)[];
  /** false: the shop has never been asked. */
  stored: boolean;
};

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Each field by itself: one that cannot be read takes its default, and the others stay. */
export function readSettings(stored: unknown): ReadSettings {
  const raw = isRecord(stored) ? stored : {};
  const unreadable = FIELDS.flatMap(([name, schema]) =>
    raw[name] === undefined || schema.safeParse(raw[name]).success ? [] : [name],
  );
  const good = Object.fromEntries(Object.entries(raw).filter(([name]) => !unreadable.includes(name)));
  const settings = settingsSchema.parse({ ...defaultSettings(), ...good });
  return { settings, unreadable, defaults: defaultsOf(raw), stored: stored !== undefined };
}

/** Which fields are the shop's own words is kept beside them. A shop of an older version was asked on one page: there they all count as its own. */
const ENTERED = 'entered';
function defaultsOf(raw: Record<string, unknown>): (keyof Settings)[] {
  const entered: unknown = raw[ENTERED];
  if (!Array.isArray(entered)) return [];
  return settingsSchema.keyof().options.filter((name) => !entered.includes(name));
}

export const loadSettingsRow = async (): Promise<ReadSettings> =>
  readSettings((await database().settings.get(KEY))?.value);

/** The shop's settings; the default for what is not stored or cannot be read. */
export const loadSettings = async (): Promise<Settings> => (await loadSettingsRow()).settings;

/** What is entered: only these fields are written, so that two fields changed at once, in two tabs or by a quick hand, are both kept. */
export type SettingsChange = Partial<Omit<Settings, 'rules'>> & { rules?: Partial<Settings['rules']> };

/**
 * Changes some fields in one transaction. A new currency is that of every amount: the figures stay as they are. false: it makes no sense, and
 * nothing was changed. `confirmed`: fields that stay as they are, and that the shop has looked at.
 */
export async function changeSettings(
  change: SettingsChange,
  confirmed: readonly (keyof Settings)[] = [],
): Promise<boolean> {
  const db = database();
  return db.transaction('rw', db.settings, async () => {
    const stored = (await db.settings.get(KEY))?.value;
    const { settings } = readSettings(stored);
    const changed = { ...settings, ...change, rules: { ...settings.rules, ...change.rules } };
    const next = settingsSchema.safeParse(
      change.currency === undefined ? changed : inCurrency(changed, change.currency),
    );
    if (!next.success) return false;
    const raw = isRecord(stored) ? stored : {};
    const kept = Object.fromEntries(Object.entries(raw).filter(([name]) => !(name in change)));
    // What could not be read and was not entered now stays as it lies there.
    const { unreadable } = readSettings(kept);
    const untouched = Object.fromEntries(unreadable.map((name) => [name, raw[name]]));
    const all = settingsSchema.keyof().options;
    const before = stored === undefined ? [] : all.filter((name) => !defaultsOf(raw).includes(name));
    const entered = [...new Set([...before, ...Object.keys(change), ...confirmed])].sort();
    await db.settings.put({ key: KEY, value: { ...next.data, ...untouched, [ENTERED]: entered } });
    return true;
  });
}

const moneyLike = z.object({ amountMinor: z.number(), currency: z.string() });

/** Every amount in it, however deep, in another currency: the figure stays as it is. */
function inCurrency(value: unknown, currency: string): unknown {
  const money = moneyLike.safeParse(value);
  if (money.success) {
    const places = currencyDecimals(currency) - currencyDecimals(money.data.currency);
    return { amountMinor: Math.round(money.data.amountMinor * 10 ** places), currency } satisfies Money;
  }
  if (Array.isArray(value)) return value.map((entry: unknown) => inCurrency(entry, currency));
  if (!isRecord(value)) return value;
  return Object.fromEntries(Object.entries(value).map(([name, entry]) => [name, inCurrency(entry, currency)]));
}

/** Names this shop towards the simulated suppliers; made once. */
export async function shopId(): Promise<string> {
  const db = database();
  return db.transaction('rw', db.meta, async () => {
    const known = await db.meta.get('shopId');
    if (typeof known?.value === 'string') return known.value;
    const value = crypto.randomUUID();
    await db.meta.put({ key: 'shopId', value });
    return value;
  });
}
