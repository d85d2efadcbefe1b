import { wordCount, type WordList } from './wordList';

/**
 * A trie whose sisters stand side by side, sorted, and behind them, sister by sister, what is below each: a search that looks at all children of a node to find the
 * few that may go on reads one stretch of memory, and a branch that no longer forks is one, too. Parents stand before their children. A node is two neighbouring numbers:
 * nodes[2i] is its first child (0 for none), nodes[2i + 1] holds symbol, whether it is the last of its sisters, whether a word ends here, and the greatest prior below.
 */
export type Trie = {
  readonly size: number;
  readonly nodes: Int32Array;
  /** Words that end before node 64·k; with `nodes` this tells a node's place among those where one ends. */
  readonly wordsBefore: Int32Array;
  /** Of each node where a word ends, in the order of the nodes: which word. */
  readonly words: Int32Array;
  /** Greatest ln prior of all words. */
  readonly bestOfAll: number;
};

const BLOCK = 64;
export const SYMBOL_MASK = 63;
export const LAST_BIT = 1 << 6;
export const WORD_BIT = 1 << 7;
export const PRIOR_SHIFT = 8;
/** Priors are kept as −ln p in steps, rounded towards the likelier. */
export const PRIOR_STEP = 1 / 4096;
const MOST_STEPS = (1 << (31 - PRIOR_SHIFT)) - 1;

const tagOf = (trie: Trie, node: number): number => trie.nodes[2 * node + 1] as number;
export const symbolOf = (trie: Trie, node: number): number => tagOf(trie, node) & SYMBOL_MASK;
export const endsWord = (trie: Trie, node: number): boolean => (tagOf(trie, node) & WORD_BIT) !== 0;
/** At least the greatest ln prior of a word in the subtree, at most PRIOR_STEP more. */
export const bestPriorOf = (trie: Trie, node: number): number => -(tagOf(trie, node) >>> PRIOR_SHIFT) * PRIOR_STEP;
/** −1 if there is none. Node −1 is the root. */
export const firstChildOf = (trie: Trie, node: number): number =>
  node < 0 ? (trie.size > 0 ? 0 : -1) : (trie.nodes[2 * node] as number) || -1;
/** −1 behind the last. */
export const nextSisterOf = (trie: Trie, node: number): number => (tagOf(trie, node) & LAST_BIT ? -1 : node + 1);

/** The word that ends at this node. O(1). */
export function wordEndingAt(trie: Trie, node: number): number {
  const block = Math.floor(node / BLOCK);
  let place = trie.wordsBefore[block] as number;
  for (let index = block * BLOCK; index < node; index += 1) if (endsWord(trie, index)) place += 1;
  return trie.words[place] as number;
}

/** The child with this symbol, −1 if none; node −1 is the root. */
export function childOf(trie: Trie, node: number, symbol: number): number {
  for (let child = firstChildOf(trie, node); child >= 0; child = nextSisterOf(trie, child)) {
    const own = symbolOf(trie, child);
    if (own >= symbol) return own === symbol ? child : -1;
  }
  return -1;
}

/** The listed word that reads just so; −1 when none does. O(length · branches). */
export function wordAt(trie: Trie, word: Uint8Array): number {
  let node = -1;
  for (const symbol of word) {
    node = childOf(trie, node, symbol);
    if (node < 0) return -1;
  }
  return node >= 0 && endsWord(trie, node) ? wordEndingAt(trie, node) : -1;
}

export const hasWord = (trie: Trie, word: Uint8Array): boolean => wordAt(trie, word) >= 0;

