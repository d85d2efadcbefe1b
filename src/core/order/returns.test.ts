import { describe, expect, it } from 'vitest';
import {
  addDays,
  asDay,
  asId,
  asInstant,
  defined,
  money,
  type Branded,
  type LineId,
  type PartId,
  type RequirementId,
  type SupplierId,
  type TicketId,
} from '../units';
import {
  applyOrderEvents,
  checkInLine,
  compareInvoice,
  goingBackOf,
  hasOpenReturns,
  mayReturn,
  mayUndo,
  noteInvoice,
  noteParcelSent,
  noteReturnSent,
  noteShort,
  returnParcels,
  sendBack,
  settleReturn,
  spareOf,
  type Append,
  type Decision,
  type HeardInvoice,
  type OrderEvent,
  type OrderEventData,
  type OrderState,
} from '.';
import { readUblDespatchAdvice, readUblInvoice, writeUblDespatchAdvice, writeUblInvoice } from './documents';

const TODAY = asDay('2026-11-24');
const terms = { restocking: 0.15, days: 14, today: TODAY };
let given = 0;
const context = {
  at: asInstant('2026-11-24T08:00:00.000Z'),
  newId: <Id extends Branded<string>>() => asId<Id>(`id-${(given += 1)}`),
};
const wait = (ticket: string, units: number) => ({
  ticketId: asId<TicketId>(ticket),
  requirementId: asId<RequirementId>(`r-${ticket}`),
  partId: asId<PartId>('p1'),
  units,
  perPack: 1,
});
const line = asId<LineId>('l1');

/** An order of three pumps for two machines, answered; and what was done to it since. */
class Story {
  events: OrderEvent[] = [];
  tickets: Extract<Append, { kind: 'ticket' }>[] = [];
  stock: Extract<Append, { kind: 'stock' }>[] = [];
  constructor() {
    this.add({
      type: 'order-made',
      number: 'HW-7',
      supplierId: asId<SupplierId>('s'),
      supplierName: 'Northquay',
      modeId: 'm',
      modeName: 'day',
      shipping: money(690, 'EUR'),
      expectedOn: TODAY,
      lines: [
        {
          lineId: line,
          partId: asId<PartId>('p1'),
          partNumber: 'FJ-1',
          description: 'Pump',
          supplierNumber: 'N-1',
          packs: 3,
          packPrice: money(2000, 'EUR'),
          packSize: 1,
          for: [wait('a', 1), wait('b', 2)],
        },
      ],
    });
    this.add({ type: 'send-tried', attempt: 1 });
    this.add({
      type: 'answered',
      answer: {
        reference: 'R',
        lines: [
          {
            lineId: line,
            status: 'accepted',
            partId: asId('p1'),
            partNumber: 'FJ-1',
            packPrice: money(2000, 'EUR'),
            dueOn: TODAY,
            note: null,
          },
        ],
      },
    });
  }
  private add(data: OrderEventData) {
    const sequence = this.events.length + 1;
    this.events.push({
      id: asId(`e${sequence}`),
      stream: 'order:o',
      sequence,
      version: 2,
      at: context.at,
      groupId: 'g',
      data,
    });
  }
  get order(): OrderState {
    return defined(applyOrderEvents(this.events), 'an order');
  }
  do(decide: (order: OrderState) => Decision): this {
    const decision = decide(this.order);
    if (!decision.ok) throw new Error(decision.error.kind);
    for (const append of decision.value) {
      if (append.kind === 'order') for (const data of append.data) this.add(data);
      else if (append.kind === 'ticket') this.tickets.push(append);
      else this.stock.push(append);
    }
    return this;
  }
  /** The order's line is of kits that are opened for these parts. */
  opens(waiting: ReturnType<typeof wait>[], contents: NonNullable<OrderState['lines'][number]['contents']>): this {
    this.events = this.events.map((event) =>
      event.data.type === 'order-made'
        ? {
            ...event,
            data: {
              ...event.data,
              lines: event.data.lines.map((one) => ({ ...one, for: waiting, contents })),
            },
          }
        : event,
    );
    return this;
  }
  came(verdict: 'as-ordered' | 'wrong' | 'damaged', packs: number, extra?: { packs: number; to: 'return' | 'shelf' }) {
    return this.do((order) =>
      checkInLine(
        order,
        { lineId: line, numberRead: 'FJ-1', verdict, packs, measured: [], ...(extra ? { extra } : {}) },
        context,
        terms,
      ),
    );
  }
}

