import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../tests/support/demo';
import { DEMO_DAY } from '../../tests/support/demoDay';
import { fillWithDemo, startWorker } from '../../tests/support/worker';
import { checkIn } from '@/core/order';
import { applyEvents, unordered } from '@/core/ticket';
import {
  addMoney,
  defined,
  zeroMoney,
  asInstant,
  asId,
  type OrderId,
  type PartId,
  type LineId,
  type SupplierId,
} from '@/core/units';
import type { SorterDatabase } from '@/store';
import type { OrdersApi, PlannedPurchases } from './orders.worker';

const settings = demoSettings();
const catalogue = demoCatalogue();
const now = asInstant(`${DEMO_DAY}T09:00:00.000Z`);
const needing = [...demoTickets().values()]
  .map((stream) => applyEvents(stream))
  .filter((state) => !state.closed && state.round.answer?.answer === 'yes' && unordered(state).length > 0);

describe('one plan over all open machines', () => {
  let api: OrdersApi;
  let db: SorterDatabase;
  let planned: PlannedPurchases;
  beforeAll(async () => {
    ({ api, db } = await startWorker<OrdersApi>(() => import('./orders.worker')));
  });

  it('is none without a catalogue', async () => {
    expect(await api.plan(now)).toBeNull();
    expect(await api.checkIn(asId('o'), asId('l'), 'N', now)).toBeNull();
    expect(await api.sizes(asId('p'), [])).toEqual({ properties: [], listed: {}, old: {} });
  });

  it('takes every machine whose customer said yes and whose parts are not ordered, and no other', async () => {
    await fillWithDemo(db);
    planned = defined(await api.plan(now), 'a plan');
    expect(needing.length).toBeGreaterThan(0);
    expect(planned.tickets.map(({ number }) => number).sort()).toEqual(needing.map(({ number }) => number).sort());
    for (const { number, machine } of planned.tickets)
      expect(machine).toContain(needing.find((state) => state.number === number)?.plate?.modelNumber);
  });

  it('buys what each needs, once, or says that it cannot be bought', () => {
    const missing = new Set(planned.plan.cannotBuy.map(({ requirementId }) => requirementId));
    for (const state of needing)
      for (const { requirement, supply } of unordered(state)) {
        if (missing.has(requirement.requirementId)) continue;
        const units = planned.plan.orders
          .flatMap((order) => order.lines.flatMap((line) => line.for))
          .filter((use) => use.ticketId === state.ticketId && use.requirementId === requirement.requirementId)
          .reduce((sum, use) => sum + use.units, 0);
        expect(units, `${state.number} ${requirement.requirementId}`).toBe(supply.missing);
      }
  });

  it('adds up, from offers that the catalogue has, and never buys more than is there', () => {
    const zero = zeroMoney(settings.currency);
    const { orders, goods, shipping } = planned.plan;
    expect(planned.orders.map(({ lines }) => lines)).toEqual(orders.map(({ lines }) => lines));
    for (const { supplierName, modeName } of planned.orders) expect(supplierName && modeName).toBeTruthy();
    for (const order of orders) {
      expect(order.lines.reduce((sum, line) => addMoney(sum, line.linePrice), zero)).toEqual(order.goods);
      for (const line of order.lines) {
        const offer = defined(
          catalogue.offers.find(({ id }) => id === line.offerId),
          'the offer',
        );
        expect(offer.supplierId).toBe(order.supplierId);
        expect(line.linePrice.amountMinor).toBe(offer.packPrice.amountMinor * line.packs);
        const used = line.for.reduce((sum, { units }) => sum + units, 0);
        expect(used + line.spare).toBe(line.packs * offer.packQuantity);
      }
    }
    expect(orders.reduce((sum, order) => addMoney(sum, order.goods), zero)).toEqual(goods);
    expect(orders.reduce((sum, order) => addMoney(sum, order.shipping), zero)).toEqual(shipping);
  });

  it('judges what arrives as over the whole catalogue, with what to keep of the old part', async () => {
    const { eventStore } = await import('@/store');
    const { ok } = await import('@/core/units');
    const successors = catalogue.relations.filter(({ kind }) => kind === 'superseded-by').slice(0, 12);
    expect(successors.length).toBeGreaterThan(3);
    const partOf = (id: PartId) =>
      defined(
        catalogue.parts.find((part) => part.id === id),
        'a part',
      );
    for (const { fromPartId, toPartId } of successors) {
      const [from, to] = [partOf(fromPartId), partOf(toPartId)];
      const line = {
        lineId: asId<LineId>('l'),
        partId: from.id,
        partNumber: from.partNumber,
        description: '',
        supplierNumber: 'S',
        packs: 1,
        packPrice: zeroMoney('EUR'),
        for: [],
      };
      const made = await eventStore().act({}, (_, { newId }) =>
        ok([
          {
            kind: 'order',
            orderId: newId<OrderId>(),
            data: [
              {
                type: 'order-made',
                number: 'HW',
                supplierId: asId<SupplierId>('s'),
                supplierName: 'S',
                modeId: 'm',
                modeName: 'M',
                lines: [line],
                shipping: zeroMoney('EUR'),
                expectedOn: DEMO_DAY,
              },
            ],
          },
        ]),
      );
      const orderId = defined(made.ok ? made.value.orders[0] : undefined, 'an order');
      for (const read of [from.partNumber, to.partNumber, 'ZZ-99-ZZ']) {
        const found = defined(await api.checkIn(orderId, asId('l'), read, now), 'a verdict');
        expect(found).toMatchObject(checkIn(catalogue, from.id, from.partNumber, read));
        expect(found.carryOver).toEqual(catalogue.roles.find(({ id }) => id === from.roleId)?.carryOver ?? []);
      }
    }
  });

  it('knows what to measure on what arrives, and what its number should have there', async () => {
    const measured = new Set(catalogue.part_properties.map(({ partId }) => partId));
    const part = defined(
      catalogue.parts.find(({ id }) => measured.has(id)),
      'a part with sizes',
    );
    const { properties, listed, old } = await api.sizes(part.id, []);
    expect(old).toEqual({});
    expect(properties).toEqual(catalogue.role_properties.filter(({ roleId }) => roleId === part.roleId));
    expect(listed).toEqual(
      Object.fromEntries(
        catalogue.part_properties
          .filter(({ partId }) => partId === part.id)
          .map(({ property, value }) => [property, value]),
      ),
    );
    expect(await api.sizes(asId('nothing'), [])).toEqual({ properties: [], listed: {}, old: {} });
    // What the caliper said about the old part goes with the machine that it came out of.
    const { eventStore, onTicket } = await import('@/store');
    const { note } = await import('@/core/ticket');
    const [state] = needing;
    const ticketId = defined(state, 'a ticket').ticketId;
    const size = { roleId: part.roleId, property: 'p', label: 'P', value: '20.5' };
    await onTicket(eventStore(), ticketId, note({ type: 'part-measured', ...size }));
    expect((await api.sizes(part.id, [ticketId])).old).toEqual({ p: '20.5' });
  });
});
