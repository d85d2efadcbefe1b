import { knowledgeFor } from '@/core/catalogue';
import { nextAction, nextSteps, rankCauses, type TroubleshootingProblem } from '@/core/diagnose';
import { normalise, seededRandom } from '@/core/units';
import { demoCatalogue, platform } from '../../tests/support/demo';
import { fastestMs, percent, table } from './report';

function makeProblem(seed: number): TroubleshootingProblem {
  const random = seededRandom(seed);
  const faults = 4 + (seed % 4);
  return {
    prior: normalise(Array.from({ length: faults }, () => 0.05 + random())),
    access: [{ cost: 10 + random() * 20 }, { cost: 10 + random() * 30 }],
    checks: Array.from({ length: 4 }, () => ({
      cost: 2 + random() * 15,
      access: random() < 0.5 ? [] : [random() < 0.5 ? 0 : 1],
      outcomes: Array.from({ length: faults }, () => {
        const yes = random() < 0.5 ? 0.05 + random() * 0.2 : 0.75 + random() * 0.2;
        return [yes, 1 - yes];
      }),
    })),
    fixes: Array.from({ length: faults }, (_, fix) => ({
      cost: 20 + random() * 120,
      access: random() < 0.4 ? [] : [random() < 0.5 ? 0 : 1],
      cure: Array.from({ length: faults }, (_, fault) => (fault === fix ? 0.85 + random() * 0.15 : 0)),
    })),
    escalate: 150 + random() * 200,
  };
}

type Choose = (
  problem: TroubleshootingProblem,
  checks: { check: number; outcome: number }[],
  fixes: number[],
  beliefs: number[],
) => { kind: 'check' | 'fix' | 'escalate'; id: number };

/** One machine with a drawn fault, worked by a policy to the end; what it cost. */
function work(problem: TroubleshootingProblem, choose: Choose, seed: number): number {
  const random = seededRandom(seed);
  let fault = 0;
  for (let left = random() - (problem.prior[0] ?? 0); left > 0; left -= problem.prior[fault] ?? 1) fault += 1;
  fault = Math.min(fault, problem.prior.length - 1);
  const open = new Set<number>();
  const checks: { check: number; outcome: number }[] = [];
  const fixes: number[] = [];
  let cost = 0;
  for (;;) {
    const { beliefs } = nextAction({ ...problem, checks: problem.checks }, { checks, fixes });
    const action = choose(problem, checks, fixes, beliefs);
    if (action.kind === 'escalate') return cost + problem.escalate;
    const spec = action.kind === 'check' ? problem.checks[action.id] : problem.fixes[action.id];
    for (const id of spec?.access ?? []) if (!open.has(id)) cost += problem.access[id]?.cost ?? 0;
    for (const id of spec?.access ?? []) open.add(id);
    cost += spec?.cost ?? 0;
    if (action.kind === 'check')
      checks.push({
        check: action.id,
        outcome: random() < (problem.checks[action.id]?.outcomes[fault]?.[0] ?? 0) ? 0 : 1,
      });
    else if (random() < (problem.fixes[action.id]?.cure[fault] ?? 0)) return cost;
    else fixes.push(action.id);
  }
}

const byLookAhead: Choose = (problem, checks, fixes) => {
  const { action } = nextAction(problem, { checks, fixes });
  return action.kind === 'escalate' ? { kind: 'escalate', id: -1 } : action;
};

/** The baseline: swap the likeliest part, and the next. */
const byLikeliest: Choose = (problem, _checks, fixes, beliefs) => {
  const left = beliefs
    .map((p, id) => ({ p, id }))
    .filter(({ id }) => !fixes.includes(id))
    .sort((a, b) => b.p - a.p);
  return left[0] ? { kind: 'fix', id: left[0].id } : { kind: 'escalate', id: -1 };
};

export function benchDiagnose(): void {
  const knowledge = knowledgeFor(demoCatalogue(), platform('fj-a1'));
  const evidence = {
    findings: [
      { findingId: 'stands-full', present: true },
      { findingId: 'hums', present: true },
    ],
    outcomes: [],
    failedFixes: [],
  };
  const costs = { perMinute: 0.9, parts: () => 40, escalate: 200, open: [] };
  table(
    'Causes of one machine',
    ['what', 'time'],
    [
      [
        `rank ${knowledge.causes.length} causes`,
        `${fastestMs(30, () => rankCauses(knowledge, evidence)).toFixed(2)} ms`,
      ],
      [
        `next step among ${knowledge.checks.length} checks and ${knowledge.causes.length} fixes`,
        `${fastestMs(8, () => nextSteps(knowledge, evidence, costs)).toFixed(1)} ms`,
      ],
    ],
  );
  let ahead = 0;
  let likeliest = 0;
  for (let seed = 1; seed <= 400; seed += 1) {
    const problem = makeProblem(seed);
    ahead += work(problem, byLookAhead, seed);
    likeliest += work(problem, byLikeliest, seed);
  }
  table(
    'Cost until mended, 400 drawn machines',
    ['policy', 'mean cost', 'against the baseline'],
    [
      ['one step of look-ahead', (ahead / 400).toFixed(2), percent(ahead / likeliest - 1)],
      ['baseline: swap the likeliest part', (likeliest / 400).toFixed(2), percent(0)],
    ],
  );
}
