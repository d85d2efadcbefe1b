import Papa from 'papaparse';
import { readUblCatalogue, type UblCatalogue } from '@/core/prices';
import { readWorkbook, type ReadProgress, type WorkbookProblem } from './workbook';

/** A price list as a table of texts; `notes` says what was done to read it. */
export type PriceTable = { kind: 'table'; header: string[]; rows: string[][]; notes: string[] };
export type PriceFile = PriceTable | { kind: 'ubl'; catalogue: UblCatalogue } | { kind: 'unreadable'; why: string };

export const MOST_ROWS = 100_000;
const MOST_BYTES = 60_000_000;
const unreadable = (why: string): PriceFile => ({ kind: 'unreadable', why: `${why} Nothing was changed.` });
const tooMany = unreadable(
  `This list has more than ${MOST_ROWS.toLocaleString('en')} rows. Split it, or import it as a catalogue package.`,
);

/** A CSV, XLSX or UBL price list, told apart by what is in it, not by its name. */
export async function readPriceFile(
  file: File,
  progress?: ReadProgress,
  cancelled?: () => boolean,
): Promise<PriceFile> {
  if (file.size > MOST_BYTES)
    return unreadable('This file is larger than 60 MB: no price list of this size can be read.');
  const start = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  if (start[0] === 0x50 && start[1] === 0x4b) return workbookTable(file, progress, cancelled);
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf)
    return unreadable('This is a workbook of the old binary kind. Save it as XLSX or as CSV.');
  const { text, notes } = decodeText(bytes);
  if (text.trimStart().startsWith('<')) {
    const read = readUblCatalogue(text);
    if (read.ok) return { kind: 'ubl', catalogue: read.value };
    return unreadable(
      read.error.kind === 'not-xml'
        ? 'This is damaged XML.'
        : 'This XML is no UBL Catalogue: that is the only kind of XML price list that can be read.',
    );
  }
  return readCsv(text, notes);
}

/** UTF-8 where it is; else as Windows writes it, and said so. */
function decodeText(bytes: Uint8Array): { text: string; notes: string[] } {
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), notes: [] };
  } catch {
    return {
      text: new TextDecoder('windows-1252').decode(bytes),
      notes: ['The file is not in UTF-8; it was read as Windows-1252. Look at names with accents.'],
    };
  }
}

function readCsv(text: string, notes: string[]): PriceFile {
  const parsed = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' });
  const [header, ...rows] = parsed.data;
  if (!header || header.length < 2) return unreadable('This is no table: no two columns were found.');
  if (rows.length > MOST_ROWS) return tooMany;
  const quotes = parsed.errors.filter((error) => error.type === 'Quotes').length;
  if (quotes) notes.push(`${quotes} rows have a quotation mark that is not closed or stands inside a cell.`);
  return { kind: 'table', header: unique(header), rows, notes };
}

/** Columns need different names to be mapped. */
function unique(header: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return header.map((name, index) => {
    const plain = name.trim() || `column ${index + 1}`;
    const count = (seen.get(plain) ?? 0) + 1;
    seen.set(plain, count);
    return count === 1 ? plain : `${plain} (${count})`;
  });
}

const WORKBOOK_PROBLEMS: Record<WorkbookProblem, PriceFile> = {
  damaged: unreadable('This workbook is damaged, cut off, or no workbook at all.'),
  'no-rows': unreadable('This workbook has no sheet with rows.'),
  'too-many-rows': tooMany,
  'too-large': unreadable('This workbook unpacks to more than any list has.'),
  cancelled: unreadable('Reading was stopped.'),
};

async function workbookTable(
  file: File,
  progress: ReadProgress | undefined,
  cancelled: (() => boolean) | undefined,
): Promise<PriceFile> {
  const read = await readWorkbook(file, MOST_ROWS + 1, progress, cancelled);
  if ('problem' in read) return WORKBOOK_PROBLEMS[read.problem];
  const [header = [], ...rows] = read.rows;
  if (header.length < 2) return unreadable('This sheet is no table: no two columns were found.');
  const notes = [
    ...(read.others > 0 ? [`Read from the sheet “${read.sheet}”; the workbook has others.`] : []),
    ...(read.formulas
      ? [`${read.formulas} cells hold a formula: the result that the workbook stored was taken, nothing was computed.`]
      : []),
    ...(read.cutColumns ? ['Cells far to the right of the table were left alone.'] : []),
  ];
  return { kind: 'table', header: unique(header), rows, notes };
}
