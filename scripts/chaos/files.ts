import 'fake-indexeddb/auto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import exceljs from 'exceljs';
import { unzipSync } from 'fflate';
import { guessMapping, readPriceRow } from '@/core/prices';
import { remark } from '@/core/ticket';
import { asId, seededRandom, type TicketId } from '@/core/units';
import { exportBackup } from '@/store/backup/backup';
import { SorterDatabase } from '@/store/database';
import { catalogueOf } from '@/store/editions/catalogueReader';
import { dropEdition, layersOf } from '@/store/editions/layers';
import { readPriceFile } from '@/store/imports/priceFiles';
import { dexieStore } from '@/store/records/act';
import { onTicket, openTicket } from '@/store/records/acts';
import { importCatalogue, restoreShop } from '@/store/whole/shop';
import { problemWords, troubleWords } from '@/words';
import { inOurWords, likeABrowser } from './node';
import { spoiledBlob, spoiledFile, spoiledZip, zipFile, type Files } from './spoil';

/** What came of many spoiled files: refused or taken; and everything that must be nought. */
export type FileFigures = {
  files: number;
  refused: number;
  taken: number;
  /** Broke off with an error that nobody meant. */
  crashed: string[];
  /** Left something behind although they were refused, or were taken and cannot be asked. */
  half: string[];
  /** Refused in words of a library. */
  foreignWords: string[];
  /** Seconds per 10 MB of what is in it, of the slowest that has a megabyte or more; of smaller ones, seconds. */
  slowest: number;
};

export const figures = (files: number): FileFigures => ({
  files,
  refused: 0,
  taken: 0,
  crashed: [],
  half: [],
  foreignWords: [],
  slowest: 0,
});

const TEMPLATE = 'docs/smallest-package';
/** The package to begin with, file by file. */
export const templateFiles = (): Files =>
  Object.fromEntries(
    readdirSync(TEMPLATE)
      .filter((name) => /\.(csv|json)$/.test(name))
      .map((name) => [name, new Uint8Array(readFileSync(path.join(TEMPLATE, name)))]),
  );

/** Bytes of what lies in a zip. */
export const sizeOf = (files: Files): number => Object.values(files).reduce((sum, { length }) => sum + length, 0);

export async function timed<T>(
  result: Pick<FileFigures, 'slowest'>,
  bytes: number,
  work: () => Promise<T>,
): Promise<T> {
  const from = performance.now();
  try {
    return await work();
  } finally {
    const seconds = (performance.now() - from) / 1000;
    result.slowest = Math.max(result.slowest, bytes > 1e6 ? seconds / (bytes / 1e7) : seconds);
  }
}

/** Models of a layer that are asked for their parts. */
const MOST_ASKED = 200;

/** Asks a catalogue what a technician asks it first. */
async function askIt(db: SorterDatabase): Promise<void> {
  const reader = await catalogueOf(db);
  for (const { reader: layer } of reader.searched) {
    await layer.searchIndexes();
    let asked = 0;
    for await (const rows of layer.rows('models'))
      for (const model of rows) if ((asked += 1) <= MOST_ASKED) await reader.forModel(model);
  }
  await reader.modelsNumbered(['KX 9100', 'x']);
}

/** What is spoiled: the template and a dozen rows, or something of the size that a shop gets. */
export type Spoiled = {
  /** A package's zip; the template when missing. */
  packagePath?: string | undefined;
  /** Of the price lists. */
  rows?: number;
  /** In the browser: packages, lists or backups alone. */
  only?: string | undefined;
};

export const packageFiles = ({ packagePath }: Spoiled): Files =>
  packagePath === undefined ? templateFiles() : unzipSync(new Uint8Array(readFileSync(packagePath)));

/** Spoiled packages: refused with every problem in our words and nothing left, or good and able to answer. */
export async function spoiledPackages(seed: number, count: number, what: Spoiled = {}): Promise<FileFigures> {
  likeABrowser();
  const random = seededRandom(seed);
  const result = figures(count);
  const db = new SorterDatabase(`chaos-packages-${seed}`);
  const files = packageFiles(what);
  const bytes = sizeOf(files);
  for (let run = 0; run < count; run += 1) {
    const file = spoiledZip(random, files, `package-${seed}-${run}.zip`);
    try {
      const came = await timed(result, bytes, () =>
        importCatalogue(
          db,
          [file],
          () => undefined,
          () => false,
        ),
      );
      if (came.kind === 'problems') {
        result.refused += 1;
        for (const problem of came.problems.slice(0, 20)) {
          const words = problemWords(problem);
          if (!inOurWords(problem.why)) result.foreignWords.push(`${run}: ${words}`);
        }
        if (came.problems.length === 0) result.foreignWords.push(`${run}: refused without a word`);
      } else {
        result.taken += 1;
        await askIt(db);
      }
    } catch (error) {
      result.crashed.push(`${run}: ${troubleWords(error)}`);
    }
    const layers = await layersOf(db);
    const editions = await db.editions.toArray();
    if (editions.length > layers.length) result.half.push(`${run}: an edition was left`);
    for (const { id } of editions) await dropEdition(db, id);
    if ((await db.buckets.count()) > 0) result.half.push(`${run}: buckets were left`);
    await db.buckets.clear();
    await db.meta.clear();
  }
  db.close();
  return result;
}

