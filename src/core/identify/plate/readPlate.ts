import { type ModelId, defined } from '../../units';
import { absentParts, oneOffBeside, type NearWord } from './absent';
import { differencesBetween, slipsBetween, type NumberDifference } from './differences';
import { doubted } from './doubt';
import { likelihoods, logLikelihood } from './likelihood';
import { wordCodes, wordPrior, type ModelIndex } from './modelIndex';
import { endingOf, normaliseNumber } from './normal';
import { rereadsOf, type Reread } from './rereads';
import { searchTrie, type Bounds } from './search';
import { codesOf, isDigit, SYMBOL_COUNT, UNREADABLE } from './symbols';
import { hasWord, wordAt } from './trie';
import { isLabelled, stretchesOf, type NumberOf, type Stretch } from './windows';

export type PlateCandidate = {
  modelId: ModelId;
  modelNumber: string;
  probability: number;
  differences: NumberDifference[];
  /** What the number ends in and the reading leaves off, as printed; empty when it leaves nothing off. */
  ending: string;
};

export type PlateReading = {
  /** Highest first. With `unknown` and `unlisted` the probabilities sum to one. */
  candidates: PlateCandidate[];
  /** Probability that the number on the plate is not in the catalogue. */
  unknown: number;
  /** Probability of candidates beyond `maxCandidates`, and of all listed ones should the number not be in the text. */
  unlisted: number;
  rereads: Reread[];
  /** The stretch of the input that was taken as the number. */
  taken: string;
};

export type PlateOptions = {
  /** Prior probability that the model is not in the catalogue, before reading; 0 to 1. Default 0.1. */
  absentPrior?: number;
  /** How often each model was in this shop. */
  shopCounts?: ReadonlyMap<string, number>;
  /** Default 12. */
  maxCandidates?: number;
  /** P(a listed number is of each index); by how many it lists when missing. They sum to one. */
  shares?: readonly number[];
  /** Weigh listed numbers also where another, or 'not in the catalogue', is far likelier: for short lists, where it costs nothing. */
  thorough?: boolean;
  /** Whose label it is. Default 'model'. */
  of?: NumberOf;
  /** How sure the reader of a picture was of the text (`sureness`), 0 to 1. Left out of what a person typed or corrected. */
  sure?: number | undefined;
};

/** How far (nats) a number may be behind the best and still be weighed: e^−5 is less than one in a hundred. */
const BEHIND = 5;
/** Where all of a short list is weighed. */
const BEHIND_THOROUGH = 14;
/** The same against 'not in the catalogue'. */
const BEHIND_NONE = 3;
/** How far (nats, by the costs of the search) a number may be behind the nearest and still count as one of those about it. */
const AS_NEAR = BEHIND + 4;
/** Channel costs at which the search begins, and how it widens until nothing that matters can lie outside. */
const FIRST_COST = 5;
const WIDER = 8;
/**
 * How far at most. What lies beyond is not seen and goes to 'not in the catalogue': at 18 that was said too surely of plates typed in a hurry (calibration error 0.036,
 * at 22 0.021, at 26 0.018). No bench asks numbers of parts: they stay at 18, where one that no list has is called so in 99.7 % and not in 96.
 */
const MOST_COST: Record<NumberOf, number> = { model: 22, part: 18 };
/** In a text with so many stretches that may be the number most are none: they are not looked into as far, which halves the time of a plate's text and changes no decision of the bench. */
const MANY = { stretches: 7, cost: 16 };
/** Numbers weighed exactly, per stretch. */
const MOST_WEIGHED = 48;
/** Of these, the nearest whose unlisted siblings are weighed exactly. */
const MOST_BESIDE = 8;
/** Cases after which the shop's own count as much as the catalogue's popularity. */
const CATALOGUE_CASES = 50;

/**
 * ln P(digit or letter | background). On a plate of several lines, what stands around the number is mostly digits, three in five; within one line, and
 * where no digit was read at all, nothing is known.
 */
