import { expose } from 'comlink';
import type { Problem } from '@/core/catalogue';
import {
  activate,
  database,
  exportBackup,
  loadDemo,
  readPackageFiles,
  restoreBackup,
  sweep,
  wipe,
  writeEdition,
  type ImportProgress,
  type RestoreProblem,
} from '@/store';

export type ImportOutcome =
  | { kind: 'applied'; title: string; counts: Record<string, number> }
  | { kind: 'problems'; problems: Problem[] }
  | { kind: 'cancelled' };

let stop = false;

const api = {
  /** Reads a package and, only if it has no problem at all, makes it the catalogue. */
  async importCatalogue(files: File[], progress: (at: ImportProgress) => void): Promise<ImportOutcome> {
    stop = false;
    const db = database();
    const result = await readPackageFiles(files, progress, () => stop);
    if ('cancelled' in result) return { kind: 'cancelled' };
    if (result.problems.length) return { kind: 'problems', problems: result.problems };
    const edition = await writeEdition(
      db,
      result.title,
      result.catalogue,
      (done, total) => progress({ stage: 'writing', done, total, file: '' }),
      () => stop,
    );
    if (!edition) return { kind: 'cancelled' };
    await activate(db, edition);
    return {
      kind: 'applied',
      title: result.title,
      counts: Object.fromEntries(Object.entries(result.catalogue).map(([name, rows]) => [name, rows.length])),
    };
  },

  cancel(): void {
    stop = true;
  },

  async loadDemo(file: File, today: string, progress: (at: ImportProgress) => void): Promise<string | null> {
    return loadDemo(database(), file, today, progress);
  },

  async exportBackup(): Promise<Uint8Array> {
    return exportBackup(database());
  },

  async restore(bytes: Uint8Array): Promise<{ ok: true } | { ok: false; error: RestoreProblem }> {
    return restoreBackup(database(), bytes);
  },

  async wipe(): Promise<void> {
    await wipe(database());
  },

  async sweep(): Promise<void> {
    await sweep(database());
  },
};

export type FilesApi = typeof api;
expose(api);
