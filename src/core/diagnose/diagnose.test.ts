import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { costOfPolicy, drawnProblem, optimalCost, withLiveChecks } from '../../../tests/support/troubleshooting';
import { knowledgeFor } from '../catalogue';
import { normalise, seededRandom, type CauseId, asId } from '../units';
import {
  beliefsAfter,
  nextAction,
  nextSteps,
  ONE_STEP,
  openAfter,
  priorsOf,
  rankActions,
  rankCauses,
  type Evidence,
  type TroubleshootingProblem,
} from '.';

const problems = fc
  .record({ faults: fc.integer({ min: 2, max: 5 }), checks: fc.integer({ min: 0, max: 3 }), seed: fc.nat() })
  .map(({ faults, checks, seed }) => makeProblem(faults, checks, seed));

function makeProblem(faults: number, checks: number, seed: number): TroubleshootingProblem {
  const random = seededRandom(seed);
  return {
    prior: normalise(Array.from({ length: faults }, () => 0.05 + random())),
    access: [{ cost: 5 + random() * 20 }, { cost: 5 + random() * 30 }],
    checks: Array.from({ length: checks }, () => ({
      cost: 1 + random() * 15,
      access: random() < 0.5 ? [] : [random() < 0.5 ? 0 : 1],
      outcomes: Array.from({ length: faults }, () => {
        const yes = random() < 0.5 ? 0.05 + random() * 0.2 : 0.75 + random() * 0.2;
        return [yes, 1 - yes];
      }),
    })),
    fixes: Array.from({ length: faults }, (_, fix) => ({
      cost: 20 + random() * 100,
      access: random() < 0.4 ? [] : [random() < 0.5 ? 0 : 1],
      cure: Array.from({ length: faults }, (_, fault) => (fault === fix ? 0.8 + random() * 0.2 : 0)),
    })),
    escalate: 100 + random() * 150,
  };
}

