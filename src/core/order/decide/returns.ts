import type { Context } from '../../ticket';
import {
  addDays,
  fail,
  groupBy,
  money,
  ok,
  type LineId,
  type LocalDate,
  type Money,
  type OrderId,
  type SupplierId,
} from '../../units';
import { fellAway, type OrderEventOf, type OrderState, type PlacedLine, type ReturnState } from '../stream/orderStream';
import type { Append, Decision } from './place';
import { onOrder } from './send';

export type ReturnWhy = OrderEventOf<'return-opened'>['why'];

/** What a supplier keeps of the price when a good part comes back; its own faults cost nothing. 0 to 1. */
const keptShare = (why: ReturnWhy, restocking: number): number => (why === 'not-needed' ? restocking : 0);

export type ReturnTerms = {
  /** Share of the price that the supplier keeps of a part that was right. */
  restocking: number;
  /** Days in which it has to be on its way. */
  days: number;
  today: LocalDate;
};

export type ReturnDraft = { lineId: LineId; packs: number; why: ReturnWhy; note: string };

/** Packs of a line that may still go back: what came, less what is on its way back already. */
export const mayReturn = (order: OrderState, { lineId, received, packs }: PlacedLine): number => {
  const came = received.reduce((all, receipt) => all + receipt.packs, 0);
  const back = order.returns.reduce(
    (all, one) => all + (one.lineId === lineId && one.why !== 'too-many' ? one.packs : 0),
    0,
  );
  return Math.max(0, Math.min(came, packs) - back);
};

/** What comes back for it. */
export const refundOf = (line: PlacedLine, { packs, why }: ReturnDraft, { restocking }: ReturnTerms): Money =>
  money(
    Math.round(packs * line.answeredPrice.amountMinor * (1 - keptShare(why, restocking))),
    line.answeredPrice.currency,
  );

/** The event that opens a return of some packs of a line. */
export const openReturn = (
  line: PlacedLine,
  draft: ReturnDraft,
  terms: ReturnTerms,
  { newId }: Pick<Context, 'newId'>,
): OrderEventOf<'return-opened'> => ({
  type: 'return-opened',
  returnId: newId(),
  ...draft,
  sendBy: addDays(terms.today, terms.days),
  refund: refundOf(line, draft, terms),
});

/** Opens a return of what is here: with the day by which it has to be on its way, and what is due back. */
export function sendBack(order: OrderState, draft: ReturnDraft, terms: ReturnTerms, context: Context): Decision {
  const line = order.lines.find(({ lineId }) => lineId === draft.lineId);
  if (!line || draft.packs < 1 || draft.packs > mayReturn(order, line))
    return fail({ kind: 'nothing-to-come', number: order.number });
  return ok([onOrder(order, openReturn(line, draft, terms, context))]);
}

const known = (order: OrderState, returnId: string): ReturnState | undefined =>
  order.returns.find((one) => one.returnId === returnId);

/** It is on its way back. */
export const noteReturnSent = (order: OrderState, returnId: string, reference: string): Decision =>
  known(order, returnId)?.stand === 'open'
    ? ok([onOrder(order, { type: 'return-sent', returnId, reference })])
    : fail({ kind: 'order-is-past', number: order.number });

/** Returns that go to one supplier in one parcel; `sendBy`: when the first of them has to leave. */
export type ReturnParcel = {
  supplierId: SupplierId;
  supplierName: string;
  sendBy: LocalDate;
  returns: { order: OrderState; one: ReturnState }[];
};

/** Suppliers to whom more than one thing goes back, the most urgent first. What failed waits for the supplier's word: it is claimed, not sent. O(returns log returns). */
export function returnParcels(orders: readonly OrderState[]): ReturnParcel[] {
  const going = orders.flatMap((order) =>
    order.returns.flatMap((one) => (one.stand === 'open' && one.why !== 'failed' ? [{ order, one }] : [])),
  );
  return [...groupBy(going, ({ order }) => order.supplierId)]
    .flatMap(([supplierId, returns]): ReturnParcel[] => {
      const [first] = [...returns].sort((a, b) => (a.one.sendBy < b.one.sendBy ? -1 : 1));
      return first && returns.length > 1
        ? [{ supplierId, supplierName: first.order.supplierName, sendBy: first.one.sendBy, returns }]
        : [];
    })
    .sort((a, b) => (a.sendBy < b.sendBy ? -1 : 1));
}

/** All of a parcel is on its way, under one number; what is not open any more stops all of it. */
export function noteParcelSent(
  orders: ReadonlyMap<OrderId, OrderState>,
  returns: readonly { orderId: OrderId; returnId: string }[],
  reference: string,
): Decision {
  const appends: Append[] = [];
  for (const { orderId, returnId } of returns) {
    const order = orders.get(orderId);
    if (!order) return fail({ kind: 'gone' });
    const noted = noteReturnSent(order, returnId, reference);
    if (!noted.ok) return noted;
    appends.push(...noted.value);
  }
  return ok(appends);
}

/** What the supplier did about it. */
export function settleReturn(
  order: OrderState,
  returnId: string,
  how: OrderEventOf<'return-settled'>['how'],
  amount: Money,
): Decision {
  const one = known(order, returnId);
  return one && one.stand !== 'settled'
    ? ok([onOrder(order, { type: 'return-settled', returnId, how, amount })])
    : fail({ kind: 'order-is-past', number: order.number });
}

/** The rest of a line does not come: its tickets need it again. */
export function noteShort(order: OrderState, lineId: LineId): Decision {
  const line = order.lines.find((candidate) => candidate.lineId === lineId);
  const comes = order.phase === 'open' || (order.byHand && order.phase === 'unknown');
  if (!line || !comes || fellAway(line) || line.outstanding === 0)
    return fail({ kind: 'nothing-to-come', number: order.number });
  return ok([
    onOrder(order, { type: 'line-short', lineId, packs: line.outstanding }),
    ...line.for.map(({ ticketId, requirementId }): Append => ({
      kind: 'ticket',
      ticketId,
      data: [
        {
          type: 'part-order-cancelled',
          requirementId,
          orderId: order.orderId,
          lineId,
          why: 'short',
          note: null,
        },
      ],
    })),
  ]);
}
