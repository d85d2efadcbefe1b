import { BlobReader, configure, ZipReader, type FileEntry } from '@zip.js/zip.js';
import { SaxesParser } from 'saxes';

configure({ useWebWorkers: false });

/*
 * A workbook as Office Open XML (ECMA-376) has it, read as it unpacks: one sheet, its cells as texts. Formulas give the result that the workbook stored.
 */

export type WorkbookTable = { sheet: string; others: number; rows: string[][]; formulas: number; cutColumns: boolean };
export type WorkbookProblem = 'damaged' | 'no-rows' | 'too-many-rows' | 'too-large' | 'cancelled';
/** In bytes of the unpacked sheet. */
export type ReadProgress = (done: number, total: number) => void;

/** A list has no more columns than this; a stray cell further out is left alone. */
const MOST_COLUMNS = 256;
/** Of all texts and of a sheet, unpacked: more than a list of 100,000 rows ever has. */
const MOST_UNPACKED = 1_500_000_000;
const BREATH_MS = 60;

class Stop extends Error {
  readonly problem: WorkbookProblem;
  constructor(problem: WorkbookProblem) {
    super(problem);
    this.problem = problem;
  }
}

type Node = { name: string; attributes: Readonly<Record<string, string>> };
type Handler = { open: (node: Node) => void; text: (text: string) => void; close: (name: string) => void };

/** Prefixes differ between writers; the names do not. */
const local = (name: string): string => name.slice(name.indexOf(':') + 1);

