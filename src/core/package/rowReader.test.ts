import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tableNames, tables } from '../catalogue/tables';
import { createRowReader } from './rowReader';

describe('rowReader: a row as its table says', () => {
  const cell = fc.oneof(
    fc.constantFrom(
      '',
      ' ',
      '1',
      '0.5',
      '-1',
      '12.50 EUR',
      '2024-02-30',
      '2024-03-01',
      'front',
      'any',
      'a b:2',
      'x | y',
    ),
    fc.string({ maxLength: 50 }),
    fc.constant(undefined),
  );
  it.each(tableNames)('%s: the same as the schema gives of the whole row, the second time as well', (table) => {
    const read = createRowReader(table);
    const { columns } = tables[table];
    const row = fc.record(Object.fromEntries(Object.keys(columns.shape).map((column) => [column, cell])));
    fc.assert(
      fc.property(row, (cells) => {
        const whole = columns.safeParse(cells);
        for (const again of [read(cells), read(cells)])
          if (whole.success) expect(again).toEqual({ ok: true, row: whole.data });
          else
            expect(again.ok ? [] : again.problems.map(({ column }) => column)).toEqual([
              ...new Set(whole.error.issues.map(({ path }) => path[0])),
            ]);
      }),
      { numRuns: 60 },
    );
  });
});
