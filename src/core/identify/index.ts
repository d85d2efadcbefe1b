export {
  designsBy,
  kindSeen,
  nextKindQuestion,
  type DesignShare,
  type KindAnswers,
  type KindAsked,
  type KindSeen,
} from './kind';
export { buildModelIndex, type ModelIndex, type ModelRecord } from './plate/modelIndex';
export { normaliseNumber } from './plate/normal';
export { readPlate, type PlateCandidate, type PlateOptions, type PlateReading } from './plate/readPlate';
export { differencesBetween, type NumberDifference } from './plate/differences';
export { readSerial, type SerialContext, type SerialProblem, type SerialReading } from './serial/readSerial';
export { sortInput, type InputContext, type InputReading, type InputSources } from './input/sortInput';
export {
  buildNumberList,
  exactNumbers,
  findNumbers,
  mayBeMisread,
  nearNumbers,
  type NumberEntry,
  type NumberList,
} from './input/numberList';
export { evenOut, toGrey, type GreyImage } from './picture/plateImage';
export { plateText, serialIn, type SeenCode, type SeenLine } from './picture/plateLines';
