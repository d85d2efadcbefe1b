import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { knowledgeFor } from '../catalogue';
import { barredChecks, nextSteps, ONE_STEP, type Evidence } from '.';

const catalogue = demoCatalogue();
const platforms = catalogue.platforms.map((platform) => knowledgeFor(catalogue, platform));
const costs = { perMinute: 0.9, parts: () => 40, escalate: 220, open: [] as string[] };

/** A machine as it may stand: some findings, some outcomes, some things taken off. */
const stood = fc
  .record({ which: fc.nat(platforms.length - 1), draws: fc.array(fc.nat(1_000_000), { minLength: 12, maxLength: 12 }) })
  .map(({ which, draws }) => {
    const knowledge = platforms[which % platforms.length] ?? knowledgeFor(catalogue, catalogue.platforms[0]!);
    const at = <T>(list: readonly T[], draw: number): T | undefined => list[draw % Math.max(1, list.length)];
    const findings = draws.slice(0, 4).flatMap((draw) => {
      // Bars are rare among findings: half of the draws take one of them.
      const bars = knowledge.liveBars.flatMap(({ findingId }) => findingId ?? []);
      const findingId = draw % 2 === 0 ? at(bars, draw >> 1) : at(knowledge.findings, draw >> 1)?.id;
      return findingId === undefined ? [] : [{ findingId, present: draw % 3 !== 0 }];
    });
    const outcomes = draws.slice(4, 8).flatMap((draw) => {
      const check = at(knowledge.checks, draw);
      const outcome = check && at(check.outcomes, draw >> 5);
      return check && outcome ? [{ checkId: check.id, outcomeId: outcome.id }] : [];
    });
    const open = draws.slice(8).flatMap((draw) => at(knowledge.operations, draw)?.id ?? []);
    const evidence: Evidence = { findings, outcomes, failedFixes: [] };
    return { knowledge, evidence, open };
  });

describe('what must not be done', () => {
  it('is never proposed, however the machine stands', () => {
    let barred = 0;
    fc.assert(
      fc.property(stood, ({ knowledge, evidence, open }) => {
        const not = new Set(barredChecks(knowledge, evidence, open).map(({ checkId }) => checkId));
        const steps = nextSteps(knowledge, evidence, { ...costs, open }, undefined, ONE_STEP);
        for (const step of steps) if (step.kind === 'check') expect(not.has(step.id), step.id).toBe(false);
        barred += not.size > 0 ? 1 : 0;
      }),
      { numRuns: 120 },
    );
    expect(barred).toBeGreaterThan(40);
  });

  it.each(catalogue.platforms.map((platform, index) => [platform.name, index] as const))(
    '%s: no live run while it trips, until the insulation is found good; none at all while it smells burnt',
    (_, index) => {
      const knowledge = platforms[index];
      if (!knowledge) throw new Error('no such platform');
      const live = knowledge.checks.filter(({ state }) => state === 'energised').map(({ id }) => id);
      expect(live.length).toBeGreaterThan(0);
      const barred = (findingId: string, outcomes: Evidence['outcomes'] = []) =>
        barredChecks(knowledge, { findings: [{ findingId, present: true }], outcomes }, []).map(
          ({ checkId }) => checkId,
        );
      const good = [{ checkId: 'supply-test', outcomeId: 'sound' }];
      expect(barred('trips')).toEqual(live);
      expect(barred('trips', good)).toEqual([]);
      expect(barred('trips', [{ checkId: 'supply-test', outcomeId: 'leaks' }])).toEqual(live);
      expect(barred('burning-smell', good)).toEqual(live);
      expect(barred('wet-electrics')).toEqual(live);
      // Where it smells burnt as well, no check is said to allow a run.
      const both = ['trips', 'burning-smell'].map((findingId) => ({ findingId, present: true }));
      for (const bar of barredChecks(knowledge, { findings: both, outcomes: [] }, []))
        expect(bar).toMatchObject({ kind: 'live', liftedBy: null });
      // What is said not to be so bars nothing.
      expect(barredChecks(knowledge, { findings: [{ findingId: 'trips', present: false }], outcomes: [] }, [])).toEqual(
        [],
      );
    },
  );

  it('names what is off that a live run needs in its place', () => {
    const direct = platforms.find((knowledge) => knowledge.checks.some(({ id }) => id === 'sensor-signal'));
    if (!direct) throw new Error('no direct drive in the demo');
    const found = barredChecks(direct, { findings: [], outcomes: [] }, ['back-off', 'rotor-off']);
    expect(found.find(({ checkId }) => checkId === 'sensor-signal')).toEqual({
      checkId: 'sensor-signal',
      kind: 'taken-off',
      operationIds: ['rotor-off'],
    });
    expect(found.some(({ checkId }) => checkId === 'phases')).toBe(false);
  });
});
