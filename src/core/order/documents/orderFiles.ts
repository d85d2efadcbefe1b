import Papa from 'papaparse';
import { localDateOf, moneyToDecimal } from '../../units';
import type { OrderState } from '../stream/orderStream';
import { writeUblOrder } from './ubl';

/** An order as UBL 2.x, as it is sent and as it is handed out: the same bytes. `zone`: the shop's, for the date of issue. */
export const orderAsUbl = (order: OrderState, buyer: string, zone: string): string =>
  writeUblOrder({
    number: order.number,
    issuedOn: localDateOf(order.madeAt, zone),
    currency: order.shipping.currency,
    buyer,
    supplier: order.supplierName,
    mode: order.modeId,
    lines: order.lines.map((line) => ({
      id: line.lineId,
      packs: line.packs,
      partId: line.partId,
      name: line.description,
      partNumber: line.partNumber,
      supplierNumber: line.supplierNumber,
      packPrice: line.packPrice,
    })),
  });

/** An order as CSV (RFC 4180), one line per number. No cell can start a formula in a spreadsheet. */
export const orderAsCsv = (order: OrderState): string =>
  Papa.unparse(
    order.lines.map((line) => ({
      order: order.number,
      supplier: order.supplierName,
      supplierNumber: line.supplierNumber,
      partNumber: line.partNumber,
      description: line.description,
      packs: String(line.packs),
      packPrice: moneyToDecimal(line.packPrice),
      currency: line.packPrice.currency,
    })),
    { escapeFormulae: true, newline: '\r\n' },
  );
