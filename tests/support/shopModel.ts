import fc from 'fast-check';
import type { OrderAnswer, OrderDraft, OrderState } from '@/core/order';
import { noteAnswer, noteSendFailed, noteTrying, noteVoid, answerByHand, noteSentByHand } from '@/core/order';
import {
  acceptedOption,
  answerOffer,
  cameBack,
  chooseParts,
  clearStep,
  closeTicket,
  finishBench,
  handOver,
  keep,
  mayBuy,
  note,
  noteProof,
  offer,
  repairDidNotHelp,
  rungOf,
  settleCause,
  standing,
  summarise,
  supplyOf,
  takeFromShelf,
  tellReady,
  tickStep,
  unordered,
  type Refusal,
  type Requirement,
  type RequirementDraft,
  type TicketDecision,
  type TicketState,
} from '@/core/ticket';
import { changeLot, idleHere, release, reserve, takeFromStock, type LotChange } from '@/core/stock';
import {
  money,
  sum,
  type Result,
  asDay,
  instantOf,
  liveEvents,
  asInstant,
  type RequirementId,
  type TicketId,
  asId,
  type OrderId,
  type StockId,
  defined,
  type CauseId,
} from '@/core/units';
import { onOrder, onTicket, openTicket, takeBack } from '@/store/records/acts';
import {
  cancelOrder,
  checkIn,
  onLot,
  onLotAndTicket,
  placeOrders,
  putInStock,
  shelvePart,
} from '@/store/records/supplyActs';
import type { Done, EventStore } from '@/store/records/door';

/*
 * A shop of two tickets and their orders, drawn at random: whatever is done in whatever order, the promises of docs/decisions/001 hold after every step. The
 * supplier has books of its own, so that what is bought twice shows there whatever the shop believes.
 */

const MODELS = ['m1', 'm2'] as const;
const CAUSES = ['pump', 'belt', 'clean'] as const;
type Cause = (typeof CAUSES)[number];

/** What a cause takes, by model: another model takes another number. */
const partOf = (cause: Cause, model: string, variant: number, price: number): RequirementDraft[] =>
  cause === 'clean'
    ? []
    : [
        {
          roleId: asId(cause),
          causeId: asId(cause),
          companion: false,
          position: 'any',
          route: 'maker',
          bought: {
            partId: asId(`${cause}-${model}-${variant}`),
            partNumber: `N ${cause} ${model} ${variant}`,
            description: cause,
            quantity: cause === 'belt' ? 2 : 1,
            cost: money(price, 'EUR'),
          },
          alternatives: [],
        },
      ];

const optionOf = (cause: Cause, parts: RequirementDraft[], price: number, kind: 'best-fit' | 'cheaper-part') => ({
  id: kind,
  kind,
  causeIds: [asId<CauseId>(cause)],
  causeNames: [cause],
  net: money(price, 'EUR'),
  tax: money(0, 'EUR'),
  gross: money(price, 'EUR'),
  handsOnMinutes: 30,
  readyOn: null,
  lines: [],
  parts,
});

/** The other side: what the supplier took, by key, whatever was heard of it. */
type Book = { key: OrderId; lines: { ticketId: TicketId; requirementId: RequirementId; units: number }[] };

export type Plan = { orders: OrderDraft[]; madeAt: number };

export type Shop = {
  store: EventStore;
  tickets: TicketId[];
  orders: OrderId[];
  lots: StockId[];
  book: Map<OrderId, Book>;
  voided: Set<OrderId>;
  plans: Plan[];
  steps: number;
  refusals: Refusal[];
  /** Broken promises that only show while something is done. */
  faults: string[];
};

export const CLOCK_START = Date.parse(asInstant('2026-11-24T08:00:00.000Z'));

export async function newShop(store: EventStore): Promise<Shop> {
  const shop: Shop = {
    store,
    tickets: [],
    orders: [],
    lots: [],
    book: new Map(),
    voided: new Set(),
    plans: [],
    steps: 0,
    refusals: [],
    faults: [],
  };
  for (let index = 0; index < 2; index += 1) {
    const opened = await openTicket(store, []);
    if (opened.ok) shop.tickets.push(...opened.value.tickets);
  }
  return shop;
}

const idOf = (shop: Shop, index: number) => defined(shop.tickets[index % shop.tickets.length], 'a ticket of the shop');
const orderAt = (shop: Shop, index: number) => shop.orders[index % Math.max(1, shop.orders.length)];

