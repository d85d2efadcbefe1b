import type { Catalogue } from '@/core/catalogue';
import type { LocalDate, PlatformId } from '@/core/units';
import type { Named } from '../editions/editionWriter';
import { wipe } from '../backup/backup';
import { restoreBackup, type RestoreOutcome } from '../backup/restore';
import type { SorterDatabase } from '../database';
import { activate, dropEdition, layersOf, pileKey, putToUse, removeLayer, sweep } from '../editions/layers';
import { loadDemo } from '../imports/demo';
import { importPackage, type ImportProgress, type ImportResult, type ReadEdition } from '../imports/importPackage';
import { putSheet } from '../imports/sheets';
import { isFilled } from './tidy';
import { afterUndertaking, holdEdition, undertake } from './undertaking';

/*
 * The one place from which catalogues are replaced or swept and the shop is emptied or filled. Pages and workers know these, and not what they are made of.
 */

type Progress = (at: ImportProgress) => void;

/** An edition that is complete and waits for a word. Whoever holds it must put it to use or let it go; a tab that dies lets go of it. */
export type WaitingEdition = { read: ReadEdition; apply: () => Promise<void>; discard: () => Promise<void> };

export type Imported =
  | { kind: 'applied'; read: ReadEdition }
  | { kind: 'waiting'; waiting: WaitingEdition }
  | { kind: 'nothing-new'; title: string }
  | Exclude<ImportResult, ReadEdition>;

/** Reads a package into a new edition. The first is put to use at once; another waits, with what it changes. */
export const importCatalogue = (
  db: SorterDatabase,
  files: readonly File[],
  progress: Progress,
  cancelled: () => boolean,
): Promise<Imported> =>
  undertake(
    db,
    'import',
    async () => {
      const pile = pileKey(await layersOf(db));
      const read = await importPackage(db, files, progress, cancelled);
      if (read.kind !== 'read') return read;
      if (read.renews === null && read.beside.length === 0) {
        await activate(db, read.editionId);
        return { kind: 'applied', read };
      }
      if (read.changes?.length === 0) {
        await dropEdition(db, read.editionId);
        return { kind: 'nothing-new', title: read.renews ?? read.title };
      }
      return { kind: 'waiting', waiting: await waitingFor(db, read, pile) };
    },
    saysThatItWaits(progress),
  );

const saysThatItWaits = (progress: Progress) => (): void => progress({ stage: 'waiting', done: 0, total: 1, file: '' });

/** Claimed before the undertaking ends, so that no tab sweeps it in between. */
async function waitingFor(db: SorterDatabase, read: ReadEdition, pile: string): Promise<WaitingEdition> {
  const letGo = await holdEdition(db, read.editionId);
  return {
    read,
    apply: async () => {
      await undertake(db, 'import', () => putToUse(db, read.editionId, pile));
      letGo();
      // The old edition goes in its own time; what is left of it when this fails goes at the next start.
      void afterUndertaking(db, () => sweep(db)).catch(() => undefined);
    },
    discard: async () => {
      await dropEdition(db, read.editionId);
      letGo();
    },
  };
}

/** Reads a package as an import does, and says what would come of it; nothing of it stays. */
export const checkPackage = (
  db: SorterDatabase,
  files: readonly File[],
  progress: Progress,
  cancelled: () => boolean,
): Promise<ImportResult> =>
  undertake(
    db,
    'import',
    async () => {
      const read = await importPackage(db, files, progress, cancelled);
      if (read.kind === 'read') await dropEdition(db, read.editionId);
      return read;
    },
    saysThatItWaits(progress),
  );

/** The rows of a spreadsheet as a layer of their source. */
export const takeSheet = (
  db: SorterDatabase,
  named: Named,
  catalogue: Catalogue,
  platformOf: ReadonlyMap<string, PlatformId>,
): Promise<void> => undertake(db, 'list', () => putSheet(db, named, catalogue, platformOf));

/** Takes a package out of the catalogue for good. */
export const removePackage = (db: SorterDatabase, editionId: string): Promise<void> =>
  undertake(db, 'remove', () => removeLayer(db, editionId));

/** Everything as it is in a backup. */
export const restoreShop = (
  db: SorterDatabase,
  backup: Blob,
  gaps: 'refuse' | 'put-aside' = 'refuse',
): Promise<RestoreOutcome> => undertake(db, 'restore', () => restoreBackup(db, backup, gaps));

export const emptyShop = (db: SorterDatabase): Promise<void> => undertake(db, 'empty', () => wipe(db));

/** The demo in place of what is there. `ifUnfilled`: only into a demo shop that was never filled to the end. */
export const fillDemo = (
  db: SorterDatabase,
  file: () => Promise<File>,
  today: LocalDate,
  progress: Progress,
  ifUnfilled = false,
): Promise<string | null> =>
  undertake(db, 'demo', async () => {
    if (ifUnfilled && (await isFilled(db))) return null;
    return loadDemo(db, await file(), today, progress);
  });
