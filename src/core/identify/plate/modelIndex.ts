import type { LocalDate, ModelId } from '../../units';
import type { Model } from '../../catalogue';
import { buildAbsentModel, type AbsentModel } from './absent';
import { searchCosts } from './channel';
import { normaliseNumber, suffixStart } from './normal';
import { codesOf, MAX_LENGTH } from './symbols';
import { buildTrie, type Trie } from './trie';
import { sortedOrder, turnedWords, wordListOf, wordOf, type WordList } from './wordList';

/** popularity: relative, ≥ 0. */
export type ModelRecord = Pick<Model, 'id' | 'modelNumber' | 'makerId' | 'platformId' | 'popularity'> & {
  producedFrom?: LocalDate | undefined;
  producedTo?: LocalDate | undefined;
};

/**
 * Everything a reading is held against, as typed arrays and two lists of texts: it can be stored and sent to a worker as it is. A *word* is a
 * different normalised text: the number of one or more models, or a number without what follows its last slash.
 */
export type ModelIndex = {
  readonly size: number;
  readonly ids: readonly ModelId[];
  readonly numbers: readonly string[];
  /** ln of each model's share of the popularity; sums to one over the index. */
  readonly logPrior: Float32Array;
  readonly forward: Trie;
  readonly backward: Trie;
  /** Sorted. */
  readonly words: WordList;
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

/** O(n · longest number). Numbers that normalise to nothing or are longer than 40 characters are left out. */
export function buildModelIndex(models: readonly ModelRecord[]): ModelIndex {
  const kept: ModelRecord[] = [];
  const codes: Uint8Array[] = [];
  let total = 0;
  for (const model of models) {
    const own = codesOf(normaliseNumber(model.modelNumber).replace(/\?/g, ''));
    if (own.length === 0 || own.length > MAX_LENGTH) continue;
    kept.push(model);
    codes.push(own);
    total += model.popularity + SMOOTHING;
  }
  const logPrior = Float32Array.from(kept, ({ popularity }) => Math.log((popularity + SMOOTHING) / total));
  const { words, whole, modelsAt, modelOf } = listWords(kept, codes);
  const priors = new Float32Array(whole.length).fill(-Infinity);
  for (let word = 0; word < whole.length; word += 1)
    for (let index = modelsAt[word] as number; index < (modelsAt[word + 1] as number); index += 1) {
      const model = modelOf[index] as number;
      priors[word] = Math.max(priors[word] as number, logPrior[model < 0 ? ~model : model] as number);
    }
  const forward = buildTrie(words, priors);
  const { turned, order } = turnedWords(words);
  return {
    size: kept.length,
    ids: kept.map(({ id }) => id),
    numbers: kept.map(({ modelNumber }) => modelNumber),
    logPrior,
    forward,
    backward: buildTrie(
      turned,
      Float32Array.from(order, (word) => priors[word] as number),
    ),
    words,
    backwardWord: order,
    modelsAt,
    modelOf,
    absent: buildAbsentModel(words, whole, forward),
    shortest: codes.reduce((least, { length }) => Math.min(least, length), MAX_LENGTH),
    longest: codes.reduce((most, { length }) => Math.max(most, length), 0),
  };
}

/** The different texts that may stand for a model, sorted, and whose they are. */
function listWords(
  models: readonly ModelRecord[],
  codes: readonly Uint8Array[],
): { words: WordList; whole: Uint8Array; modelsAt: Int32Array; modelOf: Int32Array } {
  const all = wordListOf(codes);
  const texts: { from: number; length: number; model: number }[] = [];
  models.forEach(({ modelNumber }, model) => {
    const from = all.at[model] as number;
    const length = (all.at[model + 1] as number) - from;
    texts.push({ from, length, model });
    // A stem is the begin of the same stretch.
    const stem = suffixStart(modelNumber);
    if (stem > 2 && stem < length) texts.push({ from, length: stem, model: ~model });
  });
  const order = sortedOrder(
    all.symbols,
    Int32Array.from(texts, ({ from }) => from),
    Uint8Array.from(texts, ({ length }) => length),
  );
  const modelOf = new Int32Array(texts.length);
  const modelsAt: number[] = [];
  const whole: number[] = [];
  const different: Uint8Array[] = [];
  order.forEach((text, place) => {
    const { from, length, model } = texts[text] as (typeof texts)[number];
    modelOf[place] = model;
    const codes = all.symbols.subarray(from, from + length);
    const last = different.length - 1;
    if (last < 0 || !sameCodes(different[last] as Uint8Array, codes)) {
      different.push(codes);
      modelsAt.push(place);
      whole.push(model < 0 ? 0 : 1);
    } else if (model >= 0) whole[last] = 1;
  });
  modelsAt.push(texts.length);
  return {
    words: wordListOf(different),
    whole: Uint8Array.from(whole),
    modelsAt: Int32Array.from(modelsAt),
    modelOf,
  };
}

function sameCodes(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i += 1) if (a[i] !== b[i]) return false;
  return true;
}

/** ln prior of the commonest model that a word may stand for, a suffix left off counted. −Infinity for a word of no model. */
export function wordPrior(index: ModelIndex, word: number): number {
  let best = -Infinity;
  for (let entry = index.modelsAt[word] ?? 0; entry < (index.modelsAt[word + 1] ?? 0); entry += 1) {
    const model = index.modelOf[entry] as number;
    const prior = index.logPrior[model < 0 ? ~model : model] as number;
    best = Math.max(best, model < 0 ? prior - searchCosts.suffixLeftOff : prior);
  }
  return best;
}

export const wordCodes = (index: ModelIndex, word: number): Uint8Array => wordOf(index.words, word);
