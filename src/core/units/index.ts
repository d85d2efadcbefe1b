export { assert, defined, fail, ok, type Result } from './result';
export {
  addMoney,
  currencyCodes,
  currencyDecimals,
  fromMajor,
  isCurrency,
  money,
  moneyToDecimal,
  guessMoney,
  parseDecimal,
  parseMoney,
  shareOfMoney,
  subtractMoney,
  sumMoney,
  timesMoney,
  toMajor,
  zeroMoney,
  type Money,
  type MoneyProblem,
} from './money';
export {
  addDays,
  addHours,
  daysBetween,
  earlierOf,
  hoursBetween,
  isDay,
  isoWeekday,
  isoWeekStart,
  laterOf,
  localDateOf,
  localTimeOf,
  yearsBetween,
  type Instant,
  type LocalDate,
} from './dates';
export {
  entropyBits,
  hashText,
  normalCdf,
  normalDraw,
  normalise,
  quantile,
  seededRandom,
  type Random,
} from './probability';
export { groupBy, indexOnce, keyBy, stableJson, sum, unique } from './collections';
export { liveEvents, type StoredEvent } from './events';
export { instantSchema, localDateSchema, moneySchema } from './schemas';
