import type { Settings } from '@/core/case';
import {
  isDue,
  noteAnswer,
  noteRefused,
  noteSendFailed,
  noteTrying,
  noteVoid,
  judgeAnswer,
  LONGEST_WAIT_MINUTES,
  type Decision,
  type OrderState,
} from '@/core/order';
import { addHours, localDateOf, stableJson, type Instant, type LocalDate } from '@/core/units';
import { now } from '../clock';
import { database } from '../database';
import { eventStore } from '../records/act';
import { onOrder } from '../records/acts';
import { shopId } from '../records/settings';
import { saving } from '../saving';
import { overHttp, type Heard, type SupplierService } from './supplierService';

/** The formats and their parser: loaded when there is something to send. */
const documents = () => import('@/core/order/documents');

/** Waits between attempts, minutes; the last one repeats. */
const BACKOFF_MINUTES = [0.25, 1, 5, LONGEST_WAIT_MINUTES];

/** The suppliers of the catalogue stand behind routes of the application itself. */
const serviceOf = ({ supplierId }: OrderState): SupplierService =>
  overHttp(`/api/suppliers/${supplierId}/orders`, shopId);

const retryAfter = (order: OrderState): Instant =>
  addHours(
    now(),
    (BACKOFF_MINUTES[Math.min(order.failures.length, BACKOFF_MINUTES.length - 1)] ?? LONGEST_WAIT_MINUTES) / 60,
  );

/** Called with an order whose answer a person should look at: it was set aside, or differs from what was ordered. */
type Tell = (order: OrderState) => void;

/** One order: what is about to be done is written first, then the supplier is asked, then what was heard is written. */
async function sendOne(order: OrderState, { shopName, zone }: Settings, tell: Tell): Promise<void> {
  const store = eventStore();
  const cancelling = order.cancelAsked;
  // Before anything is noted: an order whose document cannot be made was not tried.
  const { orderAsUbl } = await documents();
  if (!cancelling) {
    const trying = await saving.keep(() => onOrder(store, order.orderId, noteTrying));
    // Cancelled or answered meanwhile: there is nothing to send.
    if (!trying.ok) return;
  }
  const heard = cancelling
    ? await serviceOf(order).takeBack(order.orderId)
    : await serviceOf(order).order(order.orderId, orderAsUbl(order, shopName, zone));
  const hear = (current: OrderState): Decision => {
    switch (heard.kind) {
      case 'answer':
        return hearAnswer(current, heard, localDateOf(now(), zone));
      case 'void':
        return noteVoid(current);
      case 'refused':
        return noteRefused(current, heard.status, heard.detail);
      case 'failed':
        return noteSendFailed(current, { why: heard.why, status: heard.status }, retryAfter(current));
    }
  };
  // What was heard is not forgotten for want of room.
  const noted = await saving.keep(() => onOrder(store, order.orderId, hear));
  const after = heard.kind === 'answer' && noted.ok ? await store.order(order.orderId) : null;
  if (after && (after.state.reference === null ? isNewlySetAside(after.state) : after.state.doubts.length > 0))
    tell(after.state);
}

/** Set aside for other reasons than the last time: the same answer again is no news. */
function isNewlySetAside({ failures }: OrderState): boolean {
  const [before, last] = [failures.at(-2), failures.at(-1)];
  return stableJson(before?.problems ?? null) !== stableJson(last?.problems ?? null);
}

/** An answer is taken as far as it can be believed; one that cannot is set aside and asked for again. */
function hearAnswer(
  order: OrderState,
  { answer, status }: Extract<Heard, { kind: 'answer' }>,
  today: LocalDate,
): Decision {
  const judged = judgeAnswer(order, answer, today);
  return judged.kind === 'taken'
    ? noteAnswer(order, judged.answer, judged.doubts)
    : noteSendFailed(order, { why: 'not-believed', status, problems: judged.problems }, retryAfter(order));
}

/** Orders that wait to be sent or asked about: it follows from the orders themselves. */
async function waiting(): Promise<OrderState[]> {
  const open = await database().summaries.where('[kind+open]').equals(['order', 1]).toArray();
  return open.flatMap((record) =>
    record.kind === 'order' &&
    !record.summary.byHand &&
    (record.summary.phase === 'unsent' || record.summary.phase === 'unknown')
      ? [record.summary]
      : [],
  );
}

/** Sends what is due. One tab at a time; the key makes a repeat after a lost answer harmless. `all`: not only what is due. */
export async function sendWaitingOrders(
  settings: Settings,
  all = false,
  tell: Tell = () => undefined,
): Promise<number> {
  return navigator.locks.request(`${database().name}-outbox`, async () => {
    const due = (await waiting()).filter((order) => all || isDue(order, now()));
    // The lock is held until every one of them is through, whatever becomes of the others.
    const ends = await Promise.allSettled(due.map((order) => sendOne(order, settings, tell)));
    for (const end of ends) if (end.status === 'rejected') throw end.reason;
    return due.length;
  });
}
