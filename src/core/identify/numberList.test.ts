import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildNumberList, exactNumbers, findNumbers, normaliseNumber, type NumberEntry } from '.';

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
