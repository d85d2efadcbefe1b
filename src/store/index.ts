export { exportBackup, wipe } from './backup/backup';
export { restoreBackup, type RestoreProblem } from './backup/restore';
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
export { loadDemo } from './imports/demo';
export { activate, activeEdition, dropEdition, IMPORT_LOCK, putToUse, sweep } from './editions/editions';
export { EditionReader } from './editions/editionReader';
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
} from './records/events';
export { importPackage, type ImportProgress, type ImportResult, type ReadEdition } from './imports/importPackage';
export type { ChangedRow, ShownChanges } from './editions/changes';
export { loadLearned } from './records/learned';
export { migrate, MIGRATIONS, RECORD_VERSION, type MigrationOutcome } from './records/migrations';
export { cancelOrder, makeOrders, receiveLine, sendOutbox, type Receipt } from './outbox/orders';
export { readPriceFile, type PriceFile, type PriceTable } from './imports/priceFiles';
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
} from './editions/prices';
export { isOrderEvents, isTicketEvents } from './records/parse';

export type { SearchIndexes } from './editions/searchIndexes';
export { photosOf, removePhoto, savePhoto } from './records/photos';
export { loadSettings, saveSettings, shopId } from './records/settings';