const AROUND = {
  plate: { digit: Math.log(0.6 / 10), letter: Math.log(0.4 / 26) },
  line: { digit: -Math.log(SYMBOL_COUNT), letter: -Math.log(SYMBOL_COUNT) },
};

/** P(no model number in a text of several words | not listed). */
const NO_NUMBER = 0.2;
/**
 * P(a listed number is not in the text, or past reading): then the text tells nothing, and what was likely before stays so. On a plate of several lines none of
 * which is labelled, and in a text without a digit; who types a line types the number, and where the label was read the number beside it was read as well.
 */
const UNREAD = 0.25;
/**
 * The same of a photograph, by how sure the reader was of its text: log-odds that fall in a straight line with it, `base` where the number's place is known (behind its label, or the
 * only line). Fitted on 1,440 made-up photographs (docs/figures.md).
 */
const UNREAD_PICTURE = { base: 0.4, somewhere: 1.5, sure: 9.5 };
function unreadIn(text: string, { of, sure }: PlateOptions): number {
  const somewhere = ON_A_PLATE.test(text) && !isLabelled(text, of);
  if (sure === undefined) return somewhere || !HAS_DIGIT.test(text) ? UNREAD : 0;
  const { base, somewhere: more, sure: slope } = UNREAD_PICTURE;
  return 1 / (1 + Math.exp(slope * sure - base - (somewhere ? more : 0)));
}
/** Without one a text is hardly a number. */
const HAS_DIGIT = /[\d?]/;
/** Several lines. */
const ON_A_PLATE = /\S\s*[\n;|]\s*\S/;

/** `given`: characters of the number that the reading gives, when it leaves an ending off. `exact`: it gives them as they are listed. */
type Found = { model: number; log: number; given: number; exact: boolean };
/** `before`: ln P(this model) before the reading, relative. `near`: listed numbers about as near to its stretch as the nearest. */
type Weighed = Found & { index: ModelIndex; stretch: string; before: number; near: number };
/** `beside`: the words whose unlisted siblings are weighed; `dense`: how many words are about as near as the nearest. */
type Near = { models: readonly Found[]; beside: readonly NearWord[]; dense: number };
const NOTHING_NEAR: Near = { models: [], beside: [], dense: 0 };
/** What the indexes before found: the best listed number's log, which prunes what comes after. */
type Race = { lead: number };

/**
 * Which listed model a text means. Bayes: prior by popularity (and this shop's own tickets), P(read | model) by a channel of several modes of
 * misreading, against a generative model of numbers that are not listed. Every stretch of the text that may be the number is tried; what lies around it is background.
 * Candidates come from a bounded search over the numbers forwards and backwards (an alignment with cost B has at most B/2 in one of its halves).
 * Several indexes (a catalogue in layers, the upper ones first) are weighed together, each by how many models it lists, whatever scale its popularity has; a model
 * that two of them list is one candidate, named as the first says it.
 * Empty text gives no candidate and unknown = 1; one in which nothing may be a number leaves what was likely before. Typically well under a millisecond among 250,000 models.
 */
export function readPlate(
  indexes: ModelIndex | readonly ModelIndex[],
  text: string,
  options: PlateOptions = {},
): PlateReading {
  const given = 'size' in indexes ? [indexes] : indexes;
  const listed = given.reduce((sum, { size }) => sum + size, 0);
  const all = given.flatMap((index, place) =>
    index.size > 0 ? [{ index, share: options.shares?.[place] ?? index.size / listed }] : [],
  );
  const stretches = stretchesOf(text, options.of);
  const nothing = { candidates: [], rereads: [], taken: stretches[0]?.text ?? '' };
  if (normaliseNumber(text) === '' || all.length === 0) return { ...nothing, unknown: 1, unlisted: 0 };
  // Nothing in it may be a number: it tells nothing.
  if (stretches.length === 0)
    return { ...nothing, unknown: absentBefore(options), unlisted: 1 - absentBefore(options) };
  const race: Race = { lead: -Infinity };
  const found = all.map(({ index, share }) => readIn(index, share, text, stretches, race, options));
  const total = (of: (one: (typeof found)[number]) => number) => found.map(of).reduce(logSum, -Infinity);
  return answer(
    found.flatMap(({ weighed }) => weighed),
    total(({ unknownLog }) => unknownLog),
    total(({ unreadLog }) => unreadLog),
    options,
  );
}