describe('what comes otherwise than it was ordered', () => {
  it('damaged or wrong: the tickets need it again, and it goes back whole with a day and what is due', () => {
    const story = new Story().came('damaged', 2);
    expect(story.order).toMatchObject({ phase: 'open', lines: [{ outstanding: 1 }] });
    expect(story.order.returns).toMatchObject([
      { why: 'damaged', packs: 2, stand: 'open', sendBy: addDays(TODAY, 14), refund: money(4000, 'EUR') },
    ]);
    expect(story.tickets.flatMap(({ data }) => data)).toMatchObject([
      { type: 'part-received', verdict: 'wrong', units: 1 },
      { type: 'part-received', verdict: 'wrong', units: 1 },
    ]);
    expect(story.stock).toEqual([]);
  });

  it('too many: on the shelf at what one cost, or back for nothing', () => {
    const kept = new Story().came('as-ordered', 3, { packs: 2, to: 'shelf' });
    expect(kept.stock.flatMap(({ data }) => data)).toMatchObject([
      { type: 'stocked', units: 2, unitCost: money(2000, 'EUR'), origin: { kind: 'order', orderNumber: 'HW-7' } },
    ]);
    const back = new Story().came('as-ordered', 3, { packs: 1, to: 'return' });
    expect(back.order.returns).toMatchObject([{ why: 'too-many', packs: 1 }]);
    // What was ordered is all here, and may go back still.
    expect(mayReturn(back.order, defined(back.order.lines[0], 'its line'))).toBe(3);
  });

  it('an opened kit: what no ticket gets goes on the shelf by its own number, each at its share of the price', () => {
    const kit = { ...wait('a', 1), partId: asId<PartId>('seal') };
    const contents = ['seal', 'bearing', 'clip'].map((name, index) => ({
      partId: asId<PartId>(name),
      partNumber: name.toUpperCase(),
      description: name,
      perPack: index + 1,
    }));
    const story = new Story().opens([kit], contents).came('as-ordered', 1);
    const stocked = story.stock.flatMap(({ data }) => data);
    expect(stocked).toMatchObject([
      { type: 'stocked', partNumber: 'BEARING', units: 2, unitCost: money(333, 'EUR') },
      { type: 'stocked', partNumber: 'CLIP', units: 3, unitCost: money(333, 'EUR') },
    ]);
    story.came('as-ordered', 2);
    const line = defined(story.order.lines[0], 'the line');
    // All that came, less what the ticket took; in one go or bit by bit.
    expect(spareOf(line, 0, 3)).toMatchObject([{ units: 2 }, { units: 6 }, { units: 9 }]);
    expect(
      story.stock.flatMap(({ data }) => data).reduce((sum, one) => sum + ('units' in one ? one.units : 0), 0),
    ).toBe(17);
  });

  it('short: what is here stays, the rest is needed again, and nothing more is waited for', () => {
    const story = new Story().came('as-ordered', 1).do((order) => noteShort(order, line));
    expect(story.order).toMatchObject({ phase: 'done', lines: [{ outstanding: 0, short: 2 }] });
    expect(story.tickets.flatMap(({ data }) => data).slice(1)).toMatchObject([
      { type: 'part-order-cancelled', why: 'short' },
      { type: 'part-order-cancelled', why: 'short' },
    ]);
    expect(noteShort(story.order, line)).toMatchObject({ ok: false });
  });

  it('a good part that goes back costs the restocking, one that failed does not; never more than came', () => {
    const story = new Story().came('as-ordered', 3);
    const draft = { lineId: line, packs: 1, note: '' };
    story.do((order) => sendBack(order, { ...draft, why: 'not-needed' }, terms, context));
    story.do((order) => sendBack(order, { ...draft, why: 'failed' }, terms, context));
    expect(story.order.returns.map(({ refund }) => refund.amountMinor)).toEqual([1700, 2000]);
    expect(sendBack(story.order, { ...draft, packs: 2, why: 'failed' }, terms, context)).toMatchObject({ ok: false });
  });

  it('what goes to one supplier goes in one parcel, by the first of its days, or not at all', () => {
    const [one, other] = [new Story().came('wrong', 1), new Story().came('as-ordered', 3)];
    other.do((order) =>
      sendBack(order, { lineId: line, packs: 1, note: '', why: 'not-needed' }, { ...terms, days: 3 }, context),
    );
    other.do((order) => sendBack(order, { lineId: line, packs: 1, note: '', why: 'failed' }, terms, context));
    const second = { ...other.order, orderId: asId<OrderState['orderId']>('second') };
    expect(returnParcels([one.order])).toEqual([]);
    const [parcel] = returnParcels([one.order, second]);
    // What failed is claimed first: it is no part of the parcel.
    expect(parcel).toMatchObject({ supplierName: 'Northquay', sendBy: addDays(TODAY, 3), returns: [{}, {}] });
    const returns = defined(parcel, 'a parcel').returns.map(({ order, one }) => ({
      orderId: order.orderId,
      returnId: one.returnId,
    }));
    const orders = new Map([one.order, second].map((order) => [order.orderId, order]));
    expect(noteParcelSent(orders, returns, 'P-1')).toMatchObject({
      ok: true,
      value: returns.map(({ orderId, returnId }) => ({
        orderId,
        data: [{ type: 'return-sent', returnId, reference: 'P-1' }],
      })),
    });
    const [first] = returns;
    one.do((order) => noteReturnSent(order, defined(first, 'a return').returnId, 'P-0'));
    expect(noteParcelSent(new Map(orders).set(one.order.orderId, one.order), returns, 'P-1').ok).toBe(false);
  });

  it('a return is open until the supplier did something about it, once', () => {
    const story = new Story().came('wrong', 3);
    const { returnId } = defined(story.order.returns[0], 'a return');
    expect(hasOpenReturns(story.order)).toBe(true);
    expect(goingBackOf([story.order])).toMatchObject([{ returnId, number: 'HW-7' }]);
    expect(mayUndo(story.events, 'g')).toBe(true);
    story.do((order) => noteReturnSent(order, returnId, 'P-9'));
    expect(goingBackOf([story.order])).toEqual([]);
    // What has left the shop is not taken back with the check-in that found it; other acts are.
    expect(mayUndo(story.events, 'g')).toBe(false);
    expect(mayUndo(story.events, 'another')).toBe(true);
    story.do((order) => settleReturn(order, returnId, 'credited', money(6000, 'EUR')));
    expect(hasOpenReturns(story.order)).toBe(false);
    expect(settleReturn(story.order, returnId, 'refused', money(0, 'EUR'))).toMatchObject({ ok: false });
  });
});

