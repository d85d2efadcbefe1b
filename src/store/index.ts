export { exportBackup, wipe } from './backup/backup';
export { exportCatalogue } from './backup/exportCatalogue';
export { restoreBackup, type RestoreOutcome, type RestoreProblem } from './backup/restore';
export { now } from './clock';
export {
  database,
  type CustomerRecord,
  type EditionRecord,
  type PhotoRecord,
  type PriceListRecord,
  type PriceRecord,
  type SorterDatabase,
  type SummaryRecord,
} from './database';
export type { ChangedRow, ShownChanges } from './editions/changes';
export { activate, activeEdition, dropEdition, IMPORT_LOCK, putToUse, sweep } from './editions/editions';
export { EditionReader, NO_EDITION } from './editions/editionReader';
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
export type { SearchIndexes } from './editions/searchIndexes';
export { hasOwnData, loadDemo } from './imports/demo';
export { importPackage, type ImportProgress, type ImportResult, type ReadEdition } from './imports/importPackage';
export { readPriceFile, type PriceFile, type PriceTable } from './imports/priceFiles';
export { sendWaitingOrders } from './outbox/sending';
export { CLOSED_VERSION, dexieStore, eventStore } from './records/act';
export {
  cancelOrder,
  checkIn,
  onOrder,
  onTicket,
  openTicket,
  placeOrders,
  takeBack,
  takeFromDonor,
} from './records/acts';
export type { AnyEvent, Done, EventStore } from './records/door';
export { loadLearned } from './records/learned';
export { openRecords, type OpeningOutcome } from './records/opening';
export { isOrderEvents, isTicketEvents } from './records/parse';
export { photosOf, removePhoto, savePhoto } from './records/photos';
export { changeSettings, loadSettings, shopId, type ReadSettings, type SettingsChange } from './records/settings';
export { RECORD_VERSION } from './records/version';
