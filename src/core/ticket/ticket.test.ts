import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoTickets } from '../../../tests/support/demo';
import {
  addHours,
  asDay,
  asId,
  asInstant,
  type Branded,
  type CauseId,
  type EventId,
  type LineId,
  type LocalDate,
  type MakerId,
  money,
  type OrderId,
  type PlatformId,
  type RoleId,
} from '../units';
import {
  acceptedOption,
  answerOffer,
  clockMinutes,
  runClock,
  applyEvents,
  awaited,
  chooseParts,
  clearStep,
  evidenceOf,
  finishBench,
  isBegun,
  keep,
  lastToTakeBack,
  leftOver,
  needsOf,
  note,
  offer,
  openProofs,
  repairDidNotHelp,
  rungNow,
  rungOf,
  settleCause,
  standing,
  summarise,
  ticketEventSchema,
  takeFromShelf,
  tickStep,
  unordered,
  waitsFor,
  waitsNow,
  type RequirementDraft,
  type TicketDecision,
  type TicketEvent,
  type TicketEventData,
  type TicketState,
} from '.';

const AT = asInstant('2026-11-24T08:00:00.000Z');
let ids = 0;
const context = { at: AT, newId: <Id extends Branded<string>>() => asId<Id>(`id${(ids += 1)}`) };

const stream = (...data: TicketEventData[]): TicketEvent[] =>
  [{ type: 'opened' as const, number: 7, customerId: null, machineId: 'mach' }, ...data].map((entry, index) => ({
    id: asId(`e${index}`),
    stream: 'ticket:t',
    sequence: index + 1,
    version: 2,
    at: AT,
    groupId: `g${index}`,
    data: entry,
  }));

/** A history of decisions and plain events, each on what came of the ones before. */
function history(...acts: (TicketDecision | TicketEventData)[]): TicketEvent[] {
  const data: TicketEventData[] = [];
  for (const act of acts) {
    if (typeof act !== 'function') data.push(act);
    else {
      const decided = act(applyEvents(stream(...data)), context);
      if (!decided.ok) throw new Error(JSON.stringify(decided.error));
      data.push(...decided.value);
    }
  }
  return stream(...data);
}
const after = (...acts: (TicketDecision | TicketEventData)[]): TicketState => applyEvents(history(...acts));

const plate = (modelId = 'm1'): TicketEventData => ({
  type: 'plate-read',
  text: modelId,
  modelId: asId(modelId),
  modelNumber: modelId,
  makerId: asId<MakerId>('mk'),
  platformId: asId<PlatformId>('p'),
  badge: 'Vessby',
  probability: 1,
  others: [],
  confirmed: true,
});
const pump = (partId = 'p1', cost = 100, quantity = 2): RequirementDraft => ({
  roleId: asId<RoleId>('pump'),
  causeId: asId<CauseId>('c'),
  companion: false,
  position: 'any',
  route: 'maker',
  bought: { partId: asId(partId), partNumber: partId, description: 'Pump', quantity, cost: money(cost, 'EUR') },
  alternatives: [],
});
const settled = (causeId = 'c') => settleCause({ causeId: asId(causeId), name: causeId, needsPart: true });
const option = (parts: RequirementDraft[], id: 'best-fit' | 'cheaper-part' = 'best-fit') => ({
  id,
  kind: id,
  causeIds: [asId<CauseId>('c')],
  causeNames: ['c'],
  net: money(1000, 'EUR'),
  tax: money(190, 'EUR'),
  gross: money(1190, 'EUR'),
  handsOnMinutes: 1,
  readyOn: null,
  lines: [],
  parts,
});
const offered = (parts = [pump()], causeId = 'c') =>
  offer({
    causeId: asId(causeId),
    fee: { gross: money(0, 'EUR'), waived: true },
    worth: null,
    options: [option(parts), option([pump('cheap', 50)], 'cheaper-part')],
  });
const chosen = chooseParts(asId('c'), [pump()]);
const yes = answerOffer('yes', 'best-fit');
const finding = (findingId: string, answer: 'yes' | 'no' | 'not-sure'): TicketEventData => ({
  type: 'finding-noted',
  findingId,
  answer,
  threeWords: findingId,
});

