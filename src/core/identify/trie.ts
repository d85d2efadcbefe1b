/**
 * A trie in preorder: node i's first child is i + 1 when depth[i + 1] > depth[i]; its subtree ends before end[i]. A search is one pass over the
 * arrays that jumps to end[i] where it prunes.
 */
export type Trie = {
  readonly size: number;
  readonly symbol: Uint8Array;
  readonly depth: Uint8Array;
  readonly end: Int32Array;
  /** Position of the word that ends here, in the order given; −1 for none. */
  readonly word: Int32Array;
  /** Greatest ln prior of a word in the subtree. */
  readonly bestPrior: Float32Array;
  readonly bestOfAll: number;
};

/** Words must be sorted by code and different. O(total length). */
export function buildTrie(words: readonly Uint8Array[], logPrior: ArrayLike<number>): Trie {
  let nodes = 0;
  let before = new Uint8Array(0);
  for (const word of words) {
    nodes += word.length - sharedPrefix(before, word);
    before = word as Uint8Array<ArrayBuffer>;
  }
  const trie = {
    size: nodes,
    symbol: new Uint8Array(nodes),
    depth: new Uint8Array(nodes),
    end: new Int32Array(nodes),
    word: new Int32Array(nodes).fill(-1),
    bestPrior: new Float32Array(nodes).fill(-Infinity),
    bestOfAll: -Infinity,
  };
  /** path[d]: the open node at depth d (depths count from 1). */
  const path = new Int32Array(64);
  let next = 0;
  before = new Uint8Array(0);
  words.forEach((word, at) => {
    const shared = sharedPrefix(before, word);
    for (let d = before.length; d > shared; d -= 1) trie.end[path[d] ?? 0] = next;
    for (let d = shared + 1; d <= word.length; d += 1) {
      path[d] = next;
      trie.symbol[next] = word[d - 1] ?? 0;
      trie.depth[next] = d;
      next += 1;
    }
    trie.word[path[word.length] ?? 0] = at;
    const prior = logPrior[at] ?? -Infinity;
    trie.bestOfAll = Math.max(trie.bestOfAll, prior);
    for (let d = word.length; d > 0; d -= 1) {
      const node = path[d] ?? 0;
      if ((trie.bestPrior[node] ?? 0) >= prior) break;
      trie.bestPrior[node] = prior;
    }
    before = word as Uint8Array<ArrayBuffer>;
  });
  for (let d = before.length; d > 0; d -= 1) trie.end[path[d] ?? 0] = next;
  return trie;
}

function sharedPrefix(a: Uint8Array, b: Uint8Array): number {
  const most = Math.min(a.length, b.length);
  let i = 0;
  while (i < most && a[i] === b[i]) i += 1;
  return i;
}
