import { normaliseNumber } from '../plate/normal';
import { isLabelled } from '../plate/windows';

/** A line that somebody typed or pasted: what names the machine, as it stands there, and what is said of it. Empty where there is none. */
export type NumberAndWords = { number: string; words: string };

export type SaidBeside = {
  /** The stretch that was read as the number, normalised; empty where none was. */
  taken: string;
  /** A picture's text: nobody said it. */
  photographed: boolean;
  /** Whether words speak of what a machine does. */
  tells: (words: string) => boolean;
};

type Token = { text: string; from: number; to: number };

const MOST_WORDS_OF_A_NUMBER = 4;
/** So many words beside a number in one line are a sentence, whatever they say. */
const SENTENCE = 4;
const SEVERAL_LINES = /\S\s*[\n;|]\s*\S/;
/** Not a single number before "W": models end so. */
const MEASURED = /\b\d+(?:\s*(?:v|hz|kw|kg|mpa|bar|rpm)|w)\b/i;

/** The line of a plate's text that one reads aloud: the one labelled "Model", else the first. */
export const nameLine = (text: string): string =>
  (
    /^.*\bmodel\b\W*(.+)$/im.exec(text.replace(/\s*[;|]\s*/g, '\n'))?.[1] ??
    text.trim().split(/\s*[\n;|]\s*/)[0] ??
    ''
  ).trim();

const tokensOf = (text: string): Token[] =>
  [...text.matchAll(/[^\s;|]+/g)].map(({ 0: found, index }) => ({
    text: found,
    from: index,
    to: index + found.length,
  }));

/** One alone is a count: "for 3 days". */
const SEVERAL_DIGITS = /\d.*\d/;
/** What stands before digits may be the letters of the number, and a single letter behind them its ending; "a" and "I" are words. */
const LETTERS_BEFORE = /^[a-z]{1,3}[-./]?$/i;
const LETTER_BEHIND = /^[b-hj-z]$/i;

/** First and last of the tokens that are the number; null where none may be. */
function placeOfNumber(tokens: readonly Token[], taken: string): [number, number] | null {
  const withLetter = (to: number) => (LETTER_BEHIND.test(tokens[to + 1]?.text ?? '') ? to + 1 : to);
  const textOf = (from: number, to: number) =>
    tokens
      .slice(from, to + 1)
      .map(({ text }) => text)
      .join('');
  for (let from = 0; SEVERAL_DIGITS.test(taken) && from < tokens.length; from += 1)
    for (let to = from; to < Math.min(tokens.length, from + MOST_WORDS_OF_A_NUMBER); to += 1)
      if (normaliseNumber(textOf(from, to)) === taken) return [from, withLetter(to)];
  const first = tokens.findIndex(({ text }) => SEVERAL_DIGITS.test(text));
  if (first < 0) return null;
  let last = first;
  while (/\d/.test(tokens[last + 1]?.text ?? '')) last += 1;
  return [LETTERS_BEFORE.test(tokens[first - 1]?.text ?? '') ? first - 1 : first, withLetter(last)];
}

const wordCount = (text: string): number => (text.match(/[a-z']{3,}/gi) ?? []).length;
const trimmed = (text: string): string => text.replace(/^[\s,;:|.–-]+|[\s,;:|–-]+$/g, '');

/**
 * Parts a line such as "vb61569 will not drain" into what names the machine and what is said of it: what stands before the number and what stands behind it, each if it speaks of what a
 * machine does or, in a single line, is as long as a sentence. What is neither (a make, "model") stays with the number; so does all of a text without a number that tells nothing. Of a plate's
 * text, photographed or with labels and measures, nothing is said: its number's line alone names it. Both empty of an empty text. O(words²).
 */
export function numberAndWords(text: string, { taken, photographed, tells }: SaidBeside): NumberAndWords {
  const line = text.trim();
  const several = SEVERAL_LINES.test(line);
  const plate = { number: several ? nameLine(line) : line, words: '' };
  if (photographed || (several && (isLabelled(line) || MEASURED.test(line)))) return plate;
  const tokens = tokensOf(line);
  const place = placeOfNumber(tokens, taken);
  const [first, last] = [tokens[place?.[0] ?? 0], tokens[place?.[1] ?? 0]];
  if (!place || !first || !last) return tells(line) ? { number: '', words: line } : plate;
  const isSaid = (side: string) => side !== '' && (tells(side) || (!several && wordCount(side) >= SENTENCE));
  const [before, behind] = [trimmed(line.slice(0, first.from)), trimmed(line.slice(last.to))];
  if (!isSaid(before) && !isSaid(behind)) return plate;
  return {
    number: trimmed(line.slice(isSaid(before) ? first.from : 0, isSaid(behind) ? last.to : line.length)),
    words: [before, behind]
      .filter(isSaid)
      .join(', ')
      .replace(/\s*[;|]\s*/g, ', '),
  };
}
