import { strFromU8, strToU8, zipSync } from 'fflate';

/** A generator of numbers in [0, 1). */
export type Random = () => number;

export const below = (random: Random, most: number): number => Math.floor(random() * most);
export const oneOf = <T>(random: Random, list: readonly T[]): T => {
  const found = list[below(random, list.length)];
  if (found === undefined) throw new Error('Bug: nothing to choose from');
  return found;
};

export type Files = Record<string, Uint8Array>;

/** Cells that somebody may send, by slip or by will. */
export const NASTY = [
  '',
  ' ',
  '--',
  '__proto__',
  'constructor',
  'toString',
  '=1+1',
  '12.50 constructor',
  '12.50 __proto__',
  '-1.00 EUR',
  '1e999',
  'NaN',
  'Infinity',
  '9'.repeat(400),
  'x'.repeat(5000),
  '2026-13-45',
  '0000-00-00',
  '99999-01-01',
  '\u0000',
  '\ud83d\ude42',
  '\u202eabc',
  'a\nb',
  '"',
  ',',
  ';',
  '../../etc/passwd',
  '<script>alert(1)</script>',
] as const;

const quoted = (cell: string): string => `"${cell.replaceAll('"', '""')}"`;

/** Changes one thing in a text of lines and cells. */
function spoilText(random: Random, text: string): string {
  const lines = text.split('\n');
  const index = below(random, lines.length);
  const line = lines[index] ?? '';
  const cells = line.split(',');
  const column = below(random, cells.length);
  switch (below(random, 12)) {
    case 0:
      return text.slice(0, below(random, text.length));
    case 1:
      return '';
    case 2:
      lines.splice(index, 1);
      break;
    case 3:
      lines.splice(index, 0, line);
      break;
    case 4:
      cells[column] = quoted(oneOf(random, NASTY));
      lines[index] = cells.join(',');
      break;
    case 5:
      cells.splice(column, 1);
      lines[index] = cells.join(',');
      break;
    case 6:
      lines[index] = `${line},${quoted(oneOf(random, NASTY))}`;
      break;
    case 7:
      lines[index] = `"${line}`;
      break;
    case 8:
      return text.replaceAll(',', ';');
    case 9:
      return `\ufeff${text}`;
    case 10:
      cells[column] = cells[below(random, cells.length)] ?? '';
      lines[index] = cells.join(',');
      break;
    default: {
      const other = below(random, lines.length);
      [lines[index], lines[other]] = [lines[other] ?? '', line];
    }
  }
  return lines.join('\n');
}

function spoilBytes(random: Random, bytes: Uint8Array): Uint8Array {
  const copy = bytes.slice();
  if (copy.length === 0) return Uint8Array.from([0]);
  switch (below(random, 3)) {
    case 0:
      return copy.slice(0, below(random, copy.length));
    case 1:
      for (let times = 1 + below(random, 6); times > 0; times -= 1)
        copy[below(random, copy.length)] = below(random, 256);
      return copy;
    default: {
      const from = below(random, copy.length);
      const strange = Uint8Array.from({ length: 20 }, () => below(random, 256));
      // Not one by one: a list of so many numbers is more than an engine takes.
      return new Uint8Array(Buffer.concat([copy.subarray(0, from), strange, copy.subarray(from)]));
    }
  }
}

export const zipFile = (files: Files, name: string): File =>
  new File([new Uint8Array(zipSync(files, { level: 1 }))], name);

/** One cell of one row, or one line of JSON, is another than it was: much of it is good all the same, and must be answered with. */
function spoilCell(random: Random, text: string): string {
  const lines = text.split('\n');
  const index = Math.min(lines.length - 1, 1 + below(random, lines.length - 1));
  const line = lines[index] ?? '';
  if (line.startsWith('{')) {
    const texts = [...line.matchAll(/"([a-zA-Z]+)":("(?:[^"\\]|\\.)*"|[\d.]+|null)/g)];
    if (texts.length === 0) return text;
    const [whole, key = ''] = oneOf(random, texts);
    lines[index] = line.replace(whole, `"${key}":${JSON.stringify(oneOf(random, NASTY))}`);
    return lines.join('\n');
  }
  const cells = line.split(',');
  cells[below(random, cells.length)] = quoted(oneOf(random, NASTY));
  lines[index] = cells.join(',');
  return lines.join('\n');
}

/** A few files with one to three things wrong in them, as one zip. */
export function spoiledZip(random: Random, files: Files, name: string): File {
  const spoiled: Files = { ...files };
  const gentle = random() < 0.5;
  if (gentle) {
    const path = oneOf(
      random,
      Object.keys(spoiled).filter((inside) => /\.(csv|jsonl|xml)$/.test(inside)),
    );
    spoiled[path] = strToU8(spoilCell(random, strFromU8(spoiled[path] ?? new Uint8Array())));
    return zipFile(spoiled, name);
  }
  for (let times = 1 + below(random, 3); times > 0; times -= 1) {
    const path = oneOf(random, Object.keys(spoiled));
    const bytes = spoiled[path] ?? new Uint8Array();
    switch (below(random, 8)) {
      case 0:
        if (Object.keys(spoiled).length > 1) delete spoiled[path];
        break;
      case 1:
        spoiled[path] = spoilBytes(random, bytes);
        break;
      case 2:
        spoiled[path] = new Uint8Array(
          Buffer.concat([Uint8Array.of(0xff, 0xfe), Buffer.from(strFromU8(bytes), 'utf16le')]),
        );
        break;
      default:
        spoiled[path] = strToU8(spoilText(random, strFromU8(bytes)));
    }
  }
  const zip = zipSync(spoiled, { level: 1 });
  return new File([new Uint8Array(random() < 0.15 ? spoilBytes(random, zip) : zip)], name);
}

/** A text file with one to three things wrong in it. */
export function spoiledFile(random: Random, text: string, name: string): File {
  let spoiled = text;
  for (let times = 1 + below(random, 3); times > 0; times -= 1) spoiled = spoilText(random, spoiled);
  const bytes = strToU8(spoiled);
  return new File([new Uint8Array(random() < 0.2 ? spoilBytes(random, bytes) : bytes)], name);
}

/** The bytes of a file with something wrong in them. */
export const spoiledBlob = (random: Random, bytes: Uint8Array, name: string): File =>
  new File([new Uint8Array(spoilBytes(random, bytes))], name);
