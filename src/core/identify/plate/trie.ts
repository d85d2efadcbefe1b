import { wordCount, type WordList } from './wordList';

/**
 * A trie in preorder: node i's first child is i + 1 when it is deeper; its subtree ends before its end. A search is one pass over the nodes that jumps
 * to the end where it prunes. A node is two neighbouring numbers, so looking at one is one reach into memory:
 * nodes[2i] is its end, nodes[2i + 1] holds symbol, depth, whether a word ends here, and the greatest prior below.
 */
export type Trie = {
  readonly size: number;
  readonly nodes: Int32Array;
  /** Words that end before node 64·k; with `nodes` this tells a node's word. */
  readonly wordsBefore: Int32Array;
  /** Greatest ln prior of all words. */
  readonly bestOfAll: number;
};

const BLOCK = 64;
export const DEPTH_SHIFT = 6;
export const SYMBOL_MASK = 63;
export const DEPTH_MASK = 63 << DEPTH_SHIFT;
export const WORD_BIT = 1 << 12;
export const PRIOR_SHIFT = 13;
/** Priors are kept as −ln p in steps, rounded towards the likelier; what is rarer than e^−63 counts as that. */
export const PRIOR_STEP = 1 / 4096;
const MOST_STEPS = (1 << (31 - PRIOR_SHIFT)) - 1;

export const endOf = (trie: Trie, node: number): number => trie.nodes[2 * node] as number;
export const symbolOf = (trie: Trie, node: number): number => (trie.nodes[2 * node + 1] as number) & SYMBOL_MASK;
export const endsWord = (trie: Trie, node: number): boolean => ((trie.nodes[2 * node + 1] as number) & WORD_BIT) !== 0;
/** At least the greatest ln prior of a word in the subtree, at most PRIOR_STEP more. */
export const bestPriorOf = (trie: Trie, node: number): number =>
  -((trie.nodes[2 * node + 1] as number) >>> PRIOR_SHIFT) * PRIOR_STEP;

/** Words that end before this node; at a node where one ends, that word's place in the order given. O(1). */
export function wordsBefore(trie: Trie, node: number): number {
  const block = Math.floor(node / BLOCK);
  let words = trie.wordsBefore[block] as number;
  for (let index = block * BLOCK; index < node; index += 1) if (endsWord(trie, index)) words += 1;
  return words;
}

/** The child with this symbol, −1 if none; node −1 is the root. */
export function childOf(trie: Trie, node: number, symbol: number): number {
  const until = node < 0 ? trie.size : endOf(trie, node);
  for (let child = node + 1; child < until; child = endOf(trie, child)) {
    const own = symbolOf(trie, child);
    // Children are sorted.
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
  return node >= 0 && endsWord(trie, node) ? wordsBefore(trie, node) : -1;
}

export const hasWord = (trie: Trie, word: Uint8Array): boolean => wordAt(trie, word) >= 0;

/** Words must be sorted by code and different; ln priors ≤ 0. O(total length). */
export function buildTrie(words: WordList, logPrior: ArrayLike<number>): Trie {
  const { symbols, at } = words;
  const count = wordCount(words);
  const shared = new Uint8Array(count);
  let size = 0;
  for (let word = 0; word < count; word += 1) {
    shared[word] = word > 0 ? sharedPrefix(words, word) : 0;
    size += (at[word + 1] as number) - (at[word] as number) - (shared[word] as number);
  }
  const nodes = new Int32Array(2 * size);
  const before = new Int32Array(Math.floor(size / BLOCK) + 1);
  /** path[d]: the open node at depth d (depths count from 1); steps[d]: least −ln prior below it. */
  const path = new Int32Array(64);
  const steps = new Int32Array(64);
  let next = 0;
  let open = 0;
  let bestOfAll = -Infinity;
  const closeDownTo = (depth: number) => {
    for (; open > depth; open -= 1) {
      const node = path[open] as number;
      nodes[2 * node] = next;
      nodes[2 * node + 1] = (nodes[2 * node + 1] as number) | ((steps[open] as number) << PRIOR_SHIFT);
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
      if (next % BLOCK === 0) before[next / BLOCK] = word;
      const symbol = symbols[from + open - 1] as number;
      nodes[2 * next + 1] = symbol | (open << DEPTH_SHIFT) | (open === length ? WORD_BIT : 0);
      next += 1;
    }
  }
  closeDownTo(0);
  return { size, nodes, wordsBefore: before, bestOfAll };
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
