import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { operation } from '../../../tests/support/operations';
import { refitNeedsOf } from '../bench';
import { knowledgeFor, waysToMend } from '../catalogue';
import { inWorkingOrder, jobsOnTheWay, planWork, refitOrder, stripOrder, type PlannedOperation } from '.';

/** An operation that needs all of these. */
const after = (id: string, needs: readonly string[], more: Partial<PlannedOperation> = {}) =>
  operation(
    id,
    needs.map((need) => [need]),
    1,
    more,
  );

/** Each operation needs some of those before it; some turn the machine; some ask for an order of putting back. */
const graphs = fc
  .array(
    fc.record({ needs: fc.array(fc.nat(11), { maxLength: 3 }), turns: fc.boolean(), after: fc.array(fc.nat(11)) }),
    {
      minLength: 1,
      maxLength: 12,
    },
  )
  .map((rows) => {
    const operations = rows.map(({ needs, turns }, index) =>
      after(
        `o${index}`,
        needs.filter((need) => need < index).map((need) => `o${need}`),
        turns ? { posture: 'back' } : {},
      ),
    );
    const asked = new Map(rows.map(({ after }, index) => [`o${index}`, after.map((other) => `o${other}`)]));
    return { operations, refitNeeds: (id: string) => asked.get(id) ?? [] };
  });

const placeOf = (order: readonly PlannedOperation[]) => new Map(order.map(({ id }, index) => [id, index]));

describe('the order of a strip-down and of putting back', () => {
  it('takes each once, needs before what needs them; and puts back what came off later first, and what is asked for before', () => {
    fc.assert(
      fc.property(graphs, ({ operations, refitNeeds }) => {
        const strip = stripOrder(operations);
        expect([...placeOf(strip).keys()].sort()).toEqual(operations.map(({ id }) => id).sort());
        const down = placeOf(strip);
        for (const { id, needs } of operations)
          for (const [need = ''] of needs) expect(down.get(need)).toBeLessThan(down.get(id) ?? -1);

        const { order, refused } = refitOrder(strip, refitNeeds);
        expect([...placeOf(order).keys()].sort()).toEqual([...down.keys()].sort());
        const back = placeOf(order);
        for (const { id, needs } of operations)
          for (const [need = ''] of needs) expect(back.get(id)).toBeLessThan(back.get(need) ?? -1);
        for (const { id } of operations)
          for (const after of refitNeeds(id)) {
            if (after === id || !back.has(after)) continue;
            const isRefused = refused.some((one) => one.operationId === id && one.after === after);
            if (!isRefused) expect(back.get(after)).toBeLessThan(back.get(id) ?? -1);
          }
      }),
    );
  });

  it('turns the machine as late as can be, and stands it up as soon as it may', () => {
    const operations = [
      after('isolate', []),
      after('lay-back', ['isolate'], { posture: 'back' }),
      after('belt-off', ['lay-back']),
      after('agitator-off', ['isolate']),
      after('gearbox-out', ['belt-off', 'agitator-off']),
    ];
    const strip = stripOrder(operations);
    expect(strip.map(({ id }) => id)).toEqual(['isolate', 'agitator-off', 'lay-back', 'belt-off', 'gearbox-out']);
    expect(refitOrder(strip, () => []).order.map(({ id }) => id)).toEqual([
      'gearbox-out',
      'belt-off',
      'lay-back',
      'agitator-off',
      'isolate',
    ]);
  });

  it('is no mirror where an operation asks for another first', () => {
    const operations = [after('lid', []), after('back', []), after('belt', ['back'])];
    const strip = stripOrder(operations);
    const order = (needs: (id: string) => readonly string[]) => refitOrder(strip, needs).order.map(({ id }) => id);
    expect(order(() => [])).toEqual([...strip].reverse().map(({ id }) => id));
    expect(order((id) => (id === 'belt' ? ['lid'] : []))).toEqual(['lid', 'belt', 'back']);
  });

  it('contradicts itself on no job of the demo', () => {
    const catalogue = demoCatalogue();
    for (const platform of catalogue.platforms) {
      const knowledge = knowledgeFor(catalogue, platform);
      for (const cause of knowledge.causes.flatMap((own) => waysToMend(knowledge, own).map((way) => way.cause))) {
        const plan = inWorkingOrder(planWork(knowledge.operations, cause.operations), refitNeedsOf(knowledge.handling));
        expect(plan.refusedOrders, `${platform.id} ${cause.id}`).toEqual([]);
      }
    }
  });
});

describe('the way that jobs share', () => {
  it('counts for each operation the jobs that cannot be reached without it: drawn graphs, against taking it out', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.nat(7), { maxLength: 2 }), { minLength: 2, maxLength: 8 }),
        fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }),
        (needs, isJob) => {
          const operations = needs.map((own, index) =>
            after(
              `o${index}`,
              own.filter((need) => need < index).map((need) => `o${need}`),
              { kind: isJob[index] ? 'work' : 'access' },
            ),
          );
          const counted = jobsOnTheWay(operations);
          for (const { id: without } of operations) {
            // A job is reachable when all that it needs is; in the order in which they are drawn each comes after its needs.
            const reached = new Set<string>();
            for (const one of operations)
              if (one.id !== without && one.needs.flat().every((need) => reached.has(need))) reached.add(one.id);
            const lost = operations.filter(({ id, kind }) => kind === 'work' && !reached.has(id)).length;
            expect(counted.get(without)).toBe(lost);
          }
        },
      ),
    );
  });
});
