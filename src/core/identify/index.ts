export {
  designsBy,
  kindBeside,
  kindFrom,
  kindText,
  kindSeen,
  nextKindQuestion,
  tubSeen,
  type DesignShare,
  type KindAnswers,
  type KindAsked,
  type KindSeen,
} from './kind';
export { keptReading } from './plate/keptReading';
export { toCompare, type ToCompare } from './plate/compare';
export { buildModelIndex, type ModelIndex, type ModelRecord } from './plate/modelIndex';
export {
  kinshipOf,
  numberNeighbours,
  platformShares,
  sharedShare,
  type Kinship,
  type PlatformShare,
} from './relatives';
export { KNOWN_TABLES, knownBy, Naming } from './naming';
export {
  isNoPlate,
  isUnlistedModel,
  namedMaker,
  namedSupplier,
  NO_PLATE,
  typedPart,
  UNKNOWN_MAKE,
  unlistedModel,
} from './own';
export { normaliseNumber } from './plate/normal';
export { readPlate, type PlateCandidate, type PlateOptions, type PlateReading } from './plate/readPlate';
export { mayBeUnlisted } from './plate/unlisted';
export { differencesBetween, type NumberDifference } from './plate/differences';
export {
  numbersIn,
  readPartNumber,
  type ExpectedNumber,
  type NumberCandidate,
  type NumberQuestion,
  type NumberReading,
} from './partNumber/readPartNumber';
export { readSerial, type SerialContext, type SerialProblem, type SerialReading } from './serial/readSerial';
export { nameLine, numberAndWords, type NumberAndWords, type SaidBeside } from './input/numberAndWords';
export { sortInput, type InputContext, type InputReading, type InputSources } from './input/sortInput';
export {
  buildNumberList,
  exactNumbers,
  findNumbers,
  mayBeMisread,
  nearNumbers,
  numberAt,
  type NumberEntry,
  type NumberList,
} from './input/numberList';
export { evenOut, toGrey, type GreyImage } from './picture/plateImage';
export { plateText, serialIn, sureness, type SeenCode, type SeenLine } from './picture/plateLines';
