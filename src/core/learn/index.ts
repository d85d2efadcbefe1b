export { causeFactor, learnFrom, nothingLearned, timeFactor, type ClosedTicket, type Learned } from './learnFrom';
export { lessonOf, type FittedPart, type Lesson } from './lessons';
export {
  cellsOf,
  fitProbability,
  ownRowId,
  ownRows,
  supplierNamed,
  unlistedShare,
  type Below,
  type Correction,
  type LearnedFrom,
  type OwnEntry,
  type OwnRows,
} from './ownRows';