/** The requirement of a ticket with one part. */
const only = (state: TicketState) => {
  const [need] = needsOf(state);
  if (!need) throw new Error('no part');
  return need;
};
const line = (state: TicketState, lineId: LineId) => ({
  requirementId: only(state).requirement.requirementId,
  orderId: asId<OrderId>('o'),
  lineId,
});
const ordered = (state: TicketState, lineId: LineId, units: number, dueOn: LocalDate): TicketEventData => ({
  type: 'part-ordered',
  ...line(state, lineId),
  units,
  orderNumber: 'O',
  supplierName: 'S',
  dueOn,
});
const received = (
  state: TicketState,
  lineId: LineId,
  units: number,
  verdict: 'as-ordered' | 'wrong' = 'as-ordered',
): TicketEventData => ({
  type: 'part-received',
  requirementId: only(state).requirement.requirementId,
  from: { kind: 'order', orderId: asId<OrderId>('o'), lineId },
  units,
  partNumber: 'p1',
  verdict,
});
/** A yes, and what follows from it. */
const agreed: (TicketDecision | TicketEventData)[] = [plate(), settled(), chosen, offered(), yes];
function agreedThen(...more: ((state: TicketState) => TicketEventData)[]): TicketState {
  const events = history(...agreed);
  const state = applyEvents(events);
  const added = more.map((make, index) => ({
    id: asId<EventId>(`m${index}`),
    stream: 'ticket:t',
    sequence: events.length + index + 1,
    version: 2,
    at: AT,
    groupId: `mg${index}`,
    data: make(state),
  }));
  return applyEvents([...events, ...added]);
}

describe('a ticket from its events', () => {
  it('keeps the last answer to each question, and not sure is no evidence', () => {
    const state = after(
      plate(),
      finding('hums', 'yes'),
      finding('hums', 'no'),
      finding('roars', 'yes'),
      finding('walks', 'not-sure'),
      { type: 'code-noted', code: 'E21', findingId: 'code-drain', meaning: 'x' },
      { type: 'code-noted', code: 'X9', findingId: null, meaning: null },
    );
    expect(evidenceOf(state).findings).toEqual([
      { findingId: 'hums', present: false },
      { findingId: 'roars', present: true },
      { findingId: 'code-drain', present: true },
    ]);
  });

  it('does not depend on the order in which events are read', () => {
    const events = history(...agreed);
    fc.assert(
      fc.property(fc.shuffledSubarray(events, { minLength: events.length }), (shuffled) => {
        expect(applyEvents(shuffled)).toEqual({ ...applyEvents(events), ticketId: 't' });
      }),
    );
  });

  it('is as it was when the last event is taken back', () => {
    const events = history(...agreed, finding('hums', 'yes'));
    for (let length = 2; length <= events.length; length += 1) {
      const before = applyEvents(events.slice(0, length - 1));
      const undone: TicketEvent = {
        id: asId('u'),
        stream: 'ticket:t',
        sequence: length + 1,
        version: 2,
        at: AT,
        groupId: 'u',
        data: { type: 'undone', eventId: events[length - 1]?.id ?? asId('none') },
      };
      const back = applyEvents([...events.slice(0, length), undone]);
      expect({ ...back, sequence: 0 }).toEqual({ ...before, sequence: 0 });
    }
  });

  it('throws on no events: a ticket begins with one', () => {
    expect(() => applyEvents([])).toThrow(/Bug/);
  });
});

