export { compareParts, type DimensionVerdict, type FitVerdict, type PartProperties } from './compareParts';
export { crossReference, type CrossReference, type CrossReferenceProblem, type SoldToday } from './crossReference';
export {
  LIKELY,
  numbersOn,
  partsFor,
  shareWithin,
  windowsOf,
  type BuildWindow,
  type FitAnswer,
  type FitCandidate,
  type FitQuestion,
  type FitReason,
  type FitRoute,
  type NumberOnMachine,
} from './partsFor';
export { type OldCandidate, type OldNumber } from './oldNumber';
export { findBearing } from '../measure';
export { isSameFit, partsOfModel, type ModelPart, type RoleParts } from './modelParts';
export { donorsFor, type Donor, type DonorMatch, type DonorQuestion } from './donors';
