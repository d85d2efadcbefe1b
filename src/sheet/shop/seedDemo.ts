import { proxy } from 'comlink';
import { localDateOf } from '@/core/units';
import { now, type ImportProgress } from '@/store';
import { filesWorker } from '@/workers';
import { deviceZone } from './places';

async function fetchDemo(): Promise<File> {
  const response = await fetch('/demo-shop.zip');
  if (!response.ok) throw new Error(`The demo shop could not be fetched (${response.status}).`);
  return new File([await response.blob()], 'demo-shop.zip');
}

/** The demo in place of whatever is in the shop: who has something is asked before. */
export async function seedDemo(progress: (at: ImportProgress) => void): Promise<void> {
  const wrong = await filesWorker.get().loadDemo(await fetchDemo(), localDateOf(now(), deviceZone()), proxy(progress));
  if (wrong) throw new Error(wrong);
}
