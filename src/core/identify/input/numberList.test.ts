import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildNumberList, exactNumbers, findNumbers, nearNumbers, normaliseNumber, type NumberEntry } from '..';

const entries = fc.array(
  fc.record({
    number: fc.string({ unit: fc.constantFrom('A', 'b', '1', '2', '-', '/', ' '), maxLength: 6 }),
    words: fc.constantFrom('Drain pump 30 W', 'Door seal', 'Pump filter', ''),
  }),
  { maxLength: 60 },
);
const query = fc.oneof(
  fc.string({ unit: fc.constantFrom('A', 'B', '1', '2', '-'), maxLength: 4 }),
  fc.constantFrom('pump', 'drain PUMP', 'seal door', ''),
);

/** Rank by reading every entry: 0 the number itself, 1 begins with it, 2 contains it, 3 by words, −1 not at all. */
function plainRank({ number, words }: NumberEntry, text: string): number {
  const [own, wanted] = [normaliseNumber(number), normaliseNumber(text)];
  const typed = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (typed.length === 0) return 0;
  if (wanted !== '' && own === wanted) return 0;
  if (wanted !== '' && own.startsWith(wanted)) return 1;
  if (wanted !== '' && own.includes(wanted)) return 2;
  return typed.every((word) => words.toLowerCase().includes(word)) ? 3 : -1;
}

describe('a list of numbers', () => {
  it('finds what reading every entry finds, in the same order of merit', () => {
    fc.assert(
      fc.property(entries, query, (list, text) => {
        const { list: built, order } = buildNumberList(list);
        const found = [...findNumbers(built, text)].map((position) => list[order[position] ?? -1]);
        const ranks = found.map((entry) => (entry ? plainRank(entry, text) : -2));
        expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
        expect(found).toHaveLength(list.filter((entry) => plainRank(entry, text) >= 0).length);
        expect(ranks.every((rank) => rank >= 0)).toBe(true);
        const exact = exactNumbers(built, text).length;
        const wanted = normaliseNumber(text);
        expect(exact).toBe(wanted === '' ? 0 : list.filter((entry) => normaliseNumber(entry.number) === wanted).length);
      }),
      { numRuns: 400 },
    );
  });

  const digit = fc.string({ unit: fc.constantFrom(...'0138BSZ5'), minLength: 5, maxLength: 9 });
  it('finds a number behind any one slip, and nothing that is more than one away', () => {
    const oneAway = (a: string, b: string): boolean => {
      if (a.length === b.length) {
        const apart = [...a].flatMap((character, index) =>
          character === b.charAt(index) || b.charAt(index) === '?' ? [] : [index],
        );
        const [first = 0, second = 0] = apart;
        return (
          apart.length <= 1 ||
          (apart.length === 2 &&
            second === first + 1 &&
            a.charAt(first) === b.charAt(second) &&
            a.charAt(second) === b.charAt(first))
        );
      }
      const [long, short] = a.length > b.length ? [a, b] : [b, a];
      return (
        long.length - short.length === 1 &&
        [...long].some((_, index) => long.slice(0, index) + long.slice(index + 1) === short)
      );
    };
    const slips = fc.constantFrom<((text: string, index: number) => string)[]>(
      (text, index) => text.slice(0, index) + text.slice(index + 1),
      (text, index) => text.slice(0, index) + text.charAt(index) + text.slice(index),
      (text, index) => `${text.slice(0, index)}?${text.slice(index + 1)}`,
      (text, index) => text.slice(0, index) + text.charAt(index + 1) + text.charAt(index) + text.slice(index + 2),
    );
    fc.assert(
      fc.property(
        fc.uniqueArray(digit, { minLength: 1, maxLength: 30 }),
        fc.nat(),
        fc.nat(3),
        slips,
        (numbers, which, index, slip) => {
          const { list, order } = buildNumberList(numbers.map((number) => ({ number, words: '' })));
          const truth = numbers[which % numbers.length] ?? '';
          const read = slip(truth, index);
          const found = nearNumbers(list, read).map((position) => numbers[order[position] ?? -1] ?? '');
          if (read !== truth) expect(found, `${truth} read ${read}`).toContain(truth);
          for (const number of found) expect(oneAway(number, read), `${number} read ${read}`).toBe(true);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('ranks what the eye confuses before what it does not, and stops where too little is readable', () => {
    const { list, order } = buildNumberList(['A-1280', 'A-128O', 'A-128X'].map((number) => ({ number, words: '' })));
    const near = (text: string) => nearNumbers(list, text).map((index) => order[index]);
    expect(near('A-128Q')[0]).not.toBe(2);
    expect(near('A128?')).toHaveLength(3);
    expect(near('A1???')).toEqual([]);
    expect(near('')).toEqual([]);
  });

  it('survives being stored: it holds plain values only', () => {
    const { list } = buildNumberList([
      { number: 'VB 61-4', words: 'Front loader' },
      { number: 'A-1', words: 'front loader' },
    ]);
    const again = structuredClone(list);
    expect([...findNumbers(again, 'vb614')]).toEqual([1]);
    expect([...findNumbers(again, 'LOADER')]).toEqual([0, 1]);
    expect(list.words).toEqual(['front loader']);
  });
});