const absentBefore = ({ absentPrior = 0.1 }: PlateOptions): number => Math.min(1 - 1e-9, Math.max(1e-9, absentPrior));

/** The same within one index, of whose models the machine is with probability `share` if it is listed at all. */
function readIn(
  index: ModelIndex,
  share: number,
  text: string,
  found: readonly Stretch[],
  race: Race,
  options: PlateOptions,
): { weighed: Weighed[]; unknownLog: number; unreadLog: number } {
  const stretches = listedFirst(index, found);
  const absent = absentBefore(options);
  const shop = shopWeights(index, options.shopCounts);
  const best = new Map<number, Weighed>();
  const shareLog = Math.log(share);
  const unread = unreadIn(text, options);
  // A text of several words may hold no number at all, or none that can be read.
  let unknownLog = shareLog + Math.log(absent * Math.max(stretches.length > 1 ? NO_NUMBER : 0, unread));
  const unreadLog = shareLog + Math.log((1 - absent) * unread);
  const behind = options.thorough ? BEHIND_THOROUGH : BEHIND;
  const spare = options.thorough ? -Infinity : BEHIND - BEHIND_NONE;
  const around = ON_A_PLATE.test(text) && HAS_DIGIT.test(text) ? AROUND.plate : AROUND.line;
  const mostCost = stretches.length < MANY.stretches ? MOST_COST[options.of ?? 'model'] : MANY.cost;
  for (const stretch of stretches) {
    const { read } = stretch;
    // Beside the number the text is background, and so is all of it where no number was read: each stretch is held against being background itself.
    const background =
      stretches.length > 1 || unread > 0
        ? read.reduce((sum, code) => sum - (code === UNREADABLE ? -1 : isDigit(code) ? around.digit : around.letter), 0)
        : 0;
    const { oneOff, other } = absentParts(index.absent, index.forward, read);
    const absentLog = (p: number) =>
      shareLog + Math.log(absent) + stretch.log + background + Math.log(Math.max(p, 1e-300));
    const absentHere = absentLog(oneOff + other);
    // A stretch is worth searching only while it can come near to the best so far.
    const room =
      stretches.length > 1 && race.lead > -Infinity
        ? shareLog + stretch.log + background + index.forward.bestOfAll - (race.lead - behind)
        : Infinity;
    // A listed number far less likely than 'not in the catalogue' need not be found.
    const relevant =
      shareLog +
      Math.log(1 - absent) +
      stretch.log +
      background -
      Math.max(absentHere + spare, unknownLog + spare, unreadLog + spare, race.lead);
    const canBeListed = read.length <= index.longest + 8 && read.length + 6 >= index.shortest && room >= 0;
    const near = canBeListed ? weigh(index, read, Math.min(room, mostCost), relevant, behind) : NOTHING_NEAR;
    // Two lower bounds of the same; the greater is nearer.
    const beside = oneOffBeside(index.absent, near.beside, read);
    unknownLog = logSum(unknownLog, absentLog(Math.max(oneOff, beside) + other));
    for (const one of near.models) {
      const listedLog = shareLog + (index.logPrior[one.model] ?? -Infinity);
      const prior = shop
        ? Math.log(
            (CATALOGUE_CASES * Math.exp(listedLog) + (shop.counts.get(one.model) ?? 0)) /
              (CATALOGUE_CASES + shop.total),
          )
        : listedLog;
      const log = Math.log(1 - absent) + prior + one.log + stretch.log + background;
      race.lead = Math.max(race.lead, log);
      const known = best.get(one.model);
      const seen = known ? logSum(known.log, log) : log;
      best.set(
        one.model,
        known && known.log >= log
          ? { ...known, log: seen }
          : { ...one, log: seen, index, before: prior, stretch: stretch.text, near: near.dense },
      );
    }
  }
  return { weighed: [...best.values()], unknownLog, unreadLog };
}

