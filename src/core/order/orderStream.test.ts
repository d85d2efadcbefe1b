import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  defined,
  money,
  sum,
  asDay,
  asInstant,
  asId,
  type Branded,
  type SupplierId,
  type PartId,
  type TicketId,
  type LineId,
  type RequirementId,
} from '../units';
import {
  applyOrderEvents,
  arrivalsOf,
  cancelOrder,
  checkInLine,
  answerByHand,
  judgeAnswer,
  noteAnswer,
  noteSentByHand,
  noteRefused,
  noteTrying,
  noteVoid,
  orderTotal,
  type Decision,
  type OrderEvent,
  type OrderEventData,
} from '.';
import { orderAsCsv, orderAsUbl, readUblOrder, readUblOrderResponse, writeUblOrderResponse } from './documents';

let given = 0;
const context = { newId: <Id extends Branded<string>>() => asId<Id>(`lot-${(given += 1)}`) };

const terms = { restocking: 0.15, days: 14, today: asDay('2026-11-24') };

const made: Extract<OrderEventData, { type: 'order-made' }> = {
  type: 'order-made',
  number: 'HW-1',
  supplierId: asId<SupplierId>('northquay'),
  supplierName: 'Northquay Spares',
  modeId: 'nq-day',
  modeName: 'next day',
  shipping: money(690, 'EUR'),
  expectedOn: asDay('2026-11-25'),
  lines: [
    {
      lineId: asId<LineId>('o1'),
      partId: asId<PartId>('p1'),
      partNumber: 'FJ-1',
      description: '=Pump & <valve>',
      supplierNumber: '+NO1',
      packs: 2,
      packPrice: money(1999, 'EUR'),
      for: [
        {
          ticketId: asId<TicketId>('t'),
          requirementId: asId<RequirementId>('r'),
          partId: asId<PartId>('p1'),
          units: 2,
          perPack: 1,
        },
      ],
    },
  ],
};
const orderEvents = (...data: OrderEventData[]): OrderEvent[] =>
  data.map((entry, index) => ({
    id: asId(`e${index}`),
    stream: 'order:x',
    sequence: index + 1,
    version: 2,
    at: asInstant('2026-11-24T09:00:00.000Z'),
    groupId: `g${index}`,
    data: entry,
  }));
const answer = (status: 'accepted' | 'rejected' | 'back-ordered' | 'substituted') => ({
  reference: 'NO-1',
  lines: [
    {
      lineId: asId<LineId>('o1'),
      status,
      partId: asId<PartId>('p1'),
      partNumber: 'FJ-1',
      packPrice: money(1899, 'EUR'),
      dueOn: status === 'rejected' ? null : asDay('2026-11-26'),
      note: 'Ask & see <later>',
    },
  ],
});

describe('an order’s events', () => {
  const phase = (...data: OrderEventData[]) => applyOrderEvents(orderEvents(...data))?.phase;
  const received: OrderEventData = {
    type: 'line-received',
    lineId: asId<LineId>('o1'),
    numberRead: 'FJ-1',
    verdict: 'as-ordered',
    packs: 1,
    measured: [],
  };
  const answered: OrderEventData = { type: 'answered', answer: answer('accepted') };
  const tried: OrderEventData = { type: 'send-tried', attempt: 1 };
  const retryAt = asInstant('2026-11-24T09:05:00.000Z');
  it('go from unsent over unknown and open to done', () => {
    expect(phase(made)).toBe('unsent');
    expect(phase(made, tried)).toBe('unknown');
    expect(phase(made, tried, { type: 'send-failed', why: 'down', status: 503, retryAt })).toBe('unknown');
    expect(phase(made, tried, answered)).toBe('open');
    expect(phase(made, tried, { type: 'answered', answer: answer('rejected') })).toBe('done');
    expect(phase(made, tried, answered, received)).toBe('open');
    expect(phase(made, tried, answered, received, received)).toBe('done');
    expect(phase(made, { type: 'cancelled', why: 'not-sent' })).toBe('done');
    expect(phase(made, tried, { type: 'cancel-asked' })).toBe('unknown');
    expect(phase(made, tried, { type: 'refused', status: 422, detail: 'x' })).toBe('done');
    expect(applyOrderEvents([])).toBeNull();
  });
  it('count a goods-in that was taken back as not come', () => {
    const events = orderEvents(made, tried, answered, received, received);
    const undone = orderEvents(made, tried, answered, received, received, {
      type: 'undone',
      eventId: events[4]?.id ?? asId('none'),
    });
    expect(applyOrderEvents(undone)).toMatchObject({ phase: 'open', lines: [{ outstanding: 1 }] });
  });
  it('total what is to be paid: packs at their answered price, without what fell away', () => {
    const total = (...data: OrderEventData[]) => {
      const state = applyOrderEvents(orderEvents(...data));
      return state ? orderTotal(state).amountMinor : NaN;
    };
    expect(total(made)).toBe(2 * 1999 + 690);
    expect(total(made, tried, answered)).toBe(2 * 1899 + 690);
    expect(total(made, tried, { type: 'answered', answer: answer('rejected') })).toBe(690);
  });
});