async function did(shop: Shop, act: Promise<Result<Done, Refusal>>): Promise<Done | null> {
  const done = await act;
  if (done.ok) return done.value;
  shop.refusals.push(done.error);
  return null;
}

const stateOf = async (shop: Shop, index: number): Promise<TicketState> => {
  const view = await shop.store.ticket(idOf(shop, index));
  if (!view) throw new Error('Bug: a ticket of the shop is gone');
  return view.state;
};

const plate = (model: string) =>
  note({
    type: 'plate-read',
    text: model,
    modelId: asId(model),
    modelNumber: model,
    makerId: asId('mk'),
    platformId: asId('p'),
    badge: 'b',
    probability: 1,
    others: [],
    confirmed: true,
  });

/** A plan over everything that may be bought now, one order per ticket or one for all. */
async function planOf(shop: Shop, together: boolean): Promise<OrderDraft[]> {
  const states = await Promise.all(shop.tickets.map((_, index) => stateOf(shop, index)));
  const lines = states
    .filter((state) => mayBuy(state).ok)
    .flatMap((state) =>
      unordered(state).map(({ requirement, supply }) => ({
        offerId: `o-${requirement.bought.partId}`,
        partId: requirement.bought.partId,
        supplierNumber: 'S',
        packs: supply.missing,
        packPrice: money(100, 'EUR'),
        linePrice: money(100 * supply.missing, 'EUR'),
        spare: 0,
        packSize: 1,
        contents: [{ partId: requirement.bought.partId, perPack: 1 }],
        for: [
          {
            ticketId: state.ticketId,
            requirementId: requirement.requirementId,
            partId: requirement.bought.partId,
            units: supply.missing,
            perPack: 1,
          },
        ],
      })),
    );
  const draft = (own: typeof lines, byHand: boolean): OrderDraft => ({
    supplierId: asId('s'),
    modeId: 'm',
    byHand,
    lines: own,
    goods: money(0, 'EUR'),
    shipping: money(0, 'EUR'),
    arrivesOn: asDay('2026-11-26'),
    supplierName: 'S',
    modeName: 'M',
    parts: new Map(),
  });
  if (lines.length === 0) return [];
  // Of single orders every other goes to a supplier without an interface.
  return together ? [draft(lines, false)] : lines.map((line, index) => draft([line], index % 2 === 0));
}

/** The supplier takes an order, or has taken it before, or was told to take nothing under this key. */
function supplierTakes(shop: Shop, order: OrderState): OrderAnswer | null {
  if (shop.voided.has(order.orderId)) return null;
  if (!shop.book.has(order.orderId))
    shop.book.set(order.orderId, {
      key: order.orderId,
      lines: order.lines.flatMap((line) =>
        line.for.map(({ ticketId, requirementId, units }) => ({ ticketId, requirementId, units })),
      ),
    });
  return {
    reference: `R-${order.number}`,
    lines: order.lines.map((line) => ({
      lineId: line.lineId,
      status: 'accepted',
      partId: line.partId,
      partNumber: line.partNumber,
      packPrice: line.packPrice,
      dueOn: asDay('2026-11-27'),
      note: null,
    })),
  };
}

async function send(shop: Shop, index: number, lost: boolean): Promise<void> {
  const orderId = orderAt(shop, index);
  if (orderId === undefined) return;
  if ((await shop.store.order(orderId))?.state.byHand) return sendByHand(shop, orderId, lost);
  if (!(await did(shop, onOrder(shop.store, orderId, noteTrying)))) return;
  const order = (await shop.store.order(orderId))?.state;
  const answer = order ? supplierTakes(shop, order) : null;
  const retryAt = instantOf(new Date(CLOCK_START));
  await did(
    shop,
    onOrder(shop.store, orderId, (now) =>
      lost || !answer ? noteSendFailed(now, { why: 'timeout', status: null }, retryAt) : noteAnswer(now, answer),
    ),
  );
}

/** A person sends it, and notes what they say, or nothing. */
async function sendByHand(shop: Shop, orderId: OrderId, silent: boolean): Promise<void> {
  await did(shop, onOrder(shop.store, orderId, noteSentByHand));
  const order = (await shop.store.order(orderId))?.state;
  if (!order || order.phase !== 'unknown') return;
  supplierTakes(shop, order);
  if (!silent)
    await did(
      shop,
      onOrder(shop.store, orderId, (now) => noteAnswer(now, answerByHand(now, 'R', []))),
    );
}

