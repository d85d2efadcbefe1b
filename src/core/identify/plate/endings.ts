import { isDigit } from './symbols';
import { wordOf, type WordList } from './wordList';

/*
 * Numbers end in marks of country, colour and revision, and people leave them off. Which characters are such marks no rule tells; the catalogue does: where
 * several listed numbers go on differently after the same stem, behind a separator or where letters and digits meet, what follows is an ending; and so is what
 * a maker puts behind many stems.
 */

/** One ending has at most so many characters, two in a row twice that: behind a separator both may stand together. */
const LONGEST_ENDING = 4;
const SHORTEST_STEM = 4;
const MOST_ENDINGS = 3;

/** P(an ending is left off | it is seen as one). */
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

/** `form`: the separator, if one stands there, and whether a letter or a digit follows; or that the stem is a number itself. */
type Place = { length: number; form: string };

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
  let digits = 0;
  const digitsBefore = Array.from(word, (code) => (isDigit(code) ? (digits += 1) : digits));
  const shortest = Math.max(SHORTEST_STEM, word.length - 2 * LONGEST_ENDING);
  let after = word.length;
  for (let at = word.length - 1; at >= shortest && places.length < MOST_ENDINGS; at -= 1) {
    if ((digitsBefore[at - 1] as number) < 2) break;
    const separator = separators.get(at) ?? '';
    const near = after - at <= LONGEST_ENDING;
    const meet = isDigit(word[at - 1] as number) !== isDigit(word[at] as number);
    const listed = near && isListed(at);
    if (separator === '' && !(meet && near) && !listed) continue;
    places.push({
      length: at,
      form: listed ? 'listed' : separator + (isDigit(word[at] as number) ? 'digit' : 'letter'),
    });
    after = at;
  }
  return places;
}

/** Of each place in the normalised number before which something stood that is no letter or digit, what that was. */
export function separatorsIn(number: string): Map<number, string> {
  const found = new Map<number, string>();
  let length = 0;
  let gap = '';
  for (const character of number) {
    if (/[A-Za-z0-9]/.test(character)) {
      if (gap && length > 0) found.set(length, gap);
      gap = '';
      length += 1;
    } else gap = character;
  }
  return found;
}

/**
 * The stems of every number, with P(left off), learned from which stems have several listed continuations and which marks a maker repeats. `words`: the
 * numbers in the order of `models`. O(total length).
 */
export function stemsOf(words: WordList, models: readonly { modelNumber: string; makerId: string }[]): Stem[][] {
  const textOf = (index: number, from: number, to: number) =>
    String.fromCharCode(...wordOf(words, index).subarray(from, to));
  const stemOf = (index: number, length: number) => textOf(index, 0, length);
  const numbers = new Set(models.map((_, index) => textOf(index, 0, Infinity)));
  const places = models.map(({ modelNumber }, index) =>
    placesIn(wordOf(words, index), separatorsIn(modelNumber), (length) => numbers.has(stemOf(index, length))),
  );
  /** Of each stem the different continuations, no more than matter. */
  const follow = new Map<string, Set<string>>();
  const marks = new Map<string, { all: number; of: Map<string, number> }>();
  const marksOf = (index: number, { form }: Place) => `${models[index]?.makerId ?? ''} ${form}`;
  places.forEach((own, index) => {
    for (const place of own) {
      const ending = textOf(index, place.length, Infinity);
      const stem = stemOf(index, place.length);
      const known = follow.get(stem);
      if (!known) follow.set(stem, new Set([ending]));
      else if (known.size < 2) known.add(ending);
      const group = marks.get(marksOf(index, place)) ?? { all: 0, of: new Map<string, number>() };
      group.all += 1;
      group.of.set(ending, (group.of.get(ending) ?? 0) + 1);
      marks.set(marksOf(index, place), group);
    }
  });
  const forms = new Map<string, { several: number; all: number }>();
  const isFamily = (index: number, length: number) =>
    (follow.get(stemOf(index, length))?.size ?? 0) > 1 || numbers.has(stemOf(index, length));
  places.forEach((own, index) => {
    for (const { length, form } of own) {
      const known = forms.get(form) ?? { several: USUAL.share * USUAL.cases, all: USUAL.cases };
      known.all += 1;
      if (isFamily(index, length)) known.several += 1;
      forms.set(form, known);
    }
  });
  /** 0 to 1: how surely what follows is seen as an ending. */
  const likeness = (index: number, place: Place): number => {
    if (isFamily(index, place.length)) return 1;
    const { several, all } = forms.get(place.form) ?? { several: 0, all: 1 };
    const group = marks.get(marksOf(index, place));
    const times = group?.of.get(textOf(index, place.length, Infinity)) ?? 0;
    // A single case says nothing about how common a mark is.
    const common = Math.min(1, (COMMON_MARK * Math.max(0, times - 1)) / ((group?.all ?? 0) + 1));
    return ALONE * Math.max(several / all, common);
  };
  return places.map((own, index) =>
    own.map((place): Stem => ({ length: place.length, leftOff: LEFT_OFF * likeness(index, place) })),
  );
}
