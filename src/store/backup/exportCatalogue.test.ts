import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { BlobReader, TextWriter, ZipReader, type FileEntry } from '@zip.js/zip.js';
import { Package } from 'datapackage';
import { afterAll, describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { demoCatalogue, demoFiles } from '../../../tests/support/demo';
import { tableNames, type Catalogue } from '@/core/catalogue';
import { readPackage, type PackageFile } from '@/core/package';
import { activate } from '../editions/layers';
import { importPackage } from '../imports/importPackage';
import type { SorterDatabase } from '../database';
import { exportCatalogue } from './exportCatalogue';

const folders: string[] = [];
afterAll(() => folders.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

/** What another program sees: the files on a disk, read by the standard's own library. */
async function readByOthers(files: readonly PackageFile[]): Promise<Map<string, Record<string, unknown>[]>> {
  const folder = mkdtempSync(path.join(tmpdir(), 'package-'));
  folders.push(folder);
  for (const { path: name, text } of files) writeFileSync(path.join(folder, name), text);
  const read = await Package.load(path.join(folder, 'datapackage.json'), { strict: false });
  expect(read.errors.map(String)).toEqual([]);
  expect(read.valid).toBe(true);
  const tables = new Map<string, Record<string, unknown>[]>();
  for (const resource of read.resources)
    tables.set(resource.name, await resource.read({ keyed: true, relations: true }));
  return tables;
}

async function shopWith(files: readonly PackageFile[]): Promise<SorterDatabase> {
  const db = freshDatabase();
  const given = files.map(({ path: name, text }) => new File([text], name));
  const result = await importPackage(
    db,
    given,
    () => undefined,
    () => false,
  );
  if (result.kind !== 'read') throw new Error(JSON.stringify(result).slice(0, 400));
  await activate(db, result.editionId);
  return db;
}

async function takenOut(db: SorterDatabase): Promise<PackageFile[]> {
  const zip = await exportCatalogue(db);
  if (!zip) throw new Error('there is a catalogue');
  const entries = await new ZipReader(new BlobReader(zip)).getEntries();
  return Promise.all(
    entries
      .filter((entry): entry is FileEntry => !entry.directory)
      .map(async (entry) => ({ path: entry.filename, text: await entry.getData(new TextWriter()) })),
  );
}

const sorted = (rows: readonly unknown[]) => rows.map((row) => JSON.stringify(row)).sort();
function expectSame(found: Catalogue, wanted: Catalogue): void {
  for (const table of tableNames) expect(sorted(found[table]), table).toEqual(sorted(wanted[table]));
}

describe('other people’s programs', () => {
  it('find the demo’s package valid: every row is cast, every reference is found', async () => {
    const tables = await readByOthers(demoFiles());
    for (const table of tableNames) expect(tables.get(table), table).toHaveLength(demoCatalogue()[table].length);
  });

  it('find what the application exports valid, and so does its own import: the same rows', async () => {
    const files = await takenOut(await shopWith(demoFiles()));
    const tables = await readByOthers(files);
    for (const table of tableNames) expect(tables.get(table), table).toHaveLength(demoCatalogue()[table].length);
    expectSame(readPackage(files).catalogue, demoCatalogue());
    expectSame(readPackage(await takenOut(await shopWith(files))).catalogue, demoCatalogue());
  });

  it('are told a broken reference, so that the test above says something', async () => {
    const broken = demoFiles().map(({ path: name, text }) => ({
      path: name,
      text: name === 'models.csv' ? text.replace(/,fj-a1,/, ',fj-zz,') : text,
    }));
    await expect(readByOthers(broken)).rejects.toThrow();
  });

  it('nothing comes of a shop without a catalogue', async () => {
    expect(await exportCatalogue(freshDatabase())).toBeNull();
  });
});
