import type { Settings } from '@/core/case';
import {
  noteAnswer,
  noteRefused,
  noteSendFailed,
  noteTrying,
  noteVoid,
  type OrderAnswer,
  type OrderState,
} from '@/core/order';
import { addHours, type Instant } from '@/core/units';
import { now } from '../clock';
import { database } from '../database';
import { eventStore } from '../records/act';
import { onOrder } from '../records/acts';
import { shopId } from '../records/settings';

/** The formats and their parser: loaded when there is something to send. */
const documents = () => import('@/core/order/documents');

const TIMEOUT_MS = 6000;
/** Waits between attempts, minutes; the last one repeats. */
const BACKOFF_MINUTES = [0.25, 1, 5, 15];

type Failed = { kind: 'failed'; why: 'down' | 'timeout' | 'unreadable'; status: number | null };
/** What came of asking a supplier. */
type Heard =
  | { kind: 'answer'; answer: OrderAnswer }
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
    if (status === 204 || status === 410) return { kind: 'void' };
    if (!response.ok) return { kind: 'refused', status, detail: (await response.text()).slice(0, 300) };
    const read = (await documents()).readUblOrderResponse(await response.text());
    return read.ok ? { kind: 'answer', answer: read.value } : { kind: 'failed', why: 'unreadable', status };
  } catch (error) {
    const slow = error instanceof DOMException && error.name === 'TimeoutError';
    return { kind: 'failed', why: slow ? 'timeout' : 'down', status: null };
  }
}

const retryAfter = (order: OrderState): Instant =>
  addHours(now(), (BACKOFF_MINUTES[Math.min(order.failures.length, BACKOFF_MINUTES.length - 1)] ?? 15) / 60);

/** One order: what is about to be done is written first, then the supplier is asked, then what was heard is written. */
async function sendOne(order: OrderState, { shopName, zone }: Settings): Promise<void> {
  const store = eventStore();
  const cancelling = order.cancelAsked;
  // Before anything is noted: an order whose document cannot be made was not tried.
  const { orderAsUbl } = await documents();
  if (!cancelling) {
    const trying = await onOrder(store, order.orderId, noteTrying);
    // Cancelled or answered meanwhile: there is nothing to send.
    if (!trying.ok) return;
  }
  const heard = cancelling
    ? await ask(order, 'DELETE', null)
    : await ask(order, 'POST', orderAsUbl(order, shopName, zone));
  await onOrder(store, order.orderId, (current) => {
    switch (heard.kind) {
      case 'answer':
        return noteAnswer(current, heard.answer);
      case 'void':
        return noteVoid(current);
      case 'refused':
        return noteRefused(current, heard.status, heard.detail);
      case 'failed':
        return noteSendFailed(current, { why: heard.why, status: heard.status }, retryAfter(current));
    }
  });
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
export async function sendWaitingOrders(settings: Settings, all = false): Promise<number> {
  return navigator.locks.request(`${database().name}-outbox`, async () => {
    const due = (await waiting()).filter((order) => all || order.nextAt <= now());
    await Promise.all(due.map((order) => sendOne(order, settings)));
    return due.length;
  });
}
