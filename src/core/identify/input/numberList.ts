import { searchCosts } from '../plate/channel';
import { normaliseNumber } from '../plate/normal';
import { codesOf, MAX_LENGTH, SYMBOLS, UNREADABLE } from '../plate/symbols';

/**
 * Numbers in the order of their normalised texts, one after the other in a single text: what a list with instant search needs, as plain values that
 * can be stored and sent. `words` are the different descriptions, in small letters.
 */
export type NumberList = {
  readonly size: number;
  /** "\nA1\nA2\n…\n" */
  readonly text: string;
  /** Place of each number's first character in `text`; one more for the end. */
  readonly starts: Int32Array;
  readonly words: readonly string[];
  readonly wordsOf: Int32Array;
};

export type NumberEntry = { number: string; words: string };

/** O(n log n). `order[position]` is the entry that stands there. */
export function buildNumberList(entries: readonly NumberEntry[]): { list: NumberList; order: Int32Array } {
  const normal = entries.map((entry) => normaliseNumber(entry.number));
  const order = Int32Array.from(entries, (_, index) => index).sort((a, b) => {
    const [left, right] = [normal[a] ?? '', normal[b] ?? ''];
    return left < right ? -1 : left > right ? 1 : a - b;
  });
  const known = new Map<string, number>();
  const starts = new Int32Array(entries.length + 1);
  let length = 1;
  const wordsOf = new Int32Array(entries.length);
  order.forEach((entry, position) => {
    starts[position] = length;
    length += (normal[entry]?.length ?? 0) + 1;
    const words = entries[entry]?.words.toLowerCase() ?? '';
    const index = known.get(words) ?? known.size;
    known.set(words, index);
    wordsOf[position] = index;
  });
  starts[entries.length] = length;
  const text = `\n${Array.from(order, (entry) => normal[entry]).join('\n')}\n`;
  return { list: { size: entries.length, text, starts, words: [...known.keys()], wordsOf }, order };
}

/** The position whose number contains place `at` of the text. */
function positionOf(list: NumberList, index: number): number {
  let [low, high] = [0, list.size - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((list.starts[middle] ?? 0) <= index) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The number that stands at a position, normalised. */
export const numberAt = (list: NumberList, position: number): string =>
  list.text.slice(list.starts[position] ?? 0, (list.starts[position + 1] ?? 1) - 1);

/** The first position whose number is not before the text. */
export function placeOf(list: NumberList, text: string): number {
  let [low, high] = [0, list.size];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (numberAt(list, middle) < text) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Positions of the numbers that are this one but for case and separators. O(log n). */
export function exactNumbers(list: NumberList, number: string): number[] {
  const wanted = normaliseNumber(number);
  const found: number[] = [];
  if (wanted === '') return found;
  for (let index = placeOf(list, wanted); index < list.size && numberAt(list, index) === wanted; index += 1)
    found.push(index);
  return found;
}

/** Slips dearer than this are no misreading but another number. */
const MOST_SLIP = 9;
/** Shorter numbers are near to too many others. */
const SHORTEST_MISREAD = 5;

/** Whether a normalised text is worth looking for slips in: not a word, not a scrap, not a whole plate. */
export const mayBeMisread = (normal: string): boolean =>
  normal.length >= SHORTEST_MISREAD && normal.length <= MAX_LENGTH && /\d/.test(normal);

/**
 * Positions of the numbers that this one may be a misreading of: one character replaced, left out, too many, or two exchanged; a single `?` is any character.
 * Likeliest slip first. O(length · symbols · log n): about half a millisecond among 500,000.
 */
export function nearNumbers(list: NumberList, number: string): number[] {
  const { substitution, columns, drop, add, swap } = searchCosts;
  const read = normaliseNumber(number);
  const costs = new Map<number, number>();
  const offer = (text: string, cost: number) => {
    if (cost > MOST_SLIP || text === read) return;
    for (const index of exactNumbers(list, text)) costs.set(index, Math.min(cost, costs.get(index) ?? Infinity));
  };
  const codes = codesOf(read);
  const marks = codes.filter((code) => code === UNREADABLE).length;
  if (marks > 1) return [];
  for (let index = 0; index <= read.length; index += 1) {
    const [before, here, after] = [read.slice(0, index), read.charAt(index), read.slice(index + 1)];
    // With a character that cannot be read, that is the slip.
    if (marks === 1 && here !== '?') continue;
    for (const [code, symbol] of [...SYMBOLS].entries()) {
      if (here !== '') offer(before + symbol + after, substitution[code * columns + (codes[index] ?? 0)] ?? Infinity);
      if (marks === 0) offer(before + symbol + here + after, drop);
    }
    if (marks === 1 || here === '') continue;
    offer(before + after, add);
    const next = after.charAt(0);
    if (next !== '' && next !== here) offer(before + next + here + after.slice(1), swap);
  }
  return [...costs].sort(([a, x], [b, y]) => x - y || a - b).map(([index]) => index);
}

/**
 * Positions that match a search text, best first: the number itself, numbers that begin with it, numbers that contain it, then those whose words
 * contain every typed word. An empty text matches all. O(length of all numbers) at worst: about 5 ms for 500,000.
 */
export function findNumbers(list: NumberList, query: string): Int32Array {
  const wanted = normaliseNumber(query);
  const typed = query.toLowerCase().split(/\s+/).filter(Boolean);
  if (typed.length === 0) return Int32Array.from({ length: list.size }, (_, index) => index);
  const taken = new Uint8Array(list.size);
  const found: number[] = [];
  const take = (position: number) => {
    if (taken[position] !== 0) return;
    taken[position] = 1;
    found.push(position);
  };
  if (wanted !== '') {
    // Sorted, so the number itself comes first of those that begin with it.
    for (let index = placeOf(list, wanted); index < list.size && numberAt(list, index).startsWith(wanted); index += 1)
      take(index);
    for (let index = list.text.indexOf(wanted); index >= 0;) {
      const position = positionOf(list, index);
      take(position);
      index = list.text.indexOf(wanted, list.starts[position + 1] ?? Infinity);
    }
  }
  const named = list.words.map((words) => typed.every((word) => words.includes(word)));
  for (let position = 0; position < list.size; position += 1)
    if (named[list.wordsOf[position] ?? -1] === true) take(position);
  return Int32Array.from(found);
}
