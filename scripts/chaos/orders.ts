import 'fake-indexeddb/auto';
import { readUblOrder, writeUblOrderResponse } from '@/core/order/documents';
import type { OrderAnswer, OrderDraft } from '@/core/order';
import { defaultSettings } from '@/core/case';
import { answerOffer, chooseParts, offer, settleCause, unordered, type RequirementDraft } from '@/core/ticket';
import {
  addDays,
  asDay,
  asId,
  defined,
  instantOf,
  localDateOf,
  money,
  seededRandom,
  type CauseId,
  type OrderId,
  type TicketId,
} from '@/core/units';
import { database } from '@/store/database';
import { dexieStore } from '@/store/records/act';
import { onTicket, openTicket } from '@/store/records/acts';
import { cancelOrder, placeOrders } from '@/store/records/supplyActs';
import { sendWaitingOrders } from '@/store/outbox/sending';
import { likeABrowser } from './node';
import { below, oneOf, type Random } from './spoil';

/** What a supplier does with an order that it takes, or does not. A lie is one that must not be taken without a word. */
const HONEST = ['accept', 'accept', 'accept', 'substitute', 'reject', 'back-order'] as const;
const FAULTS = ['down', 'lost-answer', 'nonsense', 'empty', 'busy', 'throws'] as const;
const LIES = [
  'currency',
  'negative',
  'hundredfold',
  'due-nonsense',
  'due-1999',
  'other-order',
  'foreign-lines',
  'both',
  'no-packs',
  'other-number',
  'line-missing',
  'status',
  'no-content',
] as const;
type Mood = (typeof HONEST)[number] | (typeof FAULTS)[number] | (typeof LIES)[number];
const isLie = (mood: Mood): boolean => LIES.some((lie) => lie === mood);

export type OrderFigures = {
  orders: number;
  /** Requests that came to nothing, or to a lie. */
  faulty: number;
  lies: number;
  /** Taken by the supplier more often than once for what a ticket needs. */
  twice: string[];
  /** Neither with the supplier nor in the plan again. */
  lost: string[];
  /** Lies that were taken without a word to the person. */
  believed: string[];
  crashed: string[];
};

type Book = { key: string; requirements: string[] };

/** A supplier that takes each key once, and answers as its mood is. */
class LyingSupplier {
  readonly book = new Map<string, Book>();
  private readonly voided = new Set<string>();
  readonly lied = new Map<string, Set<Mood>>();
  private readonly random: Random;
  private readonly chance: number;
  /** In the end every supplier tells the truth. */
  honest = false;
  faulty = 0;
  constructor(random: Random, chance: number) {
    this.random = random;
    this.chance = chance;
  }

