import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { demoOrders, demoTickets } from '../../../tests/support/demo';
import { freshDatabase } from '../../../tests/support/database';
import { unzipSync, strFromU8 } from 'fflate';
import { applyEvents, summarise, rungOf, standing, type TicketState } from '@/core/ticket';
import { applyOrderEvents } from '@/core/order';
import { groupBy, asDay, asInstant, defined, type PartId, asId } from '@/core/units';
import { exportBackup } from '../backup/backup';
import { restoreBackup } from '../backup/restore';
import { eventsOf } from './act';
import { bringUp, MIGRATIONS } from './migrations';
import { openRecords } from './opening';
import { RECORD_VERSION } from './version';
import { isOrderEvents, isTicketEvents, storedEventSchema } from './parse';
import type { Plain, PlainTables } from './upgrades/plain';

const AT = asInstant('2025-03-01T08:00:00.000Z');
const opened: Plain = {
  id: 'e1',
  stream: 'ticket:a',
  sequence: 1,
  at: AT,
  data: { type: 'opened', number: 4, customerId: null, machineId: null },
};
const event = (sequence: number, data: Plain, stream = 'ticket:a'): Plain => ({
  id: `${stream} ${sequence}`,
  stream,
  sequence,
  version: 1,
  at: AT,
  data,
});
const eur = (amountMinor: number) => ({ amountMinor, currency: 'EUR' });
const bought = (partId: PartId) => ({ partId, partNumber: partId, description: 'd', quantity: 2, unitPrice: eur(5) });
const chosen = (partId: PartId): Plain => ({
  type: 'parts-chosen',
  causeId: 'c',
  parts: [
    {
      requirementId: 'pump any',
      roleId: 'pump',
      causeId: 'c',
      companion: false,
      position: 'any',
      route: 'maker',
      buy: [bought(partId)],
      alternatives: [bought(asId('other')), { ...bought(asId('single')), quantity: 1 }],
    },
  ],
});
const upgraded = (name: string, tables: PlainTables) => {
  const migration = MIGRATIONS.find((entry) => entry.name === name);
  if (!migration) throw new Error(name);
  return bringUp(tables, migration.to - 1);
};
const stateOf = ({ tables }: { tables: PlainTables }, stream = 'ticket:a'): TicketState => {
  const events = (tables['events'] ?? [])
    .map((row) => storedEventSchema.parse(row))
    .filter((entry) => entry.stream === stream);
  if (!isTicketEvents(events)) throw new Error('no ticket');
  return applyEvents(events);
};

