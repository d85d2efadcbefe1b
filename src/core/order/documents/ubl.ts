import {
  fail,
  isCurrency,
  ok,
  parseMoney,
  type Money,
  type Result,
  type LocalDate,
  localDateSchema,
  type PartId,
  type LineId,
  type Branded,
  idSchema,
} from '../../units';
import { readUblTree, ublAmount, ublDocument, ublParty, ublQuantity } from '../../units/ubl';
import * as z from '../../units/zod';
import type { HeardAnswer, HeardLine } from '../decide/gate';
import type { HeardInvoice } from '../decide/invoice';
import type { OrderAnswer } from '../stream/orderStream';

/** An order as it travels: OASIS UBL 2.x Order, reduced to what a parts order needs. */
export type UblOrder = {
  number: string;
  issuedOn: LocalDate;
  currency: string;
  buyer: string;
  supplier: string;
  mode: string;
  lines: {
    id: LineId;
    packs: number;
    partId: PartId;
    name: string;
    partNumber: string;
    supplierNumber: string;
    packPrice: Money;
  }[];
};

export type UblProblem = { kind: 'not-xml' } | { kind: 'not-an-order'; missing: string };

/** Elements that are lists even when there is one. */
const LISTS = ['OrderLine', 'Note'];

export function writeUblOrder(order: UblOrder): string {
  return ublDocument('Order', {
    'cbc:ID': order.number,
    'cbc:IssueDate': order.issuedOn,
    'cbc:Note': order.mode,
    'cbc:DocumentCurrencyCode': order.currency,
    'cac:BuyerCustomerParty': ublParty(order.buyer),
    'cac:SellerSupplierParty': ublParty(order.supplier),
    'cac:OrderLine': order.lines.map((line) => ({
      'cac:LineItem': {
        'cbc:ID': line.id,
        'cbc:Quantity': ublQuantity(line.packs),
        'cac:Price': { 'cbc:PriceAmount': ublAmount(line.packPrice) },
        'cac:Item': {
          'cbc:Name': line.name,
          'cac:BuyersItemIdentification': { 'cbc:ID': line.partId },
          'cac:SellersItemIdentification': { 'cbc:ID': line.supplierNumber },
          'cac:ManufacturersItemIdentification': { 'cbc:ID': line.partNumber },
        },
      },
    })),
  });
}

const textOf = z.union([z.string(), z.object({ '#text': z.string() }).transform((node) => node['#text'])]);
const idText = <Id extends Branded<string>>() => textOf.pipe(idSchema<Id>());
const idOf = z.object({ 'cbc:ID': textOf });
const priceOf = z.object({ 'cbc:PriceAmount': z.object({ '#text': z.string(), '@_currencyID': z.string() }) });

const ownId = z.object({ 'cbc:ID': idText<PartId>() });
/** The buyer's own id; an order that was written before stood it where a standard's number belongs. */
const itemSchema = z
  .object({
    'cbc:Name': textOf.optional(),
    'cac:BuyersItemIdentification': ownId.optional(),
    'cac:SellersItemIdentification': idOf.optional(),
    'cac:ManufacturersItemIdentification': idOf,
    'cac:StandardItemIdentification': ownId.optional(),
  })
  .transform((item, context) => {
    const own = item['cac:BuyersItemIdentification'] ?? item['cac:StandardItemIdentification'];
    if (own) return { ...item, partId: own['cbc:ID'] };
    context.issues.push({
      code: 'custom',
      input: item,
      path: ['cac:BuyersItemIdentification'],
      message: 'no id of the buyer',
    });
    return z.NEVER;
  });
const nameOf = z
  .object({ 'cac:Party': z.object({ 'cac:PartyName': z.object({ 'cbc:Name': textOf }) }) })
  .transform((node) => node['cac:Party']['cac:PartyName']['cbc:Name']);