export async function someLists(count = 12): Promise<{ csv: string; xlsx: Uint8Array }> {
  const rows = Array.from({ length: count }, (_, index) => [
    `FJ-${index}`,
    `Pump ${index}`,
    `${index}.50`,
    '1',
    String(index),
  ]);
  const book = new exceljs.Workbook();
  const sheet = book.addWorksheet('prices');
  for (const row of [['Number', 'Description', 'Price', 'Pack', 'Stock'], ...rows]) sheet.addRow(row);
  return {
    csv: [['Number', 'Description', 'Price', 'Pack', 'Stock'], ...rows].map((row) => row.join(',')).join('\n'),
    xlsx: new Uint8Array((await book.xlsx.writeBuffer()) as unknown as ArrayBuffer),
  };
}

/** Spoiled price lists, as CSV and as workbooks: read row by row, or refused in words. */
export async function spoiledLists(seed: number, count: number, { rows }: Spoiled = {}): Promise<FileFigures> {
  const random = seededRandom(seed);
  const result = figures(count);
  const { csv, xlsx } = await someLists(rows);
  const inside = unzipSync(xlsx);
  const bytes = { csv: csv.length, xlsx: sizeOf(inside) };
  for (let run = 0; run < count; run += 1) {
    const name = `list-${seed}-${run}`;
    const kind = random();
    const file =
      kind < 0.5
        ? spoiledFile(random, csv, `${name}.csv`)
        : kind < 0.75
          ? spoiledBlob(random, xlsx, `${name}.xlsx`)
          : spoiledZip(random, inside, `${name}.xlsx`);
    try {
      const read = await timed(result, kind < 0.5 ? bytes.csv : bytes.xlsx, () => readPriceFile(file));
      if (read.kind === 'unreadable') {
        result.refused += 1;
        if (!inOurWords(read.why)) result.foreignWords.push(`${run}: ${read.why}`);
        continue;
      }
      result.taken += 1;
      if (read.kind !== 'table') continue;
      const mapping = guessMapping(read.header);
      for (const [index, values] of read.rows.entries()) {
        const cells = Object.fromEntries(read.header.map((column, at) => [column, values[at] ?? '']));
        const row = readPriceRow(mapping, { decimalComma: false, currency: 'EUR' }, cells, index + 2);
        if (row.ok && !(row.value.packPrice.amountMinor >= 0 && row.value.packPrice.currency.length === 3))
          result.half.push(`${run}: a price of ${JSON.stringify(row.value.packPrice)}`);
        if (!row.ok) for (const { why } of row.error) if (!inOurWords(why)) result.foreignWords.push(`${run}: ${why}`);
      }
    } catch (error) {
      result.crashed.push(
        `${run}: ${troubleWords(error)} ${error instanceof Error ? (error.stack?.split('\n')[1] ?? '') : ''}`,
      );
    }
  }
  return result;
}

/** A small shop, as a backup. */
async function smallShop(name: string): Promise<SorterDatabase> {
  const db = new SorterDatabase(name);
  const store = dexieStore(db);
  for (let index = 0; index < 3; index += 1) {
    const opened = await openTicket(store, [{ type: 'plate-not-listed', text: `KX ${index}` }]);
    const [ticketId = asId<TicketId>('')] = opened.ok ? opened.value.tickets : [];
    await onTicket(store, ticketId, remark('said'));
    await onTicket(store, ticketId, remark('said again'));
  }
  return db;
}

/** Spoiled backups: the shop is as it was, byte for byte, or as the backup says and able to answer. */
export async function spoiledBackups(seed: number, count: number, what: Spoiled = {}): Promise<FileFigures> {
  likeABrowser();
  const random = seededRandom(seed);
  const result = figures(count);
  const source = await smallShop(`chaos-source-${seed}`);
  const whole = zipFile(packageFiles(what), 'package.zip');
  await importCatalogue(
    source,
    [whole],
    () => undefined,
    () => false,
  );
  const good = new Uint8Array(await (await exportBackup(source)).arrayBuffer());
  const inside = unzipSync(good);
  const bytes = sizeOf(inside);
  const db = await smallShop(`chaos-backups-${seed}`);
  const bytesOf = async () => Buffer.from(await (await exportBackup(db)).arrayBuffer());
  let before = await bytesOf();
  for (let run = 0; run < count; run += 1) {
    const file = random() < 0.2 ? spoiledBlob(random, good, 'backup.zip') : spoiledZip(random, inside, 'backup.zip');
    const gaps = random() < 0.3 ? ('put-aside' as const) : ('refuse' as const);
    try {
      const came = await timed(result, bytes, () => restoreShop(db, file, gaps));
      const after = await bytesOf();
      if (!came.ok) {
        result.refused += 1;
        if (!after.equals(before))
          result.half.push(`${run}: refused (${came.error.kind}), and the shop is another one`);
      } else {
        result.taken += 1;
        await askIt(db);
        for (const { stream } of await db.summaries.toArray())
          if (!(await dexieStore(db).ticket(asId<TicketId>(stream.replace('ticket:', '')))))
            result.half.push(`${run}: ${stream} cannot be read`);
        if ((await db.editions.count()) !== (await layersOf(db)).length)
          result.half.push(`${run}: an edition was left`);
      }
      before = after;
    } catch (error) {
      result.crashed.push(`${run}: ${troubleWords(error)}`);
      const after = await bytesOf();
      if (!after.equals(before)) result.half.push(`${run}: crashed, and the shop is another one`);
      before = after;
    }
  }
  db.close();
  source.close();
  return result;
}