type Fixture = () => void | Promise<void>;
/** Data as each version really stored it, before its migration, and what must hold afterwards. */
const FIXTURES: Record<string, Fixture> = {
  'nobody-may-know-how-old-it-is': async () => {
    const db = freshDatabase();
    const before = defined(demoTickets().get(201), 'a ticket');
    await db.events.bulkAdd(before);
    await db.meta.put({ key: 'recordVersion', value: 13 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 0 });
    expect(
      await db.events
        .where('stream')
        .equals(before[0]?.stream ?? '')
        .sortBy('sequence'),
    ).toEqual(before);
  },
  'receipts-know-their-day': async () => {
    const db = freshDatabase();
    const orders = demoOrders();
    const came = orders.find(({ data }) => data.type === 'line-received');
    const stream = came?.stream ?? '';
    await db.events.bulkAdd(orders.filter((event) => event.stream === stream));
    // As it was kept before: what came, not when.
    const summary = { lines: [{ received: [{ packs: 1 }] }] };
    await db.table('summaries').add({ stream, kind: 'order', open: 0, number: 0, modelId: '', summary });
    await db.meta.put({ key: 'recordVersion', value: 12 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 0 });
    const after = await db.summaries.get(stream);
    const days = after?.kind === 'order' ? after.summary.lines.flatMap(({ received }) => received) : [];
    expect(days.map(({ at }) => at)).toContain(came?.at);
  },
  'records-hold-days-prices-and-advice': async () => {
    const db = freshDatabase();
    const closed =
      [...demoTickets().values()].find((events) => applyEvents(events).closed?.outcome === 'repaired') ?? [];
    const stream = closed[0]?.stream ?? '';
    await db.events.bulkAdd(closed);
    const before = { stream, kind: 'ticket', open: 0, number: 1, modelId: '' };
    await db
      .table('summaries')
      .add({ ...before, summary: {}, lesson: { closed: { record: { outcome: 'repaired' } } } });
    await db.meta.put({ key: 'recordVersion', value: 11 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 0 });
    const after = await db.summaries.get(stream);
    const waited = after?.kind === 'ticket' ? after.lesson.closed?.record?.waited : undefined;
    expect((waited?.you ?? 0) + (waited?.customer ?? 0)).toBeGreaterThan(0);
  },
  'orders-hold-what-goes-back': async () => {
    const db = freshDatabase();
    const orders = demoOrders();
    const stream = orders[0]?.stream ?? '';
    await db.events.bulkAdd(orders.filter((event) => event.stream === stream));
    // As it was kept before: nothing of returns.
    await db.table('summaries').add({ stream, kind: 'order', open: 1, number: 0, modelId: '', summary: { lines: [] } });
    await db.meta.put({ key: 'recordVersion', value: 10 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 0 });
    const after = await db.summaries.get(stream);
    expect(after?.summary).toMatchObject({ returns: [], invoices: [] });
    expect(after?.kind === 'order' ? after.summary.lines.map(({ short }) => short) : []).toContain(0);
  },
  'summaries-hold-the-day-and-the-records': async () => {
    const db = freshDatabase();
    const closed =
      [...demoTickets().values()].find((events) => applyEvents(events).closed?.outcome === 'repaired') ?? [];
    const stream = closed[0]?.stream ?? '';
    await db.events.bulkAdd(closed);
    // As it was kept before: the customer's words cut off, nothing of how the shop worked.
    const before = { stream, kind: 'ticket', open: 0, number: 1, modelId: '' };
    await db
      .table('summaries')
      .add({ ...before, summary: { words: 'Just brought in, plate' }, lesson: { closed: {} } });
    await db.meta.put({ key: 'recordVersion', value: 9 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 0 });
    const state = applyEvents(closed);
    const after = await db.summaries.get(stream);
    expect(after).toMatchObject({
      summary: { benchMinutes: 0 },
      lesson: { closed: { record: { openedAt: state.openedAt, outcome: 'repaired' } } },
    });
    expect(after?.summary).not.toMatchObject({ words: 'Just brought in, plate' });
  },
  'own-ids-are-bare': () => {
    const on = { modelId: 'unlisted:kx 9100 / w', serial: null, causeId: 'c' };
    const bought = {
      partId: 'typed:zp-44 71',
      partNumber: 'zp-44 71',
      description: 'typed:by hand',
      quantity: 1,
      cost: null,
    };
    const parts = [
      {
        requirementId: 'r',
        roleId: 'pump',
        causeId: 'c',
        companion: false,
        position: 'any',
        route: 'typed',
        bought,
        alternatives: [],
      },
    ];
    const state = stateOf(
      upgraded('own-ids-are-bare', {
        events: [
          event(1, opened['data'] as Plain),
          event(2, { type: 'plate-not-listed', text: 'kx 9100 / w' }),
          event(3, { type: 'cause-decided', causeId: 'c', name: 'c', needsPart: true }),
          event(4, { type: 'parts-chosen', causeId: 'c', parts, on }),
        ].map((row) => ({ ...row, groupId: String(row['id']), version: 2 })),
      }),
    );
    expect(state.round.partsOn?.on.modelId).toBe('unlisted:KX9100W');
    expect(state.round.parts[0]?.bought).toMatchObject({
      partId: 'typed:ZP4471',
      partNumber: 'zp-44 71',
      description: 'typed:by hand',
    });
    // What was decided stands: it is the same machine.
    expect(standing(state).part).toBe('stands');
  },
  'events-carry-their-version': () => {
    const { tables, aside } = upgraded('events-carry-their-version', { events: [opened] });
    expect(tables['events']?.[0]).toMatchObject({ id: 'e1', version: 2, groupId: 'e1' });
    expect(aside).toEqual([]);
  },
  'answers-are-judged': () => {
    const customer = { type: 'customer-noted', customerId: 'c', name: 'A', phone: '1', place: 'P' };
    const tables = upgraded('answers-are-judged', {
      events: [event(1, opened['data'] as Plain), event(2, customer)].map((row) => ({
        ...row,
        groupId: String(row['id']),
        version: 2,
      })),
    });
    expect(stateOf(tables).customer).toEqual({ customerId: 'c', name: 'A', phone: '1', place: 'P' });
  },
  'unlisted-machines-have-a-rung': () => {
    const unlisted = event(2, { type: 'plate-not-listed', text: 'KX 1' });
    const state = stateOf(
      upgraded('unlisted-machines-have-a-rung', {
        events: [event(1, opened['data'] as Plain), unlisted].map((row) => ({
          ...row,
          groupId: String(row['id']),
          version: 2,
        })),
      }),
    );
    expect(summarise(state)).toMatchObject({ machine: 'KX 1', rung: 'tell-kind' });
  },
  'summaries-hold-what-a-ticket-waits-for': () => {
    expect(
      stateOf(upgraded('summaries-hold-what-a-ticket-waits-for', { events: [event(1, opened['data'] as Plain)] }))
        .number,
    ).toBe(4);
  },
  'texts-within-limits': () => {
    const serial = 'L30K '.repeat(40);
    const events = [event(1, opened['data'] as Plain), event(2, { type: 'serial-noted', serial })];
    const { tables, aside } = upgraded('texts-within-limits', { events });
    expect(stateOf({ tables }).serial).toBe(serial.slice(0, 80));
    // Nothing is lost: the whole row lies aside.
    expect(aside).toMatchObject([{ table: 'events', why: 'text-too-long', raw: { data: { serial } } }]);
  },
  'decisions-know-what-they-rest-on': () => {
    const order = 'order:o1';
    const line = (offerId: string, units: number) => ({
      offerId,
      partId: 'p2',
      partNumber: 'p2',
      description: '',
      supplierNumber: 'S',
      packs: units,
      unitPrice: eur(5),
      for: [{ ticketId: 'a', requirementId: 'pump any', partId: 'p2', units }],
    });
    const base = { requirementId: 'pump any', orderId: 'o1' };
    const ordered = { type: 'part-ordered', ...base, orderNumber: 'O', supplierName: 'S', dueOn: asDay('2025-03-04') };
    const { tables, aside } = upgraded('decisions-know-what-they-rest-on', {
      events: [
        event(1, opened['data'] as Plain),
        event(2, { type: 'serial-noted', serial: 'S1' }),
        event(3, { type: 'cause-decided', causeId: 'c', name: 'c' }),
        event(4, chosen(asId('p1'))),
        // Another number under the same id: it was never ordered.
        event(5, chosen(asId('p2'))),
        event(6, ordered),
        event(7, ordered),
        event(8, { type: 'part-received', ...base, partNumber: 'p2', verdict: 'as-ordered' }),
        event(9, { type: 'step-ticked', key: 'strip lid-off', operationId: 'lid-off', waitUntil: null }),
        event(10, { type: 'code-noted', code: 'X9', findingId: null, meaning: 'not listed for this maker' }),
        event(
          1,
          {
            type: 'order-made',
            number: 'O',
            supplierId: 's',
            supplierName: 'S',
            modeId: 'm',
            modeName: 'M',
            lines: [line('l1', 1), line('l2', 1)],
            shipping: eur(0),
            expectedOn: asDay('2025-03-04'),
          },
          order,
        ),
        event(2, { type: 'send-failed', why: 'refused', detail: 'x', attempt: 1, retryAt: null }, order),
      ],
    });
    expect(aside).toEqual([]);
    const state = stateOf({ tables });
    expect(state.round.partsOn?.on).toEqual({ modelId: null, serial: 'S1', causeId: 'c' });
    expect(state.round.cause).toMatchObject({ needsPart: true });
    const [part] = state.round.parts;
    expect(part).toMatchObject({ bought: { partId: 'p2', cost: eur(5) }, alternatives: [{ partId: 'other' }] });
    expect(part?.requirementId).not.toBe('pump any');
    const deliveries = state.deliveries[part?.requirementId ?? ''] ?? [];
    expect(deliveries.map(({ from, units, here }) => [from.kind === 'order' ? from.lineId : '', units, here])).toEqual([
      ['l1', 1, 1],
      ['l2', 1, 0],
    ]);
    expect(state.round.ticks[0]?.step).toEqual({ phase: 'strip', operationId: 'lid-off' });
    expect(state.codes[0]?.meaning).toBeNull();
    const orders = (tables['events'] ?? [])
      .map((row) => storedEventSchema.parse(row))
      .filter(({ stream }) => stream === order);
    const made = isOrderEvents(orders) ? applyOrderEvents(orders) : null;
    expect(made).toMatchObject({ phase: 'unknown', lines: [{ lineId: 'l1', packPrice: eur(5) }, { lineId: 'l2' }] });
    expect(made?.lines[0]?.for[0]?.requirementId).toBe(part?.requirementId);
  },
  'prices-and-stock-in-packs': () => {
    const row = { id: 'p', supplierId: 's', price: eur(100), packQuantity: 10, stock: 45 };
    const { tables } = upgraded('prices-and-stock-in-packs', { prices: [row, { ...row, id: 'q', stock: 3 }] });
    expect(tables['prices']).toMatchObject([
      { packPrice: eur(100), stockPacks: 4 },
      { packPrice: eur(100), stockPacks: 1 },
    ]);
  },
  'reserve-in-basis-points': () => {
    const row = { key: 'shop', value: { shopName: 'x', reserveShare: 0.04 } };
    const { tables } = upgraded('reserve-in-basis-points', { settings: [row] });
    expect(tables['settings']).toEqual([{ key: 'shop', value: { shopName: 'x', reserveBasisPoints: 400 } }]);
  },
};

