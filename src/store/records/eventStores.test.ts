import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { memoryStore } from '../../../tests/support/memoryStore';
import type { OrderDraft } from '@/core/order';
import { noteAnswer, noteTrying } from '@/core/order';
import {
  chooseParts,
  note,
  offer,
  remark,
  settleCause,
  answerOffer,
  tickStep,
  type RequirementDraft,
  type TicketDecision,
} from '@/core/ticket';
import {
  defined,
  money,
  ok,
  asDay,
  asInstant,
  asId,
  type TicketId,
  type OrderId,
  type SupplierId,
  type CauseId,
  type MakerId,
  type PartId,
  type PlatformId,
  type RoleId,
  type ModelId,
  type LocalDate,
} from '@/core/units';
import { dexieStore } from './act';
import { onOrder, onTicket, openTicket, takeBack } from './acts';
import { checkIn, placeOrders, takeFromDonor } from './supplyActs';
import type { EventStore } from './door';

const STORES: [string, () => EventStore][] = [
  ['in memory', () => memoryStore(() => asInstant('2026-11-24T08:00:00.000Z'))],
  ['in the browser’s database', () => dexieStore(freshDatabase())],
];

const plate = note({
  type: 'plate-read',
  text: 'x',
  modelId: asId<ModelId>('m'),
  modelNumber: 'X',
  makerId: asId<MakerId>('k'),
  platformId: asId<PlatformId>('p'),
  badge: 'b',
  probability: 1,
  others: [],
  confirmed: true,
});
const pump: RequirementDraft = {
  roleId: asId<RoleId>('pump'),
  causeId: asId<CauseId>('c'),
  companion: false,
  position: 'any',
  route: 'maker',
  bought: { partId: asId<PartId>('p'), partNumber: 'P', description: 'Pump', quantity: 1, cost: money(100, 'EUR') },
  alternatives: [],
};
const option = {
  id: 'best-fit',
  kind: 'best-fit' as const,
  causeIds: [asId<CauseId>('c')],
  causeNames: ['c'],
  net: money(1, 'EUR'),
  tax: money(0, 'EUR'),
  gross: money(1, 'EUR'),
  handsOnMinutes: 1,
  readyOn: null,
  lines: [],
  parts: [pump],
};
const agreed: TicketDecision[] = [
  plate,
  settleCause({ causeId: asId<CauseId>('c'), name: 'c', needsPart: true }),
  chooseParts(asId('c'), [pump]),
  offer({ causeId: asId<CauseId>('c'), options: [option], fee: { gross: money(0, 'EUR'), waived: true }, worth: null }),
  answerOffer('yes', 'best-fit'),
];

