import type { LocalDate } from '@/core/units';
import { expose } from 'comlink';
import type { Problem } from '@/core/package';
import {
  activate,
  database,
  dropEdition,
  exportBackup,
  exportCatalogue,
  exportOwn,
  importPackage,
  importLock,
  loadDemo,
  putToUse,
  removeLayer,
  restoreBackup,
  sweep,
  wipe,
  type ImportProgress,
  type ReadEdition,
  type RestoreOutcome,
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

let stop = false;
/** Lets go of the lock that keeps other tabs from sweeping the edition that waits. */
let release: (() => void) | null = null;

const holdLock = () =>
  new Promise<void>((held) => {
    void navigator.locks.request(
      importLock(database()),
      () =>
        new Promise<void>((done) => {
          release = done;
          held();
        }),
    );
  });

function letGo(): void {
  release?.();
  release = null;
}

const api = {
  /**
   * Reads a package into a new edition. The first is put to use at once; another waits until `apply` or `discard`, with what it changes.
   * Two imports at a time, in any tabs, follow one another.
   */
  async importCatalogue(files: File[], progress: (at: ImportProgress) => void): Promise<ImportOutcome> {
    stop = false;
    letGo();
    await holdLock();
    let waiting = false;
    try {
      const db = database();
      const result = await importPackage(db, files, progress, () => stop);
      if (result.kind !== 'read') return result;
      if (result.renews === null && result.beside.length === 0) {
        await activate(db, result.editionId);
        return { kind: 'applied', read: result };
      }
      if (result.changes?.length === 0) {
        await dropEdition(db, result.editionId);
        return { kind: 'nothing-new', title: result.renews ?? result.title };
      }
      waiting = true;
      return { kind: 'waiting', read: result };
    } finally {
      if (!waiting) letGo();
    }
  },

  /** Reads a package as an import does, and says what would come of it; nothing of it stays. */
  async checkPackage(files: File[], progress: (at: ImportProgress) => void): Promise<ImportOutcome> {
    stop = false;
    letGo();
    await holdLock();
    try {
      const result = await importPackage(database(), files, progress, () => stop);
      if (result.kind !== 'read') return result;
      await dropEdition(database(), result.editionId);
      return { kind: 'checked', read: result };
    } finally {
      letGo();
    }
  },

  async apply(editionId: string): Promise<void> {
    await putToUse(database(), editionId);
    // The old edition goes in its own time; what is left of it when this fails goes at the next start.
    void sweep(database())
      .catch(() => undefined)
      .finally(letGo);
  },

  async discard(editionId: string): Promise<void> {
    await dropEdition(database(), editionId);
    letGo();
  },

  /** Takes a package out of the catalogue for good. */
  async remove(editionId: string): Promise<void> {
    await navigator.locks.request(importLock(database()), { ifAvailable: true }, async (lock) => {
      if (!lock) throw new Error('an import is under way or waits for a word: see to that first');
      await removeLayer(database(), editionId);
    });
  },

  cancel(): void {
    stop = true;
  },

  async loadDemo(file: File, today: LocalDate, progress: (at: ImportProgress) => void): Promise<string | null> {
    return loadDemo(database(), file, today, progress);
  },

  async exportBackup(): Promise<Blob> {
    return exportBackup(database());
  },

  /** The catalogue in use as a data package; null when there is none. */
  exportCatalogue: () => exportCatalogue(database()),

  /** What the shop learned, as a package that another shop can import; null when it learned nothing yet. */
  exportOwn: (shopName: string) => exportOwn(database(), shopName),

  async restore(backup: Blob): Promise<RestoreOutcome> {
    return restoreBackup(database(), backup);
  },

  async wipe(): Promise<void> {
    await wipe(database());
  },

  /** Removes what a killed tab left, unless an import is going on somewhere. */
  async sweep(): Promise<void> {
    await navigator.locks.request(importLock(database()), { ifAvailable: true }, async (lock) => {
      if (lock) await sweep(database());
    });
  },
};

export type FilesApi = typeof api;
expose(api);