/** The answer comes once more, from wherever it hung. */
async function answerAgain(shop: Shop, index: number): Promise<void> {
  const orderId = orderAt(shop, index);
  const order = orderId === undefined ? null : (await shop.store.order(orderId))?.state;
  if (!order || !shop.book.has(order.orderId)) return;
  const answer = supplierTakes(shop, order);
  if (answer)
    await did(
      shop,
      onOrder(shop.store, order.orderId, (now) => noteAnswer(now, answer)),
    );
}

/** Cancelling is asked; then the supplier is, if it may have it. */
async function cancel(shop: Shop, index: number, whileSending: boolean): Promise<void> {
  const orderId = orderAt(shop, index);
  if (orderId === undefined) return;
  const order = (await shop.store.order(orderId))?.state;
  if (order?.byHand) {
    // Whoever cancels has told the supplier.
    if (await did(shop, cancelOrder(shop.store, orderId))) {
      shop.book.delete(orderId);
      shop.voided.add(orderId);
    }
    return;
  }
  // The request is on its way while the person cancels: the supplier takes it, the answer comes late or never.
  const sending = whileSending && order && (await did(shop, onOrder(shop.store, orderId, noteTrying))) !== null;
  await did(shop, cancelOrder(shop.store, orderId));
  if (sending && order) supplierTakes(shop, order);
  const now = (await shop.store.order(orderId))?.state;
  if (!now || now.phase !== 'unknown' || !now.cancelAsked) return;
  if (shop.book.has(orderId)) await answerAgain(shop, index);
  else {
    shop.voided.add(orderId);
    await did(shop, onOrder(shop.store, orderId, noteVoid));
  }
}

async function receive(shop: Shop, index: number, wrong: boolean, part: boolean): Promise<void> {
  const orderId = orderAt(shop, index);
  const order = orderId === undefined ? null : (await shop.store.order(orderId))?.state;
  const line = order?.lines.find(({ outstanding }) => outstanding > 0);
  if (!order || !line) return;
  await did(
    shop,
    checkIn(
      shop.store,
      order.orderId,
      {
        lineId: line.lineId,
        numberRead: line.partNumber,
        verdict: wrong ? 'wrong' : 'as-ordered',
        packs: part ? 1 : line.outstanding,
        measured: [],
      },
      { restocking: 0, days: 14, today: asDay('2026-11-24') },
    ),
  );
}

/** One thing that somebody does, by name and with what was drawn for it. */
export type Command =
  /** What the ladder says; most of a history is made of it, so that the strange things happen everywhere. */
  | { do: 'advance'; ticket: number; yes: boolean }
  | { do: 'read-plate'; ticket: number; model: number }
  | { do: 'serial'; ticket: number; serial: string }
  | { do: 'finding'; ticket: number; yes: boolean }
  | { do: 'settle'; ticket: number; cause: number }
  | { do: 'choose'; ticket: number; variant: number; price: number }
  | { do: 'keep'; ticket: number; what: 'part' | 'offer' }
  | { do: 'offer'; ticket: number; price: number }
  | { do: 'answer'; ticket: number; answer: 'yes' | 'no' | 'thinking'; cheaper: boolean }
  | { do: 'plan'; together: boolean }
  | { do: 'place'; stale: number; twice: boolean }
  | { do: 'send'; order: number; lost: boolean }
  | { do: 'answer-again'; order: number }
  | { do: 'cancel'; order: number; whileSending: boolean }
  | { do: 'receive'; order: number; wrong: boolean; part: boolean }
  | { do: 'shelf'; ticket: number }
  | { do: 'stock'; units: number; model: number }
  | { do: 'keep-piece'; lot: number; ticket: number; units: number }
  | { do: 'let-go'; lot: number; ticket: number }
  | { do: 'take-piece'; lot: number; ticket: number }
  | { do: 'put-on-shelf'; ticket: number }
  | { do: 'count'; lot: number; units: number }
  | { do: 'write-off'; lot: number; units: number }
  | { do: 'tick'; ticket: number; step: number; cures: boolean }
  | { do: 'untick'; ticket: number; step: number }
  | { do: 'finish'; ticket: number }
  | { do: 'prove'; ticket: number; passed: boolean }
  | { do: 'no-help'; ticket: number }
  | { do: 'tell'; ticket: number }
  | { do: 'hand-over'; ticket: number }
  | { do: 'close'; ticket: number }
  | { do: 'came-back'; ticket: number; same: boolean }
  | { do: 'take-back'; ticket: number };