/** One suite for every store of events: whatever keeps them, the same promises hold. */
describe.each(STORES)('events %s', (_, make) => {
  const opened = async (store: EventStore): Promise<TicketId> => {
    const done = await openTicket(store, []);
    return defined(done.ok ? done.value.tickets[0] : undefined, 'a new ticket');
  };
  const ticket = async (store: EventStore, id: TicketId) => defined(await store.ticket(id), 'the ticket');
  const agreedTicket = async (store: EventStore): Promise<TicketId> => {
    const id = await opened(store);
    for (const decision of agreed) expect((await onTicket(store, id, decision)).ok).toBe(true);
    return id;
  };
  /** A plan that buys what these tickets need, in one line. */
  const plan = async (store: EventStore, ids: readonly TicketId[]): Promise<OrderDraft[]> => {
    const wanted = await Promise.all(
      ids.map(async (ticketId) => {
        const { round } = (await ticket(store, ticketId)).state;
        return {
          ticketId,
          requirementId: round.parts[0]?.requirementId ?? asId('none'),
          partId: asId<PartId>('p'),
          units: 1,
          perPack: 1,
        };
      }),
    );
    return [
      {
        supplierId: asId<SupplierId>('s'),
        supplierName: 'S',
        modeId: 'm',
        modeName: 'M',
        byHand: false,
        goods: money(0, 'EUR'),
        shipping: money(0, 'EUR'),
        arrivesOn: asDay('2026-11-26'),
        parts: new Map(),
        lines: [
          {
            offerId: 'o',
            partId: asId<PartId>('p'),
            supplierNumber: 'S1',
            packs: ids.length,
            packPrice: money(100, 'EUR'),
            linePrice: money(100, 'EUR'),
            spare: 0,
            packSize: 1,
            contents: [{ partId: asId<PartId>('p'), perPack: 1 }],
            for: wanted,
          },
        ],
      },
    ];
  };
  const sent = async (store: EventStore, ids: readonly TicketId[]): Promise<OrderId> => {
    const made = await placeOrders(store, await plan(store, ids), 'UTC');
    const orderId = defined(made.ok ? made.value.orders[0] : undefined, 'an order');
    await onOrder(store, orderId, noteTrying);
    await onOrder(store, orderId, (order) =>
      noteAnswer(order, {
        reference: 'R',
        lines: order.lines.map(({ lineId, partId, partNumber, packPrice }) => ({
          lineId,
          status: 'accepted',
          partId,
          partNumber,
          packPrice,
          dueOn: null,
          note: null,
        })),
      }),
    );
    return orderId;
  };

  it('are numbered without a gap, and tickets count up', async () => {
    const store = make();
    const [a, b] = [await opened(store), await opened(store)];
    await onTicket(store, a, remark('x'));
    await onTicket(store, a, remark('y'));
    const { events, state } = await ticket(store, a);
    expect(events.map(({ sequence }) => sequence)).toEqual([1, 2, 3]);
    expect(state.notes.map(({ text }) => text)).toEqual(['x', 'y']);
    expect((await ticket(store, b)).state.number).toBe(2);
    expect(await store.ticket(asId('nobody'))).toBeNull();
  });

  it('that do not parse are refused whole, and nothing of the act is written', async () => {
    const store = make();
    const id = await opened(store);
    const long = await onTicket(
      store,
      id,
      note(
        { type: 'finding-noted', findingId: 'f', answer: 'yes', threeWords: 'f' },
        { type: 'serial-noted', serial: 'x'.repeat(81) },
      ),
    );
    expect(long).toMatchObject({ ok: false, error: { kind: 'does-not-fit', field: 'serial-noted serial', limit: 80 } });
    expect((await ticket(store, id)).events).toHaveLength(1);
    // What a caller without types may hand over.
    const noDay: { type: 'bought-on'; date: LocalDate } = JSON.parse('{"type":"bought-on","date":"2026-02-31"}');
    const nan = await onTicket(store, id, () => ok([noDay]));
    expect(nan).toMatchObject({ ok: false, error: { kind: 'does-not-fit', limit: null } });
  });

  it('of a decision that says no are none', async () => {
    const store = make();
    const id = await opened(store);
    expect(await onTicket(store, id, answerOffer('yes', 'best-fit'))).toMatchObject({
      ok: false,
      error: { kind: 'no-offer' },
    });
    expect(await onTicket(store, asId('nobody'), remark('x'))).toMatchObject({ ok: false, error: { kind: 'gone' } });
    expect((await ticket(store, id)).events).toHaveLength(1);
  });

  it('place a requirement once, whoever has the plan and however often', async () => {
    const store = make();
    const id = await agreedTicket(store);
    const stale = await plan(store, [id]);
    const both = await Promise.all([placeOrders(store, stale, 'UTC'), placeOrders(store, stale, 'UTC')]);
    expect(both.filter((done) => done.ok)).toHaveLength(1);
    expect(both.find((done) => !done.ok)).toMatchObject({
      error: { kind: 'plan-is-stale', tickets: [{ number: 1, why: 'ordered' }] },
    });
  });

  it('refuse a plan that rests on what has moved', async () => {
    const store = make();
    const id = await agreedTicket(store);
    const stale = await plan(store, [id]);
    await onTicket(store, id, note({ type: 'serial-noted', serial: 'S' }));
    expect(await placeOrders(store, stale, 'UTC')).toMatchObject({ error: { tickets: [{ why: 'shaken' }] } });
  });

  it('of one act are taken back together: the parcel on the order and on every ticket', async () => {
    const store = make();
    const [a, b] = [await agreedTicket(store), await agreedTicket(store)];
    const orderId = await sent(store, [a, b]);
    const order = defined(await store.order(orderId), 'the order').state;
    const receipt = { numberRead: 'P', verdict: 'as-ordered' as const, packs: 2, measured: [] };
    expect(
      (
        await checkIn(
          store,
          orderId,
          { ...receipt, lineId: order.lines[0]?.lineId ?? asId('none') },
          { restocking: 0, days: 14, today: asDay('2026-11-24') },
        )
      ).ok,
    ).toBe(true);
    expect(defined(await store.order(orderId), 'the order').state.phase).toBe('done');
    expect(await takeBack(store, a)).toMatchObject({ ok: true, value: { event: { data: { type: 'part-received' } } } });
    expect(defined(await store.order(orderId), 'the order').state.phase).toBe('open');
    for (const id of [a, b]) {
      const { deliveries } = (await ticket(store, id)).state;
      expect(Object.values(deliveries).flat()).toMatchObject([{ units: 1, here: 0 }]);
    }
  });

  it('stay where another machine went on with its part', async () => {
    const store = make();
    const [a, b] = [await agreedTicket(store), await agreedTicket(store)];
    const orderId = await sent(store, [a, b]);
    const order = defined(await store.order(orderId), 'the order').state;
    const receipt = { numberRead: 'P', verdict: 'as-ordered' as const, packs: 2, measured: [] };
    await checkIn(
      store,
      orderId,
      { ...receipt, lineId: order.lines[0]?.lineId ?? asId('none') },
      { restocking: 0, days: 14, today: asDay('2026-11-24') },
    );
    await onTicket(store, b, tickStep({ phase: 'strip', operationId: 's' }, 's', 0));
    expect(await takeBack(store, a)).toMatchObject({ ok: false, error: { kind: 'others-went-on', ticket: 2 } });
    expect(defined(await store.order(orderId), 'the order').state.phase).toBe('done');
  });

  it('of a donor’s part are taken back on both tickets, and the part can be taken again', async () => {
    const store = make();
    const donor = await opened(store);
    await onTicket(store, donor, () =>
      ok([
        {
          type: 'closed',
          outcome: 'declined',
          takenMinutes: null,
          listMinutes: null,
          rightFirstTime: null,
          keptAsDonor: true,
        },
      ]),
    );
    const id = await agreedTicket(store);
    const requirementId = (await ticket(store, id)).state.round.parts[0]?.requirementId ?? asId('none');
    expect((await takeFromDonor(store, id, donor, requirementId)).ok).toBe(true);
    expect((await ticket(store, donor)).state.donor?.taken).toHaveLength(1);
    expect(await takeFromDonor(store, id, donor, requirementId)).toMatchObject({ error: { kind: 'not-needed' } });
    expect((await takeBack(store, id)).ok).toBe(true);
    expect((await ticket(store, donor)).state.donor?.taken).toEqual([]);
    expect((await takeFromDonor(store, id, donor, requirementId)).ok).toBe(true);
  });

  it('that left the shop are not taken back', async () => {
    const store = make();
    const id = await agreedTicket(store);
    await placeOrders(store, await plan(store, [id]), 'UTC');
    expect(await takeBack(store, id)).toMatchObject({ error: { kind: 'nothing-to-take-back', leftTheShop: true } });
  });

  it('keep everything when many write at once', async () => {
    const store = make();
    const id = await opened(store);
    await Promise.all(Array.from({ length: 8 }, (_, index) => onTicket(store, id, remark(`note ${index}`))));
    const { state, events } = await ticket(store, id);
    expect(new Set(state.notes.map(({ text }) => text)).size).toBe(8);
    expect(events.map((event) => event.sequence)).toEqual(events.map((_, index) => index + 1));
    const ids = await Promise.all([opened(store), opened(store), opened(store)]);
    const numbers = await Promise.all(ids.map(async (each) => (await ticket(store, each)).state.number));
    expect([...numbers].sort()).toEqual([2, 3, 4]);
  });
});
