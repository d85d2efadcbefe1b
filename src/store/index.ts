export { exportBackup, wipe } from './backup';
export { restoreBackup, type RestoreProblem } from './restore';
export { now } from './clock';
export {
  database,
  type AnyEvent,
  type CustomerRecord,
  type EditionRecord,
  type PhotoRecord,
  type PriceListRecord,
  type PriceRecord,
  type SorterDatabase,
  type SummaryRecord,
} from './database';
export { loadDemo } from './demo';
export { activate, activeEdition, dropEdition, IMPORT_LOCK, putToUse, sweep } from './editions';
export { EditionReader } from './editionReader';
export {
  append,
  eventsOf,
  loadOrder,
  loadTicket,
  openTicket,
  orderStream,
  record,
  ticketStream,
  undoable,
  undoLast,
} from './events';
export { importPackage, type ImportProgress, type ImportResult, type ReadEdition } from './importPackage';
export type { ChangedRow, ShownChanges } from './changes';
export { loadLearned } from './learned';
export { migrate, MIGRATIONS, RECORD_VERSION, type MigrationOutcome } from './migrations';
export { cancelOrder, makeOrders, receiveLine, sendOutbox, type Receipt } from './orders';
export { readPriceFile, type PriceFile, type PriceTable } from './priceFiles';
export {
  dropPrices,
  habitOf,
  matchPrices,
  offersToday,
  pricesVersion,
  putPrices,
  rememberHabit,
  type MatchedPrices,
  type PriceHabit,
} from './prices';
export { isOrderEvents, isTicketEvents } from './parse';

export type { SearchIndexes } from './searchIndexes';
export { photosOf, removePhoto, savePhoto } from './photos';
export { loadSettings, saveSettings, shopId } from './settings';
