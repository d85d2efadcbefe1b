import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { partsFor } from '../fit';
import { typedPart, unlistedModel } from '../identify';
import type { OrderState } from '../order';
import { applyEvents, waitedIn, type TicketEvent, type TicketEventData } from '../ticket';
import { asDay, asId, asInstant, defined, money, type EventId, type RequirementId, type TicketId } from '../units';
import { absentShare, fitProbability, lessonOf, ownRowId, ownRows, unlistedShare, type Lesson } from '.';

const below = demoCatalogue();
const modelId = unlistedModel('ZX 900/5');
const partId = typedPart('44-17 b');

let sequence = 0;
function ticket(number: number, ...data: TicketEventData[]): Lesson {
  sequence = 0;
  const stream = `ticket:t${number}`;
  const all: TicketEventData[] = [{ type: 'opened', number, customerId: null, machineId: null }, ...data];
  const events = all.map((entry): TicketEvent => {
    sequence += 1;
    return {
      id: asId<EventId>(`${stream} ${sequence}`),
      stream,
      sequence,
      version: 2,
      at: asInstant(`2026-0${Math.min(9, number)}-10T08:00:00.000Z`),
      groupId: `g${sequence}`,
      data: entry,
    };
  });
  return lessonOf(applyEvents(events), waitedIn(events));
}

const on = { modelId, serial: null, causeId: asId<never>('pump-blocked') };
const plate: TicketEventData = { type: 'plate-not-listed', text: 'ZX 900/5' };
const typed = (over: object = {}): TicketEventData => ({
  type: 'part-typed',
  roleId: asId('pump'),
  partNumber: '44-17 B',
  piecePrice: money(2350, 'EUR'),
  days: 4,
  supplierName: 'Corner Wholesale',
  ...over,
});
const chosen: TicketEventData = {
  type: 'parts-chosen',
  causeId: on.causeId,
  on,
  parts: [
    {
      requirementId: asId<RequirementId>('r'),
      roleId: asId('pump'),
      causeId: on.causeId,
      companion: false,
      position: 'any',
      route: 'typed',
      bought: { partId, partNumber: '44-17 B', description: 'drain pump', quantity: 1, cost: money(2350, 'EUR') },
      alternatives: [],
    },
  ],
};
const mended: TicketEventData[] = [
  { type: 'cause-decided', causeId: on.causeId, name: 'pump', needsPart: true },
  chosen,
  { type: 'bench-finished', operationIds: [], proofIds: ['run'] },
  { type: 'proof-noted', proofId: 'run', title: 'Run', passed: true },
  { type: 'handed-over', advice: '' },
];
const closed: TicketEventData = {
  type: 'closed',
  outcome: 'repaired',
  takenMinutes: 50,
  listMinutes: 40,
  rightFirstTime: true,
};

const learn = (
  lessons: readonly Lesson[],
  corrections: Parameters<typeof ownRows>[2] = [],
  orders: OrderState[] = [],
) => ownRows(lessons, orders, corrections, below);

