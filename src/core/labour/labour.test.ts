import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { knowledgeFor } from '../catalogue';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { operation } from '../../../tests/support/operations';
import { chooseWay, planWork, type PlannedOperation } from '.';

/** Access graphs without circles: an operation needs only earlier ones, in groups of alternatives. */
const graph = fc
  .array(
    fc.record({
      minutes: fc.integer({ min: 0, max: 20 }),
      needs: fc.array(fc.array(fc.nat(20), { minLength: 1, maxLength: 3 }), { maxLength: 2 }),
    }),
    { minLength: 1, maxLength: 9 },
  )
  .map((rows) =>
    rows.map(({ minutes, needs }, index) =>
      operation(
        `o${index}`,
        index === 0 ? [] : needs.map((group) => [...new Set(group.map((n) => `o${n % index}`))]),
        minutes,
      ),
    ),
  );

/** The cheapest set by trying every subset. */
function cheapestByForce(operations: readonly PlannedOperation[], goals: readonly string[]): number {
  let best = Infinity;
  for (let mask = 0; mask < 2 ** operations.length; mask += 1) {
    const chosen = new Set(operations.filter((_, index) => mask & (1 << index)).map((entry) => entry.id));
    if (!goals.every((goal) => chosen.has(goal))) continue;
    const closed = operations.every(
      (entry) => !chosen.has(entry.id) || entry.needs.every((group) => group.some((id) => chosen.has(id))),
    );
    if (!closed) continue;
    const minutes = operations
      .filter((entry) => chosen.has(entry.id))
      .reduce((sum, entry) => sum + entry.stripMinutes + entry.refitMinutes, 0);
    best = Math.min(best, minutes);
  }
  return best;
}

describe('the way in', () => {
  it('is the cheapest of all sets that reach the goals (against trying every one)', () => {
    fc.assert(
      fc.property(graph, fc.array(fc.nat(8), { minLength: 1, maxLength: 3 }), (operations, picks) => {
        const goals = [...new Set(picks.map((pick) => `o${pick % operations.length}`))];
        const way = chooseWay(operations, goals);
        const minutes = way?.order.reduce((sum, entry) => sum + entry.stripMinutes + entry.refitMinutes, 0);
        expect(minutes).toBe(cheapestByForce(operations, goals));
      }),
      { numRuns: 150 },
    );
  });

  it('puts what is needed first before what needs it', () => {
    fc.assert(
      fc.property(graph, (operations) => {
        const order = chooseWay(operations, [`o${operations.length - 1}`])?.order ?? [];
        const at = new Map(order.map((entry, index) => [entry.id, index]));
        for (const entry of order)
          for (const group of entry.needs)
            expect(group.some((id) => (at.get(id) ?? Infinity) < (at.get(entry.id) ?? -1))).toBe(true);
      }),
    );
  });

  it('costs for several jobs at most the sum, at least the longest', () => {
    fc.assert(
      fc.property(graph, fc.array(fc.nat(8), { minLength: 1, maxLength: 4 }), (operations, picks) => {
        const goals = [...new Set(picks.map((pick) => `o${pick % operations.length}`))];
        const plan = planWork(operations, goals);
        const single = goals.map((goal) => planWork(operations, [goal]).handsOnMinutes);
        expect(plan.handsOnMinutes).toBeLessThanOrEqual(plan.separateMinutes + 1e-9);
        expect(plan.handsOnMinutes).toBeGreaterThanOrEqual(Math.max(...single) - 1e-9);
        expect(plan.separateMinutes).toBeCloseTo(
          single.reduce((sum, minutes) => sum + minutes, 0),
          9,
        );
      }),
    );
  });

  it('gives back null for a goal that cannot be reached, and says which', () => {
    const operations = [operation('a', [['b']], 1), operation('b', [['a']], 1), operation('c', [], 1)];
    expect(chooseWay(operations, ['a'])).toBeNull();
    expect(chooseWay(operations, ['missing'])).toBeNull();
    const plan = planWork(operations, ['a', 'c']);
    expect(plan.unreachable).toEqual(['a']);
    expect(plan.handsOnMinutes).toBe(2);
  });

  it('asks no strip time for what is open already, but owes its refit', () => {
    const operations = [operation('lid', [], 5), operation('swap', [['lid']], 10, { kind: 'work', refitMinutes: 0 })];
    expect(planWork(operations, ['swap']).handsOnMinutes).toBe(20);
    expect(planWork(operations, ['swap'], { done: ['lid'] }).handsOnMinutes).toBe(15);
  });

  it('takes the longest wait, not the sum, and counts rescues with their chance', () => {
    const operations = [
      operation('a', [], 10, { elapsedHours: 24, rescueChance: 0.2, rescueMinutes: 30 }),
      operation('b', [], 10, { elapsedHours: 6, rescueChance: 0.05, rescueMinutes: 60 }),
    ];
    const plan = planWork(operations, ['a', 'b']);
    expect(plan.elapsedHours).toBe(24);
    expect(plan.expectedMinutes).toBeCloseTo(40 + 6 + 3, 9);
    // 76 % none, 19 % the first alone, 4 % the second alone, 1 % both: nine in ten need at most the first.
    expect(plan.ninetyPercentMinutes).toBeCloseTo(70, 9);
  });

  it('refits in the opposite order', () => {
    const operations = [operation('a', [], 1), operation('b', [['a']], 1), operation('c', [['b']], 1)];
    const plan = planWork(operations, ['c']);
    expect(plan.refit.map((step) => step.operationId)).toEqual(['c', 'b', 'a']);
  });
});

describe('the demo’s access graphs', () => {
  it('reach every cause of every platform', () => {
    for (const { id } of demoCatalogue().platforms) {
      const knowledge = knowledgeFor(demoCatalogue(), platform(id));
      for (const cause of knowledge.causes) {
        const plan = planWork(knowledge.operations, cause.operations);
        expect(plan.unreachable, `${id} ${cause.id}`).toEqual([]);
        expect(plan.provenShortest).toBe(true);
      }
    }
  });

  it('isolate the machine before anything else is opened', () => {
    const knowledge = knowledgeFor(demoCatalogue(), platform('fj-a1'));
    const plan = planWork(
      knowledge.operations,
      knowledge.causes.find((cause) => cause.id === 'drain-pump')?.operations ?? [],
    );
    expect(plan.strip[0]?.title).toMatch(/unplug/i);
  });
});
