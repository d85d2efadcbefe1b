import { BASE, END, START, type ListedNumbers } from './listedNumbers';
import { MODES } from './channel';
import { isDigit, SYMBOL_COUNT, UNREADABLE } from './symbols';
import { childOf, endsWord, firstChildOf, nextSisterOf, symbolOf, type Trie } from './trie';

/*
 * A number that follows the listed ones for a while and then leaves them, read without a slip or with one. At each node the chance of leaving is the share of its
 * words that are alone on their branch: leave one listed word out, and that is where it would leave (PPM's method X); from there on each character follows the two
 * before it as in the listed numbers.
 */
const COLUMNS = SYMBOL_COUNT + 1;

/** Nodes that the walk may stand on at once, without a slip (where characters cannot be read), and with one. */
const MOST_NODES = 24;
const MOST_SLIPPED = 48;
/** Of what leaves the listed numbers: a character goes on, or the number ends. */
const GOES_ON = 0.92;
const ENDS_THERE = 0.15;

/** How a reading of some length comes about: without a slip, with just one (each kind, the rest read as it stands), with more. All modes and severities mixed. */
export type SlipShares = {
  none: number;
  more: number;
  /** P(this read for that, and no other slip); rows truth, columns read. */
  substituted: Float64Array;
  /** P(any one character read for another), on average. */
  wrong: number;
  dropped: number;
  /** Any character added; the one before it doubled. */
  added: number;
  doubled: number;
  swapped: number;
};

/** Of each mode: P(a character is read as it is, or not at all), all symbols alike, and the ends are whole. */
const CLEAN = MODES.map((mode) => {
  let right = 0;
  let unread = 0;
  for (let symbol = 0; symbol < SYMBOL_COUNT; symbol += 1) {
    right += (mode.substitution[symbol * COLUMNS + symbol] ?? 0) / SYMBOL_COUNT;
    unread += (mode.substitution[symbol * COLUMNS + UNREADABLE] ?? 0) / SYMBOL_COUNT;
  }
  return { right, unread, stays: right + unread - mode.add - mode.double, whole: (1 - mode.torn) ** 2 };
});

const known = new Map<number, SlipShares>();

/** `marks`: characters that could not be read; which modes leave so many is part of it. Kept by length and marks. */
export function slipShares(length: number, marks: number): SlipShares {
  const key = length * 64 + marks;
  const found = known.get(key);
  if (found) return found;
  const weights = MODES.map(({ share }, k) => {
    const { unread } = CLEAN[k] as (typeof CLEAN)[number];
    return share * unread ** marks * (1 - unread) ** (length - marks);
  });
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const shares: SlipShares = {
    none: 0,
    more: 0,
    substituted: new Float64Array(SYMBOL_COUNT * COLUMNS),
    wrong: 0,
    dropped: 0,
    added: 0,
    doubled: 0,
    swapped: 0,
  };
  let one = 0;
  MODES.forEach((mode, k) => {
    const { right, unread, stays, whole } = CLEAN[k] as (typeof CLEAN)[number];
    const weight = ((weights[k] as number) / total) * whole;
    const rest = weight * stays ** Math.max(0, length - 1);
    shares.none += rest * stays;
    shares.dropped += rest * mode.drop;
    shares.added += rest * mode.add;
    shares.doubled += rest * mode.double;
    shares.swapped += rest * mode.swap;
    for (let truth = 0; truth < SYMBOL_COUNT; truth += 1)
      for (let read = 0; read < SYMBOL_COUNT; read += 1) {
        const cell = truth * COLUMNS + read;
        if (truth !== read)
          shares.substituted[cell] = (shares.substituted[cell] ?? 0) + rest * (mode.substitution[cell] ?? 0);
      }
    shares.wrong += rest * (1 - right - unread - mode.drop - mode.swap);
    one += rest * length * (1 - right - unread + mode.add + mode.double);
  });
  shares.more = Math.max(0, 1 - shares.none - one);
  known.set(key, shares);
  return shares;
}

type Standing = { node: number; p: number };

/** What a node says of the next character. */
type Look = {
  here: number;
  escape: number;
  /** The child that goes on with it, −1 if none, and words below. */
  match: number;
  size: number;
  /** P(this character | the listed numbers are left here). */
  fresh: number;
};
const look: Look = { here: 0, escape: 0, match: -1, size: 0, fresh: 0 };

/** Fills `look`; calls `each` with every child and its words. `own`: 1 where the reading itself is to be taken as not listed. */
function lookAt(
  { count, words }: ListedNumbers,
  trie: Trie,
  node: number,
  code: number,
  ends: boolean,
  own: number,
  each?: (child: number, symbol: number, size: number) => void,
): void {
  look.here = (node < 0 ? words : (count[node] ?? 1)) - own;
  look.match = -1;
  let alone = ends ? 1 : 0;
  let taken = 0;
  let digits = 0;
  let children = 0;
  for (let child = firstChildOf(trie, node); child >= 0; child = nextSisterOf(trie, child)) {
    const symbol = symbolOf(trie, child);
    const size = (count[child] ?? 0) - (symbol === code ? own : 0);
    if (size === 0) continue;
    if (size === 1) alone += 1;
    children += 1;
    if (isDigit(symbol)) digits += 1;
    if (symbol === code) {
      look.match = child;
      look.size = size;
    }
    if (isDigit(symbol) === isDigit(code)) taken += 1;
    each?.(child, symbol, size);
  }
  look.escape = Math.min(0.9, (alone + 0.3) / (look.here + 0.6));
  // A character that no listed number has here; mostly of the class that stands here.
  const digitShare = (digits + 0.5) / (children + 1);
  look.fresh = isDigit(code) ? digitShare / Math.max(1, 10 - taken) : (1 - digitShare) / Math.max(1, 26 - taken);
}

