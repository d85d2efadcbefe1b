import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { type Catalogue, type Platform } from '@/core/catalogue';
import { readPackage, type PackageFile } from '@/core/package';
import { settingsSchema, type Settings } from '@/core/case';
import type { TicketEvent } from '@/core/ticket';
import { defined, groupBy } from '@/core/units';

const SHOP = path.join(import.meta.dirname, '../../demo-shop');

/** The demo catalogue's files, as a user's package would come. */
export const demoFiles = (): PackageFile[] =>
  readdirSync(path.join(SHOP, 'catalogue')).map((name) => ({
    path: name,
    text: readFileSync(path.join(SHOP, 'catalogue', name), 'utf8'),
  }));

let known: Catalogue | null = null;

export function demoCatalogue(): Catalogue {
  known ??= readPackage(demoFiles()).catalogue;
  return known;
}

export const platform = (id: string): Platform =>
  defined(
    demoCatalogue().platforms.find((entry) => entry.id === id),
    `platform ${id} is in the demo`,
  );

export const demoSettings = (): Settings => {
  const raw: unknown = JSON.parse(readFileSync(path.join(SHOP, 'shop.json'), 'utf8'));
  return settingsSchema.parse(typeof raw === 'object' && raw !== null && 'settings' in raw ? raw.settings : null);
};

/** The demo's ticket streams by ticket number. */
export function demoTickets(): Map<number, TicketEvent[]> {
  const events = readFileSync(path.join(SHOP, 'events.jsonl'), 'utf8')
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as TicketEvent)
    .filter((event) => event.stream.startsWith('ticket:'));
  return new Map(
    [...groupBy(events, (event) => event.stream).values()].map((stream) => {
      const opened = stream.find((event) => event.data.type === 'opened');
      return [opened?.data.type === 'opened' ? opened.data.number : 0, stream];
    }),
  );
}
