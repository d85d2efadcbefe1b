import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { knowledgeFor } from '../catalogue';
import { normalise, seededRandom, type CauseId, asId } from '../units';
import {
  beliefsAfter,
  nextAction,
  nextSteps,
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

/** The exact optimum by walking the whole policy tree: only for small problems. */
function optimum(problem: TroubleshootingProblem): number {
  const memo = new Map<string, number>();
  const visit = (beliefs: number[], checked: number, fixed: number, open: number, key: string): number => {
    const known = memo.get(key);
    if (known !== undefined) return known;
    const access = (needs: readonly number[]) =>
      needs.reduce((sum, id) => (open & (1 << id) ? sum : sum + (problem.access[id]?.cost ?? 0)), 0);
    const opened = (needs: readonly number[]) => needs.reduce((mask, id) => mask | (1 << id), open);
    let best = problem.escalate;
    problem.fixes.forEach((fix, id) => {
      if (fixed & (1 << id)) return;
      const failed = beliefs.map((p, fault) => p * (1 - (fix.cure[fault] ?? 0)));
      const left = failed.reduce((sum, p) => sum + p, 0);
      const rest =
        left > 1e-12
          ? left * visit(normalise(failed), checked, fixed | (1 << id), opened(fix.access), `${key}f${id}`)
          : 0;
      best = Math.min(best, fix.cost + access(fix.access) + rest);
    });
    problem.checks.forEach((check, id) => {
      if (checked & (1 << id)) return;
      let cost = check.cost + access(check.access);
      for (let outcome = 0; outcome < 2; outcome += 1) {
        const joint = beliefs.map((p, fault) => p * (check.outcomes[fault]?.[outcome] ?? 0));
        const p = joint.reduce((sum, value) => sum + value, 0);
        if (p > 1e-12)
          cost +=
            p * visit(normalise(joint), checked | (1 << id), fixed, opened(check.access), `${key}c${id}o${outcome}`);
      }
      best = Math.min(best, cost);
    });
    memo.set(key, best);
    return best;
  };
  return visit(problem.prior, 0, 0, 0, '');
}

/** What the policy of nextAction really costs, walking every branch it can lead to. */
function policyCost(problem: TroubleshootingProblem): number {
  const walk = (
    checks: { check: number; outcome: number }[],
    fixes: number[],
    beliefs: number[],
    open: Set<number>,
  ): number => {
    const { action } = nextAction(problem, { checks, fixes });
    if (action.kind === 'escalate') return problem.escalate;
    const spec = action.kind === 'check' ? problem.checks[action.id] : problem.fixes[action.id];
    if (!spec) return Infinity;
    const entry = spec.access.reduce((sum, id) => (open.has(id) ? sum : sum + (problem.access[id]?.cost ?? 0)), 0);
    const opened = new Set([...open, ...spec.access]);
    let cost = spec.cost + entry;
    if (action.kind === 'fix') {
      const failed = beliefs.map((p, fault) => p * (1 - (problem.fixes[action.id]?.cure[fault] ?? 0)));
      const left = failed.reduce((sum, p) => sum + p, 0);
      return left > 1e-12 ? cost + left * walk(checks, [...fixes, action.id], normalise(failed), opened) : cost;
    }
    for (let outcome = 0; outcome < 2; outcome += 1) {
      const joint = beliefs.map((p, fault) => p * (problem.checks[action.id]?.outcomes[fault]?.[outcome] ?? 0));
      const p = joint.reduce((sum, value) => sum + value, 0);
      if (p > 1e-12) cost += p * walk([...checks, { check: action.id, outcome }], fixes, normalise(joint), opened);
    }
    return cost;
  };
  return walk([], [], problem.prior, new Set());
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

  it('costs little more than the exact optimum, and never less', () => {
    let tested = 0;
    let excess = 0;
    for (let seed = 1; seed <= 60; seed += 1) {
      const problem = makeProblem(2 + (seed % 3), seed % 4, seed * 7919);
      const best = optimum(problem);
      const cost = policyCost(problem);
      expect(cost, `seed ${seed}`).toBeGreaterThanOrEqual(best - 1e-9);
      excess += cost / best - 1;
      tested += 1;
    }
    expect(tested).toBe(60);
    // One step of look-ahead loses about one percent on average on such cases.
    expect(excess / tested).toBeLessThan(0.03);
  });

  it('promises a cost that its policy keeps, never dearer than giving up', () => {
    fc.assert(
      fc.property(problems, (problem) => {
        const { expectedCost } = nextAction(problem, { checks: [], fixes: [] });
        expect(policyCost(problem)).toBeLessThanOrEqual(expectedCost + 1e-6);
        expect(expectedCost).toBeLessThanOrEqual(problem.escalate + 1e-9);
      }),
      { numRuns: 60 },
    );
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
        const before = of({}, asId('drain-pump')) / of({}, asId('brushes'));
        const after =
          of({ findings: [{ findingId, present: true }] }, asId('drain-pump')) /
          of({ findings: [{ findingId, present: true }] }, asId('brushes'));
        const ratio =
          knowledge.findingLikelihood(asId('drain-pump'), findingId) /
          knowledge.findingLikelihood(asId('brushes'), findingId);
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

  it('need less access when the way in is open', () => {
    const shut = nextSteps(knowledge, evidence, costs).find((step) => step.id === 'pump-ohm');
    const open = nextSteps(knowledge, evidence, { ...costs, open: shut?.opens ?? [] }).find(
      (step) => step.id === 'pump-ohm',
    );
    expect(shut?.accessMinutes).toBeGreaterThan(0);
    expect(open?.accessMinutes).toBe(0);
  });
});