/** P(next | the two read before), of numbers off the listed ones. */
function following({ trigram }: ListedNumbers, read: Uint8Array, j: number, code: number): number {
  const a = j > 1 ? (read[j - 2] ?? 0) : START;
  const b = j > 0 ? (read[j - 1] ?? 0) : START;
  if (code === UNREADABLE) return GOES_ON;
  if (j < 2 || (a !== UNREADABLE && b !== UNREADABLE)) return trigram[(a * BASE + b) * BASE + code] ?? 0;
  return code === END ? 1 - GOES_ON : GOES_ON / SYMBOL_COUNT;
}

const best = (standing: Standing[], most: number): Standing[] =>
  standing.length > most ? standing.sort((x, y) => y.p - x.p).slice(0, most) : standing;

/**
 * P(read, no slip | such a number), without the chance of having no slip. `leftOut`: the reading is a listed number, and is to be taken as if it were not.
 * O(length · branches).
 */
export function sibling(model: ListedNumbers, trie: Trie, read: Uint8Array, leftOut = false): number {
  return walk(model, trie, read, leftOut ? 1 : 0, null);
}

/** The same with exactly one slip, or none: P(read, at most one slip). O(length · branches · MOST_SLIPPED), bounded. */
export function siblingSlipped(model: ListedNumbers, trie: Trie, read: Uint8Array, slips: SlipShares): number {
  return walk(model, trie, read, 0, slips);
}

function walk(model: ListedNumbers, trie: Trie, read: Uint8Array, own: number, slips: SlipShares | null): number {
  const m = read.length;
  let off = 0;
  let on: Standing[] = [{ node: -1, p: 1 }];
  let offSlipped = 0;
  let slipped: Standing[] = [];
  /** Two characters turned round stand on after both. */
  let afterNext: Standing[] = [];
  for (let j = 0; j <= m; j += 1) {
    const code = j < m ? (read[j] ?? 0) : END;
    const follow = following(model, read, j, code);
    const nextOn: Standing[] = [];
    const nextSlipped: Standing[] = afterNext;
    afterNext = [];
    let left = 0;
    let leftSlipped = 0;
    const leaving = (p: number, ends: boolean): number => {
      if (code === END) return ends ? 0 : p * look.escape * ENDS_THERE;
      if (code === UNREADABLE) return p * look.escape * 0.5;
      return look.match < 0 ? p * look.escape * GOES_ON * look.fresh : 0;
    };
    for (const { node, p } of on) {
      const ends = node >= 0 && endsWord(trie, node) && !(own > 0 && j === m);
      const follows: [number, number, number][] = [];
      lookAt(model, trie, node, code, ends, own, (child, symbol, size) => follows.push([child, symbol, size]));
      const stays = 1 - look.escape;
      const { here, match, size: matching } = look;
      left += leaving(p, ends);
      if (match >= 0) nextOn.push({ node: match, p: (p * stays * matching) / here });
      for (const [child, symbol, size] of follows) {
        const share = (p * stays * size) / here;
        if (code === UNREADABLE && nextOn.length < MOST_NODES) nextOn.push({ node: child, p: share });
        if (!slips) continue;
        slipped.push({ node: child, p: share * slips.dropped });
        if (code < UNREADABLE && j < m && symbol !== code)
          nextSlipped.push({ node: child, p: share * (slips.substituted[symbol * COLUMNS + code] as number) });
      }
      if (!slips || j >= m || code === UNREADABLE) continue;
      const doubled = j > 0 && read[j - 1] === code ? slips.doubled : 0;
      nextSlipped.push({ node, p: p * (slips.added / SYMBOL_COUNT + doubled) });
      const after = j + 1 < m ? (read[j + 1] as number) : code;
      if (after !== code && after !== UNREADABLE) {
        const first = childOf(trie, node, after);
        const second = first < 0 ? -1 : childOf(trie, first, code);
        if (second >= 0) {
          const below = model.count[second] ?? 0;
          afterNext.push({ node: second, p: ((p * stays * below) / here) * slips.swapped });
        }
      }
    }
    if (slips) {
      for (const { node, p } of best(slipped, MOST_SLIPPED)) {
        const ends = node >= 0 && endsWord(trie, node);
        lookAt(model, trie, node, code, ends, 0);
        leftSlipped += leaving(p, ends);
        if (look.match >= 0) nextSlipped.push({ node: look.match, p: (p * (1 - look.escape) * look.size) / look.here });
      }
      // Off the listed numbers a slip may make any character of any other.
      const doubled = j > 0 && read[j - 1] === code ? slips.doubled : 0;
      const slip = slips.dropped * follow + (j < m ? (slips.wrong + slips.added) / SYMBOL_COUNT + doubled : 0);
      offSlipped = offSlipped * follow + off * slip + leftSlipped;
    }
    off = off * follow + left;
    on = best(nextOn, MOST_NODES);
    slipped = nextSlipped;
  }
  return slips ? off * slips.none + offSlipped : off;
}