describe('what a shop learns from its tickets', () => {
  it('is nothing of a ticket whose machine and parts are listed', () => {
    expect(learn([ticket(1, { type: 'complaint-noted', text: 'loud' })]).entries).toEqual([]);
  });

  it('is a model with how it is built, its make and when it was probably made', () => {
    const { rows } = learn([
      ticket(1, plate, { type: 'kind-judged', questionId: 'loading', answerId: 'top' }),
      ticket(
        2,
        { type: 'plate-not-listed', text: 'zx900 5' },
        { type: 'make-noted', name: 'Ostrava' },
        { type: 'bought-on', date: asDay('2019-05-01') },
      ),
    ]);
    expect(rows.models).toHaveLength(1);
    expect(rows.models[0]).toMatchObject({ id: modelId, modelNumber: 'ZX 900/5', popularity: 2 });
    expect(rows.makers).toEqual([{ id: 'make:ostrava', name: 'Ostrava' }]);
    expect(rows.platforms[0]).toMatchObject({ seen: 'loading=top', loading: 'top' });
    const { producedFrom, producedTo } = defined(rows.models[0], 'a model');
    // The receipt says more than a guess: two years to both sides of it, and a year on the shelf.
    expect(producedFrom > '2016-01-01' && producedFrom < '2016-12-31').toBe(true);
    expect(defined(producedTo, 'an end').slice(0, 4)).toBe('2021');
  });

  it('is no model of a machine without a plate: the next one without is another', () => {
    expect(learn([ticket(1, { type: 'plate-not-listed', text: 'No plate' })]).rows.models).toEqual([]);
  });

  it('takes a make that a catalogue knows as that one', () => {
    const badge = defined(below.badges[0], 'a badge');
    const { rows } = learn([ticket(1, plate, { type: 'make-noted', name: badge.name.toUpperCase() })]);
    expect(rows.models[0]).toMatchObject({ badgeId: badge.id, makerId: badge.makerId });
    expect(rows.makers).toEqual([]);
  });

  it('is a number with its supplier, its price of that day and the sizes that were measured', () => {
    const { rows } = learn([
      ticket(3, plate, typed(), {
        type: 'part-measured',
        roleId: asId('pump'),
        property: 'diameter',
        label: 'd',
        value: '22',
      }),
    ]);
    expect(rows.parts).toMatchObject([{ id: partId, partNumber: '44-17 B', roleId: 'pump', status: 'current' }]);
    expect(rows.suppliers).toMatchObject([{ name: 'Corner Wholesale', orders: undefined }]);
    expect(rows.offers).toMatchObject([{ partId, packPrice: money(2350, 'EUR'), handlingDays: 4, asOf: '2026-03-10' }]);
    expect(rows.part_properties).toEqual([{ partId, property: 'diameter', value: '22' }]);
  });

  it('is the price that was typed last, whatever was noted on an older ticket since', () => {
    const older = ticket(1, plate, typed({ piecePrice: money(1000, 'EUR') }), { type: 'note-added', text: 'rang' });
    const newer = ticket(5, plate, typed({ piecePrice: money(1700, 'EUR') }));
    for (const lessons of [
      [older, newer],
      [newer, older],
    ])
      expect(learn(lessons).rows.offers).toMatchObject([{ packPrice: money(1700, 'EUR'), asOf: '2026-05-10' }]);
    const late = { ...older, at: newer.at };
    expect(learn([newer, late]).rows.offers[0]?.packPrice).toEqual(money(1700, 'EUR'));
  });

  it('buys from a supplier of that name where a catalogue has one', () => {
    const listed = defined(below.suppliers[0], 'a supplier');
    const { rows } = learn([ticket(1, plate, typed({ supplierName: listed.name.toLowerCase() }))]);
    expect(rows.suppliers).toEqual([]);
    expect(rows.offers[0]?.supplierId).toBe(listed.id);
  });

  it('is a fit only when it was proved, surer with every case and less sure with a call-back', () => {
    const fitOf = (lessons: Lesson[]) => learn(lessons).rows.fits[0]?.probability;
    expect(fitOf([ticket(1, plate, typed(), ...mended)])).toBeUndefined();
    const once = ticket(1, plate, typed(), ...mended, closed);
    const twice = ticket(2, plate, typed(), ...mended, closed);
    const back = ticket(3, plate, typed(), ...mended, closed, { type: 'came-back', sameFault: true });
    expect(fitOf([once])).toBe(0.9);
    expect(fitOf([once, twice])).toBe(0.925);
    expect(fitOf([once, twice, back])).toBe(0.74);
    const catalogue = { ...below, ...learn([once, twice]).rows, roles: below.roles };
    const found = partsFor(catalogue, {
      models: [{ modelId, probability: 1 }],
      roleId: asId('pump'),
      today: asDay('2026-11-26'),
    });
    expect(found.candidates).toMatchObject([{ part: { partNumber: '44-17 B' }, probability: 0.925 }]);
    expect(found.candidates[0]?.reasons).toEqual([{ kind: 'fitted-before', probability: 0.925 }]);
  });

  it('is as sure of a fit as a share of proofs, between the prior and what was seen', () => {
    fc.assert(
      fc.property(fc.nat(400), fc.nat(400), (proved, failed) => {
        const p = fitProbability(proved, failed);
        expect(p).toBeGreaterThan(0);
        expect(p).toBeLessThan(1);
        expect(fitProbability(proved + 1, failed)).toBeGreaterThan(p);
        expect(fitProbability(proved, failed + 1)).toBeLessThan(p);
      }),
    );
  });

  it('is taken back with what was taken back on the ticket', () => {
    const lesson = ticket(1, plate, typed(), typed({ partNumber: '' }));
    expect(learn([lesson]).rows.parts).toEqual([]);
  });

  it('is the same in whatever order the tickets are read', () => {
    const lessons = [
      ticket(1, plate, typed(), ...mended, closed),
      ticket(2, plate, typed({ piecePrice: money(2500, 'EUR') }), ...mended, closed),
      ticket(3, { type: 'plate-not-listed', text: 'AB 1' }, { type: 'age-guessed', years: 6 }),
    ];
    fc.assert(
      fc.property(fc.shuffledSubarray(lessons, { minLength: 3 }), (some) => {
        expect(learn(some)).toEqual(learn(lessons));
      }),
      { numRuns: 12 },
    );
  });
});

