import { describe, expect, it } from 'vitest';
import { eventsAfter } from '../../../tests/support/acts';
import { addHours, asId, asInstant, money, type CauseId, type RoleId } from '../units';
import {
  applyEvents,
  atBench,
  clearStep,
  finishBench,
  note,
  openAgain,
  layBead,
  noteProof,
  repairDidNotHelp,
  runClock,
  setAside,
  settleCause,
  tickStep,
  type TicketDecision,
  type TicketEvent,
  type TicketEventData,
} from '.';

const AT = asInstant('2026-11-24T08:00:00.000Z');
const strip = { phase: 'strip', operationId: 'motor-out' } as const;
const opened: TicketEvent[] = [
  {
    id: asId('e0'),
    stream: 'ticket:t',
    sequence: 1,
    version: 2,
    at: AT,
    groupId: 'g0',
    data: { type: 'opened', number: 7, customerId: null, machineId: 'm' },
  },
];
const begun = eventsAfter(
  opened,
  AT,
  settleCause({ causeId: asId<CauseId>('brushes'), name: 'Brushes worn', needsPart: false }),
);
const after = (...acts: (TicketDecision | TicketEventData)[]) => applyEvents(eventsAfter(begun, AT, ...acts));
const context = { at: AT, newId: () => asId<never>('new') };

