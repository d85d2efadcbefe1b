import { alike, BAND_COUNT, bandOf, besideListed } from './absent';
import type { ListedNumbers, Unlisted } from './listedNumbers';
import { sibling } from './sibling';
import { isDigit } from './symbols';
import { hasWord, type Trie } from './trie';
import { wordCount, wordOf, type WordList } from './wordList';

/*
 * Whoever made the list left numbers out much as if at random. So what an unlisted number looks like is learned from the listed ones, each taken as if it were the
 * one that is missing: how many numbers lie beside it, and which way of making numbers explains it best.
 */

/** Numbers beside listed ones that are looked at. */
const LOOKED_AT = 2500;
/** Listed numbers that are left out to learn the shares. */
const LEFT_OUT = 400;
/** What is thought before, and how many left-out numbers it counts as. */
const BEFORE = { oneOff: 0.61, sibling: 0.26, alike: 0.13 };
const BEFORE_COUNTS = 20;
const ROUNDS = 12;
/** How much of the shares is learned so: lists also lack whole families, which leaving one number out does not show. */
const LEARNED = 0.25;
/** Draws that a band must have before its own share counts as much as that of all. */
const FEW = 8;

/** Places drawn from without dice: the same list gives the same index. Weyl's sequence of the golden ratio. */
const drawn = (index: number, count: number, turn: number): number =>
  Math.floor(((index * 0.6180339887498949 + turn * 0.414213562373095) % 1) * count);

/** O((LOOKED_AT + LEFT_OUT) · length² · branches), whatever the size of the list. */
export function learnUnlisted(model: ListedNumbers, trie: Trie, words: WordList): Unlisted {
  const gain = gains(model, trie, words);
  return { gain, shares: sharesOf(model, trie, words, gain) };
}

/**
 * A listed number with one character of its class replaced, all alike: the share of those that are listed, by how many listed numbers lie one character away, is
 * how dense the numbering is there. Unlisted numbers are taken to be as dense as listed ones: density / neighbours, against all alike, is the gain.
 */
function gains(model: ListedNumbers, trie: Trie, words: WordList): Float64Array {
  const count = wordCount(words);
  const seen: { band: number; neighbours: number; listed: boolean }[] = [];
  for (let index = 0; count > 0 && index < LOOKED_AT; index += 1) {
    const beside = wordOf(words, drawn(index, count, 0)).slice();
    const place = drawn(index, beside.length, 1);
    const code = beside[place] as number;
    beside[place] = isDigit(code)
      ? (code + 1 + drawn(index, 9, 2)) % 10
      : 10 + ((code - 10 + 1 + drawn(index, 25, 2)) % 26);
    const { neighbours } = besideListed(model, trie, beside);
    seen.push({ band: bandOf(neighbours), neighbours: Math.max(1, neighbours), listed: hasWord(trie, beside) });
  }
  const listed = seen.filter((entry) => entry.listed).length;
  // Where hardly any two numbers lie side by side nothing is to be learned of it.
  if (listed === 0 || listed === seen.length) return new Float64Array(BAND_COUNT).fill(1);
  const all = listed / seen.length;
  const bands = Array.from({ length: BAND_COUNT }, (_, band) => {
    const here = seen.filter((entry) => entry.band === band);
    const density = (here.filter((entry) => entry.listed).length + FEW * all) / (here.length + FEW);
    const perNeighbour = here.reduce((sum, { neighbours }) => sum + 1 / neighbours, 1) / (here.length + 1);
    return { unlisted: here.filter((entry) => !entry.listed).length, weight: density * perNeighbour };
  });
  const mean = bands.reduce((sum, { unlisted, weight }) => sum + unlisted * weight, 0) / seen.length;
  return Float64Array.from(bands, ({ weight }) => weight / mean);
}

/** Shares of the ways in which a number of a listed maker comes about: a mixture fitted to left-out numbers (expectation, maximisation). */
function sharesOf(model: ListedNumbers, trie: Trie, words: WordList, gain: Float64Array): Unlisted['shares'] {
  const count = wordCount(words);
  const ways: { oneOff: number; sibling: number; alike: number }[] = [];
  for (let index = 0; index < Math.min(count, LEFT_OUT); index += 1) {
    const at = count <= LEFT_OUT ? index : drawn(index, count, 3);
    if (!model.whole[at]) continue;
    const word = wordOf(words, at);
    const beside = besideListed(model, trie, word);
    ways.push({
      oneOff: beside.p * (gain[bandOf(beside.neighbours)] as number),
      sibling: model.givenWhole * sibling(model, trie, word, true),
      alike: model.givenWhole * alike(model, word),
    });
  }
  let shares = BEFORE;
  for (let round = 0; round < ROUNDS; round += 1) {
    const sums = {
      oneOff: BEFORE.oneOff * BEFORE_COUNTS,
      sibling: BEFORE.sibling * BEFORE_COUNTS,
      alike: BEFORE.alike * BEFORE_COUNTS,
    };
    for (const way of ways) {
      const total = shares.oneOff * way.oneOff + shares.sibling * way.sibling + shares.alike * way.alike;
      if (!(total > 0)) continue;
      sums.oneOff += (shares.oneOff * way.oneOff) / total;
      sums.sibling += (shares.sibling * way.sibling) / total;
      sums.alike += (shares.alike * way.alike) / total;
    }
    const total = sums.oneOff + sums.sibling + sums.alike;
    shares = { oneOff: sums.oneOff / total, sibling: sums.sibling / total, alike: sums.alike / total };
  }
  return {
    oneOff: LEARNED * shares.oneOff + (1 - LEARNED) * BEFORE.oneOff,
    sibling: LEARNED * shares.sibling + (1 - LEARNED) * BEFORE.sibling,
    alike: LEARNED * shares.alike + (1 - LEARNED) * BEFORE.alike,
  };
}
