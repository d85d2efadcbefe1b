import { childOf, endOf, endsWord, hasWord, symbolOf, wordsBefore, type Trie } from './trie';
import type { WordList } from './wordList';
import { isDigit, SYMBOL_COUNT, UNREADABLE } from './symbols';
import { MODES } from './channel';
import { replacement, siblingLikelihood } from './likelihood';
import { sibling, siblingSlipped, slipShares } from './sibling';

/**
 * What an unlisted number would look like. A missing sibling (a listed number with one character another one, or one that follows listed numbers for a while,
 * then leaves them), pieces of listed numbers in a new row, another maker's number (letters, digits, letters, as numbers go), and junk. All seen through the same slips as listed ones.
 */
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

export type AbsentModel = ListedNumbers & Unlisted;

const END = SYMBOL_COUNT;
const START = SYMBOL_COUNT;
const BASE = SYMBOL_COUNT + 1;

/** `whole`: 1 for words that are whole numbers, not numbers without their ending. O(total length). */
export function listedNumbers(words: WordList, whole: Uint8Array, givenWhole: number, trie: Trie): ListedNumbers {
  const count = new Int32Array(trie.size);
  const before = new Int32Array(trie.size + 1);
  for (let node = 0; node < trie.size; node += 1)
    before[node + 1] = (before[node] ?? 0) + (endsWord(trie, node) ? 1 : 0);
  for (let node = 0; node < trie.size; node += 1) count[node] = (before[endOf(trie, node)] ?? 0) - (before[node] ?? 0);
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

/** Shares of the kinds of unlisted numbers: of makers that are listed, another maker's, junk. */
const OF_LISTED = 0.9;
const STRANGER = 0.07;
const JUNK = 0.03;

/** Least number of neighbours of each band. */
const BANDS = [1, 2, 3, 4, 6, 9, 13, 20];
export const BAND_COUNT = BANDS.length;
export const bandOf = (neighbours: number): number =>
  Math.max(
    0,
    BANDS.findLastIndex((least) => neighbours >= least),
  );

/** Nodes looked at for one reading; many unreadable characters branch at each. */
const MOST_STEPS = 6000;

/** P(an unlisted number leaves its ending off, as a listed one may). */
const WITHOUT_ENDING = 0.15;

/** How much of an unlisted number beside this word is given when the word is. */
const standsFor = ({ whole, givenWhole }: ListedNumbers, word: number): number =>
  whole[word] === 1 ? givenWhole : WITHOUT_ENDING;

export type Beside = {
  /** P(reading | a listed number with exactly one character replaced, all alike), read without a slip. */
  p: number;
  /** Listed numbers that differ from the reading in one character of the same class. */
  neighbours: number;
};

/** The listed numbers that are one character away; an unreadable character is any. O(length² · branches), bounded. */
export function besideListed(model: ListedNumbers, trie: Trie, read: Uint8Array): Beside {
  const m = read.length;
  let steps = 0;
  let neighbours = 0;
  const walk = (node: number, j: number, replaced: boolean, sameClass: boolean): number => {
    if (j === m) {
      if (!replaced || !endsWord(trie, node)) return 0;
      if (sameClass) neighbours += 1;
      return standsFor(model, wordsBefore(trie, node));
    }
    const code = read[j] as number;
    if (replaced && code !== UNREADABLE) {
      const child = childOf(trie, node, code);
      return child < 0 ? 0 : walk(child, j + 1, true, sameClass);
    }
    const until = node < 0 ? trie.size : endOf(trie, node);
    let mass = 0;
    for (let child = node + 1; child < until && steps < MOST_STEPS; child = endOf(trie, child)) {
      steps += 1;
      const symbol = symbolOf(trie, child);
      if (symbol === code || code === UNREADABLE) mass += walk(child, j + 1, replaced, sameClass);
      else if (!replaced)
        mass += replacement(symbol, code) * walk(child, j + 1, true, isDigit(symbol) === isDigit(code));
    }
    return mass;
  };
  const p = m === 0 ? 0 : walk(-1, 0, false, false) / (model.words * m);
  return { p, neighbours };
}

/** P(a new maker's number): class of each character follows that of the one before; the symbols of a class are alike. */
function stranger(model: ListedNumbers, read: Uint8Array): number {
  let p = 1;
  let digit: boolean | null = null;
  for (const code of read) {
    if (code === UNREADABLE) continue;
    const now = isDigit(code);
    const stays = digit === null ? (now ? 0.35 : 0.65) : now === digit ? 0.72 : 0.28;
    p *= (stays * 1) / (now ? 10 : 26);
    digit = now;
  }
  return p * lengthShare(model, read.length);
}

/** P(a number put together as the listed ones are, each character by the two before it): pieces that are known, in a row that is not. O(length). */
export function alike({ trigram }: ListedNumbers, read: Uint8Array): number {
  let p = 1;
  let a = START;
  let b = START;
  for (let j = 0; j <= read.length; j += 1) {
    const code = j < read.length ? (read[j] as number) : END;
    if (code === UNREADABLE) p *= 0.92;
    else if (a === UNREADABLE || b === UNREADABLE) p *= code === END ? 0.08 : 0.92 / SYMBOL_COUNT;
    else p *= trigram[(a * BASE + b) * BASE + code] as number;
    a = b;
    b = code;
  }
  return p;
}

const lengthShare = (model: ListedNumbers, length: number): number =>
  0.7 * (model.lengths[Math.min(40, length)] ?? 0) + 0.3 * (length >= 4 && length <= 16 ? 1 / 13 : 0.002);

const junk = (read: Uint8Array): number =>
  read.reduce((p, code) => (code === UNREADABLE ? p : p / SYMBOL_COUNT), read.length <= 24 ? 1 / 24 : 1 / 400);

/** P(a symbol is read as it is), and P(?), over the modes. */
const CLEAN = MODES.map((mode) => ({
  share: mode.share,
  wrong: 1 - (mode.substitution[0] ?? 1),
  unreadable: mode.substitution[UNREADABLE] ?? 0,
}));

export type AbsentParts = {
  /** P(read | an unlisted number one character beside a listed one). A lower bound: read without a slip. */
  oneOff: number;
  /** P(read | an unlisted number of another kind). */
  other: number;
};

/**
 * P(read, kind | a number that is not in the catalogue), in two parts. Slips in an unlisted number are taken as clean but for `?` and those that `oneOffBeside`
 * follows: a misread unlisted number looks like another unlisted one.
 */
export function absentParts(model: AbsentModel, trie: Trie, read: Uint8Array): AbsentParts {
  const marks = read.reduce((sum, code) => sum + (code === UNREADABLE ? 1 : 0), 0);
  const seen = CLEAN.reduce(
    (sum, { share, unreadable }) => sum + share * unreadable ** marks * (1 - unreadable) ** (read.length - marks),
    0,
  );
  const { shares, gain } = model;
  const beside = besideListed(model, trie, read);
  // Which number an unreadable character leaves is not known, and so not how dense it is there.
  const dense = marks > 0 ? 1 : (gain[bandOf(beside.neighbours)] as number);
  const slips = slipShares(read.length, marks);
  const smeared = alike(model, read);
  // What is listed just so is hardly another number misread.
  const followed = hasWord(trie, read)
    ? slips.none * sibling(model, trie, read)
    : siblingSlipped(model, trie, read, slips) + slips.more * smeared;
  const other =
    OF_LISTED * (shares.sibling * followed + shares.alike * smeared) +
    STRANGER * stranger(model, read) +
    JUNK * junk(read);
  return { oneOff: seen * OF_LISTED * shares.oneOff * dense * beside.p, other: seen * model.givenWhole * other };
}

/** The same part seen through the whole channel, but only beside the listed numbers given: a lower bound, too. */
export const oneOffBeside = (
  model: AbsentModel,
  words: readonly { word: number; codes: Uint8Array }[],
  read: Uint8Array,
): number =>
  ((OF_LISTED * model.shares.oneOff) / model.words) *
  words.reduce((sum, { word, codes }) => sum + standsFor(model, word) * siblingLikelihood(codes, read), 0);
