import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { demoCatalogue, demoSettings } from '../../../tests/support/demo';
import { readUblOrder, writeUblOrderResponse, type OrderAnswer, type PurchasePlan } from '@/core/order';
import { awaited, unordered, type TicketEventData } from '@/core/ticket';
import { defined, money } from '@/core/units';
import { database } from '../database';
import { loadOrder, loadTicket, openTicket, record } from '../records/events';
import { cancelOrder, makeOrders, receiveLine, sendOutbox } from './orders';

const catalogue = demoCatalogue();
const settings = demoSettings();
const offer = defined(
  catalogue.offers.find((entry) => entry.supplierId === 'northquay' && entry.stock > 2),
  'an offer',
);
const part = defined(
  catalogue.parts.find((entry) => entry.id === offer.partId),
  'its part',
);

/** A ticket that needs the part, and a plan that buys it. */
async function needing(): Promise<{ ticketId: string; plan: PurchasePlan }> {
  const chosen: TicketEventData = {
    type: 'parts-chosen',
    causeId: 'c',
    parts: [
      {
        requirementId: 'pump any',
        roleId: part.roleId,
        causeId: 'c',
        companion: false,
        position: 'any',
        route: 'maker',
        buy: [
          { partId: part.id, partNumber: part.partNumber, description: part.description, quantity: 1, unitPrice: null },
        ],
        alternatives: [],
      },
    ],
  };
  const ticketId = await openTicket(chosen);
  const line = {
    offerId: offer.id,
    partId: part.id,
    supplierNumber: offer.supplierNumber,
    packs: 1,
    unitPrice: offer.price,
    price: offer.price,
    for: [{ ticketId, requirementId: 'pump any', partId: part.id, units: 1 }],
    spare: 0,
  };
  const zero = money(0, 'EUR');
  return {
    ticketId,
    plan: {
      orders: [
        {
          supplierId: 'northquay',
          modeId: 'nq-day',
          lines: [line],
          goods: offer.price,
          shipping: money(690, 'EUR'),
          arrivesOn: '2026-11-26',
        },
      ],
      tickets: [],
      cannotBuy: [],
      goods: offer.price,
      shipping: money(690, 'EUR'),
      adaptation: zero,
      lateness: zero,
      total: zero,
      provenGap: 0,
    },
  };
}

type Sent = { key: string; body: string };
const sent: Sent[] = [];

/** A supplier at the other end of fetch: what it answers to each request in turn; the last one repeats. */
function supplier(...answers: (Response | Error | ((body: string) => Response))[]): void {
  sent.length = 0;
  let at = 0;
  vi.stubGlobal('fetch', async (_url: string, init: RequestInit) => {
    const body = String(init.body);
    sent.push({ key: new Headers(init.headers).get('idempotency-key') ?? '', body });
    const answer = answers[Math.min(at, answers.length - 1)];
    at += 1;
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
      offerId: line.id,
      status: 'accepted',
      partId: line.partId,
      partNumber: line.partNumber,
      unitPrice: line.unitPrice,
      dueOn: '2026-11-27',
      note: null,
      ...change,
    }));
    return new Response(writeUblOrderResponse({ reference: 'NQ-1', lines }, order.value.number, '2026-11-24'));
  };

const stateOf = async (ticketId: string) => defined(await loadTicket(ticketId), 'the ticket').state;

beforeEach(async () => {
  // One tab at a time is the browser's business: here there is one.
  vi.stubGlobal('navigator', { locks: { request: (_name: string, work: () => unknown) => work() } });
  await Promise.all(database().tables.map((table) => table.clear()));
});

