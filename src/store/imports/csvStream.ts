import Papa from 'papaparse';
import { readFault, type PackageEntry } from './packageFiles';

export type CsvBatch = {
  rows: string[][];
  /** Row of the first of these, counted as a person counts: the header is row 1. */
  firstRow: number;
  bytes: number;
  faults: { row: number; why: string }[];
};

/** A row that is not complete after this many characters ends the file: an open quotation mark would take all the rest into one cell. */
export const MAX_ROW_CHARACTERS = 4_000_000;
/** Small enough for a batch of rows to be gone before the collector looks twice. */
const CHUNK_CHARACTERS = 256_000;

type Newline = '\n' | '\r' | '\r\n';
const newlineOf = (text: string): Newline => (text.includes('\r\n') ? '\r\n' : text.includes('\n') ? '\n' : '\r');

type Parsed = { data: string[][]; errors: { type: string; row?: number }[]; meta: { cursor: number } };

function parse(text: string, delimiter: string, newline: Newline, last: boolean): Parsed {
  return new Papa.Parser({ delimiter, newline }).parse(text, 0, !last) as Parsed;
}

/**
 * A CSV file in batches of rows, the header first, as it streams in: memory is one batch, whatever the file's size. What is wrong with the text
 * itself (encoding, quotation marks, a damaged zip) comes as a fault; the batch with a fault that ends the file is the last one.
 */
export async function* csvBatches(entry: PackageEntry, delimiter = ','): AsyncGenerator<CsvBatch> {
  const reader = entry.open().getReader();
  try {
    yield* batchesOf(reader, delimiter);
  } finally {
    // Whatever ends the reading: a file that is left open holds one of the few places in which the zip is unpacked, and the files after it would wait for ever.
    await reader.cancel().catch(() => undefined);
  }
}

async function* batchesOf(
  reader: ReadableStreamDefaultReader<Uint8Array>,
  delimiter: string,
): AsyncGenerator<CsvBatch> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let rest = '';
  let newline: Newline | null = null;
  let row = 1;
  let pending = 0;
  for (let last = false; !last;) {
    const faults: CsvBatch['faults'] = [];
    try {
      while (!last && rest.length < CHUNK_CHARACTERS + pending) {
        const { done, value } = await reader.read();
        rest += decoder.decode(value ?? new Uint8Array(), { stream: !done });
        last = done;
      }
    } catch (error) {
      yield { rows: [], firstRow: row, bytes: 0, faults: [{ row, why: readFault(error) }] };
      return;
    }
    newline ??= newlineOf(rest);
    const parsed = parse(rest, delimiter, newline, last);
    for (const error of parsed.errors)
      if (error.type === 'Quotes')
        faults.push({ row: row + (error.row ?? 0), why: 'a quotation mark is not closed or stands inside a cell.' });
    const bytes = last ? rest.length : parsed.meta.cursor;
    rest = last ? '' : rest.slice(parsed.meta.cursor);
    pending = rest.length;
    const tooLong = pending > MAX_ROW_CHARACTERS;
    if (tooLong)
      faults.push({
        row: row + parsed.data.length,
        why: `this row is longer than ${MAX_ROW_CHARACTERS.toLocaleString('en')} characters: a quotation mark is never closed, or a cell holds a whole file. What follows was not read.`,
      });
    yield { rows: parsed.data, firstRow: row, bytes, faults };
    row += parsed.data.length;
    if (tooLong) return;
  }
}

export const isBlank = (cells: readonly string[]): boolean => cells.length === 1 && cells[0]?.trim() === '';
