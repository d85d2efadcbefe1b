import type { Knowledge } from '../catalogue';
import type { Evidence } from './faultStates';

/** Why a check is not to be done now, and what would allow it. */
export type Barred = { checkId: string } & (
  | { kind: 'live'; why: string; liftedBy: { checkId: string; outcomeId: string } | null }
  /** What it needs in its place has been taken off. */
  | { kind: 'taken-off'; operationIds: string[] }
);

/**
 * Checks that must not be done as the machine stands: live ones while a bar holds (it trips, smells burnt, is wet where it is live, its drum is off the axis …) that no
 * outcome has lifted, and those that need something in its place that is off. `open`: operations done. O(checks · bars).
 */
export function barredChecks(
  { checks, liveBars }: Pick<Knowledge, 'checks' | 'liveBars'>,
  { findings, outcomes }: Pick<Evidence, 'findings' | 'outcomes'>,
  open: readonly string[],
): Barred[] {
  const saw = (checkId: string | undefined, outcomeId: string | undefined) =>
    outcomes.some((outcome) => outcome.checkId === checkId && outcome.outcomeId === outcomeId);
  const holding = liveBars.filter(
    ({ findingId, checkId, outcomeId, liftedByCheckId, liftedByOutcomeId }) =>
      (findings.some((finding) => finding.present && finding.findingId === findingId) || saw(checkId, outcomeId)) &&
      !saw(liftedByCheckId, liftedByOutcomeId),
  );
  // What nothing lifts is named before what a check would lift: lifting that alone allows nothing.
  const bar = holding.find(({ liftedByCheckId }) => liftedByCheckId === undefined) ?? holding[0];
  return checks.flatMap(({ id: checkId, state, mustBeOn }): Barred[] => {
    if (bar && state === 'energised') {
      const { why, liftedByCheckId, liftedByOutcomeId } = bar;
      const lifts = liftedByCheckId !== undefined && liftedByOutcomeId !== undefined;
      const liftedBy = lifts ? { checkId: liftedByCheckId, outcomeId: liftedByOutcomeId } : null;
      return [{ checkId, kind: 'live', why, liftedBy }];
    }
    const operationIds = mustBeOn.filter((operation) => open.includes(operation));
    return operationIds.length ? [{ checkId, kind: 'taken-off', operationIds }] : [];
  });
}
