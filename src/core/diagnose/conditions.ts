import type { Condition, Knowledge } from '../catalogue';
import type { CauseId } from '../units';
import type { Evidence } from './faultStates';

/** Conditions of the machine and its place that were seen or told. O(conditions × evidence). */
export function conditionsSeen(
  { conditions }: Pick<Knowledge, 'conditions'>,
  { findings, outcomes }: Pick<Evidence, 'findings' | 'outcomes'>,
): Condition[] {
  return conditions.filter(
    ({ findingId, checkId, outcomeId }) =>
      findings.some((finding) => finding.present && finding.findingId === findingId) ||
      outcomes.some((outcome) => outcome.checkId === checkId && outcome.outcomeId === outcomeId),
  );
}

/** Several together are hardly worse than this. */
const BOUNDS = { life: 0.3, rescue: 3 };

/** The factor on the scale of a cause's life; those of several conditions multiplied, down to three tenths. */
export const lifeFactor = (conditions: readonly Condition[], causeId: CauseId | undefined): number =>
  Math.max(
    BOUNDS.life,
    conditions.reduce(
      (factor, { causes, lifeFactor: own }) =>
        causes.length === 0 || causes.some((id) => id === causeId) ? factor * own : factor,
      1,
    ),
  );

/** How much likelier than usual it is that something will not come; up to threefold. */
export const rescueFactor = (conditions: readonly Condition[]): number =>
  Math.min(
    BOUNDS.rescue,
    conditions.reduce((factor, { rescueFactor: own }) => factor * own, 1),
  );