/** What stands in the catalogue as it is comes first: the others then have little to search. */
function listedFirst(index: ModelIndex, stretches: readonly Stretch[]): (Stretch & { read: Uint8Array })[] {
  const coded = stretches.map((stretch) => ({ ...stretch, read: codesOf(stretch.text) }));
  const isListed = coded.map(({ read }) => hasWord(index.forward, read));
  return [...coded.filter((_, index) => isListed[index]), ...coded.filter((_, index) => !isListed[index])];
}

const idOf = ({ index, model }: Weighed): ModelId => defined(index.ids[model], 'the id of a model of the index');

/** A model that several layers list is one. */
function once(weighed: readonly Weighed[]): Weighed[] {
  const found = new Map<ModelId, Weighed>();
  for (const entry of weighed) {
    const known = found.get(idOf(entry));
    found.set(
      idOf(entry),
      known ? { ...known, log: logSum(known.log, entry.log), before: logSum(known.before, entry.before) } : entry,
    );
  }
  return [...found.values()];
}

function answer(all: readonly Weighed[], unknownLog: number, unreadLog: number, options: PlateOptions): PlateReading {
  const weighed = once(all);
  const top = weighed.reduce((most, { log }) => Math.max(most, log), Math.max(unknownLog, unreadLog));
  const lead = weighed.reduce((most, { log }) => Math.max(most, log), -Infinity);
  const masses = {
    listed: weighed.map((one) => ({
      before: Math.exp(one.before),
      mass: Math.exp(one.log - top),
      exact: one.exact,
      near: one.near,
      slips: one.log < lead - OUT_OF_IT ? 0 : slipsOf(one),
    })),
    unread: Math.exp(unreadLog - top),
    unknown: Math.exp(unknownLog - top),
    photographed: options.sure !== undefined,
  };
  const { listed, unknown } = doubted(masses, absentBefore(options));
  const ranked = weighed
    .map((entry, at) => ({ entry, probability: listed[at] ?? 0 }))
    .sort((a, b) => b.probability - a.probability);
  const candidates = ranked.slice(0, options.maxCandidates ?? 12).map(({ entry, probability }): PlateCandidate => {
    const modelNumber = entry.index.numbers[entry.model] ?? '';
    return {
      modelId: idOf(entry),
      modelNumber,
      probability,
      differences: differencesBetween(modelNumber, entry.stretch, entry.given),
      ending: endingOf(modelNumber, entry.given),
    };
  });
  const unlisted = Math.max(0, 1 - unknown - candidates.reduce((sum, candidate) => sum + candidate.probability, 0));
  return {
    candidates,
    unknown,
    unlisted,
    rereads: rereadsOf(candidates.filter((candidate) => candidate.probability >= 1e-4)),
    taken: ranked[0]?.entry.stretch ?? '',
  };
}

/** A candidate so far (nats) behind the likeliest says nothing of how doubtful the reading is. */
const OUT_OF_IT = 12;
const slipsOf = ({ index, model, stretch, given, exact }: Weighed): number =>
  exact ? 0 : slipsBetween(codesOf(normaliseNumber(index.numbers[model] ?? '').slice(0, given)), codesOf(stretch));

/** ln(e^a + e^b) */
function logSum(a: number, b: number): number {
  const high = Math.max(a, b);
  return high === -Infinity ? high : high + Math.log(Math.exp(a - high) + Math.exp(b - high));
}

const positions = new WeakMap<ModelIndex, Map<string, number>>();

