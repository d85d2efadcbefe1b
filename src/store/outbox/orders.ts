import {
  type MeasuredSize,
  readUblOrderResponse,
  orderAsUbl,
  type OrderAnswer,
  type OrderEventData,
  type OrderState,
  type PurchasePlan,
} from '@/core/order';
import type { Catalogue } from '@/core/catalogue';
import type { Settings } from '@/core/case';
import type { TicketEventData } from '@/core/ticket';
import { addHours, keyBy, localDateOf } from '@/core/units';
import { now } from '../clock';
import { database, type OutboxRecord } from '../database';
import { append, loadOrder, orderStream, ticketStream, type Append } from '../records/events';
import { shopId } from '../records/settings';

/** Makes the orders of a plan: order, tickets and outbox in one transaction. Nothing is sent here. Returns the new order ids. */
export async function makeOrders(
  plan: PurchasePlan,
  catalogue: Pick<Catalogue, 'parts' | 'suppliers' | 'shipping_modes'>,
  settings: Settings,
): Promise<string[]> {
  const at = now();
  const parts = keyBy(catalogue.parts, (part) => part.id);
  const suppliers = keyBy(catalogue.suppliers, (supplier) => supplier.id);
  const modes = keyBy(catalogue.shipping_modes, (mode) => mode.id);
  const appends: Append[] = [];
  const outbox: OutboxRecord[] = [];
  for (const order of plan.orders) {
    const orderId = crypto.randomUUID();
    const number = `${localDateOf(at, settings.zone).replaceAll('-', '').slice(2)}-${orderId.slice(0, 4).toUpperCase()}`;
    const supplierName = suppliers.get(order.supplierId)?.name ?? order.supplierId;
    const lines = order.lines.map((line) => ({
      offerId: line.offerId,
      partId: line.partId,
      partNumber: parts.get(line.partId)?.partNumber ?? line.supplierNumber,
      description: parts.get(line.partId)?.description ?? '',
      supplierNumber: line.supplierNumber,
      packs: line.packs,
      unitPrice: line.unitPrice,
      for: line.for,
    }));
    appends.push({
      stream: orderStream(orderId),
      data: [
        {
          type: 'order-made',
          number,
          supplierId: order.supplierId,
          supplierName,
          modeId: order.modeId,
          modeName: modes.get(order.modeId)?.name ?? '',
          lines,
          shipping: order.shipping,
          expectedOn: order.arrivesOn,
        },
      ],
    });
    const ordered = order.lines.flatMap((line) => line.for);
    for (const entry of ordered)
      appends.push({
        stream: ticketStream(entry.ticketId),
        data: [
          {
            type: 'part-ordered',
            requirementId: entry.requirementId,
            orderId,
            orderNumber: number,
            supplierName,
            dueOn: order.arrivesOn,
          },
        ],
      });
    outbox.push({ orderId, supplierId: order.supplierId, idempotencyKey: orderId, attempts: 0, nextAt: at });
  }
  await append(appends, async (db) => void (await db.outbox.bulkPut(outbox)));
  return outbox.map((entry) => entry.orderId);
}

const TIMEOUT_MS = 6000;
/** Waits between attempts, minutes; the last one repeats. */
const BACKOFF_MINUTES = [0.25, 1, 5, 15];

type Failure = Extract<OrderEventData, { type: 'send-failed' }>['why'];

