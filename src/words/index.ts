export { enquiryOf, enquiryText, type Enquiry } from './enquiry';
export {
  capital,
  formatDate,
  formatDrawn,
  formatFullDate,
  formatMinutes,
  formatMoment,
  formatMoney,
  formatNumber,
  formatPercent,
  formatMoneyRange,
  formatRange,
  formatRate,
  formatSince,
  formatTimes,
  formatYears,
  listOf,
  ordinal,
  plural,
  symbolOf,
} from './format';
export {
  harvestWords,
  keepBecause,
  movementWords,
  openPartsWords,
  originWords,
  takeWords,
  usedPartWords,
  usedWords,
} from './stock';
export { chargedWords, lineAmountWords, lineWords, optionWords, promiseWords, wayWords, whyNotWords } from './quote';
export {
  awayWords,
  formatHours,
  homeWords,
  jointWords,
  mustNotWords,
  POSTURE_WORDS,
  swapWords,
  ticketFileWords,
} from './bench';
export { movedWords, PROOF_BARS, refusalWords, shakenWords, stepBarWords } from './refusals';
export { noticeWords, PRICE_FIELD_WORDS, problemWords, tableWords } from './files';
export { answerNotes, answerNotice, checkInWords, lineStatusWords, orderStandWords, sizeCheckWords } from './goodsIn';
export { copyAgeWords, copyOutcomeWords } from './copies';
export { clipForPrint, isPrintable, missingTypeWords } from './print';
export { invoiceDifferenceWords, parcelLetter, RETURN_WHY, returnedWords, returnLetter, returnWords } from './returns';
export { orderLetter } from './orderLetter';
export { cutOffWords, notSavedWords, troubleWords, underWayWords } from './trouble';
export { learnedChangeWords, learnedFromWords, ownRowWords } from './own';
export { SHEET_FIELD_WORDS, SHEET_KIND_WORDS, sheetProblemWords } from './sheets';
export { figureWords } from './settings';
export { measuredWords, runWords, STANDARD_WORDS, seatWords, suffixWords, verdictWords } from './measuring';
export {
  candidateWords,
  compareWords,
  differenceWords,
  NOT_LISTED,
  readingWords,
  serialProblemWords,
  type InputWords,
} from './numbers';
export {
  crossProblemWords,
  dimensionWords,
  FIT_WORDS,
  fitReasonWords,
  oldNumberWords,
  RELATION_WORDS,
  ROUTE_WORDS,
} from './parts';
export { eventWords, READY_WORDS } from './history';
export {
  ageWords,
  codeWords,
  doNextWords,
  MEANS_WORDS,
  RUNG_WORDS,
  STATION_NAMES,
  WAITING_NAMES,
  type Moment,
} from './ticket';
export {
  cheaperStillWords,
  choiceBecause,
  choiceWords,
  customerWords,
  otherChoiceWords,
  nearbyBecause,
  nearbyWords,
  outOfHundred,
  payerWords,
  ruleWords,
  spreadWords,
  tippingWords,
  UNKNOWN_WORDS,
  balanceWords,
} from './worth';
export { delayWords, reasonWords, wishWords } from './plan';
export { CALL_WORDS, dayWords, dueWords, taskBecause } from './day';
export {
  calibrationWords,
  daysWords,
  latenessWords,
  marginWords,
  minutesWords,
  monthsWords,
  pricesWords,
  ruleName,
  ruleRecordWords,
  shareWords,
  BOUNDS_BECAUSE,
  boundsWords,
  waitWords,
} from './records';