const ticket = fc.nat({ max: 1 });
const order = fc.nat({ max: 5 });
const lot = fc.nat({ max: 5 });
const priced = fc.constantFrom(1000, 1500, 2300);
const weighted = (weight: number, arbitrary: fc.Arbitrary<Command>) => ({ weight, arbitrary });
const say = <T extends Command['do']>(name: T, rest: Record<string, fc.Arbitrary<unknown>>) =>
  fc.record({ do: fc.constant(name), ...rest }) as unknown as fc.Arbitrary<Command>;

export const commands = fc.oneof(
  weighted(40, say('advance', { ticket, yes: fc.boolean() })),
  weighted(2, say('read-plate', { ticket, model: fc.nat({ max: 1 }) })),
  weighted(1, say('serial', { ticket, serial: fc.constantFrom('A1', 'B2', 'C'.repeat(81)) })),
  weighted(1, say('finding', { ticket, yes: fc.boolean() })),
  weighted(3, say('settle', { ticket, cause: fc.nat({ max: 2 }) })),
  weighted(3, say('choose', { ticket, variant: fc.nat({ max: 1 }), price: priced })),
  weighted(2, say('keep', { ticket, what: fc.constantFrom('part', 'offer') })),
  weighted(3, say('offer', { ticket, price: priced })),
  weighted(
    4,
    say('answer', { ticket, answer: fc.constantFrom('yes', 'yes', 'yes', 'no', 'thinking'), cheaper: fc.boolean() }),
  ),
  weighted(3, say('plan', { together: fc.boolean() })),
  weighted(4, say('place', { stale: fc.nat({ max: 3 }), twice: fc.boolean() })),
  weighted(4, say('send', { order, lost: fc.boolean() })),
  weighted(1, say('answer-again', { order })),
  weighted(2, say('cancel', { order, whileSending: fc.boolean() })),
  weighted(4, say('receive', { order, wrong: fc.boolean(), part: fc.boolean() })),
  weighted(1, say('shelf', { ticket })),
  weighted(4, say('stock', { units: fc.integer({ min: 1, max: 3 }), model: fc.nat({ max: 1 }) })),
  weighted(5, say('keep-piece', { lot, ticket, units: fc.integer({ min: 1, max: 2 }) })),
  weighted(1, say('let-go', { lot, ticket })),
  weighted(4, say('take-piece', { lot, ticket })),
  weighted(1, say('put-on-shelf', { ticket })),
  weighted(1, say('count', { lot, units: fc.nat({ max: 3 }) })),
  weighted(1, say('write-off', { lot, units: fc.integer({ min: 1, max: 2 }) })),
  weighted(3, say('tick', { ticket, step: fc.nat({ max: 3 }), cures: fc.boolean() })),
  weighted(1, say('untick', { ticket, step: fc.nat({ max: 3 }) })),
  weighted(3, say('finish', { ticket })),
  weighted(3, say('prove', { ticket, passed: fc.boolean() })),
  weighted(1, say('no-help', { ticket })),
  weighted(2, say('tell', { ticket })),
  weighted(2, say('hand-over', { ticket })),
  weighted(2, say('close', { ticket })),
  weighted(1, say('came-back', { ticket, same: fc.boolean() })),
  weighted(3, say('take-back', { ticket })),
);

/** After a repair that did not help nothing of it stands: no yes, no part decided, no tick but of what is off and was not put back. */
async function didNotHelp(shop: Shop, index: number): Promise<void> {
  const { round, closed } = await stateOf(shop, index);
  if (!round.cause) return;
  await did(shop, onTicket(shop.store, idOf(shop, index), repairDidNotHelp(round.cause.causeId)));
  const after = (await stateOf(shop, index)).round;
  const stillOff = new Set(
    round.finished ? [] : round.ticks.flatMap(({ step }) => (step.phase === 'strip' ? step.operationId : [])),
  );
  for (const { step } of round.ticks) if (step.phase === 'refit') stillOff.delete(step.operationId);
  const ticked = after.ticks.map(({ step }) => `${step.phase} ${step.operationId}`).sort();
  const isAsItStands =
    ticked.join() ===
    [...stillOff]
      .map((id) => `strip ${id}`)
      .sort()
      .join();
  if (!closed && (after.answer || after.offer || !isAsItStands || after.parts.length))
    shop.faults.push('the yes, the parts or the ticks of a repair that did not help are still there');
}

