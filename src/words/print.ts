import { listOf } from './format';

/** What the type that is printed with has letters for: Latin with its accents, Greek, Cyrillic, and the signs of prices and figures. */
const HAS_TYPE =
  /^[\n\u0020-\u007e\u00a0-\u017f\u0192\u01a0\u01a1\u01af\u01b0\u0218-\u021b\u02c6-\u02dd\u0384-\u0386\u0388-\u03ce\u0400-\u045f\u0490\u0491\u1ea0-\u1ef9\u2009\u200b\u2010-\u2015\u2018-\u201e\u2020-\u2022\u2026\u202f\u2030\u2032\u2033\u2039\u203a\u2044\u20a3-\u20ac\u2116\u2122\u2212]*$/;

export const isPrintable = (text: string): boolean => HAS_TYPE.test(text.normalize('NFC'));

const LONGEST = 2000;
const LONGEST_WORD = 90;

/** A text as long as paper bears: a word that no line holds is broken, and what is longer than a page's worth ends in “…”. */
export function clipForPrint(text: string): string {
  const whole = text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text;
  return whole.replace(/\S{91,}/g, (word) => {
    const pieces: string[] = [];
    for (let from = 0; from < word.length; from += LONGEST_WORD) pieces.push(word.slice(from, from + LONGEST_WORD));
    return pieces.join(' ');
  });
}

/** Said after a PDF was made with letters that this device has no type for. */
export const missingTypeWords = (letters: readonly string[]): string =>
  `This device has no type for ${listOf(letters.slice(0, 6).map((letter) => `“${letter}”`))}${letters.length > 6 ? ' and others' : ''}: there the PDF has empty boxes. Print it from a device that shows them, or write them in Latin letters.`;
