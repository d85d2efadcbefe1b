import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { expect, it } from 'vitest';
import { SorterDatabase } from './database';
import { layersOf } from './editions/layers';

it('a database of one catalogue opens as a pile of one layer, its rows where they lay', async () => {
  const old = new Dexie('before-layers');
  old.version(3).stores({
    events: 'id, &[stream+sequence], groupId',
    editions: 'id',
    buckets: '[edition+kind+bucket], edition',
    meta: 'key',
  });
  await old.table('editions').put({ id: 'e', title: 'Catalogue', at: 'x', state: 'ready', counts: {}, buckets: {} });
  await old.table('buckets').put({ edition: 'e', kind: 'makers', bucket: 0, rows: [{ id: '1', name: 'M' }] });
  await old.table('meta').put({ key: 'activeEdition', value: 'e' });
  old.close();
  const db = new SorterDatabase('before-layers');
  expect(await layersOf(db)).toMatchObject([
    { on: true, edition: { id: 'e', name: '', prefix: '', title: 'Catalogue' } },
  ]);
  expect(await db.meta.get('activeEdition')).toBeUndefined();
  expect(await db.buckets.count()).toBe(1);
  db.close();
});
