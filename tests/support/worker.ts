import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import Dexie from 'dexie';
import { strToU8, zipSync } from 'fflate';
import { vi } from 'vitest';
import type { SorterDatabase } from '@/store/database';
import { demoFiles } from './demo';
import { DEMO_DAY } from './demoDay';
import { nodeLocks } from './locks';

/** The demo shop as the one zip that the application loads; some of its files changed. */
export function demoZip(change: Record<string, (text: string) => string> = {}, name = 'demo.zip'): File {
  const files: Record<string, Uint8Array> = {};
  for (const file of demoFiles()) files[file.path] = strToU8((change[file.path] ?? ((text) => text))(file.text));
  for (const other of ['shop.json', 'events.jsonl'])
    files[other] = readFileSync(path.join(import.meta.dirname, '../../demo-shop', other));
  return new File([new Uint8Array(zipSync(files, { level: 1 }))], name);
}

/** New locks: nobody holds any. */
export function giveLocks(): void {
  vi.stubGlobal('navigator', { locks: nodeLocks() });
}

let last: SorterDatabase | null = null;

/** A worker's methods, called without the worker, over an empty database. Nothing remains of the one before. */
export async function startWorker<T>(load: () => Promise<unknown>): Promise<{ api: T; db: SorterDatabase }> {
  vi.resetModules();
  last?.close();
  await Dexie.delete('sorter');
  giveLocks();
  let api: T | null = null;
  vi.doMock('comlink', () => ({ expose: (exposed: T) => (api = exposed) }));
  await load();
  const { database } = await import('@/store/database');
  if (api === null) throw new Error('the worker exposes nothing');
  last = database();
  return { api, db: last };
}

export async function fillWithDemo(db: SorterDatabase): Promise<void> {
  const { loadDemo } = await import('@/store/imports/demo');
  const wrong = await loadDemo(db, demoZip(), DEMO_DAY, () => {});
  if (wrong !== null) throw new Error(wrong);
}
