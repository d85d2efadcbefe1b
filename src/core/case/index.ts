import type { Catalogue } from '../catalogue';
import type { Learned } from '../learn';
import type { TicketState } from '../ticket';
import type { Instant } from '../units';
import type { Assessment } from './assessment';
import { fromScratchRefined } from './chapter';
import { compose } from './compose';
import type { Settings } from './settings';

/** All that follows from what is known about a ticket, every chapter from scratch and at its best. The page keeps what has not changed: see `createDesk`. */
export const assess = (
  catalogue: Catalogue,
  state: TicketState,
  settings: Settings,
  learned: Learned,
  now: Instant,
): Assessment => compose(fromScratchRefined, { catalogue, settings, learned }, state, now);

export type { Assessment, CausesShown, ChapterName, LoreShown, Unread, Weighed } from './assessment';
export { fromScratch, fromScratchRefined, type Chapter, type Run } from './chapter';
export { compose, type World } from './compose';
export { createDesk, type Desk } from './desk';
export type { Age, Machine } from './chapters/machine';
export type { BenchShown } from './chapters/bench';
export { STATIONS, type DoNext, type Next, type Station } from './chapters/next';
export type { OfferMade, OfferedWay, QuoteRange } from './chapters/jobs';
export type { Choice } from './chapters/choices';
export type { PartShown } from './chapters/part';
export type { ShownStep } from './chapters/steps';
export { WORTH_DRAWS } from './chapters/worth';
export { speakable } from './chapters/jobs';
export { chosenKey, offerOf, settlementOf } from './drafts';
export { partsOf } from './requirements';
export { candidateKey, companionsOf, picksToDecide, type Picked } from './options';
export {
  bestPurchase,
  costOfPieces,
  marketOf,
  type CauseParts,
  type PricedAnswer,
  type PricedCandidate,
  type Purchase,
} from './pricing';
export { defaultSettings, settingsSchema, type Settings } from './settings';
export { ownWarranty, type Payer } from './chapters/payers';
export { harvestList, type HarvestRow } from './harvestList';
export { possibleNeeds, whatToKeep, type KeepRow, type PossibleNeed } from './whatToKeep';
