import { buildWorkSheet, proofsFor, proofsInOrder, type WorkSheet } from '../../bench';
import { wayBy, type Platform, type Proof } from '../../catalogue';
import { planWork, type WorkPlan } from '../../labour';
import type { Round } from '../../ticket';
import { sum, type CauseId } from '../../units';
import type { Chapter } from '../chapter';
import type { Lore } from './causes';

export type BenchShown = {
  plan: WorkPlan;
  sheet: WorkSheet;
  proofs: { proof: Proof; passed: boolean | null }[];
  /** Hands-on minutes by the list, without what was learned. */
  listMinutes: number;
};

/** The work sheet of the job and what must be proved. `causeIds`: what is mended. */
export const benchChapter: Chapter<
  'bench',
  {
    lore: Lore;
    platform: Platform;
    causeIds: readonly CauseId[];
    /** How the first of them is mended; null: its own way. */
    fixId: string | null;
    rescues: number;
    /** What proves that the root cause is gone. */
    rootProofId: string | null;
    round: Pick<Round, 'ticks' | 'finished' | 'proofs'>;
  },
  BenchShown
> = {
  name: 'bench',
  byContent: ['causeIds', 'round'],
  answer: ({ lore, platform, causeIds, fixId, rescues, rootProofId, round }) => {
    const { knowledge, timeFactor, times } = lore;
    const operations = knowledge.causes
      .filter(({ id }) => causeIds.includes(id))
      .map((cause) => (cause.id === causeIds[0] ? wayBy(knowledge, cause, fixId).cause : cause))
      .flatMap((cause) => cause.operations);
    const plan = planWork(knowledge.operations, operations, { timeFactor, times, rescueFactor: rescues });
    const disturbed = round.finished?.operationIds ?? plan.strip.map((step) => step.operationId);
    const dueIds = round.finished?.proofIds;
    const due = dueIds
      ? proofsInOrder(knowledge.proofs.filter(({ id }) => dueIds.includes(id)))
      : proofsFor(knowledge.proofs, disturbed, causeIds[0] ?? null, rootProofId);
    return {
      plan,
      sheet: buildWorkSheet(plan, platform, { ticks: round.ticks }),
      proofs: due.map((proof) => ({
        proof,
        passed: round.proofs.find((entry) => entry.proofId === proof.id)?.passed ?? null,
      })),
      listMinutes: sum([
        ...plan.strip.map(({ operation }) => operation.stripMinutes),
        ...plan.refit.map(({ operation }) => operation.refitMinutes),
      ]),
    };
  },
};
