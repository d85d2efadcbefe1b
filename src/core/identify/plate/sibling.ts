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

/** More than there can be: of MOST_NODES nodes all children, twice, and what had slipped before, are fewer than 2,000. */
const MOST_STANDING = 4096;
const ranked = new Float64Array(MOST_STANDING);

/** Nodes at which a walk stands, each with its probability; kept between readings. */
class Standing {
  readonly node = new Int32Array(MOST_STANDING);
  readonly p = new Float64Array(MOST_STANDING);
  size = 0;

  put(node: number, p: number): void {
    if (this.size === MOST_STANDING) return;
    this.node[this.size] = node;
    this.p[this.size] = p;
    this.size += 1;
  }

  /** Leaves the likeliest. O(n log n). */
  keep(most: number): void {
    if (this.size <= most) return;
    const sorted = ranked.subarray(0, this.size);
    sorted.set(this.p.subarray(0, this.size));
    sorted.sort();
    const least = sorted[this.size - most] as number;
    let above = 0;
    for (let i = 0; i < this.size; i += 1) if ((this.p[i] as number) > least) above += 1;
    let ties = most - above;
    let kept = 0;
    for (let i = 0; i < this.size; i += 1) {
      const p = this.p[i] as number;
      if (p < least || (p === least && (ties -= 1) < 0)) continue;
      this.node[kept] = this.node[i] as number;
      this.p[kept] = p;
      kept += 1;
    }
    this.size = kept;
  }
}

/** What a node says of the next character. */
const look = {
  here: 0,
  escape: 0,
  /** The child that goes on with it, −1 if none, and words below. */
  match: -1,
  size: 0,
  /** P(this character | the listed numbers are left here). */
  fresh: 0,
  /** Every child with a word, its symbol and its words. */
  children: 0,
  child: new Int32Array(SYMBOL_COUNT),
  symbol: new Int32Array(SYMBOL_COUNT),
  below: new Int32Array(SYMBOL_COUNT),
};

/** Fills `look`. `own`: 1 where the reading itself is to be taken as not listed. */
function lookAt(
  { count, words }: ListedNumbers,
  trie: Trie,
  node: number,
  code: number,
  ends: boolean,
  own: number,
): void {
  look.here = (node < 0 ? words : (count[node] ?? 1)) - own;
  look.match = -1;
  const digit = isDigit(code);
  let alone = ends ? 1 : 0;
  let taken = 0;
  let digits = 0;
  let children = 0;
  for (let child = firstChildOf(trie, node); child >= 0; child = nextSisterOf(trie, child)) {
    const symbol = symbolOf(trie, child);
    const size = (count[child] as number) - (symbol === code ? own : 0);
    if (size === 0) continue;
    if (size === 1) alone += 1;
    if (isDigit(symbol)) digits += 1;
    if (symbol === code) {
      look.match = child;
      look.size = size;
    }
    if (isDigit(symbol) === digit) taken += 1;
    look.child[children] = child;
    look.symbol[children] = symbol;
    look.below[children] = size;
    children += 1;
  }
  look.children = children;
  look.escape = Math.min(0.9, (alone + 0.3) / (look.here + 0.6));
  // A character that no listed number has here; mostly of the class that stands here.
  const digitShare = (digits + 0.5) / (children + 1);
  look.fresh = digit ? digitShare / Math.max(1, 10 - taken) : (1 - digitShare) / Math.max(1, 26 - taken);
}

/** P(the listed numbers are left where `look` is, for this character), standing there with `p`. */
function leaving(p: number, code: number, ends: boolean): number {
  if (code === END) return ends ? 0 : p * look.escape * ENDS_THERE;
  if (code === UNREADABLE) return p * look.escape * 0.5;
  return look.match < 0 ? p * look.escape * GOES_ON * look.fresh : 0;
}

