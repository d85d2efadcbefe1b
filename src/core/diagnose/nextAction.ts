import { normalise } from '../units';
import { fixesOnly } from './fixesOnly';
import { DEEP, lookAhead, type Effort, type Place } from './lookAhead';
import type { RankedAction, TroubleshootingAction, TroubleshootingEvidence, TroubleshootingProblem } from './problem';

/** prior × outcomes × (1 − cure) of failed fixes, normalised: exact. Evidence of zero mass falls back to the prior. O(faults × evidence). */
export function beliefsAfter(
  problem: TroubleshootingProblem,
  evidence: TroubleshootingEvidence,
): { beliefs: number[]; contradictory: boolean } {
  const masses = problem.prior.map((p, fault) => {
    const seen = evidence.checks.reduce(
      (mass, { check, outcome }) => mass * (problem.checks[check]?.outcomes[fault]?.[outcome] ?? 0),
      p,
    );
    return evidence.fixes.reduce((mass, fix) => mass * (1 - (problem.fixes[fix]?.cure[fault] ?? 0)), seen);
  });
  const contradictory = !masses.some((p) => p > 0);
  return { beliefs: normalise(contradictory ? problem.prior : masses), contradictory };
}

/** Access that is open after checks in this order and then fixes. O(evidence × access). */
export function openAfter({ checks, fixes }: TroubleshootingProblem, evidence: TroubleshootingEvidence): number[] {
  if (evidence.open) return [...evidence.open];
  const open = new Set<number>();
  for (const { check } of evidence.checks) {
    for (const id of checks[check]?.access ?? []) open.add(id);
    for (const id of checks[check]?.closes ?? []) open.delete(id);
  }
  for (const fix of evidence.fixes) for (const id of fixes[fix]?.access ?? []) open.add(id);
  return [...open];
}

/** Where the evidence leaves the machine: what is believed, what is open, what was done. */
function placeAfter(problem: TroubleshootingProblem, evidence: TroubleshootingEvidence): Place {
  const open = new Uint8Array(problem.access.length);
  const checked = new Uint8Array(problem.checks.length);
  const fixed = new Uint8Array(problem.fixes.length);
  for (const { check, outcome } of evidence.checks) checked[check] = outcome + 1;
  for (const fix of evidence.fixes) fixed[fix] = 1;
  for (const id of openAfter(problem, evidence)) open[id] = 1;
  return { masses: Float64Array.from(beliefsAfter(problem, evidence).beliefs), open, checked, fixed, high: 0, low: 0 };
}

/**
 * Every possible next action with the expected cost of doing it first, cheapest first; 'escalate' is always among them. `withoutChecks`: of the best course by
 * fixes alone. See `lookAhead` for the effort.
 */
export function rankActions(
  problem: TroubleshootingProblem,
  evidence: TroubleshootingEvidence,
  effort: Effort = DEEP,
): { ranked: RankedAction[]; beliefs: number[]; withoutChecks: number } {
  const place = placeAfter(problem, evidence);
  return {
    ranked: lookAhead(problem, place, effort).map(({ action, cost }) => ({ action, expectedCost: cost })),
    beliefs: [...place.masses],
    withoutChecks: fixesOnly(problem, place.masses, place).cost,
  };
}

/** The action with the least expected cost. `beliefs` are exact; `expectedCost` is that of a course that can be followed, an upper bound of the optimum. */
export function nextAction(
  problem: TroubleshootingProblem,
  evidence: TroubleshootingEvidence,
  effort: Effort = DEEP,
): { action: TroubleshootingAction; beliefs: number[]; expectedCost: number } {
  const { ranked, beliefs } = rankActions(problem, evidence, effort);
  const best = ranked[0];
  return {
    action: best?.action ?? { kind: 'escalate' },
    beliefs,
    expectedCost: best?.expectedCost ?? problem.escalate,
  };
}
