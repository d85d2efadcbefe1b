import { zipSync, strFromU8, strToU8, unzipSync } from 'fflate';
import { beforeEach, describe, expect, it } from 'vitest';
import { freshDatabase } from '../../tests/support/database';
import { demoCatalogue, demoTickets } from '../../tests/support/demo';
import { tableNames, type Row } from '@/core/catalogue';
import { rowKey } from '@/core/package';
import { exactNumbers } from '@/core/identify';
import { cameBack, closeTicket, noteCustomer, remark } from '@/core/ticket';
import { defaultSettings } from '@/core/case';
import { defined, groupBy, asInstant, asDay, asId, type PartId, type TicketId } from '@/core/units';
import { exportBackup as exportBlob, wipe } from './backup/backup';
import { restoreBackup as restoreBlob } from './backup/restore';
import { shiftDates, weeksToShift } from './imports/demo';
import { Components } from './editions/components';
import { activate, sweep } from './editions/layers';
import { topEdition } from '../../tests/support/layers';
import { derivedKinds } from './editions/layout';
import { EditionReader } from './editions/editionReader';
import { writeEdition } from './editions/editionWriter';
import { dexieStore, eventsOf, rebuildSummaries, summaryOf } from './records/act';
import { CLOSED_VERSION } from './records/versions';
import { catalogueOf } from './editions/catalogueReader';
import { onTicket, openTicket } from './records/acts';
import { ticketStream } from './records/door';
import { storedEventSchema } from './records/parse';
import { changeSettings, loadSettings, readSettings } from './records/settings';
import { database, type SorterDatabase } from './database';

const exportBackup = async (db: SorterDatabase) => new Uint8Array(await (await exportBlob(db)).arrayBuffer());
const restoreBackup = (db: SorterDatabase, bytes: Uint8Array) => restoreBlob(db, new Blob([new Uint8Array(bytes)]));

const streamOf = (line: string): string => /"stream":"[^"]+"/.exec(line)?.[0] ?? '';

describe('events', () => {
  it('and their summary are written together, or not at all', async () => {
    const db = freshDatabase();
    const store = dexieStore(db);
    const opened = await openTicket(store, []);
    const [id = asId<TicketId>('none')] = opened.ok ? opened.value.tickets : [];
    expect((await db.summaries.get(ticketStream(id)))?.number).toBe(1);
    await expect(
      store.act({ tickets: [id] }, () => {
        throw new Error('the tab dies');
      }),
    ).rejects.toThrow('the tab dies');
    expect(await eventsOf(db, ticketStream(id))).toHaveLength(1);
  });

  it('never share a sequence: the second writer is refused by the table', async () => {
    const db = freshDatabase();
    const [first] = demoTickets().get(1) ?? [];
    const event = defined(first, 'an event');
    await db.events.add(event);
    await expect(db.events.add({ ...event, id: asId('other') })).rejects.toThrow();
  });

  it('rebuild their summaries to the same as they were written with, one by one', async () => {
    const db = freshDatabase();
    const streams = [...demoTickets().values()];
    for (const events of streams) {
      await db.events.bulkAdd(events);
      await db.summaries.put(defined(summaryOf(events[0]?.stream ?? '', events), 'a summary'));
    }
    const written = await db.summaries.toArray();
    await db.summaries.clear();
    await rebuildSummaries(db);
    expect(written).toHaveLength(212);
    expect(await db.summaries.toArray()).toEqual(written);
  });

  it('make customers and machines known beyond their ticket', async () => {
    const db = freshDatabase();
    const store = dexieStore(db);
    const opened = await openTicket(store, [
      {
        type: 'plate-read',
        text: 'x',
        modelId: asId('m'),
        modelNumber: 'X 1',
        makerId: asId('k'),
        platformId: asId('p'),
        badge: 'b',
        probability: 1,
        others: [],
        confirmed: true,
      },
      { type: 'serial-noted', serial: 'H20K40931' },
    ]);
    const [ticketId = asId<TicketId>('')] = opened.ok ? opened.value.tickets : [];
    await onTicket(store, ticketId, noteCustomer({ name: 'A. Holtmeier' }));
    expect(await db.customers.get(ticketId)).toMatchObject({ name: 'A. Holtmeier' });
    expect(await db.machines.toArray()).toMatchObject([
      { modelNumber: 'X 1', serial: 'H20K40931', customerId: ticketId },
    ]);
  });

  it('come in through one door that knows them', () => {
    const event = demoTickets().get(1)?.[0];
    expect(storedEventSchema.safeParse(event).success).toBe(true);
    expect(storedEventSchema.safeParse({ ...event, stream: 'shelf:1' }).success).toBe(false);
    expect(storedEventSchema.safeParse({ ...event, data: { type: 'made-up' } }).success).toBe(false);
  });

  it('of a closed ticket say that what was learned is out of date', async () => {
    const db = freshDatabase();
    const store = dexieStore(db);
    const version = async () => (await db.meta.get(CLOSED_VERSION))?.value;
    const opened = await openTicket(store, []);
    const [id = asId<TicketId>('none')] = opened.ok ? opened.value.tickets : [];
    await onTicket(store, id, remark('x'));
    expect(await version()).toBeUndefined();
    const how = { outcome: 'repaired' as const, takenMinutes: 9, listMinutes: 9, rightFirstTime: null };
    await onTicket(store, id, closeTicket(how));
    const first = await version();
    expect(first).toBeDefined();
    await onTicket(store, id, cameBack(true));
    const second = await version();
    expect(second).not.toBe(first);
    // Closed again: as many closed tickets as before, and yet something else to learn.
    await onTicket(store, id, closeTicket({ ...how, takenMinutes: 30 }));
    expect(await version()).not.toBe(second);
  });
});