const orderSchema = z.object({
  Order: z.object({
    'cbc:ID': textOf,
    'cbc:IssueDate': localDateSchema,
    'cbc:Note': z.array(textOf).optional(),
    'cbc:DocumentCurrencyCode': textOf,
    'cac:BuyerCustomerParty': nameOf,
    'cac:SellerSupplierParty': nameOf,
    'cac:OrderLine': z.array(
      z.object({
        'cac:LineItem': z.object({
          'cbc:ID': idText<LineId>(),
          'cbc:Quantity': textOf,
          'cac:Price': priceOf,
          'cac:Item': itemSchema,
        }),
      }),
    ),
  }),
});

function parse<T>(xml: string, schema: z.ZodType<T>): Result<T, UblProblem> {
  const tree = readUblTree(xml, LISTS);
  if (tree === null) return fail({ kind: 'not-xml' });
  const read = schema.safeParse(tree);
  return read.success
    ? ok(read.data)
    : fail({ kind: 'not-an-order', missing: read.error.issues[0]?.path.join(' > ') ?? '' });
}

const moneyOf = (price: z.output<typeof priceOf>): Money | null => {
  const { '#text': text, '@_currencyID': currency } = price['cbc:PriceAmount'];
  const read = isCurrency(currency) ? parseMoney(text, currency) : null;
  return read?.ok ? read.value : null;
};

export function readUblOrder(xml: string): Result<UblOrder, UblProblem> {
  const read = parse(xml, orderSchema);
  if (!read.ok) return read;
  const order = read.value.Order;
  const lines: UblOrder['lines'] = [];
  for (const { 'cac:LineItem': line } of order['cac:OrderLine']) {
    const packPrice = moneyOf(line['cac:Price']);
    const packs = /^\d{1,6}$/.test(line['cbc:Quantity'].trim()) ? Number(line['cbc:Quantity']) : 0;
    if (!packPrice || packPrice.amountMinor < 0 || packs < 1)
      return fail({ kind: 'not-an-order', missing: `line ${line['cbc:ID']}: price or quantity` });
    const item = line['cac:Item'];
    lines.push({
      id: line['cbc:ID'],
      packs,
      partId: item.partId,
      name: item['cbc:Name'] ?? '',
      partNumber: item['cac:ManufacturersItemIdentification']['cbc:ID'],
      supplierNumber: item['cac:SellersItemIdentification']?.['cbc:ID'] ?? '',
      packPrice,
    });
  }
  return ok({
    number: order['cbc:ID'],
    issuedOn: order['cbc:IssueDate'],
    currency: order['cbc:DocumentCurrencyCode'],
    buyer: order['cac:BuyerCustomerParty'],
    supplier: order['cac:SellerSupplierParty'],
    mode: order['cbc:Note']?.[0] ?? '',
    lines,
  });
}

/** UBL line response codes as the standard's examples use them: 5 accepted, 3 changed, 7 not accepted; a back-order is 42 in UN/CEFACT 1229. */
const CODES = { accepted: '5', substituted: '3', 'back-ordered': '42', rejected: '7' } as const;

export function writeUblOrderResponse(answer: OrderAnswer, orderNumber: string, issuedOn: LocalDate): string {
  return ublDocument('OrderResponse', {
    'cbc:ID': answer.reference,
    'cbc:IssueDate': issuedOn,
    'cac:OrderReference': { 'cbc:ID': orderNumber },
    'cac:OrderLine': answer.lines.map((line) => ({
      ...(line.note ? { 'cbc:Note': line.note } : {}),
      'cac:LineItem': {
        'cbc:ID': line.lineId,
        'cbc:LineStatusCode': CODES[line.status],
        ...(line.dueOn ? { 'cac:Delivery': { 'cac:PromisedDeliveryPeriod': { 'cbc:EndDate': line.dueOn } } } : {}),
        'cac:Price': { 'cbc:PriceAmount': ublAmount(line.packPrice) },
        'cac:Item': {
          'cac:BuyersItemIdentification': { 'cbc:ID': line.partId },
          'cac:ManufacturersItemIdentification': { 'cbc:ID': line.partNumber },
        },
      },
    })),
  });
}