describe('rounds', () => {
  it('end with a repair that did not help: nothing of it stands, all of it stays readable', () => {
    const ticked = tickStep({ phase: 'work', operationId: 'w' }, 'w', 0);
    const state = after(...agreed, ticked, repairDidNotHelp(asId('c')));
    expect(state.round).toMatchObject({ cause: null, parts: [], offer: null, answer: null, ticks: [] });
    expect(state.earlier).toHaveLength(1);
    expect(state.earlier[0]).toMatchObject({ cause: { causeId: 'c' }, answer: { answer: 'yes' } });
    expect(evidenceOf(state).failedFixes).toEqual(['c']);
    expect(rungOf(state)).toBe('find-cause');
  });

  it('leave the machine as it stands: what is off and not back is off in the next one, once, until the work is over', () => {
    const step = (phase: 'strip' | 'work' | 'refit', operationId: string) =>
      tickStep({ phase, operationId }, operationId, 0);
    const apart = [
      ...agreed,
      step('strip', 'lid'),
      step('strip', 'motor'),
      step('work', 'swap'),
      step('refit', 'motor'),
    ];
    for (const end of [repairDidNotHelp(asId('c')), settled('d')]) {
      const state = after(...apart, end);
      expect(state.round.ticks.map((tick) => tick.step)).toEqual([{ phase: 'strip', operationId: 'lid' }]);
      expect(state.round.leftOpen).toEqual(['lid']);
      const open = after(...apart, end, repairDidNotHelp(asId('e')), repairDidNotHelp(asId('d')));
      expect(open.round.leftOpen).toEqual(['lid']);
      expect(open.earlier.every(isBegun)).toBe(true);
      expect(after(...apart, end, clearStep({ phase: 'strip', operationId: 'lid' }, 'lid')).round).toMatchObject({
        ticks: [],
        leftOpen: [],
      });
    }
    const done = after(...apart, step('refit', 'lid'), finishBench([], []), repairDidNotHelp(asId('c')));
    expect(done.round.leftOpen).toEqual([]);
    // One that went home is not thought to be open, nor dead.
    const gone = {
      type: 'closed' as const,
      outcome: 'declined' as const,
      takenMinutes: null,
      listMinutes: null,
      rightFirstTime: null,
    };
    const back = after(...apart, gone, { type: 'came-back', sameFault: false });
    expect(back.round).toMatchObject({ ticks: [], leftOpen: [] });
  });

  it('end with another cause after the yes, but not before it', () => {
    expect(after(...agreed, settled('d')).earlier).toHaveLength(1);
    const before = after(plate(), settled(), chosen, offered(), settled('d'));
    expect(before.earlier).toHaveLength(0);
    expect(standing(before)).toMatchObject({ part: 'shaken', offer: 'shaken' });
  });

  it('are none of a thing that was done before anything was decided: that is evidence', () => {
    const state = after(plate(), repairDidNotHelp(asId('filter')));
    expect(state.earlier).toHaveLength(0);
    expect(evidenceOf(state).failedFixes).toEqual(['filter']);
  });

  it('begin anew when a closed machine comes back, and the same fault is evidence against its cause', () => {
    const closed: TicketEventData = {
      type: 'closed',
      outcome: 'repaired',
      takenMinutes: 30,
      listMinutes: 30,
      rightFirstTime: true,
    };
    const state = after(...agreed, closed, { type: 'came-back', sameFault: true });
    expect(state).toMatchObject({ closed: null, callBacks: 1, failedFixes: ['c'] });
    expect(state.round.answer).toBeNull();
    expect(rungOf(state)).toBe('find-cause');
  });
});

describe('what a decision rests on', () => {
  it('of a machine that nobody lists is what its plate says: read as another number the part is looked at again', () => {
    const unlisted = (text: string): TicketEventData => ({ type: 'plate-not-listed', text });
    const before = after(unlisted('KX 9100 W'), settled(), chosen);
    expect(standing(before)).toMatchObject({ part: 'stands', shaken: [] });
    const again = after(unlisted('KX 9100 W'), settled(), chosen, unlisted('KX 9200 W'));
    expect(standing(again)).toMatchObject({ part: 'shaken', shaken: [{ decision: 'part', by: 'plate' }] });
  });
  const moves: [string, TicketDecision | TicketEventData, string][] = [
    ['the plate, read again as another machine', plate('m2'), 'plate'],
    ['a serial noted afterwards', { type: 'serial-noted', serial: 'A1' }, 'serial'],
  ];
  it.each(moves)('is moved by %s: part, offer and yes are shaken until they are kept', (_, move, by) => {
    const state = after(...agreed, move);
    expect(standing(state)).toMatchObject({ part: 'shaken', offer: 'shaken', answer: 'shaken' });
    expect(standing(state).shaken.map((entry) => entry.by)).toContain(by);
    expect(rungOf(state)).toBe('part-again');
    const ticked = tickStep({ phase: 'strip', operationId: 's' }, 's', 0)(state, context);
    expect(ticked).toMatchObject({ ok: false, error: { kind: 'shaken', by: expect.arrayContaining([by]) } });
    const [need] = needsOf(state);
    const taken = takeFromShelf(need?.requirement.requirementId ?? asId('none'))(state, context);
    expect(taken).toMatchObject({ ok: false, error: { kind: 'shaken' } });
    const kept = after(...agreed, move, keep('part'), ...(by === 'plate' ? [keep('offer')] : []));
    expect(standing(kept).shaken).toEqual([]);
    expect(rungOf(kept)).toBe('order');
  });

  it('is not moved by the same machine read again, nor by a remark', () => {
    expect(standing(after(...agreed, plate(), finding('hums', 'yes'))).shaken).toEqual([]);
  });

  it('is moved by another number and by another price, and only the offer has to be looked at', () => {
    const number = after(...agreed, chooseParts(asId('c'), [pump('p2')]));
    expect(standing(number)).toMatchObject({ part: 'stands', offer: 'shaken', shaken: expect.anything() });
    expect(standing(number).shaken[0]).toEqual({ decision: 'offer', by: 'part' });
    expect(rungOf(number)).toBe('offer-again');
    const dearer = after(...agreed, chooseParts(asId('c'), [pump('p1', 250)]));
    expect(standing(dearer).shaken).toContainEqual({ decision: 'answer', by: 'price' });
    // The customer is told that the price stands all the same.
    expect(standing(after(...agreed, chooseParts(asId('c'), [pump('p1', 250)]), keep('offer'))).shaken).toEqual([]);
  });

  it('cannot be kept for another cause: that is decided anew', () => {
    const state = after(plate(), settled(), chosen, offered(), settled('d'));
    for (const decision of ['part', 'offer'] as const)
      expect(keep(decision)(state, context)).toMatchObject({ ok: false, error: { kind: 'shaken', by: ['cause'] } });
  });

  it('no longer matters once the part is fitted: then the proof decides', () => {
    const finished: TicketEventData = { type: 'bench-finished', operationIds: [], proofIds: ['run'] };
    const state = after(...agreed, finished, plate('m2'));
    expect(standing(state).shaken).toEqual([]);
    expect(rungOf(state)).toBe('prove');
  });
});

