export { heuristicPlan } from './plan/heuristic';
export { createHighsSolver } from './plan/highs';
export { planOrder } from './plan/planOrder';
export {
  isOpened,
  planPurchases,
  type PurchaseLine,
  type PurchaseOptions,
  type PurchasePlan,
  type ShelfWant,
  type SupplierOrder,
} from './plan/planPurchases';
export type { Market, PurchaseRequirement, PurchaseTicket } from './plan/wanted';
export {
  aspectsOf,
  explainAspect,
  planDifference,
  withWishes,
  type PlanAspect,
  type PlanDifference,
  type PlanReason,
  type Wish,
} from './plan/wishes';
export { daysBeyond, parcelsOf, supplierDelays, type Delay, type Delays } from './plan/delays';
export { orderHabits, waitingFor, type OrderHabits, type Seen, type Waiting } from './plan/wait';
export {
  evaluate,
  InfeasibleOrder,
  planCost,
  type Buy,
  type Fault,
  type Give,
  type OrderPlan,
  type OrderProblem,
} from './plan/problem';
export type { MilpModel, MilpResult, MilpSolver } from './plan/solver';
export {
  applyOrderEvents,
  fellAway,
  hasOpenReturns,
  isDue,
  LONGEST_WAIT_MINUTES,
  ORDER_EVENT_VERSION,
  orderAnswerSchema,
  orderEventSchema,
  orderTotal,
  type AnswerDoubt,
  type AnswerProblem,
  type MeasuredSize,
  type OrderAnswer,
  type OrderEvent,
  type OrderEventData,
  type OrderLine,
  type OrderPhase,
  type OrderState,
  type InvoiceDifference,
  type PlacedLine,
  type ReturnState,
} from './stream/orderStream';
export { judgeAnswer, lineNamed, type HeardAnswer, type HeardLine, type Judged } from './decide/gate';
export { answerByHand, type SaidOfLine } from './decide/byHand';
export { placeOrders, type Append, type Decision, type OrderAppend, type OrderDraft } from './decide/place';
export {
  cancelOrder,
  noteAnswer,
  noteRefused,
  noteSendFailed,
  noteSentByHand,
  noteTrying,
  noteVoid,
} from './decide/send';
export {
  mayReturn,
  noteParcelSent,
  noteReturnSent,
  noteShort,
  returnParcels,
  sendBack,
  settleReturn,
  type ReturnDraft,
  type ReturnParcel,
  type ReturnTerms,
  type ReturnWhy,
} from './decide/returns';
export { mayUndo } from './decide/mayUndo';
export { arrivalsOf, goingBackOf, type Arrival } from './decide/arrivals';
export { compareInvoice, noteInvoice, type HeardInvoice } from './decide/invoice';
export { checkInLine, spareOf, type Receipt } from './decide/receive';
export { checkIn, type CheckInVerdict } from './goodsIn/checkIn';
