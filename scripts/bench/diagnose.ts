import { knowledgeFor } from '@/core/catalogue';
import {
  DEEP,
  nextAction,
  nextSteps,
  ONE_STEP,
  rankCauses,
  type Effort,
  type TroubleshootingProblem,
} from '@/core/diagnose';
import { normalise, seededRandom } from '@/core/units';
import { demoCatalogue, platform } from '../../tests/support/demo';
import { costOfPolicy, drawnProblem, optimalCost, withLiveChecks } from '../../tests/support/troubleshooting';
import { fastestMs, percent, quantileOf, table } from './report';

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

const SEED = Number(process.env['SEED'] ?? 31);

/** `live`: some checks need what is open shut. */
type Case = { faults: number; checks: number; seed: number; live?: boolean };

const problemOf = ({ faults, checks, seed, live }: Case): TroubleshootingProblem => {
  const drawn = drawnProblem(faults, checks, seed);
  return live ? withLiveChecks(drawn, seed) : drawn;
};

/** Policies by how far they look, against the exact optimum. */
function excessOver(cases: readonly Case[], efforts: readonly [string, Effort][]): string[][] {
  const found = efforts.map(([name]) => ({ name, excess: [] as number[], ms: [] as number[] }));
  for (const one of cases) {
    const problem = problemOf(one);
    const best = optimalCost(problem);
    for (const [index, [, effort]] of efforts.entries()) {
      const own = found[index];
      const cost = costOfPolicy(problem, (evidence) => {
        const from = performance.now();
        const { action } = nextAction(problem, evidence, effort);
        own?.ms.push(performance.now() - from);
        return action;
      });
      own?.excess.push(cost / best - 1);
    }
  }
  return found.map(({ name, excess, ms }) => [
    name,
    `${(excess.reduce((sum, one) => sum + one, 0) / excess.length / 0.01).toFixed(3)} %`,
    `${(quantileOf(excess, 0.95) / 0.01).toFixed(2)} %`,
    `${quantileOf(ms, 0.5).toFixed(2)} / ${quantileOf(ms, 0.95).toFixed(1)} ms`,
  ]);
}

/** What policies cost on average on drawn machines that are too large for the optimum; the fault and its answers are drawn once for all. */
function playedCost(effort: Effort, cases: readonly Case[]): number {
  const costs = cases.map(({ faults, checks, seed }) =>
    work(
      drawnProblem(faults, checks, seed),
      (problem, done, fixes) => {
        const { action } = nextAction(problem, { checks: done, fixes }, effort);
        return action.kind === 'escalate' ? { kind: 'escalate', id: -1 } : action;
      },
      seed,
    ),
  );
  return costs.reduce((sum, cost) => sum + cost, 0) / costs.length;
}

const HEAD = ['policy', 'mean excess', '95 %', 'a decision, median / 95 %'];
const TWO_STEPS: Effort = { steps: 2, leaves: Infinity };
const EFFORTS: readonly [string, Effort][] = [
  ['baseline: one step', ONE_STEP],
  ['two steps', TWO_STEPS],
  ['as shipped', DEEP],
];

function benchPolicies(): void {
  const small = Array.from({ length: 200 }, (_, index) => ({
    faults: 4 + (index % 4),
    checks: 3 + (index % 4),
    seed: SEED * 1000 + index,
  }));
  table(
    'Next check against the exact optimum: 200 cases, 4 to 7 faults, 3 to 6 checks',
    HEAD,
    excessOver(small, EFFORTS),
  );
  table(
    'The same with checks that need what is open shut',
    HEAD,
    excessOver(
      small.map((one) => ({ ...one, live: true })),
      EFFORTS,
    ),
  );
  const medium = Array.from({ length: Number(process.env['MEDIUM'] ?? 20) }, (_, index) => ({
    faults: 8 + (index % 2),
    checks: 8 + ((index >> 1) % 2),
    seed: SEED * 2000 + index,
  }));
  if (medium.length > 0)
    table(`The same: ${medium.length} cases, 8 to 9 faults and checks`, HEAD, excessOver(medium, EFFORTS));
  const large = Array.from({ length: 300 }, (_, index) => ({ faults: 14, checks: 12, seed: SEED * 3000 + index }));
  const played = EFFORTS.map(([name, effort]) => ({ name, cost: playedCost(effort, large) }));
  table(
    '300 machines of 14 faults and 12 checks, played',
    ['policy', 'mean cost', 'against one step'],
    played.map(({ name, cost }) => [name, cost.toFixed(2), percent(cost / (played[0]?.cost ?? cost) - 1)]),
  );
}

/** How long the first decision takes on problems of the size of a ticket; nothing is kept from one to the next. */
export function benchDecisions(): void {
  const sizes: readonly Omit<Case, 'seed'>[] = [
    { faults: 14, checks: 12 },
    { faults: 14, checks: 12, live: true },
    { faults: 40, checks: 80 },
    { faults: 40, checks: 80, live: true },
  ];
  table(
    'A first decision, as shipped',
    ['faults', 'checks', 'some live', 'median', '95 %'],
    sizes.map((size) => {
      // The first ones find the code cold, as the first ticket of the day does; they are not counted.
      const ms = Array.from({ length: 46 }, (_, index) => {
        const problem = problemOf({ ...size, seed: SEED * 4000 + index });
        const from = performance.now();
        nextAction(problem, { checks: [], fixes: [] });
        return performance.now() - from;
      }).slice(6);
      const shown = [0.5, 0.95].map((q) => `${quantileOf(ms, q).toFixed(1)} ms`);
      return [String(size.faults), String(size.checks), size.live ? 'yes' : 'no', ...shown];
    }),
  );
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
      ['look-ahead, as shipped', (ahead / 400).toFixed(2), percent(ahead / likeliest - 1)],
      ['baseline: swap the likeliest part', (likeliest / 400).toFixed(2), percent(0)],
    ],
  );
  benchPolicies();
}
