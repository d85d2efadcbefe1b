import { OTHER_CAUSE, type Cause, type Knowledge } from '../catalogue';
import { normalise, type CauseId } from '../units';

/** What is known about one machine. 'Not sure' is no evidence and is simply not in here. */
export type Evidence = {
  findings: readonly { findingId: string; present: boolean }[];
  outcomes: readonly { checkId: string; outcomeId: string }[];
  /** Causes whose fix was done and did not help. */
  failedFixes: readonly string[];
};

export type RankedCause = {
  /** null: none of the listed causes. */
  cause: Cause | null;
  causeId: CauseId;
  probability: number;
  /** How much each piece of evidence moved it: log2 of the likelihood against the average over all causes. */
  moves: { kind: 'finding' | 'outcome' | 'failed-fix'; id: string; bits: number }[];
};

export type CauseRanking = { causes: RankedCause[]; contradictory: boolean };

export type PriorFactors = { causeFactor?: ((causeId: CauseId) => number) | undefined; otherPrior?: number };

/** Before any evidence, 4 % of machines have something that no list names. */
const OTHER_PRIOR = 0.04;

type Item = {
  kind: 'finding' | 'outcome' | 'failed-fix';
  id: string;
  p: (causeId: CauseId, cause: Cause | null) => number;
};

function itemsOf(knowledge: Knowledge, evidence: Evidence): Item[] {
  const findings = evidence.findings.map(({ findingId, present }): Item => ({
    kind: 'finding',
    id: findingId,
    p: (causeId) => {
      const p = knowledge.findingLikelihood(causeId, findingId);
      return present ? p : 1 - p;
    },
  }));
  const outcomes = evidence.outcomes.map(({ checkId, outcomeId }): Item => ({
    kind: 'outcome',
    id: `${checkId} ${outcomeId}`,
    p: (causeId) => knowledge.outcomeLikelihood(causeId, checkId, outcomeId),
  }));
  const fixes = evidence.failedFixes.map((fixed): Item => ({
    kind: 'failed-fix',
    id: fixed,
    p: (causeId, cause) => (cause && causeId === fixed ? 1 - cause.cure : 1),
  }));
  return [...findings, ...outcomes, ...fixes];
}

/** Priors of one platform with 'other' last; sums to one. */
export function priorsOf(knowledge: Knowledge, factors: PriorFactors = {}): number[] {
  const other = factors.otherPrior ?? OTHER_PRIOR;
  const listed = normalise(knowledge.causes.map((cause) => cause.weight * (factors.causeFactor?.(cause.id) ?? 1))).map(
    (p) => p * (1 - other),
  );
  return [...listed, knowledge.causes.length ? other : 1];
}

/**
 * Causes by Bayes over findings, check outcomes and failed fixes, independent given the cause. Sums to one with 'other' (cause null), for
 * which every finding has its background rate. Contradictory evidence falls back to the priors and says so. O(causes × evidence).
 */
export function rankCauses(knowledge: Knowledge, evidence: Evidence, factors: PriorFactors = {}): CauseRanking {
  const rows: { cause: Cause | null; causeId: CauseId }[] = [
    ...knowledge.causes.map((cause) => ({ cause, causeId: cause.id })),
    { cause: null, causeId: OTHER_CAUSE },
  ];
  const prior = priorsOf(knowledge, factors);
  const items = itemsOf(knowledge, evidence);
  const likelihoods = rows.map(({ cause, causeId }) => items.map((item) => item.p(causeId, cause)));
  const joint = likelihoods.map((row, index) => row.reduce((product, p) => product * p, prior[index] ?? 0));
  const contradictory = joint.every((p) => !(p > 0));
  const posterior = contradictory ? prior : normalise(joint);
  const average = items.map((_, said) =>
    likelihoods.reduce((sum, row, index) => sum + (prior[index] ?? 0) * (row[said] ?? 0), 0),
  );
  const causes = rows.map((row, index) => ({
    ...row,
    probability: posterior[index] ?? 0,
    moves: items.map((item, said) => ({
      kind: item.kind,
      id: item.id,
      bits: Math.log2(Math.max(1e-9, likelihoods[index]?.[said] ?? 0) / Math.max(1e-9, average[said] ?? 0)),
    })),
  }));
  return { causes: causes.sort((a, b) => b.probability - a.probability), contradictory };
}