describe('the plain troubleshooting problem', () => {
  it('keeps exact beliefs: prior × outcomes × (1 − cure), whatever the order of the evidence', () => {
    fc.assert(
      fc.property(problems, fc.nat(1), (problem, outcome) => {
        const checks = problem.checks.map((_, check) => ({ check, outcome }));
        const { beliefs } = beliefsAfter(problem, { checks, fixes: [0] });
        const by = problem.prior.map((p, fault) =>
          checks.reduce(
            (mass, { check }) => mass * (problem.checks[check]?.outcomes[fault]?.[outcome] ?? 0),
            p * (1 - (problem.fixes[0]?.cure[fault] ?? 0)),
          ),
        );
        expect(beliefs).toEqual(normalise(by).map((p) => expect.closeTo(p, 10)));
        const backwards = beliefsAfter(problem, { checks: [...checks].reverse(), fixes: [0] }).beliefs;
        backwards.forEach((p, fault) => expect(p).toBeCloseTo(beliefs[fault] ?? NaN, 10));
        expect(beliefs.reduce((sum, p) => sum + p, 0)).toBeCloseTo(1, 9);
      }),
    );
  });

  it('costs hardly more than the exact optimum, and never less, also with checks that need what is open shut', () => {
    const excess: number[] = [];
    for (let seed = 1; seed <= 36; seed += 1) {
      const [faults, checks] = [4 + (seed % 3), 3 + (seed % 3)];
      const drawn =
        seed % 2 === 0 ? makeProblem(faults, checks, seed * 7919) : drawnProblem(faults, checks, seed * 7919);
      const problem = seed % 3 === 0 ? drawn : withLiveChecks(drawn, seed);
      const best = optimalCost(problem);
      const cost = costOfPolicy(problem, (evidence) => nextAction(problem, evidence).action);
      expect(cost, `seed ${seed}`).toBeGreaterThanOrEqual(best - 1e-9);
      excess.push(cost / best - 1);
    }
    excess.sort((x, y) => x - y);
    expect(excess.reduce((total, one) => total + one, 0) / excess.length).toBeLessThan(0.001);
    expect(excess[Math.floor(0.95 * excess.length)]).toBeLessThan(0.005);
  });

  it('promises a cost that its policy keeps, never dearer than giving up, nor than looking less far ahead', () => {
    fc.assert(
      fc.property(problems, (problem) => {
        const none = { checks: [], fixes: [] };
        const { expectedCost } = nextAction(problem, none);
        const kept = costOfPolicy(problem, (evidence) => nextAction(problem, evidence).action);
        expect(kept).toBeLessThanOrEqual(expectedCost + 1e-6);
        expect(expectedCost).toBeLessThanOrEqual(problem.escalate + 1e-9);
        expect(expectedCost).toBeLessThanOrEqual(nextAction(problem, none, ONE_STEP).expectedCost + 1e-9);
      }),
      { numRuns: 40 },
    );
  });

  it('stays legal and ends in time where there are many causes and checks', () => {
    for (let seed = 1; seed <= 4; seed += 1) {
      const problem = drawnProblem(14 + 8 * seed, 20 * seed, seed);
      const checks: { check: number; outcome: number }[] = [];
      const fixes: number[] = [];
      for (let step = 0; step < 6; step += 1) {
        const { action, beliefs } = nextAction(problem, { checks, fixes });
        expect(beliefs.reduce((total, p) => total + p, 0)).toBeCloseTo(1, 6);
        if (action.kind === 'escalate') break;
        if (action.kind === 'check') {
          expect(checks.some(({ check }) => check === action.id)).toBe(false);
          checks.push({ check: action.id, outcome: step % 2 });
        } else {
          expect(fixes).not.toContain(action.id);
          fixes.push(action.id);
        }
      }
    }
  });

  it('does not propose what was done, and always may give up', () => {
    fc.assert(
      fc.property(problems, (problem) => {
        const evidence = { checks: problem.checks.map((_, check) => ({ check, outcome: 0 })), fixes: [0] };
        const { ranked } = rankActions(problem, evidence);
        expect(ranked.some(({ action }) => action.kind === 'check')).toBe(false);
        expect(ranked.some(({ action }) => action.kind === 'fix' && action.id === 0)).toBe(false);
        expect(ranked.some(({ action }) => action.kind === 'escalate')).toBe(true);
      }),
    );
  });

  it('pays a shared way in once: an open way makes what lies behind it cheaper', () => {
    const problem: TroubleshootingProblem = {
      prior: [0.5, 0.5],
      access: [{ cost: 50 }],
      checks: [
        {
          cost: 1,
          access: [0],
          outcomes: [
            [0.5, 0.5],
            [0.5, 0.5],
          ],
        },
      ],
      fixes: [
        { cost: 20, access: [0], cure: [1, 0] },
        { cost: 30, access: [], cure: [0, 1] },
      ],
      escalate: 500,
    };
    expect(nextAction(problem, { checks: [], fixes: [] }).action).toEqual({ kind: 'fix', id: 1 });
    expect(nextAction(problem, { checks: [{ check: 0, outcome: 0 }], fixes: [] }).action).toEqual({
      kind: 'fix',
      id: 0,
    });
  });

  it('pays a way in again after a check that needs it shut, so that such checks come before or after all that lies behind it', () => {
    const outcomes = [
      [0.9, 0.1],
      [0.1, 0.9],
    ];
    const problem: TroubleshootingProblem = {
      prior: [0.5, 0.5],
      access: [{ cost: 30 }],
      checks: [
        { cost: 1, access: [0], outcomes },
        { cost: 1, access: [], outcomes, closes: [0] },
      ],
      fixes: [
        { cost: 100, access: [0], cure: [1, 0] },
        { cost: 100, access: [0], cure: [0, 1] },
      ],
      escalate: 900,
    };
    const afterOpening = { checks: [{ check: 0, outcome: 0 }], fixes: [] };
    const runFirst = { checks: [{ check: 1, outcome: 0 }], fixes: [] };
    const both = { checks: [...afterOpening.checks, ...runFirst.checks], fixes: [] };
    expect(openAfter(problem, both)).toEqual([]);
    expect(openAfter(problem, { checks: [...runFirst.checks, ...afterOpening.checks], fixes: [] })).toEqual([0]);
    // Mending now costs the way in once more than it would have with the run before it.
    expect(
      nextAction(problem, both).expectedCost - nextAction(problem, { ...both, open: [0] }).expectedCost,
    ).toBeCloseTo(30);
  });

  it('falls back to the prior when the evidence is impossible, and says so', () => {
    const problem: TroubleshootingProblem = {
      prior: [0.7, 0.3],
      access: [],
      checks: [
        {
          cost: 1,
          access: [],
          outcomes: [
            [1, 0],
            [1, 0],
          ],
        },
      ],
      fixes: [{ cost: 1, access: [], cure: [1, 1] }],
      escalate: 9,
    };
    expect(beliefsAfter(problem, { checks: [{ check: 0, outcome: 1 }], fixes: [] })).toEqual({
      beliefs: [0.7, 0.3],
      contradictory: true,
    });
  });
});