describe('what is decided on an order', () => {
  const lines = [
    { lineId: asId<LineId>('l1'), units: 2, packs: 2, perPack: 1 },
    { lineId: asId<LineId>('l2'), units: 3, packs: 1, perPack: 4 },
  ];
  const order = (...more: OrderEventData[]) =>
    defined(
      applyOrderEvents(
        orderEvents(
          {
            ...made,
            lines: lines.map(({ lineId, units, packs, perPack }) => ({
              ...defined(made.lines[0], 'a line'),
              lineId,
              packs,
              for: [
                {
                  ticketId: asId<TicketId>('a'),
                  requirementId: asId<RequirementId>(`a-${lineId}`),
                  partId: asId<PartId>('p1'),
                  units: units - 1,
                  perPack,
                },
                {
                  ticketId: asId<TicketId>('b'),
                  requirementId: asId<RequirementId>(`b-${lineId}`),
                  partId: asId<PartId>('p1'),
                  units: 1,
                  perPack,
                },
              ],
            })),
          },
          ...more,
        ),
      ),
      'an order',
    );
  const tried: OrderEventData = { type: 'send-tried', attempt: 1 };
  const accepted = {
    reference: 'R',
    lines: lines.map(({ lineId }) => ({
      ...defined(answer('accepted').lines[0], 'a line'),
      lineId,
      status: 'accepted' as const,
    })),
  };
  const open = order(tried, { type: 'answered', answer: accepted });
  const told = (decision: Decision) =>
    decision.ok
      ? decision.value.flatMap((append) =>
          append.kind === 'ticket' ? append.data.map((data) => ({ ticket: append.ticketId, ...data })) : [],
        )
      : [];

  it('one line that is refused falls away alone', () => {
    const mixed = {
      ...accepted,
      lines: accepted.lines.map((line) => (line.lineId === 'l1' ? { ...line, status: 'rejected' as const } : line)),
    };
    const events = told(noteAnswer(order(tried), mixed));
    expect(events.filter(({ type }) => type === 'part-order-cancelled')).toHaveLength(2);
    expect(events.filter(({ type }) => type === 'part-due')).toHaveLength(2);
    const missing = told(noteAnswer(order(tried), { ...accepted, lines: accepted.lines.slice(1) }));
    expect(missing.filter((event) => event.type === 'part-order-cancelled')).toMatchObject([
      { lineId: asId<LineId>('l1'), why: 'not-in-answer' },
      { lineId: asId<LineId>('l1'), why: 'not-in-answer' },
    ]);
  });

  it('a second answer, or an answer to what is cancelled, changes nothing', () => {
    expect(noteAnswer(open, accepted)).toMatchObject({ ok: false, error: { kind: 'order-is-past' } });
    expect(noteAnswer(order({ type: 'cancelled', why: 'not-sent' }), accepted).ok).toBe(false);
  });

  it('cancelling asks the supplier first once it was tried', () => {
    const kinds = (decision: Decision) =>
      decision.ok ? decision.value.flatMap(({ data }) => data.map(({ type }) => type)) : [];
    expect(kinds(cancelOrder(order()))).toContain('cancelled');
    expect(kinds(cancelOrder(order()))).toContain('part-order-cancelled');
    expect(kinds(cancelOrder(order(tried)))).toEqual(['cancel-asked']);
    expect(cancelOrder(open).ok).toBe(false);
    expect(kinds(noteVoid(order(tried, { type: 'cancel-asked' })))).toContain('part-order-cancelled');
    // Nothing is sent any more once cancelling was asked.
    expect(noteTrying(order(tried, { type: 'cancel-asked' })).ok).toBe(false);
  });

  it('a refusal gives every part back and is not sent again', () => {
    const refused = noteRefused(order(tried), 422, 'closed');
    expect(told(refused).map(({ type }) => type)).toEqual(Array.from({ length: 4 }, () => 'part-order-cancelled'));
    expect(noteTrying(order(tried, { type: 'refused', status: 422, detail: '' })).ok).toBe(false);
  });

  it('part of a line goes to the tickets in its order, and the last pack brings the rest', () => {
    const receipt = {
      lineId: asId<LineId>('l1'),
      numberRead: 'FJ-1',
      verdict: 'as-ordered' as const,
      packs: 1,
      measured: [],
    };
    expect(told(checkInLine(open, receipt, context, terms))).toMatchObject([
      { ticket: 'a', requirementId: 'a-l1', units: 1 },
    ]);
    const half = order(tried, { type: 'answered', answer: accepted }, { type: 'line-received', ...receipt });
    expect(told(checkInLine(half, receipt, context, terms))).toMatchObject([
      { ticket: 'b', requirementId: 'b-l1', units: 1 },
    ]);
    expect(checkInLine(half, { ...receipt, packs: 2 }, context, terms)).toMatchObject({ ok: false });
    expect(told(checkInLine(open, { ...receipt, lineId: asId('l2') }, context, terms))).toMatchObject([
      { ticket: 'a', units: 2 },
      { ticket: 'b', units: 1 },
    ]);
  });

  it('whatever way a line comes in, every ticket gets its units and none gets more', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 4 }),
        fc.infiniteStream(fc.integer({ min: 1, max: 3 })),
        (wants, perPack, draw) => {
          const wanted = wants.map((units, index) => ({
            ticketId: asId<TicketId>(`t${index}`),
            requirementId: asId<RequirementId>(`r${index}`),
            partId: asId<PartId>('p1'),
            units,
            perPack,
          }));
          const packs = Math.ceil(sum(wants) / perPack);
          const line = { ...defined(made.lines[0], 'a line'), packs, for: wanted };
          const events: OrderEventData[] = [
            { ...made, lines: [line] },
            tried,
            {
              type: 'answered',
              answer: { ...accepted, lines: [{ ...defined(accepted.lines[0], 'l'), lineId: asId<LineId>('o1') }] },
            },
          ];
          const given = new Map<string, number>();
          for (let left = packs; left > 0;) {
            const some = Math.min(left, draw.next().value ?? 1);
            left -= some;
            const receipt = {
              lineId: asId<LineId>('o1'),
              numberRead: 'x',
              verdict: 'as-ordered' as const,
              packs: some,
              measured: [],
            };
            const state = defined(applyOrderEvents(orderEvents(...events)), 'an order');
            for (const event of told(checkInLine(state, receipt, context, terms)))
              if (event.type === 'part-received')
                given.set(event.requirementId, (given.get(event.requirementId) ?? 0) + event.units);
            events.push({ type: 'line-received', ...receipt });
          }
          expect([...given].sort()).toEqual(wanted.map(({ requirementId, units }) => [requirementId, units]).sort());
        },
      ),
    );
  });
});

