export type { Branded } from './brands';
export { typedNumber } from './typed';
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
  asDay,
  asInstant,
  daysBetween,
  earlierOf,
  hoursBetween,
  instantOf,
  isDay,
  isInstant,
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
  weightedQuantile,
  seededRandom,
  type Random,
} from './probability';
export { groupBy, indexOnce, keyBy, stableJson, sum, unique } from './collections';
export { liveEvents, type StoredEvent } from './events';
export { instantSchema, localDateSchema, moneySchema } from './schemas';
export {
  asId,
  idSchema,
  type CauseId,
  type EventId,
  type StockId,
  type LineId,
  type MakerId,
  type ModelId,
  type OrderId,
  type PartId,
  type PlatformId,
  type RequirementId,
  type RoleId,
  type SupplierId,
  type TicketId,
} from './ids';
export {
  afterWorkingDays,
  arrivalDate,
  nextWorkingDay,
  USUAL_SHIPPING,
  type ShippingCalendar,
  type WorkingDays,
} from './workdays';
