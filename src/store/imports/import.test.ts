import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { demoCatalogue, demoFiles } from '../../../tests/support/demo';
import { tableNames } from '@/core/catalogue';
import { type Problem } from '@/core/package';
import { csvBatches, MAX_ROW_CHARACTERS } from './csvStream';
import type { SorterDatabase } from '../database';
import { activate } from '../editions/layers';
import { topEdition } from '../../../tests/support/layers';
import { catalogueOf } from '../editions/catalogueReader';
import { importPackage, type ImportResult } from './importPackage';
import { openPackage, readText } from './packageFiles';

type Change = Record<string, (text: string) => string | Uint8Array | null>;

/** The demo catalogue as one zip, some of its files changed or left out. */
function packageZip(change: Change = {}): Uint8Array {
  const files: Record<string, Uint8Array> = {};
  for (const { path, text } of demoFiles()) {
    const content = change[path] ? change[path](text) : text;
    if (content !== null) files[path] = typeof content === 'string' ? strToU8(content) : content;
  }
  return zipSync(files, { level: 1 });
}

const asFile = (bytes: Uint8Array, name = 'catalogue.zip') => new File([new Uint8Array(bytes)], name);
const run = (db: SorterDatabase, files: File[], cancelled: () => boolean = () => false): Promise<ImportResult> =>
  importPackage(db, files, () => {}, cancelled);
const problemsIn = (result: ImportResult): Problem[] => (result.kind === 'problems' ? result.problems : []);

async function untouched(db: SorterDatabase): Promise<void> {
  expect(await db.editions.count()).toBe(0);
  expect(await db.buckets.count()).toBe(0);
}

async function withDemo(): Promise<SorterDatabase> {
  const db = freshDatabase();
  const result = await run(db, [asFile(packageZip())]);
  if (result.kind !== 'read') throw new Error(`the demo was not read: ${JSON.stringify(result).slice(0, 300)}`);
  expect(result.changes).toBeNull();
  await activate(db, result.editionId);
  return db;
}

describe('an import', () => {
  it('gives the rows that reading everything at once gives', async () => {
    const db = await withDemo();
    const edition = await topEdition(db);
    if (!edition) throw new Error('no edition');
    const reader = await catalogueOf(db);
    const sorted = (rows: readonly unknown[]) => rows.map((row) => JSON.stringify(row)).sort();
    for (const table of tableNames) {
      expect(edition.counts[table], table).toBe(demoCatalogue()[table].length);
      expect(sorted(await reader.table(table)), table).toEqual(sorted(demoCatalogue()[table]));
    }
  });

  it('takes a folder as it takes a zip, in any order of files', async () => {
    const files = demoFiles().map(({ path, text }) => new File([text], `folder/${path}`));
    const result = await run(freshDatabase(), files.reverse());
    expect(result).toMatchObject({ kind: 'read', title: 'Catalogue of the demo shop' });
  });

  it('says before anything is applied what a second package adds, changes and leaves out', async () => {
    const db = await withDemo();
    const before = await topEdition(db);
    const result = await run(db, [
      asFile(
        packageZip({
          'models.csv': (text) =>
            `${text.replace(/^(m-fj-a1-01,.*),(\d+)$/m, '$1,1777')}m-new,VB 99-999/9,vessby,fjordal,fj-a1,1,2011-01-01,,7,1400\n`,
          'offers.csv': (text) => text.replace(/^o-00007,.*\n/m, ''),
        }),
      ),
    ]);
    if (result.kind !== 'read') throw new Error('not read');
    expect(result.changes?.map(({ table, added, changed, gone }) => ({ table, added, changed, gone }))).toEqual([
      { table: 'models', added: 1, changed: 1, gone: 0 },
      { table: 'offers', added: 0, changed: 0, gone: 1 },
    ]);
    const models = result.changes?.[0]?.rows ?? [];
    expect(models.map((row) => row.kind)).toEqual(['changed', 'added']);
    expect(models[0]?.columns).toEqual([expect.objectContaining({ column: 'spinRpm', after: '1777' })]);
    expect(models[1]?.label).toBe('VB 99-999/9 (m-new)');
    expect(result.changes?.[1]?.rows[0]?.label).toContain('o-00007');
    // Waiting is not applied.
    expect((await topEdition(db))?.id).toBe(before?.id);
    await activate(db, result.editionId);
    expect((await topEdition(db))?.id).toBe(result.editionId);
    expect(await db.editions.count()).toBe(1);
  });

  it('of the same package changes nothing', async () => {
    const db = await withDemo();
    expect(await run(db, [asFile(packageZip())])).toMatchObject({ kind: 'read', changes: [] });
  });

  it('compares with an edition of which no ledger is left', async () => {
    const db = await withDemo();
    await db.buckets.filter(({ kind }) => kind.startsWith('derived:')).delete();
    expect(await run(db, [asFile(packageZip())])).toMatchObject({ kind: 'read', changes: [] });
  });

  it('stops when asked to, at any step, and leaves nothing behind', async () => {
    let steps = 0;
    await run(freshDatabase(), [asFile(packageZip())], () => {
      steps += 1;
      return false;
    });
    expect(steps).toBeGreaterThan(20);
    for (const index of [1, 2, Math.floor(steps / 2), steps]) {
      const db = freshDatabase();
      let step = 0;
      expect(await run(db, [asFile(packageZip())], () => (step += 1) >= index)).toEqual({ kind: 'cancelled' });
      await untouched(db);
    }
  });
});