const someText = textOf.catch('');
const someId = z.object({ 'cbc:ID': someText }).catch({ 'cbc:ID': '' });
/** Only that it is an answer, with lines that name themselves, is needed to read it; the rest is judged against the order. */
const responseSchema = z.object({
  OrderResponse: z.object({
    'cbc:ID': someText,
    'cac:OrderReference': someId,
    'cac:OrderLine': z
      .array(
        z.object({
          'cbc:Note': z.array(someText).catch([]),
          'cac:LineItem': z.object({
            'cbc:ID': textOf,
            'cbc:LineStatusCode': someText,
            'cbc:Quantity': someText,
            'cac:Delivery': z
              .object({ 'cac:PromisedDeliveryPeriod': z.object({ 'cbc:EndDate': someText }) })
              .catch({ 'cac:PromisedDeliveryPeriod': { 'cbc:EndDate': '' } }),
            'cac:Price': priceOf.catch({ 'cbc:PriceAmount': { '#text': '', '@_currencyID': '' } }),
            'cac:Item': z
              .object({
                'cac:BuyersItemIdentification': someId,
                'cac:ManufacturersItemIdentification': someId,
                'cac:StandardItemIdentification': someId,
              })
              .catch({
                'cac:BuyersItemIdentification': { 'cbc:ID': '' },
                'cac:ManufacturersItemIdentification': { 'cbc:ID': '' },
                'cac:StandardItemIdentification': { 'cbc:ID': '' },
              }),
          }),
        }),
      )
      .default([]),
  }),
});

const statusOf = (code: string): HeardLine['status'] => {
  for (const status of ['accepted', 'substituted', 'back-ordered', 'rejected'] as const)
    if (CODES[status] === code.trim()) return status;
  return null;
};

/** Yes or no to the whole order, as the standard's OrderResponseSimple says it. */
const simpleSchema = z.object({
  OrderResponseSimple: z.object({
    'cbc:ID': someText,
    'cbc:Note': z.array(someText).catch([]),
    'cbc:AcceptedIndicator': textOf.pipe(z.enum(['true', 'false', '1', '0'])),
    'cbc:RejectionNote': z.union([someText, z.array(someText).transform((notes) => notes.join(' '))]).catch(''),
    'cac:OrderReference': someId,
  }),
});

/** A supplier's answer as its document says it, OrderResponse or OrderResponseSimple. Nothing of it is believed yet: see `judgeAnswer`. */
export function readUblOrderResponse(xml: string): Result<HeardAnswer, UblProblem> {
  const simple = parse(xml, simpleSchema);
  if (simple.ok) {
    const said = simple.value.OrderResponseSimple;
    return ok({
      orderNumber: said['cac:OrderReference']['cbc:ID'],
      reference: said['cbc:ID'],
      lines: [],
      whole: {
        accepted: ['true', '1'].includes(said['cbc:AcceptedIndicator']),
        note: said['cbc:RejectionNote'] || (said['cbc:Note'][0] ?? ''),
      },
    });
  }
  const read = parse(xml, responseSchema);
  if (!read.ok) return read;
  const response = read.value.OrderResponse;
  return ok({
    orderNumber: response['cac:OrderReference']['cbc:ID'],
    reference: response['cbc:ID'],
    lines: response['cac:OrderLine'].map(({ 'cac:LineItem': line, 'cbc:Note': notes }): HeardLine => {
      const { '#text': price, '@_currencyID': currency } = line['cac:Price']['cbc:PriceAmount'];
      return {
        lineId: line['cbc:ID'],
        status: statusOf(line['cbc:LineStatusCode']),
        statusCode: line['cbc:LineStatusCode'],
        partId:
          line['cac:Item']['cac:BuyersItemIdentification']['cbc:ID'] ||
          line['cac:Item']['cac:StandardItemIdentification']['cbc:ID'],
        partNumber: line['cac:Item']['cac:ManufacturersItemIdentification']['cbc:ID'],
        price,
        currency,
        packs: line['cbc:Quantity'],
        dueOn: line['cac:Delivery']['cac:PromisedDeliveryPeriod']['cbc:EndDate'],
        note: notes[0] ?? '',
      };
    }),
  });
}

/** What a despatch advice says is in a parcel. */
export type HeardDespatch = {
  number: string;
  orderNumber: string;
  lines: { lineId: string; partNumber: string; supplierNumber: string; packs: number }[];
};