const invoice = (change: Partial<HeardInvoice> = {}): HeardInvoice => ({
  number: 'INV-1',
  orderNumber: 'HW-7',
  total: money(6690, 'EUR'),
  shipping: money(690, 'EUR'),
  lines: [{ lineId: line, supplierNumber: 'N-1', name: 'Pump', packs: 3, packPrice: money(2000, 'EUR') }],
  ...change,
});

describe('an invoice against what was ordered and received', () => {
  it('is as agreed where it is', () => {
    expect(compareInvoice(new Story().came('as-ordered', 3).order, invoice())).toEqual([]);
  });

  it('charges what went back, a price that was not agreed, a line that nobody ordered, more shipping, a wrong sum', () => {
    const story = new Story().came('as-ordered', 2).came('damaged', 1);
    const [own] = invoice().lines;
    const charged = invoice({
      shipping: money(990, 'EUR'),
      total: money(9999, 'EUR'),
      lines: [
        { ...defined(own, 'its line'), packPrice: money(2100, 'EUR') },
        { lineId: 'other', supplierNumber: 'X', name: 'Belt', packs: 1, packPrice: money(500, 'EUR') },
      ],
    });
    expect(compareInvoice(story.order, charged).map(({ kind, amount }) => [kind, amount.amountMinor])).toEqual([
      ['more-than-kept', 2100],
      ['price', 300],
      ['not-ordered', 500],
      ['shipping', 300],
      ['sum', 9999 - 6300 - 500 - 990],
    ]);
  });

  it('is noted once', () => {
    const story = new Story().came('as-ordered', 3).do((order) => noteInvoice(order, invoice()));
    expect(story.order.invoices).toMatchObject([{ number: 'INV-1', differences: [] }]);
    expect(noteInvoice(story.order, invoice())).toMatchObject({ ok: false });
  });
});