describe('documents', () => {
  const order = defined(applyOrderEvents(orderEvents(made)), 'an order');
  it('as UBL go out and come back the same', () => {
    const read = readUblOrder(orderAsUbl(order, 'Shop & Sons', 'Europe/Berlin'));
    expect(read).toMatchObject({
      ok: true,
      value: {
        number: 'HW-1',
        issuedOn: asDay('2026-11-24'),
        buyer: 'Shop & Sons',
        mode: 'nq-day',
        lines: [{ id: 'o1', packs: 2, partNumber: 'FJ-1', supplierNumber: '+NO1', packPrice: money(1999, 'EUR') }],
      },
    });
  });
  it.each(['accepted', 'rejected', 'back-ordered', 'substituted'] as const)(
    'an answer “%s” comes back the same',
    (status) => {
      const read = readUblOrderResponse(writeUblOrderResponse(answer(status), 'HW-1', asDay('2026-11-24')));
      expect(read).toMatchObject({ ok: true, value: { orderNumber: 'HW-1' } });
      // Judged against the order, it is the answer that was written.
      const judged = read.ok ? judgeAnswer(order, read.value, asDay('2026-11-24')) : null;
      const [line] = answer(status).lines;
      const price = status === 'rejected' ? { packPrice: money(1999, 'EUR') } : {};
      expect(judged).toMatchObject({ kind: 'taken', answer: { reference: 'NO-1', lines: [{ ...line, ...price }] } });
    },
  );
  it('that are none are refused with what is missing', () => {
    expect(readUblOrder('not xml <')).toMatchObject({ ok: false });
    expect(readUblOrderResponse('<a/>')).toMatchObject({ ok: false, error: { kind: 'not-an-order' } });
    const negative = orderAsUbl(order, 'x', 'UTC').replace('>2<', '>-2<');
    expect(readUblOrder(negative)).toMatchObject({ ok: false, error: { kind: 'not-an-order' } });
  });
  it('as CSV start no formula in a spreadsheet', () => {
    const csv = orderAsCsv(order);
    expect(csv.split('\r\n')).toHaveLength(2);
    expect(csv).toContain("'=Pump & <valve>");
    expect(csv).toContain("'+NO1");
    expect(csv).toContain('19.99');
  });
});

