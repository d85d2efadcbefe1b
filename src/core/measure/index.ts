export { bearingByDesignation, BEARINGS, findBearing, parseSizes, type Bearing } from './bearings';
export { judgeReading, type Reading, type ReadingLimit, type ReadingVerdict } from './judge';
export { elementOhm, imbalanceNewton, ntcOhm } from './laws';
