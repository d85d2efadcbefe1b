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
  for (let at = block * BLOCK; at < node; at += 1) if (endsWord(trie, at)) words += 1;
  return words;
}

/** Words must be sorted by code and different; ln priors ≤ 0. O(total length). */
export function buildTrie(words: readonly Uint8Array[], logPrior: ArrayLike<number>): Trie {
  let size = 0;
  let before: Uint8Array = new Uint8Array(0);
  for (const word of words) {
    size += word.length - sharedPrefix(before, word);
    before = word;
  }
  const nodes = new Int32Array(2 * size);
  const wordsBefore = new Int32Array(Math.floor(size / BLOCK) + 1);
  /** path[d]: the open node at depth d (depths count from 1); steps[d]: least −ln prior below it. */
  const path = new Int32Array(64);
  const steps = new Int32Array(64);
  let next = 0;
  let bestOfAll = -Infinity;
  const close = (d: number) => {
    const node = path[d] as number;
    nodes[2 * node] = next;
    nodes[2 * node + 1] = (nodes[2 * node + 1] as number) | ((steps[d] as number) << PRIOR_SHIFT);
  };
  before = new Uint8Array(0);
  words.forEach((word, at) => {
    const shared = sharedPrefix(before, word);
    for (let d = before.length; d > shared; d -= 1) close(d);
    const prior = logPrior[at] ?? -Infinity;
    bestOfAll = Math.max(bestOfAll, prior);
    const own = Math.min(MOST_STEPS, Math.max(0, Math.floor(-prior / PRIOR_STEP)));
    for (let d = 1; d <= shared; d += 1) steps[d] = Math.min(steps[d] as number, own);
    for (let d = shared + 1; d <= word.length; d += 1) {
      path[d] = next;
      steps[d] = own;
      if (next % BLOCK === 0) wordsBefore[next / BLOCK] = at;
      nodes[2 * next + 1] = (word[d - 1] as number) | (d << DEPTH_SHIFT) | (d === word.length ? WORD_BIT : 0);
      next += 1;
    }
    before = word;
  });
  for (let d = before.length; d > 0; d -= 1) close(d);
  return { size, nodes, wordsBefore, bestOfAll };
}

function sharedPrefix(a: Uint8Array, b: Uint8Array): number {
  const most = Math.min(a.length, b.length);
  let i = 0;
  while (i < most && a[i] === b[i]) i += 1;
  return i;
}
