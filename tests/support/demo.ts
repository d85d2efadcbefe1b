import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { type Catalogue, type Platform } from '@/core/catalogue';
import { packageDescriptor, readPackage, type PackageFile } from '@/core/package';
import { settingsSchema, type Settings } from '@/core/case';
import type { OrderEvent } from '@/core/order';
import type { TicketEvent } from '@/core/ticket';
import { defined, groupBy } from '@/core/units';

const SHOP = path.join(import.meta.dirname, '../../demo-shop');

const KNOWLEDGE = path.join(import.meta.dirname, '../../knowledge');
const filesIn = (folder: string): PackageFile[] =>
  readdirSync(folder).map((name) => ({ path: name, text: readFileSync(path.join(folder, name), 'utf8') }));

/** The knowledge that ships with the application, and the demo's own package over it: each as it lies in its folder. */
export const knowledgeFiles = (): PackageFile[] => filesIn(KNOWLEDGE);
export const demoPackage = (): PackageFile[] => filesIn(path.join(SHOP, 'catalogue'));

/** Both as one package that needs nothing under it, as somebody may make one. */
export function demoFiles(): PackageFile[] {
  const texts = new Map(knowledgeFiles().map((file) => [file.path, file.text]));
  for (const { path: name, text } of demoPackage()) {
    const below = texts.get(name);
    texts.set(name, below === undefined ? text : below + text.slice(text.indexOf('\n') + 1));
  }
  texts.set('datapackage.json', JSON.stringify(packageDescriptor('sorter-demo-shop', 'Catalogue of the demo shop')));
  return [...texts].map(([name, text]) => ({ path: name, text }));
}

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

/** The events of the demo's orders. */
export const demoOrders = (): OrderEvent[] =>
  readFileSync(path.join(SHOP, 'events.jsonl'), 'utf8')
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as OrderEvent)
    .filter((event) => event.stream.startsWith('order:'));
