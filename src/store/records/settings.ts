import { defaultSettings, settingsSchema, type Settings } from '@/core/case';
import { database } from '../database';

const KEY = 'shop';

/** The shop's settings; defaults where none are stored or what is stored no longer parses. */
export async function loadSettings(): Promise<Settings> {
  const stored = await database().settings.get(KEY);
  const read = settingsSchema.safeParse({
    ...defaultSettings(),
    ...(typeof stored?.value === 'object' ? stored.value : {}),
  });
  return read.success ? read.data : defaultSettings();
}

export async function saveSettings(settings: Settings): Promise<void> {
  await database().settings.put({ key: KEY, value: settingsSchema.parse(settings) });
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
