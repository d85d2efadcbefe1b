import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { asDay, asId, asInstant, money, type StockId, type TicketId } from '../units';
import { stockAsCsv } from '../stock/stockCsv';
import type { RecordedCase } from './records';
import { recordsAsCsv } from './recordsCsv';

const one: RecordedCase = {
  ticketId: asId<TicketId>('t'),
  number: 12,
  openedAt: asInstant('2026-11-01T23:30:00.000Z'),
  closedAt: asInstant('2026-11-05T10:00:00.000Z'),
  outcome: 'repaired',
  answer: 'yes',
  promisedOn: asDay('2026-11-04'),
  toldAt: null,
  callBacks: 0,
  waited: { you: 12, customer: 24, parts: 36, cure: 0, collection: 6 },
  price: { low: 8000, high: 19050, agreed: 14999, currency: 'EUR' },
  earned: { net: 12604, parts: 4210, minutes: 40, currency: 'EUR' },
  advice: { repair: true, advantage: 212.5, currency: 'EUR', rules: [{ id: 'share-of-new', repair: false }] },
  plate: { said: 0.98765, true: true },
  causes: [
    { said: 0.6, true: false },
    { said: 0.81, true: true },
  ],
  takenMinutes: 55,
  listMinutes: 40,
  rightFirstTime: null,
};
const read = (csv: string): Record<string, string>[] => Papa.parse<Record<string, string>>(csv, { header: true }).data;

describe('records as a file', () => {
  it('a line a ticket, in the shop’s days; what was not noted is empty, the last attempt counts', () => {
    const [second, first] = [{ ...one, number: 13 }, one];
    const rows = read(recordsAsCsv([second, first], 'Europe/Berlin'));
    expect(rows.map(({ ticket }) => ticket)).toEqual(['12', '13']);
    expect(rows[0]).toMatchObject({
      opened: '2026-11-02',
      toldReady: '',
      rightFirstTime: '',
      plateSaid: '0.988',
      plateTrue: 'yes',
      attempts: '2',
      causeSaid: '0.81',
      causeTrue: 'yes',
      takenMinutes: '55',
      waitedForParts: '1.5',
      waitedForCure: '0',
      toldFrom: '80',
      toldTo: '190.5',
      agreed: '149.99',
      paidNet: '126.04',
      partsCost: '42.1',
      currency: 'EUR',
      advised: 'repair',
    });
  });

  it('the shelf, with nothing that a spreadsheet would run', () => {
    const [row] = read(
      stockAsCsv(
        [
          {
            stockId: asId<StockId>('s'),
            partId: null,
            partNumber: 'FJ-1',
            description: '=1+1',
            place: 'A, 3',
            unitCost: money(1250, 'EUR'),
            used: true,
            works: null,
            origin: { kind: 'by-hand' },
            since: one.openedAt,
            lastAt: one.openedAt,
            units: 2,
            free: 1,
            reserved: [],
            movements: [],
          },
        ],
        'UTC',
      ),
    );
    expect(row).toEqual({
      partNumber: 'FJ-1',
      description: "'=1+1",
      stock: '2',
      free: '1',
      place: 'A, 3',
      price: '12.50',
      currency: 'EUR',
      used: 'yes',
      since: '2026-11-01',
    });
  });
});