/** What leads on from where a ticket stands. */
async function onTheLadder(shop: Shop, at: number, yes: boolean): Promise<Command[]> {
  const orders = Array.from({ length: shop.orders.length }, (_, index) => index);
  switch (rungOf(await stateOf(shop, at))) {
    case 'read-plate':
    case 'tell-kind':
      return [{ do: 'read-plate', ticket: at, model: at }];
    case 'note-findings':
      return [{ do: 'finding', ticket: at, yes: true }];
    case 'find-cause':
      return [{ do: 'settle', ticket: at, cause: yes ? 0 : 1 }];
    case 'choose-part':
      return [{ do: 'choose', ticket: at, variant: 0, price: 1000 }];
    case 'part-again':
      return [yes ? { do: 'keep', ticket: at, what: 'part' } : { do: 'choose', ticket: at, variant: 1, price: 1000 }];
    case 'offer':
      return [{ do: 'offer', ticket: at, price: 1000 }];
    case 'offer-again':
      return yes ? [{ do: 'keep', ticket: at, what: 'offer' }] : [{ do: 'offer', ticket: at, price: 1500 }];
    case 'ring-customer':
      return [{ do: 'answer', ticket: at, answer: 'yes', cheaper: !yes }];
    case 'order':
      if (!yes && shop.lots.length)
        return [
          { do: 'keep-piece', lot: shop.lots.length - 1, ticket: at, units: 1 },
          { do: 'take-piece', lot: shop.lots.length - 1, ticket: at },
        ];
      return [
        { do: 'plan', together: yes },
        { do: 'place', stale: 0, twice: false },
      ];
    case 'take-part':
      return [{ do: 'shelf', ticket: at }];
    case 'fetch-part':
      // Where fewer were counted than are kept, one lets go of it.
      return shop.lots.flatMap((_, lot): Command[] => [
        { do: 'take-piece', lot, ticket: at },
        { do: 'let-go', lot, ticket: at },
      ]);
    case 'await-parts':
      return orders.flatMap((order): Command[] => [
        { do: 'send', order, lost: false },
        { do: 'receive', order, wrong: false, part: !yes },
      ]);
    case 'get-parts':
    case 'work':
      return [
        { do: 'tick', ticket: at, step: 0, cures: false },
        { do: 'finish', ticket: at },
      ];
    case 'wait-cure':
      return [];
    case 'prove':
      return [{ do: 'prove', ticket: at, passed: true }];
    case 'tell-ready':
      return [{ do: 'tell', ticket: at }];
    case 'hand-over':
      return [{ do: 'hand-over', ticket: at }];
    case 'close':
      return [{ do: 'close', ticket: at }];
    case 'none':
      return yes ? [] : [{ do: 'came-back', ticket: at, same: true }];
  }
}

const causeAt = (index: number): Cause => CAUSES[index % CAUSES.length] ?? 'pump';

