import Papa from 'papaparse';
import type { OrderState } from '../order';
import type { StockState } from '../stock';
import { stockAsCsv } from '../stock/stockCsv';
import { localDateOf, moneyToDecimal, sum } from '../units';
import type { RecordedCase } from './records';
import { recordsAsCsv } from './recordsCsv';

type FieldType = 'string' | 'integer' | 'number' | 'date' | 'boolean';
type Fields = readonly (readonly [name: string, type: FieldType, description?: string])[];

const CHANCE = 'a chance from 0 to 1';
const DAYS = 'days of 24 hours';

const TICKETS: Fields = [
  ['ticket', 'integer'],
  ['opened', 'date'],
  ['closed', 'date'],
  ['outcome', 'string', 'repaired, declined, not-mendable'],
  ['answer', 'string', 'of the customer to the last offer: yes, no, thinking'],
  ['promised', 'date'],
  ['toldReady', 'date'],
  ['listMinutes', 'number'],
  ['takenMinutes', 'number'],
  ['rightFirstTime', 'boolean', 'the part'],
  ['cameBack', 'integer', 'times, with the same fault'],
  ['waitedForShop', 'number', DAYS],
  ['waitedForCustomer', 'number', DAYS],
  ['waitedForParts', 'number', DAYS],
  ['waitedForCure', 'number', DAYS],
  ['waitedForCollection', 'number', DAYS],
  ['toldFrom', 'number', 'the price told while the cause was open, gross'],
  ['toldTo', 'number'],
  ['agreed', 'number', 'gross'],
  ['paidNet', 'number', 'without tax'],
  ['partsCost', 'number', 'what the parts cost the shop'],
  ['currency', 'string', 'ISO 4217'],
  ['advised', 'string', 'repair or replace'],
  ['plateSaid', 'number', CHANCE],
  ['plateTrue', 'boolean'],
  ['attempts', 'integer'],
  ['causeSaid', 'number', CHANCE],
  ['causeTrue', 'boolean'],
];

const ORDERS: Fields = [
  ['order', 'string'],
  ['supplier', 'string'],
  ['made', 'date'],
  ['reference', 'string', 'as the supplier names it'],
  ['partNumber', 'string'],
  ['answeredNumber', 'string'],
  ['description', 'string'],
  ['packs', 'integer'],
  ['packPrice', 'number', 'as answered, without tax'],
  ['currency', 'string', 'ISO 4217'],
  ['status', 'string'],
  ['due', 'date'],
  ['received', 'integer', 'packs'],
  ['short', 'integer', 'packs that do not come'],
  ['sentBack', 'integer', 'returns opened on this line'],
];

const SHELF: Fields = [
  ['partNumber', 'string'],
  ['description', 'string'],
  ['stock', 'integer'],
  ['free', 'integer'],
  ['place', 'string'],
  ['price', 'number', 'a unit, without tax'],
  ['currency', 'string', 'ISO 4217'],
  ['used', 'boolean'],
  ['since', 'date'],
];

/** Orders as CSV (RFC 4180), one line for each of their lines. No cell can start a formula in a spreadsheet. */
const ordersAsCsv = (orders: readonly OrderState[], zone: string): string =>
  Papa.unparse(
    {
      fields: ORDERS.map(([name]) => name),
      data: orders.flatMap((order) =>
        order.lines.map((line) => [
          order.number,
          order.supplierName,
          localDateOf(order.madeAt, zone),
          order.reference ?? '',
          line.partNumber,
          line.answeredNumber,
          line.description,
          String(line.packs),
          moneyToDecimal(line.answeredPrice),
          line.answeredPrice.currency,
          line.status,
          line.dueOn ?? '',
          String(sum(line.received.map(({ packs }) => packs))),
          String(line.short),
          String(order.returns.filter(({ lineId }) => lineId === line.lineId).length),
        ]),
      ),
    },
    { escapeFormulae: true, newline: '\r\n' },
  );

const resource = (name: string, title: string, fields: Fields) => ({
  name,
  path: `${name}.csv`,
  title,
  profile: 'tabular-data-resource',
  format: 'csv',
  mediatype: 'text/csv',
  encoding: 'utf-8',
  schema: {
    fields: fields.map(([field, type, description]) => ({
      name: field,
      type,
      ...(type === 'boolean' ? { trueValues: ['yes'], falseValues: ['no'] } : {}),
      ...(description ? { description } : {}),
    })),
    missingValues: [''],
  },
});

/**
 * What the records rest on as a data package (Frictionless Data Package 1.0, Table Schema): closed tickets, orders line by line, what lies on the shelf. `zone`: the shop's,
 * for days. A file without a row has its head. O(rows).
 */
export function recordsPackage(
  {
    cases,
    orders,
    lots,
  }: { cases: readonly RecordedCase[]; orders: readonly OrderState[]; lots: readonly StockState[] },
  shopName: string,
  zone: string,
): { path: string; text: string }[] {
  const headed = (text: string, fields: Fields) =>
    text === '' ? `${fields.map(([name]) => name).join(',')}\r\n` : text;
  const descriptor = {
    profile: 'tabular-data-package',
    name: 'sorter-records',
    title: `Records of ${shopName || 'a shop'}`,
    resources: [
      resource('tickets', 'Closed tickets, one line each', TICKETS),
      resource('orders', 'Lines of orders', ORDERS),
      resource('shelf', 'Lots on the shelf', SHELF),
    ],
  };
  return [
    { path: 'datapackage.json', text: `${JSON.stringify(descriptor, null, 1)}\n` },
    { path: 'tickets.csv', text: headed(recordsAsCsv(cases, zone), TICKETS) },
    { path: 'orders.csv', text: ordersAsCsv(orders, zone) },
    { path: 'shelf.csv', text: headed(stockAsCsv(lots, zone), SHELF) },
  ];
}
