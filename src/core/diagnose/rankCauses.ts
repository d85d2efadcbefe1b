import type { Cause, Knowledge } from '../catalogue';
import { normalise, type CauseId } from '../units';
import {
  faultStatesOf,
  findingGiven,
  leftIn,
  outcomesGiven,
  stillBroken,
  type Evidence,
  type FaultState,
} from './faultStates';

export type Move = { kind: 'finding' | 'outcome' | 'failed-fix' | 'wreck'; id: string; bits: number };

export type RankedCause = {
  /** null: none of the listed causes. */
  cause: Cause | null;
  causeId: CauseId;
  /** That it is the cause, with or without what it brings. */
  probability: number;
  /** How much each piece of evidence moved it: log2 of the likelihood against the average over all causes. */
  moves: Move[];
  /** What it has brought, each with its chance; part of `probability`. */
  with: { causeId: CauseId; probability: number }[];
};

/** Two pieces of evidence that hardly go together under any cause: one of them is to be looked at again. `times`: how much rarer than each by itself. */
export type Clash = { first: Pick<Move, 'kind' | 'id'>; second: Pick<Move, 'kind' | 'id'>; times: number };

export type CauseRanking = { causes: RankedCause[]; contradictory: boolean; clashes: Clash[] };

export type PriorFactors = { causeFactor?: ((causeId: CauseId) => number) | undefined; otherPrior?: number };

/** Before any evidence, 4 % of machines have something that no list names. */
const OTHER_PRIOR = 0.04;

/** How often, against a dead part, such a sign is seen on one that was sound after all. An estimate. */
const SEEN_ON_A_SOUND_PART = 0.05;

const has = ({ cause, brought }: FaultState, id: CauseId | undefined): boolean =>
  id !== undefined && (cause?.id === id || brought?.id === id);

type Item = Pick<Move, 'kind' | 'id'> & { given: (state: FaultState) => number };

function itemsOf(knowledge: Knowledge, evidence: Evidence): Item[] {
  const findings = evidence.findings.map(({ findingId, present }): Item => ({
    kind: 'finding',
    id: findingId,
    given: (state) => {
      const p = findingGiven(knowledge, state, findingId);
      return present ? p : 1 - p;
    },
  }));
  const outcomes = evidence.outcomes.flatMap(({ checkId, outcomeId }): Item[] => {
    const check = knowledge.checks.find(({ id }) => id === checkId);
    const index = check?.outcomes.findIndex(({ id }) => id === outcomeId) ?? -1;
    if (!check || index < 0) return [];
    return [
      {
        kind: 'outcome',
        id: `${checkId} ${outcomeId}`,
        given: (state) => outcomesGiven(knowledge, state, check)[index] ?? 0,
      },
    ];
  });
  const fixes = evidence.failedFixes.map((fixed): Item => ({
    kind: 'failed-fix',
    id: fixed,
    // What a second mended cause adds is counted with the last of them.
    given: (state) => {
      const upTo = new Set(evidence.failedFixes.slice(0, evidence.failedFixes.indexOf(fixed) + 1));
      const before = new Set(evidence.failedFixes.slice(0, evidence.failedFixes.indexOf(fixed)));
      return stillBroken(state, upTo) / Math.max(1e-12, stillBroken(state, before));
    },
  }));
  const ways = (evidence.failedWays ?? []).flatMap((fixId): Item[] => {
    const way = knowledge.fixes.find(({ id }) => id === fixId);
    if (!way) return [];
    // Of two causes one is still there, whatever came of this one.
    return [
      {
        kind: 'failed-fix',
        id: fixId,
        given: ({ cause, brought }) => (cause?.id === way.causeId && brought === null ? 1 - way.cure : 1),
      },
    ];
  });
  const wrecks = (evidence.wreckSigns ?? []).flatMap((signId): Item[] => {
    const sign = knowledge.wreckSigns.find(({ id }) => id === signId);
    const root = sign && knowledge.rootCauses.find(({ id }) => id === sign.rootId);
    if (!sign || !root) return [];
    const times = root.raisesId === undefined ? 1 : 1 + sign.surely * (root.raisesBy - 1);
    return [
      {
        kind: 'wreck',
        id: signId,
        // The part is dead, whatever else is; and what killed it is the likelier to be there as well.
        given: (state) =>
          (has(state, sign.causeId) ? 1 : SEEN_ON_A_SOUND_PART) * (has(state, root.raisesId) ? 1 : 1 / times),
      },
    ];
  });
  return [...findings, ...outcomes, ...fixes, ...ways, ...wrecks];
}

/** Priors of one platform with 'other' last; sums to one. */
export function priorsOf(knowledge: Knowledge, factors: PriorFactors = {}): number[] {
  const other = factors.otherPrior ?? OTHER_PRIOR;
  const listed = normalise(knowledge.causes.map((cause) => cause.weight * (factors.causeFactor?.(cause.id) ?? 1))).map(
    (p) => p * (1 - other),
  );
  return [...listed, knowledge.causes.length ? other : 1];
}

