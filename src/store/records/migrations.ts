import type { Instant } from '@/core/units';
import * as z from '@/core/units/zod';
import { RECORD_TABLES, type AsideRecord, type SorterDatabase } from '../database';
import { rebuildSummaries } from './act';
import { storedEventSchema } from './parse';
import { RECORD_VERSION } from './version';
import { pricesInPacks, reserveInBasisPoints } from './upgrades/figures';
import { ownIdsAreBare } from './upgrades/own';
import { inTable, isPlain, text, type Plain, type PlainTables, type PutAside, type Upgraded } from './upgrades/plain';
import { roundsAndLines } from './upgrades/rounds';
import { textsWithinLimits } from './upgrades/texts';

/**
 * Changes of meaning of stored records, apart from Dexie's table version. Named, numbered, in order; each has a fixture of the data before it in
 * migrations.test.ts, and that test fails when one is missing. They touch plain rows only, of the database or of a backup: no schema and no reducer of today.
 * Afterwards everything is validated, and the summaries are rebuilt once.
 */
export type Migration = { to: number; name: string; up: (tables: PlainTables) => Upgraded };

export const MIGRATIONS: readonly Migration[] = [
  {
    to: 1,
    name: 'events-carry-their-version',
    up: (tables) => ({
      tables: inTable(tables, 'events', (event) => ({ ...event, version: event['version'] ?? 1 })),
      aside: [],
    }),
  },
  // Version 2 changed the summaries, which are rebuilt in any case.
  { to: 2, name: 'summaries-hold-what-a-ticket-waits-for', up: (tables) => ({ tables, aside: [] }) },
  { to: 3, name: 'texts-within-limits', up: textsWithinLimits },
  { to: 4, name: 'decisions-know-what-they-rest-on', up: roundsAndLines },
  { to: 5, name: 'prices-and-stock-in-packs', up: pricesInPacks },
  { to: 6, name: 'reserve-in-basis-points', up: reserveInBasisPoints },
  // Version 7 changed what a machine that is not listed waits for: the summaries are rebuilt in any case.
  { to: 7, name: 'unlisted-machines-have-a-rung', up: (tables) => ({ tables, aside: [] }) },
  // The summaries hold what a ticket teaches, too.
  { to: 8, name: 'own-ids-are-bare', up: ownIdsAreBare },
  // Summaries of orders hold what is to be known of an answer; a customer's fields come one by one.
  { to: 9, name: 'answers-are-judged', up: (tables) => ({ tables, aside: [] }) },
  // What a machine was promised for, what the bench owes it, how the shop worked: in the summaries.
  { to: 10, name: 'summaries-hold-the-day-and-the-records', up: (tables) => ({ tables, aside: [] }) },
  // Orders know what goes back, what does not come, and their invoices.
  { to: 11, name: 'orders-hold-what-goes-back', up: (tables) => ({ tables, aside: [] }) },
  // What a machine waited for, what it earned, what was told and advised: in the summaries.
  { to: 12, name: 'records-hold-days-prices-and-advice', up: (tables) => ({ tables, aside: [] }) },
  // When each parcel came: in the summaries of orders.
  { to: 13, name: 'receipts-know-their-day', up: (tables) => ({ tables, aside: [] }) },
  // A new event says that nobody knows how old a machine is; what was kept before stays as it is.
  { to: 14, name: 'nobody-may-know-how-old-it-is', up: (tables) => ({ tables, aside: [] }) },
];

/** Rows of any version as today's, validated: what cannot be read is put aside with its reason. */
export function bringUp(tables: PlainTables, from: number): Upgraded {
  let current = tables;
  const aside: PutAside[] = [];
  for (const migration of MIGRATIONS) {
    if (migration.to <= from) continue;
    const next = migration.up(current);
    current = next.tables;
    aside.push(...next.aside);
  }
  const valid = Object.entries(current).map(([table, rows]): [string, Plain[]] => {
    const schema = SCHEMAS[table] ?? keyed;
    return [
      table,
      rows.filter((row) => {
        if (schema.safeParse(row).success) return true;
        aside.push({ table, why: 'unreadable', raw: row });
        return false;
      }),
    ];
  });
  return { tables: withBeginnings(Object.fromEntries(valid), aside), aside };
}

const keyed = z.record(z.string(), z.unknown());
const SCHEMAS: Readonly<Record<string, z.ZodType>> = { events: storedEventSchema };

const BEGINNINGS = new Set<unknown>(['opened', 'order-made', 'stocked']);

/** A stream without its beginning says nothing by itself: the whole of it is put aside. */
function withBeginnings(tables: PlainTables, aside: PutAside[]): PlainTables {
  const events = tables['events'] ?? [];
  const begun = new Set(
    events.filter(({ data }) => isPlain(data) && BEGINNINGS.has(data['type'])).map(({ stream }) => text(stream)),
  );
  const [kept, without] = [
    events.filter(({ stream }) => begun.has(text(stream))),
    events.filter(({ stream }) => !begun.has(text(stream))),
  ];
  for (const raw of without) aside.push({ table: 'events', why: 'without-beginning', raw });
  return { ...tables, events: kept };
}

/** Rows for the table of what was put aside. Named by their content, so that the same backup gives the same rows. */
export const asideRows = (aside: readonly PutAside[], at: Instant): AsideRecord[] =>
  aside.map(({ table, why, raw }, index) => {
    const id = isPlain(raw) && typeof raw['id'] === 'string' ? raw['id'] : String(index);
    return { id: `${table} ${id} ${why}`, table, at, why, raw };
  });

/** Brings the records to today's version, in one transaction; the number of rows that were put aside. */
export function migrate(db: SorterDatabase, from: number, at: Instant): Promise<number> {
  return db.transaction('rw', db.tables, async () => {
    const tables: Record<string, Plain[]> = {};
    for (const table of RECORD_TABLES) if (table !== 'photos') tables[table] = await db.table<Plain>(table).toArray();
    const { tables: today, aside } = bringUp(tables, from);
    for (const [table, rows] of Object.entries(today)) {
      await db.table(table).clear();
      await db.table(table).bulkAdd([...rows]);
    }
    await db.aside.bulkPut(asideRows(aside, at));
    await db.meta.put({ key: 'recordVersion', value: RECORD_VERSION });
    await rebuildSummaries(db);
    return aside.length;
  });
}
