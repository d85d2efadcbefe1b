export { causeFactor, learnFrom, nothingLearned, timeFactor, type ClosedTicket, type Learned } from './learnFrom';
export { stepTime, type StepTime, type TimedStep } from './stepTimes';
export { lessonOf, type FittedPart, type Lesson } from './lessons';
export {
  absentShare,
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
export {
  CAUSE_TABLES,
  causeCard,
  isOwnKnowledge,
  ownCheck,
  ownLikelihood,
  ownAnswerPhrase,
  ownPhrase,
  rowsOfCheck,
  type CauseCard,
  type CauseTables,
  type NewCheck,
  type OwnRow,
} from './ownKnowledge';
export { learnedLives, lifeChanges, type Failures, type LifeChange } from './lives';
export { learnedChanges, without, type LearnedChange } from './changes';
export { rescueChance } from './rescues';
export {
  recordsOf,
  type Calibration,
  type CaseRecord,
  type MonthShare,
  type RecordedCase,
  type Records,
  type RuleRecord,
  type Share,
} from './records';
