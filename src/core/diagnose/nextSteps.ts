import { broughtTo, OTHER_CAUSE, waysToMend, type Cause, type Check, type Knowledge } from '../catalogue';
import { chooseWay } from '../labour';
import { keyBy, sum, unique, type CauseId } from '../units';
import { DEEP, type Effort } from './lookAhead';
import { barredChecks } from './liveBars';
import { beliefsAfter, openAfter, rankActions } from './nextAction';
import type { TroubleshootingProblem } from './problem';
import { faultStatesOf, leftIn, outcomesGiven, type Evidence, type FaultState } from './faultStates';
import { stateBeliefs, type PriorFactors } from './rankCauses';

export type StepCosts = {
  /** Money per minute of a technician, major units. */
  perMinute: number;
  /** Parts for the fix of a cause, major units, incl. companions. `fixId`: another way than its own. */
  parts: (causeId: CauseId, fixId?: string | null) => number;
  /** What waiting for those parts costs the customer, major units; nothing where it is not said. */
  wait?: (causeId: CauseId, fixId?: string | null) => number;
  /** Whether the shop mends it so; all ways where it is not said. */
  does?: (causeId: CauseId, fixId: string | null) => boolean;
  /** What it costs when none of this mends it. */
  escalate: number;
  /** Operations open already. */
  open: readonly string[];
  priors?: PriorFactors;
};

/** What is to be done: `id` is that of the check or of the cause; empty for escalate. */
type StepTarget = { kind: 'check' | 'escalate'; id: string } | { kind: 'fix'; id: CauseId };

export type NextStep = StepTarget & {
  /** Expected total cost when this is done first, and of the best course that does without checks; major units. */
  expectedCost: number;
  withoutChecks: number;
  /** Minutes of the action itself and of what must come off first (and go back). */
  minutes: number;
  accessMinutes: number;
  opens: string[];
  /** What is open and must be back in its place for it: for live checks. What opened it has paid for that. */
  closes: string[];
  check?: Check;
  /** What the answers would mean: for checks. */
  outcomes: { outcomeId: string; probability: number; leadsTo: CauseId; leadProbability: number }[];
  /** P(this fix mends it now): for fixes. */
  cures: number;
  /** A cause that is mended in the same go: for fixes. */
  also: CauseId | null;
  /** How it is mended, where that is not the cause's own way: for fixes. */
  fixId: string | null;
};

/** Dearer than any escalation. */
const UNREACHABLE = 1e9;

/** What can be done to one machine, whatever is known of its fault: every known check, one fix per cause, and the ways in. No evidence in it. */
export type Doable = Pick<TroubleshootingProblem, 'access' | 'checks' | 'fixes'> & {
  accessIds: readonly string[];
  /** Of each fix, whatever an hour costs. */
  workMinutes: readonly number[];
  /** Of each fix the causes that it mends: first one for each cause, in their order, then one for each cause together with what it brings, then the other ways of mending one. */
  mends: readonly (readonly CauseId[])[];
  /** Of each fix the way of mending, null for the own ways of its causes; and P(it mends) where the last of its causes is all that is wrong. */
  fixIds: readonly (string | null)[];
  cures: readonly number[];
};

export function doableOn(
  knowledge: Knowledge,
  costs: Pick<StepCosts, 'perMinute' | 'parts' | 'wait' | 'does' | 'open'>,
): Doable {
  const states = faultStatesOf(knowledge);
  const done = new Set(costs.open);
  /** null where the platform has no way to it: such a check or fix is never proposed. */
  const closure = (goals: readonly (string | readonly string[])[]) =>
    chooseWay(knowledge.operations, goals, done)?.order ?? null;
  const accessIds = knowledge.operations.map((operation) => operation.id);
  const position = new Map(accessIds.map((id, index) => [id, index]));
  const positions = (ids: readonly string[]) => ids.map((id) => position.get(id) ?? -1).filter((index) => index >= 0);
  const does = costs.does ?? (() => true);
  const jobs: readonly { causes: readonly Cause[]; fixId: string | null }[] = [
    ...knowledge.causes.map((cause) => ({ causes: [cause], fixId: null })),
    ...states.flatMap(({ cause, brought }) => (cause && brought ? [{ causes: [cause, brought], fixId: null }] : [])),
    ...knowledge.causes.flatMap((own) =>
      waysToMend(knowledge, own).flatMap(({ cause, fixId }) => (fixId === null ? [] : [{ causes: [cause], fixId }])),
    ),
  ];
  const workMinutes: number[] = [];
  const fixes = jobs.map(({ causes: job, fixId }) => {
    const isDone = job.every(({ id }) => does(id, fixId));
    const way = closure(job.flatMap(({ operations }) => operations)) ?? [];
    const minutes = sum(
      way
        .filter((operation) => operation.kind === 'work')
        .map((operation) => operation.stripMinutes + operation.refitMinutes),
    );
    workMinutes.push(minutes);
    return {
      cost:
        (way.length && isDone ? 0 : UNREACHABLE) +
        sum(job.map(({ id }) => costs.parts(id, fixId))) +
        // Parts of one job come together.
        Math.max(0, ...job.map(({ id }) => costs.wait?.(id, fixId) ?? 0)) +
        minutes * costs.perMinute,
      access: positions(way.filter((operation) => operation.kind === 'access').map((operation) => operation.id)),
      cure: states.map((state) => curedBy(state, job)),
    };
  });
  return {
    access: knowledge.operations.map(({ stripMinutes, refitMinutes }) => ({
      cost: (stripMinutes + refitMinutes) * costs.perMinute,
    })),
    checks: knowledge.checks.map((check) => {
      const way = closure(check.operations);
      return {
        cost: way ? check.minutes * costs.perMinute : UNREACHABLE,
        access: positions((way ?? []).map((operation) => operation.id)),
        outcomes: states.map((state) => outcomesGiven(knowledge, state, check)),
        closes: positions(mustBeBack(knowledge, check)),
      };
    }),
    // Keep positions equal to those of the knowledge: what cannot be reached stays in the list at a price nobody pays.
    fixes,
    accessIds,
    workMinutes,
    mends: jobs.map(({ causes }) => causes.map(({ id }) => id)),
    fixIds: jobs.map(({ fixId }) => fixId),
    cures: jobs.map(({ causes }) => causes.at(-1)?.cure ?? 0),
  };
}