describe('an order that a person sends', () => {
  const state = (...data: OrderEventData[]) => defined(applyOrderEvents(orderEvents(...data)), 'an order');
  const byHand: OrderEventData = { ...made, byHand: true };
  const said = (partNumber: string | null) => ({
    lineId: asId<LineId>('o1'),
    partNumber,
    packPrice: money(2100, 'EUR'),
    dueOn: asDay('2026-11-30'),
  });
  const done = (decision: Decision): OrderEventData[] => {
    if (!decision.ok) throw new Error(decision.error.kind);
    return decision.value.flatMap((append) => (append.kind === 'order' ? [...append.data] : []));
  };

  it('is sent by a word, and may come without an answer', () => {
    const unsent = state(byHand);
    expect(unsent).toMatchObject({ byHand: true, phase: 'unsent' });
    const sent = state(byHand, ...done(noteSentByHand(unsent)));
    expect(sent.phase).toBe('unknown');
    expect(noteSentByHand(sent).ok).toBe(false);
    const receipt = {
      lineId: asId<LineId>('o1'),
      numberRead: 'FJ-1',
      verdict: 'as-ordered' as const,
      packs: 2,
      measured: [],
    };
    expect(checkInLine(unsent, receipt, context, terms).ok).toBe(false);
    expect(checkInLine(sent, receipt, context, terms).ok).toBe(true);
  });

  it('takes another answer as long as nothing of it is here', () => {
    const sent = [byHand, { type: 'send-tried', attempt: 1 } as const];
    const first = done(noteAnswer(state(...sent), answerByHand(state(...sent), ' ref 7 ', [])));
    const open = state(...sent, ...first);
    expect(open).toMatchObject({ phase: 'open', reference: 'ref 7', lines: [{ status: 'accepted' }] });
    const second = done(noteAnswer(open, answerByHand(open, '', [said('FJ-2')])));
    const changed = state(...sent, ...first, ...second);
    expect(changed.lines[0]).toMatchObject({ status: 'substituted', answeredNumber: 'FJ-2', dueOn: '2026-11-30' });
    expect(orderTotal(changed).amountMinor).toBe(690 + 2 * 2100);
    const here: OrderEventData = {
      type: 'line-received',
      lineId: asId<LineId>('o1'),
      numberRead: 'FJ-2',
      verdict: 'as-ordered',
      packs: 1,
      measured: [],
    };
    const begun = state(...sent, ...first, ...second, here);
    expect(noteAnswer(begun, answerByHand(begun, '', [said(null)])).ok).toBe(false);
    expect(cancelOrder(begun).ok).toBe(false);
    expect(cancelOrder(changed).ok).toBe(true);
  });

  it('says what arrives when: each day of it once, nothing that is here or will not come', () => {
    const tried = [byHand, { type: 'send-tried', attempt: 1 } as const];
    const answered = [
      ...tried,
      ...done(noteAnswer(state(...tried), answerByHand(state(...tried), 'R 1', [said('FJ-1')]))),
    ];
    const here = (packs: number): OrderEventData => ({
      type: 'line-received',
      lineId: asId<LineId>('o1'),
      numberRead: 'FJ-1',
      verdict: 'as-ordered',
      packs,
      measured: [],
    });
    const [parcel] = arrivalsOf([state(...answered)]);
    expect(parcel).toMatchObject({ number: 'HW-1', dueOn: '2026-11-30', lines: [{ partNumber: 'FJ-1', packs: 2 }] });
    expect(arrivalsOf([state(...answered, here(1))])[0]?.lines).toMatchObject([{ packs: 1 }]);
    expect(arrivalsOf([state(...answered, here(2))])).toEqual([]);
    expect(
      arrivalsOf([
        state(...tried, ...done(noteAnswer(state(...tried), answerByHand(state(...tried), 'R 1', [said(null)])))),
      ]),
    ).toEqual([]);
  });

  it('whose lines will not come frees its parts', () => {
    const sent = state(byHand, { type: 'send-tried', attempt: 1 });
    const decision = noteAnswer(sent, answerByHand(sent, '', [said(null)]));
    expect(
      decision.ok &&
        decision.value.some((append) => append.kind === 'ticket' && append.data[0]?.type === 'part-order-cancelled'),
    ).toBe(true);
  });
});
