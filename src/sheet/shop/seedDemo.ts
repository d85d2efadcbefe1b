import { proxy } from 'comlink';
import { localDateOf } from '@/core/units';
import { now, type ImportProgress } from '@/store';
import { filesWorker } from '@/workers';
import { deviceZone } from './places';

/** The demo in place of whatever is in the shop: who has something is asked before. `ifUnfilled`: only where no filling came to its end. */
export async function seedDemo(progress: (at: ImportProgress) => void, ifUnfilled = false): Promise<void> {
  const wrong = await filesWorker.get().loadDemo(localDateOf(now(), deviceZone()), ifUnfilled, proxy(progress));
  if (wrong) throw new Error(wrong);
}