describe('a faulty import', () => {
  const why = async (files: File[]) => {
    const db = freshDatabase();
    const problems = problemsIn(await run(db, files));
    await untouched(db);
    return problems.map((problem) =>
      [problem.file, problem.row ?? '-', problem.column ?? '-', problem.why].join(' | '),
    );
  };

  it('that is no package, or a damaged one, is refused in words', async () => {
    expect((await why([new File(['hello'], 'x.txt')]))[0]).toContain('not a catalogue package');
    const whole = packageZip();
    expect((await why([asFile(whole.subarray(0, whole.length / 2))]))[0]).toContain('damaged or cut-off');
    expect((await why([asFile(new Uint8Array([0x50, 0x4b, 3, 4, 1, 2, 3]))]))[0]).toContain('damaged or cut-off');
    // A flipped byte in the middle of the packed data.
    const flipped = whole.slice();
    for (let index = 30_000; index < 30_040; index += 1) flipped[index] = (flipped[index] ?? 0) ^ 0xff;
    expect((await why([asFile(flipped)])).join('\n')).toContain('the zip is damaged');
  });

  it('in the wrong encoding names the file and the row where it begins', async () => {
    const latin1 = Uint8Array.from('id,name\nfjordal,Fjordal\ncalder,Caldér\n', (c) => c.charCodeAt(0));
    expect((await why([asFile(packageZip({ 'makers.csv': () => latin1 }))]))[0]).toContain(
      'makers.csv | 1 | - | is not in UTF-8',
    );
    const utf16 = new Uint8Array([0xff, 0xfe, 0x69, 0, 0x64, 0]);
    expect((await why([asFile(packageZip({ 'makers.csv': () => utf16 }))]))[0]).toContain('is not in UTF-8');
  });

  it('reports doubled ids, dangling references, formulas and missing files by row and column', async () => {
    const lines = await why([
      asFile(
        packageZip({
          'models.csv': (text) => `${text}m-fj-a1-01,XX 1,vessby,fjordal,no-such,1,2011-01-01,,7,1400\n`,
          'offers.csv': (text) => text.replace(/\d+\.\d\d EUR/, '=HYPERLINK("http://x")'),
          'fits.csv': (text) => `${text}f-x,,fj-a1,pump,no-part,any,,,1\n`,
          'proofs.csv': () => null,
        }),
      ),
    ]);
    expect(lines.some((line) => line.startsWith('models.csv | 422 | id | stands in this file twice'))).toBe(true);
    expect(lines.some((line) => line.startsWith('offers.csv | 2 |'))).toBe(true);
    expect(lines.some((line) => /^fits\.csv \| \d+ \| partId \| does not exist in parts/.test(line))).toBe(true);
    expect(lines.some((line) => line.startsWith('proofs.csv') && line.includes('not in the package'))).toBe(true);
  });

  it('with ten megabytes in one cell ends that file and says where', async () => {
    const huge = 'x'.repeat(10_000_000);
    const lines = await why([asFile(packageZip({ 'makers.csv': (text) => `${text}huge,"${huge}\n` }))]);
    expect(lines.some((line) => line.startsWith('makers.csv | 6 |') && line.includes('longer than'))).toBe(true);
    const closed = await why([asFile(packageZip({ 'makers.csv': (text) => `${text}huge,${huge}\n` }))]);
    expect(closed.some((line) => line.startsWith('makers.csv | 6 |'))).toBe(true);
  });
});

