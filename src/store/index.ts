export {
  askForFolder,
  chooseFolder,
  copyState,
  isCopyDue,
  keepQuiet,
  noteCopy,
  restBeforeCopy,
  type CopyState,
} from './backup/copies';
export { backupToHandOut, copyIntoFolder, type FolderOutcome } from './backup/folderCopy';
export { exportCatalogue, exportOwn } from './backup/exportCatalogue';
export { exportRecords } from './backup/exportRecords';
export type { RestoreOutcome, RestoreProblem } from './backup/restore';
export { now } from './clock';
export {
  database,
  openShop,
  shopOpen,
  tabHere,
  type CustomerRecord,
  type EditionRecord,
  type PhotoRecord,
  type PriceListRecord,
  type PriceRecord,
  type ShopKind,
  type SorterDatabase,
  type SummaryRecord,
} from './database';
export type { ChangedRow, ShownChanges } from './editions/changes';
export { catalogueOf, CatalogueReader, type RowSource } from './editions/catalogueReader';
export { EditionGone, layersKey, layersOf, switchLayer, type Layer } from './editions/layers';
export type { LayerReader } from './editions/editionReader';
export { ownLayer } from './editions/ownLayer';
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
export { hasOwnData } from './imports/demo';
export type { ImportProgress, ImportResult, ReadEdition } from './imports/importPackage';
export { readPriceFile, type PriceFile, type PriceTable } from './imports/priceFiles';
export {
  rememberSheet,
  sheetChanges,
  sheetHabit,
  sheetLayer,
  sheetWorld,
  putCustomers,
  type SheetChanges,
  type SheetHabit,
} from './imports/sheets';
export { ticketFromFile, ticketToFile } from './records/ticketFile';
export { sendWaitingOrders } from './outbox';
export { dexieStore, eventStore, lotsOf } from './records/act';
export { onOrder, onTicket, openTicket, takeBack } from './records/acts';
export {
  cancelOrder,
  checkIn,
  harvestPart,
  onLot,
  onLotAndTicket,
  placeOrders,
  putInStock,
  shelvePart,
  takeFromDonor,
  sendReturns,
} from './records/supplyActs';
export type { AnyEvent, Done, EventStore } from './records/door';
export { draftOf, dropDraft, putDraft, takeOverDrafts } from './records/drafts';
export { earlierTickets, type BeforeQuestion, type EarlierTicket } from './records/earlier';
export { hasNoRoom, saving, type SavingState } from './saving';
export { loadLearned, recordedCases } from './records/learned';
export { openRecords, type OpeningOutcome } from './records/opening';
export { isOrderEvents, isTicketEvents } from './records/parse';
export { benchPhotosBeside, photoById, photosOf, removePhoto, savePhoto } from './records/photos';
export { changeSettings, loadSettings, shopId, type ReadSettings, type SettingsChange } from './records/settings';
export { correctOwn, dropOwnRows, putOwnRows, restoreOwn, strikeOwn, type OwnProblems } from './records/own';
export { RECORD_VERSION } from './records/version';
export { CLOSED_VERSION, OWN_VERSION, STOCK_VERSION } from './records/versions';
export {
  checkPackage,
  emptyShop,
  fillDemo,
  importCatalogue,
  removePackage,
  restoreShop,
  takeSheet,
  type WaitingEdition,
} from './whole/shop';
export { isFilled, standBy, tidyUp } from './whole/tidy';
export { undertakingOf, type Undertaking } from './whole/undertaking';
