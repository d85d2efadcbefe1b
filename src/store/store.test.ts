import { zipSync, strToU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../tests/support/database';
import { demoCatalogue, demoTickets } from '../../tests/support/demo';
import { applyEvents, type TicketEventData } from '@/core/ticket';
import { defined } from '@/core/units';
import { exportBackup, readBackup, restoreBackup, wipe } from './backup';
import { shiftDates, weeksToShift } from './demo';
import { activate, activeEdition, componentsOf, EditionReader, sweep, toBuckets, writeEdition } from './editions';
import { appendWithin, eventsOf, rebuildSummaries, summaryOf, ticketStream, undoable } from './events';
import { isTicketEvents, storedEventSchema } from './parse';
import { ticketConsequences } from './orders';
import { collectFiles, readPackageFiles } from './readFiles';
import type { SorterDatabase } from './database';

const note = (text: string): TicketEventData => ({ type: 'note-added', text });
const opened: TicketEventData = { type: 'opened', number: 1, customerId: null, machineId: 'mach-1' };

const write = (db: SorterDatabase, stream: string, ...data: TicketEventData[]) =>
  db.transaction('rw', db.tables, () => appendWithin(db, [{ stream, data }]));

describe('events', () => {
  it('and their summary are written together, or not at all', async () => {
    const db = freshDatabase();
    await write(db, 'ticket:a', opened, note('x'));
    expect((await eventsOf(db, 'ticket:a')).map((event) => event.sequence)).toEqual([1, 2]);
    expect((await db.summaries.get('ticket:a'))?.number).toBe(1);
    await expect(
      db.transaction('rw', db.tables, async () => {
        await appendWithin(db, [{ stream: 'ticket:a', data: [note('lost')] }]);
        throw new Error('the tab dies');
      }),
    ).rejects.toThrow();
    expect(await eventsOf(db, 'ticket:a')).toHaveLength(2);
  });

  it('never share a sequence: the second writer is refused by the table', async () => {
    const db = freshDatabase();
    await write(db, 'ticket:a', opened);
    const clash = {
      id: 'other',
      stream: 'ticket:a',
      sequence: 1,
      version: 1,
      at: '2026-01-01T00:00:00.000Z',
      data: note('y'),
    };
    await expect(db.events.add(clash)).rejects.toThrow();
  });

  it('rebuild their summaries to the same', async () => {
    const db = freshDatabase();
    await db.events.bulkAdd([...demoTickets().values()].flat());
    await rebuildSummaries(db);
    const before = await db.summaries.toArray();
    expect(before).toHaveLength(212);
    await rebuildSummaries(db);
    expect(await db.summaries.toArray()).toEqual(before);
    const first = defined(before[0], 'a summary');
    expect(summaryOf(first.stream, await eventsOf(db, first.stream))).toEqual(first);
  });

  it('can be taken back only while they have not left the shop', async () => {
    const db = freshDatabase();
    await write(db, 'ticket:a', opened);
    expect(undoable(await eventsOf(db, 'ticket:a'))).toBeNull();
    await write(db, 'ticket:a', note('x'));
    expect(undoable(await eventsOf(db, 'ticket:a'))?.data).toEqual(note('x'));
    await write(db, 'ticket:a', {
      type: 'part-ordered',
      requirementId: 'r',
      orderId: 'o',
      orderNumber: '1',
      supplierName: 's',
      dueOn: null,
    });
    expect(undoable(await eventsOf(db, 'ticket:a'))).toBeNull();
  });

  it('make customers and machines known beyond their ticket', async () => {
    const db = freshDatabase();
    await write(db, 'ticket:a', opened, {
      type: 'customer-noted',
      customerId: 'c1',
      name: 'A. Holtmeier',
      phone: '',
      place: '',
    });
    const plate: TicketEventData = {
      type: 'plate-read',
      text: 'x',
      modelId: 'm',
      modelNumber: 'X 1',
      makerId: 'k',
      platformId: 'p',
      badge: 'b',
      probability: 1,
      others: [],
      confirmed: true,
    };
    await write(db, 'ticket:a', plate, { type: 'serial-noted', serial: 'H20K40931' });
    expect(await db.customers.get('c1')).toMatchObject({ name: 'A. Holtmeier' });
    expect(await db.machines.get('mach-1')).toMatchObject({
      modelNumber: 'X 1',
      serial: 'H20K40931',
      customerId: 'c1',
    });
  });

  it('come in through one door that knows them', () => {
    const event = demoTickets().get(1)?.[0];
    expect(storedEventSchema.safeParse(event).success).toBe(true);
    expect(storedEventSchema.safeParse({ ...event, stream: 'shelf:1' }).success).toBe(false);
    expect(storedEventSchema.safeParse({ ...event, data: { type: 'made-up' } }).success).toBe(false);
  });
});

describe('editions of the catalogue', () => {
  const catalogue = demoCatalogue();

  it('keep what is connected together (against a plain search)', () => {
    const component = componentsOf(catalogue.parts, catalogue.relations);
    for (const { fromPartId, toPartId } of catalogue.relations)
      expect(component.get(fromPartId)).toBe(component.get(toPartId));
    const lone = catalogue.parts.filter(
      (part) => !catalogue.relations.some((relation) => [relation.fromPartId, relation.toPartId].includes(part.id)),
    );
    expect(new Set(lone.map((part) => component.get(part.id))).size).toBe(lone.length);
  });

  it('lose no row in buckets', () => {
    const { buckets } = toBuckets('e', catalogue);
    for (const kind of ['models', 'parts', 'fits', 'relations', 'offers', 'part_properties'] as const)
      expect(
        buckets.filter((bucket) => bucket.kind === kind).reduce((sum, bucket) => sum + bucket.rows.length, 0),
      ).toBe(catalogue[kind].length);
  });

  it('count only after they are made active; unfinished ones are swept', async () => {
    const db = freshDatabase();
    const first = defined(await writeEdition(db, 'first', catalogue), 'an edition');
    expect(await activeEdition(db)).toBeNull();
    await activate(db, first);
    expect((await activeEdition(db))?.title).toBe('first');
    let calls = 0;
    expect(
      await writeEdition(
        db,
        'stopped',
        catalogue,
        () => {},
        () => (calls += 1) > 1,
      ),
    ).toBeNull();
    await writeEdition(db, 'left by a killed tab', catalogue);
    expect(await db.editions.count()).toBe(2);
    await sweep(db);
    expect(await db.editions.count()).toBe(1);
    expect((await db.buckets.toArray()).every((bucket) => bucket.edition === first)).toBe(true);
  });

  it('give one machine what its questions need, and no other platform', async () => {
    const db = freshDatabase();
    await activate(db, defined(await writeEdition(db, 'x', catalogue), 'an edition'));
    const reader = new EditionReader(db, defined(await activeEdition(db), 'active'));
    const found = await reader.forMachine('fj-a1', ['m-fj-a1-01']);
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
      ticketId: 't',
      at: '2026-01-01T00:00:00.000Z',
      type: 'image/png',
      bytes: new Uint8Array([0, 255, 7, 128]),
    });
    await db.drafts.add({ key: 'k', text: 'half a wo', at: '2026-01-01T00:00:00.000Z' });
    await db.meta.put({ key: 'shopId', value: 'shop' });
    await activate(db, defined(await writeEdition(db, 'x', demoCatalogue()), 'an edition'));
    await rebuildSummaries(db);
    return db;
  }

  it('gives the same shop and again the same bytes', async () => {
    const db = await filled();
    const bytes = await exportBackup(db);
    const other = freshDatabase();
    expect(await restoreBackup(other, bytes)).toEqual({ ok: true });
    expect(await exportBackup(other)).toEqual(bytes);
    expect(await other.summaries.toArray()).toEqual(await db.summaries.toArray());
    expect((await other.photos.get('ph'))?.bytes).toEqual(new Uint8Array([0, 255, 7, 128]));
    expect((await activeEdition(other))?.title).toBe('x');
    await wipe(other);
    expect(await other.events.count()).toBe(0);
    expect((await other.meta.get('seeded'))?.value).toBe('wiped');
  });

  it('that is damaged, foreign or newer changes nothing, and says what is wrong', async () => {
    const db = await filled();
    const bytes = await exportBackup(db);
    const files = unzipSync(bytes);
    const other = freshDatabase();
    await write(other, 'ticket:keep', opened);
    const bad = (change: Record<string, string>) =>
      zipSync({ ...files, ...Object.fromEntries(Object.entries(change).map(([path, text]) => [path, strToU8(text)])) });
    const cases: [Uint8Array, string][] = [
      [strToU8('no zip'), 'not-a-backup'],
      [bytes.slice(0, bytes.length / 2), 'not-a-backup'],
      [bad({ 'sorter.json': '{}' }), 'not-a-backup'],
      [bad({ 'sorter.json': '{"format":1,"recordVersion":999}' }), 'newer'],
      [bad({ 'events.jsonl': '{"id":' }), 'damaged'],
      [bad({ 'events.jsonl': '{"id":"x"}' }), 'damaged'],
    ];
    for (const [content, kind] of cases) {
      const result = await restoreBackup(other, content);
      expect(result).toMatchObject({ ok: false, error: { kind } });
      expect(await other.events.count()).toBe(1);
    }
    expect(readBackup(bad({ 'customers.jsonl': '{}\nnope\n' }))).toMatchObject({
      error: { file: 'customers.jsonl', line: 2 },
    });
  });
});

