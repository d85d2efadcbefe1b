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
  type HeardAnswer,
  type OrderState,
} from '@/core/order';
import { addHours, localDateOf, stableJson, type Instant, type LocalDate } from '@/core/units';
import { now } from '../clock';
import { database } from '../database';
import { eventStore } from '../records/act';
import { onOrder } from '../records/acts';
import { shopId } from '../records/settings';
import { saving } from '../saving';

/** The formats and their parser: loaded when there is something to send. */
const documents = () => import('@/core/order/documents');

const TIMEOUT_MS = 6000;
/** Waits between attempts, minutes; the last one repeats. */
const BACKOFF_MINUTES = [0.25, 1, 5, LONGEST_WAIT_MINUTES];

type Failed = { kind: 'failed'; why: 'down' | 'timeout' | 'unreadable'; status: number | null };
/** What came of asking a supplier. */
type Heard =
  | { kind: 'answer'; answer: HeardAnswer; status: number }
  | { kind: 'refused'; status: number; detail: string }
  | { kind: 'void' }
  | Failed;

async function ask(order: OrderState, method: 'POST' | 'DELETE', body: string | null): Promise<Heard> {
  try {
    const response = await fetch(`/api/suppliers/${order.supplierId}/orders`, {
      method,
      headers: {
        'content-type': 'application/xml',
        // The same key for every attempt: a repeat after a lost answer gets the first answer again.
        'idempotency-key': order.orderId,
        'x-sorter-shop': await shopId(),
      },
      ...(body === null ? {} : { body }),
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    const { status } = response;
    if (status >= 500) return { kind: 'failed', why: 'down', status };
    // Not now: nothing is said about the order itself.
    if ([408, 425, 429].includes(status)) return { kind: 'failed', why: 'down', status };
    if (status === (method === 'DELETE' ? 204 : 410)) return { kind: 'void' };
    if (!response.ok) return { kind: 'refused', status, detail: (await response.text()).slice(0, 300) };
    const read = (await documents()).readUblOrderResponse(await response.text());
    return read.ok ? { kind: 'answer', answer: read.value, status } : { kind: 'failed', why: 'unreadable', status };
  } catch (error) {
    const slow = error instanceof DOMException && error.name === 'TimeoutError';
    return { kind: 'failed', why: slow ? 'timeout' : 'down', status: null };
  }
}

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
    ? await ask(order, 'DELETE', null)
    : await ask(order, 'POST', orderAsUbl(order, shopName, zone));
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
