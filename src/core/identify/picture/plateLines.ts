import type { MakerId } from '../../units';
import type { SerialScheme } from '../../catalogue';
import { readSerial, type SerialContext } from '../serial/readSerial';

/** One line as a reader saw it, with its place in the picture (pixels) and how sure the reader was (0 to 1). */
export type SeenLine = { text: string; confidence: number; left: number; top: number; width: number; height: number };
export type SeenCode = { kind: string; text: string; left: number; top: number; width: number; height: number };

/** What a plate says, as text for `readPlate`: codes first, for they cannot be misread, then the lines from top to bottom. */
export function plateText(lines: readonly { text: string }[], codes: readonly { text: string }[] = []): string {
  return [...codes, ...lines]
    .map(({ text }) => text.trim())
    .filter((text) => text !== '')
    .join('\n');
}

/**
 * How sure the reader was of the whole text, 0 to 1: the mean of its lines by how much each holds, codes counting as sure; 0 of nothing. O(lines).
 */
export function sureness(
  lines: readonly Pick<SeenLine, 'text' | 'confidence'>[],
  codes: readonly { text: string }[] = [],
): number {
  const held = [...codes.map(({ text }) => ({ text, confidence: 1 })), ...lines].map(({ text, confidence }) => ({
    weight: text.replace(/\s/g, '').length,
    confidence,
  }));
  const all = held.reduce((sum, { weight }) => sum + weight, 0);
  return all === 0 ? 0 : held.reduce((sum, { weight, confidence }) => sum + weight * confidence, 0) / all;
}

const LABELLED =
  /\b(?:ser(?:ial)?|s\s?\/\s?n|snr)\b[^A-Z0-9]*(?:n[o0°]?\b[.:°]*|number)?[\s.:°#-]*([A-Z0-9][A-Z0-9 -]{4,})/i;

/**
 * The serial number in a plate's text: the word that the maker's scheme accepts, else what stands behind a word for "serial". Null when neither is
 * there. O(words).
 */
export function serialIn(
  schemes: readonly SerialScheme[],
  makerId: MakerId,
  text: string,
  context: SerialContext,
): { serial: string; fits: boolean } | null {
  const words = text.split(/[\s;,]+/).filter((word) => word.length >= 6 && /\d/.test(word));
  for (const word of words)
    if (readSerial(schemes, makerId, word, context).candidates.length > 0) return { serial: word, fits: true };
  const labelled = LABELLED.exec(text)?.[1]?.trim();
  return labelled ? { serial: labelled, fits: false } : null;
}
