import type { Proof } from '../catalogue';
import type { Step, WorkPlan } from '../labour';
import type { CauseId, Instant } from '../units';

/** What must be tested: what the work disturbed decides, the cause, and why it came about (`rootProofId`). 'always' proofs come every time. In stage order. O(proofs). */
export function proofsFor(
  proofs: readonly Proof[],
  disturbed: readonly string[],
  causeId: CauseId | null,
  rootProofId: string | null = null,
): Proof[] {
  return proofsInOrder(
    proofs.filter(
      (proof) =>
        proof.id === rootProofId ||
        proof.disturbedBy.includes('always') ||
        proof.disturbedBy.some((id) => disturbed.includes(id)) ||
        (causeId !== null && proof.causes.includes(causeId)),
    ),
  );
}

const STAGES = ['open', 'closed', 'handover'];
const rank = ({ stage, live }: Proof): number => 2 * STAGES.indexOf(stage) + (live === 'yes' ? 1 : 0);

/** Open, closed, put back; in each what is done without power comes first. */
export const proofsInOrder = (proofs: readonly Proof[]): Proof[] => [...proofs].sort((a, b) => rank(a) - rank(b));

/**
 * What is off again where a proof that failed is looked into: of its operations the one that goes back first, and all that goes back after it; all of it where what it tests lies
 * under everything (a part swapped, which nothing puts back by itself) or is proved every time. [] where nothing of it was disturbed. O(steps).
 */
export function stepsBehind({ disturbedBy }: Proof, { strip, refit }: Pick<WorkPlan, 'strip' | 'refit'>): Step[] {
  const tests = (id: string) => disturbedBy.includes(id);
  const puts = new Set(refit.map(({ operationId }) => operationId));
  const deepest =
    disturbedBy.includes('always') || strip.some(({ operationId }) => tests(operationId) && !puts.has(operationId));
  const at = deepest ? 0 : refit.findIndex(({ operationId }) => tests(operationId));
  return at < 0 ? [] : refit.slice(at).map(({ operationId }) => ({ phase: 'refit', operationId }));
}

/** curing: it loads or wets a joint that cures. not-closed: something is off or is not ticked. safe-first: earth and what is left inside come before power. live-barred: a finding forbids live runs. */
export type ProofBar = 'curing' | 'not-closed' | 'safe-first' | 'live-barred' | 'figure-outside';

export type ProofFigure = { limitId: string; value: number | null; unit: string; verdict: string; at: Instant };

export type DueProof = {
  proof: Proof;
  passed: boolean | null;
  barred: ProofBar | null;
  /** The reading that judges it, taken since the work began; null where there is none yet. */
  figure: ProofFigure | null;
};

/** Before power: earth is whole and nothing is left inside. */
const SAFE_TO_RUN = ['earth', 'nothing-left'];

/**
 * Each proof with what stands against passing it: nothing that needs the machine closed or live is passed while it is open, nothing live before it is safe to run, and none whose
 * figure lies outside its limit. O(proofs²).
 */
export function dueProofs(
  proofs: readonly Proof[],
  {
    passed,
    closed,
    cures,
    liveBarred,
    figureOf,
  }: {
    passed: (proofId: string) => boolean | null;
    /** The work sheet is finished: all is back, nothing cures. */
    closed: boolean;
    /** It tests a joint that cures still. */
    cures: (proof: Proof) => boolean;
    liveBarred: boolean;
    figureOf: (limitId: string) => ProofFigure | null;
  },
): DueProof[] {
  const safe = proofs.filter(({ id }) => SAFE_TO_RUN.includes(id)).every(({ id }) => passed(id) === true);
  return proofsInOrder(proofs).map((proof) => {
    const figure = proof.limitId === undefined ? null : figureOf(proof.limitId);
    const live = proof.live === 'yes';
    const barred = (): ProofBar | null => {
      if (cures(proof)) return 'curing';
      if ((live || proof.stage !== 'open') && !closed) return 'not-closed';
      if (live && liveBarred) return 'live-barred';
      if (live && !safe) return 'safe-first';
      return figure && figure.verdict !== 'within' ? 'figure-outside' : null;
    };
    return { proof, passed: passed(proof.id), barred: barred(), figure };
  });
}
