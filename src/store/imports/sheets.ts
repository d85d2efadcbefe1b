import type { Catalogue } from '@/core/catalogue';
import { normaliseNumber } from '@/core/identify';
import { ChangeLog, columnsOf, contentHash, rowKey, rowText } from '@/core/package';
import {
  isComplete,
  SHEET_KINDS,
  type SheetKind,
  type SheetMapping,
  type SheetRow,
  type SheetStyle,
  type SheetWorld,
} from '@/core/sheets';
import { keyBy, type PlatformId, type RoleId } from '@/core/units';
import * as z from '@/core/units/zod';
import { tableNames } from '@/core/catalogue';
import type { CustomerRecord, SorterDatabase } from '../database';
import { CatalogueReader } from '../editions/catalogueReader';
import { EditionReader } from '../editions/editionReader';
import { writeEdition, type Named } from '../editions/editionWriter';
import { activate, layersOf, renewedBy, type Layer } from '../editions/layers';

/** How a list is read: what it is, whose, which column is what, how it writes, and what its names of parts mean. Remembered by its header. */
export type SheetHabit = {
  kind: SheetKind;
  source: string;
  mapping: SheetMapping;
  style: SheetStyle;
  roles: Record<string, RoleId | null>;
};

const habitSchema = z.object({
  kind: z.enum(SHEET_KINDS),
  source: z.string(),
  mapping: z.record(z.string(), z.string()),
  style: z.object({ decimalComma: z.boolean(), currency: z.string(), dayFirst: z.boolean() }),
  roles: z.record(z.string(), z.string().nullable()),
});

const habitKey = (header: readonly string[]) => `sheet ${contentHash(header.join('\u0001'))}`;

export async function rememberSheet(db: SorterDatabase, header: readonly string[], habit: SheetHabit): Promise<void> {
  const mapping = Object.fromEntries(Object.entries(habit.mapping).filter(([, column]) => column !== undefined));
  await db.settings.put({ key: habitKey(header), value: { ...habit, mapping } });
}

/** How a list with this header was read the last time; null for one that was never read. */
export async function sheetHabit(db: SorterDatabase, header: readonly string[]): Promise<SheetHabit | null> {
  const read = habitSchema.safeParse((await db.settings.get(habitKey(header)))?.value);
  if (!read.success) return null;
  const habit = read.data as SheetHabit;
  const columns = Object.values(habit.mapping);
  return isComplete(habit.kind, habit.mapping) && columns.every((name) => name !== undefined && header.includes(name))
    ? habit
    : null;
}

const WHAT: Record<Exclude<SheetKind, 'customers'>, string> = {
  models: 'models',
  parts: 'parts of models',
  replaced: 'old and new numbers',
  equal: 'equal numbers',
  prices: 'prices',
  stock: 'stock',
};

export type CatalogueSheet = Exclude<SheetKind, 'customers'>;

/** The list of a source is a layer of its own: the next one renews it. */
export const sheetLayer = (kind: CatalogueSheet, source: string): Named => ({
  name: `sheet ${kind} ${source.trim().toLowerCase()}`,
  title: `${source.trim()}: ${WHAT[kind]}`,
  version: '',
  prefix: '',
});

/** What the packages know of the numbers of a list, without its own earlier edition and without what the shop learned: those lie above it. */
export async function sheetWorld(db: SorterDatabase, named: Named, rows: readonly SheetRow[]): Promise<SheetWorld> {
  const layers = await layersOf(db);
  const own = renewedBy(layers, named);
  const editions = layers.flatMap((layer) => (layer.on && layer !== own ? [layer.edition] : []));
  const reader = new CatalogueReader(db, 'for a list', editions, null);
  const numbers = (...fields: ('model' | 'part' | 'newPart')[]) => [
    ...new Set(rows.flatMap(({ texts }) => fields.flatMap((field) => texts[field] ?? []))),
  ];
  const small = await reader.smallTables();
  const table = <T extends keyof Catalogue>(name: T): Catalogue[T] => (small[name] ?? []) as Catalogue[T];
  return {
    roles: table('roles'),
    designs: table('designs'),
    kind_questions: table('kind_questions'),
    kind_answers: table('kind_answers'),
    kind_likelihoods: table('kind_likelihoods'),
    makers: table('makers'),
    badges: table('badges'),
    suppliers: table('suppliers'),
    models: keyBy(await reader.modelsNumbered(numbers('model')), (model) => normaliseNumber(model.modelNumber)),
    parts: keyBy(await reader.partsNumbered(numbers('part', 'newPart')), (part) => normaliseNumber(part.partNumber)),
  };
}

/** Rows that the list's earlier edition had not, had otherwise, and had beside; null where there is none. */
export type SheetChanges = { added: number; changed: number; gone: number; same: number };

export async function sheetChanges(
  db: SorterDatabase,
  named: Named,
  catalogue: Catalogue,
): Promise<SheetChanges | null> {
  const before: Layer | null = renewedBy(await layersOf(db), named);
  if (!before) return null;
  const old = new EditionReader(db, before.edition);
  const sums: SheetChanges = { added: 0, changed: 0, gone: 0, same: 0 };
  for (const table of tableNames) {
    const log = new ChangeLog(table, await old.ledger(table));
    for (const row of catalogue[table]) log.note(rowKey(table, row), contentHash(rowText(columnsOf(table), row)), row);
    const { added, changed, gone, same } = log.finish();
    sums.added += added;
    sums.changed += changed;
    sums.gone += gone;
    sums.same += same;
  }
  return sums;
}

export async function putSheet(
  db: SorterDatabase,
  named: Named,
  catalogue: Catalogue,
  platformOf: ReadonlyMap<string, PlatformId>,
): Promise<void> {
  await activate(db, await writeEdition(db, named, catalogue, platformOf));
}

/** Customers by name and telephone: one that is known stays one. */
export async function putCustomers(db: SorterDatabase, rows: readonly SheetRow[]): Promise<number> {
  const records = rows.map(({ texts }): CustomerRecord => {
    const { name = '', phone = '', place = '' } = texts;
    return { id: `list ${contentHash(`${name.toLowerCase()}\u0001${phone}`)}`, name, phone, place };
  });
  await db.customers.bulkPut(records);
  return new Set(records.map(({ id }) => id)).size;
}