describe('offers', () => {
  it('are accepted as they were made: price, parts and all', () => {
    const state = after(plate(), settled(), chosen, offered(), answerOffer('yes', 'cheaper-part'));
    expect(acceptedOption(state.round)?.id).toBe('cheaper-part');
    expect(state.round.parts.map(({ bought }) => bought.partId)).toEqual(['cheap']);
    expect(standing(state).shaken).toEqual([]);
  });
  it('take the prices of their day to the parts that were chosen before', () => {
    const state = after(plate(), settled(), chosen, offered([pump('p1', 180)]));
    expect(only(state).requirement.bought.cost?.amountMinor).toBe(180);
    expect(standing(state).shaken).toEqual([]);
  });
  it('need another yes when they are made again', () => {
    const state = after(...agreed, offered());
    expect(state.round.answer).toBeNull();
    expect(rungOf(state)).toBe('ring-customer');
  });
  it('cannot be answered before they are made, nor with an option they do not have', () => {
    expect(yes(after(plate(), settled()), context)).toMatchObject({ ok: false, error: { kind: 'no-offer' } });
    expect(answerOffer('yes', 'while-open')(after(plate(), settled(), chosen, offered()), context)).toMatchObject({
      ok: false,
      error: { kind: 'no-offer' },
    });
  });
});

describe('parts of a ticket', () => {
  it('are another requirement when another number is chosen, and the same one when it is chosen again', () => {
    const first = after(plate(), settled(), chosen);
    const again = after(plate(), settled(), chosen, chosen);
    const other = after(plate(), settled(), chosen, chooseParts(asId('c'), [pump('p2')]));
    expect(needsOf(again)).toHaveLength(1);
    expect(only(other).requirement.requirementId).not.toBe(only(first).requirement.requirementId);
    const back = agreedThen((state) => ordered(state, asId('l1'), 2, asDay('2026-11-25')));
    const swapped = chooseParts(asId('c'), [pump('p2')])(back, context);
    expect(swapped.ok).toBe(true);
  });

  it('are here when their units are, line by line', () => {
    const half = agreedThen(
      (state) => ordered(state, asId('l1'), 1, asDay('2026-11-25')),
      (state) => ordered(state, asId('l2'), 1, asDay('2026-11-28')),
      (state) => received(state, asId('l1'), 1),
    );
    expect(only(half).supply).toMatchObject({ here: 1, coming: 1, missing: 0, dueOn: '2026-11-28' });
    expect(awaited(half)).toHaveLength(1);
    expect(rungOf(half)).toBe('await-parts');
    const all = agreedThen(
      (state) => ordered(state, asId('l1'), 1, asDay('2026-11-25')),
      (state) => ordered(state, asId('l2'), 1, asDay('2026-11-28')),
      (state) => received(state, asId('l1'), 1),
      (state) => received(state, asId('l2'), 1),
    );
    expect(only(all).supply).toMatchObject({ here: 2, coming: 0, missing: 0 });
    expect(rungOf(all)).toBe('work');
  });

  it('of one line that falls away leave the other line standing', () => {
    const state = agreedThen(
      (now) => ordered(now, asId('l1'), 1, asDay('2026-11-25')),
      (now) => ordered(now, asId('l2'), 1, asDay('2026-11-25')),
      (now) => ({ type: 'part-order-cancelled', ...line(now, asId('l1')), why: 'rejected', note: null }),
    );
    expect(only(state).supply).toMatchObject({ here: 0, coming: 1, missing: 1 });
    expect(unordered(state)).toHaveLength(1);
  });

  it('are to be ordered again in what was wrong, and only that', () => {
    const state = agreedThen(
      (now) => ordered(now, asId('l1'), 2, asDay('2026-11-25')),
      (now) => received(now, asId('l1'), 1),
      (now) => received(now, asId('l1'), 1, 'wrong'),
    );
    expect(only(state).supply).toMatchObject({ here: 1, coming: 0, missing: 1 });
  });

  it('take a new date from the supplier', () => {
    const state = agreedThen(
      (now) => ordered(now, asId('l1'), 2, asDay('2026-11-25')),
      (now) => ({
        type: 'part-due',
        ...line(now, asId('l1')),
        dueOn: asDay('2026-12-04'),
        status: 'back-ordered',
        note: null,
      }),
    );
    expect(only(state).supply.dueOn).toBe('2026-12-04');
  });

  it('that are no longer wanted but still on the way are named', () => {
    const events = history(...agreed);
    const now = applyEvents(events);
    const state = after(...agreed.slice(0, 4), yes, ordered(now, asId('l1'), 2, asDay('2026-11-25')));
    expect(leftOver(state)).toHaveLength(1);
    expect(leftOver(after(...agreed))).toHaveLength(0);
  });
});