export async function run(shop: Shop, command: Command): Promise<void> {
  shop.steps += 1;
  const on = async (index: number, decide: (state: TicketState) => TicketDecision | null) => {
    const decision = decide(await stateOf(shop, index));
    if (decision) await did(shop, onTicket(shop.store, idOf(shop, index), decision));
  };
  switch (command.do) {
    case 'advance':
      for (const next of await onTheLadder(shop, command.ticket, command.yes)) await run(shop, next);
      return;
    case 'read-plate':
      return on(command.ticket, () => plate(MODELS[command.model % 2] ?? 'm1'));
    case 'serial':
      return on(command.ticket, () => note({ type: 'serial-noted', serial: command.serial }));
    case 'finding':
      return on(command.ticket, () =>
        note({ type: 'finding-noted', findingId: 'f', answer: command.yes ? 'yes' : 'no', threeWords: 'f' }),
      );
    case 'settle':
      return on(command.ticket, () => {
        const cause = causeAt(command.cause);
        return settleCause({ causeId: asId(cause), name: cause, needsPart: cause !== 'clean' });
      });
    case 'choose':
      return on(command.ticket, ({ plate: read, round }) => {
        const cause = CAUSES.find((id) => asId(id) === round.cause?.causeId);
        return read && cause
          ? chooseParts(asId(cause), partOf(cause, read.modelId, command.variant, command.price))
          : null;
      });
    case 'keep':
      return on(command.ticket, () => keep(command.what));
    case 'offer':
      return on(command.ticket, ({ plate: read, round }) => {
        const cause = CAUSES.find((id) => asId(id) === round.cause?.causeId);
        if (!read || !cause) return null;
        const chosen = round.partsOn
          ? round.parts.map(({ requirementId: _id, ...draft }) => draft)
          : partOf(cause, read.modelId, 0, command.price);
        return offer({
          causeId: asId(cause),
          fee: { gross: money(0, 'EUR'), waived: true },
          worth: null,
          options: [
            optionOf(cause, chosen, command.price * 2, 'best-fit'),
            optionOf(cause, partOf(cause, read.modelId, 7, 500), command.price, 'cheaper-part'),
          ],
        });
      });
    case 'answer':
      return on(command.ticket, () => answerOffer(command.answer, command.cheaper ? 'cheaper-part' : 'best-fit'));
    case 'plan': {
      const orders = await planOf(shop, command.together);
      if (orders.length) shop.plans = [{ orders, madeAt: shop.steps }, ...shop.plans].slice(0, 4);
      return;
    }
    case 'place': {
      const plan = shop.plans[command.stale % Math.max(1, shop.plans.length)];
      if (!plan) return;
      // A second tab, or a second click, has the same plan.
      const tries = command.twice ? 2 : 1;
      const may = new Map(
        await Promise.all(shop.tickets.map(async (id, index) => [id, mayBuy(await stateOf(shop, index)).ok] as const)),
      );
      const made = await Promise.all(
        Array.from({ length: tries }, () => did(shop, placeOrders(shop.store, plan.orders, 'UTC'))),
      );
      const bought = plan.orders.flatMap(({ lines }) => lines.flatMap((line) => line.for));
      if (made.some(Boolean) && bought.some(({ ticketId }) => !may.get(ticketId)))
        shop.faults.push('an order was built on a yes that does not stand');
      for (const done of made) shop.orders.push(...(done?.orders ?? []));
      return;
    }
    case 'send':
      return send(shop, command.order, command.lost);
    case 'answer-again':
      return answerAgain(shop, command.order);
    case 'cancel':
      return cancel(shop, command.order, command.whileSending);
    case 'receive':
      return receive(shop, command.order, command.wrong, command.part);
    case 'shelf':
      return on(command.ticket, (state) => {
        const [need] = unordered(state);
        return need ? takeFromShelf(need.requirement.requirementId) : null;
      });
    case 'stock': {
      const done = await did(
        shop,
        putInStock(shop.store, [
          {
            partId: asId(`pump-${MODELS[command.model]}-0`),
            partNumber: 'N',
            description: '',
            place: '',
            units: command.units,
            unitCost: money(700, 'EUR'),
            used: false,
            origin: { kind: 'by-hand' },
          },
        ]),
      );
      if (done) shop.lots.push(...done.stocks);
      return;
    }
    case 'keep-piece':
    case 'let-go':
    case 'take-piece':
      return atTheShelf(shop, command);
    case 'put-on-shelf': {
      const [idle] = idleHere(await stateOf(shop, command.ticket));
      const id = idOf(shop, command.ticket);
      const done = idle && (await did(shop, shelvePart(shop.store, id, idle.requirement.requirementId, 'EUR')));
      if (done) shop.lots.push(...done.stocks.filter((stockId) => !shop.lots.includes(stockId)));
      return;
    }
    case 'count':
      return changed(shop, command.lot, { type: 'counted', units: command.units });
    case 'write-off':
      return changed(shop, command.lot, { type: 'written-off', units: command.units, why: 'broken' });
    case 'tick':
      return on(command.ticket, () =>
        tickStep({ phase: 'strip', operationId: `s${command.step}` }, 's', command.cures ? 2 : 0),
      );
    case 'untick':
      return on(command.ticket, () => clearStep({ phase: 'strip', operationId: `s${command.step}` }, 's'));
    case 'finish':
      return on(command.ticket, () => finishBench(['s0'], ['run', 'leak']));
    case 'prove':
      return on(command.ticket, ({ round }) => {
        const open = ['run', 'leak'].find((id) => !round.proofs.some((proof) => proof.proofId === id && proof.passed));
        return noteProof(open ?? 'run', 'p', command.passed);
      });
    case 'no-help':
      return didNotHelp(shop, command.ticket);
    case 'tell':
      return on(command.ticket, () => tellReady());
    case 'hand-over':
      return on(command.ticket, () => handOver(''));
    case 'close':
      return on(command.ticket, ({ round }) =>
        round.handedOverAt
          ? closeTicket({
              outcome: round.answer?.answer === 'no' ? 'declined' : 'repaired',
              takenMinutes: 30,
              listMinutes: 30,
              rightFirstTime: null,
            })
          : null,
      );
    case 'came-back':
      return on(command.ticket, () => cameBack(command.same));
    case 'take-back': {
      const taken = await takeBack(shop.store, idOf(shop, command.ticket));
      if (!taken.ok) shop.refusals.push(taken.error);
    }
  }
}

