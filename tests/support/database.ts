import 'fake-indexeddb/auto';
import { SorterDatabase } from '@/store/database';

let count = 0;

/** An empty database of its own for one test. */
export const freshDatabase = (): SorterDatabase => new SorterDatabase(`test-${(count += 1)}`);
