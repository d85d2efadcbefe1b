import 'fake-indexeddb/auto';
import { afterAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { demoCatalogue, demoSettings } from '../../../tests/support/demo';
import { giveLocks } from '../../../tests/support/worker';
import { type OrderAnswer, type OrderDraft } from '@/core/order';
import { readUblOrder, writeUblOrderResponse } from '@/core/order/documents';
import {
  answerOffer,
  awaited,
  chooseParts,
  needsOf,
  offer as offerTo,
  settleCause,
  unordered,
  type RequirementDraft,
  type TicketDecision,
} from '@/core/ticket';
import { defined, money, asDay, type OrderId, type TicketId, asId, type SupplierId, type CauseId } from '@/core/units';
import { database } from '../database';
import { eventStore } from '../records/act';
import { onTicket, openTicket } from '../records/acts';
import { cancelOrder, checkIn, placeOrders } from '../records/supplyActs';
import { sendWaitingOrders } from './sending';

const catalogue = demoCatalogue();
const settings = demoSettings();
const offer = defined(
  catalogue.offers.find((entry) => entry.supplierId === 'northquay' && entry.stockPacks > 2),
  'an offer',
);
const part = defined(
  catalogue.parts.find((entry) => entry.id === offer.partId),
  'its part',
);

const requirement: RequirementDraft = {
  roleId: part.roleId,
  causeId: asId<CauseId>('c'),
  companion: false,
  position: 'any',
  route: 'maker',
  bought: { partId: part.id, partNumber: part.partNumber, description: part.description, quantity: 1, cost: null },
  alternatives: [],
};
const option = {
  id: 'best-fit',
  kind: 'best-fit' as const,
  causeIds: [asId<CauseId>('c')],
  causeNames: ['c'],
  net: money(0, 'EUR'),
  tax: money(0, 'EUR'),
  gross: money(0, 'EUR'),
  handsOnMinutes: 0,
  readyOn: null,
  lines: [],
  parts: [requirement],
};
const agreed: TicketDecision[] = [
  settleCause({ causeId: asId<CauseId>('c'), name: 'c', needsPart: true }),
  chooseParts(asId('c'), [requirement]),
  offerTo({
    causeId: asId<CauseId>('c'),
    options: [option],
    fee: { gross: money(0, 'EUR'), waived: true },
    worth: null,
  }),
  answerOffer('yes', 'best-fit'),
];

/** A ticket whose customer said yes to the part, and a plan that buys it. */
async function needing(): Promise<{ ticketId: TicketId; plan: OrderDraft[] }> {
  const store = eventStore();
  const opened = await openTicket(store, []);
  const ticketId = defined(opened.ok ? opened.value.tickets[0] : undefined, 'a ticket');
  for (const decision of agreed) await onTicket(store, ticketId, decision);
  const [need] = (await stateOf(ticketId)).round.parts;
  const line = {
    offerId: offer.id,
    partId: part.id,
    supplierNumber: offer.supplierNumber,
    packs: 1,
    packPrice: offer.packPrice,
    linePrice: offer.packPrice,
    for: [{ ticketId, requirementId: need?.requirementId ?? asId('none'), partId: part.id, units: 1, perPack: 1 }],
    spare: 0,
    packSize: 1,
    contents: [{ partId: part.id, perPack: 1 }],
  };
  return {
    ticketId,
    plan: [
      {
        supplierId: asId<SupplierId>('northquay'),
        supplierName: 'Northquay',
        modeId: 'nq-day',
        modeName: 'next day',
        byHand: false,
        lines: [line],
        goods: offer.packPrice,
        shipping: money(690, 'EUR'),
        arrivesOn: asDay('2026-11-26'),
        parts: new Map([[part.id, part]]),
      },
    ],
  };
}

async function ordered(): Promise<{ ticketId: TicketId; orderId: OrderId }> {
  const { ticketId, plan } = await needing();
  const made = await placeOrders(eventStore(), plan, settings.zone);
  return { ticketId, orderId: defined(made.ok ? made.value.orders[0] : undefined, 'an order') };
}

type Sent = { key: string; method: string; body: string };
const sent: Sent[] = [];

/** A supplier at the other end of fetch: what it answers to each request in turn; the last one repeats. */
function supplier(...answers: (Response | Error | ((body: string) => Response | Promise<Response>))[]): void {
  sent.length = 0;
  let index = 0;
  vi.stubGlobal('fetch', async (_url: string, init: RequestInit) => {
    const body = String(init.body ?? '');
    sent.push({ key: new Headers(init.headers).get('idempotency-key') ?? '', method: init.method ?? '', body });
    const answer = answers[Math.min(index, answers.length - 1)];
    index += 1;
    if (answer instanceof Error) throw answer;
    return typeof answer === 'function' ? answer(body) : (answer ?? new Response('', { status: 500 })).clone();
  });
}

const accepting =
  (change: Partial<OrderAnswer['lines'][number]> = {}) =>
  (body: string) => {
    const order = readUblOrder(body);
    if (!order.ok) return new Response('bad', { status: 422 });
    const lines = order.value.lines.map((line): OrderAnswer['lines'][number] => ({
      lineId: line.id,
      status: 'accepted',
      partId: line.partId,
      partNumber: line.partNumber,
      packPrice: line.packPrice,
      dueOn: asDay('2026-11-27'),
      note: null,
      ...change,
    }));
    return new Response(writeUblOrderResponse({ reference: 'NQ-1', lines }, order.value.number, asDay('2026-11-24')));
  };

const stateOf = async (ticketId: TicketId) => defined(await eventStore().ticket(ticketId), 'the ticket').state;
const orderOf = async (orderId: OrderId) => defined(await eventStore().order(orderId), 'the order').state;
const waiting = async () =>
  (await database().summaries.where('[kind+open]').equals(['order', 1]).toArray()).flatMap((record) =>
    record.kind === 'order' && record.summary.phase !== 'open' ? [record.summary] : [],
  );
const supplyIn = async (ticketId: TicketId) => defined(needsOf(await stateOf(ticketId))[0], 'a need').supply;

beforeEach(async () => {
  // The days that the supplier names lie ahead, whenever this runs.
  vi.useFakeTimers({ toFake: ['Date'], now: new Date('2026-11-24T08:00:00Z') });
  giveLocks();
  await Promise.all(database().tables.map((table) => table.clear()));
});

afterAll(() => {
  vi.useRealTimers();
});

describe('sending orders', () => {
  it('makes order and ticket together, and sends nothing yet', async () => {
    supplier(accepting());
    const { ticketId, orderId } = await ordered();
    expect(sent).toEqual([]);
    expect((await orderOf(orderId)).phase).toBe('unsent');
    expect(await waiting()).toHaveLength(1);
    expect(await supplyIn(ticketId)).toMatchObject({ coming: 1, missing: 0, dueOn: '2026-11-26' });
  });

  it('takes the answer’s date to the ticket, and then nothing waits', async () => {
    supplier(accepting());
    const { ticketId, orderId } = await ordered();
    await sendWaitingOrders(settings);
    expect((await orderOf(orderId)).reference).toBe('NQ-1');
    expect((await supplyIn(ticketId)).dueOn).toBe('2026-11-27');
    expect(await waiting()).toEqual([]);
    await sendWaitingOrders(settings, true);
    expect(sent).toHaveLength(1);
  });

  it('repeats with the same key after every kind of failure, later each time, and loses nothing', async () => {
    const silent = new TypeError('network');
    const slow = new DOMException('slow', 'TimeoutError');
    supplier(silent, slow, new Response('', { status: 503 }), new Response('<html/>'), accepting());
    const { orderId } = await ordered();
    const waits: number[] = [];
    for (let attempt = 0; attempt < 4; attempt += 1) {
      await sendWaitingOrders(settings, true);
      const [entry] = await waiting();
      waits.push(Date.parse(entry?.nextAt ?? '') - Date.now());
    }
    expect((await orderOf(orderId)).failures.map(({ why, status }) => [why, status])).toEqual([
      ['down', null],
      ['timeout', null],
      ['down', 503],
      ['unreadable', 200],
    ]);
    expect(waits).toEqual([...waits].sort((a, b) => a - b));
    // Not due yet: nothing goes out by itself.
    await sendWaitingOrders(settings);
    expect(sent).toHaveLength(4);
    await sendWaitingOrders(settings, true);
    expect((await orderOf(orderId)).reference).toBe('NQ-1');
    expect(new Set(sent.map(({ key }) => key))).toEqual(new Set([orderId]));
    expect(new Set(sent.map(({ body }) => body)).size).toBe(1);
  });

  it('does not send again what the supplier refuses, and gives its parts back to the plan', async () => {
    supplier(new Response('This account is closed.', { status: 422 }), accepting());
    const { ticketId, orderId } = await ordered();
    await sendWaitingOrders(settings, true);
    expect(await orderOf(orderId)).toMatchObject({
      phase: 'done',
      refused: { status: 422, detail: 'This account is closed.' },
    });
    expect(await supplyIn(ticketId)).toMatchObject({ coming: 0, missing: 1 });
    await sendWaitingOrders(settings, true);
    expect(sent).toHaveLength(1);
  });

  it('gives a refused line back to the plan, with the reason in the history', async () => {
    supplier(accepting({ status: 'rejected', dueOn: null, note: 'We do not carry this number.' }));
    const { ticketId } = await ordered();
    await sendWaitingOrders(settings);
    const { state, events } = defined(await eventStore().ticket(ticketId), 'the ticket');
    expect(unordered(state)).toHaveLength(1);
    expect(events.some(({ data }) => data.type === 'part-order-cancelled' && (data.note ?? '').includes('carry'))).toBe(
      true,
    );
  });

  it('checks a line in on the order and on the ticket at once', async () => {
    supplier(accepting());
    const { ticketId, orderId } = await ordered();
    await sendWaitingOrders(settings);
    const lineId = (await orderOf(orderId)).lines[0]?.lineId ?? asId('none');
    const receipt = { lineId, numberRead: part.partNumber, verdict: 'as-ordered' as const, packs: 1, measured: [] };
    expect(
      (await checkIn(eventStore(), orderId, receipt, { restocking: 0, days: 14, today: asDay('2026-11-24') })).ok,
    ).toBe(true);
    expect((await orderOf(orderId)).phase).toBe('done');
    expect(awaited(await stateOf(ticketId))).toEqual([]);
  });

  it('is done by one tab at a time: two that look at once send once', async () => {
    supplier(accepting());
    await ordered();
    await Promise.all([sendWaitingOrders(settings, true), sendWaitingOrders(settings, true)]);
    expect(sent).toHaveLength(1);
  });
});

describe('cancelling an order', () => {
  it('that was never sent needs nobody', async () => {
    supplier(accepting());
    const { ticketId, orderId } = await ordered();
    expect((await cancelOrder(eventStore(), orderId)).ok).toBe(true);
    expect((await orderOf(orderId)).cancelled).toBe('not-sent');
    expect((await supplyIn(ticketId)).missing).toBe(1);
    await sendWaitingOrders(settings, true);
    expect(sent).toEqual([]);
  });

  it('that was tried asks the supplier first; until then its parts stay ordered', async () => {
    supplier(new TypeError('network'), new Response(null, { status: 204 }));
    const { ticketId, orderId } = await ordered();
    await sendWaitingOrders(settings, true);
    await cancelOrder(eventStore(), orderId);
    expect(await orderOf(orderId)).toMatchObject({ phase: 'unknown', cancelled: null, cancelAsked: true });
    expect((await supplyIn(ticketId)).missing).toBe(0);
    await sendWaitingOrders(settings, true);
    expect(sent.map(({ method }) => method)).toEqual(['POST', 'DELETE']);
    expect((await orderOf(orderId)).cancelled).toBe('void-at-supplier');
    expect((await supplyIn(ticketId)).missing).toBe(1);
  });

  it('that the supplier has after all stands', async () => {
    let ordered0 = '';
    supplier(
      (body) => {
        ordered0 = body;
        throw new TypeError('the answer was lost');
      },
      () => accepting()(ordered0),
    );
    const { ticketId, orderId } = await ordered();
    await sendWaitingOrders(settings, true);
    await cancelOrder(eventStore(), orderId);
    await sendWaitingOrders(settings, true);
    expect(await orderOf(orderId)).toMatchObject({ phase: 'open', cancelled: null, reference: 'NQ-1' });
    expect((await supplyIn(ticketId)).missing).toBe(0);
  });

  it('while it is being sent does not plan its part again when the supplier takes it', async () => {
    let cancelled: Promise<unknown> = Promise.resolve();
    const { ticketId, orderId } = await ordered();
    supplier(async (body) => {
      // The person cancels while the request is on its way.
      cancelled = cancelOrder(eventStore(), orderId);
      await cancelled;
      return accepting()(body);
    });
    await sendWaitingOrders(settings, true);
    await cancelled;
    expect(await orderOf(orderId)).toMatchObject({ phase: 'open', cancelled: null });
    expect((await supplyIn(ticketId)).missing).toBe(0);
  });

  it('that was answered is refused', async () => {
    supplier(accepting());
    const { orderId } = await ordered();
    await sendWaitingOrders(settings, true);
    expect(await cancelOrder(eventStore(), orderId)).toMatchObject({ ok: false, error: { kind: 'order-is-past' } });
  });
});