/** Priors of all that may be wrong, in the order of `faultStatesOf`; sums to one. */
export function statePriors(knowledge: Knowledge, factors: PriorFactors = {}): number[] {
  const byCause = priorsOf(knowledge, factors);
  const place = new Map(knowledge.causes.map(({ id }, index) => [id, index]));
  return faultStatesOf(knowledge).map(
    ({ causeId, share }) => share * (byCause[place.get(causeId) ?? knowledge.causes.length] ?? 0),
  );
}

/** Posterior of all that may be wrong, in the order of `faultStatesOf`; contradictory evidence falls back to the priors. O(states × evidence). */
export function stateBeliefs(
  knowledge: Knowledge,
  evidence: Evidence,
  factors: PriorFactors = {},
): { beliefs: number[]; contradictory: boolean } {
  const prior = statePriors(knowledge, factors);
  const items = itemsOf(knowledge, evidence);
  const joint = faultStatesOf(knowledge).map((state, index) =>
    items.reduce((product, { given }) => product * given(state), prior[index] ?? 0),
  );
  const contradictory = joint.every((p) => !(p > 0));
  return { beliefs: contradictory ? prior : normalise(joint), contradictory };
}

/** Two facts that come together this much less often than by chance are named. */
const CLASHING = 2.5;
const MOST_CLASHES = 2;

/**
 * Causes by Bayes over findings, check outcomes, failed fixes and signs on the wreck, independent given what is wrong: one cause, or a cause with what it brings.
 * Exact; sums to one with 'other' (cause null), for which every finding has its background rate. Evidence that no state explains falls back to the priors and says so;
 * two pieces that hardly go together are named. O(states × evidence + evidence²).
 */
export function rankCauses(knowledge: Knowledge, evidence: Evidence, factors: PriorFactors = {}): CauseRanking {
  const states = faultStatesOf(knowledge);
  const prior = statePriors(knowledge, factors);
  const items = itemsOf(knowledge, evidence);
  const likelihoods = states.map((state) => items.map(({ given }) => given(state)));
  const joint = likelihoods.map((row, index) => row.reduce((product, p) => product * p, prior[index] ?? 0));
  const contradictory = joint.every((p) => !(p > 0));
  const posterior = contradictory ? prior : normalise(joint);
  const average = items.map((_, said) => weighed(likelihoods, prior, said));

  const mended = new Set(evidence.failedFixes);
  const rows = new Map<CauseId, RankedCause & { prior: number; said: number[] }>();
  for (const [index, state] of states.entries()) {
    const cause = leftIn(state, mended);
    const causeId = cause?.id ?? state.causeId;
    const brought = cause === state.cause ? state.brought : null;
    const row = rows.get(causeId) ?? {
      cause,
      causeId,
      probability: 0,
      moves: [],
      with: [],
      prior: 0,
      said: items.map(() => 0),
    };
    const [before, after] = [prior[index] ?? 0, posterior[index] ?? 0];
    row.probability += after;
    row.prior += before;
    row.said = row.said.map((sum, said) => sum + before * (likelihoods[index]?.[said] ?? 0));
    if (brought) row.with.push({ causeId: brought.id, probability: after });
    rows.set(causeId, row);
  }
  const causes = [...rows.values()].map(({ prior: mass, said, ...row }): RankedCause => ({
    ...row,
    with: row.with.sort((a, b) => b.probability - a.probability),
    moves: items.map(({ kind, id }, index) => ({
      kind,
      id,
      bits: Math.log2(Math.max(1e-9, mass > 0 ? (said[index] ?? 0) / mass : 0) / Math.max(1e-9, average[index] ?? 0)),
    })),
  }));
  return {
    causes: causes.sort((a, b) => b.probability - a.probability),
    contradictory,
    clashes: clashesIn(items, likelihoods, prior, average),
  };
}

const weighed = (likelihoods: readonly (readonly number[])[], prior: readonly number[], said: number): number =>
  likelihoods.reduce((sum, row, index) => sum + (prior[index] ?? 0) * (row[said] ?? 0), 0);

/** Pairs of facts whose chance together is far below the product of their chances. */
function clashesIn(
  items: readonly Item[],
  likelihoods: readonly (readonly number[])[],
  prior: readonly number[],
  average: readonly number[],
): Clash[] {
  const named = ({ kind, id }: Item) => ({ kind, id });
  return items
    .flatMap((first, a) =>
      items.slice(a + 1).map((second, offset): Clash => {
        const b = a + 1 + offset;
        const together = likelihoods.reduce(
          (sum, row, index) => sum + (prior[index] ?? 0) * (row[a] ?? 0) * (row[b] ?? 0),
          0,
        );
        const apart = (average[a] ?? 0) * (average[b] ?? 0);
        return { first: named(first), second: named(second), times: apart / Math.max(1e-12, together) };
      }),
    )
    .filter(({ times }) => times >= CLASHING)
    .sort((a, b) => b.times - a.times)
    .slice(0, MOST_CLASHES);
}
