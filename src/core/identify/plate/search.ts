import { MERGE, MOST_TORN, mostTorn, searchCosts } from './channel';
import { MAX_LENGTH, UNREADABLE } from './symbols';
import { LAST_BIT, PRIOR_SHIFT, PRIOR_STEP, SYMBOL_MASK, WORD_BIT, wordEndingAt, type Trie } from './trie';

/** Cells beside the live ones that a later row may look at. */
const MARGIN = 4;
const WIDTH = MAX_LENGTH + 2 * MARGIN + 2;
const DEPTHS = MAX_LENGTH + MARGIN;
const rows = new Float32Array(DEPTHS * WIDTH);
/** First and last live cell of each row; low > high when none lives. */
const low = new Int16Array(DEPTHS);
const high = new Int16Array(DEPTHS);
const path = new Int16Array(DEPTHS);
/** The node to look at next at each depth, −1 when there is none. */
const nextAt = new Int32Array(DEPTHS);
/** At each depth, what whatever goes on from there costs at least. */
const least = new Float32Array(DEPTHS);
/** Least cell of each row. */
const smallestOf = new Float32Array(DEPTHS);
/** Cost of a character too many, by its place in the reading. */
const added = new Float32Array(MAX_LENGTH + MARGIN);

const UNREADABLE_ADDED = 2;

/**
 * Which symbols may follow a row: bit s of the first word for codes below 18, of the second for the others. Most children of a node cannot continue
 * any live cell; one look at a bit saves their row.
 */
const allowLow = new Int32Array(DEPTHS);
const allowHigh = new Int32Array(DEPTHS);
const ALL = -1;
const SPLIT = 18;
/** Steps of half a nat: affordable[(j · STEPS + step) · 2]: symbols that read as character j for at most (step + 1) / 2. */
const STEPS = 48;
const affordable = new Int32Array(MAX_LENGTH * STEPS * 2);

function prepareAffordable(read: Uint8Array): void {
  const { substitution, columns } = searchCosts;
  for (let j = 0; j < read.length; j += 1) {
    const base = j * STEPS * 2;
    affordable.fill(0, base, base + STEPS * 2);
    for (let code = 0; code < columns - 1; code += 1) {
      const step = Math.max(0, Math.ceil((substitution[code * columns + (read[j] as number)] as number) * 2) - 1);
      if (step >= STEPS) continue;
      const index = base + step * 2 + (code < SPLIT ? 0 : 1);
      affordable[index] = (affordable[index] as number) | (1 << (code < SPLIT ? code : code - SPLIT));
    }
    for (let step = 1; step < STEPS; step += 1)
      for (let word = 0; word < 2; word += 1) {
        const index = base + step * 2 + word;
        affordable[index] = (affordable[index] as number) | (affordable[index - 2] as number);
      }
  }
}

export type Bounds = {
  /** Greatest channel cost (nats). */
  total: number;
  /** The first so many characters of the reading may take no more than half of what the whole may; none if below 0. */
  half: number;
  /** Greatest channel cost − ln prior. */
  joint: number;
};

/**
 * Calls `found` with every word of the trie whose cheapest alignment with the reading stays within the bounds; `found` returns the joint bound from
 * there on. Depth first, one row of the alignment per node, of which only the live cells (those inside the bounds) are computed;
 * nodes whose symbol, or whose greatest prior, lets no live cell go on are passed over without one. Words more than MOST_TORN + 1 characters longer than the reading are not looked at.
 * Returns the number of rows.
 */
