import type { LocalDate } from '@/core/units';
import { expose } from 'comlink';
import type { Problem } from '@/core/package';
import {
  EditionGone,
  checkPackage,
  database,
  emptyShop,
  backupToHandOut,
  copyIntoFolder,
  exportCatalogue,
  exportOwn,
  exportRecords,
  fillDemo,
  importCatalogue,
  removePackage,
  restoreShop,
  standBy,
  tidyUp,
  type ImportProgress,
  type ReadEdition,
  type RestoreOutcome,
  type Undertaking,
  type FolderOutcome,
  type WaitingEdition,
} from '@/store';

export type ImportOutcome =
  | { kind: 'applied'; read: ReadEdition }
  /** Complete beside the catalogue in use, and waiting for a word. */
  | { kind: 'waiting'; read: ReadEdition }
  /** Only looked at: every row is good, and nothing of it was kept. */
  | { kind: 'checked'; read: ReadEdition }
  | { kind: 'nothing-new'; title: string }
  | { kind: 'problems'; problems: Problem[] }
  | { kind: 'cancelled' };

async function fetchDemo(): Promise<File> {
  const response = await fetch('/demo-shop.zip');
  if (!response.ok) throw new Error(`The demo shop could not be fetched (${response.status}).`);
  return new File([await response.blob()], 'demo-shop.zip');
}

let stop = false;
/** What waits for a word. It is held by this worker, and goes with it. */
let waiting: WaitingEdition | null = null;

/** The waiting edition of this name; what is no longer there was dropped with the shop. */
function waitingEdition(editionId: string): WaitingEdition {
  if (waiting?.read.editionId !== editionId) throw new Error('Bug: this edition does not wait here');
  return waiting;
}

const api = {
  /**
   * Reads a package into a new edition. The first is put to use at once; another waits until `apply` or `discard`, with what it changes.
   * Two imports at a time, in any tabs, follow one another.
   */
  async importCatalogue(files: File[], progress: (at: ImportProgress) => void): Promise<ImportOutcome> {
    stop = false;
    await waiting?.discard();
    waiting = null;
    const came = await importCatalogue(database(), files, progress, () => stop);
    if (came.kind !== 'waiting') return came;
    waiting = came.waiting;
    return { kind: 'waiting', read: waiting.read };
  },

  /** Reads a package as an import does, and says what would come of it; nothing of it stays. */
  async checkPackage(files: File[], progress: (at: ImportProgress) => void): Promise<ImportOutcome> {
    stop = false;
    const read = await checkPackage(database(), files, progress, () => stop);
    return read.kind === 'read' ? { kind: 'checked', read } : read;
  },

  /** Puts what waits to use; false: the shop or its catalogue was replaced meanwhile, nothing of it is left, and nothing was changed. */
  async apply(editionId: string): Promise<boolean> {
    const edition = waitingEdition(editionId);
    try {
      await edition.apply();
    } catch (error) {
      // No room: it still waits, and can be tried again.
      if (!(error instanceof EditionGone)) throw error;
      waiting = null;
      await edition.discard();
      return false;
    }
    waiting = null;
    return true;
  },

  async discard(editionId: string): Promise<void> {
    const edition = waitingEdition(editionId);
    waiting = null;
    await edition.discard();
  },

  /** Takes a package out of the catalogue for good. */
  remove: (editionId: string): Promise<void> => removePackage(database(), editionId),

  cancel(): void {
    stop = true;
  },

  /** The demo in place of what is there; `ifUnfilled`: only where it was never filled to the end. What was wrong, if anything. */
  loadDemo: (today: LocalDate, ifUnfilled: boolean, progress: (at: ImportProgress) => void): Promise<string | null> =>
    fillDemo(database(), fetchDemo, today, progress, ifUnfilled),

  /** Everything, and of how many entries; noted as a copy by whoever hands it out. */
  exportBackup: (): Promise<{ backup: Blob; events: number }> => backupToHandOut(database()),

  /** The day’s copy into the folder that the person chose. */
  copyIntoFolder: (zone: string, asked: boolean): Promise<FolderOutcome> => copyIntoFolder(database(), zone, asked),

  /** The catalogue in use as a data package; null when there is none. */
  exportCatalogue: () => exportCatalogue(database()),

  /** What the shop learned, as a package that another shop can import; null when it learned nothing yet. */
  exportOwn: (shopName: string) => exportOwn(database(), shopName),

  /** Closed tickets, orders and the shelf as a data package. */
  exportRecords: (): Promise<Blob> => exportRecords(database()),

  /** `gaps`: what becomes of tickets and orders whose history has a hole. */
  restore: (backup: Blob, gaps: 'refuse' | 'put-aside' = 'refuse'): Promise<RestoreOutcome> =>
    restoreShop(database(), backup, gaps),

  wipe: (): Promise<void> => emptyShop(database()),

  /** Removes what a killed tab left, unless something is going on somewhere. What was cut off. */
  tidyUp: (): Promise<Undertaking | null> => tidyUp(database()),

  /** Answers when nothing is under way any more. What was cut off, if something was. */
  standBy: (): Promise<Undertaking | null> => standBy(database()),
};

export type FilesApi = typeof api;
expose(api);
