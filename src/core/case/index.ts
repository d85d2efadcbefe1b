export { assess } from './assess';
export { STATIONS, type Age, type Assessment, type DoNext, type KnowledgeRows, type Station } from './assessment';
export { chosenKey, partsChosen, quoteGiven } from './decisions';
export { candidateKey, type RepairOption } from './options';
export {
  bestOffer,
  partsOfCause,
  pricedParts,
  sellingPrice,
  type CauseParts,
  type PricedAnswer,
  type PricedCandidate,
} from './pricing';
export { defaultSettings, settingsSchema, type Settings } from './settings';
export { WORTH_DRAWS } from './estimates';
