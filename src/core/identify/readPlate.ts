import { entropyBits } from '../units';
import { costs, substitution } from './channel';
import { MAX_LENGTH, STATES, SYMBOLS, type ModelIndex } from './modelIndex';
import { normaliseNumber } from './normal';

export type PlateDifference = {
  /** Position in the model number as printed, counted from 0. */
  at: number;
  listed: string;
  read: string;
};

export type PlateCandidate = {
  modelId: string;
  modelNumber: string;
  probability: number;
  differences: PlateDifference[];
  suffixMissing: boolean;
};

export type PlateReading = {
  /** Highest first. Probabilities with `unknown` sum to one over all models; those below 1e-6 are not listed (their mass is in `unlisted`). */
  candidates: PlateCandidate[];
  /** Probability that the number on the plate is not in the catalogue. */
  unknown: number;
  unlisted: number;
  /** Which character of the leading candidate to look at again, most informative first. */
  rereads: { position: number; character: number; choices: string[]; bits: number }[];
  /** The stretch of the input that was taken as the number. */
  taken: string;
};

export type PlateOptions = {
  /** Prior probability that the model is not in the catalogue, before reading; 0 to 1. */
  absentPrior?: number;
  /** How often each model was in this shop. */
  shopCounts?: ReadonlyMap<string, number>;
  maxCandidates?: number;
};

/** P(the suffix after the slash is left off). */
const SUFFIX_LEFT_OFF = 0.06;
/** Nats behind the best that can still matter: e^-16. */
const BEAM_NATS = 16;
/** Hypotheses of where the number stands in the text. */
const MAX_WINDOWS = 24;

/**
 * Which listed model a plate line means. Bayes over P(read | model) by a weighted edit channel (substitution by lookalike class, drop, add, swap
 * of neighbours, suffix left off) with the popularity as prior, against a generative 'not in the catalogue': a character model of the
 * listed numbers at their lengths. Damerau–Levenshtein alignment, walked over the sorted numbers with shared prefixes computed once.
 * Worst case O(models × length²), pruned by the best cost. Empty text gives no candidate and unknown = 1.
 */
export function readPlate(index: ModelIndex, text: string, options: PlateOptions = {}): PlateReading {
  const windows = numberWindows(text);
  const absent = Math.min(1, Math.max(0, options.absentPrior ?? 0.1));
  if (windows.length === 0 || index.size === 0)
    return { candidates: [], unknown: 1, unlisted: 0, rereads: [], taken: windows[0]?.text ?? '' };
  let best: { log: number; window: string } = { log: -Infinity, window: windows[0]?.text ?? '' };
  const scores = new Map<number, { log: number; suffixMissing: boolean; window: string }>();
  let bestCost = Infinity;
  for (const window of windows) {
    search(index, window.text, bestCost - window.log, (model, cost, suffixMissing) => {
      const log = -cost + window.log;
      bestCost = Math.min(bestCost, -log);
      const known = scores.get(model);
      if (!known || known.log < log) scores.set(model, { log, suffixMissing, window: window.text });
    });
  }
  const shopTotal = options.shopCounts ? [...options.shopCounts.values()].reduce((sum, count) => sum + count, 0) : 0;
  const withPrior = [...scores].map(([model, score]) => {
    const share = Math.exp(index.logPrior[model] ?? -Infinity);
    const count = options.shopCounts?.get(index.ids[model] ?? '') ?? 0;
    const prior = (share * 50 + count) / (50 + shopTotal);
    return { model, ...score, log: score.log + Math.log(prior * (1 - absent)) };
  });
  withPrior.sort((a, b) => b.log - a.log);
  if (withPrior[0]) best = { log: withPrior[0].log, window: withPrior[0].window };
  const unknownLog =
    Math.log(Math.max(absent, 1e-300)) +
    Math.max(...windows.map((window) => window.log + absentLog(index, window.text)));
  const top = Math.max(best.log, unknownLog);
  const masses = withPrior.map((entry) => Math.exp(entry.log - top));
  const unknownMass = Math.exp(unknownLog - top);
  const total = masses.reduce((sum, mass) => sum + mass, unknownMass);
  const shown = withPrior
    .map((entry, i) => ({ entry, probability: (masses[i] ?? 0) / total }))
    .filter(({ probability }) => probability >= 1e-6);
  const listed = shown.slice(0, options.maxCandidates ?? 12);
  const candidates = listed.map(({ entry, probability }) => ({
    modelId: index.ids[entry.model] ?? '',
    modelNumber: index.numbers[entry.model] ?? '',
    probability,
    differences: differencesOf(index.numbers[entry.model] ?? '', entry.window, entry.suffixMissing),
    suffixMissing: entry.suffixMissing,
  }));
  const unknown = unknownMass / total;
  const unlisted = Math.max(0, 1 - unknown - candidates.reduce((sum, candidate) => sum + candidate.probability, 0));
  return { candidates, unknown, unlisted, rereads: rereadsOf(candidates), taken: best.window };
}