/** What a check needs in its place: a live one the plug, the tap and the machine on its feet, and whatever it says itself. */
export function mustBeBack({ operations }: Pick<Knowledge, 'operations'>, check: Check): string[] {
  if (check.state !== 'energised') return check.mustBeOn;
  const notForRunning = operations.filter((operation) => broughtTo(operation).length > 0).map(({ id }) => id);
  return unique([...notForRunning, ...check.mustBeOn]);
}

/** P(mended | state) by a job that mends these causes: it must mend all that is wrong. */
function curedBy({ cause, brought }: FaultState, job: readonly Cause[]): number {
  if (!cause) return 0;
  const present = brought ? [cause, brought] : [cause];
  return present.reduce((product, { id }) => product * (job.find((mended) => mended.id === id)?.cure ?? 0), 1);
}

/** The troubleshooting problem of one machine: every cause a fault, 'other' last. */
export const buildProblem = (
  knowledge: Knowledge,
  evidence: Evidence,
  costs: StepCosts,
  doable: Doable = doableOn(knowledge, costs),
): TroubleshootingProblem => ({
  // Findings and failed fixes go into the prior; check outcomes stay as evidence, so that a check done is not proposed again.
  prior: stateBeliefs(knowledge, { ...evidence, outcomes: [] }, costs.priors).beliefs,
  access: doable.access,
  checks: allowed(knowledge, evidence, costs, doable.checks),
  fixes: afterFailed(knowledge, evidence, doable),
  escalate: costs.escalate,
});

/** With one of two causes mended already, mending the other is all that is left. */
function afterFailed(
  knowledge: Knowledge,
  { failedFixes, failedWays = [] }: Evidence,
  { fixes, mends, cures, fixIds }: Doable,
): Doable['fixes'] {
  if (failedFixes.length + failedWays.length === 0) return fixes;
  const states = faultStatesOf(knowledge);
  return fixes.map((fix, index) => {
    // It is not proposed again, so no plan may count on trying it again: else nothing would ever be given up.
    const fixId = fixIds[index] ?? null;
    const isTried = fixId === null ? mends[index]?.some((id) => failedFixes.includes(id)) : failedWays.includes(fixId);
    if (isTried) return { ...fix, cost: UNREACHABLE };
    const [first, second] = mends[index] ?? [];
    if (second !== undefined) return fix;
    const cure = fix.cure.map((p, place) => {
      const { cause, brought } = states[place] ?? {};
      if (!cause || !brought) return p;
      const other = cause.id === first ? brought : brought.id === first ? cause : null;
      return other && failedFixes.includes(other.id) ? (cures[index] ?? 0) : p;
    });
    return { ...fix, cure };
  });
}

/** What must not be done is never proposed: it stays in the list at a price nobody pays. */
function allowed(
  knowledge: Knowledge,
  evidence: Evidence,
  { open }: StepCosts,
  checks: Doable['checks'],
): Doable['checks'] {
  const barred = new Set(barredChecks(knowledge, evidence, open).map(({ checkId }) => checkId));
  if (barred.size === 0) return checks;
  return checks.map((check, index) =>
    barred.has(knowledge.checks[index]?.id ?? '') ? { ...check, cost: UNREACHABLE } : check,
  );
}

