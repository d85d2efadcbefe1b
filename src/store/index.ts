export { exportBackup, readBackup, restoreBackup, wipe, type RestoreProblem } from './backup';
export { now } from './clock';
export {
  database,
  type AnyEvent,
  type CustomerRecord,
  type EditionRecord,
  type SorterDatabase,
  type SummaryRecord,
} from './database';
export { loadDemo } from './demo';
export { activate, activeEdition, EditionReader, sweep, writeEdition } from './editions';
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
export { loadLearned } from './learned';
export { migrate, MIGRATIONS, RECORD_VERSION, type MigrationOutcome } from './migrations';
export { cancelOrder, makeOrders, receiveLine, sendOutbox, type Receipt } from './orders';
export { isOrderEvents, isTicketEvents } from './parse';
export { readPackageFiles, type ImportProgress } from './readFiles';
export { loadSettings, saveSettings, shopId } from './settings';
