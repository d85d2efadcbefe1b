import { orderTotal, type OrderState } from '@/core/order';
import { localDateOf } from '@/core/units';
import { formatFullDate, formatMoney } from './format';

type From = { shopName: string; address: string; phone: string; zone: string };

/** An order as a letter: for an e-mail, or to be read out on the telephone. The subject apart. */
export function orderLetter(
  order: OrderState,
  { shopName, address, phone, zone }: From,
): { subject: string; body: string } {
  const lines = order.lines.map(
    ({ packs, supplierNumber, partNumber, description, packPrice }) =>
      `  ${packs} x ${supplierNumber || partNumber}${supplierNumber && supplierNumber !== partNumber ? ` (${partNumber})` : ''}  ${description}, ${formatMoney(packPrice)} each, net`,
  );
  return {
    subject: `Order ${order.number}${shopName ? `, ${shopName}` : ''}`,
    body: [
      'Good day,',
      '',
      `please send us, as our order ${order.number} of ${formatFullDate(localDateOf(order.madeAt, zone))}:`,
      '',
      ...lines,
      '',
      `Together ${formatMoney(orderTotal(order))}, net, as you named the prices. We expect it by ${formatFullDate(order.expectedOn)}.`,
      'If a number was replaced, a price has changed or something will take longer, please say so before you send it.',
      '',
      'With thanks,',
      ...[shopName, address, phone].filter(Boolean),
    ].join('\n'),
  };
}
