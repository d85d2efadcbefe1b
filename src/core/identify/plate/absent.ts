import { childOf, endsWord, firstChildOf, nextSisterOf, symbolOf, wordAt, wordEndingAt, type Trie } from './trie';
import { isDigit, SYMBOL_COUNT, UNREADABLE } from './symbols';
import { MODES } from './channel';
import { replacement } from './likelihood';
import { BASE, END, START, type AbsentModel, type ListedNumbers } from './listedNumbers';
import { sibling, siblingSlipped, slipShares } from './sibling';

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
      return standsFor(model, wordEndingAt(trie, node));
    }
    const code = read[j] as number;
    if (replaced && code !== UNREADABLE) {
      const child = childOf(trie, node, code);
      return child < 0 ? 0 : walk(child, j + 1, true, sameClass);
    }
    let mass = 0;
    for (let child = firstChildOf(trie, node); child >= 0 && steps < MOST_STEPS; child = nextSisterOf(trie, child)) {
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
  const word = wordAt(trie, read);
  // What is listed just so is hardly another number misread.
  const followed =
    word >= 0
      ? slips.none * sibling(model, trie, read)
      : siblingSlipped(model, trie, read, slips) + slips.more * smeared;
  const other =
    OF_LISTED * (shares.sibling * followed + shares.alike * smeared) +
    STRANGER * stranger(model, read) +
    JUNK * junk(read);
  // A number that is listed is not unlisted: only a slip made the reading of another one.
  const isListed = word >= 0 && model.whole[word] === 1;
  return {
    oneOff: isListed ? 0 : seen * OF_LISTED * shares.oneOff * dense * beside.p,
    other: seen * model.givenWhole * other * (isListed ? 1 - slips.none : 1),
  };
}

/** A listed number near a reading. `sibling`: P(read | it with one character replaced). */
export type NearWord = { word: number; codes: Uint8Array; sibling: number };

/**
 * The same part seen through the whole channel, but only beside the listed numbers given: a lower bound, too. A reading that is one of them, a whole number, is not
 * an unlisted one read without a slip: those one character beside it are left out, of whose siblings it would be one.
 */
export function oneOffBeside(model: AbsentModel, words: readonly NearWord[], read: Uint8Array): number {
  const isListed = words.some(({ word, codes }) => model.whole[word] === 1 && distance(codes, read) === 0);
  const from = isListed ? words.filter(({ codes }) => distance(codes, read) !== 1) : words;
  return (
    ((OF_LISTED * model.shares.oneOff) / model.words) *
    from.reduce((sum, { word, sibling }) => sum + standsFor(model, word) * sibling, 0)
  );
}

/** Places in which two numbers of one length differ; infinite for others. */
function distance(a: Uint8Array, b: Uint8Array): number {
  if (a.length !== b.length) return Infinity;
  let differ = 0;
  for (let place = 0; place < a.length; place += 1) if (a[place] !== b[place]) differ += 1;
  return differ;
}