describe('the demo’s dates', () => {
  it('move by whole weeks, as far as today allows', () => {
    expect(weeksToShift('2026-11-24', '2026-11-30')).toBe(0);
    expect(weeksToShift('2026-11-24', '2026-12-01')).toBe(1);
    expect(weeksToShift('2026-11-24', '2027-11-24')).toBe(52);
  });
  it('move as whole values only: numbers of parts stay', () => {
    const text = '{"at":"2026-11-24T08:00:00.000Z","on":"2026-11-24","number":"FJ 2026-11-24 x"}';
    expect(shiftDates(text, 7)).toBe('{"at":"2026-12-01T08:00:00.000Z","on":"2026-12-01","number":"FJ 2026-11-24 x"}');
  });
});

describe('reading files', () => {
  const file = (name: string, content: BlobPart) => new File([content], name);
  const read = (files: File[]) =>
    readPackageFiles(
      files,
      () => {},
      () => false,
    );

  it('takes a folder as it takes a zip', async () => {
    const { files } = await collectFiles([file('a/datapackage.json', '{}'), file('models.csv', 'id\n')]);
    expect([...files.keys()]).toEqual(['datapackage.json', 'models.csv']);
  });

  it('says what is wrong with the file itself', async () => {
    const why = async (files: File[]) => {
      const result = await read(files);
      return 'problems' in result ? result.problems.map((problem) => problem.why).join(' ') : '';
    };
    expect(await why([file('x.txt', 'hello')])).toContain('not a catalogue package');
    expect(await why([file('x.zip', new Uint8Array([0x50, 0x4b, 3, 4, 1, 2, 3]))])).toContain('damaged or cut-off');
    const descriptor = JSON.stringify({ name: 'x', resources: [{ name: 'makers', path: 'makers.csv' }] });
    expect(
      await why([file('datapackage.json', descriptor), file('makers.csv', new Uint8Array([0x69, 0x64, 0xff, 0xfe]))]),
    ).toContain('not in UTF-8');
  });

  it('stops when asked to', async () => {
    const descriptor = JSON.stringify({ name: 'x', resources: [{ name: 'makers', path: 'makers.csv' }] });
    const result = await readPackageFiles(
      [file('datapackage.json', descriptor), file('makers.csv', 'id,name\na,b\n')],
      () => {},
      () => true,
    );
    expect(result).toEqual({ cancelled: true });
  });
});