  readonly answer = async (_url: unknown, init: RequestInit): Promise<Response> => {
    const { random } = this;
    const key = new Headers(init.headers).get('idempotency-key') ?? '';
    let mood: Mood = this.honest
      ? 'accept'
      : random() < this.chance
        ? oneOf<Mood>(random, random() < 0.5 ? FAULTS : LIES)
        : oneOf<Mood>(random, HONEST);
    if (isLie(mood) || FAULTS.some((fault) => fault === mood)) this.faulty += 1;
    if (mood === 'down') return new Response('', { status: 503 });
    if (mood === 'busy') return new Response('', { status: 429 });
    if (mood === 'throws') throw new TypeError('failed to fetch');
    if (init.method === 'DELETE') {
      const known = this.book.get(key);
      if (!known) {
        this.voided.add(key);
        return new Response(null, { status: 204 });
      }
      return new Response('<html/>', { status: this.honest ? 500 : 200 });
    }
    const order = readUblOrder(String(init.body ?? ''));
    if (!order.ok) return new Response('bad', { status: 422 });
    if (this.voided.has(key)) return new Response('', { status: 410 });
    // What was taken stays taken, whatever was heard of it.
    if (mood === 'reject' && this.book.has(key)) mood = 'accept';
    this.book.set(key, { key, requirements: order.value.lines.map(({ partNumber }) => partNumber) });
    if (mood === 'lost-answer') return new Response('', { status: 502 });
    if (mood === 'nonsense') return new Response('<html>Welcome</html>');
    if (mood === 'empty') return new Response('');
    if (mood === 'no-content') return new Response(null, { status: 204 });
    if (isLie(mood)) this.lied.set(key, (this.lied.get(key) ?? new Set()).add(mood));
    const today = localDateOf(instantOf(new Date()), 'UTC');
    let lines = order.value.lines.map((line): OrderAnswer['lines'][number] => ({
      lineId: line.id,
      status:
        mood === 'substitute'
          ? 'substituted'
          : mood === 'back-order'
            ? 'back-ordered'
            : mood === 'reject'
              ? 'rejected'
              : 'accepted',
      partId: line.partId,
      partNumber: mood === 'substitute' ? `${line.partNumber} B` : line.partNumber,
      packPrice: line.packPrice,
      dueOn: addDays(today, 2),
      note: null,
    }));
    if (mood === 'reject') this.book.delete(key);
    const [first] = lines;
    if (!first) return new Response('bad', { status: 422 });
    if (mood === 'currency')
      lines = lines.map((line) => ({ ...line, packPrice: money(line.packPrice.amountMinor, 'USD') }));
    if (mood === 'negative') lines[0] = { ...first, packPrice: money(-first.packPrice.amountMinor, 'EUR') };
    if (mood === 'hundredfold') lines[0] = { ...first, packPrice: money(first.packPrice.amountMinor * 100, 'EUR') };
    if (mood === 'due-1999') lines[0] = { ...first, dueOn: asDay('1999-01-01') };
    if (mood === 'foreign-lines') lines = [{ ...first, lineId: asId('not-yours') }];
    if (mood === 'both') lines.push({ ...first, status: 'rejected' });
    if (mood === 'other-number') lines[0] = { ...first, partNumber: 'ZZ 1' };
    if (mood === 'line-missing') lines.pop();
    const reference = `R-${below(random, 1e6)}`;
    let text = writeUblOrderResponse(
      { reference, lines },
      mood === 'other-order' ? 'SOMETHING-1' : order.value.number,
      today,
    );
    if (mood === 'due-nonsense') text = text.replace(/<cbc:EndDate>[^<]*/, '<cbc:EndDate>2026-13-45');
    if (mood === 'no-packs')
      text = text.replace(/<cbc:LineStatusCode>/, '<cbc:Quantity>0</cbc:Quantity><cbc:LineStatusCode>');
    if (mood === 'status') text = text.replace(/<cbc:LineStatusCode>[^<]*/, '<cbc:LineStatusCode>99');
    return new Response(text);
  };
}

/** A ticket whose customer said yes to one part of its own number, so that the supplier's book can tell whose it is. */
async function agreedTicket(index: number): Promise<{ ticketId: TicketId; number: string }> {
  const store = dexieStore(database());
  const number = `P ${index}`;
  const requirement: RequirementDraft = {
    roleId: asId('pump'),
    causeId: asId<CauseId>('c'),
    companion: false,
    position: 'any',
    route: 'maker',
    bought: { partId: asId(`p ${index}`), partNumber: number, description: 'pump', quantity: 1, cost: null },
    alternatives: [],
  };
  const zero = money(0, 'EUR');
  const option = {
    id: 'best-fit',
    kind: 'best-fit' as const,
    causeIds: [asId<CauseId>('c')],
    causeNames: ['c'],
    net: zero,
    tax: zero,
    gross: zero,
    handsOnMinutes: 0,
    readyOn: null,
    lines: [],
    parts: [requirement],
  };
  const opened = await openTicket(store, []);
  const ticketId = defined(opened.ok ? opened.value.tickets[0] : undefined, 'a ticket');
  for (const decision of [
    settleCause({ causeId: asId<CauseId>('c'), name: 'c', needsPart: true }),
    chooseParts(asId('c'), [requirement]),
    offer({ causeId: asId<CauseId>('c'), options: [option], fee: { gross: zero, waived: true }, worth: null }),
    answerOffer('yes', 'best-fit'),
  ])
    await onTicket(store, ticketId, decision);
  return { ticketId, number };
}

