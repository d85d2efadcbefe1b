import { normaliseNumber, type ModelRecord } from '@/core/identify';
import { groupBy } from '@/core/units';
import { slipsBetween } from './distance';
import type { Case } from './worlds/world';

/** What is left of the truth in a reading, and whether it still tells it from every other listed number. */
export type Left = {
  /** Slips between the truth and the stretch of the reading that is nearest to it. */
  slips: number;
  /** Characters of the truth. */
  length: number;
  /** No other listed number is as near to that stretch. */
  decidable: boolean;
};

const MOST_WORDS = 4;

/** The stretches of up to four words of a line, and each line. */
function stretches(text: string): string[] {
  const whole = normaliseNumber(text);
  if (!/[\s;|]/.test(text.trim())) return [whole];
  const found = new Set<string>(whole.length < 40 ? [whole] : []);
  for (const line of text.split(/[\n;|]+/)) {
    const words = line.split(/\s+/).filter(Boolean);
    for (let from = 0; from < words.length; from += 1)
      for (let to = from + 1; to <= Math.min(words.length, from + MOST_WORDS); to += 1)
        found.add(normaliseNumber(words.slice(from, to).join('')));
  }
  return [...found].filter((one) => one.length > 2 && one.length < 40);
}

/** Which readings can still be told: a second way that knows nothing of popularity or of which slips are usual. O(readings · models). */
export function whatIsLeft(listed: readonly ModelRecord[], cases: readonly Case[]): (Left | null)[] {
  const numbers = listed.map(({ modelNumber }) => normaliseNumber(modelNumber));
  const at = new Map(listed.map(({ id }, index) => [String(id), index]));
  const byLength = groupBy(
    numbers.map((number, index) => ({ number, index })),
    ({ number }) => number.length,
  );
  return cases.map(({ text, truth }) => {
    const own = truth === null ? undefined : at.get(truth);
    if (own === undefined) return null;
    const number = numbers[own] ?? '';
    let [slips, nearest] = [number.length, ''];
    for (const one of stretches(text)) {
      const between = slipsBetween(number, one, slips);
      if (between < slips) [slips, nearest] = [between, one];
    }
    let decidable = slips < number.length;
    for (let length = nearest.length - slips; decidable && length <= nearest.length + slips; length += 1)
      decidable = !byLength
        .get(length)
        ?.some((other) => other.index !== own && slipsBetween(other.number, nearest, slips) <= slips);
    return { slips, length: number.length, decidable };
  });
}
