import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { defined } from '../../units';
import { buildModelIndex, readPlate } from '..';

const { models } = demoCatalogue();
const whole = buildModelIndex(models);
const halves = [0, 1].map((half) => models.filter((_, index) => index % 2 === half));
const [left, right] = halves.map((half) => buildModelIndex(half));
const indexes = [defined(left, 'left'), defined(right, 'right')];
const texts = models
  .filter((_, index) => index % 23 === 0)
  .flatMap(({ modelNumber }) => [
    modelNumber,
    modelNumber.replace('1', 'I'),
    `MODEL ${modelNumber}\n220-240V 50Hz\nSER 40127788`,
  ]);

describe('a plate read against several layers', () => {
  it('means what it means against one index of all of them', () => {
    for (const text of texts) {
      const [one, two] = [readPlate(whole, text), readPlate(indexes, text)];
      const total = two.candidates.reduce((sum, { probability }) => sum + probability, two.unknown + two.unlisted);
      expect(total, text).toBeCloseTo(1, 9);
      expect(two.candidates[0]?.modelId, text).toBe(one.candidates[0]?.modelId);
      expect(
        Math.abs((two.candidates[0]?.probability ?? 0) - (one.candidates[0]?.probability ?? 0)),
        text,
      ).toBeLessThan(0.12);
    }
  });

  it('does not depend on the scale in which each layer counts popularity', () => {
    const counted = halves.map((half, index) =>
      buildModelIndex(
        half.map((model) => ({ ...model, popularity: (model.popularity + 1) * (index === 0 ? 1 : 5000) })),
      ),
    );
    const plain = halves.map((half) =>
      buildModelIndex(half.map((model) => ({ ...model, popularity: model.popularity + 1 }))),
    );
    for (const text of texts.slice(0, 30)) {
      const [a, b] = [readPlate(plain, text), readPlate(counted, text)];
      expect(b.candidates[0]?.modelId, text).toBe(a.candidates[0]?.modelId);
      expect(b.candidates[0]?.probability ?? 0).toBeCloseTo(a.candidates[0]?.probability ?? 0, 1);
    }
  });

  it('is one candidate when two layers list it', () => {
    const [model] = models;
    const number = defined(model, 'a model').modelNumber;
    const ids = readPlate([whole, indexes[0] ?? whole], number).candidates.map(({ modelId }) => modelId);
    expect(new Set(ids).size).toBe(ids.length);
  });
});