const lotAt = (shop: Shop, index: number) => shop.lots[index % Math.max(1, shop.lots.length)];

/** A piece kept, let go of or taken: of the first part that the ticket has, or had. */
async function atTheShelf(
  shop: Shop,
  command: Extract<Command, { do: 'keep-piece' | 'let-go' | 'take-piece' }>,
): Promise<void> {
  const stockId = lotAt(shop, command.lot);
  const { round } = await stateOf(shop, command.ticket);
  const requirement = round.parts[0] ?? round.dropped[0];
  if (!stockId || !requirement) return;
  const { requirementId } = requirement;
  await did(
    shop,
    onLotAndTicket(shop.store, stockId, idOf(shop, command.ticket), (lot, ticket) =>
      command.do === 'keep-piece'
        ? reserve(lot, ticket, requirementId, command.units)
        : command.do === 'let-go'
          ? release(lot, ticket, requirementId)
          : takeFromStock(lot, ticket, requirementId),
    ),
  );
}

async function changed(shop: Shop, index: number, change: LotChange): Promise<void> {
  const stockId = lotAt(shop, index);
  if (stockId)
    await did(
      shop,
      onLot(shop.store, stockId, (lot) => changeLot(lot, change)),
    );
}

/** Lots against a second count of their own events, and against what the tickets say they have of them. */
async function shelfDiffers(shop: Shop, states: readonly TicketState[]): Promise<string[]> {
  const broken: string[] = [];
  for (const stockId of shop.lots) {
    const view = await shop.store.stock(stockId);
    if (!view) continue;
    const { state: lot, events } = view;
    let pieces = 0;
    for (const { data } of liveEvents(events)) {
      if (data.type === 'stocked' || data.type === 'put-back') pieces += data.units;
      if (data.type === 'taken' || data.type === 'written-off') pieces -= data.units;
      if (data.type === 'counted') pieces = data.units;
      if (pieces < 0) broken.push('less than nothing lay on the shelf');
    }
    if (pieces !== lot.units) broken.push('a lot is not the sum of its movements');
    const kept = sum(lot.reserved.map(({ units }) => units));
    const wasCounted = events.some(({ data }) => data.type === 'counted');
    if (lot.free < 0 || (!wasCounted && lot.free + kept !== lot.units))
      broken.push('kept and free are not what is there');
    const own = states.flatMap(({ deliveries }) =>
      Object.values(deliveries).flatMap((list) =>
        list.filter(({ from }) => from.kind === 'shelf' && from.stockId === stockId),
      ),
    );
    const taken = -sum(lot.movements.filter(({ number }) => number !== null).map(({ units }) => units));
    if (sum(own.map(({ here }) => here)) !== taken)
      broken.push('tickets have another number of pieces than the lot gave');
    if (sum(own.map(({ units, here }) => units - here)) !== kept)
      broken.push('tickets count on another number of pieces than are kept for them');
  }
  return broken;
}

