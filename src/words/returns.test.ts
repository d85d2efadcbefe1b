import { describe, expect, it } from 'vitest';
import { applyOrderEvents, type OrderState, type ReturnState } from '@/core/order';
import { asDay, asId, defined, groupBy, money } from '@/core/units';
import { demoOrders } from '../../tests/support/demo';
import { parcelLetter } from './returns';

const [events = []] = groupBy(demoOrders(), ({ stream }) => stream).values();
const order: OrderState = defined(applyOrderEvents(events) ?? undefined, 'an order of the demo');
const sendBy = asDay('2026-12-03');
const goingBack = (amountMinor: number, currency: string): { order: OrderState; one: ReturnState } => ({
  order,
  one: {
    returnId: asId(`r-${amountMinor}-${currency}`),
    lineId: defined(order.lines[0], 'a line').lineId,
    packs: 1,
    why: 'damaged',
    note: '',
    refund: money(amountMinor, currency),
    sendBy,
    stand: 'open',
    reference: '',
    settled: null,
  },
});

describe('the paper of a parcel', () => {
  it('adds up what is due back currency by currency', () => {
    const { supplierId, supplierName } = order;
    const due = (...returns: ReturnType<typeof goingBack>[]) =>
      /Please credit (.*), net/.exec(
        parcelLetter(
          { supplierId, supplierName, sendBy, returns },
          { shopName: 'Our shop', address: '', phone: '', zone: 'UTC' },
        ).body,
      )?.[1];
    expect(due(goingBack(1050, 'EUR'), goingBack(250, 'EUR'))).toBe('13.00\u00a0€');
    expect(due(goingBack(1050, 'EUR'), goingBack(700, 'USD'), goingBack(250, 'EUR'))).toBe(
      '13.00\u00a0€ and 7.00\u00a0$',
    );
  });
});
