import { expose } from 'comlink';
import { createWorker, OEM, type Worker as TextReader } from 'tesseract.js';
import { prepareZXingModule, readBarcodes, type ReadResult } from 'zxing-wasm/reader';
import { evenOut, plateText, sureness, toGrey, type GreyImage, type SeenCode, type SeenLine } from '@/core/identify';
import { prepareReader, recognisedLines } from './recognise';

/** Where scripts/copy-readers.ts puts the readers' files. */
const FILES = '/readers';
/** Print is read best at about this width of the whole plate. */
const READING_WIDTH = 2000;
const LARGEST = 12_000_000;

export type PictureProgress = { stage: 'starting' | 'reading'; done: number };
export type PictureReading =
  /** `text` of all of it, and how sure the reader was of that, 0 to 1. */
  | {
      kind: 'read';
      width: number;
      height: number;
      lines: SeenLine[];
      codes: SeenCode[];
      text: string;
      sure: number;
    }
  | { kind: 'no-picture' }
  | { kind: 'too-large'; pixels: number };

/** Only what has a letter or a digit is a line of a plate; the rest is scratches. */
const isPrint = ({ text }: SeenLine) => /[A-Z0-9]{2}/i.test(text.replace(/\s/g, ''));

let report: (at: PictureProgress) => void = () => {};
let reader: Promise<TextReader> | null = null;

/** The text reader, started once: its files are 7 MB. */
function textReader(): Promise<TextReader> {
  reader ??= createWorker('eng', OEM.LSTM_ONLY, {
    workerPath: `${FILES}/worker.min.js`,
    corePath: FILES,
    langPath: FILES,
    workerBlobURL: false,
    gzip: true,
    cacheMethod: 'none',
    logger: ({ status, progress }) =>
      report({ stage: status === 'recognizing text' ? 'reading' : 'starting', done: progress }),
  }).then(prepareReader);
  // A start that failed is tried again.
  reader.catch(() => (reader = null));
  return reader;
}

prepareZXingModule({ overrides: { locateFile: (path: string) => `${FILES}/${path.split('/').at(-1) ?? path}` } });

async function toBlob({ width, height, grey }: GreyImage): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const pixels = new ImageData(width, height);
  for (let index = 0; index < grey.length; index += 1) {
    const value = grey[index] ?? 0;
    pixels.data[index * 4] = value;
    pixels.data[index * 4 + 1] = value;
    pixels.data[index * 4 + 2] = value;
    pixels.data[index * 4 + 3] = 255;
  }
  canvas.getContext('2d')?.putImageData(pixels, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

function seenCode({ format, text, position }: ReadResult, scale: number): SeenCode {
  const corners = [position.topLeft, position.topRight, position.bottomLeft, position.bottomRight];
  const [xs, ys] = [corners.map(({ x }) => x / scale), corners.map(({ y }) => y / scale)];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return { kind: format, text, left, top, width: Math.max(...xs) - left, height: Math.max(...ys) - top };
}

const api = {
  /** Text and codes of a picture, with their places in its own pixels. Nothing leaves the machine. */
  async read(picture: Blob, progress: (at: PictureProgress) => void): Promise<PictureReading> {
    report = progress;
    let bitmap: ImageBitmap;
    try {
      bitmap = await createImageBitmap(picture);
    } catch {
      return { kind: 'no-picture' };
    }
    const { width, height } = bitmap;
    if (width * height > LARGEST * 4) return { kind: 'too-large', pixels: width * height };
    const scale = Math.min(READING_WIDTH / width, Math.sqrt(LARGEST / (width * height)));
    const canvas = new OffscreenCanvas(Math.round(width * scale), Math.round(height * scale));
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (!context) return { kind: 'no-picture' };
    context.imageSmoothingQuality = 'high';
    context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    const pixels = context.getImageData(0, 0, canvas.width, canvas.height);
    const even = evenOut(toGrey(pixels.data, canvas.width, canvas.height));
    const [codes, read] = await Promise.all([
      readBarcodes(pixels, { formats: ['QRCode', 'DataMatrix', 'Code128'], tryHarder: true, maxNumberOfSymbols: 4 }),
      toBlob(even).then(async (blob) => recognisedLines(await textReader(), blob)),
    ]);
    const seen = read.map(({ text: line, confidence, bbox }): SeenLine => ({
      text: line.trim(),
      confidence: confidence / 100,
      left: bbox.x0 / scale,
      top: bbox.y0 / scale,
      width: (bbox.x1 - bbox.x0) / scale,
      height: (bbox.y1 - bbox.y0) / scale,
    }));
    const lines = seen.filter(isPrint);
    const printed = { lines, codes: codes.map((code) => seenCode(code, scale)) };
    return {
      kind: 'read',
      width,
      height,
      ...printed,
      text: plateText(lines, printed.codes),
      sure: sureness(lines, printed.codes),
    };
  },
};

export type CameraApi = typeof api;
expose(api);
