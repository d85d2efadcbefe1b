import type { TroubleshootingAction, TroubleshootingEvidence, TroubleshootingProblem } from '@/core/diagnose';
import { normalise, seededRandom } from '@/core/units';

/** The same case, in which some checks are live: what is open must be shut for them, and is opened anew afterwards. */
export function withLiveChecks(problem: TroubleshootingProblem, seed: number): TroubleshootingProblem {
  const random = seededRandom(seed + 17);
  return {
    ...problem,
    checks: problem.checks.map((check) =>
      random() < 0.5
        ? { ...check, access: check.access.filter((id) => id !== 0), closes: random() < 0.5 ? [0] : [0, 2] }
        : check,
    ),
  };
}

/** A drawn case: sharp and dull checks, ways in that several share, fixes that mostly cure one fault and sometimes a second. */
export function drawnProblem(faults: number, checks: number, seed: number): TroubleshootingProblem {
  const random = seededRandom(seed);
  const between = (low: number, high: number) => low + random() * (high - low);
  const needs = () => (random() < 0.45 ? [] : random() < 0.7 ? [random() < 0.5 ? 0 : 1] : [0, 2]);
  return {
    prior: normalise(Array.from({ length: faults }, () => 0.03 + random() ** 2)),
    access: [{ cost: between(5, 25) }, { cost: between(5, 35) }, { cost: between(2, 15) }],
    checks: Array.from({ length: checks }, () => {
      const sharp = random() < 0.6;
      return {
        cost: between(1, 16),
        access: needs(),
        outcomes: Array.from({ length: faults }, () => {
          const yes = random() < 0.5 ? between(0.02, sharp ? 0.15 : 0.4) : between(sharp ? 0.8 : 0.5, 0.98);
          return [yes, 1 - yes];
        }),
      };
    }),
    fixes: Array.from({ length: faults }, (_, fix) => ({
      cost: between(15, 130),
      access: needs(),
      cure: Array.from({ length: faults }, (_, fault) =>
        fault === fix ? between(0.75, 1) : fault === (fix + 1) % faults && fix % 3 === 0 ? between(0, 0.5) : 0,
      ),
    })),
    escalate: between(90, 280),
  };
}

type Policy = (evidence: TroubleshootingEvidence) => TroubleshootingAction;

/** Of each fault the least that mending it can cost: its cheapest fix with every way in open, or giving up. */
const floorsOf = ({ prior, fixes, escalate }: TroubleshootingProblem): number[] =>
  prior.map((_, fault) =>
    Math.min(escalate, ...fixes.map(({ cost, cure }) => ((cure[fault] ?? 0) > 0 ? cost : Infinity))),
  );

/**
 * Expected cost from evidence on: the least by trying every action at every place, or that of a policy. Exact; memoised by evidence. An action that could not be the
 * best even if it told the fault is not followed.
 */
function walked(problem: TroubleshootingProblem, policy: Policy | null): number {
  const { prior, checks, fixes, access, escalate } = problem;
  const known = new Map<number, number>();
  const floors = floorsOf(problem);
  const visit = (masses: readonly number[], outcomes: readonly number[], fixed: number, open: number): number => {
    const found = outcomes.reduce((code, outcome) => code * 3 + outcome, 0);
    const key = (found * 2 ** fixes.length + fixed) * 2 ** access.length + open;
    const before = known.get(key);
    if (before !== undefined) return before;
    const mass = masses.reduce((sum, p) => sum + p, 0);
    const entry = (needs: readonly number[]) =>
      needs.reduce((sum, id) => sum + (open & (1 << id) ? 0 : (access[id]?.cost ?? 0)), 0);
    const opened = (needs: readonly number[]) => needs.reduce((mask, id) => mask | (1 << id), open);
    const atLeast = (left: readonly number[]) => left.reduce((sum, p, fault) => sum + p * (floors[fault] ?? 0), 0);
    const costOf = (action: TroubleshootingAction, best = Infinity): number => {
      if (action.kind === 'escalate') return mass * escalate;
      if (action.kind === 'fix') {
        const fix = fixes[action.id];
        if (!fix || fixed & (1 << action.id)) return Infinity;
        const failed = masses.map((p, fault) => p * (1 - (fix.cure[fault] ?? 0)));
        const price = mass * (fix.cost + entry(fix.access));
        if (price + atLeast(failed) >= best) return Infinity;
        if (!failed.some((p) => p > 1e-13)) return price;
        return price + visit(failed, outcomes, fixed | (1 << action.id), opened(fix.access));
      }
      const check = checks[action.id];
      if (!check || (outcomes[action.id] ?? 0) > 0) return Infinity;
      let cost = mass * (check.cost + entry(check.access));
      if (cost + atLeast(masses) >= best) return Infinity;
      for (const outcome of [0, 1]) {
        const seen = masses.map((p, fault) => p * (check.outcomes[fault]?.[outcome] ?? 0));
        if (!seen.some((p) => p > 1e-13)) continue;
        const next = outcomes.map((known, id) => (id === action.id ? outcome + 1 : known));
        const shut = (check.closes ?? []).reduce((mask, id) => mask | (1 << id), 0);
        cost += visit(seen, next, fixed, opened(check.access) & ~shut);
      }
      return cost;
    };
    let cost: number;
    if (policy) {
      cost = costOf(
        policy({
          checks: outcomes.flatMap((outcome, check) => (outcome > 0 ? [{ check, outcome: outcome - 1 }] : [])),
          fixes: fixes.flatMap((_, id) => (fixed & (1 << id) ? [id] : [])),
          open: access.flatMap((_, id) => (open & (1 << id) ? [id] : [])),
        }),
      );
    } else {
      cost = mass * escalate;
      for (const id of fixes.keys()) cost = Math.min(cost, costOf({ kind: 'fix', id }, cost));
      for (const id of checks.keys()) cost = Math.min(cost, costOf({ kind: 'check', id }, cost));
    }
    known.set(key, cost);
    return cost;
  };
  return visit(
    prior,
    checks.map(() => 0),
    0,
    0,
  );
}

/** The least expected cost, by a dynamic programme over all evidence. O(3^checks · 2^fixes · actions): for small problems. */
export const optimalCost = (problem: TroubleshootingProblem): number => walked(problem, null);

/** What a policy costs on average, over every branch that it can lead to. */
export const costOfPolicy = (problem: TroubleshootingProblem, policy: Policy): number => walked(problem, policy);