async function post(
  entry: OutboxRecord,
  order: OrderState,
  buyer: string,
  zone: string,
): Promise<{ answer: OrderAnswer } | { why: Failure; detail: string }> {
  const body = orderAsUbl(order, buyer, zone);
  try {
    const response = await fetch(`/api/suppliers/${entry.supplierId}/orders`, {
      method: 'POST',
      headers: {
        'content-type': 'application/xml',
        'idempotency-key': entry.idempotencyKey,
        'x-sorter-shop': await shopId(),
      },
      body,
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    if (response.status >= 500) return { why: 'down', detail: `answered ${response.status}` };
    if (!response.ok) return { why: 'refused', detail: (await response.text()).slice(0, 300) };
    const read = readUblOrderResponse(await response.text());
    return read.ok ? { answer: read.value } : { why: 'unreadable', detail: read.error.kind };
  } catch (error) {
    return error instanceof DOMException && error.name === 'TimeoutError'
      ? { why: 'timeout', detail: `no answer in ${TIMEOUT_MS / 1000} s` }
      : { why: 'down', detail: 'not reached' };
  }
}

/** What an answer means for the tickets that wait for its lines. */
export function ticketConsequences(order: OrderState, answer: OrderAnswer): Append[] {
  return order.lines.flatMap((line) => {
    const reply = answer.lines.find((candidate) => candidate.offerId === line.offerId);
    return line.for.map((entry): Append => {
      const base = { requirementId: entry.requirementId, orderId: order.orderId };
      const data: TicketEventData =
        !reply || reply.status === 'rejected'
          ? { type: 'part-order-cancelled', ...base, why: reply?.note ?? 'not in the answer' }
          : {
              type: 'part-due',
              ...base,
              dueOn: reply.dueOn,
              why: reply.status === 'accepted' ? 'accepted' : (reply.note ?? reply.status),
            };
      return { stream: ticketStream(entry.ticketId), data: [data] };
    });
  });
}

async function sendOne(entry: OutboxRecord, settings: Settings): Promise<void> {
  const order = await loadOrder(entry.orderId);
  if (!order || order.cancelled || order.reference) {
    await database().outbox.delete(entry.orderId);
    return;
  }
  const result = await post(entry, order, settings.shopName, settings.zone);
  const stream = orderStream(entry.orderId);
  if ('answer' in result) {
    await append(
      [{ stream, data: [{ type: 'answered', answer: result.answer }] }, ...ticketConsequences(order, result.answer)],
      async (db) => void (await db.outbox.delete(entry.orderId)),
    );
    return;
  }
  const attempts = entry.attempts + 1;
  const retryAt = addHours(now(), (BACKOFF_MINUTES[Math.min(attempts, BACKOFF_MINUTES.length) - 1] ?? 15) / 60);
  await append(
    [{ stream, data: [{ type: 'send-failed', why: result.why, detail: result.detail, attempt: attempts, retryAt }] }],
    async (db) => void (await db.outbox.put({ ...entry, attempts, nextAt: retryAt })),
  );
}

/** Sends what is due. One tab at a time; the key makes a repeat after a lost answer harmless. `all`: not only what is due. */
export async function sendOutbox(settings: Settings, all = false): Promise<number> {
  return navigator.locks.request('sorter-outbox', async () => {
    const due = (await database().outbox.toArray()).filter((entry) => all || entry.nextAt <= now());
    await Promise.all(due.map((entry) => sendOne(entry, settings)));
    return due.length;
  });
}

/** Takes an order back that was never answered. What has left the shop is cancelled, not undone. */
export async function cancelOrder(orderId: string, why: string): Promise<void> {
  const order = await loadOrder(orderId);
  if (!order || order.reference) return;
  const tickets = order.lines.flatMap((line) =>
    line.for.map((entry): Append => ({
      stream: ticketStream(entry.ticketId),
      data: [{ type: 'part-order-cancelled', requirementId: entry.requirementId, orderId, why }],
    })),
  );
  await append(
    [{ stream: orderStream(orderId), data: [{ type: 'cancelled', why }] }, ...tickets],
    async (db) => void (await db.outbox.delete(orderId)),
  );
}

export type Receipt = {
  offerId: string;
  numberRead: string;
  verdict: 'as-ordered' | 'newer-number' | 'same-by-reference' | 'wrong';
  measured?: MeasuredSize[];
};

/** Checks one line of a parcel in: the order's line and every ticket that waits for it. */
export async function receiveLine(order: OrderState, receipt: Receipt): Promise<void> {
  const line = order.lines.find((candidate) => candidate.offerId === receipt.offerId);
  if (!line) return;
  const tickets = line.for.map((entry): Append => ({
    stream: ticketStream(entry.ticketId),
    data: [
      {
        type: 'part-received',
        requirementId: entry.requirementId,
        orderId: order.orderId,
        partNumber: receipt.numberRead,
        verdict: receipt.verdict,
      },
    ],
  }));
  await append([
    {
      stream: orderStream(order.orderId),
      data: [
        {
          type: 'line-received',
          offerId: line.offerId,
          numberRead: receipt.numberRead,
          verdict: receipt.verdict,
          packs: line.packs,
          ...(receipt.measured?.length ? { measured: receipt.measured } : {}),
        },
      ],
    },
    ...tickets,
  ]);
}
