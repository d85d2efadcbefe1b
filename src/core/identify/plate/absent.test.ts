import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { absentParts } from './absent';
import { likelihoods, logLikelihood, replacement } from './likelihood';
import { buildModelIndex } from './modelIndex';
import { normaliseNumber } from './normal';
import { readPlate } from './readPlate';
import { codesOf, SYMBOL_COUNT } from './symbols';

const models = demoCatalogue().models;
const index = buildModelIndex(models);
const listed = new Set(models.map(({ modelNumber }) => normaliseNumber(modelNumber)));
const word = fc.string({ unit: fc.constantFrom(...'0138BMNRX'), minLength: 5, maxLength: 8 });

describe('an unlisted sibling', () => {
  it('is as likely as reading each number with one character replaced, one by one', () => {
    fc.assert(
      fc.property(word, word, fc.boolean(), (number, other, near) => {
        const text = near ? `${number.slice(0, -2)}${other.slice(0, 2)}` : other;
        const [truth, read] = [codesOf(number), codesOf(text)];
        let sum = 0;
        truth.forEach((code, index) => {
          for (let other = 0; other < SYMBOL_COUNT; other += 1)
            if (other !== code)
              sum += replacement(code, other) * Math.exp(logLikelihood(truth.with(index, other), read));
        });
        // A new character that is swapped, merged or torn off is left out of the sum over alignments: a little less is found, never more.
        const { log, sibling: found } = likelihoods(truth, read);
        expect(log).toBeCloseTo(logLikelihood(truth, read), 9);
        expect(found).toBeLessThanOrEqual((sum / truth.length) * 1.001 + 1e-15);
        if (sum / truth.length > 1e-4) expect(found).toBeGreaterThan((sum / truth.length) * 0.5);
      }),
    );
  });

  it('has replacements that are probabilities, nearly all of its own class', () => {
    for (let a = 0; a < SYMBOL_COUNT; a += 1) {
      const all = Array.from({ length: SYMBOL_COUNT }, (_, b) => (b === a ? 0 : replacement(a, b)));
      expect(all.reduce((sum, p) => sum + p, 0)).toBeCloseTo(1, 9);
    }
  });

  it('is hardly ever taken for a listed number for certain, though misread on top', () => {
    let readings = 0;
    let sure = 0;
    for (const { modelNumber } of models) {
      const plain = [...normaliseNumber(modelNumber)];
      for (let place = 2; place < plain.length - 2; place += 1) {
        const digit = Number(plain[place]);
        const sibling = plain.with(place, String((digit + 5) % 10));
        if (Number.isNaN(digit) || listed.has(sibling.join(''))) continue;
        // One more character is dropped somewhere else.
        const dropped = place > plain.length / 2 ? 2 : plain.length - 3;
        const { candidates } = readPlate(index, sibling.toSpliced(dropped, 1).join(''));
        readings += 1;
        if ((candidates[0]?.probability ?? 0) >= 0.95) sure += 1;
      }
    }
    expect(readings).toBeGreaterThan(1000);
    expect(sure / readings).toBeLessThan(0.1);
  });

  it('keeps P(read | not listed) a probability: over all texts of a length it sums to less than one', () => {
    let sum = 0;
    for (let a = 0; a < SYMBOL_COUNT; a += 1)
      for (let b = 0; b < SYMBOL_COUNT; b += 1) {
        const { oneOff, other } = absentParts(index.absent, index.forward, Uint8Array.of(a, b));
        expect(oneOff).toBeGreaterThanOrEqual(0);
        expect(other).toBeGreaterThan(0);
        sum += oneOff + other;
      }
    expect(sum).toBeLessThan(1);
  });
});