describe('a CSV file that streams in', () => {
  const entryOf = (text: string, pieces: number) => {
    const bytes = new TextEncoder().encode(text);
    return {
      name: 'x.csv',
      bytes: bytes.length,
      open: () =>
        new ReadableStream<Uint8Array>({
          start(controller) {
            for (let index = 0; index < bytes.length; index += pieces)
              controller.enqueue(bytes.slice(index, index + pieces));
            controller.close();
          },
        }),
    };
  };
  async function read(text: string, pieces: number) {
    const rows: string[][] = [];
    const firsts: number[] = [];
    for await (const batch of csvBatches(entryOf(text, pieces))) {
      firsts.push(batch.firstRow);
      rows.push(...batch.rows);
      expect(batch.faults).toEqual([]);
    }
    return { rows, firsts };
  }

  it('gives the same rows wherever it is cut: quotes, line breaks within cells, letters of two bytes', async () => {
    const line = (index: number) => `${index},"a ""quoted"", ${'ü'.repeat(40)}\nsecond line",z${index}`;
    const text = Array.from({ length: 30_000 }, (_, index) => line(index)).join('\r\n');
    const whole = await read(text, 1 << 30);
    const pieces = await read(text, 4999);
    expect(whole.rows).toHaveLength(30_000);
    expect(whole.rows[29_999]).toEqual(['29999', `a "quoted", ${'ü'.repeat(40)}\nsecond line`, 'z29999']);
    expect(pieces.rows).toEqual(whole.rows);
    expect(pieces.firsts.length).toBeGreaterThan(2);
    for (const [index, first] of pieces.firsts.entries())
      if (index > 0) expect(pieces.rows[first - 1]?.[0]).toBe(`${first - 1}`);
  });

  it('does not grow without end', async () => {
    let faults = 0;
    let batches = 0;
    for await (const batch of csvBatches(entryOf(`a,b\n1,"${'x\n'.repeat(MAX_ROW_CHARACTERS)}`, 1_000_000))) {
      batches += 1;
      faults += batch.faults.length;
    }
    expect(faults).toBe(1);
    expect(batches).toBeLessThan(8);
  });

  it('lets go of what it does not read to the end, so that the files after it are unpacked', async () => {
    const wrong = Uint8Array.from(Buffer.from(`\ufeff${'a,b\n1,2\n'.repeat(200_000)}`, 'utf16le'));
    const names = ['a.csv', 'b.csv', 'c.csv', 'd.csv', 'e.csv'];
    const zip = zipSync(Object.fromEntries(names.map((name) => [name, wrong])), { level: 1 });
    const { entries } = await openPackage([asFile(zip)]);
    for (const name of names) {
      const entry = entries.get(name);
      if (!entry) throw new Error(name);
      for await (const { faults } of csvBatches(entry)) expect(faults).toHaveLength(1);
      expect(await readText(entry)).toMatchObject({ file: name });
    }
  }, 20_000);

  it('comes out of a zip as it went in', async () => {
    const { entries } = await openPackage([asFile(packageZip())]);
    expect([...entries.keys()].sort()).toEqual(
      demoFiles()
        .map(({ path }) => path)
        .sort(),
    );
  });
});
