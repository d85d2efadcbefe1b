import { isDigit, SYMBOL_COUNT } from './symbols';
import { endsWord, firstChildOf, nextSisterOf, type Trie } from './trie';
import type { WordList } from './wordList';

/** What the listed numbers are like: what the model of unlisted ones is made from. */
export type ListedNumbers = {
  /** Words below or at each node of the forward trie. */
  readonly count: Int32Array;
  /** ln-free probabilities P(next | two before) of the listed numbers, next = symbol or end; rows (37 · 37), columns 37. */
  readonly trigram: Float32Array;
  readonly words: number;
  /** Of each word: 1 where it is a whole number, 0 where it is what is left of some without their ending. */
  readonly whole: Uint8Array;
  /** P(a number is given whole, no ending left off), as of the listed ones on average. */
  readonly givenWhole: number;
  /** P(length) of listed numbers, 0 to 40. */
  readonly lengths: Float32Array;
};

/** What the listed numbers say of the unlisted ones, learned by leaving one out at a time (`leftOut.ts`). */
export type Unlisted = {
  /** By band of how many listed numbers lie one character away: how much likelier such a number is than if all were alike. */
  readonly gain: Float64Array;
  /** P(kind | an unlisted number of a maker that is listed). They sum to one. */
  readonly shares: { readonly oneOff: number; readonly sibling: number; readonly alike: number };
};

/**
 * What an unlisted number would look like. A missing sibling (a listed number with one character another one, or one that follows listed numbers for a while,
 * then leaves them), pieces of listed numbers in a new row, another maker's number (letters, digits, letters, as numbers go), and junk. All seen through the same slips as listed ones.
 */
export type AbsentModel = ListedNumbers & Unlisted;

/** Behind the last character, and before the first. */
export const END = SYMBOL_COUNT;
export const START = SYMBOL_COUNT;
/** Rows and columns of the trigram. */
export const BASE = SYMBOL_COUNT + 1;

/** `whole`: 1 for words that are whole numbers, not numbers without their ending. O(total length). */
export function listedNumbers(words: WordList, whole: Uint8Array, givenWhole: number, trie: Trie): ListedNumbers {
  const count = new Int32Array(trie.size);
  // Children stand behind their parents.
  for (let node = trie.size - 1; node >= 0; node -= 1) {
    let below = endsWord(trie, node) ? 1 : 0;
    for (let child = firstChildOf(trie, node); child >= 0; child = nextSisterOf(trie, child))
      below += count[child] as number;
    count[node] = below;
  }
  const trigram = new Float32Array(BASE * BASE * BASE);
  const lengths = new Float32Array(41).fill(0.02);
  let numbers = 0;
  for (let word = 0; word < whole.length; word += 1) {
    if (!whole[word]) continue;
    numbers += 1;
    const from = words.at[word] as number;
    const until = words.at[word + 1] as number;
    let a = START;
    let b = START;
    for (let i = from; i <= until; i += 1) {
      const next = i < until ? (words.symbols[i] as number) : END;
      const cell = (a * BASE + b) * BASE + next;
      trigram[cell] = (trigram[cell] ?? 0) + 1;
      a = b;
      b = next;
    }
    lengths[until - from] = (lengths[until - from] as number) + 1;
  }
  smooth(trigram);
  const total = lengths.reduce((sum, value) => sum + value, 0);
  lengths.forEach((value, index) => (lengths[index] = value / total));
  return { count, trigram, words: numbers, whole, givenWhole, lengths };
}

/** Each row to probabilities; what was never seen shares what a row of its size leaves open, its own class (letter or digit) first. */
function smooth(trigram: Float32Array): void {
  for (let row = 0; row < BASE * BASE; row += 1) {
    const base = row * BASE;
    let total = 0;
    let digits = 0;
    let kinds = 0;
    for (let next = 0; next < BASE; next += 1) {
      const seen = trigram[base + next] ?? 0;
      total += seen;
      if (isDigit(next)) digits += seen;
      if (seen > 0) kinds += 1;
    }
    const open = (1 + 0.7 * kinds) / (1 + 0.7 * kinds + total);
    const digitShare = (digits + 1) / (total + 2);
    for (let next = 0; next < BASE; next += 1) {
      const flat = next === END ? 0.08 : 0.92 * (isDigit(next) ? digitShare / 10 : (1 - digitShare) / 26);
      trigram[base + next] = (1 - open) * (total > 0 ? (trigram[base + next] ?? 0) / total : 0) + open * flat;
    }
  }
}
