import type { Instant, LineId, OrderId, RequirementId } from '../../units';
import { fail, ok } from '../../units';
import type { TicketEventData, TicketEventOf } from '../../ticket';
import {
  type AnswerDoubt,
  type OrderAnswer,
  type OrderEventOf,
  type OrderState,
  type PlacedLine,
} from '../stream/orderStream';
import type { Append, Decision } from './place';

const past = (order: OrderState): Decision => fail({ kind: 'order-is-past', number: order.number });
export const onOrder = (
  { orderId }: OrderState,
  ...data: Extract<Append, { kind: 'order' }>['data'][number][]
): Append => ({
  kind: 'order',
  orderId,
  data,
});

/** Each ticket that waits for a line hears what became of it. */
const toTickets = (
  order: OrderState,
  line: PlacedLine,
  say: (base: { requirementId: RequirementId; orderId: OrderId; lineId: LineId }) => TicketEventData,
): Append[] =>
  line.for.map(({ ticketId, requirementId }): Append => ({
    kind: 'ticket',
    ticketId,
    data: [say({ requirementId, orderId: order.orderId, lineId: line.lineId })],
  }));

const allFallAway = (order: OrderState, why: TicketEventOf<'part-order-cancelled'>['why']): Append[] =>
  order.lines.flatMap((line) =>
    toTickets(order, line, (base) => ({ type: 'part-order-cancelled', ...base, why, note: null })),
  );

const isWaiting = ({ phase }: OrderState) => phase === 'unsent' || phase === 'unknown';

const untouched = (order: OrderState) => order.lines.every((line) => line.received.length === 0);

/** A person sent it: the supplier has it now. */
export const noteSentByHand = (order: OrderState): Decision =>
  order.byHand && order.phase === 'unsent'
    ? ok([onOrder(order, { type: 'send-tried', attempt: order.attempts + 1 })])
    : past(order);

/** Before it is sent. From here on the supplier may have it. */
export const noteTrying = (order: OrderState): Decision =>
  isWaiting(order) && !order.cancelAsked
    ? ok([onOrder(order, { type: 'send-tried', attempt: order.attempts + 1 })])
    : past(order);

/** No answer, or none that can be read: it may have been taken all the same. */
export const noteSendFailed = (
  order: OrderState,
  failure: Omit<OrderEventOf<'send-failed'>, 'type' | 'retryAt'>,
  retryAt: Instant,
): Decision => (isWaiting(order) ? ok([onOrder(order, { type: 'send-failed', ...failure, retryAt })]) : past(order));

/** The supplier will not take it: its parts are to be planned again, and it is not sent again. */
export const noteRefused = (order: OrderState, status: number, detail: string): Decision =>
  isWaiting(order)
    ? ok([onOrder(order, { type: 'refused', status, detail: detail.slice(0, 500) }), ...allFallAway(order, 'refused')])
    : past(order);

/**
 * The supplier's answer and what it means for each ticket. A second answer over the wire changes nothing; one that a person types may be another one, as long as
 * nothing of the order is here.
 */
export function noteAnswer(order: OrderState, answer: OrderAnswer, doubts: readonly AnswerDoubt[] = []): Decision {
  const mayChange = order.byHand && order.phase === 'open' && untouched(order);
  if (!isWaiting(order) && !mayChange) return past(order);
  return ok([
    onOrder(order, { type: 'answered', answer, ...(doubts.length ? { doubts: [...doubts] } : {}) }),
    ...order.lines.flatMap((line) => {
      const reply = answer.lines.find((candidate) => candidate.lineId === line.lineId);
      return toTickets(order, line, (base) =>
        !reply || reply.status === 'rejected'
          ? {
              type: 'part-order-cancelled',
              ...base,
              why: reply ? 'rejected' : 'not-in-answer',
              note: reply?.note ?? null,
            }
          : { type: 'part-due', ...base, dueOn: reply.dueOn, status: reply.status, note: reply.note },
      );
    }),
  ]);
}

/**
 * Takes an order back. One that was never tried is cancelled at once; of one that was tried nobody knows: the supplier is asked first, and until then
 * its parts stay ordered.
 */
export function cancelOrder(order: OrderState): Decision {
  // Whoever sent it by hand has told the supplier: that is their word.
  if (order.byHand && order.phase !== 'unsent' && order.phase !== 'done' && untouched(order))
    return ok([onOrder(order, { type: 'cancelled', why: 'void-at-supplier' }), ...allFallAway(order, 'void')]);
  if (!isWaiting(order)) return past(order);
  return order.phase === 'unsent'
    ? ok([onOrder(order, { type: 'cancelled', why: 'not-sent' }), ...allFallAway(order, 'cancelled')])
    : ok(order.cancelAsked ? [] : [onOrder(order, { type: 'cancel-asked' })]);
}

/** The supplier says that it has nothing of this order and will take nothing under its key. */
export const noteVoid = (order: OrderState): Decision =>
  order.phase === 'unknown'
    ? ok([onOrder(order, { type: 'cancelled', why: 'void-at-supplier' }), ...allFallAway(order, 'void')])
    : past(order);
