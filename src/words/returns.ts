import type { InvoiceDifference, OrderState, ReturnParcel, ReturnState } from '@/core/order';
import { groupBy, localDateOf, sum, type LocalDate } from '@/core/units';
import { formatDate, formatFullDate, formatMoney, listOf, plural } from './format';

export const RETURN_WHY: Record<ReturnState['why'], string> = {
  'wrong-part': 'another part than ordered',
  damaged: 'damaged',
  'too-many': 'more than ordered',
  'not-needed': 'right, but no longer needed',
  failed: 'failed though it was new',
};

const SETTLED: Record<NonNullable<ReturnState['settled']>['how'], string> = {
  credited: 'credited',
  replaced: 'replaced',
  refused: 'refused',
};

/** One thing of a parcel, whose day is said with the parcel. */
export function returnedWords(order: OrderState, one: ReturnState): string {
  const line = order.lines.find(({ lineId }) => lineId === one.lineId);
  return `${one.packs} × ${line?.answeredNumber ?? '?'}, ${RETURN_WHY[one.why]}: ${formatMoney(one.refund)} due back · ${order.number}`;
}

/** Where a return stands: "1 × AB 1, damaged: to be on its way by Tue 8 Dec, 12.00 € due back". */
export function returnWords(order: OrderState, one: ReturnState, today: LocalDate): string {
  const line = order.lines.find(({ lineId }) => lineId === one.lineId);
  const what = `${one.packs} × ${line?.answeredNumber ?? '?'}, ${RETURN_WHY[one.why]}`;
  if (one.settled)
    return `${what}: ${SETTLED[one.settled.how]}${one.settled.how === 'credited' ? `, ${formatMoney(one.settled.amount)}` : ''}`;
  if (one.stand === 'sent')
    return `${what}: on its way back${one.reference ? ` (${one.reference})` : ''}, ${formatMoney(one.refund)} due back`;
  const late = one.sendBy < today ? 'should have been on its way by' : 'to be on its way by';
  return `${what}: ${late} ${formatDate(one.sendBy, today)}, ${formatMoney(one.refund)} due back`;
}

type From = { shopName: string; address: string; phone: string; zone: string };

/** The paper that goes with it, or the claim. */
export function returnLetter(order: OrderState, one: ReturnState, from: From): { subject: string; body: string } {
  const isClaim = one.why === 'failed';
  return letter(
    `${isClaim ? 'Warranty claim' : 'Return'}, order ${order.number}`,
    [
      `${isClaim ? 'this part of our order' : 'this goes back from our order'} ${orderWords(order, from)}:`,
      '',
      ...itemLines(order, one),
      '',
      isClaim
        ? `Please replace it or credit ${formatMoney(one.refund)}, net. It can be sent to you on request.`
        : `It leaves us by ${formatFullDate(one.sendBy)} at the latest. Please credit ${formatMoney(one.refund)}, net.`,
    ],
    from,
  );
}

/** The paper of a parcel with things of several orders. */
export function parcelLetter({ returns, sendBy }: ReturnParcel, from: From): { subject: string; body: string } {
  const numbers = [...new Set(returns.map(({ order }) => order.number))];
  const due = [...groupBy(returns, ({ one }) => one.refund.currency)].map(([currency, own]) =>
    formatMoney({ currency, amountMinor: sum(own.map(({ one }) => one.refund.amountMinor)) }),
  );
  return letter(
    `Return, ${numbers.length > 1 ? 'orders' : 'order'} ${numbers.join(', ')}`,
    [
      `these go back in one parcel, ${plural(returns.length, 'position')}:`,
      ...returns.flatMap(({ order, one }) => ['', `Of order ${orderWords(order, from)}:`, ...itemLines(order, one)]),
      '',
      `The parcel leaves us by ${formatFullDate(sendBy)} at the latest. Please credit ${listOf(due)}, net.`,
    ],
    from,
  );
}

const orderWords = ({ number, madeAt, reference }: OrderState, { zone }: From): string =>
  `${number} of ${formatFullDate(localDateOf(madeAt, zone))}${reference ? `, your reference ${reference}` : ''}`;

function itemLines(order: OrderState, one: ReturnState): string[] {
  const line = order.lines.find(({ lineId }) => lineId === one.lineId);
  return [
    `  ${one.packs} x ${line?.supplierNumber || (line?.answeredNumber ?? '')}  ${line?.description ?? ''}`,
    `  Reason: ${RETURN_WHY[one.why]}${one.note ? ` (${one.note})` : ''}`,
  ];
}

const letter = (subject: string, body: readonly string[], from: From): { subject: string; body: string } => ({
  subject: `${subject}${from.shopName ? `, ${from.shopName}` : ''}`,
  body: ['Good day,', '', ...body, '', from.shopName, from.address, from.phone]
    .filter((text, index, all) => text !== '' || all[index - 1] !== '')
    .join('\n')
    .trim(),
});

/** What an invoice charges otherwise. */
export function invoiceDifferenceWords({ kind, said, ours, theirs, amount }: InvoiceDifference): string {
  const cash = (amountMinor: number) => formatMoney({ ...amount, amountMinor });
  switch (kind) {
    case 'not-ordered':
      return `${said}: ${theirs} charged, nothing ordered (${cash(amount.amountMinor)})`;
    case 'more-than-kept':
      return `${said}: ${theirs} charged, ${ours} here and kept (${cash(amount.amountMinor)})`;
    case 'price':
      return `${said}: ${cash(theirs)} each, agreed were ${cash(ours)} (${cash(amount.amountMinor)})`;
    case 'shipping':
      return `shipping ${cash(theirs)}, agreed were ${cash(ours)}`;
    case 'sum':
      return `its lines add up to ${cash(ours)}, it asks for ${cash(theirs)}`;
  }
}
