export { conditionsSeen, lifeFactor, rescueFactor } from './conditions';
export { barredChecks, type Barred } from './liveBars';
export { answersIn, codesIn, findingsIn, type Proposed } from './phrases';
export { DEEP, ONE_STEP, type Effort } from './lookAhead';
export { beliefsAfter, nextAction, openAfter, rankActions } from './nextAction';
export { buildProblem, doableOn, nextSteps, type Doable, type NextStep, type StepCosts } from './nextSteps';
export type { RankedAction, TroubleshootingAction, TroubleshootingEvidence, TroubleshootingProblem } from './problem';
export { faultStatesOf, findingGiven, outcomesGiven, type Evidence, type FaultState } from './faultStates';
export {
  priorsOf,
  rankCauses,
  stateBeliefs,
  type CauseRanking,
  type Clash,
  type Move,
  type PriorFactors,
  type RankedCause,
} from './rankCauses';
export { ageFactors, lifeByWeight } from './agePriors';
export { tellingFindings, type Telling } from './tellingFindings';
export { coveredBy, worthBringing, type Brought, type ToBring } from './takeAlong';
export { toldRoot, whyItFailed, type RankedRoot } from './whyItFailed';