describe('papers of a parcel', () => {
  const parties = { supplier: 'Northquay', buyer: 'Hafen & Sohn' };

  it('a despatch advice and an invoice are read as they were written', () => {
    const advice = {
      number: 'D-1',
      orderNumber: 'HW-7',
      lines: [{ lineId: line, partNumber: 'FJ-1', supplierNumber: 'N-1', packs: 2 }],
    };
    expect(readUblDespatchAdvice(writeUblDespatchAdvice(advice, TODAY, parties))).toEqual({ ok: true, value: advice });
    expect(readUblInvoice(writeUblInvoice(invoice(), TODAY, 'EUR', parties))).toEqual({ ok: true, value: invoice() });
  });

  it('are read with other prefixes, more fields and without what is optional', () => {
    const foreign = `<?xml version="1.0"?><n:DespatchAdvice xmlns:n="urn:oasis:names:specification:ubl:schema:xsd:DespatchAdvice-2"
      xmlns:a="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:b="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
      <b:ID>LS 88</b:ID><b:IssueDate>2026-11-24</b:IssueDate><b:Note>left at the gate</b:Note>
      <a:OrderReference><b:ID>HW-7</b:ID></a:OrderReference>
      <a:DespatchLine><b:ID>1</b:ID><b:DeliveredQuantity unitCode="C62">1</b:DeliveredQuantity><a:OrderLineReference><b:LineID>l1</b:LineID></a:OrderLineReference><a:Item><b:Name>Pump</b:Name></a:Item></a:DespatchLine>
      <a:DespatchLine><b:ID>2</b:ID><b:DeliveredQuantity unitCode="C62">4</b:DeliveredQuantity><a:Item><a:SellersItemIdentification><b:ID>N-2</b:ID></a:SellersItemIdentification></a:Item></a:DespatchLine>
    </n:DespatchAdvice>`;
    expect(readUblDespatchAdvice(foreign)).toEqual({
      ok: true,
      value: {
        number: 'LS 88',
        orderNumber: 'HW-7',
        lines: [
          { lineId: 'l1', partNumber: '', supplierNumber: '', packs: 1 },
          { lineId: '', partNumber: '', supplierNumber: 'N-2', packs: 4 },
        ],
      },
    });
  });

  it('say what they lack, and one is not taken for the other', () => {
    expect(readUblInvoice('what?')).toMatchObject({ ok: false, error: { kind: 'not-xml' } });
    expect(
      readUblInvoice(writeUblDespatchAdvice({ number: 'D', orderNumber: '', lines: [] }, TODAY, parties)),
    ).toMatchObject({
      ok: false,
      error: { kind: 'not-an-order' },
    });
  });
});