describe('the shop’s figures', () => {
  const stored = async () => (await database().settings.get('shop'))?.value;
  beforeEach(async () => {
    await database().settings.clear();
  });

  it('changed two at once are both kept', async () => {
    await Promise.all([
      changeSettings({ labourPerHour: { amountMinor: 7200, currency: 'EUR' } }),
      changeSettings({ shopName: 'Ours' }),
      changeSettings({ rules: { maxAgeYears: 14 } }),
      changeSettings({ rules: { shareOfNew: 0.4 } }),
    ]);
    expect(await loadSettings()).toMatchObject({
      labourPerHour: { amountMinor: 7200 },
      shopName: 'Ours',
      rules: { maxAgeYears: 14, shareOfNew: 0.4 },
    });
  });

  it('that cannot be read take their defaults one by one, and are not overwritten by another field', async () => {
    await database().settings.put({
      key: 'shop',
      value: { shopName: 'Ours', rho: 'much', promiseDays: 9, unknown: 1 },
    });
    const row = readSettings(await stored());
    expect(row).toMatchObject({ unreadable: ['rho'], settings: { shopName: 'Ours', promiseDays: 9 } });
    expect(row.settings.rho).toBe(defaultSettings().rho);
    await changeSettings({ promiseDays: 3 });
    expect(await stored()).toMatchObject({ rho: 'much', promiseDays: 3, shopName: 'Ours' });
    await changeSettings({ rho: 0.07 });
    expect(await stored()).toMatchObject({ rho: 0.07 });
  });

  it('that make no sense change nothing', async () => {
    await changeSettings({ promiseDays: 4 });
    expect(await changeSettings({ promiseDays: -1 })).toBe(false);
    expect((await loadSettings()).promiseDays).toBe(4);
  });

  it('in another currency keep their figures', async () => {
    await changeSettings({ currency: 'JPY' });
    const settings = await loadSettings();
    expect(settings.currency).toBe('JPY');
    expect(settings.labourPerHour).toEqual({ amountMinor: 54, currency: 'JPY' });
    await changeSettings({ currency: 'KWD' });
    expect((await loadSettings()).labourPerHour).toEqual({ amountMinor: 54_000, currency: 'KWD' });
  });

  it('are asked for until they were entered once', async () => {
    expect(readSettings(await stored()).stored).toBe(false);
    await changeSettings({ zone: 'Asia/Tokyo' });
    expect(readSettings(await stored()).stored).toBe(true);
  });
});

