export {
  compareRepairReplace,
  effectiveAge,
  mixOwning,
  ownMachine,
  weighQuote,
  type Quotes,
  type Owning,
  type OwningInput,
  type HouseRules,
  type Worth,
  type WorthInput,
} from './compareRepairReplace';
export {
  hazard,
  totalHazard,
  type LifeComponent,
  type ReplacementProblem,
  type ReplacementUncertainty,
} from './problem';
export { annualSpread, decideMachine, repairLimit, type MachineDecision, type MachineQuestion } from './repairLimit';
export { solveReplacement } from './valueCurve';
