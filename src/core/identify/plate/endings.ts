import { isDigit, MAX_LENGTH, SYMBOL_COUNT } from './symbols';
import { sortedOrder, wordOf, type WordList } from './wordList';

/*
 * Numbers end in marks of country, colour and revision, and people leave them off. Which characters are such marks no rule tells; the catalogue does: where
 * several listed numbers go on differently after the same stem, behind a separator or where letters and digits meet, what follows is an ending; and so is what
 * a maker puts behind many stems.
 */

/** One ending has at most so many characters, two in a row twice that: behind a separator, or in a run of letters, both may stand together. */
const LONGEST_ENDING = 4;
const SHORTEST_STEM = 4;
const MOST_ENDINGS = 3;

/** P(an ending is left off | it is seen as one). Less than one in MOST_ENDINGS, for a number may have so many. */
const LEFT_OFF = 0.2;
/** Where only one number continues a stem, its ending counts as much as stems of that form have several. */
const ALONE = 0.7;
/** A mark that stands behind one in so many of a maker's stems of that form is an ending, whatever else continues the stem. */
const COMMON_MARK = 25;
/** What is usual of a form, and after how many cases the catalogue's own share counts as much. */
const USUAL = { share: 0.3, cases: 30 };

export type Stem = {
  /** Characters of the number that are left when the ending is left off. */
  length: number;
  /** P(just this ending is left off). */
  leftOff: number;
};

/**
 * `form`: the separator, if one stands there, and whether a letter or a digit follows; or that the stem is a number itself. `family`: several listed numbers
 * go on differently there, or one ends there. `long`: more letters than one ending has; two written together look so.
 */
type Place = { length: number; form: string; family: boolean; long: boolean };

/**
 * Where an ending of this number may begin, the last first: behind a separator, where letters and digits meet, and behind what is a listed number itself.
 * `separators`: places in the normalised number before which something else stood.
 */
function placesIn(
  word: Uint8Array,
  separators: ReadonlyMap<number, string>,
  isListed: (length: number) => boolean,
): Place[] {
  const places: Place[] = [];
  // A stem has two digits at least: it ends behind the second.
  let second = 0;
  for (let digits = 0; digits < 2 && second < word.length; second += 1)
    if (isDigit(word[second] as number)) digits += 1;
  const shortest = Math.max(SHORTEST_STEM, second, word.length - 2 * LONGEST_ENDING);
  let after = word.length;
  for (let at = word.length - 1; at >= shortest && places.length < MOST_ENDINGS; at -= 1) {
    const separator = separators.get(at) ?? '';
    const near = after - at <= LONGEST_ENDING;
    const letter = !isDigit(word[at] as number);
    const meet = isDigit(word[at - 1] as number) === letter;
    const ends = isListed(at);
    const long = separator === '' && !near;
    if (long && !(meet && letter && after - at <= 2 * LONGEST_ENDING)) continue;
    if (separator === '' && !meet && !ends) continue;
    places.push({
      length: at,
      form: ends && near ? 'listed' : separator + (letter ? 'letter' : 'digit'),
      family: ends,
      long,
    });
    after = at;
  }
  return places;
}

const PLAIN = /^[A-Za-z0-9]*$/;
const KEPT = /[A-Za-z0-9]/;
const NONE: ReadonlyMap<number, string> = new Map();

/** Of each place in the normalised number before which something stood that is no letter or digit, what that was. */
export function separatorsIn(number: string): ReadonlyMap<number, string> {
  if (PLAIN.test(number)) return NONE;
  const found = new Map<number, string>();
  let length = 0;
  let gap = '';
  for (const character of number) {
    if (KEPT.test(character)) {
      if (gap && length > 0) found.set(length, gap);
      gap = '';
      length += 1;
    } else gap = character;
  }
  return found;
}

/** Length of what two words have in common. */
function sharedLength(a: Uint8Array, b: Uint8Array): number {
  let length = 0;
  while (length < a.length && a[length] === b[length]) length += 1;
  return length;
}

/**
 * The places of every number. One pass over the numbers in their order: those that share a stem stand together, and a number that is the stem of others stands
 * right before them. O(total length).
 */