const itemNumbers = z
  .object({
    'cbc:Name': someText.optional(),
    'cac:BuyersItemIdentification': someId.optional(),
    'cac:SellersItemIdentification': someId.optional(),
    'cac:ManufacturersItemIdentification': someId.optional(),
  })
  .catch({});
const lineReference = z
  .union([
    z.object({ 'cbc:LineID': someText }),
    z.array(z.object({ 'cbc:LineID': someText })).transform((list) => list[0] ?? { 'cbc:LineID': '' }),
  ])
  .catch({ 'cbc:LineID': '' });
/** One, or the first of several. */
const firstId = z
  .union([someId, z.array(someId).transform((list) => list[0] ?? { 'cbc:ID': '' })])
  .catch({ 'cbc:ID': '' });
const listOfOne = <T extends z.ZodType>(schema: T) =>
  z.union([z.array(schema), schema.transform((one) => [one])]).catch([]);

const despatchSchema = z.object({
  DespatchAdvice: z.object({
    'cbc:ID': textOf,
    'cac:OrderReference': firstId,
    'cac:DespatchLine': listOfOne(
      z.object({
        'cbc:DeliveredQuantity': someText,
        'cac:OrderLineReference': lineReference,
        'cac:Item': itemNumbers,
      }),
    ),
  }),
});

const wholePacks = (text: string): number => {
  const packs = Number(text.trim());
  return Number.isInteger(packs) && packs > 0 && packs < 1e6 ? packs : 0;
};

/** A despatch advice; its lines are matched with the order's by their ids, or by their numbers. */
export function readUblDespatchAdvice(xml: string): Result<HeardDespatch, UblProblem> {
  const read = parse(xml, despatchSchema);
  if (!read.ok) return read;
  const advice = read.value.DespatchAdvice;
  return ok({
    number: advice['cbc:ID'],
    orderNumber: advice['cac:OrderReference']['cbc:ID'],
    lines: advice['cac:DespatchLine'].map((line) => ({
      lineId: line['cac:OrderLineReference']['cbc:LineID'],
      partNumber: line['cac:Item']['cac:ManufacturersItemIdentification']?.['cbc:ID'] ?? '',
      supplierNumber: line['cac:Item']['cac:SellersItemIdentification']?.['cbc:ID'] ?? '',
      packs: wholePacks(line['cbc:DeliveredQuantity']),
    })),
  });
}

/** The standard's DespatchAdvice, its elements in the order of its schema. */
export const writeUblDespatchAdvice = (
  { number, orderNumber, lines }: HeardDespatch,
  issuedOn: LocalDate,
  parties: { supplier: string; buyer: string },
): string =>
  ublDocument('DespatchAdvice', {
    'cbc:ID': number,
    'cbc:IssueDate': issuedOn,
    'cac:OrderReference': { 'cbc:ID': orderNumber },
    'cac:DespatchSupplierParty': ublParty(parties.supplier),
    'cac:DeliveryCustomerParty': ublParty(parties.buyer),
    'cac:DespatchLine': lines.map((line, index) => ({
      'cbc:ID': String(index + 1),
      'cbc:DeliveredQuantity': ublQuantity(line.packs),
      'cac:OrderLineReference': { 'cbc:LineID': line.lineId },
      'cac:Item': {
        'cac:SellersItemIdentification': { 'cbc:ID': line.supplierNumber },
        'cac:ManufacturersItemIdentification': { 'cbc:ID': line.partNumber },
      },
    })),
  });

const amountOf = z.object({ '#text': z.string(), '@_currencyID': z.string() });
const invoiceSchema = z.object({
  Invoice: z.object({
    'cbc:ID': textOf,
    'cac:OrderReference': firstId,
    'cac:AllowanceCharge': listOfOne(z.object({ 'cbc:ChargeIndicator': someText, 'cbc:Amount': amountOf })).optional(),
    'cac:LegalMonetaryTotal': z.object({ 'cbc:TaxExclusiveAmount': amountOf.optional() }).optional().catch(undefined),
    'cac:InvoiceLine': listOfOne(
      z.object({
        'cbc:InvoicedQuantity': someText,
        'cac:OrderLineReference': lineReference,
        'cac:Item': itemNumbers,
        'cac:Price': priceOf,
      }),
    ),
  }),
});

