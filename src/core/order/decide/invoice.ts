import { fail, money, ok, sum, type Money } from '../../units';
import { fellAway, type InvoiceDifference, type OrderState } from '../stream/orderStream';
import { onOrder } from './send';
import type { Decision } from './place';

/** An invoice as its document says it. */
export type HeardInvoice = {
  number: string;
  orderNumber: string;
  /** Net, shipping included; null: it does not say. */
  total: Money | null;
  shipping: Money | null;
  lines: { lineId: string; supplierNumber: string; name: string; packs: number; packPrice: Money }[];
};

/**
 * What an invoice charges otherwise than what was ordered, answered and received: packs that did not come or went back, prices, lines that are not ours, shipping. Nothing is
 * said of a line that is charged later. O(lines).
 */
export function compareInvoice(order: OrderState, invoice: HeardInvoice): InvoiceDifference[] {
  const differences: InvoiceDifference[] = [];
  for (const charged of invoice.lines) {
    const line = order.lines.find(
      ({ lineId, supplierNumber, answeredNumber }) =>
        lineId === charged.lineId || [supplierNumber, answeredNumber].includes(charged.supplierNumber),
    );
    const named = { lineId: line?.lineId ?? null, said: charged.name || charged.supplierNumber };
    if (!line || fellAway(line)) {
      differences.push({
        kind: 'not-ordered',
        ...named,
        ours: 0,
        theirs: charged.packs,
        amount: money(charged.packs * charged.packPrice.amountMinor, charged.packPrice.currency),
      });
      continue;
    }
    const back = sum(
      order.returns.filter((one) => one.lineId === line.lineId && one.why !== 'failed').map(({ packs }) => packs),
    );
    const kept = Math.max(0, sum(line.received.map(({ packs }) => packs)) - back);
    const price = line.answeredPrice.amountMinor;
    if (charged.packs > kept)
      differences.push({
        kind: 'more-than-kept',
        ...named,
        ours: kept,
        theirs: charged.packs,
        amount: money((charged.packs - kept) * charged.packPrice.amountMinor, charged.packPrice.currency),
      });
    if (charged.packPrice.amountMinor !== price || charged.packPrice.currency !== line.answeredPrice.currency)
      differences.push({
        kind: 'price',
        ...named,
        ours: price,
        theirs: charged.packPrice.amountMinor,
        amount: money((charged.packPrice.amountMinor - price) * charged.packs, charged.packPrice.currency),
      });
  }
  if (invoice.shipping && invoice.shipping.amountMinor !== order.shipping.amountMinor)
    differences.push({
      kind: 'shipping',
      lineId: null,
      said: '',
      ours: order.shipping.amountMinor,
      theirs: invoice.shipping.amountMinor,
      amount: money(invoice.shipping.amountMinor - order.shipping.amountMinor, invoice.shipping.currency),
    });
  const added =
    sum(invoice.lines.map(({ packs, packPrice }) => packs * packPrice.amountMinor)) +
    (invoice.shipping?.amountMinor ?? 0);
  if (invoice.total && invoice.total.amountMinor !== added)
    differences.push({
      kind: 'sum',
      lineId: null,
      said: '',
      ours: added,
      theirs: invoice.total.amountMinor,
      amount: money(invoice.total.amountMinor - added, invoice.total.currency),
    });
  return differences;
}

/** Notes an invoice with what is wrong with it. One that was noted before is not noted again. */
export function noteInvoice(order: OrderState, invoice: HeardInvoice): Decision {
  if (order.invoices.some(({ number }) => number === invoice.number))
    return fail({ kind: 'order-is-past', number: order.number });
  const total =
    invoice.total ??
    money(
      sum(invoice.lines.map(({ packs, packPrice }) => packs * packPrice.amountMinor)) +
        (invoice.shipping?.amountMinor ?? 0),
      order.shipping.currency,
    );
  return ok([
    onOrder(order, {
      type: 'invoiced',
      number: invoice.number.slice(0, 80) || '?',
      total,
      differences: compareInvoice(order, invoice).slice(0, 500),
    }),
  ]);
}
