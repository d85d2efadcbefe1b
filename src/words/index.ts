export {
  capital,
  formatDate,
  formatMinutes,
  formatMoment,
  formatMoney,
  formatNumber,
  formatPercent,
  formatRate,
  formatSince,
  formatYears,
  listOf,
  ordinal,
  plural,
  symbolOf,
} from './format';
export {
  crossProblemWords,
  fitReasonWords,
  lineStatusWords,
  problemWords,
  readingWords,
  ROUTE_WORDS,
  serialProblemWords,
  verdictWords,
} from './reasons';
export { ageWords, doNextWords, eventWords, NEXT_WORDS, STATION_NAMES, WAITING_NAMES, type Moment } from './ticket';