const readAmount = (amount: z.output<typeof amountOf> | undefined): Money | null => {
  const read =
    amount && isCurrency(amount['@_currencyID']) ? parseMoney(amount['#text'], amount['@_currencyID']) : null;
  return read?.ok ? read.value : null;
};

/** An invoice, net of tax; a charge on the whole of it is taken for its shipping. */
export function readUblInvoice(xml: string): Result<HeardInvoice, UblProblem> {
  const read = parse(xml, invoiceSchema);
  if (!read.ok) return read;
  const invoice = read.value.Invoice;
  const charge = invoice['cac:AllowanceCharge']?.find((one) => ['true', '1'].includes(one['cbc:ChargeIndicator']));
  const lines: HeardInvoice['lines'] = [];
  for (const line of invoice['cac:InvoiceLine']) {
    const packPrice = moneyOf(line['cac:Price']);
    const packs = wholePacks(line['cbc:InvoicedQuantity']);
    if (!packPrice || packs === 0) return fail({ kind: 'not-an-order', missing: 'InvoiceLine: price or quantity' });
    lines.push({
      lineId: line['cac:OrderLineReference']['cbc:LineID'],
      supplierNumber:
        line['cac:Item']['cac:SellersItemIdentification']?.['cbc:ID'] ||
        (line['cac:Item']['cac:ManufacturersItemIdentification']?.['cbc:ID'] ?? ''),
      name: line['cac:Item']['cbc:Name'] ?? '',
      packs,
      packPrice,
    });
  }
  return ok({
    number: invoice['cbc:ID'],
    orderNumber: invoice['cac:OrderReference']['cbc:ID'],
    total: readAmount(invoice['cac:LegalMonetaryTotal']?.['cbc:TaxExclusiveAmount']),
    shipping: readAmount(charge?.['cbc:Amount']),
    lines,
  });
}

/** The standard's Invoice without tax, its elements in the order of its schema. */
export const writeUblInvoice = (
  { number, orderNumber, lines, shipping, total }: HeardInvoice,
  issuedOn: LocalDate,
  currency: string,
  parties: { supplier: string; buyer: string },
): string => {
  const added =
    lines.reduce((sum, line) => sum + line.packs * line.packPrice.amountMinor, 0) + (shipping?.amountMinor ?? 0);
  return ublDocument('Invoice', {
    'cbc:ID': number,
    'cbc:IssueDate': issuedOn,
    'cbc:DocumentCurrencyCode': currency,
    'cac:OrderReference': { 'cbc:ID': orderNumber },
    'cac:AccountingSupplierParty': ublParty(parties.supplier),
    'cac:AccountingCustomerParty': ublParty(parties.buyer),
    ...(shipping
      ? {
          'cac:AllowanceCharge': {
            'cbc:ChargeIndicator': 'true',
            'cbc:AllowanceChargeReason': 'Shipping',
            'cbc:Amount': ublAmount(shipping),
          },
        }
      : {}),
    'cac:LegalMonetaryTotal': total
      ? { 'cbc:TaxExclusiveAmount': ublAmount(total), 'cbc:PayableAmount': ublAmount(total) }
      : { 'cbc:PayableAmount': ublAmount({ amountMinor: added, currency }) },
    'cac:InvoiceLine': lines.map((line, index) => ({
      'cbc:ID': String(index + 1),
      'cbc:InvoicedQuantity': ublQuantity(line.packs),
      'cbc:LineExtensionAmount': ublAmount({
        ...line.packPrice,
        amountMinor: line.packs * line.packPrice.amountMinor,
      }),
      'cac:OrderLineReference': { 'cbc:LineID': line.lineId },
      'cac:Item': {
        'cbc:Name': line.name,
        'cac:SellersItemIdentification': { 'cbc:ID': line.supplierNumber },
      },
      'cac:Price': { 'cbc:PriceAmount': ublAmount(line.packPrice) },
    })),
  });
};
