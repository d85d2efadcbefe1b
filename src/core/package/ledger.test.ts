import { type ModelId, asId } from '../units';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { KeyTable } from '.';
import { tableNames, type Model } from '../catalogue';
import { ChangeLog, differingColumns, rowContent, rowKey } from '.';

function ledgerOf(models: readonly Model[]) {
  const keys = new KeyTable();
  for (const model of models) keys.add(rowKey('models', model), rowContent('models', model));
  return keys.ledger();
}

describe('what a new package changes', () => {
  it('is counted and named row by row', () => {
    const { models } = demoCatalogue();
    const log = new ChangeLog('models', ledgerOf(models));
    const [first, second] = models;
    if (!first || !second) throw new Error('no models');
    const after = [
      { ...first, spinRpm: first.spinRpm + 200 },
      ...models.slice(2),
      { ...second, id: asId<ModelId>('m-new'), modelNumber: 'NEW 1' },
    ];
    for (const model of after) log.note(rowKey('models', model), rowContent('models', model), model);
    const changes = log.finish();
    expect(changes).toMatchObject({ table: 'models', added: 1, changed: 1, gone: 1, same: models.length - 2 });
    expect(changes.addedRows.map((model) => model.id)).toEqual(['m-new']);
    expect(changes.changedRows.map((model) => model.id)).toEqual([first.id]);
    expect(log.isGone(second.id)).toBe(true);
    expect(log.isGone(first.id)).toBe(false);
    expect(log.isGone('never there')).toBe(false);
    expect(differingColumns('models', first, after[0] ?? first)).toEqual(['spinRpm']);
  });

  it('is nothing for the same rows in another order, and everything for an empty start', () => {
    const { models } = demoCatalogue();
    const again = new ChangeLog('models', ledgerOf(models));
    const first = new ChangeLog('models', null);
    for (const model of [...models].reverse())
      for (const log of [again, first]) log.note(rowKey('models', model), rowContent('models', model), model);
    expect(again.finish()).toMatchObject({ added: 0, changed: 0, gone: 0, same: models.length });
    expect(first.finish()).toMatchObject({ added: models.length, changed: 0, gone: 0, same: 0 });
  });

  it('has a different key for every row of the demo', () => {
    for (const table of tableNames) {
      const rows = demoCatalogue()[table];
      expect(new Set(rows.map((row) => rowKey(table, row))).size, table).toBe(rows.length);
    }
  });
});
