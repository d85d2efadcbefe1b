import { beforeEach, describe, expect, it } from 'vitest';
import { startWorker } from '../../tests/support/worker';
import { asDay } from '@/core/units';
import type { SorterDatabase } from '@/store';
import type { SheetsApi } from './sheets.worker';

const today = asDay('2026-11-26');
const list = () => new File(['Model,Part number,Description\nZX 1,77-1,Drain pump\nZX 1,,Belt\n'], 'parts.csv');

describe('a list in the worker', () => {
  let api: SheetsApi;
  let db: SorterDatabase;
  beforeEach(async () => {
    ({ api, db } = await startWorker<SheetsApi>(() => import('./sheets.worker')));
  });

  async function checked() {
    const opened = await api.open(list(), 'EUR');
    if (opened.kind !== 'table' || !opened.habit.kind) throw new Error('not read as a table');
    const habit = { ...opened.habit, kind: opened.habit.kind };
    return { habit, result: await api.check(habit, today, () => {}) };
  }

  it('is taken as a layer of its source, without the rows that cannot be read', async () => {
    const { habit, result } = await checked();
    expect(result).toMatchObject({ good: 1, badRows: 1, counts: { models: 1, parts: 1, fits: 1 } });
    expect(await (await api.badRows()).text()).toContain('ZX 1,,Belt,part is empty');
    await api.apply(habit, today);
    expect(await db.editions.toArray()).toMatchObject([{ name: 'sheet parts parts', state: 'ready' }]);
    expect((await api.open(list(), 'EUR')).kind === 'table').toBe(true);
  });

  it('never sweeps away what an import is writing: it waits to be taken', async () => {
    const { habit } = await checked();
    const { undertake } = await import('@/store/whole/undertaking');
    const [edition] = await db.editions.toArray();
    expect(edition).toBeUndefined();
    let taken: Promise<number> | null = null;
    await undertake(db, 'import', async () => {
      await db.editions.put({
        id: 'being written',
        name: 'x',
        version: '',
        prefix: '',
        title: 'x',
        at: `${today}T08:00:00.000Z` as never,
        state: 'writing',
        counts: {},
        buckets: {},
      });
      taken = api.apply(habit, today);
      await new Promise((resolve) => setTimeout(resolve, 50));
      expect((await db.editions.toArray()).map(({ id }) => id)).toEqual(['being written']);
      await db.editions.delete('being written');
    });
    expect(await taken).toBe(1);
    expect(await db.editions.count()).toBe(1);
  });
});