describe('a supplier’s answer', () => {
  it('tells every ticket that waits for a line', () => {
    const money = { amountMinor: 1, currency: 'EUR' };
    const line = {
      offerId: 'o',
      partId: 'p',
      partNumber: 'P',
      description: '',
      supplierNumber: '',
      packs: 1,
      unitPrice: money,
      for: [
        { ticketId: 'a', requirementId: 'r', partId: 'p', units: 1 },
        { ticketId: 'b', requirementId: 'r', partId: 'p', units: 1 },
      ],
    };
    const order = {
      orderId: 'x',
      lines: [
        {
          ...line,
          status: 'unanswered' as const,
          answeredNumber: 'P',
          answeredPartId: 'p',
          answeredPrice: money,
          dueOn: null,
          note: null,
          received: null,
        },
      ],
    };
    const base = {
      number: '1',
      supplierId: 's',
      supplierName: 's',
      modeId: 'm',
      modeName: 'm',
      madeAt: '',
      shipping: money,
      expectedOn: '2026-01-01',
      reference: null,
      failures: [],
      cancelled: false,
      phase: 'to-send' as const,
    };
    const tell = (status: 'accepted' | 'rejected') =>
      ticketConsequences(
        { ...base, ...order },
        {
          reference: 'R',
          lines: [
            { offerId: 'o', status, partId: 'p', partNumber: 'P', unitPrice: money, dueOn: '2026-01-02', note: null },
          ],
        },
      );
    expect(tell('accepted').map(({ stream, data }) => [stream, data[0]?.type])).toEqual([
      ['ticket:a', 'part-due'],
      ['ticket:b', 'part-due'],
    ]);
    expect(tell('rejected').map(({ data }) => data[0]?.type)).toEqual(['part-order-cancelled', 'part-order-cancelled']);
    expect(ticketStream('a')).toBe('ticket:a');
    expect(isTicketEvents([])).toBe(false);
    expect(applyEvents([...(demoTickets().get(1) ?? [])]).number).toBe(1);
  });
});