describe('at the bench', () => {
  it('ticks belong to whoever works on it, and the sheet that was parked is taken up by the next tick', () => {
    const { round } = after(
      atBench({ type: 'worker-noted', name: 'Ilse' }),
      tickStep(strip, 'Motor out', 0),
      atBench({ type: 'parked', text: 'waits for a belt' }),
    );
    expect(round.ticks).toMatchObject([{ by: 'Ilse' }]);
    expect(round.parked).toMatchObject({ by: 'Ilse', text: 'waits for a belt' });
    const later = after(
      atBench({ type: 'worker-noted', name: 'Ilse' }),
      atBench({ type: 'parked', text: '' }),
      atBench({ type: 'worker-noted', name: 'Jonas' }),
      tickStep(strip, 'Motor out', 0),
    );
    expect(later.round.parked).toBeNull();
    expect(later.round.ticks).toMatchObject([{ by: 'Jonas' }]);
  });

  it('nothing is ticked or passed that the sheet bars; that a proof failed can always be said', () => {
    const state = after();
    const barred = tickStep(strip, 'Motor out', 0, { kind: 'not-isolated' })(state, context);
    expect(barred).toEqual({ ok: false, error: { kind: 'step-barred', by: { kind: 'not-isolated' } } });
    expect(noteProof('earth', 'Earth', true, 'figure-outside')(state, context)).toEqual({
      ok: false,
      error: { kind: 'proof-barred', by: 'figure-outside' },
    });
    expect(noteProof('earth', 'Earth', false, 'figure-outside')(state, context).ok).toBe(true);
  });

  it('pieces without a name get numbers of their own, and the sheet is not left before all are home', () => {
    const two = [setAside(strip, 'flat spring', null), setAside(strip, 'white clip', null)];
    const state = after(...two);
    expect(state.pieces.map(({ piece, text }) => [piece, text])).toEqual([
      [1, 'flat spring'],
      [2, 'white clip'],
    ]);
    const home = (piece: number) => atBench({ type: 'piece-home', piece, home: true });
    expect(finishBench([], [])(after(...two, home(1)), context)).toEqual({
      ok: false,
      error: { kind: 'pieces-left', pieces: [2] },
    });
    expect(finishBench([], [])(after(...two, home(1), home(2)), context).ok).toBe(true);
  });

  it('pieces and pictures belong to the machine: another attempt still has to bring home what came off in the one before', () => {
    const open = [
      setAside(strip, 'flat spring', null),
      atBench({ type: 'photographed', photoId: 'p1', step: strip, text: '' }),
      repairDidNotHelp(asId<CauseId>('brushes')),
      setAside(strip, 'white clip', null),
    ];
    const state = after(...open);
    expect(state.earlier).toHaveLength(1);
    expect(state.pieces.map(({ piece }) => piece)).toEqual([1, 2]);
    expect(state.photographs).toMatchObject([{ photoId: 'p1' }]);
    expect(finishBench([], [])(state, context)).toEqual({ ok: false, error: { kind: 'pieces-left', pieces: [1, 2] } });
  });

  it('is counted again after it is opened again, and proved anew', () => {
    const refit = { phase: 'refit' as const, operationId: 'motor-out' };
    const counted = [
      tickStep(strip, 'Motor out', 0),
      tickStep(refit, 'Motor in', 0),
      atBench({ type: 'counted-home', missing: [] }),
      finishBench(['motor-out'], ['leak']),
      noteProof('leak', 'Leak test', false, null),
    ];
    const state = after(...counted, openAgain([refit]));
    expect(state.round).toMatchObject({ count: null, finished: null, proofs: [] });
    expect(state.round.ticks.map(({ step }) => step.phase)).toEqual(['strip']);
    expect(openAgain([refit])(after(), context).ok).toBe(false);
    expect(after(...counted.slice(0, 3), clearStep(refit, 'Motor in')).round.count).toBeNull();
  });

  it('a proof that failed goes back to the findings with what it says', () => {
    const seen = [{ findingId: 'leaks-under', answer: 'yes' as const, threeWords: 'leaks below' }];
    const state = after(repairDidNotHelp(asId<CauseId>('brushes'), undefined, seen));
    expect(state.findings).toMatchObject([{ findingId: 'leaks-under', answer: 'yes' }]);
    expect(state.earlier).toHaveLength(1);
  });

  it('what was measured before stays beside what is measured now, with its instrument', () => {
    const reading = (value: number, instrument?: string) =>
      note({
        type: 'reading-noted',
        limitId: 'earth',
        label: 'Earth',
        unit: 'Ohm',
        value,
        ambientCelsius: null,
        verdict: 'within',
        low: null,
        high: 0.3,
        checkId: null,
        outcomeId: null,
        ...(instrument ? { instrument } : {}),
      });
    const state = after(reading(0.9), reading(0.1, 'multimeter 1'));
    expect(state.readings).toMatchObject([{ value: 0.1, instrument: 'multimeter 1' }]);
    expect(state.readingsBefore).toMatchObject([{ value: 0.9 }]);
  });

  it('what would not come says nothing of how long a step takes', () => {
    const tick = (operationId: string) => tickStep({ phase: 'strip', operationId }, operationId, 0);
    const rescue = atBench({ type: 'rescue-chosen', operationId: 'b', title: 'b', minutes: 15 });
    const events = eventsAfter(begun, AT, runClock(true), tick('a'), rescue, tick('b'), tick('c'));
    const spaced = events.map((event, index) => ({ ...event, at: addHours(AT, index / 6) }));
    expect(applyEvents(spaced).round.clock.steps.map(({ operationId }) => operationId)).toEqual(['a', 'c']);
  });

  it('a bead skins so many minutes after it is laid, over midnight, too', () => {
    const late = { ...context, at: asInstant('2026-11-24T23:55:00.000Z') };
    const laid = layBead('tub-split', 10)(after(), late);
    expect(laid).toMatchObject({ ok: true, value: [{ skinUntil: '2026-11-25T00:05:00.000Z' }] });
  });

  it('what is ticked at the swap, remarked, photographed and agreed stays until it is taken back', () => {
    const roleId = asId<RoleId>('brushes');
    const { round, photographs } = after(
      atBench({ type: 'swap-ticked', roleId, text: 'prepare: clip out', done: true }),
      atBench({ type: 'swap-ticked', roleId, text: 'compare: ', done: true }),
      atBench({ type: 'swap-ticked', roleId, text: 'compare: ', done: false }),
      atBench({ type: 'step-remarked', step: strip, text: 'longer bolt above' }),
      atBench({ type: 'photographed', photoId: 'p1', step: strip, text: '' }),
      atBench({ type: 'photographed', photoId: 'p2', step: strip, text: 'arrow' }),
      atBench({ type: 'photograph-dropped', photoId: 'p1' }),
      atBench({ type: 'more-answered', minutes: 12, gross: money(1800, 'EUR'), agreed: true }),
      atBench({ type: 'readied', item: 'tools', ok: true }),
    );
    expect(round.swaps).toEqual([{ roleId, text: 'prepare: clip out' }]);
    expect(round.remarks).toMatchObject([{ text: 'longer bolt above' }]);
    expect(photographs.map(({ photoId }) => photoId)).toEqual(['p2']);
    expect(round.more).toMatchObject({ agreed: true, minutes: 12 });
    expect(round.readied).toEqual(['tools']);
    expect(after(atBench({ type: 'step-remarked', step: strip, text: '' })).round.remarks).toEqual([]);
  });
});
