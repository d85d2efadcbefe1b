import { asId } from '../units';
import { demoCatalogue } from '../../../tests/support/demo';
import { describe, expect, it } from 'vitest';
import { causeFactor, learnedChanges, learnFrom, nothingLearned, timeFactor, without, type ClosedTicket } from '.';

const closed = (more: Partial<ClosedTicket> = {}): ClosedTicket => ({
  modelId: asId('m'),
  design: 'F-BB',
  causeId: asId('brushes'),
  takenMinutes: 60,
  listMinutes: 50,
  rightFirstTime: true,
  ...more,
});
const times = (count: number, ticket: ClosedTicket) => Array.from({ length: count }, () => ticket);

describe('what closed tickets teach', () => {
  it('counts only what is known', () => {
    const learned = learnFrom([
      closed(),
      closed({ causeId: null, takenMinutes: null, rightFirstTime: false }),
      closed({ design: null }),
    ]);
    expect(learned).toMatchObject({
      closed: 3,
      shopCounts: { m: 3 },
      causeCounts: { 'F-BB': { brushes: 1 } },
      rightFirst: { right: 2, known: 3 },
    });
    expect(learned.minutes['F-BB']).toEqual({ taken: 60, listed: 50, tickets: 1 });
  });
  it('keeps the shares a distribution: factors average to one over the priors', () => {
    const learned = learnFrom([...times(20, closed()), ...times(5, closed({ causeId: asId('pump') }))]);
    const priors = { brushes: 0.2, pump: 0.3, belt: 0.5 };
    const total = Object.entries(priors).reduce(
      (sum, [id, p]) => sum + p * causeFactor(learned, 'F-BB', asId(id), p),
      0,
    );
    expect(total).toBeCloseTo(1, 9);
    expect(causeFactor(learned, 'F-BB', asId('brushes'), 0.2)).toBeGreaterThan(1);
    expect(causeFactor(learned, 'F-BB', asId('belt'), 0.5)).toBeLessThan(1);
  });
  it('moves slowly on few cases and says nothing on none', () => {
    const few = learnFrom(times(1, closed({ takenMinutes: 100 })));
    const many = learnFrom(times(40, closed({ takenMinutes: 100 })));
    expect(timeFactor(few, 'F-BB')).toBeLessThan(1.2);
    expect(causeFactor(few, 'F-BB', asId('brushes'), 0.2)).toBeLessThan(1.3);
    expect(causeFactor(many, 'F-BB', asId('brushes'), 0.2)).toBeGreaterThan(2.5);
    expect(timeFactor(many, 'F-BB')).toBeGreaterThan(1.8);
    expect(timeFactor(many, 'T-CP')).toBe(1);
    expect(causeFactor(nothingLearned(), 'F-BB', asId('brushes'), 0.2)).toBe(1);
  });

  it('is named thing by thing, and each can be left out without moving another', () => {
    const step = { operationId: 'panel', phase: 'strip' as const, minutes: 9 };
    const tried = { operationId: 'panel', rescued: true };
    const learned = learnFrom([
      ...times(20, closed({ takenMinutes: 90, steps: [step], tried: [tried], ageYears: 7 })),
      ...times(9, closed({ design: 'T-CP', takenMinutes: 20 })),
    ]);
    const shares = new Map([
      [asId<never>('brushes'), 0.2],
      [asId<never>('pump'), 0.8],
    ]);
    const { lives } = demoCatalogue();
    const changes = learnedChanges(learned, () => shares, lives);
    expect(changes.map(({ key, cases }) => `${key}: ${cases}`).sort()).toEqual([
      'causes F-BB: 20',
      'causes T-CP: 9',
      'lives F-BB: 20',
      'minutes F-BB: 20',
      'minutes T-CP: 9',
      'models: 29',
      'rescues: 20',
      'steps: 20',
    ]);
    for (const change of changes)
      if (change.kind === 'causes') {
        expect(change.moved.reduce((sum, { after }) => sum + after, 0)).toBeCloseTo(1, 9);
        expect(change.moved.find(({ causeId }) => causeId === 'brushes')?.after).toBeGreaterThan(0.2);
      }
    for (const { key } of changes) {
      const left = learnedChanges(without(learned, [key]), () => shares, lives);
      expect(left).toEqual(changes.filter((change) => change.key !== key));
    }
    expect(without(learned, [])).toEqual(learned);
    expect(timeFactor(without(learned, ['minutes F-BB']), 'F-BB')).toBe(1);
    expect(causeFactor(without(learned, ['causes F-BB']), 'F-BB', asId('brushes'), 0.2)).toBe(1);
    expect(learnedChanges(nothingLearned(), () => shares, lives)).toEqual([]);
  });
});