/** ln P(read | an unlisted number): a length near the listed ones, characters as they follow each other there. */
function absentLog(index: ModelIndex, read: string): number {
  const z = (read.length - index.meanLength) / index.spreadLength;
  let log = -0.5 * z * z - Math.log(index.spreadLength * 2.5066);
  let before = SYMBOLS.length;
  for (const character of read) {
    const at = SYMBOLS.indexOf(character);
    // Half the mass on the listed grammar, half on anything: an unknown maker has another grammar.
    log +=
      at < 0
        ? 0
        : Math.log(
            0.5 * Math.exp(index.bigram[Math.min(before, STATES - 1) * SYMBOLS.length + at] ?? -4) +
              0.5 / SYMBOLS.length,
          );
    before = at < 0 ? SYMBOLS.length : at;
  }
  return log;
}

/** Stretches of the text that could be the number, with ln of their prior. The whole text always counts. */
function numberWindows(text: string): { text: string; log: number }[] {
  const whole = normaliseNumber(text.slice(0, 4000));
  const windows = new Map<string, number>();
  const offer = (window: string, log: number) => {
    if (window.length >= 3 && window.length <= MAX_LENGTH && (windows.get(window) ?? -Infinity) < log)
      windows.set(window, log);
  };
  if (whole.length > 0 && whole.length <= MAX_LENGTH) windows.set(whole, Math.log(0.9));
  const lines = text.slice(0, 4000).split(/[\n;,|]+/);
  const tokens = text.slice(0, 4000).split(/\s+/).filter(Boolean);
  if (tokens.length < 2 && lines.length < 2) return entries(windows);
  for (const line of lines) {
    const words = line.trim().split(/\s+/).filter(Boolean);
    const labelled = /^(mod(el)?|type|typ|m\/n|mod\.?\s*no)\b[.:]*/i.test(line.trim());
    for (let from = 0; from < words.length; from += 1)
      for (let to = from + 1; to <= Math.min(words.length, from + 3); to += 1) {
        const window = normaliseNumber(words.slice(from, to).join(''));
        if (/\d/.test(window)) offer(window, Math.log(labelled ? 0.2 : 0.02));
      }
  }
  return entries(windows);
}

const entries = (windows: Map<string, number>) =>
  [...windows]
    .map(([text, log]) => ({ text, log }))
    .sort((a, b) => b.log - a.log)
    .slice(0, MAX_WINDOWS);

/** Calls `found` for every model whose channel cost is within the beam of the best. */
function search(
  index: ModelIndex,
  read: string,
  startBound: number,
  found: (model: number, cost: number, suffixMissing: boolean) => void,
): void {
  const width = read.length + 1;
  const rows = new Float64Array((MAX_LENGTH + 1) * width);
  const codes = Uint8Array.from(read, (character) => character.charCodeAt(0));
  for (let j = 1; j < width; j += 1) rows[j] = (rows[j - 1] ?? 0) + costs.added;
  const leftOff = -Math.log(SUFFIX_LEFT_OFF);
  let bound = startBound + BEAM_NATS;
  let valid = 0;
  let deadAt = Infinity;
  let previous = '';
  for (let model = 0; model < index.size; model += 1) {
    const number = index.normal[model] ?? '';
    const shared = index.shared[model] ?? 0;
    // Everything that shares the prefix at which the one before was cut off is cut off too.
    if (shared >= deadAt) continue;
    deadAt = Infinity;
    valid = Math.min(valid, shared);
    for (let i = valid + 1; i <= number.length; i += 1) {
      const smallest = fillRow(rows, width, i, number, codes);
      valid = i;
      if (smallest > bound) {
        deadAt = i;
        break;
      }
    }
    previous = number;
    if (deadAt !== Infinity) continue;
    const whole = rows[previous.length * width + width - 1] ?? Infinity;
    const suffix = index.suffixAt[model] ?? number.length;
    const cut =
      suffix < number.length && suffix > 2 ? (rows[suffix * width + width - 1] ?? Infinity) + leftOff : Infinity;
    const cost = Math.min(whole, cut);
    if (cost > bound) continue;
    bound = Math.min(bound, cost + BEAM_NATS);
    found(model, cost, cut < whole);
  }
}

