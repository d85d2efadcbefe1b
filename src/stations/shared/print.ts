import type { DocumentDefinition } from 'pdfmake/build/pdfmake';
import { clipForPrint, isPrintable } from '@/words';

type Style = { fontSize: number; bold: boolean; color: string };
/** A text that the print's type has no letters for, as a picture of it: in points. */
type Drawn = { image: string; width: number; height: number };
type Draw = (text: string, style: Style) => Drawn;

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * A document with every text as it can be printed: too long ones clipped, and those with letters that the type lacks drawn by the device, which has type
 * for more scripts.
 */
export function printableContent(node: unknown, style: Style, draw: Draw): unknown {
  if (typeof node === 'string') {
    const text = clipForPrint(node.normalize('NFC'));
    return isPrintable(text) ? text : draw(text, style);
  }
  if (Array.isArray(node)) return node.map((entry: unknown) => printableContent(entry, style, draw));
  if (!isRecord(node)) return node;
  const own: Style = {
    fontSize: typeof node['fontSize'] === 'number' ? node['fontSize'] : style.fontSize,
    bold: typeof node['bold'] === 'boolean' ? node['bold'] : style.bold,
    color: typeof node['color'] === 'string' ? node['color'] : style.color,
  };
  if (typeof node['text'] === 'string') {
    const { text, ...rest } = node;
    const clipped = clipForPrint(String(text).normalize('NFC'));
    return isPrintable(clipped) ? { ...rest, text: clipped } : { ...rest, ...draw(clipped, own) };
  }
  return Object.fromEntries(
    Object.entries(node).map(([key, value]) => [
      key,
      key === 'stack' || key === 'table' || key === 'body' || key === 'columns'
        ? printableContent(value, own, draw)
        : value,
    ]),
  );
}

/** Dots per point: sharp on paper. */
const SCALE = 4;
const WIDEST = 380;
const LINE = 1.25;
const TYPE = '"Atkinson Hyperlegible Next Variable", sans-serif';

/** Draws texts with the type of this device, and remembers which letters even that has none of. */
function deviceType(): { draw: Draw; missing: Set<string> } {
  const canvas = document.createElement('canvas');
  const context = canvas.getContext('2d');
  if (!context) throw new Error('this browser cannot draw letters');
  const missing = new Set<string>();
  const boxOf = boxesOf(context);
  const draw: Draw = (text, { fontSize, bold, color }) => {
    for (const letter of text) if (!isPrintable(letter) && boxOf(letter)) missing.add(letter);
    const font = `${bold ? '700' : '400'} ${fontSize * SCALE}px ${TYPE}`;
    context.font = font;
    const lines = wrapped(text, (piece) => context.measureText(piece).width / SCALE <= WIDEST);
    const width = Math.min(WIDEST, Math.max(1, ...lines.map((line) => context.measureText(line).width / SCALE)));
    const height = lines.length * fontSize * LINE;
    canvas.width = Math.ceil(width * SCALE);
    canvas.height = Math.ceil(height * SCALE);
    context.font = font;
    context.fillStyle = color;
    context.textBaseline = 'middle';
    for (const [index, line] of lines.entries()) context.fillText(line, 0, (index + 0.5) * fontSize * LINE * SCALE);
    return { image: canvas.toDataURL('image/png'), width, height };
  };
  return { draw, missing };
}

/** Whether a letter comes out as the box that stands for letters without type: it looks like one that no type can have. */
function boxesOf(context: CanvasRenderingContext2D): (letter: string) => boolean {
  const { canvas } = context;
  const look = (letter: string): string => {
    canvas.width = 40;
    canvas.height = 40;
    context.font = `28px ${TYPE}`;
    context.textBaseline = 'top';
    context.fillText(letter, 2, 2);
    return canvas.toDataURL();
  };
  const box = look('\u{10FFFE}');
  return (letter) => !/[\s\p{M}\p{Cf}]/u.test(letter) && look(letter) === box;
}

/** Lines that fit, broken at spaces, else between letters. */
function wrapped(text: string, fits: (piece: string) => boolean): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(/(?<=\s)/)) {
    if (fits(line + word)) {
      line += word;
      continue;
    }
    if (line) lines.push(line);
    line = '';
    for (const letter of word) {
      if (line && !fits(line + letter)) {
        lines.push(line);
        line = '';
      }
      line += letter;
    }
  }
  return [...lines, line];
}

/**
 * Makes the PDF and hands it to the downloads; the library is loaded only now. The letters that not even this device has type for: they came out as boxes.
 */
export async function savePdf(definition: DocumentDefinition, name: string): Promise<string[]> {
  const [{ default: pdfMake }, { default: fonts }] = await Promise.all([
    import('pdfmake/build/pdfmake'),
    import('pdfmake/build/vfs_fonts'),
  ]);
  pdfMake.addVirtualFileSystem(fonts);
  const { draw, missing } = deviceType();
  const style: Style = { fontSize: Number(definition.defaultStyle['fontSize'] ?? 10.5), bold: false, color: '#000000' };
  const content = definition.content.map((node) =>
    printableContent(node, style, draw),
  ) as DocumentDefinition['content'];
  await pdfMake.createPdf({ ...definition, content }).download(name);
  return [...missing];
}