/** Runs a file of the workbook through a parser, piece by piece. */
async function through(entry: FileEntry, handler: Handler, step: (bytes: number) => Promise<void>): Promise<void> {
  if (entry.uncompressedSize > MOST_UNPACKED) throw new Stop('too-large');
  const parser = new SaxesParser({ position: false, xmlns: false } as const);
  parser.on('opentag', ({ name, attributes }) => handler.open({ name: local(name), attributes }));
  parser.on('text', handler.text);
  parser.on('cdata', handler.text);
  parser.on('closetag', ({ name }) => handler.close(local(name)));
  parser.on('error', () => {
    throw new Stop('damaged');
  });
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
  entry.getData(writable).catch((error: unknown) => writable.abort(error).catch(() => undefined));
  const reader = readable.getReader();
  const decoder = new TextDecoder();
  let done = 0;
  try {
    for (;;) {
      const read = await reader.read();
      if (read.done) break;
      done += read.value.length;
      // What a file says of its size may be a lie.
      if (done > MOST_UNPACKED) throw new Stop('too-large');
      parser.write(decoder.decode(read.value, { stream: true }));
      await step(done);
    }
    parser.write(decoder.decode()).close();
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}

const noStep = async () => undefined;

/** Sheets in their order, with the files that hold them; and whether days count from 1904. */
async function contents(files: ReadonlyMap<string, FileEntry>) {
  const targets = new Map<string, string>();
  const rels = files.get('xl/_rels/workbook.xml.rels');
  const book = files.get('xl/workbook.xml');
  if (!rels || !book) throw new Stop('damaged');
  const nothing = { text: () => undefined, close: () => undefined };
  await through(
    rels,
    {
      ...nothing,
      open: ({ name, attributes: { Id = '', Target = '' } }) => {
        if (name === 'Relationship') targets.set(Id, Target.replace(/^\/?(xl\/)?/, 'xl/'));
      },
    },
    noStep,
  );
  const sheets: { name: string; entry: FileEntry }[] = [];
  let from1904 = false;
  await through(
    book,
    {
      ...nothing,
      open: ({ name, attributes }) => {
        if (name === 'workbookPr') from1904 = /^(1|true)$/.test(attributes['date1904'] ?? '');
        if (name !== 'sheet') return;
        const id = Object.entries(attributes).find(([key]) => local(key) === 'id' && key !== 'id')?.[1] ?? '';
        const entry = files.get(targets.get(id) ?? '');
        if (entry) sheets.push({ name: attributes['name'] ?? '', entry });
      },
    },
    noStep,
  );
  return { sheets, from1904 };
}

/** Texts that cells share; what stands above them as reading aid is none of them. */
async function sharedTexts(entry: FileEntry | undefined, step: (bytes: number) => Promise<void>): Promise<string[]> {
  const texts: string[] = [];
  if (!entry) return texts;
  let text = '';
  let inText = false;
  let inAid = false;
  await through(
    entry,
    {
      open: ({ name }) => {
        if (name === 'si') text = '';
        if (name === 'rPh') inAid = true;
        if (name === 't') inText = true;
      },
      text: (piece) => {
        if (inText && !inAid) text += piece;
      },
      close: (name) => {
        if (name === 't') inText = false;
        if (name === 'rPh') inAid = false;
        if (name === 'si') texts.push(text);
      },
    },
    step,
  );
  return texts;
}

/** Number formats that show a day, by their number in the standard (ECMA-376 part 1, 18.8.30). */
const DAY_FORMATS = new Set([14, 15, 16, 17, 22, 27, 30, 36, 50, 57]);
/** A format of the workbook's own that names day and year, or month: outside of quotes, brackets and colours. */
const showsDay = (code: string): boolean =>
  /[dy]/i.test(code.replace(/"[^"]*"|\\.|\[[^\]]*\]/g, '').replace(/general|red|yellow|standard/gi, ''));

/** Which cell styles show a number as a day. */
async function dayStyles(entry: FileEntry | undefined): Promise<boolean[]> {
  const styles: boolean[] = [];
  if (!entry) return styles;
  const own = new Map<number, boolean>();
  let inCells = false;
  await through(
    entry,
    {
      open: ({ name, attributes }) => {
        if (name === 'numFmt') own.set(Number(attributes['numFmtId']), showsDay(attributes['formatCode'] ?? ''));
        if (name === 'cellXfs') inCells = true;
        if (name !== 'xf' || !inCells) return;
        const id = Number(attributes['numFmtId'] ?? 0);
        styles.push(own.get(id) ?? DAY_FORMATS.has(id));
      },
      text: () => undefined,
      close: (name) => {
        if (name === 'cellXfs') inCells = false;
      },
    },
    noStep,
  );
  return styles;
}

const DAY_MS = 86_400_000;
/** A number of days as a date; the number itself where the calendar has no such day. Days before March 1900 are off by one, as everywhere. */
function dayText(number: number, from1904: boolean): string {
  const at = Date.UTC(from1904 ? 1904 : 1899, from1904 ? 0 : 11, from1904 ? 1 : 30) + Math.floor(number) * DAY_MS;
  const date = new Date(at);
  return Number.isNaN(date.getTime()) || date.getUTCFullYear() > 9999 || date.getUTCFullYear() < 1800
    ? String(number)
    : date.toISOString().slice(0, 10);
}

/** "AB" of "AB12" is column 27, counted from 0. */
function columnOf(reference: string): number {
  let column = 0;
  for (let index = 0; index < reference.length; index += 1) {
    const code = reference.charCodeAt(index) & 0xdf;
    if (code < 65 || code > 90) break;
    column = column * 26 + (code - 64);
  }
  return column - 1;
}

type Cell = { column: number; type: string; style: number };

/** The first sheet that has rows, as texts. */
export async function readWorkbook(
  file: Blob,
  mostRows: number,
  progress: ReadProgress = () => undefined,
  cancelled: () => boolean = () => false,
): Promise<WorkbookTable | { problem: WorkbookProblem }> {
  let breathed = 0;
  const stepIn = (total: number, from: number) => async (bytes: number) => {
    if (performance.now() - breathed < BREATH_MS) return;
    progress(Math.min(from + bytes, total), total);
    await new Promise<void>((resolve) => setTimeout(resolve, 0));
    if (cancelled()) throw new Stop('cancelled');
    breathed = performance.now();
  };
  try {
    const entries = await new ZipReader(new BlobReader(file), { checkSignature: true }).getEntries();
    const files = new Map(entries.flatMap((entry) => (entry.directory ? [] : [[entry.filename, entry] as const])));
    const { sheets, from1904 } = await contents(files);
    const strings = files.get('xl/sharedStrings.xml');
    const stringBytes = strings?.uncompressedSize ?? 0;
    const largest = Math.max(0, ...sheets.map(({ entry }) => entry.uncompressedSize));
    const total = stringBytes + largest;
    const texts = await sharedTexts(strings, stepIn(total, 0));
    const isDay = await dayStyles(files.get('xl/styles.xml'));
    for (const { name, entry } of sheets) {
      const read = await readSheet(entry, { texts, isDay, from1904, mostRows, step: stepIn(total, stringBytes) });
      if (read.rows.length > 1) return { sheet: name, others: sheets.length - 1, ...read };
    }
    return { problem: 'no-rows' };
  } catch (error) {
    return { problem: error instanceof Stop ? error.problem : 'damaged' };
  }
}

type Context = {
  texts: readonly string[];
  isDay: readonly boolean[];
  from1904: boolean;
  mostRows: number;
  step: (bytes: number) => Promise<void>;
};

async function readSheet(entry: FileEntry, { texts, isDay, from1904, mostRows, step }: Context) {
  const rows: string[][] = [];
  let row: string[] = [];
  let cell: Cell | null = null;
  let value = '';
  let taking = false;
  let formulas = 0;
  let cutColumns = false;
  const shown = ({ type, style }: Cell): string => {
    switch (type) {
      case 's':
        return texts[Number(value)] ?? '';
      case 'b':
        return value === '1' ? 'true' : 'false';
      case 'e':
        return '';
      case 'd':
        return value.slice(0, 10);
      case 'str':
      case 'inlineStr':
        return value;
      default: {
        const number = Number(value);
        if (value === '' || !Number.isFinite(number)) return value;
        return isDay[style] ? dayText(number, from1904) : plain(number, value);
      }
    }
  };
  await through(
    entry,
    {
      open: ({ name, attributes }) => {
        if (name === 'row') row = [];
        if (name === 'c') {
          const column = attributes['r'] === undefined ? row.length : columnOf(attributes['r']);
          cell = { column, type: attributes['t'] ?? 'n', style: Number(attributes['s'] ?? 0) };
          value = '';
        }
        if (name === 'f') formulas += 1;
        taking = name === 'v' || (name === 't' && cell !== null);
      },
      text: (piece) => {
        if (taking) value += piece;
      },
      close: (name) => {
        taking = false;
        if (name === 'c' && cell) {
          const { column } = cell;
          const text = shown(cell);
          cell = null;
          if (column >= MOST_COLUMNS) cutColumns ||= text !== '';
          else if (column >= 0) {
            while (row.length < column) row.push('');
            row[column] = text;
          }
        }
        if (name === 'row' && row.some((text) => text !== '')) {
          rows.push(row);
          if (rows.length > mostRows) throw new Stop('too-many-rows');
        }
      },
    },
    step,
  );
  return { rows, formulas, cutColumns };
}

/** A number as a person would write it: the workbook may store 12.5 as 12.500000000000002. */
const plain = (number: number, text: string): string =>
  text.length > 15 ? String(Number(number.toPrecision(15))) : String(number);