function shopWeights(
  index: ModelIndex,
  counts: ReadonlyMap<string, number> | undefined,
): { counts: Map<number, number>; total: number } | null {
  if (!counts || counts.size === 0) return null;
  let at = positions.get(index);
  if (!at) {
    at = new Map(index.ids.map((id, model) => [id, model]));
    positions.set(index, at);
  }
  const own = new Map<number, number>();
  let total = 0;
  for (const [id, count] of counts) {
    const model = at.get(id);
    total += count;
    if (model !== undefined) own.set(model, count);
  }
  return { counts: own, total };
}

/**
 * The models near a reading with ln P(read | model), exact over all alignments and modes, and the nearest words. `room`: channel cost at most; `relevant`: −ln
 * of the joint probability that matters already.
 */
function weigh(index: ModelIndex, read: Uint8Array, room: number, relevant: number, behind: number): Near {
  const costs = nearWords(index, read, room, relevant, behind);
  const words = [...costs]
    .map(([word, cost]) => ({ word, joint: cost - wordPrior(index, word) }))
    .sort((a, b) => a.joint - b.joint);
  const near = words.filter(({ joint }) => joint <= (words[0]?.joint ?? 0) + behind + 4).slice(0, MOST_WEIGHED);
  const beside: NearWord[] = [];
  const models = near.flatMap(({ word }, place) => {
    const codes = wordCodes(index, word);
    let log: number;
    if (place < MOST_BESIDE) {
      const both = likelihoods(codes, read);
      log = both.log;
      beside.push({ word, codes, sibling: both.sibling });
    } else log = logLikelihood(codes, read);
    if (log === -Infinity) return [];
    const exact = codes.length === read.length && codes.every((code, place) => code === read[place]);
    const found: Found[] = [];
    for (let entry = index.modelsAt[word] ?? 0; entry < (index.modelsAt[word + 1] ?? 0); entry += 1) {
      const model = index.modelOf[entry] ?? 0;
      found.push({
        model: model < 0 ? ~model : model,
        log: log + (index.givenLog[entry] as number),
        given: model < 0 ? codes.length : Infinity,
        exact,
      });
    }
    return found;
  });
  const dense = near.filter(({ joint }) => joint <= (words[0]?.joint ?? 0) + AS_NEAR).length;
  return { models, beside, dense };
}

/** Words with their search cost: widened until all that lie within `behind` of the best (prior included) must have been seen. */
function nearWords(
  index: ModelIndex,
  read: Uint8Array,
  room: number,
  relevant: number,
  behind: number,
): Map<number, number> {
  const costs = new Map<number, number>();
  const turned = read.slice().reverse();
  // The forward search bounds what is spent on the first `half` characters, the backward one on those after the next:
  // a slip belongs to one side or the other.
  const half = read.length >> 1;
  const best = index.forward.bestOfAll;
  let joint = relevant;
  const note = (word: number, cost: number): number => {
    if (cost >= (costs.get(word) ?? Infinity)) return joint + behind;
    costs.set(word, cost);
    joint = Math.min(joint, cost - wordPrior(index, word));
    return joint + behind;
  };
  // What is listed just so costs nothing, and tells at once how far to look.
  const exact = wordAt(index.forward, read);
  if (exact >= 0) note(exact, 0);
  for (let total = exact >= 0 ? joint + behind + best : FIRST_COST; ; total += WIDER) {
    // Beyond this cost no number can matter, however common.
    const enough = Math.min(room, joint + behind + best);
    // A last step that is small is taken at once: it would search all of this again.
    const limit = enough < total + WIDER / 2 ? enough : total;
    const bounds = (half: number): Bounds => ({ total: limit, half, joint: joint + behind });
    const found = costs.size;
    searchTrie(index.forward, read, bounds(half), false, note);
    searchTrie(index.backward, turned, bounds(read.length - half - 1), true, note);
    if (limit >= Math.min(room, joint + behind + best)) return costs;
    // Once something is found the cost that is enough is known: go there at once.
    if (costs.size > found) total = Math.min(room, joint + behind + best) - WIDER;
  }
}
