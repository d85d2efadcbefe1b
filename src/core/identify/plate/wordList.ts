import { MAX_LENGTH, SYMBOL_COUNT } from './symbols';

/** Words as symbol codes, one after the other; word w from at[w] to at[w + 1]. */
export type WordList = { readonly symbols: Uint8Array; readonly at: Int32Array };

export const wordCount = (words: WordList): number => words.at.length - 1;
export const wordOf = (words: WordList, word: number): Uint8Array =>
  words.symbols.subarray(words.at[word] ?? 0, words.at[word + 1] ?? 0);

export function wordListOf(words: readonly Uint8Array[]): WordList {
  const at = new Int32Array(words.length + 1);
  words.forEach((word, w) => (at[w + 1] = (at[w] ?? 0) + word.length));
  const symbols = new Uint8Array(at[words.length] ?? 0);
  words.forEach((word, w) => symbols.set(word, at[w] ?? 0));
  return { symbols, at };
}

/**
 * Order of texts given as stretches of `symbols` (from, length), shorter before longer: a radix sort from the last place to the first, which a text joins at
 * its own last place. O(total length), stable. About a quarter quicker than comparing texts, and the mirrored ones need not be made into texts first.
 */
export function sortedOrder(symbols: Uint8Array, from: Int32Array, length: Uint8Array): Int32Array {
  const longest = length.reduce((most, value) => Math.max(most, value), 0);
  const ofLength: number[][] = Array.from({ length: longest + 1 }, () => []);
  length.forEach((value, text) => ofLength[value]?.push(text));
  let order = new Int32Array(from.length);
  let next = new Int32Array(from.length);
  /** Those that have joined stand at the end of `order`, the latest before the earlier. */
  let first = from.length;
  const begins = new Int32Array(SYMBOL_COUNT + 1);
  for (let place = longest - 1; place >= 0; place -= 1) {
    const joining = ofLength[place + 1] ?? [];
    first -= joining.length;
    order.set(joining, first);
    begins.fill(0);
    for (let i = first; i < order.length; i += 1) {
      const after = (symbols[(from[order[i] as number] as number) + place] as number) + 1;
      begins[after] = (begins[after] as number) + 1;
    }
    begins[0] = first;
    for (let symbol = 1; symbol <= SYMBOL_COUNT; symbol += 1)
      begins[symbol] = (begins[symbol] as number) + (begins[symbol - 1] as number);
    for (let i = first; i < order.length; i += 1) {
      const text = order[i] as number;
      const symbol = symbols[(from[text] as number) + place] as number;
      next[begins[symbol] as number] = text;
      begins[symbol] = (begins[symbol] as number) + 1;
    }
    [order, next] = [next, order];
  }
  order.set(ofLength[0] ?? []);
  return order;
}

/** The same words read from their ends, sorted, with the place each had before. */
export function turnedWords(words: WordList): { turned: WordList; order: Int32Array } {
  const { symbols, at } = words;
  const count = wordCount(words);
  const mirrored = new Uint8Array(symbols.length);
  const length = new Uint8Array(count);
  for (let word = 0; word < count; word += 1) {
    const from = at[word] as number;
    const until = at[word + 1] as number;
    length[word] = Math.min(MAX_LENGTH, until - from);
    for (let i = from; i < until; i += 1) mirrored[i] = symbols[until - 1 - (i - from)] as number;
  }
  const order = sortedOrder(mirrored, at.subarray(0, count), length);
  const turned = { symbols: new Uint8Array(symbols.length), at: new Int32Array(count + 1) };
  order.forEach((word, place) => {
    const from = at[word] as number;
    const until = at[word + 1] as number;
    turned.symbols.set(mirrored.subarray(from, until), turned.at[place] as number);
    turned.at[place + 1] = (turned.at[place] as number) + (until - from);
  });
  return { turned, order };
}