describe('what the shop says of what it learned', () => {
  const lessons = [ticket(1, plate, typed(), ...mended, closed)];
  const part = { id: ownRowId('parts', { id: partId }), table: 'parts' };

  it('stands in place of it', () => {
    const { rows, entries } = learn(lessons, [{ ...part, cells: { description: 'pump with a long lead' } }]);
    expect(rows.parts[0]?.description).toBe('pump with a long lead');
    expect(entries.find(({ id }) => id === part.id)).toMatchObject({ state: 'corrected', from: [{ number: 1 }] });
  });

  it('may strike a row out, and with it all that hangs on it, but not what it was learned from', () => {
    const { rows, entries } = learn(lessons, [{ ...part, cells: null }]);
    expect([rows.parts, rows.fits, rows.offers]).toEqual([[], [], []]);
    expect(rows.models).toHaveLength(1);
    expect(entries.find(({ id }) => id === part.id)?.state).toBe('struck');
    expect(learn(lessons).rows.fits).toHaveLength(1);
  });
});

describe('what a supplier answers', () => {
  const line = {
    lineId: asId<never>('l'),
    partId,
    partNumber: '44-17 B',
    description: 'drain pump',
    supplierNumber: '44-17 B',
    packs: 1,
    packPrice: money(2350, 'EUR'),
    for: [{ ticketId: asId<TicketId>('t1'), requirementId: asId<RequirementId>('r'), partId, units: 1, perPack: 1 }],
    status: 'substituted' as const,
    answeredNumber: '44-17 C',
    answeredPartId: typedPart('44-17 C'),
    answeredPrice: money(2600, 'EUR'),
    dueOn: null,
    note: null,
    received: [
      {
        numberRead: '44-17 C',
        verdict: 'as-ordered' as const,
        packs: 1,
        measured: [],
        at: asInstant('2026-11-24T08:00:00.000Z'),
      },
    ],
    short: 0,
    outstanding: 0,
  };
  const order = {
    orderId: asId<never>('o'),
    number: '261126-0001',
    supplierId: asId<never>('supplier:corner wholesale'),
    supplierName: 'Corner Wholesale',
    byHand: true,
    modeId: 'm',
    modeName: 'As agreed',
    madeAt: asInstant('2026-11-20T08:00:00.000Z'),
    shipping: money(0, 'EUR'),
    expectedOn: asDay('2026-11-24'),
    lines: [line],
    reference: '',
    attempts: 1,
    failures: [],
    doubts: [],
    returns: [],
    invoices: [],
    nextAt: asInstant('2026-11-20T08:00:00.000Z'),
    refused: null,
    cancelAsked: false,
    cancelled: null,
    phase: 'done' as const,
  };

  it('“is now …” leads from the old number to the new one from then on, and what was paid is its price', () => {
    const { rows } = learn([ticket(1, plate, typed(), ...mended, closed)], [], [order]);
    expect(rows.relations).toMatchObject([
      { kind: 'superseded-by', toPartId: typedPart('44-17 C'), source: 'Corner Wholesale' },
    ]);
    expect(rows.offers.find((offer) => offer.partId === typedPart('44-17 C'))).toMatchObject({
      packPrice: money(2600, 'EUR'),
      asOf: '2026-11-20',
    });
    const { candidates } = partsFor(
      { ...below, ...rows, roles: below.roles },
      { models: [{ modelId, probability: 1 }], roleId: asId('pump'), today: asDay('2026-11-26') },
    );
    expect(candidates[0]?.part.partNumber).toBe('44-17 C');
  });
});

describe('how likely the next machine is new', () => {
  it('follows from how many came only once', () => {
    const lessons = [ticket(1, plate), ticket(2, plate), ticket(3, { type: 'plate-not-listed', text: 'AB 1' })];
    expect(unlistedShare(learn(lessons).rows.models)).toEqual({ once: 1, seen: 3 });
  });

  it('is a tenth where nothing is known or all were listed, and more where many came in as no list had them', () => {
    expect(absentShare(new Map())).toBeCloseTo(0.1, 9);
    const listed: [string, number][] = [['m1', 50]];
    expect(absentShare(new Map(listed))).toBe(0.1);
    const numbers = Array.from({ length: 50 }, (_, at) => unlistedModel(`ZX ${at}`));
    const each = absentShare(new Map([...listed, ...numbers.map((id): [string, number] => [id, 1])]));
    expect(each).toBeCloseTo(55 / 150, 9);
    // What comes again is listed by then.
    expect(absentShare(new Map([...listed, ['unlisted:ZX1', 50]]))).toBe(0.1);
  });
});
