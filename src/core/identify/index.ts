export { buildModelIndex, type ModelIndex, type ModelRecord } from './modelIndex';
export { normaliseNumber } from './normal';
export { readPlate, type PlateCandidate, type PlateOptions, type PlateReading } from './readPlate';
export { differencesBetween, type NumberDifference } from './differences';
export { readSerial, type SerialContext, type SerialProblem, type SerialReading } from './readSerial';
export { sortInput, type InputContext, type InputReading, type InputSources } from './sortInput';
export {
  buildNumberList,
  exactNumbers,
  findNumbers,
  mayBeMisread,
  nearNumbers,
  type NumberEntry,
  type NumberList,
} from './numberList';
export { evenOut, toGrey, type GreyImage } from './plateImage';
export { plateText, serialIn, type SeenCode, type SeenLine } from './plateLines';
