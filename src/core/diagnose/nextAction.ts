import { normalise } from '../units';
import type { RankedAction, TroubleshootingAction, TroubleshootingEvidence, TroubleshootingProblem } from './problem';

type State = { beliefs: number[]; open: Set<number>; checked: Set<number>; fixed: Set<number> };

const accessCost = (problem: TroubleshootingProblem, needs: readonly number[], open: ReadonlySet<number>): number =>
  needs.reduce((cost, id) => (open.has(id) ? cost : cost + (problem.access[id]?.cost ?? 0)), 0);

const withOpen = (open: ReadonlySet<number>, needs: readonly number[]): Set<number> => new Set([...open, ...needs]);

const afterOutcome = (
  problem: TroubleshootingProblem,
  beliefs: readonly number[],
  check: number,
  outcome: number,
): number[] => beliefs.map((p, fault) => p * (problem.checks[check]?.outcomes[fault]?.[outcome] ?? 0));

const afterFailedFix = (problem: TroubleshootingProblem, beliefs: readonly number[], fix: number): number[] =>
  beliefs.map((p, fault) => p * (1 - (problem.fixes[fix]?.cure[fault] ?? 0)));

const mass = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);

/** prior × outcomes × (1 − cure) of failed fixes, normalised: exact. Evidence of zero mass falls back to the prior. O(faults × evidence). */
export function beliefsAfter(
  problem: TroubleshootingProblem,
  evidence: TroubleshootingEvidence,
): { beliefs: number[]; contradictory: boolean } {
  let beliefs = normalise(problem.prior);
  for (const { check, outcome } of evidence.checks) beliefs = afterOutcome(problem, beliefs, check, outcome);
  for (const fix of evidence.fixes) beliefs = afterFailedFix(problem, beliefs, fix);
  const total = mass(beliefs);
  return total > 0
    ? { beliefs: normalise(beliefs), contradictory: false }
    : { beliefs: normalise(problem.prior), contradictory: true };
}

function stateAfter(problem: TroubleshootingProblem, evidence: TroubleshootingEvidence): State {
  const open = new Set<number>();
  for (const { check } of evidence.checks) for (const id of problem.checks[check]?.access ?? []) open.add(id);
  for (const fix of evidence.fixes) for (const id of problem.fixes[fix]?.access ?? []) open.add(id);
  return {
    beliefs: beliefsAfter(problem, evidence).beliefs,
    open,
    checked: new Set(evidence.checks.map(({ check }) => check)),
    fixed: new Set(evidence.fixes),
  };
}

/**
 * Expected cost of mending by fixes alone, always the one with the best chance per cost next (re-sorted as access opens), giving up where escalating is cheaper.
 * O(fixes² × faults).
 */
function fixesOnly(problem: TroubleshootingProblem, state: State): { cost: number; first: TroubleshootingAction } {
  const stages: { cost: number; cure: number; fix: number }[] = [];
  let beliefs = state.beliefs;
  let open: ReadonlySet<number> = state.open;
  const left = new Set(problem.fixes.keys());
  for (const fix of state.fixed) left.delete(fix);
  while (left.size > 0) {
    let best: { fix: number; cost: number; cure: number; ratio: number } | null = null;
    for (const fix of left) {
      const spec = problem.fixes[fix];
      if (!spec) continue;
      const cost = spec.cost + accessCost(problem, spec.access, open);
      const cure = beliefs.reduce((sum, p, fault) => sum + p * (spec.cure[fault] ?? 0), 0);
      const ratio = cure / Math.max(cost, 1e-9);
      if (!best || ratio > best.ratio) best = { fix, cost, cure, ratio };
    }
    if (!best || best.cure <= 1e-9) break;
    stages.push(best);
    left.delete(best.fix);
    beliefs = normalise(afterFailedFix(problem, beliefs, best.fix));
    open = withOpen(open, problem.fixes[best.fix]?.access ?? []);
    if (mass(beliefs) === 0) break;
  }
  let cost = problem.escalate;
  let first: TroubleshootingAction = { kind: 'escalate' };
  for (const stage of stages.reverse()) {
    const going = stage.cost + (1 - stage.cure) * cost;
    if (going < problem.escalate) {
      cost = going;
      first = { kind: 'fix', id: stage.fix };
    } else {
      cost = problem.escalate;
      first = { kind: 'escalate' };
    }
  }
  return { cost, first };
}

/**
 * Every possible next action with the expected cost of doing it first and then mending by fixes alone: one step of look-ahead
 * (value of information), after Heckerman, Breese & Rommelse (1995). Cheapest first; 'escalate' is always among them.
 * O(checks × outcomes × fixes² × faults).
 */
export function rankActions(
  problem: TroubleshootingProblem,
  evidence: TroubleshootingEvidence,
): { ranked: RankedAction[]; beliefs: number[]; withoutChecks: number } {
  const state = stateAfter(problem, evidence);
  const ranked: RankedAction[] = [{ action: { kind: 'escalate' }, expectedCost: problem.escalate }];
  problem.fixes.forEach((fix, id) => {
    if (state.fixed.has(id)) return;
    const cure = state.beliefs.reduce((sum, p, fault) => sum + p * (fix.cure[fault] ?? 0), 0);
    const failed = normalise(afterFailedFix(problem, state.beliefs, id));
    const rest =
      cure >= 1 - 1e-12
        ? 0
        : fixesOnly(problem, {
            ...state,
            beliefs: failed,
            open: withOpen(state.open, fix.access),
            fixed: new Set(state.fixed).add(id),
          }).cost;
    ranked.push({
      action: { kind: 'fix', id },
      expectedCost: fix.cost + accessCost(problem, fix.access, state.open) + (1 - cure) * rest,
    });
  });
  problem.checks.forEach((check, id) => {
    if (state.checked.has(id)) return;
    const open = withOpen(state.open, check.access);
    const outcomeCount = Math.max(0, ...check.outcomes.map((row) => row.length));
    let expectedCost = check.cost + accessCost(problem, check.access, state.open);
    for (let outcome = 0; outcome < outcomeCount; outcome += 1) {
      const joint = afterOutcome(problem, state.beliefs, id, outcome);
      const p = mass(joint);
      if (p > 0) expectedCost += p * fixesOnly(problem, { ...state, beliefs: normalise(joint), open }).cost;
    }
    ranked.push({ action: { kind: 'check', id }, expectedCost });
  });
  ranked.sort((a, b) => a.expectedCost - b.expectedCost);
  return { ranked, beliefs: state.beliefs, withoutChecks: fixesOnly(problem, state).cost };
}

/** The action with the least expected cost by one step of look-ahead. `beliefs` are exact; `expectedCost` is that of the policy, an upper bound of the optimum. */
export function nextAction(
  problem: TroubleshootingProblem,
  evidence: TroubleshootingEvidence,
): { action: TroubleshootingAction; beliefs: number[]; expectedCost: number } {
  const { ranked, beliefs } = rankActions(problem, evidence);
  const best = ranked[0];
  return {
    action: best?.action ?? { kind: 'escalate' },
    beliefs,
    expectedCost: best?.expectedCost ?? problem.escalate,
  };
}
