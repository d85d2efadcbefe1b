import { asInstant } from '@/core/units';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { demoCatalogue } from '../../tests/support/demo';
import { DEMO_DAY } from '../../tests/support/demoDay';
import { topEdition } from '../../tests/support/layers';
import { demoZip, startWorker } from '../../tests/support/worker';
import type { SorterDatabase } from '@/store';
import type { FilesApi } from './files.worker';

const inUse = async (db: SorterDatabase) => (await topEdition(db))?.id;
/** The first model's capacity made another one. */
const otherCapacity = { 'models.csv': (text: string) => text.replace(/^([^\n]*\n[^\n]*?,)(\d+),/, '$19$2,') };
const without = (column: string) => ({ 'models.csv': (text: string) => text.replace(column, `not ${column}`) });

describe('files in the worker', () => {
  let api: FilesApi;
  let db: SorterDatabase;
  beforeEach(async () => {
    ({ api, db } = await startWorker<FilesApi>(() => import('./files.worker')));
  });

  it('put the first catalogue to use at once, and the same one again changes nothing', async () => {
    const told: string[] = [];
    const first = await api.importCatalogue([demoZip()], ({ stage }) => told.push(stage));
    expect(first.kind).toBe('applied');
    expect(new Set(told)).toEqual(new Set(['unpacking', 'reading', 'checking', 'writing']));
    const before = await inUse(db);
    expect(await api.importCatalogue([demoZip()], () => {})).toMatchObject({ kind: 'nothing-new' });
    expect(await inUse(db)).toBe(before);
    expect(await db.editions.count()).toBe(1);
  });

  it('let another catalogue wait with what it changes, until it is applied or discarded', async () => {
    await api.importCatalogue([demoZip()], () => {});
    const before = await inUse(db);
    const next = demoZip(otherCapacity, 'next.zip');
    const second = await api.importCatalogue([next], () => {});
    if (second.kind !== 'waiting') throw new Error(`not waiting but ${JSON.stringify(second).slice(0, 400)}`);
    expect(second.read.changes?.map(({ table, changed }) => [table, changed])).toEqual([['models', 1]]);
    expect(await inUse(db)).toBe(before);
    await api.discard(second.read.editionId);
    expect(await db.editions.count()).toBe(1);
    const third = await api.importCatalogue([next], () => {});
    if (third.kind !== 'waiting') throw new Error('not waiting');
    await api.apply(third.read.editionId);
    expect(await inUse(db)).toBe(third.read.editionId);
    await expect.poll(() => db.editions.count()).toBe(1);
  });

  it('keep what is in use when a file is faulty, and leave nothing behind', async () => {
    await api.importCatalogue([demoZip()], () => {});
    const buckets = await db.buckets.count();
    const bad = await api.importCatalogue([demoZip(without('modelNumber'))], () => {});
    if (bad.kind !== 'problems') throw new Error(`not refused but ${bad.kind}`);
    expect(bad.problems[0]).toMatchObject({ file: 'models.csv' });
    expect(await db.editions.count()).toBe(1);
    expect(await db.buckets.count()).toBe(buckets);
  });

  it('stop when told to, with nothing written', async () => {
    const outcome = await api.importCatalogue([demoZip()], ({ stage }) => {
      if (stage === 'reading') api.cancel();
    });
    expect(outcome).toEqual({ kind: 'cancelled' });
    expect([await db.editions.count(), await db.buckets.count()]).toEqual([0, 0]);
    // The next one is not stopped by the word said to the last.
    expect((await api.importCatalogue([demoZip()], () => {})).kind).toBe('applied');
  });

  it('never sweep what waits for a word, but do sweep what a killed tab left', async () => {
    await api.importCatalogue([demoZip()], () => {});
    const waiting = await api.importCatalogue([demoZip(otherCapacity)], () => {});
    await api.tidyUp();
    expect(await db.editions.count()).toBe(2);
    if (waiting.kind !== 'waiting') throw new Error('not waiting');
    await api.discard(waiting.read.editionId);
    await db.editions.put({
      ...(await db.editions.toArray())[0]!,
      id: 'left behind',
      state: 'writing',
      at: asInstant('2026-01-01T00:00:00.000Z'),
    });
    await api.tidyUp();
    expect(await db.editions.get('left behind')).toBeUndefined();
    expect(await db.editions.count()).toBe(1);
  });

  it('save everything, wipe, and bring everything back', async () => {
    vi.stubGlobal('fetch', async () => new Response(demoZip()));
    expect(await api.loadDemo(DEMO_DAY, false, () => {})).toBeNull();
    const before = {
      events: await db.events.orderBy('id').toArray(),
      models: (await db.editions.toArray()).map(({ counts }) => counts['models']),
    };
    expect(before.models).toEqual([demoCatalogue().models.length]);
    const { backup } = await api.exportBackup();
    await api.wipe();
    expect([await db.events.count(), await db.editions.count()]).toEqual([0, 0]);
    expect(await api.restore(backup)).toEqual({ ok: true, aside: 0 });
    expect(await db.events.orderBy('id').toArray()).toEqual(before.events);
    expect((await db.editions.toArray()).map(({ counts }) => counts['models'])).toEqual(before.models);
    expect(await api.restore(new Blob(['not a backup']))).toMatchObject({ ok: false });
    expect(await db.events.count()).toBe(before.events.length);
  });
});
