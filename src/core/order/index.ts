export { heuristicPlan } from './heuristic';
export { createHighsSolver } from './highs';
export { planOrder } from './planOrder';
export {
  planPurchases,
  type Market,
  type PurchaseLine,
  type PurchaseOptions,
  type PurchasePlan,
  type PurchaseRequirement,
  type PurchaseTicket,
  type SupplierOrder,
} from './planPurchases';
export {
  evaluate,
  InfeasibleOrder,
  planCost,
  type Buy,
  type Fault,
  type Give,
  type OrderPlan,
  type OrderProblem,
} from './problem';
export type { MilpModel, MilpResult, MilpSolver } from './solver';
export {
  applyOrderEvents,
  orderAnswerSchema,
  orderEventSchema,
  orderLineSchema,
  type OrderAnswer,
  type OrderEvent,
  type OrderEventData,
  type OrderLine,
  type OrderState,
  type MeasuredSize,
  type PlacedLine,
} from './orderStream';
export { checkIn, type CheckInVerdict } from './checkIn';
export {
  readUblOrder,
  readUblOrderResponse,
  writeUblOrder,
  writeUblOrderResponse,
  type UblOrder,
  type UblProblem,
} from './ubl';
export { orderAsCsv, orderAsUbl } from './documents';
