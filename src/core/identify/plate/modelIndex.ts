import type { LocalDate, ModelId } from '../../units';
import type { Model } from '../../catalogue';
import { listedNumbers, type AbsentModel } from './listedNumbers';
import { stemsOf } from './endings';
import { learnUnlisted } from './leftOut';
import { normaliseNumber } from './normal';
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
 * different normalised text: the number of one or more models, or the stem that is left of some when their ending is left off.
 */
export type ModelIndex = {
  readonly size: number;
  readonly ids: readonly ModelId[];
  readonly numbers: readonly string[];
  /** ln of each model's share of the popularity; sums to one over the index. */
  readonly logPrior: Float32Array;
  readonly forward: Trie;
  /** The same words from their ends, named as in `words`. */
  readonly backward: Trie;
  /** Sorted. */
  readonly words: WordList;
  /** Models of word w: modelOf[modelsAt[w]] to modelOf[modelsAt[w + 1]]; ~model when an ending is left off. */
  readonly modelsAt: Int32Array;
  readonly modelOf: Int32Array;
  /** Beside `modelOf`: ln P(so much of the number is given | model). */
  readonly givenLog: Float32Array;
  readonly absent: AbsentModel;
  readonly shortest: number;
  readonly longest: number;
};

/**
 * Of each model's prior this part is the same for all: the popularity of the rest is a share, so that it matters in which unit a catalogue counts it in
 * no way.
 */
const ALIKE = 0.1;

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
    total += Math.max(0, model.popularity);
  }
  const logPrior = Float32Array.from(kept, ({ popularity }) =>
    Math.log(total > 0 ? ((1 - ALIKE) * Math.max(0, popularity)) / total + ALIKE / kept.length : 1 / kept.length),
  );
  const { words, whole, givenWhole, modelsAt, modelOf, givenLog } = listWords(kept, codes);
  const priors = new Float32Array(whole.length).fill(-Infinity);
  for (let word = 0; word < whole.length; word += 1)
    for (let index = modelsAt[word] as number; index < (modelsAt[word + 1] as number); index += 1) {
      const model = modelOf[index] as number;
      priors[word] = Math.max(
        priors[word] as number,
        (logPrior[model < 0 ? ~model : model] as number) + (givenLog[index] as number),
      );
    }
  const forward = buildTrie(words, priors);
  const { turned, order } = turnedWords(words);
  const listed = listedNumbers(words, whole, givenWhole, forward);
  return {
    size: kept.length,
    ids: kept.map(({ id }) => id),
    numbers: kept.map(({ modelNumber }) => modelNumber),
    logPrior,
    forward,
    backward: buildTrie(
      turned,
      Float32Array.from(order, (word) => priors[word] as number),
      order,
    ),
    words,
    modelsAt,
    modelOf,
    givenLog,
    absent: { ...listed, ...learnUnlisted(listed, forward, words) },
    shortest: codes.reduce((least, { length }) => Math.min(least, length), MAX_LENGTH),
    longest: codes.reduce((most, { length }) => Math.max(most, length), 0),
  };
}

type Listed = Pick<ModelIndex, 'words' | 'modelsAt' | 'modelOf' | 'givenLog'> & {
  whole: Uint8Array;
  givenWhole: number;
};

/** The different texts that may stand for a model, sorted, and whose they are. */
function listWords(models: readonly ModelRecord[], codes: readonly Uint8Array[]): Listed {
  const all = wordListOf(codes);
  const stems = stemsOf(all, models);
  const count = stems.reduce((sum, own) => sum + 1 + own.length, 0);
  const from = new Int32Array(count);
  const length = new Uint8Array(count);
  const whose = new Int32Array(count);
  const given = new Float32Array(count);
  let text = 0;
  const add = (model: number, isStem: boolean, characters: number, share: number) => {
    // A stem is the begin of the same stretch.
    from[text] = all.at[model] as number;
    length[text] = characters;
    whose[text] = isStem ? ~model : model;
    given[text] = Math.log(share);
    text += 1;
  };
  let givenWhole = 0;
  stems.forEach((own, model) => {
    const whole = own.reduce((left, { leftOff }) => left - leftOff, 1);
    givenWhole += whole / stems.length;
    add(model, false, (all.at[model + 1] as number) - (all.at[model] as number), whole);
    for (const stem of own) add(model, true, stem.length, stem.leftOff);
  });
  const order = sortedOrder(all.symbols, from, length);
  const modelsAt: number[] = [];
  const whole: number[] = [];
  /** Each different text once, by one that says it. */
  const said: number[] = [];
  order.forEach((index, place) => {
    const last = said.at(-1);
    if (last === undefined || !isSame(all.symbols, from, length, last, index)) {
      said.push(index);
      modelsAt.push(place);
      whole.push((whose[index] as number) < 0 ? 0 : 1);
    } else if ((whose[index] as number) >= 0) whole[said.length - 1] = 1;
  });
  modelsAt.push(count);
  return {
    words: takenOf(all.symbols, from, length, said),
    whole: Uint8Array.from(whole),
    givenWhole,
    modelsAt: Int32Array.from(modelsAt),
    modelOf: Int32Array.from(order, (index) => whose[index] as number),
    givenLog: Float32Array.from(order, (index) => given[index] as number),
  };
}

/** The texts named, one after the other. */
function takenOf(symbols: Uint8Array, from: Int32Array, length: Uint8Array, texts: readonly number[]): WordList {
  const at = new Int32Array(texts.length + 1);
  texts.forEach((text, word) => (at[word + 1] = (at[word] as number) + (length[text] as number)));
  const taken = new Uint8Array(at[texts.length] as number);
  texts.forEach((text, word) => {
    const begin = from[text] as number;
    const to = at[word] as number;
    for (let i = 0; i < (length[text] as number); i += 1) taken[to + i] = symbols[begin + i] as number;
  });
  return { symbols: taken, at };
}

function isSame(symbols: Uint8Array, from: Int32Array, length: Uint8Array, a: number, b: number): boolean {
  if (length[a] !== length[b]) return false;
  const [one, other] = [from[a] as number, from[b] as number];
  for (let i = 0; i < (length[a] as number); i += 1) if (symbols[one + i] !== symbols[other + i]) return false;
  return true;
}

/** ln of the greatest prior of a model with P(this word is what is given of it). −Infinity for a word of no model. */
export function wordPrior(index: ModelIndex, word: number): number {
  let best = -Infinity;
  for (let entry = index.modelsAt[word] ?? 0; entry < (index.modelsAt[word + 1] ?? 0); entry += 1) {
    const model = index.modelOf[entry] as number;
    best = Math.max(best, (index.logPrior[model < 0 ? ~model : model] as number) + (index.givenLog[entry] as number));
  }
  return best;
}

export const wordCodes = (index: ModelIndex, word: number): Uint8Array => wordOf(index.words, word);
