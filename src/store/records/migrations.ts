import { summarise, applyEvents } from '@/core/ticket';
import type { SorterDatabase } from '../database';
import { isTicketEvents } from './parse';

/**
 * Changes of meaning of stored records, apart from Dexie's table version. Named, numbered, in order; each has a fixture of the data before it in
 * migrations.test.ts, and that test fails when one is missing. The number reached is written in the transaction that changes the records.
 */
export type Migration = { to: number; name: string; up: (db: SorterDatabase) => Promise<void> };

export const MIGRATIONS: readonly Migration[] = [
  {
    to: 1,
    name: 'events-carry-their-version',
    up: async (db) => {
      await db.events.toCollection().modify((event) => {
        event.version ??= 1;
      });
    },
  },
  {
    to: 2,
    name: 'summaries-hold-what-a-ticket-waits-for',
    up: async (db) => {
      const summaries = await db.summaries
        .where('[kind+open]')
        .between(['ticket', 0], ['ticket', 1], true, true)
        .toArray();
      for (const record of summaries) {
        if (record.kind !== 'ticket') continue;
        const events = await db.events
          .where('[stream+sequence]')
          .between([record.stream, 0], [record.stream, Infinity])
          .toArray();
        if (isTicketEvents(events))
          await db.summaries.update(record.stream, { summary: summarise(applyEvents(events)) });
      }
    },
  },
];

export const RECORD_VERSION = MIGRATIONS.at(-1)?.to ?? 0;

export type MigrationOutcome = { kind: 'ready' } | { kind: 'newer'; found: number };

/** Brings the records to today's version. Data of a newer version is left alone and said. */
export async function migrate(db: SorterDatabase): Promise<MigrationOutcome> {
  const known = await db.meta.get('recordVersion');
  const empty = known === undefined && (await db.events.count()) === 0;
  const from = empty ? RECORD_VERSION : Number(known?.value ?? 0);
  if (from > RECORD_VERSION) return { kind: 'newer', found: from };
  for (const migration of MIGRATIONS) {
    if (migration.to <= from) continue;
    await db.transaction('rw', db.tables, async () => {
      await migration.up(db);
      await db.meta.put({ key: 'recordVersion', value: migration.to });
    });
  }
  if (empty) await db.meta.put({ key: 'recordVersion', value: RECORD_VERSION });
  return { kind: 'ready' };
}
