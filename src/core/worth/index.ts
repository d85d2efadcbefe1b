export {
  compareRepairReplace,
  weighPaths,
  weighQuote,
  type Path,
  type Quotes,
  type Waiting,
  type WeighedPath,
  type Worth,
  type WorthInput,
} from './compareRepairReplace';
export { askRules, ruleLimits, yearlyCostOfRule, type HouseRules, type RuleId, type RuleOpinion } from './houseRules';
export { ageToRead, effectiveAge, mixOwning, ownMachine, problemOf, type Owning, type OwningInput } from './owning';
export {
  failuresUntil,
  hazard,
  totalHazard,
  type LifeComponent,
  type ReplacementProblem,
  type ReplacementUncertainty,
} from './problem';
export {
  annualSpread,
  decideMachine,
  repairLimit,
  type MachineDecision,
  type MachineQuestion,
  type UsedAge,
} from './repairLimit';
export {
  advantagePerHundredth,
  limitsOf,
  tippingAge,
  tippingPrice,
  unknowns,
  type OwningCase,
  type Unknown,
} from './tipping';
export { doItNow, failsWithin, type DoNow } from './doItNow';
export { remainingLife, valueNeverReplaced } from './renewal';
export { solveReplacement } from './valueCurve';
