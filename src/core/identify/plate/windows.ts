import { normaliseNumber } from './normal';
import { MAX_LENGTH } from './symbols';

/** A stretch of the input that may be the number, with ln of its prior. */
export type Stretch = { text: string; log: number };

/** What a number is of: the label on the machine, or that on a part. */
export type NumberOf = 'model' | 'part';
/** "No" counts to the label only with its full stop: "MODEL NR 1165" may be the NR 1165. */
const LABELS: Record<NumberOf, RegExp> = {
  model: /^(mod(el(l)?)?|type?|typ|m\/n|ref|art)\b[.:\s]*((no|nr)(?=[.:])|n°)?[.:\s]*/i,
  part: /^(part|spare|item|p\/n|ref|art|code)\b[.:\s]*((no|nr)(?=[.:])|n°)?[.:\s]*/i,
};
const OTHER_LABEL = /^(s\/?n|ser(ial)?|volt|hz|watt|max|ip|made|prod(uct)?|pnc|date|kg|mpa|bar|fuse)\b/i;
/** Of those, the ones that name another number: the word is no part of it. */
const NUMBER_LABEL = /^(s\/n|ser(ial)?|prod(uct)?|pnc)([.:\s]+|$)/i;
/** "1400 /min", "220-240 V~", "7 kg": words that are a measure together. Not a single number before "A" or "L": models end so. */
const MEASURE = /(?<=^|\s)\d+(?:[.,]\d+)?(?:-\d+)?\s+(?:\/\s*min|r\/min|rpm|kg|kw|hz|mpa|bar|v~?|w)(?=\s|$)/gi;
const UNIT = /^\d+([.,]\d+)?(-\d+([.,]\d+)?)?(v|hz|w|kw|a|kg|l|mpa|bar|rpm|\/?min|mm|x|~)+\d*(v|hz|w)?$/i;
/** Whether a line says that the number is on it. */
export const isLabelled = (text: string, of: NumberOf = 'model'): boolean =>
  text.split(/[\n;|\t]+/).some((line) => LABELS[of].test(line.trim()));

/** A label that stands close to its number is read as one word with it: "TYPEKYQ112". */
const GLUED: Record<NumberOf, RegExp> = {
  model: /(?<![a-z0-9])(modell?|type?)(?=[a-z0-9][^\s]{2}[^\s]*)(?=[^\s]*\d)/gi,
  part: /(?<![a-z0-9])(part|item)(?=[a-z0-9][^\s]{2}[^\s]*)(?=[^\s]*\d)/gi,
};

const MOST_WORDS = 4;
const MOST_STRETCHES = 40;
const MOST_TEXT = 4000;
/** P(a text that was entered is the number and nothing else), when it looks like several things. */
const WHOLE = 0.25;
/** The same of a few words in one line, none of which is a label or a measure: who types them types the number. */
const WHOLE_OF_A_LINE = 0.7;
/** P(the number stands behind the label | a word for what it is of labels a line). The rest is for a label that belongs to something else. */
const LABELLED = 0.9;

/**
 * Stretches of a text that could be the number. The whole text always counts; in a text of several words or lines so do up to four words that
 * stand together, more so after a label like "Model", of a part like "P/N". Priors sum to at most one. O(words).
 */
export function stretchesOf(input: string, of: NumberOf = 'model'): Stretch[] {
  const label = LABELS[of];
  const typed = input.slice(0, MOST_TEXT);
  const whole = normaliseNumber(typed);
  const text = typed.replace(GLUED[of], '$1 ');
  const lines = text
    .split(/[\n;|\t]+/)
    .map((line) => line.trim())
    .filter(Boolean);
  const tokens = text.split(/\s+/).filter(Boolean);
  if (tokens.length < 2 && lines.length < 2)
    return whole.length > 0 && whole.length <= MAX_LENGTH ? [{ text: whole, log: 0 }] : [];
  const weights = new Map<string, { weight: number; labelled: boolean }>();
  let alone = false;
  const looksWhole =
    lines.length === 1 && tokens.length <= MOST_WORDS && !label.test(text) && !tokens.some((word) => UNIT.test(word));
  const isWhole = looksWhole ? WHOLE_OF_A_LINE : WHOLE;
  for (const line of lines) {
    // A label that stands alone is that of the next line.
    const labelled = label.test(line) || (alone && !OTHER_LABEL.test(line));
    const rest = line.replace(label.test(line) ? label : NUMBER_LABEL, '');
    alone = label.test(line) && normaliseNumber(rest).length < 3;
    const words = (labelled ? rest : rest.replace(MEASURE, (measure) => measure.replace(/\s+/g, '')))
      .split(/[\s,]+/)
      .filter(Boolean);
    const line1 = OTHER_LABEL.test(line) ? 0.1 : labelled ? 8 : 1;
    for (let from = 0; from < words.length; from += 1)
      for (let to = from + 1; to <= Math.min(words.length, from + MOST_WORDS); to += 1) {
        const stretch = words.slice(from, to);
        const normal = normaliseNumber(stretch.join(''));
        if (normal.length < 4 || normal.length > MAX_LENGTH || !/[\d?]/.test(normal)) continue;
        const units = stretch.filter((word) => UNIT.test(word)).length;
        // "230V 50Hz" is no number.
        if (units === stretch.length) continue;
        const single = to === from + 1 ? 1 : 0.35 / (to - from);
        const begins = from === 0 && labelled ? 2 : 1;
        const weight = line1 * single * begins * 0.15 ** units;
        const known = weights.get(normal);
        if (!known || known.weight < weight)
          weights.set(normal, { weight, labelled: labelled || known?.labelled === true });
      }
  }
  const totalOf = (labelled: boolean) =>
    [...weights.values()].reduce((sum, entry) => (entry.labelled === labelled ? sum + entry.weight : sum), 0);
  const [behindLabels, elsewhere] = [totalOf(true), totalOf(false)];
  const share =
    behindLabels === 0 ? 0 : elsewhere === 0 ? 1 : Math.max(LABELLED, behindLabels / (behindLabels + elsewhere));
  const stretches = [...weights].map(([stretch, { weight, labelled }]) => ({
    text: stretch,
    log: Math.log((1 - isWhole) * (labelled ? (share * weight) / behindLabels : ((1 - share) * weight) / elsewhere)),
  }));
  stretches.sort((a, b) => b.log - a.log);
  const kept = stretches.slice(0, MOST_STRETCHES).filter((stretch) => stretch.text !== whole);
  return whole.length > 0 && whole.length <= MAX_LENGTH ? [{ text: whole, log: Math.log(isWhole) }, ...kept] : kept;
}