describe('causes of a machine', () => {
  const knowledge = knowledgeFor(demoCatalogue(), platform('fj-a1'));
  const findings = fc.uniqueArray(
    fc.record({ findingId: fc.constantFrom(...knowledge.findings.map((entry) => entry.id)), present: fc.boolean() }),
    { maxLength: 5, selector: (entry) => entry.findingId },
  );
  const none: Evidence = { findings: [], outcomes: [], failedFixes: [] };
  const of = (evidence: Partial<Evidence>, causeId: CauseId) =>
    rankCauses(knowledge, { ...none, ...evidence }).causes.find((entry) => entry.causeId === causeId)?.probability ??
    NaN;

  it('sum to one with none of these, whatever was found', () => {
    fc.assert(
      fc.property(findings, (found) => {
        const { causes } = rankCauses(knowledge, { ...none, findings: found });
        expect(causes.reduce((sum, entry) => sum + entry.probability, 0)).toBeCloseTo(1, 9);
        expect(causes.filter((entry) => entry.cause === null)).toHaveLength(1);
        for (let index = 1; index < causes.length; index += 1)
          expect(causes[index]?.probability).toBeLessThanOrEqual(causes[index - 1]?.probability ?? 0);
      }),
    );
    expect(priorsOf(knowledge).reduce((sum, p) => sum + p, 0)).toBeCloseTo(1, 9);
  });

  it('follow Bayes: odds move by the ratio of the likelihoods', () => {
    fc.assert(
      fc.property(fc.constantFrom(...knowledge.findings.map((entry) => entry.id)), (findingId) => {
        // Two causes that bring nothing else.
        const before = of({}, asId('drain-pump')) / of({}, asId('supply'));
        const after =
          of({ findings: [{ findingId, present: true }] }, asId('drain-pump')) /
          of({ findings: [{ findingId, present: true }] }, asId('supply'));
        const ratio =
          knowledge.findingLikelihood(asId('drain-pump'), findingId) /
          knowledge.findingLikelihood(asId('supply'), findingId);
        expect(after / before).toBeCloseTo(ratio, 6);
      }),
    );
  });

  it('become less likely when their fix did not help, none of these more', () => {
    const findings = [{ findingId: 'stands-full', present: true }];
    expect(of({ findings, failedFixes: ['filter-blocked'] }, asId('filter-blocked'))).toBeLessThan(
      of({ findings }, asId('filter-blocked')) / 5,
    );
    expect(of({ findings, failedFixes: ['filter-blocked'] }, asId('other'))).toBeGreaterThan(
      of({ findings }, asId('other')),
    );
  });

  it('with no part needed are among them', () => {
    const { causes } = rankCauses(knowledge, { ...none, findings: [{ findingId: 'stands-full', present: true }] });
    expect(causes.slice(0, 3).some((entry) => entry.cause !== null && entry.cause.roleId === undefined)).toBe(true);
  });
});

describe('next steps', () => {
  const knowledge = knowledgeFor(demoCatalogue(), platform('fj-a1'));
  const costs = { perMinute: 0.9, parts: () => 40, escalate: 200, open: [] };
  const evidence: Evidence = {
    findings: [
      { findingId: 'stands-full', present: true },
      { findingId: 'hums', present: true },
    ],
    outcomes: [],
    failedFixes: [],
  };

  it('come cheapest first, each check with what its answers would mean', () => {
    const steps = nextSteps(knowledge, evidence, costs);
    expect(steps.length).toBeGreaterThan(10);
    for (let index = 1; index < steps.length; index += 1)
      expect(steps[index]?.expectedCost).toBeGreaterThanOrEqual(steps[index - 1]?.expectedCost ?? 0);
    for (const step of steps.filter((entry) => entry.kind === 'check')) {
      expect(step.outcomes.reduce((sum, outcome) => sum + outcome.probability, 0)).toBeCloseTo(1, 6);
      expect(step.check?.why).toBeTruthy();
    }
  });

  it('agree with the plain solver on the first of them', () => {
    const first = nextSteps(knowledge, evidence, costs)[0];
    expect(first?.expectedCost).toBeLessThanOrEqual(first?.withoutChecks ?? 0);
  });

  it('say what goes back first for a live check, and that it is opened anew afterwards', () => {
    const out = {
      checkId: 'brush-length',
      outcomeId: knowledge.checks.find(({ id }) => id === 'brush-length')?.outcomes[0]?.id ?? '',
    };
    const after = (checks: Evidence['outcomes']) => nextSteps(knowledge, { ...evidence, outcomes: checks }, costs);
    const listen = after([out]).find((step) => step.id === 'listen-spin');
    expect(listen?.closes).toEqual(expect.arrayContaining(['isolate', 'motor-out', 'belt-off']));
    expect(after([]).find((step) => step.id === 'listen-spin')?.closes).toEqual([]);
    const heard = { checkId: 'listen-spin', outcomeId: listen?.outcomes[0]?.outcomeId ?? '' };
    const look = after([out, heard]).find((step) => step.id === 'look-belt');
    expect(look?.opens).toEqual(['isolate']);
    expect(after([heard, out]).find((step) => step.id === 'look-belt')?.opens).toEqual([]);
  });

  it('need less access when the way in is open', () => {
    const shut = nextSteps(knowledge, evidence, costs).find((step) => step.id === 'pump-ohm');
    const open = nextSteps(knowledge, evidence, { ...costs, open: shut?.opens ?? [] }).find(
      (step) => step.id === 'pump-ohm',
    );
    expect(shut?.accessMinutes).toBeGreaterThan(0);
    expect(open?.accessMinutes).toBe(0);
  });
});
