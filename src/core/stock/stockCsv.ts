import Papa from 'papaparse';
import { localDateOf, moneyToDecimal } from '../units';
import type { StockState } from './stockStream';

/** What lies on the shelf as CSV (RFC 4180), one line a lot, as a stock list that can be read in again. No cell can start a formula in a spreadsheet. */
export const stockAsCsv = (lots: readonly StockState[], zone: string): string =>
  Papa.unparse(
    lots.map((lot) => ({
      partNumber: lot.partNumber,
      description: lot.description,
      stock: String(lot.units),
      free: String(lot.free),
      place: lot.place,
      price: moneyToDecimal(lot.unitCost),
      currency: lot.unitCost.currency,
      used: lot.used ? 'yes' : 'no',
      since: localDateOf(lot.since, zone),
    })),
    { escapeFormulae: true, newline: '\r\n' },
  );
