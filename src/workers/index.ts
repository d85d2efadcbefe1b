import { wrap, type Remote } from 'comlink';
import { nameForWorker } from '@/store/database';
import type { AssessApi } from './assess.worker';
import type { CameraApi } from './camera.worker';
import type { FilesApi } from './files.worker';
import type { OrdersApi } from './orders.worker';
import type { PricesApi } from './prices.worker';
import type { SearchApi } from './search.worker';
import type { ShelfApi } from './shelf.worker';
import type { SheetsApi } from './sheets.worker';

/** One worker per heavy computation, started when first asked for and kept. */
function lazily<T>(start: () => Worker): { get: () => Remote<T>; stop: () => void } {
  let worker: Worker | null = null;
  let remote: Remote<T> | null = null;
  return {
    get: () => {
      if (remote === null) {
        worker = start();
        remote = wrap<T>(worker);
      }
      return remote;
    },
    /** Ends it at once; the next call starts a new one. */
    stop: () => {
      worker?.terminate();
      worker = null;
      remote = null;
    },
  };
}

export const searchWorker = lazily<SearchApi>(
  () => new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);
export const assessWorker = lazily<AssessApi>(
  () => new Worker(new URL('./assess.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);
export const ordersWorker = lazily<OrdersApi>(
  () => new Worker(new URL('./orders.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);
export const filesWorker = lazily<FilesApi>(
  () => new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);

/** Of its own, so that it can be ended after an import without ending a backup. */
export const importWorker = lazily<FilesApi>(
  () => new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);

export const cameraWorker = lazily<CameraApi>(
  () => new Worker(new URL('./camera.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);

export const pricesWorker = lazily<PricesApi>(
  () => new Worker(new URL('./prices.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);

export const sheetsWorker = lazily<SheetsApi>(
  () => new Worker(new URL('./sheets.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);

export const shelfWorker = lazily<ShelfApi>(
  () => new Worker(new URL('./shelf.worker.ts', import.meta.url), { type: 'module', name: nameForWorker() }),
);

export type { ListedNumber, ListedStock, ShelfView } from './shelf.worker';
export type { Assessed } from './assess.worker';
export type { CheckedList, OpenedList } from './prices.worker';
export type { PictureProgress, PictureReading } from './camera.worker';
export type { LearnedListed, ModelSheet, OwnListed, PartModel, Relative, Said } from './search.worker';
export type { CheckedSheet, NamedPart, OpenedSheet } from './sheets.worker';
export type { ImportOutcome } from './files.worker';
export type { CheckedIn, PartSizes, PlannedPurchases } from './orders.worker';