describe('sending orders', () => {
  it('makes order, ticket and outbox together, and sends nothing yet', async () => {
    supplier(accepting());
    const { ticketId, plan } = await needing();
    const [orderId = ''] = await makeOrders(plan, catalogue, settings);
    expect(sent).toEqual([]);
    expect((await loadOrder(orderId))?.phase).toBe('to-send');
    expect(await database().outbox.count()).toBe(1);
    const state = await stateOf(ticketId);
    expect(unordered(state)).toEqual([]);
    expect(state.progress['pump any']).toMatchObject({ orderId, dueOn: '2026-11-26' });
  });

  it('takes the answer’s date to the ticket and empties the outbox', async () => {
    supplier(accepting());
    const { ticketId, plan } = await needing();
    const [orderId = ''] = await makeOrders(plan, catalogue, settings);
    await sendOutbox(settings);
    expect((await loadOrder(orderId))?.reference).toBe('NQ-1');
    expect((await stateOf(ticketId)).progress['pump any']?.dueOn).toBe('2026-11-27');
    expect(await database().outbox.count()).toBe(0);
    await sendOutbox(settings, true);
    expect(sent).toHaveLength(1);
  });

  it('repeats with the same key after every kind of failure, later each time, and loses nothing', async () => {
    const silent = new TypeError('network');
    const slow = new DOMException('slow', 'TimeoutError');
    supplier(silent, slow, new Response('', { status: 503 }), new Response('<html/>'), accepting());
    const { plan } = await needing();
    const [orderId = ''] = await makeOrders(plan, catalogue, settings);
    const waits: number[] = [];
    for (let attempt = 0; attempt < 4; attempt += 1) {
      await sendOutbox(settings, true);
      const entry = await database().outbox.get(orderId);
      waits.push(Date.parse(entry?.nextAt ?? '') - Date.now());
    }
    expect((await loadOrder(orderId))?.failures.map((failure) => failure.why)).toEqual([
      'down',
      'timeout',
      'down',
      'unreadable',
    ]);
    expect(waits).toEqual([...waits].sort((a, b) => a - b));
    // Not due yet: nothing goes out by itself.
    await sendOutbox(settings);
    expect(sent).toHaveLength(4);
    await sendOutbox(settings, true);
    expect((await loadOrder(orderId))?.reference).toBe('NQ-1');
    expect(new Set(sent.map(({ key }) => key))).toEqual(new Set([orderId]));
    expect(new Set(sent.map(({ body }) => body)).size).toBe(1);
  });

  it('gives a refused line back to the plan, with the reason in the history', async () => {
    supplier(accepting({ status: 'rejected', dueOn: null, note: 'We do not carry this number.' }));
    const { ticketId, plan } = await needing();
    await makeOrders(plan, catalogue, settings);
    await sendOutbox(settings);
    const loaded = defined(await loadTicket(ticketId), 'the ticket');
    expect(unordered(loaded.state)).toHaveLength(1);
    expect(
      loaded.events.some((event) => event.data.type === 'part-order-cancelled' && event.data.why.includes('carry')),
    ).toBe(true);
  });

  it('cancels only what no supplier has answered', async () => {
    supplier(new TypeError('network'), accepting());
    const { ticketId, plan } = await needing();
    const [orderId = ''] = await makeOrders(plan, catalogue, settings);
    await sendOutbox(settings, true);
    await cancelOrder(orderId, 'cancelled here');
    expect((await loadOrder(orderId))?.cancelled).toBe(true);
    expect(unordered(await stateOf(ticketId))).toHaveLength(1);
    await sendOutbox(settings, true);
    expect(sent).toHaveLength(1);

    const again = await needing();
    const [second = ''] = await makeOrders(again.plan, catalogue, settings);
    await sendOutbox(settings, true);
    await cancelOrder(second, 'too late');
    expect((await loadOrder(second))?.cancelled).toBe(false);
  });

  it('checks a line in on the order and on the ticket at once', async () => {
    supplier(accepting());
    const { ticketId, plan } = await needing();
    const [orderId = ''] = await makeOrders(plan, catalogue, settings);
    await sendOutbox(settings);
    const order = defined(await loadOrder(orderId), 'the order');
    await receiveLine(order, { offerId: offer.id, numberRead: part.partNumber, verdict: 'as-ordered' });
    expect((await loadOrder(orderId))?.phase).toBe('done');
    expect(awaited(await stateOf(ticketId))).toEqual([]);
  });
});

describe('tickets', () => {
  it('get the next number in the transaction that makes them, also two at once', async () => {
    const ids = await Promise.all([openTicket(), openTicket(), openTicket()]);
    const numbers = await Promise.all(ids.map(async (id) => (await stateOf(id)).number));
    expect([...numbers].sort()).toEqual([1, 2, 3]);
  });

  it('keep everything when two writers write at once', async () => {
    const ticketId = await openTicket();
    await Promise.all(
      Array.from({ length: 8 }, (_, at) => record(ticketId, { type: 'note-added', text: `note ${at}` })),
    );
    const { state, events } = defined(await loadTicket(ticketId), 'the ticket');
    expect(state.notes).toHaveLength(8);
    expect(events.map((event) => event.sequence)).toEqual(events.map((_, at) => at + 1));
  });
});