export function searchTrie(
  trie: Trie,
  read: Uint8Array,
  bounds: Bounds,
  reversed: boolean,
  found: (word: number, cost: number) => number,
): number {
  const { nodes, size } = trie;
  const { substitution, columns, drop, add, swap, torn, tornOn, merge } = searchCosts;
  const { total, half } = bounds;
  let joint = bounds.joint;
  const m = read.length;
  const first = MERGE.from[reversed ? 1 : 0];
  const second = MERGE.from[reversed ? 0 : 1];
  const into = MERGE.to;
  // What is torn off the near end is found in the trie of the other direction.
  const deepest = Math.min(MAX_LENGTH, m + MOST_TORN + 1);
  const cheapestJump = Math.min(swap, merge);
  const origin = MARGIN;
  const atRoot = Math.min(total, joint + trie.bestOfAll);
  rows.fill(Infinity, 0, WIDTH);
  rows[origin] = 0;
  low[0] = 0;
  high[0] = 0;
  for (let j = 1; j <= m; j += 1) added[j] = read[j - 1] === UNREADABLE ? UNREADABLE_ADDED : add;
  for (let j = 1; j <= m; j += 1) {
    const cost = (rows[origin + j - 1] ?? 0) + (added[j] ?? 0);
    if (cost > (j <= half ? atRoot / 2 : atRoot)) break;
    rows[origin + j] = cost;
    high[0] = j;
  }
  prepareAffordable(read);
  allowAfter(0, read, atRoot, half, false);
  least[0] = 0;
  smallestOf[0] = 0;
  let visited = 0;
  let d = 1;
  nextAt[1] = size > 0 ? 0 : -1;
  while (d > 0) {
    let node = nextAt[d] as number;
    if (node < 0) {
      d -= 1;
      continue;
    }
    // Sisters stand side by side: the next one that may stand here.
    const allowedLow = allowLow[d - 1] as number;
    const allowedHigh = allowHigh[d - 1] as number;
    const atMost = least[d - 1] as number;
    let tag = nodes[2 * node + 1] as number;
    let truth = tag & SYMBOL_MASK;
    let limit = total;
    for (;;) {
      const bit = truth < SPLIT ? allowedLow & (1 << truth) : allowedHigh & (1 << (truth - SPLIT));
      if (bit !== 0) {
        limit = Math.min(total, joint - (tag >>> PRIOR_SHIFT) * PRIOR_STEP);
        if (atMost <= limit) break;
      }
      if ((tag & LAST_BIT) !== 0) {
        node = -1;
        break;
      }
      node += 1;
      tag = nodes[2 * node + 1] as number;
      truth = tag & SYMBOL_MASK;
    }
    nextAt[d] = node < 0 || (tag & LAST_BIT) !== 0 ? -1 : node + 1;
    if (node < 0) continue;
    visited += 1;
    path[d] = truth;
    const before = d > 1 ? (path[d - 1] as number) : -1;
    const base = d * WIDTH + origin;
    const above = base - WIDTH;
    const twoAbove = above - WIDTH;
    const row = truth * columns;
    const halfLimit = limit / 2;
    const from = d > 1 ? Math.min(low[d - 1] as number, low[d - 2] as number) : 0;
    const wide = d > 1 ? Math.max((high[d - 1] as number) + 2, (high[d - 2] as number) + 2) : (high[0] as number) + 2;
    const until = wide < m ? wide : m;
    let lowest = m + 1;
    let highest = -1;
    let smallest = Infinity;
    let cell = Infinity;
    for (let k = 1; k <= MARGIN; k += 1) rows[base + from - k] = Infinity;
    let j = from;
    for (; j <= until; j += 1) {
      let best = (rows[above + j] as number) + drop;
      if (j > 0) {
        const seen = read[j - 1] as number;
        const replaced = (rows[above + j - 1] as number) + (substitution[row + seen] as number);
        if (replaced < best) best = replaced;
        const more = cell + (added[j] as number);
        if (more < best) best = more;
        if (d > 1 && j > 1 && seen === before && read[j - 2] === truth && truth !== before) {
          const swapped = (rows[twoAbove + j - 2] as number) + swap;
          if (swapped < best) best = swapped;
        }
        if (j > 1 && truth === into && read[j - 2] === first && seen === second) {
          const split = (rows[above + j - 2] as number) + merge;
          if (split < best) best = split;
        }
        if (d > 1 && seen === into && before === first && truth === second) {
          const merged = (rows[twoAbove + j - 1] as number) + merge;
          if (merged < best) best = merged;
        }
      }
      if (best > limit || (j <= half && best > halfLimit)) best = Infinity;
      else {
        if (j < lowest) lowest = j;
        highest = j;
        if (best < smallest) smallest = best;
      }
      rows[base + j] = best;
      cell = best;
    }
    // Beyond the reach of the rows above, only characters too many.
    for (; j <= m && cell !== Infinity; j += 1) {
      const more = cell + (added[j] as number);
      cell = more > limit || (j <= half && more > halfLimit) ? Infinity : more;
      if (cell !== Infinity) highest = j;
      rows[base + j] = cell;
    }
    // Later rows may look at any cell up to the reading's end.
    for (; j <= m; j += 1) rows[base + j] = Infinity;
    low[d] = lowest;
    high[d] = highest;
    const atEnd = highest === m ? (rows[base + m] as number) : Infinity;
    let rest = Infinity;
    let tearing = atEnd + torn;
    const mayLose = mostTorn(d);
    for (let lost = 1; lost <= MOST_TORN && lost <= d; lost += 1) {
      if (high[d - lost] !== m) continue;
      const cost = (rows[base - lost * WIDTH + m] as number) + torn + (lost - 1) * tornOn;
      if (lost <= mayLose && cost < rest) rest = cost;
      if (lost < MOST_TORN && cost < tearing) tearing = cost;
    }
    if ((tag & WORD_BIT) !== 0) {
      const cost = atEnd < rest ? atEnd : rest;
      if (cost <= limit) joint = found(wordEndingAt(trie, node), cost);
    }
    smallestOf[d] = smallest;
    // A swap and a merge reach back two rows.
    const onward = Math.min(smallest, tearing, (smallestOf[d - 1] as number) + cheapestJump);
    const below = nodes[2 * node] as number;
    if (onward > limit || below === 0 || d === deepest) continue;
    least[d] = onward;
    allowAfter(d, read, limit, half, tearing <= limit);
    d += 1;
    nextAt[d] = below;
  }
  return visited;
}

