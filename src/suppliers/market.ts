import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Catalogue } from '@/core/catalogue';
import { readPackage } from '@/core/package';

const FOLDER = path.join(process.cwd(), 'demo-shop', 'catalogue');

let loading: Promise<Catalogue> | null = null;

async function load(): Promise<Catalogue> {
  const files = await Promise.all(
    (await readdir(FOLDER)).map(async (name) => ({
      path: name,
      text: await readFile(path.join(FOLDER, name), 'utf8'),
    })),
  );
  return readPackage(files).catalogue;
}

/** What the simulated suppliers really have: the demo catalogue, read once. Their answers may differ from a shop's older copy. */
export const market = (): Promise<Catalogue> => (loading ??= load());