/** What must hold after every step; a broken promise is named. */
export async function brokenPromises(shop: Shop): Promise<string[]> {
  const broken: string[] = [...shop.faults];
  const states = await Promise.all(shop.tickets.map((_, index) => stateOf(shop, index)));
  for (const state of states) {
    const { round } = state;
    const accepted = acceptedOption(round);
    const stand = standing(state);
    if (
      accepted &&
      round.cause &&
      !accepted.causeIds.includes(round.cause.causeId) &&
      stand.answer === 'stands' &&
      !round.finished
    )
      broken.push('the accepted price is of another cause than the one decided');
    if (round.answer && round.answer.offerId !== round.offer?.offerId)
      broken.push('the answer is to another offer than the one made');
    for (const requirement of round.parts) {
      const supply = supplyOf(state.deliveries, requirement);
      const isOrdered = supply.deliveries.length > 0;
      const fits = state.plate === null || requirement.bought.partId.includes(`-${state.plate.modelId}-`);
      if (isOrdered && !fits && !round.finished && stand.part === 'stands' && !wasKept(state))
        broken.push('an ordered part does not fit the plate as it stands, and is not shaken');
      if (supply.here + supply.coming > requirement.bought.quantity) broken.push('a requirement is bought twice');
      if (again(state, requirement)) broken.push('what is on the way is ordered again under another name');
      if (supply.missing < 0 || supply.here < 0 || supply.coming < 0) broken.push('less than nothing is supplied');
    }
    if (rungOf(state) !== summarise(state).rung) broken.push('floor and sheet name different rungs');
    if (rungOf(state) === 'order' && !mayBuy(state).ok) broken.push('the ladder orders what the door refuses');
    if (stand.shaken.length && ['order', 'take-part', 'fetch-part', 'work', 'wait-cure'].includes(rungOf(state)))
      broken.push('something is built on what is shaken');
  }
  broken.push(...(await booksDiffer(shop, states)), ...(await shelfDiffers(shop, states)));
  return broken;
}

/** The same number as one that was dropped and is still on the way, as another requirement. */
const again = ({ round, deliveries }: TicketState, { requirementId, roleId, bought }: Requirement): boolean =>
  round.dropped.some(
    (other) =>
      other.requirementId !== requirementId &&
      other.roleId === roleId &&
      other.bought.partId === bought.partId &&
      supplyOf(deliveries, other).coming > 0,
  );

/** A plate read again and the part kept: the person has looked. */
const wasKept = (state: TicketState): boolean => state.round.partsOn?.on.modelId === (state.plate?.modelId ?? null);

/** The supplier's books against the shop's: nothing taken that the shop believes cancelled, nothing taken twice. */
async function booksDiffer(shop: Shop, states: readonly TicketState[]): Promise<string[]> {
  const broken: string[] = [];
  const taken = new Map<string, number>();
  for (const { key, lines } of shop.book.values()) {
    const order = (await shop.store.order(key))?.state;
    const answers = (await shop.store.order(key))?.events.filter(({ data }) => data.type === 'answered') ?? [];
    // What a person noted may be noted otherwise.
    if (answers.length > 1 && !order?.byHand) broken.push('one order is answered twice');
    if (!order) broken.push('the supplier has an order that the shop does not know');
    if (order?.cancelled) broken.push('the shop counts as cancelled what the supplier has taken');
    for (const line of order?.lines ?? [])
      for (const { requirementId } of line.for) {
        const back = sum(line.received.filter(({ verdict }) => verdict === 'wrong').map(({ packs }) => packs));
        const bought = sum(lines.filter((entry) => entry.requirementId === requirementId).map(({ units }) => units));
        taken.set(requirementId, (taken.get(requirementId) ?? 0) + bought - back);
      }
  }
  for (const state of states)
    for (const { requirementId, bought } of state.round.parts)
      if ((taken.get(requirementId) ?? 0) > bought.quantity)
        broken.push('the supplier’s books hold a requirement twice');
  return broken;
}

/** Something leads on from here: what comes is on its way, or the rung has an act of its own. */
export async function leadsOn(shop: Shop, index: number): Promise<boolean> {
  const state = await stateOf(shop, index);
  const rung = rungOf(state);
  if (rung === 'await-parts') {
    const keys = Object.values(state.deliveries)
      .flat()
      .flatMap(({ from }) => (from.kind === 'order' ? [from.orderId] : []));
    const orders = await Promise.all(keys.map((key) => shop.store.order(key)));
    return orders.some((order) => order !== null && order.state.phase !== 'done');
  }
  if (rung === 'wait-cure' || rung === 'none') return true;
  return (await onTheLadder(shop, index, true)).length > 0;
}