/** One row of the alignment; returns a lower bound for everything that begins with these i characters. */
function fillRow(rows: Float64Array, width: number, i: number, number: string, codes: Uint8Array): number {
  const truth = number.charCodeAt(i - 1);
  const base = i * width;
  const above = base - width;
  let smallest = (rows[base] = (rows[above] ?? 0) + costs.dropped);
  for (let j = 1; j < width; j += 1) {
    const read = codes[j - 1] ?? 0;
    let cost = (rows[above + j - 1] ?? 0) + substitution(truth, read);
    const dropped = (rows[above + j] ?? 0) + costs.dropped;
    if (dropped < cost) cost = dropped;
    const added = (rows[base + j - 1] ?? 0) + costs.added;
    if (added < cost) cost = added;
    if (i > 1 && j > 1 && truth !== read && codes[j - 2] === truth && number.charCodeAt(i - 2) === read) {
      const swapped = (rows[above - width + j - 2] ?? 0) + costs.swapped;
      if (swapped < cost) cost = swapped;
    }
    rows[base + j] = cost;
    if (cost < smallest) smallest = cost;
  }
  // A swap reaches back two rows: the row above may hold the cheaper start of one.
  if (i > 1) for (let j = 0; j < width; j += 1) smallest = Math.min(smallest, (rows[above + j] ?? 0) + costs.swapped);
  return smallest;
}

/** Where a listed number and the reading differ, by the cheapest alignment. */
function differencesOf(modelNumber: string, read: string, suffixMissing: boolean): PlateDifference[] {
  const printed = [...modelNumber]
    .map((character, at) => ({ character: normaliseNumber(character), at }))
    .filter(({ character }) => character !== '');
  const slash = modelNumber.lastIndexOf('/');
  const letters = suffixMissing ? printed.filter(({ at }) => at < slash) : printed;
  const number = letters.map(({ character }) => character).join('');
  const width = read.length + 1;
  const rows = new Float64Array((number.length + 1) * width);
  const codes = Uint8Array.from(read, (character) => character.charCodeAt(0));
  for (let j = 1; j < width; j += 1) rows[j] = (rows[j - 1] ?? 0) + costs.added;
  for (let i = 1; i <= number.length; i += 1) fillRow(rows, width, i, number, codes);
  const differences: PlateDifference[] = [];
  let i = number.length;
  let j = read.length;
  const cell = (a: number, b: number) => rows[a * width + b] ?? Infinity;
  while (i > 0 || j > 0) {
    const at = letters[Math.max(0, i - 1)]?.at ?? 0;
    const listed = number.charAt(i - 1);
    const seen = read.charAt(j - 1);
    if (
      i > 0 &&
      j > 0 &&
      Math.abs(cell(i, j) - cell(i - 1, j - 1) - substitution(listed.charCodeAt(0), seen.charCodeAt(0))) < 1e-9
    ) {
      if (listed !== seen) differences.push({ at, listed, read: seen });
      i -= 1;
      j -= 1;
    } else if (
      i > 1 &&
      j > 1 &&
      listed === read.charAt(j - 2) &&
      number.charAt(i - 2) === seen &&
      Math.abs(cell(i, j) - cell(i - 2, j - 2) - costs.swapped) < 1e-9
    ) {
      differences.push(
        { at, listed, read: seen },
        { at: letters[i - 2]?.at ?? 0, listed: number.charAt(i - 2), read: read.charAt(j - 2) },
      );
      i -= 2;
      j -= 2;
    } else if (i > 0 && Math.abs(cell(i, j) - cell(i - 1, j) - costs.dropped) < 1e-9) {
      differences.push({ at, listed, read: '' });
      i -= 1;
    } else {
      differences.push({ at, listed: '', read: seen });
      j -= 1;
    }
  }
  if (suffixMissing)
    for (const { character, at } of printed) if (at > slash) differences.push({ at, listed: character, read: '' });
  return differences.sort((a, b) => a.at - b.at);
}

/** Positions (in the leading number as printed) at which the candidates disagree, by the information a look would give. */
function rereadsOf(candidates: readonly PlateCandidate[]): PlateReading['rereads'] {
  const lead = candidates[0];
  if (!lead || candidates.length < 2) return [];
  const total = candidates.reduce((sum, candidate) => sum + candidate.probability, 0);
  const rereads: PlateReading['rereads'] = [];
  for (let position = 0; position < lead.modelNumber.length; position += 1) {
    if (normaliseNumber(lead.modelNumber.charAt(position)) === '') continue;
    const shares = new Map<string, number>();
    for (const candidate of candidates) {
      const character =
        candidate.modelNumber.length === lead.modelNumber.length || candidate.modelNumber.length > position
          ? candidate.modelNumber.charAt(position)
          : '–';
      shares.set(character, (shares.get(character) ?? 0) + candidate.probability / total);
    }
    const bits = entropyBits([...shares.values()]);
    if (shares.size < 2 || bits < 0.05) continue;
    const choices = [...shares].sort((a, b) => b[1] - a[1]).map(([character]) => character);
    rereads.push({
      position,
      character: normaliseNumber(lead.modelNumber.slice(0, position + 1)).length,
      choices,
      bits,
    });
  }
  return rereads.sort((a, b) => b.bits - a.bits);
}
