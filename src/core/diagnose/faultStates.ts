import { OTHER_CAUSE, type Cause, type Knowledge } from '../catalogue';
import { keyBy, type CauseId } from '../units';

/** What is known about one machine. 'Not sure' is no evidence and is simply not in here. */
export type Evidence = {
  findings: readonly { findingId: string; present: boolean }[];
  outcomes: readonly { checkId: string; outcomeId: string }[];
  /** Causes whose fix was done and did not help. */
  failedFixes: readonly string[];
  /** Other ways of mending, by their ids, that were done and did not help. */
  failedWays?: readonly string[];
  /** Signs that were seen on dead parts. */
  wreckSigns?: readonly string[];
};

/** What may be wrong with a machine: one cause, a cause with what it brings, or nothing that is listed (cause null). Exactly one of them holds. */
export type FaultState = {
  cause: Cause | null;
  causeId: CauseId;
  /** What the cause has broken or dirtied as well. */
  brought: Cause | null;
  /** Findings of the cause that what it brought does not let one see. */
  hides: readonly string[];
  /** Of the cause's prior; those of one cause sum to one. */
  share: number;
};

const made = new WeakMap<Knowledge, readonly FaultState[]>();

/** All that may be wrong with a machine of this knowledge: the causes alone, in their order, then 'other', then the pairs. O(causes + pairs). */
export function faultStatesOf(knowledge: Knowledge): readonly FaultState[] {
  const known = made.get(knowledge);
  if (known) return known;
  const causes = keyBy(knowledge.causes, ({ id }) => id);
  const brings = knowledge.brings.flatMap((row) => {
    const [cause, brought] = [causes.get(row.causeId), causes.get(row.bringsId)];
    return cause && brought ? [{ cause, brought, row }] : [];
  });
  const broughtBy = (causeId: CauseId) =>
    brings.reduce((sum, { row }) => (row.causeId === causeId ? sum + row.p : sum), 0);
  const states: FaultState[] = [
    ...knowledge.causes.map((cause): FaultState => ({
      cause,
      causeId: cause.id,
      brought: null,
      hides: [],
      share: 1 - broughtBy(cause.id),
    })),
    { cause: null, causeId: OTHER_CAUSE, brought: null, hides: [], share: 1 },
    ...brings.map(({ cause, brought, row }): FaultState => ({
      cause,
      causeId: cause.id,
      brought,
      hides: row.hides,
      share: row.p,
    })),
  ];
  made.set(knowledge, states);
  return states;
}

/** The cause that is left to be mended: of two the first, or the second where the first was mended already. */
export const leftIn = ({ cause, brought }: FaultState, mended: ReadonlySet<string>): Cause | null =>
  brought && cause && mended.has(cause.id) && !mended.has(brought.id) ? brought : cause;

const LEAST = 0.001;

/**
 * P(finding | state): of two causes either may show it, and what shows it without any cause is counted once (noisy OR with a leak); what the second hides of the
 * first comes from the second alone. Pearl, Probabilistic Reasoning in Intelligent Systems (1988), 4.3.2.
 */
export function findingGiven(knowledge: Knowledge, { causeId, brought, hides }: FaultState, findingId: string): number {
  const first = knowledge.findingLikelihood(causeId, findingId);
  if (!brought) return first;
  const second = knowledge.findingLikelihood(brought.id, findingId);
  if (hides.includes(findingId)) return second;
  const leak = knowledge.findingLikelihood(OTHER_CAUSE, findingId);
  return Math.min(1 - LEAST, Math.max(LEAST, 1 - ((1 - first) * (1 - second)) / (1 - leak)));
}

/**
 * P(outcome | state); sums to one over a check's outcomes. Of two causes the outcome of a sound machine (the one with the largest background) is seen where neither
 * disturbs it; what is left is shared as the two of them would have it.
 */
export function outcomesGiven(
  knowledge: Knowledge,
  { causeId, brought }: FaultState,
  { id: checkId, outcomes }: Knowledge['checks'][number],
): number[] {
  const of = (cause: CauseId) => outcomes.map(({ id }) => knowledge.outcomeLikelihood(cause, checkId, id));
  const first = of(causeId);
  if (!brought) return first;
  const second = of(brought.id);
  const sound = of(OTHER_CAUSE);
  const normal = sound.reduce((best, p, index) => (p > (sound[best] ?? 0) ? index : best), 0);
  const at = (list: readonly number[], index: number) => list[index] ?? 0;
  const undisturbed = Math.min(
    Math.max(at(first, normal), at(second, normal)),
    (at(first, normal) * at(second, normal)) / Math.max(LEAST, at(sound, normal)),
  );
  const rest = outcomes.map((_, index) => (index === normal ? 0 : at(first, index) + at(second, index)));
  const total = rest.reduce((sum, p) => sum + p, 0);
  return rest.map((p, index) => (index === normal ? undisturbed : ((1 - undisturbed) * p) / Math.max(1e-9, total)));
}

/** P(still broken | state) after these causes were mended: certain where one of the state's causes was not among them. */
export function stillBroken({ cause, brought }: FaultState, mended: ReadonlySet<string>): number {
  if (!cause) return 1;
  const present = brought ? [cause, brought] : [cause];
  if (present.some(({ id }) => !mended.has(id))) return 1;
  return 1 - present.reduce((product, { cure }) => product * cure, 1);
}
