import { describe, expect, it } from 'vitest';
import { asId, normalDraw, seededRandom, type PlatformId } from '../units';
import { learnFrom, nothingLearned, rescueChance, stepTime, timeFactor, type ClosedTicket } from '.';

const HERE = asId<PlatformId>('here');
const ELSEWHERE = asId<PlatformId>('elsewhere');
const LIST = { 'lid-off': 6, 'swap-pump': 14, 'belt-off': 4 };
const step = (operationId: string) => ({ operationId, phase: 'strip' as const });

/** A shop whose hands take these times the list, a step spread by a fifth: tickets as they would be closed, priced by what was learned until then. */
function loop(truth: Record<string, number>, tickets: number, platformId: PlatformId) {
  const random = seededRandom(5);
  const closed: ClosedTicket[] = [];
  for (let i = 0; i < tickets; i += 1) {
    const steps = Object.entries(LIST).map(([id, list]) => ({
      ...step(id),
      minutes: list * (truth[id] ?? 1) * Math.max(0.3, 1 + 0.2 * normalDraw(random)),
    }));
    closed.push({
      modelId: null,
      design: 'F-BB',
      causeId: null,
      takenMinutes: steps.reduce((sum, { minutes }) => sum + minutes, 0),
      // Against the list, whatever was planned with what was learned before.
      listMinutes: Object.values(LIST).reduce((sum, minutes) => sum + minutes, 0),
      rightFirstTime: null,
      platformId,
      steps,
    });
  }
  return learnFrom(closed);
}
const timeOf = (learned: ReturnType<typeof learnFrom>, id: keyof typeof LIST, platformId: PlatformId) =>
  stepTime(learned.steps, platformId, timeFactor(learned, 'F-BB'), step(id), LIST[id]);

describe('times that learn', () => {
  it('are the book’s where nothing was measured', () => {
    expect(timeOf(nothingLearned(), 'lid-off', HERE)).toEqual({ minutes: 6, sd: 1.5 });
  });

  it('come to the truth, step by step, with the loop closed; their spread too', () => {
    const truth = { 'lid-off': 2.2, 'swap-pump': 0.7, 'belt-off': 1 };
    const learned = loop(truth, 400, HERE);
    for (const id of ['lid-off', 'swap-pump', 'belt-off'] as const) {
      const { minutes, sd } = timeOf(learned, id, HERE);
      expect(minutes / (LIST[id] * truth[id])).toBeCloseTo(1, 1);
      expect(sd / (LIST[id] * truth[id])).toBeCloseTo(0.2, 1);
    }
  });

  it('go half way with as many measurements as the prior weighs, further on the platform itself than on another', () => {
    const learned = loop({ 'lid-off': 3 }, 4, HERE);
    const here = timeOf(learned, 'lid-off', HERE).minutes;
    const there = timeOf(learned, 'lid-off', ELSEWHERE).minutes;
    expect(here).toBeGreaterThan(there);
    expect(there).toBeGreaterThan(6);
    expect(here).toBeLessThan(18);
  });

  it('do not believe a clock that was forgotten', () => {
    expect(timeOf(loop({ 'lid-off': 60 }, 50, HERE), 'lid-off', HERE).minutes).toBe(24);
  });
});

describe('rescues that learn', () => {
  const closed = (rescued: number, tried: number): ClosedTicket => ({
    modelId: null,
    design: 'F-BB',
    causeId: null,
    takenMinutes: null,
    listMinutes: null,
    rightFirstTime: null,
    tried: Array.from({ length: tried }, (_, index) => ({ operationId: 'lid-off', rescued: index < rescued })),
  });

  it('have the list’s chance without any, come to the shop’s own with many, and never leave nought and one', () => {
    expect(rescueChance({}, 'lid-off', 0.1)).toBe(0.1);
    const few = rescueChance(learnFrom([closed(3, 4)]).rescues, 'lid-off', 0.1);
    expect(few).toBeGreaterThan(0.1);
    expect(few).toBeLessThan(0.3);
    expect(
      rescueChance(learnFrom(Array.from({ length: 500 }, () => closed(3, 10))).rescues, 'lid-off', 0.1),
    ).toBeCloseTo(0.3, 2);
    expect(rescueChance(learnFrom([closed(0, 9)]).rescues, 'other', 0.1)).toBe(0.1);
    expect(rescueChance(learnFrom([closed(5, 5)]).rescues, 'lid-off', 0)).toBe(0);
  });
});