describe('migrations', () => {
  it('are numbered without a gap, and each has a fixture', () => {
    expect(MIGRATIONS.map((migration) => migration.to)).toEqual(MIGRATIONS.map((_, index) => index + 1));
    expect(MIGRATIONS.map((migration) => migration.name).sort()).toEqual(Object.keys(FIXTURES).sort());
    expect(RECORD_VERSION).toBe(MIGRATIONS.length);
  });

  for (const [name, check] of Object.entries(FIXTURES)) it(`“${name}” opens the data before it`, check);

  it('bring a database up in one go, and rebuild its summaries', async () => {
    const db = freshDatabase();
    await db.table('events').add(opened);
    await db.meta.put({ key: 'recordVersion', value: 0 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 0 });
    expect((await db.meta.get('recordVersion'))?.value).toBe(RECORD_VERSION);
    expect((await db.summaries.get('ticket:a'))?.summary).toMatchObject({ rung: 'read-plate', number: 4 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 0 });
  });

  it('put aside what cannot be read, with the rest of a stream that lost its beginning, and delete nothing', async () => {
    const db = freshDatabase();
    await db
      .table('events')
      .bulkAdd([
        opened,
        { ...opened, id: 'e2', sequence: 2, data: { type: 'made-up' } },
        event(2, { type: 'note-added', text: 'x' }, 'ticket:headless'),
      ]);
    await db.meta.put({ key: 'recordVersion', value: 0 });
    expect(await openRecords(db, AT)).toEqual({ kind: 'ready', aside: 2 });
    expect(await db.events.count()).toBe(1);
    expect((await db.aside.toArray()).map(({ why }) => why).sort()).toEqual(['unreadable', 'without-beginning']);
  });

  it('leave data of a newer version alone and say so', async () => {
    const db = freshDatabase();
    await db.meta.put({ key: 'recordVersion', value: RECORD_VERSION + 3 });
    await db.table('events').add(opened);
    expect(await openRecords(db, AT)).toEqual({ kind: 'newer', found: RECORD_VERSION + 3 });
    expect(await db.table('events').get('e1')).toEqual(opened);
  });

  it('mark an empty database as up to date', async () => {
    const db = freshDatabase();
    await openRecords(db, AT);
    expect((await db.meta.get('recordVersion'))?.value).toBe(RECORD_VERSION);
  });
});