describe('the clock at the bench', () => {
  it('counts what runs between start and stop, and a step from the tick before; nothing where it stands', () => {
    const tick = (operationId: string) => tickStep({ phase: 'strip', operationId }, operationId, 0);
    const made = history(tick('a'), runClock(true), tick('b'), tick('c'), runClock(false), tick('d'));
    // Ten minutes lie between two events.
    const spaced = made.map((event, index) => ({ ...event, at: addHours(AT, index / 6) }));
    const { clock } = applyEvents(spaced).round;
    expect(clock.steps.map(({ operationId, minutes }) => [operationId, Math.round(minutes)])).toEqual([
      ['b', 10],
      ['c', 10],
    ]);
    expect(Math.round(clock.minutes)).toBe(30);
    expect(clockMinutes(clock, addHours(AT, 9))).toBe(clock.minutes);
    const running = applyEvents(spaced.slice(0, 3)).round.clock;
    expect(Math.round(clockMinutes(running, addHours(AT, 1)))).toBe(40);
  });
});

describe('the ladder', () => {
  const waits = (...acts: (TicketDecision | TicketEventData)[]) => waitsFor(after(...acts)).for;
  const finished: TicketEventData = { type: 'bench-finished', operationIds: [], proofIds: ['run', 'leak'] };
  const proved = (proofId: string, passed = true): TicketEventData => ({
    type: 'proof-noted',
    proofId,
    title: proofId,
    passed,
  });

  it('leads from the plate to the close, and says what a ticket waits for', () => {
    const steps: [TicketDecision | TicketEventData, string, string][] = [
      [plate(), 'note-findings', 'you'],
      [finding('hums', 'yes'), 'find-cause', 'you'],
      [settled(), 'choose-part', 'you'],
      [chosen, 'offer', 'you'],
      [offered(), 'ring-customer', 'customer'],
      [answerOffer('thinking', null), 'ring-customer', 'customer'],
      [yes, 'order', 'you'],
      [finished, 'prove', 'you'],
      [proved('run'), 'prove', 'you'],
      [proved('leak', false), 'prove', 'you'],
      [proved('leak'), 'tell-ready', 'you'],
      [{ type: 'ready-told', how: 'phone' }, 'hand-over', 'collection'],
      [{ type: 'handed-over', advice: '' }, 'close', 'you'],
      [
        { type: 'closed', outcome: 'repaired', takenMinutes: null, listMinutes: null, rightFirstTime: null },
        'none',
        'nothing',
      ],
    ];
    expect(rungOf(after())).toBe('read-plate');
    const acts: (TicketDecision | TicketEventData)[] = [];
    for (const [act, rung, waiting] of steps) {
      acts.push(act);
      expect([rungOf(after(...acts)), waits(...acts)], JSON.stringify(act)).toEqual([rung, waiting]);
    }
  });

  it('needs no part where the cause needs none', () => {
    const clean = settleCause({ causeId: asId<CauseId>('clean'), name: 'Clean it', needsPart: false });
    expect(rungOf(after(plate(), clean))).toBe('offer');
  });

  it('names the end of a cure; the caller’s clock says whether it is over', () => {
    const needless = settleCause({ causeId: asId<CauseId>('c'), name: 'c', needsPart: false });
    const cured = after(
      plate(),
      needless,
      offered([]),
      yes,
      tickStep({ phase: 'refit', operationId: 'tub' }, 'tub', 24),
    );
    const waiting = waitsFor(cured);
    expect(waiting).toMatchObject({ for: 'cure', until: '2026-11-25T08:00:00.000Z' });
    expect(waitsNow(waiting, asInstant('2026-11-25T07:59:00.000Z')).for).toBe('cure');
    expect(waitsNow(waiting, asInstant('2026-11-25T08:00:00.000Z')).for).toBe('you');
    expect(rungNow(rungOf(cured), waiting, asInstant('2026-11-25T08:00:00.000Z'))).toBe('work');
  });

  it('is not held by the cure of an attempt that is over', () => {
    const needless = settleCause({ causeId: asId<CauseId>('c'), name: 'c', needsPart: false });
    const acts = [plate(), needless, offered([]), yes, tickStep({ phase: 'refit', operationId: 't' }, 't', 24)];
    expect(
      waits(
        ...acts,
        repairDidNotHelp(asId('c')),
        settled('d'),
        chooseParts(asId('d'), [pump()]),
        offered([pump()], 'd'),
      ),
    ).toBe('customer');
  });

  it('asks tickets of an older version, which do not say what was due, for one passed proof and none failed', () => {
    const old: TicketEventData = { type: 'bench-finished', operationIds: [], proofIds: null };
    expect(openProofs(after(...agreed, old))).toHaveLength(1);
    expect(openProofs(after(...agreed, old, proved('run')))).toEqual([]);
    expect(openProofs(after(...agreed, old, proved('run'), proved('leak', false)))).toEqual(['leak']);
  });
});

