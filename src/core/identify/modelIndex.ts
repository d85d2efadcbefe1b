import type { Model } from '../catalogue';
import { normaliseNumber, suffixStart } from './normal';

/** popularity: relative, ≥ 0. */
export type ModelRecord = Pick<Model, 'id' | 'modelNumber' | 'makerId' | 'platformId' | 'popularity'> & {
  producedFrom?: string | undefined;
  producedTo?: string | undefined;
};

/** Model numbers sorted, with the length of the prefix each shares with the one before, so that a search walks them as a trie. */
export type ModelIndex = {
  readonly size: number;
  readonly ids: readonly string[];
  readonly numbers: readonly string[];
  readonly normal: readonly string[];
  readonly shared: Uint16Array;
  readonly suffixAt: Uint16Array;
  /** ln of the share of the popularity, summed to one over the index. */
  readonly logPrior: Float64Array;
  /** ln P(next character | character before) over the listed numbers, add-half smoothed: the generator of 'not in the catalogue'. */
  readonly bigram: Float64Array;
  readonly meanLength: number;
  readonly spreadLength: number;
};

export const SYMBOLS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789';
/** Row SYMBOLS.length is the start of a number. */
export const STATES = SYMBOLS.length + 1;
export const MAX_LENGTH = 40;

/** O(n log n). Numbers that normalise to nothing or are longer than 40 characters are left out. */
export function buildModelIndex(models: readonly ModelRecord[]): ModelIndex {
  const kept = models
    .map((model) => ({ model, normal: normaliseNumber(model.modelNumber) }))
    .filter(({ normal }) => normal.length > 0 && normal.length <= MAX_LENGTH)
    .sort((a, b) => (a.normal < b.normal ? -1 : a.normal > b.normal ? 1 : 0));
  const normal = kept.map((entry) => entry.normal);
  const shared = new Uint16Array(kept.length);
  for (let i = 1; i < normal.length; i += 1) shared[i] = sharedPrefix(normal[i - 1] ?? '', normal[i] ?? '');
  const smoothing = 0.25;
  const total = kept.reduce((sum, { model }) => sum + model.popularity + smoothing, 0);
  const lengths = normal.map((number) => number.length);
  const meanLength = lengths.reduce((sum, length) => sum + length, 0) / Math.max(1, lengths.length);
  const variance = lengths.reduce((sum, length) => sum + (length - meanLength) ** 2, 0) / Math.max(1, lengths.length);
  return {
    size: kept.length,
    ids: kept.map(({ model }) => model.id),
    numbers: kept.map(({ model }) => model.modelNumber),
    normal,
    shared,
    suffixAt: Uint16Array.from(kept, ({ model }) => suffixStart(model.modelNumber)),
    logPrior: Float64Array.from(kept, ({ model }) => Math.log((model.popularity + smoothing) / total)),
    bigram: bigramTable(normal),
    meanLength,
    spreadLength: Math.max(1.5, Math.sqrt(variance)),
  };
}

function sharedPrefix(a: string, b: string): number {
  let i = 0;
  while (i < a.length && i < b.length && a[i] === b[i]) i += 1;
  return i;
}

function bigramTable(numbers: readonly string[]): Float64Array {
  const counts = new Float64Array(STATES * SYMBOLS.length).fill(0.5);
  for (const number of numbers) {
    let before = SYMBOLS.length;
    for (const character of number) {
      const at = SYMBOLS.indexOf(character);
      if (at < 0) continue;
      const cell = before * SYMBOLS.length + at;
      counts[cell] = (counts[cell] ?? 0) + 1;
      before = at;
    }
  }
  for (let row = 0; row < STATES; row += 1) {
    const cells = counts.subarray(row * SYMBOLS.length, (row + 1) * SYMBOLS.length);
    const total = cells.reduce((sum, count) => sum + count, 0);
    cells.forEach((count, i) => (cells[i] = Math.log(count / total)));
  }
  return counts;
}
