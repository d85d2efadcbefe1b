import type { ModelRecord } from '@/core/identify';
import { seededRandom, type Random, asId } from '@/core/units';

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
const DIGITS = '0123456789';

type Part =
  | { kind: 'fixed'; text: string }
  | { kind: 'digits'; count: number }
  | { kind: 'choice'; of: string[] }
  | { kind: 'separator'; text: string };

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
const letters = (random: Random, count: number) =>
  Array.from({ length: count }, () => pick(random, [...LETTERS])).join('');

/** How one maker writes its numbers: a prefix, a run of digits, letters for colour or country, sometimes a suffix after a slash. */
function makeGrammar(random: Random): Part[] {
  const parts: Part[] = [
    {
      kind: 'choice',
      of: Array.from({ length: 1 + Math.floor(random() * 3) }, () => letters(random, 1 + Math.floor(random() * 3))),
    },
  ];
  if (random() < 0.3) parts.push({ kind: 'separator', text: pick(random, ['-', ' ', '.']) });
  parts.push({ kind: 'digits', count: 2 + Math.floor(random() * 3) });
  if (random() < 0.4)
    parts.push({ kind: 'choice', of: Array.from({ length: 2 + Math.floor(random() * 3) }, () => letters(random, 1)) });
  if (random() < 0.5)
    parts.push(
      { kind: 'separator', text: pick(random, ['-', ' ', '']) },
      { kind: 'digits', count: 1 + Math.floor(random() * 3) },
    );
  if (random() < 0.6)
    parts.push({
      kind: 'choice',
      of: Array.from({ length: 2 + Math.floor(random() * 4) }, () => letters(random, 1 + Math.floor(random() * 2))),
    });
  if (random() < 0.35)
    parts.push(
      { kind: 'separator', text: '/' },
      { kind: 'choice', of: ['1', '2', '3', '01', '02', '10'].slice(0, 2 + Math.floor(random() * 4)) },
    );
  return parts;
}

const write = (random: Random, grammar: readonly Part[]): string =>
  grammar
    .map((part) =>
      part.kind === 'digits'
        ? Array.from({ length: part.count }, () => pick(random, [...DIGITS])).join('')
        : part.kind === 'choice'
          ? pick(random, part.of)
          : part.text,
    )
    .join('');

/** A sibling as makers make them: one digit or one letter another one. */
function sibling(random: Random, number: string): string {
  const slash = number.indexOf('/');
  const places = [...number].flatMap((character, index) =>
    /[A-Z0-9]/.test(character) && index > 0 && (slash < 0 || index < slash) ? [index] : [],
  );
  const index = pick(random, places);
  const set = /\d/.test(number.charAt(index)) ? DIGITS : LETTERS;
  return number.slice(0, index) + pick(random, [...set]) + number.slice(index + 1);
}

export type World = {
  listed: ModelRecord[];
  /** Numbers that follow listed ones but are not listed. */ missing: string[];
  strangers: string[];
};

/**
 * Models of many makers, each with a grammar of its own, dense enough that three in four have a neighbour one character away; popularity falls as
 * 1 / rank within a maker, makers differ in size. `missing` was drawn by the same process and left out.
 */
export function makeWorld(size: number, seed: number): World {
  const random = seededRandom(seed);
  const listed: ModelRecord[] = [];
  const missing: string[] = [];
  const taken = new Set<string>();
  const plain = (number: string) => number.replace(/[^A-Z0-9]/g, '');
  for (let maker = 0; listed.length < size; maker += 1) {
    const grammar = makeGrammar(random);
    const count = Math.min(size - listed.length, 100 + Math.floor(random() ** 2 * 2400));
    const own: string[] = [];
    for (let tries = 0; own.length < count * 1.12 && tries < count * 6; tries += 1) {
      const number = own.length > 3 && random() < 0.62 ? sibling(random, pick(random, own)) : write(random, grammar);
      const key = plain(number);
      if (key.length < 5 || key.length > 16 || taken.has(key)) continue;
      taken.add(key);
      own.push(number);
    }
    own.forEach((number, rank) => {
      if (random() < 0.1) missing.push(number);
      else if (listed.length < size)
        listed.push({
          id: asId(`m${listed.length}`),
          modelNumber: number,
          makerId: asId(`k${maker}`),
          platformId: asId('p'),
          popularity: 1000 / (rank + 5),
        });
    });
  }
  const strangers = Array.from({ length: 600 }, () => write(random, makeGrammar(random))).filter(
    (number) => plain(number).length >= 5 && !taken.has(plain(number)),
  );
  return { listed, missing, strangers };
}

/** Share of numbers with another one a single substitution away. */
export function neighbourShare(numbers: readonly string[]): number {
  const seen = new Map<string, number>();
  const masks = (number: string) =>
    Array.from({ length: number.length }, (_, index) => `${number.slice(0, index)}*${number.slice(index + 1)}`);
  for (const number of numbers) for (const mask of masks(number)) seen.set(mask, (seen.get(mask) ?? 0) + 1);
  return numbers.filter((number) => masks(number).some((mask) => (seen.get(mask) ?? 0) > 1)).length / numbers.length;
}