describe('editions of the catalogue', () => {
  const catalogue = demoCatalogue();

  it('keep what is connected together (against a plain search)', () => {
    const components = new Components();
    for (const { fromPartId, toPartId } of catalogue.relations) components.join(fromPartId, toPartId);
    const neighbours = groupBy(
      catalogue.relations.flatMap(({ fromPartId, toPartId }): [PartId, PartId][] => [
        [fromPartId, toPartId],
        [toPartId, fromPartId],
      ]),
      ([from]) => from,
    );
    const seen = new Map<PartId, PartId>();
    for (const { id } of catalogue.parts) {
      if (seen.has(id)) continue;
      const queue = [id];
      for (let next = queue.pop(); next !== undefined; next = queue.pop()) {
        if (seen.has(next)) continue;
        seen.set(next, id);
        queue.push(...(neighbours.get(next) ?? []).map(([, to]) => to));
      }
    }
    // One name for one component, and no name for two.
    const names = new Set([...seen].map(([id, first]) => `${first} ${components.of(id)}`));
    expect(names.size).toBe(new Set(seen.values()).size);
    expect(new Set([...seen.keys()].map((id) => components.of(id))).size).toBe(names.size);
  });

  it('give back every row that was put in', async () => {
    const db = freshDatabase();
    await activate(db, await writeEdition(db, 'x', catalogue));
    const reader = new EditionReader(db, defined(await topEdition(db), 'active'));
    for (const table of tableNames) {
      const byKey = (rows: readonly Row<typeof table>[]) => new Map(rows.map((row) => [rowKey(table, row), row]));
      expect(byKey(await reader.table(table)), table).toEqual(byKey(catalogue[table]));
    }
  });

  it('count only after they are made active; unfinished ones are swept', async () => {
    const db = freshDatabase();
    const first = await writeEdition(db, 'first', catalogue);
    expect(await topEdition(db)).toBeNull();
    await activate(db, first);
    expect((await topEdition(db))?.title).toBe('first');
    await writeEdition(db, 'left by a killed tab', catalogue);
    expect(await db.editions.count()).toBe(2);
    await sweep(db);
    expect(await db.editions.count()).toBe(1);
    expect((await db.buckets.toArray()).every((bucket) => bucket.edition === first)).toBe(true);
  });

  it('make their search indexes where none are stored, and then keep them', async () => {
    const db = freshDatabase();
    await activate(db, await writeEdition(db, 'x', catalogue));
    const reader = new EditionReader(db, defined(await topEdition(db), 'active'));
    const stored = await reader.searchIndexes();
    await db.buckets.filter(({ kind }) => kind.startsWith('derived:')).delete();
    const made = await reader.searchIndexes();
    expect(made.models.size).toBe(stored.models.size);
    expect(made.partList.size).toBe(catalogue.parts.length);
    expect(await db.buckets.filter(({ kind }) => kind === derivedKinds.modelIndex).count()).toBe(1);
    const [model] = catalogue.models;
    const [at] = exactNumbers(made.modelList, model?.modelNumber ?? '');
    expect((await reader.modelsAt([at ?? -1]))[0]?.modelNumber).toBe(model?.modelNumber);
  });

  it('know the models of a part and the parts of a model, both ways round', async () => {
    const db = freshDatabase();
    await activate(db, await writeEdition(db, 'x', catalogue));
    const reader = await catalogueOf(db);
    for (const { id } of catalogue.parts.filter((_, index) => index % 90 === 0))
      expect((await reader.fitsOf(id)).map((fit) => fit.id).sort()).toEqual(
        catalogue.fits
          .filter((fit) => fit.partId === id)
          .map((fit) => fit.id)
          .sort(),
      );
  });

  it('give one machine what its questions need, and no other platform', async () => {
    const db = freshDatabase();
    await activate(db, await writeEdition(db, 'x', catalogue));
    const reader = await catalogueOf(db);
    const found = await reader.forMachine(asId('fj-a1'), [asId('m-fj-a1-01')]);
    expect(found.models.every((model) => model.platformId === 'fj-a1')).toBe(true);
    expect(found.models).toHaveLength(35);
    const wanted = new Set(catalogue.fits.filter((fit) => fit.platformId === 'fj-a1').map((fit) => fit.partId));
    const have = new Set(found.parts.map((part) => part.id));
    for (const id of wanted) expect(have.has(id), id).toBe(true);
    for (const relation of catalogue.relations.filter((entry) => wanted.has(entry.fromPartId)))
      expect(found.relations.some((entry) => entry.id === relation.id)).toBe(true);
  });
});