function placesOf(words: WordList, models: readonly Numbered[]): Place[][] {
  const lengths = Uint8Array.from(models, (_, model) => wordOf(words, model).length);
  const places: Place[][] = new Array<Place[]>(models.length);
  /** Lengths of the listed numbers that the present one begins with. */
  const stems: number[] = [];
  /** By length of the stem, the places of the present stretch of numbers that share it, and how many different numbers have one. */
  const open = Array.from({ length: MAX_LENGTH + 1 }, () => ({ places: [] as Place[], different: 0, last: -1 }));
  const close = (longerThan: number, until: number) => {
    for (let length = longerThan + 1; length <= until; length += 1) {
      const stretch = open[length];
      if (!stretch || stretch.places.length === 0) continue;
      if (stretch.different > 1) for (const place of stretch.places) place.family = true;
      open[length] = { places: [], different: 0, last: -1 };
    }
  };
  let before: Uint8Array = new Uint8Array();
  /** Counts different numbers: two makers may have the same. */
  let number = 0;
  for (const model of sortedOrder(words.symbols, words.at.subarray(0, models.length), lengths)) {
    const word = wordOf(words, model);
    const shared = sharedLength(before, word);
    close(shared, before.length);
    while ((stems.at(-1) ?? 0) > shared) stems.pop();
    if (shared < before.length || before.length < word.length) number += 1;
    const own = placesIn(word, separatorsIn(models[model]?.modelNumber ?? ''), (length) => stems.includes(length));
    places[model] = own;
    for (const place of own) {
      const stretch = open[place.length];
      if (!stretch) continue;
      stretch.places.push(place);
      if (stretch.last !== number) stretch.different += 1;
      stretch.last = number;
    }
    if (stems.at(-1) !== word.length) stems.push(word.length);
    before = word;
  }
  close(0, MAX_LENGTH);
  // So many letters are marks only where others of the family show it.
  return places.map((own) => own.filter(({ family, long }) => family || !long));
}

type Numbered = { modelNumber: string; makerId: string };

/**
 * The stems of every number, with P(left off), learned from which stems have several listed continuations and which marks a maker repeats. `words`: the
 * numbers in the order of `models`. O(total length).
 */
export function stemsOf(words: WordList, models: readonly Numbered[]): Stem[][] {
  const places = placesOf(words, models);
  /** An ending has eight symbols at most: as digits of one number it is known exactly. */
  const endingOf = (model: number, { length }: Place): number =>
    wordOf(words, model)
      .subarray(length)
      .reduce((sum, code) => sum * (SYMBOL_COUNT + 1) + code + 1, 0);
  const marks = new Map<string, Map<string, { all: number; of: Map<number, number> }>>();
  const forms = new Map<string, { several: number; all: number }>();
  places.forEach((own, model) => {
    if (own.length === 0) return;
    const maker = models[model]?.makerId ?? '';
    const ofMaker = marks.get(maker) ?? new Map<string, { all: number; of: Map<number, number> }>();
    marks.set(maker, ofMaker);
    for (const place of own) {
      const group = ofMaker.get(place.form) ?? { all: 0, of: new Map<number, number>() };
      ofMaker.set(place.form, group);
      const ending = endingOf(model, place);
      group.all += 1;
      group.of.set(ending, (group.of.get(ending) ?? 0) + 1);
      const known = forms.get(place.form) ?? { several: USUAL.share * USUAL.cases, all: USUAL.cases };
      forms.set(place.form, known);
      known.all += 1;
      if (place.family) known.several += 1;
    }
  });
  /** 0 to 1: how surely what follows is seen as an ending. */
  const likeness = (model: number, place: Place): number => {
    if (place.family) return 1;
    const { several, all } = forms.get(place.form) ?? { several: 0, all: 1 };
    const group = marks.get(models[model]?.makerId ?? '')?.get(place.form);
    const times = group?.of.get(endingOf(model, place)) ?? 0;
    // A single case says nothing about how common a mark is.
    const common = Math.min(1, (COMMON_MARK * Math.max(0, times - 1)) / ((group?.all ?? 0) + 1));
    return ALONE * Math.max(several / all, common);
  };
  return places.map((own, model) =>
    own.map((place): Stem => ({ length: place.length, leftOff: LEFT_OFF * likeness(model, place) })),
  );
}
