export { bearingByDesignation, BEARINGS, findBearing, parseSizes, type Bearing } from './bearings';
export {
  driftFor,
  drawingIn,
  drillsFor,
  nextShim,
  runOutOf,
  THREAD_NAMES,
  tighteningOrder,
  type Drift,
  type DrawingIn,
  type RunOut,
  type NextShim,
  type ShimTried,
  type Thread,
} from './helpers';
export { judgeReading, type Reading, type ReadingLimit, type ReadingVerdict } from './judge';
export { cureHours, vapourPressure, type Room } from './cure';
export { elementOhm, imbalanceNewton, levelSignal, ntcOhm } from './laws';
export { judgeSeats, judgeSuffixes, TOOLS, type Seat, type SeatVerdict, type SuffixVerdict, type Tool } from './seats';
export { soundOf, SOUNDS, type Sound } from './sounds';
export { standardKindOf, standardNumbers, type StandardKind } from './standards';