/** P(next | the two read before), of numbers off the listed ones. */
function following({ trigram }: ListedNumbers, read: Uint8Array, j: number, code: number): number {
  const a = j > 1 ? (read[j - 2] ?? 0) : START;
  const b = j > 0 ? (read[j - 1] ?? 0) : START;
  if (code === UNREADABLE) return GOES_ON;
  if (j < 2 || (a !== UNREADABLE && b !== UNREADABLE)) return trigram[(a * BASE + b) * BASE + code] ?? 0;
  return code === END ? 1 - GOES_ON : GOES_ON / SYMBOL_COUNT;
}

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

/** Where the walks stand, without a slip and with one, before and behind a character; two characters turned round stand on after both. */
const standing = {
  on: new Standing(),
  nextOn: new Standing(),
  slipped: new Standing(),
  nextSlipped: new Standing(),
  afterNext: new Standing(),
};

function walk(model: ListedNumbers, trie: Trie, read: Uint8Array, own: number, slips: SlipShares | null): number {
  const m = read.length;
  let { on, nextOn, slipped, nextSlipped, afterNext } = standing;
  on.size = 0;
  slipped.size = 0;
  afterNext.size = 0;
  on.put(-1, 1);
  let off = 0;
  let offSlipped = 0;
  for (let j = 0; j <= m; j += 1) {
    const code = j < m ? (read[j] as number) : END;
    const follow = following(model, read, j, code);
    nextOn.size = 0;
    [nextSlipped, afterNext] = [afterNext, nextSlipped];
    afterNext.size = 0;
    let left = 0;
    let leftSlipped = 0;
    for (let at = 0; at < on.size; at += 1) {
      const node = on.node[at] as number;
      const p = on.p[at] as number;
      const ends = node >= 0 && endsWord(trie, node) && !(own > 0 && j === m);
      lookAt(model, trie, node, code, ends, own);
      const stays = 1 - look.escape;
      left += leaving(p, code, ends);
      if (look.match >= 0) nextOn.put(look.match, (p * stays * look.size) / look.here);
      if (code === UNREADABLE || slips)
        for (let child = 0; child < look.children; child += 1) {
          const below = look.child[child] as number;
          const symbol = look.symbol[child] as number;
          const share = (p * stays * (look.below[child] as number)) / look.here;
          if (code === UNREADABLE && nextOn.size < MOST_NODES) nextOn.put(below, share);
          if (!slips) continue;
          slipped.put(below, share * slips.dropped);
          if (code < UNREADABLE && j < m && symbol !== code)
            nextSlipped.put(below, share * (slips.substituted[symbol * COLUMNS + code] as number));
        }
      if (!slips || j >= m || code === UNREADABLE) continue;
      const doubled = j > 0 && read[j - 1] === code ? slips.doubled : 0;
      nextSlipped.put(node, p * (slips.added / SYMBOL_COUNT + doubled));
      const after = j + 1 < m ? (read[j + 1] as number) : code;
      if (after !== code && after !== UNREADABLE) {
        const first = childOf(trie, node, after);
        const second = first < 0 ? -1 : childOf(trie, first, code);
        if (second >= 0)
          afterNext.put(second, ((p * stays * (model.count[second] as number)) / look.here) * slips.swapped);
      }
    }
    if (slips) {
      slipped.keep(MOST_SLIPPED);
      for (let at = 0; at < slipped.size; at += 1) {
        const node = slipped.node[at] as number;
        const p = slipped.p[at] as number;
        const ends = node >= 0 && endsWord(trie, node);
        lookAt(model, trie, node, code, ends, 0);
        leftSlipped += leaving(p, code, ends);
        if (look.match >= 0) nextSlipped.put(look.match, (p * (1 - look.escape) * look.size) / look.here);
      }
      // Off the listed numbers a slip may make any character of any other.
      const doubled = j > 0 && read[j - 1] === code ? slips.doubled : 0;
      const slip = slips.dropped * follow + (j < m ? (slips.wrong + slips.added) / SYMBOL_COUNT + doubled : 0);
      offSlipped = offSlipped * follow + off * slip + leftSlipped;
    }
    off = off * follow + left;
    nextOn.keep(MOST_NODES);
    [on, nextOn] = [nextOn, on];
    [slipped, nextSlipped] = [nextSlipped, slipped];
  }
  return slips ? off * slips.none + offSlipped : off;
}
