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

/** The fixes of a problem as flat arrays: of fix f, the entries from `start[f]` up to `start[f + 1]`. */
type Flat = {
  costs: Float64Array;
  /** What every piece of access costs to open. */
  opening: Float64Array;
  accessStart: Int32Array;
  access: Int32Array;
  curesStart: Int32Array;
  faults: Int32Array;
  cures: Float64Array;
};
const flatOf = new WeakMap<TroubleshootingProblem['fixes'], Flat>();

function flattened({ fixes, access: pieces }: TroubleshootingProblem): Flat {
  const known = flatOf.get(fixes);
  if (known) return known;
  const starts = (lists: readonly (readonly unknown[])[]) =>
    Int32Array.from([0, ...lists.map((_, index) => lists.slice(0, index + 1).reduce((n, list) => n + list.length, 0))]);
  const access = fixes.map((fix) => fix.access);
  // Most fixes cure one fault of many.
  const cures = fixes.map(({ cure }) => [...cure.entries()].filter(([, p]) => p > 0));
  const made: Flat = {
    costs: Float64Array.from(fixes, ({ cost }) => cost),
    opening: Float64Array.from(pieces, ({ cost }) => cost),
    accessStart: starts(access),
    access: Int32Array.from(access.flat()),
    curesStart: starts(cures),
    faults: Int32Array.from(cures.flat().map(([fault]) => fault)),
    cures: Float64Array.from(cures.flat().map(([, p]) => p)),
  };
  flatOf.set(fixes, made);
  return made;
}

/**
 * Expected cost of mending by fixes alone, always the one with the best chance per cost next (re-sorted as access opens), giving up where escalating is cheaper.
 * Works on masses that are not normalised: a fix that fails takes its share away. O(fixes² × (access + faults that one fix cures)).
 */
function fixesOnly(problem: TroubleshootingProblem, state: State): { cost: number; first: TroubleshootingAction } {
  const flat = flattened(problem);
  const { costs, accessStart, access, curesStart, faults, cures } = flat;
  const beliefs = new Float64Array(state.beliefs);
  /** What opening costs now: nothing where it is open. */
  const opening = flat.opening.slice();
  for (const id of state.open) opening[id] = 0;
  const left = new Int32Array(costs.length);
  let many = 0;
  for (let fix = 0; fix < costs.length; fix += 1)
    if (!state.fixed.has(fix)) {
      left[many] = fix;
      many += 1;
    }
  const stages: { cost: number; cure: number; fix: number }[] = [];
  let total = mass(state.beliefs);
  for (; many > 0 && total > 0; many -= 1) {
    let place = -1;
    let bestCost = 0;
    let bestCure = 0;
    let bestRatio = -1;
    for (let index = 0; index < many; index += 1) {
      const fix = left[index] ?? 0;
      let cost = costs[fix] ?? 0;
      const lastAccess = accessStart[fix + 1] ?? 0;
      for (let entry = accessStart[fix] ?? 0; entry < lastAccess; entry += 1) cost += opening[access[entry] ?? 0] ?? 0;
      let cure = 0;
      const lastCure = curesStart[fix + 1] ?? 0;
      for (let entry = curesStart[fix] ?? 0; entry < lastCure; entry += 1)
        cure += (beliefs[faults[entry] ?? 0] ?? 0) * (cures[entry] ?? 0);
      const ratio = cure / (cost < 1e-9 ? 1e-9 : cost);
      if (ratio > bestRatio) {
        place = index;
        bestCost = cost;
        bestCure = cure;
        bestRatio = ratio;
      }
    }
    if (place < 0 || bestCure / total <= 1e-9) break;
    const best = left[place] ?? 0;
    stages.push({ cost: bestCost, cure: bestCure / total, fix: best });
    left.copyWithin(place, place + 1, many);
    for (let entry = curesStart[best] ?? 0; entry < (curesStart[best + 1] ?? 0); entry += 1) {
      const fault = faults[entry] ?? 0;
      beliefs[fault] = (beliefs[fault] ?? 0) * (1 - (cures[entry] ?? 0));
    }
    for (let entry = accessStart[best] ?? 0; entry < (accessStart[best + 1] ?? 0); entry += 1)
      opening[access[entry] ?? 0] = 0;
    total = 0;
    for (let fault = 0; fault < beliefs.length; fault += 1) total += beliefs[fault] ?? 0;
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
 * O(checks × outcomes × fixes² × access).
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
