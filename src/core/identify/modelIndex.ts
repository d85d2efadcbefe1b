import type { Model } from '../catalogue';
import { buildAbsentModel, type AbsentModel } from './absent';
import { normaliseNumber, suffixStart } from './normal';
import { codesOf, MAX_LENGTH } from './symbols';
import { buildTrie, type Trie } from './trie';

/** popularity: relative, ≥ 0. */
export type ModelRecord = Pick<Model, 'id' | 'modelNumber' | 'makerId' | 'platformId' | 'popularity'> & {
  producedFrom?: string | undefined;
  producedTo?: string | undefined;
};

/**
 * Everything a reading is held against, as typed arrays and two lists of texts: it can be stored and sent to a worker as it is. A *word* is a
 * different normalised text: the number of one or more models, or a number without what follows its last slash.
 */
export type ModelIndex = {
  readonly size: number;
  readonly ids: readonly string[];
  readonly numbers: readonly string[];
  /** ln of each model's share of the popularity; sums to one over the index. */
  readonly logPrior: Float32Array;
  readonly forward: Trie;
  readonly backward: Trie;
  /** Symbol codes of the words, one after the other; word w from wordAt[w] to wordAt[w + 1]. */
  readonly symbols: Uint8Array;
  readonly wordAt: Int32Array;
  /** Word of each place in the backward trie's order. */
  readonly backwardWord: Int32Array;
  /** Models of word w: modelOf[modelsAt[w]] to modelOf[modelsAt[w + 1]]; ~model when the suffix is left off. */
  readonly modelsAt: Int32Array;
  readonly modelOf: Int32Array;
  readonly absent: AbsentModel;
  readonly shortest: number;
  readonly longest: number;
};

const SMOOTHING = 0.25;

type Word = { normal: string; codes: Uint8Array; models: number[]; whole: boolean };

/** O(n log n). Numbers that normalise to nothing or are longer than 40 characters are left out. */
export function buildModelIndex(models: readonly ModelRecord[]): ModelIndex {
  const kept = models
    .map((model) => ({ model, normal: normaliseNumber(model.modelNumber).replace(/\?/g, '') }))
    .filter(({ normal }) => normal.length > 0 && normal.length <= MAX_LENGTH);
  const total = kept.reduce((sum, { model }) => sum + model.popularity + SMOOTHING, 0);
  const logPrior = Float32Array.from(kept, ({ model }) => Math.log((model.popularity + SMOOTHING) / total));
  const words = new Map<string, Word>();
  const put = (normal: string, model: number, whole: boolean) => {
    const known = words.get(normal);
    if (known) {
      known.models.push(whole ? model : ~model);
      known.whole ||= whole;
    } else words.set(normal, { normal, codes: codesOf(normal), models: [whole ? model : ~model], whole });
  };
  kept.forEach(({ model, normal }, at) => {
    put(normal, at, true);
    const stem = suffixStart(model.modelNumber);
    if (stem > 2 && stem < normal.length) put(normal.slice(0, stem), at, false);
  });
  const sorted = [...words.values()].sort((a, b) => (a.normal < b.normal ? -1 : 1));
  const priorOf = (word: Word) =>
    word.models.reduce((best, model) => Math.max(best, logPrior[model < 0 ? ~model : model] ?? -Infinity), -Infinity);
  const priors = Float32Array.from(sorted, priorOf);
  const codes = sorted.map((word) => word.codes);
  const forward = buildTrie(codes, priors);
  const turned = sorted
    .map(({ normal }, at) => ({ normal: [...normal].reverse().join(''), at }))
    .sort((a, b) => (a.normal < b.normal ? -1 : 1));
  const backwardWord = Int32Array.from(turned, ({ at }) => at);
  const wordAt = new Int32Array(codes.length + 1);
  const modelsAt = new Int32Array(codes.length + 1);
  sorted.forEach((word, at) => {
    wordAt[at + 1] = (wordAt[at] ?? 0) + word.codes.length;
    modelsAt[at + 1] = (modelsAt[at] ?? 0) + word.models.length;
  });
  const symbols = new Uint8Array(wordAt[codes.length] ?? 0);
  codes.forEach((word, at) => symbols.set(word, wordAt[at] ?? 0));
  const whole = sorted.filter((word) => word.whole).map((word) => word.codes);
  const lengths = kept.map(({ normal }) => normal.length);
  return {
    size: kept.length,
    ids: kept.map(({ model }) => model.id),
    numbers: kept.map(({ model }) => model.modelNumber),
    logPrior,
    forward,
    backward: buildTrie(
      turned.map(({ normal }) => codesOf(normal)),
      Float32Array.from(backwardWord, (at) => priors[at] ?? -Infinity),
    ),
    symbols,
    wordAt,
    backwardWord,
    modelsAt,
    modelOf: Int32Array.from(sorted.flatMap((word) => word.models)),
    absent: buildAbsentModel(whole, forward),
    shortest: lengths.reduce((least, length) => Math.min(least, length), MAX_LENGTH),
    longest: lengths.reduce((most, length) => Math.max(most, length), 0),
  };
}

export const wordCodes = (index: ModelIndex, word: number): Uint8Array =>
  index.symbols.subarray(index.wordAt[word] ?? 0, index.wordAt[word + 1] ?? 0);