const FOLDER = path.join(import.meta.dirname, '../../../tests/fixtures/backups');
const backups = readdirSync(FOLDER).filter((name) => name.endsWith('.zip'));
const read = (name: string) => new Uint8Array(readFileSync(path.join(FOLDER, name)));
const linesOf = (name: string) =>
  strFromU8(unzipSync(read(name))['events.jsonl'] ?? new Uint8Array())
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Plain);

describe('backups that earlier versions wrote', () => {
  it('are kept as files', () => {
    expect(backups.length).toBeGreaterThanOrEqual(4);
  });

  it.each(backups)('%s restores: every event, every ticket on a rung, and the same bytes ever after', async (name) => {
    const db = freshDatabase();
    const result = await restoreBackup(db, new Blob([read(name)]));
    const long = name.includes('long-texts') ? 3 : 0;
    expect(result).toEqual({ ok: true, aside: long });
    const before = linesOf(name);
    expect(await db.events.count()).toBe(before.length);
    expect(await db.aside.count()).toBe(long);
    const streams = groupBy(before, (row) => String(row['stream']));
    expect(await db.summaries.count()).toBe(streams.size);
    for (const stream of streams.keys()) {
      const events = await eventsOf(db, stream);
      if (!isTicketEvents(events)) continue;
      const state = applyEvents(events);
      expect(rungOf(state)).toBeTruthy();
      if (!state.closed)
        expect(standing(state).shaken, `ticket ${state.number}`).toEqual(long ? expect.anything() : []);
    }
    expect((await db.settings.get('shop'))?.value).toMatchObject({
      labourPerHour: { amountMinor: 7200 },
      reserveBasisPoints: 400,
    });
    const again = freshDatabase();
    const bytes = await exportBackup(db);
    expect(await restoreBackup(again, bytes)).toEqual({ ok: true, aside: 0 });
    expect(new Uint8Array(await (await exportBackup(again)).arrayBuffer())).toEqual(
      new Uint8Array(await bytes.arrayBuffer()),
    );
  });
});
