import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import type { SorterDatabase } from '../database';
import { migrate, MIGRATIONS, RECORD_VERSION } from './migrations';

type Fixture = { before: (db: SorterDatabase) => Promise<unknown>; after: (db: SorterDatabase) => Promise<void> };

const AT = '2025-03-01T08:00:00.000Z';
const opened = {
  id: 'e1',
  stream: 'ticket:a',
  sequence: 1,
  at: AT,
  data: { type: 'opened', number: 4, customerId: null, machineId: null },
};

/** Data as each version really stored it, before its migration, and what must hold afterwards. */
const FIXTURES: Record<string, Fixture> = {
  'events-carry-their-version': {
    before: (db) => db.table('events').add(opened),
    after: async (db) => {
      expect(await db.events.get('e1')).toMatchObject({ ...opened, version: 1 });
    },
  },
  'summaries-hold-what-a-ticket-waits-for': {
    before: async (db) => {
      await db.table('events').add({ ...opened, version: 1 });
      await db.table('summaries').add({
        stream: 'ticket:a',
        kind: 'ticket',
        open: 1,
        number: 4,
        modelId: '',
        summary: { ticketId: 'a', number: 4 },
      });
    },
    after: async (db) => {
      expect((await db.summaries.get('ticket:a'))?.summary).toMatchObject({
        waiting: { for: 'you', since: AT },
        next: 'read-plate',
      });
    },
  },
};

describe('migrations', () => {
  it('are numbered without a gap, and each has a fixture', () => {
    expect(MIGRATIONS.map((migration) => migration.to)).toEqual(MIGRATIONS.map((_, at) => at + 1));
    expect(MIGRATIONS.map((migration) => migration.name).sort()).toEqual(Object.keys(FIXTURES).sort());
    expect(RECORD_VERSION).toBe(MIGRATIONS.length);
  });

  for (const migration of MIGRATIONS)
    it(`${migration.to}, ${migration.name}, opens the data before it`, async () => {
      const db = freshDatabase();
      const fixture = FIXTURES[migration.name];
      await fixture?.before(db);
      await db.meta.put({ key: 'recordVersion', value: migration.to - 1 });
      expect(await migrate(db)).toEqual({ kind: 'ready' });
      await fixture?.after(db);
      expect((await db.meta.get('recordVersion'))?.value).toBe(RECORD_VERSION);
    });

  it('leave data of a newer version alone and say so', async () => {
    const db = freshDatabase();
    await db.meta.put({ key: 'recordVersion', value: RECORD_VERSION + 3 });
    await db.table('events').add(opened);
    expect(await migrate(db)).toEqual({ kind: 'newer', found: RECORD_VERSION + 3 });
    expect(await db.events.get('e1')).toEqual(opened);
  });

  it('mark an empty database as up to date', async () => {
    const db = freshDatabase();
    await migrate(db);
    expect((await db.meta.get('recordVersion'))?.value).toBe(RECORD_VERSION);
  });
});
