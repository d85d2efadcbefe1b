export { ANSWER_MEANS, READY_ITEMS } from './events';
export {
  TEXT_LIMITS,
  TICKET_EVENT_VERSION,
  ticketEventSchema,
  type Basis,
  type BoughtPart,
  type OfferedLine,
  type OfferedOption,
  type Requirement,
  type TicketEvent,
  type TicketEventData,
  type TicketEventOf,
  type TicketEventType,
} from './events';
export { sameStep, type Step } from '../labour';
export {
  acceptedOption,
  clockMinutes,
  cureOf,
  fixIdOf,
  isBegun,
  newRound,
  tookApart,
  unnamedParts,
  type Offered,
  type Round,
  type Tick,
} from './round';
export { isReserved, supplyOf, type Deliveries, type Delivery, type Supply } from './deliveries';
export { applyEvents, basisNow, customerAfter, type Customer, type TicketState } from './state';
export { waitedIn, type Waited, type WaitedFor } from './waited';
export { evidenceOf, isTold, type TicketEvidence } from './evidence';
export {
  awaited,
  leftOver,
  needsOf,
  toBuy,
  benchMinutes,
  standing,
  unordered,
  type PartNeed,
  type Shaken,
  type ShakenBy,
  type Stand,
  type Standing,
} from './standing';
export {
  isSettled,
  isTakenAtOnce,
  openProofs,
  rungNow,
  rungOf,
  waitsFor,
  waitsNow,
  type Rung,
  type Waiting,
} from './ladder';
export type { TicketFileOutcome } from './handedOver';
export { machineName, summarise, type TicketSummary } from './summary';
export { note, noteCustomer, remark, type Fact } from './decide/facts';
export {
  alsoDo,
  atBench,
  layBead,
  setAside,
  runClock,
  answerOffer,
  cameBack,
  chooseParts,
  clearStep,
  closeTicket,
  finishBench,
  handOver,
  keep,
  mayBuy,
  noteProof,
  offer,
  openAgain,
  repairDidNotHelp,
  settleCause,
  tellReady,
  tickStep,
  type BenchFact,
  type OfferDraft,
  type RequirementDraft,
} from './decide/mending';
export { openNeed, stillLacking, takeFromDonor, takeFromShelf } from './decide/supply';
export { lastToTakeBack, mayTakeBack } from './decide/takeBack';
export type { Context, Refusal, TicketAppend, TicketDecision, TicketView } from './decide/refusal';