/** Words must be sorted by code and different; ln priors ≤ 0. `names`: what to call each word; its place if not given. O(total length). */
export function buildTrie(words: WordList, logPrior: ArrayLike<number>, names?: Int32Array): Trie {
  const { symbols, at } = words;
  const count = wordCount(words);
  const shared = new Uint8Array(count);
  let size = 0;
  for (let word = 0; word < count; word += 1) {
    shared[word] = word > 0 ? sharedPrefix(words, word) : 0;
    size += (at[word + 1] as number) - (at[word] as number) - (shared[word] as number);
  }
  // First in preorder, where a subtree is a stretch: where it ends, its tag, and which word ends there.
  const ends = new Int32Array(size);
  const tags = new Int32Array(size);
  const wordAtNode = new Int32Array(size);
  /** path[d]: the open node at depth d (depths count from 1); steps[d]: least −ln prior below it. */
  const path = new Int32Array(64);
  const steps = new Int32Array(64);
  let next = 0;
  let open = 0;
  let bestOfAll = -Infinity;
  const closeDownTo = (depth: number) => {
    for (; open > depth; open -= 1) {
      const node = path[open] as number;
      ends[node] = next;
      tags[node] = (tags[node] as number) | ((steps[open] as number) << PRIOR_SHIFT);
    }
  };
  for (let word = 0; word < count; word += 1) {
    const from = at[word] as number;
    const length = (at[word + 1] as number) - from;
    closeDownTo(shared[word] as number);
    const prior = logPrior[word] ?? -Infinity;
    bestOfAll = Math.max(bestOfAll, prior);
    const own = Math.min(MOST_STEPS, Math.max(0, Math.floor(-prior / PRIOR_STEP)));
    for (let d = 1; d <= open; d += 1) steps[d] = Math.min(steps[d] as number, own);
    while (open < length) {
      open += 1;
      path[open] = next;
      steps[open] = own;
      wordAtNode[next] = word;
      tags[next] = (symbols[from + open - 1] as number) | (open === length ? WORD_BIT : 0);
      next += 1;
    }
  }
  closeDownTo(0);
  return sistersTogether(ends, tags, wordAtNode, count, bestOfAll, names);
}

/** From preorder to sisters side by side: each node in its turn is given a stretch for its children. */
function sistersTogether(
  ends: Int32Array,
  tags: Int32Array,
  wordAtNode: Int32Array,
  count: number,
  bestOfAll: number,
  names: Int32Array | undefined,
): Trie {
  const size = ends.length;
  const nodes = new Int32Array(2 * size);
  /** Where each node came to stand. */
  const placeOf = new Int32Array(size);
  let next = 0;
  for (let parent = -1; parent < size; parent += 1) {
    const until = parent < 0 ? size : (ends[parent] as number);
    if (parent + 1 === until) continue;
    if (parent >= 0) nodes[2 * (placeOf[parent] as number)] = next;
    for (let child = parent + 1; child < until; child = ends[child] as number) {
      placeOf[child] = next;
      nodes[2 * next + 1] = (tags[child] as number) | (ends[child] === until ? LAST_BIT : 0);
      next += 1;
    }
  }
  // Which word ends where, in the new order: the old place is kept for a moment, then the words behind one another.
  const oldOf = ends;
  for (let old = 0; old < size; old += 1) oldOf[placeOf[old] as number] = old;
  const before = new Int32Array(Math.floor(size / BLOCK) + 1);
  const ending = new Int32Array(count);
  let place = 0;
  for (let node = 0; node < size; node += 1) {
    if (node % BLOCK === 0) before[node / BLOCK] = place;
    if (((nodes[2 * node + 1] as number) & WORD_BIT) === 0) continue;
    const word = wordAtNode[oldOf[node] as number] as number;
    ending[place] = names ? (names[word] as number) : word;
    place += 1;
  }
  return { size, nodes, wordsBefore: before, words: ending, bestOfAll };
}

/** Length of what a word has in common with the one before. */
function sharedPrefix({ symbols, at }: WordList, word: number): number {
  const a = at[word - 1] as number;
  const b = at[word] as number;
  const most = Math.min(b - a, (at[word + 1] as number) - b);
  let i = 0;
  while (i < most && symbols[a + i] === symbols[b + i]) i += 1;
  return i;
}