describe('taking back', () => {
  it('finds what was done last, past the supplier’s word, and not what has left the shop', () => {
    const events = history(...agreed);
    const state = applyEvents(events);
    const last = (...more: TicketEventData[]) =>
      lastToTakeBack([
        ...events,
        ...stream(...more)
          .slice(1)
          .map((event, index) => ({ ...event, id: asId<EventId>(`x${index}`), sequence: events.length + index + 1 })),
      ]);
    expect(lastToTakeBack(stream())).toMatchObject({ ok: false, error: { leftTheShop: false } });
    expect(last()).toMatchObject({ ok: true, value: { data: { type: 'customer-answered' } } });
    const due: TicketEventData = {
      type: 'part-due',
      ...line(state, asId('l1')),
      dueOn: null,
      status: 'accepted',
      note: null,
    };
    expect(last(due)).toMatchObject({ ok: true, value: { data: { type: 'customer-answered' } } });
    expect(last(ordered(state, asId('l1'), 2, asDay('2026-11-25')))).toMatchObject({
      ok: false,
      error: { leftTheShop: true },
    });
  });
});

describe('the door of facts', () => {
  it('is shut on a closed ticket', () => {
    const closed: TicketEventData = {
      type: 'closed',
      outcome: 'declined',
      takenMinutes: null,
      listMinutes: null,
      rightFirstTime: null,
    };
    const state = after(plate(), closed);
    expect(note({ type: 'serial-noted', serial: 'A' })(state, context)).toMatchObject({
      ok: false,
      error: { kind: 'closed' },
    });
  });
});

describe('the demo’s tickets', () => {
  it('parse, stand at every station, and rest on what they say', () => {
    const tickets = demoTickets();
    const states = [...tickets.values()].map((events) => applyEvents(events));
    for (const events of tickets.values())
      for (const event of events) expect(ticketEventSchema.safeParse(event.data).success).toBe(true);
    expect(states.filter((state) => state.closed)).toHaveLength(200);
    const open = states.filter((state) => !state.closed);
    expect(open).toHaveLength(12);
    expect(new Set(open.map((state) => rungOf(state))).size).toBeGreaterThanOrEqual(8);
    for (const state of open) expect(standing(state).shaken, `ticket ${state.number}`).toEqual([]);
    for (const state of states) expect(summarise(state).number).toBe(state.number);
  });
});
