export { barredChecks, type Barred } from './liveBars';
export { findingsIn, type Proposed } from './phrases';
export { DEEP, ONE_STEP, type Effort } from './lookAhead';
export { beliefsAfter, nextAction, rankActions } from './nextAction';
export { buildProblem, doableOn, nextSteps, type Doable, type NextStep, type StepCosts } from './nextSteps';
export type { RankedAction, TroubleshootingAction, TroubleshootingEvidence, TroubleshootingProblem } from './problem';
export {
  priorsOf,
  rankCauses,
  type CauseRanking,
  type Evidence,
  type PriorFactors,
  type RankedCause,
} from './rankCauses';
