export {
  changeLot,
  harvest,
  idleHere,
  release,
  reserve,
  shelve,
  stock,
  takeFromStock,
  type Lot,
  type LotChange,
  type StockDecision,
} from './decide';
export { asSeenBy, lotOfOffer, SHELF, withStock } from './onTheMarket';
export {
  applyStockEvents,
  mayTake,
  STOCK_EVENT_VERSION,
  stockEventSchema,
  type Movement,
  type Reservation,
  type StockAppend,
  type StockEvent,
  type StockEventData,
  type StockEventOf,
  type StockOrigin,
  type StockState,
} from './stockStream';
export {
  deadPieces,
  demandOf,
  demandWithin,
  keepLevel,
  packsToFill,
  type Demand,
  type KeepLevel,
  type KeepTerms,
  type Use,
} from './keep';