/**
 * What to do next and may be done, cheapest expected total first, with the figures that explain it: checks (what each answer would mean), fixes (chance), escalation.
 * `effort`: how far it looks ahead. `doable`: what `doableOn` gives for the same knowledge and costs, where it is known already.
 */
export function nextSteps(
  knowledge: Knowledge,
  evidence: Evidence,
  costs: StepCosts,
  doable: Doable = doableOn(knowledge, costs),
  effort: Effort = DEEP,
): NextStep[] {
  const problem = buildProblem(knowledge, evidence, costs, doable);
  const { accessIds, workMinutes, mends, fixIds } = doable;
  const states = faultStatesOf(knowledge);
  const done = evidence.outcomes.flatMap(({ checkId, outcomeId }) => {
    const check = knowledge.checks.findIndex((candidate) => candidate.id === checkId);
    const outcome = knowledge.checks[check]?.outcomes.findIndex((candidate) => candidate.id === outcomeId) ?? -1;
    return check >= 0 && outcome >= 0 ? [{ check, outcome }] : [];
  });
  const position = new Map(accessIds.map((id, index) => [id, index]));
  const leftOpen = openAfter(problem, { checks: done, fixes: [] });
  const past = {
    checks: done,
    fixes: [],
    open: unique([...leftOpen, ...costs.open.flatMap((id) => position.get(id) ?? [])]),
  };
  const { ranked, beliefs, withoutChecks } = rankActions(problem, past, effort);
  const open = new Set(past.open.map((index) => accessIds[index] ?? ''));
  const byId = keyBy(knowledge.operations, (operation) => operation.id);
  const failed = new Set<string>(evidence.failedFixes);
  const failedWays = new Set(evidence.failedWays ?? []);

  const accessOf = (needs: readonly number[]) => {
    const opens = unique(needs.map((index) => accessIds[index] ?? '').filter((id) => id !== '' && !open.has(id)));
    return {
      opens,
      accessMinutes: opens.reduce(
        (sum, id) => sum + (byId.get(id)?.stripMinutes ?? 0) + (byId.get(id)?.refitMinutes ?? 0),
        0,
      ),
    };
  };

  return ranked
    .map(({ action, expectedCost }): NextStep | null => {
      const base = { expectedCost, withoutChecks, outcomes: [], closes: [], cures: 0, also: null, fixId: null };
      if (action.kind === 'escalate')
        return { ...base, kind: 'escalate', id: '', minutes: 0, accessMinutes: 0, opens: [] };
      if (action.kind === 'fix') {
        const [id, also = null] = mends[action.id] ?? [];
        const spec = problem.fixes[action.id];
        const fixId = fixIds[action.id] ?? null;
        if (id === undefined || !spec || (also !== null && failed.has(also))) return null;
        if (fixId === null ? failed.has(id) : failedWays.has(fixId)) return null;
        return {
          ...base,
          kind: 'fix',
          id,
          also,
          fixId,
          minutes: workMinutes[action.id] ?? 0,
          ...accessOf(spec.access),
          cures: sum(spec.cure.map((p, place) => p * (beliefs[place] ?? 0))),
        };
      }
      const check = knowledge.checks[action.id];
      const spec = problem.checks[action.id];
      if (!check || !spec) return null;
      const outcomes = check.outcomes.map((outcome, index) => {
        const after = beliefsAfter(problem, {
          checks: [...past.checks, { check: action.id, outcome: index }],
          fixes: [],
        }).beliefs;
        const lead = likeliest(states, after, failed);
        const probability = beliefs.reduce((total, p, fault) => total + p * (spec.outcomes[fault]?.[index] ?? 0), 0);
        return {
          outcomeId: outcome.id,
          probability,
          leadsTo: lead.causeId,
          leadProbability: lead.probability,
        };
      });
      return {
        ...base,
        kind: 'check',
        id: check.id,
        minutes: check.minutes,
        ...accessOf(spec.access),
        closes: (spec.closes ?? []).map((index) => accessIds[index] ?? '').filter((id) => open.has(id)),
        check,
        outcomes,
      };
    })
    .filter((step): step is NextStep => step !== null && step.expectedCost < UNREACHABLE);
}

/** The likeliest cause, with or without what it brings. */
function likeliest(
  states: readonly FaultState[],
  beliefs: readonly number[],
  failed: ReadonlySet<string>,
): { causeId: CauseId; probability: number } {
  const byCause = new Map<CauseId, number>();
  states.forEach((state, place) => {
    const causeId = leftIn(state, failed)?.id ?? OTHER_CAUSE;
    byCause.set(causeId, (byCause.get(causeId) ?? 0) + (beliefs[place] ?? 0));
  });
  return [...byCause].reduce(
    (best, [causeId, probability]) => (probability > best.probability ? { causeId, probability } : best),
    { causeId: OTHER_CAUSE, probability: 0 },
  );
}