let bitsLow = 0;
let bitsHigh = 0;

/** Adds one symbol; an unreadable one lets any through. */
function allow(code: number): void {
  if (code < SPLIT) bitsLow |= 1 << code;
  else if (code < 2 * SPLIT) bitsHigh |= 1 << (code - SPLIT);
  else {
    bitsLow = ALL;
    bitsHigh = ALL;
  }
}

/** Notes which symbols may stand at depth d + 1. `open`: any may (something is being torn off). */
function allowAfter(d: number, read: Uint8Array, limit: number, half: number, open: boolean): void {
  allowLow[d] = ALL;
  allowHigh[d] = ALL;
  if (open) return;
  const { drop, swap, merge } = searchCosts;
  const m = read.length;
  const [one, two] = MERGE.from;
  const into = MERGE.to;
  bitsLow = 0;
  bitsHigh = 0;
  const base = d * WIDTH + MARGIN;
  const last = high[d] as number;
  for (let j = low[d] as number; j <= last; j += 1) {
    const cell = rows[base + j] as number;
    if (cell === Infinity) continue;
    const here = j <= half ? limit / 2 : limit;
    if (cell + drop <= here) return;
    if (j < m) {
      const there = j < half ? limit / 2 : limit;
      const left = Math.floor((there - cell) * 2);
      if (left >= 0) {
        const index = (j * STEPS + (left < STEPS ? left : STEPS - 1)) * 2;
        bitsLow |= affordable[index] as number;
        bitsHigh |= affordable[index + 1] as number;
      }
      if (cell + swap <= limit && j + 1 < m) allow(read[j + 1] as number);
      if (cell + merge <= limit) {
        allow(one);
        allow(two);
        allow(into);
      }
    }
  }
  // A jump that began in the row before ends at the next symbol.
  if (d > 0) {
    const above = base - WIDTH;
    for (let j = low[d - 1] as number; j <= (high[d - 1] as number); j += 1) {
      const cell = rows[above + j] as number;
      if (cell + swap <= limit && j < m) allow(read[j] as number);
      if (cell + merge <= limit) {
        allow(one);
        allow(two);
      }
    }
  }
  allowLow[d] = bitsLow;
  allowHigh[d] = bitsHigh;
}
