import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import * as z from 'zod';
import { demoOrders, demoSettings, demoTickets } from '../../../tests/support/demo';
import { applyOrderEvents } from '../order';
import { applyEvents, waitedIn } from '../ticket';
import type { StockState } from '../stock';
import { asDay, asId, asInstant, groupBy, money, type StockId } from '../units';
import { lessonOf, type RecordedCase } from '.';
import { recordsPackage } from './recordsPackage';

const cases: RecordedCase[] = [...demoTickets().values()].flatMap((events) => {
  const { ticketId, number, at, closed } = lessonOf(applyEvents(events), waitedIn(events));
  if (!closed?.record) return [];
  const { takenMinutes, listMinutes, rightFirstTime } = closed;
  return [{ ...closed.record, ticketId, number, closedAt: at, takenMinutes, listMinutes, rightFirstTime }];
});
const orders = [...groupBy(demoOrders(), ({ stream }) => stream).values()].flatMap(
  (events) => applyOrderEvents(events) ?? [],
);
const { zone } = demoSettings();

const schema = z.object({
  resources: z.array(
    z.object({
      path: z.string(),
      schema: z.object({
        fields: z.array(z.object({ name: z.string(), type: z.string() })),
        missingValues: z.array(z.string()),
      }),
    }),
  ),
});
const isOf: Record<string, (cell: string) => boolean> = {
  string: () => true,
  integer: (cell) => /^-?\d+$/.test(cell),
  number: (cell) => cell.trim() !== '' && Number.isFinite(Number(cell)),
  date: (cell) => /^\d{4}-\d{2}-\d{2}$/.test(cell),
  boolean: (cell) => cell === 'yes' || cell === 'no',
};

describe('the records as a data package', () => {
  it('says of every file its columns in their order, and every cell is of the kind that is said', () => {
    const files = recordsPackage({ cases, orders, lots: [] }, 'Lantern Quay', zone);
    const textOf = (path: string) => files.find((file) => file.path === path)?.text ?? '';
    const { resources } = schema.parse(JSON.parse(textOf('datapackage.json')));
    expect(resources.map(({ path }) => path).sort()).toEqual(
      files
        .map(({ path }) => path)
        .filter((path) => path !== 'datapackage.json')
        .sort(),
    );
    let cells = 0;
    for (const { path, schema: said } of resources) {
      const { data, meta } = Papa.parse<Record<string, string>>(textOf(path), { header: true, skipEmptyLines: true });
      expect(meta.fields, path).toEqual(said.fields.map(({ name }) => name));
      for (const row of data)
        for (const { name, type } of said.fields) {
          const cell = row[name] ?? '';
          if (said.missingValues.includes(cell)) continue;
          expect(isOf[type]?.(cell), `${path} ${name}: ${cell}`).toBe(true);
          cells += 1;
        }
    }
    expect(cells).toBeGreaterThan(2000);
    expect(Papa.parse(textOf('tickets.csv'), { header: true }).data).toHaveLength(cases.length);
  });

  it('has its heads in an empty shop, and the shelf as it lies there', () => {
    const empty = recordsPackage({ cases: [], orders: [], lots: [] }, '', zone);
    for (const { path, text } of empty) expect(text.split('\r\n')[0]?.length, path).toBeGreaterThan(20);
    const lot = {
      stockId: asId<StockId>('s'),
      partNumber: '=FJ-1',
      description: 'Pump',
      units: 3,
      free: 2,
      place: 'A 4',
      unitCost: money(1250, 'EUR'),
      used: null,
      since: asInstant('2026-11-03T08:00:00.000Z'),
    };
    const files = recordsPackage({ cases: [], orders: [], lots: [lot as unknown as StockState] }, '', zone);
    const [row] = Papa.parse<Record<string, string>>(files.find(({ path }) => path === 'shelf.csv')?.text ?? '', {
      header: true,
    }).data;
    expect(row).toMatchObject({
      partNumber: "'=FJ-1",
      stock: '3',
      free: '2',
      price: '12.50',
      used: 'no',
      since: asDay('2026-11-03'),
    });
  });
});
