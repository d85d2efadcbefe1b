import 'fake-indexeddb/auto';
import type { EditionRecord, SorterDatabase } from '@/store/database';
import { layersOf } from '@/store/editions/layers';

/** The topmost package in use; null where there is none. */
export const topEdition = async (db: SorterDatabase): Promise<EditionRecord | null> =>
  (await layersOf(db)).findLast(({ on }) => on)?.edition ?? null;
