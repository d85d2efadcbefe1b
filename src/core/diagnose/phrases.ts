import type { AnswerPhrase, CodeMeaning, Finding, Phrase } from '../catalogue';

/** A finding that somebody's words speak of. */
export type Proposed = {
  findingId: string;
  /** false: they say that it is not so. */
  present: boolean;
  /** What of the text says it. */
  words: string;
};

const NEGATIONS = new Set(['not', 'no', 'never', 'without', 'none', 'nothing', 'cannot', 'stopped', 'neither']);
/** What goes on with a "not": "no banging or roaring". */
const NEGATING_ON = new Set(['or', 'nor']);
/** Words that tell nothing. */
const IDLE = new Set('a an the it is its of at in on to and my i by that this was has have be with'.split(' '));
/** So many other words may stand between those of a phrase. */
const MOST_BETWEEN = 2;
/** How far before what is said a "not" still belongs to it. */
const NEGATED_WITHIN = 2;

/** `clause`: which of the stretches between stops and commas it stands in. */
type Word = { text: string; stem: string; from: number; to: number; clause: number };

/** "doesn't", and as thumbs write it: "doesnt". */
const NEGATED = /^(?:(.+)n't|(ca|wo|do|does|did|is|was|are|were|has|have|had|would|could|should)nt)$/;
const SHORTENED = new Map([
  ['wo', 'will'],
  ['ca', 'can'],
]);
function negatedIn(word: string): string | null {
  if (word === 'cannot') return 'can';
  const [, written, thumbed] = NEGATED.exec(word) ?? [];
  const verb = written ?? thumbed;
  return verb === undefined ? null : (SHORTENED.get(verb) ?? verb);
}

/** "doesn't" is "does not"; a word is known by its stem. */
function wordsOf(text: string): Word[] {
  let clause = 0;
  return [
    ...text
      .toLowerCase()
      .replace(/’/g, "'")
      .matchAll(/[a-z']+|[.,;:!?\n]/g),
  ].flatMap(({ 0: found, index }): Word[] => {
    if (!/[a-z']/.test(found)) {
      clause += 1;
      return [];
    }
    const word = (own: string): Word => ({
      text: own,
      stem: AS_NOT.has(own) ? 'not' : stemOf(own),
      from: index,
      to: index + found.length,
      clause,
    });
    const negated = negatedIn(found);
    return negated === null ? [word(found.replace(/'s?$/, ''))] : [word(negated), word('not')];
  });
}

/** Says "not", for all that a phrase with "not" means. */
const AS_NOT = new Set(['never']);

/** Rough: enough to take "hums", "hummed" and "humming" for one. */
function stemOf(word: string): string {
  const cut = word.length > 4 ? word.replace(/(?:ing|ed|es|s|e)$/, '') : word.replace(/(?<=[a-z]{2})s$/, '');
  return cut.length > 3 ? cut.replace(/([b-df-hj-np-tv-z])\1$/, '$1') : cut;
}

/** Alike but for one slip of the typing hand, in words that are long enough. The first letter is rarely missed, and makes another word: "tumbles" is no "rumbles". */
function isLike(a: string, b: string): boolean {
  if (a === b) return true;
  if (a[0] !== b[0] || Math.min(a.length, b.length) < 5 || Math.abs(a.length - b.length) > 1) return false;
  let from = 0;
  while (from < a.length && a[from] === b[from]) from += 1;
  const [restA, restB] = [a.slice(from), b.slice(from)];
  return (
    restA.slice(1) === restB.slice(1) ||
    restA.slice(1) === restB ||
    restA === restB.slice(1) ||
    (restA[0] === restB[1] && restA[1] === restB[0] && restA.slice(2) === restB.slice(2))
  );
}

/** Places of a phrase's words in a text, one after the other with little between; null where they do not stand there. */
function placed(said: readonly Word[], phrase: readonly Word[], from: number): number[] | null {
  const places: number[] = [];
  let next = from;
  for (const word of phrase) {
    let between = 0;
    while (next < said.length && !isLike(said[next]?.stem ?? '', word.stem)) {
      if (places.length === 0) return null;
      if (!IDLE.has(said[next]?.text ?? '')) between += 1;
      if (between > MOST_BETWEEN) return null;
      next += 1;
    }
    if (next >= said.length) return null;
    places.push(next);
    next += 1;
  }
  return places;
}

/** Idle words that make another verb of the one before them: "not turn on" is no "not turn". */
const VERB_ENDS = new Set(['on']);
/** A phrase without its idle words; with them where too little would be left: "on and off" is no "off". */
const LEAST_TELLING = 4;
function tellingWords(words: readonly Word[]): readonly Word[] {
  const telling = words.filter(
    ({ text }, place) => !IDLE.has(text) || (VERB_ENDS.has(text) && place === words.length - 1),
  );
  return telling.reduce((sum, { text }) => sum + text.length, 0) >= LEAST_TELLING ? telling : words;
}

/** A phrase is taken to pieces once, not with every letter that somebody types; there are as many as the lists hold. */
const phrasesKnown = new Map<string, readonly Word[]>();
function phraseOf(words: string): readonly Word[] {
  const known = phrasesKnown.get(words) ?? tellingWords(wordsOf(words));
  phrasesKnown.set(words, known);
  return known;
}

/** What somebody's words speak of, by its key. */
type Heard<Key> = { key: Key; present: boolean; words: string };
type Way<Key> = { key: Key; words: string };

/**
 * What a text speaks of, in the order in which it is said; each key of `same` once. Of ways that share words the longest says what is meant ("does not spin" and "spin").
 * O(words · ways).
 */
function heardIn<Key>(text: string, ways: readonly Way<Key>[], same: (key: Key) => string): Heard<Key>[] {
  const said = wordsOf(text);
  type Found = Omit<Heard<Key>, 'present'> & { places: number[]; weight: number; saysNot: boolean };
  const found: Found[] = [];
  for (const { key, words } of ways) {
    const phrase = phraseOf(words);
    if (phrase.length === 0) continue;
    for (let from = 0; from < said.length; from += 1) {
      const places = placed(said, phrase, from);
      if (!places) continue;
      const [first = from, last = from] = [places[0], places.at(-1)];
      found.push({
        key,
        words: text.slice(said[first]?.from, said[last]?.to),
        places,
        weight: phrase.reduce((sum, { text: word }) => sum + word.length, 0),
        saysNot: phrase.some(({ text: word }) => NEGATIONS.has(word)),
      });
    }
  }
  const spanOf = ({ places }: Found) => (places.at(-1) ?? 0) - (places[0] ?? 0);
  // Of the places where the same may stand the closest: "not spinning, not draining".
  found.sort((a, b) => b.weight - a.weight || spanOf(a) - spanOf(b));
  const taken = new Set<number>();
  const kept = new Map<string, Found>();
  for (const one of found) {
    if (kept.has(same(one.key))) continue;
    if (one.places.some((place) => taken.has(place))) continue;
    for (const place of one.places) taken.add(place);
    kept.set(same(one.key), one);
  }
  const inOrder = [...kept.values()].sort((a, b) => (a.places[0] ?? 0) - (b.places[0] ?? 0));
  // A "not" that is part of what was heard says nothing of what comes after: "does not drain, humming".
  const negates = (place: number) => NEGATIONS.has(said[place]?.text ?? '') && !taken.has(place);
  let negatedUntil = -1;
  return inOrder.map(({ key, words, places, saysNot }) => {
    const [first = 0, last = 0] = [places[0], places.at(-1)];
    const clause = said[first]?.clause;
    const before = [...said.keys()].slice(Math.max(0, first - NEGATED_WITHIN), first);
    const goesOn = negatedUntil === first - 2 && NEGATING_ON.has(said[first - 1]?.text ?? '');
    const isNot = !saysNot && (goesOn || before.some((place) => said[place]?.clause === clause && negates(place)));
    if (isNot) negatedUntil = last;
    return { key, present: !isNot, words };
  });
}

/**
 * The findings that a complaint in everyday words speaks of, in the order in which they are said: by `phrases` and by the findings' own words; a "not" before one says that
 * it is not so. O(words · phrases).
 */
export function findingsIn(
  text: string,
  phrases: readonly Phrase[],
  findings: readonly Pick<Finding, 'id' | 'threeWords'>[],
): Proposed[] {
  const known = new Set(findings.map(({ id }) => id));
  const ways = [
    ...phrases
      .filter(({ findingId }) => known.has(findingId))
      .map(({ findingId, words }) => ({ key: findingId, words })),
    ...findings.map(({ id, threeWords }) => ({ key: id, words: threeWords })),
  ];
  return heardIn(text, ways, (id) => id).map(({ key, ...heard }) => ({ findingId: key, ...heard }));
}

/** An answer to a question, given in a complaint before it was asked. */
export type AnsweredAlready = Pick<AnswerPhrase, 'checkId' | 'outcomeId'> & { words: string };

/**
 * Answers to questions that a complaint gives by itself ("getting louder for weeks"), of each question the plainest one. A "not" before it answers nothing: which of
 * the others it is then was not said. O(words · phrases).
 */
export const answersIn = (text: string, phrases: readonly AnswerPhrase[]): AnsweredAlready[] =>
  heardIn(
    text,
    phrases.map(({ checkId, outcomeId, words }) => ({ key: { checkId, outcomeId }, words })),
    ({ checkId }) => checkId,
  ).flatMap(({ key, present, words }) => (present ? [{ ...key, words }] : []));

/** A code of letters alone is a word like others, but behind one of these. */
const SHOWN = /(?:shows?|showing|says?|reads?|displays?|displaying|codes?|errors?|faults?)[\s:“"']+$/i;
/** "displaying" and what may stand behind it. */
const LONGEST_SHOWN = 16;
/** Pieces of a text that may be a code together: "E 2 1". */
const MOST_PIECES = 4;
const asCode = (text: string): string => text.replace(/[\s-]/g, '').toLowerCase();

/** Whatever in a text may be a code, as codes are compared; whether somewhere it is said to be shown. O(length). */
function codeLike(text: string): Map<string, boolean> {
  const found = new Map<string, boolean>();
  const note = (from: number, to: number) => {
    const code = asCode(text.slice(from, to));
    found.set(code, found.get(code) === true || SHOWN.test(text.slice(Math.max(0, from - LONGEST_SHOWN), from)));
  };
  const pieces = [...text.matchAll(/[^\s-]+/g)].flatMap(({ 0: piece, index }) => {
    // Whatever a maker writes codes with, and without the stops around it.
    note(index, index + piece.length);
    const begin = piece.search(/[a-z0-9]/i);
    const end = piece.search(/[^a-z0-9]*$/i);
    if (begin < 0) return [];
    // "E21/E22" are two, and perhaps one.
    for (const { 0: part, index: at } of piece.matchAll(/[a-z0-9]+/gi)) note(index + at, index + at + part.length);
    return [{ from: index + begin, to: index + end }];
  });
  pieces.forEach(({ from }, first) => {
    let until = from;
    for (const { from: begin, to } of pieces.slice(first, first + MOST_PIECES)) {
      if (begin > until + 1) break;
      note(from, to);
      until = to;
    }
  });
  return found;
}
/** The codes out of a maker's list that a complaint names ("flashes E21", "err 4"); one without a digit only where it is said to be shown. O(codes + length). */
export function codesIn(text: string, codes: readonly CodeMeaning[]): CodeMeaning[] {
  const said = codeLike(text);
  return codes.filter(({ code }) => {
    const shown = said.get(asCode(code));
    return shown !== undefined && (shown || /\d/.test(code));
  });
}