describe('backup', () => {
  async function filled(): Promise<SorterDatabase> {
    const db = freshDatabase();
    await db.events.bulkAdd([...demoTickets().values()].flat().slice(0, 400));
    await db.photos.add({
      id: 'ph',
      ticketId: asId('t'),
      at: asInstant('2026-01-01T00:00:00.000Z'),
      type: 'image/png',
      bytes: new Uint8Array([0, 255, 7, 128]),
      of: 'bench',
    });
    await db.drafts.add({ key: 'k', text: 'half a wo', at: asInstant('2026-01-01T00:00:00.000Z') });
    await db.meta.put({ key: 'shopId', value: 'shop' });
    await activate(db, await writeEdition(db, 'x', demoCatalogue()));
    await rebuildSummaries(db);
    return db;
  }

  it('gives the same shop and again the same bytes', async () => {
    const db = await filled();
    const bytes = await exportBackup(db);
    const other = freshDatabase();
    expect(await restoreBackup(other, bytes)).toEqual({ ok: true, aside: 0 });
    expect(await exportBackup(other)).toEqual(bytes);
    expect(await other.summaries.toArray()).toEqual(await db.summaries.toArray());
    expect(await other.photos.get('ph')).toMatchObject({ bytes: new Uint8Array([0, 255, 7, 128]), of: 'bench' });
    expect((await topEdition(other))?.title).toBe('x');
    await wipe(other);
    expect(await other.events.count()).toBe(0);
    expect((await other.meta.get('seeded'))?.value).toBe('wiped');
  });

  it('that is damaged, foreign or newer changes nothing, and says what is wrong', async () => {
    const db = await filled();
    const bytes = await exportBackup(db);
    const files = unzipSync(bytes);
    const other = freshDatabase();
    await openTicket(dexieStore(other), []);
    const bad = (change: Record<string, string>) =>
      zipSync({ ...files, ...Object.fromEntries(Object.entries(change).map(([path, text]) => [path, strToU8(text)])) });
    const cases: [Uint8Array, string][] = [
      [strToU8('no zip'), 'not-a-backup'],
      [bytes.slice(0, bytes.length / 2), 'not-a-backup'],
      [bad({ 'sorter.json': '{}' }), 'not-a-backup'],
      [bad({ 'sorter.json': '{"format":1,"recordVersion":999}' }), 'newer'],
      [bad({ 'events.jsonl': '{"id":' }), 'damaged'],
    ];
    for (const [content, kind] of cases) {
      const result = await restoreBackup(other, content);
      expect(result).toMatchObject({ ok: false, error: { kind } });
      expect(await other.events.count()).toBe(1);
    }
    expect(await restoreBackup(other, bad({ 'customers.jsonl': '{}\nnope\n' }))).toMatchObject({
      error: { file: 'customers.jsonl', line: 2 },
    });
    // An event that is none of today's is kept aside, and the rest restores.
    const strange = freshDatabase();
    const texts = strFromU8(files['events.jsonl'] ?? new Uint8Array())
      .trimEnd()
      .split('\n');
    const unread = texts.map((line, index) =>
      index === texts.length - 1 ? line.replace('"type":"', '"type":"un') : line,
    );
    expect(await restoreBackup(strange, bad({ 'events.jsonl': unread.join('\n') }))).toEqual({ ok: true, aside: 1 });
    expect(await strange.aside.toArray()).toMatchObject([{ table: 'events', why: 'unreadable' }]);
    const third = freshDatabase();
    // And is no hole in the backup of that shop.
    expect(await restoreBackup(third, await exportBackup(strange))).toEqual({ ok: true, aside: 0 });
    // A line that is missing is noticed by the count; with another count, by the numbers of its history.
    const whole = await exportBackup(third);
    const [, second = '', ...rest] = texts;
    expect(second).toContain('"sequence":2');
    const without = [texts[0], ...rest].join('\n');
    expect(await restoreBackup(third, bad({ 'events.jsonl': without }))).toMatchObject({
      error: { kind: 'lines-missing', file: 'events.jsonl', missing: 1 },
    });
    const old = { 'events.jsonl': without, 'sorter.json': '{"format":1,"recordVersion":9}' };
    expect(await restoreBackup(third, bad(old))).toMatchObject({ error: { kind: 'gaps', streams: 1 } });
    expect(await exportBackup(third)).toEqual(whole);
    const cut = await restoreBlob(freshDatabase(), new Blob([new Uint8Array(bad(old))]), 'put-aside');
    expect(cut).toMatchObject({ ok: true, aside: texts.filter((line) => line.includes(streamOf(second))).length - 2 });
    // A row of the catalogue without a number would break every search.
    const numberless = strFromU8(files['catalogue/buckets.jsonl'] ?? new Uint8Array()).replace(
      /"partNumber":"[^"]+"/,
      '"partNumber":"--"',
    );
    expect(await restoreBackup(third, bad({ 'catalogue/buckets.jsonl': numberless }))).toMatchObject({
      error: { kind: 'damaged', file: 'catalogue/buckets.jsonl' },
    });
    expect(await exportBackup(third)).toEqual(whole);
    // A catalogue that breaks off leaves the one in use, and nothing of itself.
    await activate(other, await writeEdition(other, 'mine', demoCatalogue()));
    const buckets = await other.buckets.count();
    const broken = bad({ 'catalogue/buckets.jsonl': '{"kind":"models","bucket":0,"rows":[]}\n{"kind":' });
    expect(await restoreBackup(other, broken)).toMatchObject({ error: { kind: 'damaged', line: 2 } });
    expect((await topEdition(other))?.title).toBe('mine');
    expect(await other.buckets.count()).toBe(buckets);
    expect(await other.editions.count()).toBe(1);
  });
});

describe('the demo’s dates', () => {
  it('move by whole weeks, as far as today allows', () => {
    expect(weeksToShift(asDay('2026-11-24'), asDay('2026-11-30'))).toBe(0);
    expect(weeksToShift(asDay('2026-11-24'), asDay('2026-12-01'))).toBe(1);
    expect(weeksToShift(asDay('2026-11-24'), asDay('2027-11-24'))).toBe(52);
  });
  it('move as whole values only: numbers of parts stay', () => {
    const text = '{"at":"2026-11-24T08:00:00.000Z","on":"2026-11-24","number":"FJ 2026-11-24 x"}';
    expect(shiftDates(text, 7)).toBe('{"at":"2026-12-01T08:00:00.000Z","on":"2026-12-01","number":"FJ 2026-11-24 x"}');
  });
});
