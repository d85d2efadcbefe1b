import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codesOf } from './symbols';
import { buildTrie, childOf, endsWord, hasWord, wordEndingAt } from './trie';
import { sortedOrder, turnedWords, wordCount, wordListOf, wordOf } from './wordList';

const text = fc.string({ unit: fc.constantFrom(...'0189ABZ'), maxLength: 12 });
const different = fc.uniqueArray(
  text.filter((one) => one.length > 0),
  { minLength: 1, maxLength: 60 },
);
const spell = (codes: Uint8Array) => [...codes].map((code) => code.toString(36).toUpperCase()).join('');
const spellAll = (list: ReturnType<typeof wordListOf>) =>
  Array.from({ length: wordCount(list) }, (_, word) => spell(wordOf(list, word)));

describe('words one after the other', () => {
  it('are sorted as their texts are, equal ones as they came', () => {
    fc.assert(
      fc.property(fc.array(text), (texts) => {
        const list = wordListOf(texts.map(codesOf));
        const order = sortedOrder(
          list.symbols,
          list.at.slice(0, texts.length),
          Uint8Array.from(texts, (one) => one.length),
        );
        const wanted = texts
          .map((one, index) => ({ one, at: index }))
          .sort((a, b) => (a.one < b.one ? -1 : a.one > b.one ? 1 : a.at - b.at));
        expect([...order]).toEqual(wanted.map(({ at: index }) => index));
      }),
    );
  });

  it('are, read from their ends, the same words', () => {
    fc.assert(
      fc.property(different, (texts) => {
        const sorted = [...texts].sort();
        const { turned, order } = turnedWords(wordListOf(sorted.map(codesOf)));
        const mirrored = spellAll(turned);
        expect(mirrored).toEqual([...mirrored].sort());
        expect(mirrored.map((one) => [...one].reverse().join(''))).toEqual([...order].map((index) => sorted[index]));
      }),
    );
  });
});

describe('a trie', () => {
  it('holds its words and no other, in their order', () => {
    fc.assert(
      fc.property(different, text, (texts, other) => {
        const sorted = [...texts].sort();
        const trie = buildTrie(
          wordListOf(sorted.map(codesOf)),
          sorted.map((_, index) => -index),
        );
        expect(hasWord(trie, codesOf(other))).toBe(sorted.includes(other));
        sorted.forEach((one, index) => {
          let node = -1;
          for (const code of codesOf(one)) node = childOf(trie, node, code);
          expect(endsWord(trie, node), one).toBe(true);
          expect(wordEndingAt(trie, node), one).toBe(index);
        });
      }),
    );
  });
});
