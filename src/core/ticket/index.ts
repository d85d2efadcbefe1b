export {
  boughtPartSchema,
  chosenPartSchema,
  NOT_UNDOABLE,
  TICKET_EVENT_VERSION,
  ticketEventSchema,
  type ChosenPart,
  type OfferedOption,
  type TicketEvent,
  type TicketEventData,
  type TicketEventType,
} from './events';
export {
  applyEvents,
  awaited,
  evidenceOf,
  unordered,
  type PartDelivery,
  type PartProgress,
  type TicketState,
} from './state';
export { waitsFor, waitsNow, type Waiting } from './waitsFor';
export { nextKind, nextNow, summarise, type NextKind, type TicketSummary } from './summary';