/** Orders whatever tickets still need, a few to an order. */
async function orderAll(tickets: readonly TicketId[]): Promise<OrderId[]> {
  const store = dexieStore(database());
  const lines: OrderDraft['lines'] = [];
  const parts = new Map<string, { partNumber: string; description: string }>();
  for (const ticketId of tickets) {
    const view = await store.ticket(ticketId);
    for (const { requirement } of view ? unordered(view.state) : []) {
      const { requirementId, bought } = requirement;
      const price = money(1000 + lines.length, 'EUR');
      lines.push({
        offerId: asId(`o ${bought.partNumber}`),
        partId: bought.partId,
        supplierNumber: bought.partNumber,
        packs: 1,
        packPrice: price,
        linePrice: price,
        for: [{ ticketId, requirementId, partId: bought.partId, units: 1, perPack: 1 }],
        spare: 0,
        packSize: 1,
        contents: [{ partId: bought.partId, perPack: 1 }],
      });
      parts.set(bought.partId, { partNumber: bought.partNumber, description: 'pump' });
    }
  }
  if (lines.length === 0) return [];
  const made = await placeOrders(
    store,
    [
      {
        supplierId: asId('s'),
        supplierName: 'S',
        modeId: 'm',
        modeName: 'M',
        byHand: false,
        lines,
        goods: money(0, 'EUR'),
        shipping: money(500, 'EUR'),
        arrivesOn: addDays(localDateOf(instantOf(new Date()), 'UTC'), 2),
        parts,
      },
    ],
    'UTC',
  );
  return made.ok ? made.value.orders : [];
}

/** Orders under faults and lies, sent until every supplier has told the truth. `chance`: of a fault or a lie, each time. */
export async function ordersUnderLies(seed: number, count: number, chance = 0.6): Promise<OrderFigures> {
  likeABrowser();
  const random = seededRandom(seed);
  const result: OrderFigures = { orders: 0, faulty: 0, lies: 0, twice: [], lost: [], believed: [], crashed: [] };
  const db = database();
  const settings = { ...defaultSettings(), zone: 'UTC' };
  let index = 0;
  while (result.orders < count) {
    await Promise.all(db.tables.map((table) => table.clear()));
    const supplier = new LyingSupplier(random, chance);
    const stubbed = globalThis.fetch;
    globalThis.fetch = supplier.answer as typeof fetch;
    try {
      const tickets: { ticketId: TicketId; number: string }[] = [];
      for (let made = 0; made < 4; made += 1) tickets.push(await agreedTicket((index += 1)));
      const orders: OrderId[] = [];
      const told = new Set<OrderId>();
      for (let turn = 0; turn < 7; turn += 1) {
        if (turn >= 5) supplier.honest = true;
        const wanted = tickets.filter(() => random() < 0.5 || turn >= 5).map(({ ticketId }) => ticketId);
        orders.push(...(await orderAll(wanted)));
        if (random() < 0.15 && orders.length) await cancelOrder(dexieStore(db), oneOf(random, orders));
        await Promise.all([
          sendWaitingOrders(settings, true, (order) => told.add(order.orderId)),
          ...(random() < 0.5 ? [sendWaitingOrders(settings, true, (order) => told.add(order.orderId))] : []),
        ]);
      }
      result.orders += orders.length;
      result.faulty += supplier.faulty;
      for (const orderId of orders) {
        const state = (await dexieStore(db).order(orderId))?.state;
        const lies = supplier.lied.get(orderId);
        if (!state) continue;
        result.lies += lies?.size ?? 0;
        // Of each order that was lied about the person was told, or it was refused and asked for again.
        if (lies && !told.has(orderId)) result.believed.push(`${orderId}: ${[...lies].join(', ')}`);
        for (const line of state.lines)
          if (
            line.answeredPrice.currency !== 'EUR' ||
            line.answeredPrice.amountMinor < 0 ||
            line.answeredPrice.amountMinor > 10_000
          )
            result.believed.push(`${orderId}: a price of ${JSON.stringify(line.answeredPrice)}`);
      }
      const bought = [...supplier.book.values()].flatMap(({ requirements }) => requirements);
      for (const { ticketId, number } of tickets) {
        const times = bought.filter((entry) => entry === number).length;
        const view = defined((await dexieStore(db).ticket(ticketId)) ?? undefined, 'the ticket');
        if (times > 1) result.twice.push(`${seed} ${number}: ${times} times`);
        if (times === 0 && unordered(view.state).length === 0) {
          const open = await Promise.all(orders.map(async (id) => (await dexieStore(db).order(id))?.state));
          const waits = open.some(
            (state) => state && state.phase === 'unknown' && state.lines.some((line) => line.partNumber === number),
          );
          if (!waits) result.lost.push(`${seed} ${number}`);
        }
      }
    } catch (error) {
      result.crashed.push(
        `${seed} ${index}: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`,
      );
      result.orders += 1;
    } finally {
      globalThis.fetch = stubbed;
    }
  }
  return result;
}
