import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { asId } from '../../units';
import { bandOf } from './absent';
import { listedNumbers } from './listedNumbers';
import { buildModelIndex } from './modelIndex';
import { readPlate } from './readPlate';
import { sibling, siblingSlipped, slipShares } from './sibling';
import { codesOf, SYMBOL_COUNT } from './symbols';
import { buildTrie } from './trie';
import { wordListOf } from './wordList';

const model = (modelNumber: string, at: number) => ({
  id: asId<never>(`m${at}`),
  modelNumber,
  makerId: asId<never>('k'),
  platformId: asId<never>('p'),
  popularity: 1,
});
const number = fc.string({ unit: fc.constantFrom(...'0189ABMN'), minLength: 3, maxLength: 7 });

const listOf = (numbers: readonly string[]) => {
  const words = wordListOf([...numbers].sort().map(codesOf));
  const trie = buildTrie(words, new Float32Array(numbers.length));
  return { words, trie, listed: listedNumbers(words, new Uint8Array(numbers.length).fill(1), 1, trie) };
};

describe('a number left out', () => {
  it('is as likely as it is in the list without it', () => {
    fc.assert(
      fc.property(fc.uniqueArray(number, { minLength: 3, maxLength: 30 }), fc.nat(), (numbers, at) => {
        const gone = numbers[at % numbers.length] ?? '';
        const whole = listOf(numbers);
        const without = listOf(numbers.filter((other) => other !== gone));
        const left = sibling(whole.listed, whole.trie, codesOf(gone), true);
        // What follows what is counted over all of them.
        const alone = sibling({ ...without.listed, trigram: whole.listed.trigram }, without.trie, codesOf(gone));
        expect(left).toBeCloseTo(alone, 12);
        expect(left).toBeGreaterThan(0);
      }),
    );
  });

  it('read with a slip at most is a probability: over all texts of a length it sums to less than one', () => {
    const { trie, listed } = listOf(['A1', 'A2', 'B1', 'B3', 'C', 'D17', 'D18', 'D2']);
    let sum = 0;
    for (let a = 0; a < SYMBOL_COUNT; a += 1)
      for (let b = 0; b < SYMBOL_COUNT; b += 1)
        sum += siblingSlipped(listed, trie, Uint8Array.of(a, b), slipShares(2, 0));
    expect(sum).toBeGreaterThan(0);
    expect(sum).toBeLessThan(1);
  });

  it('with a slip counts beside the same number without one', () => {
    const { trie, listed } = listOf(['WR10332', 'WR10864', 'WR10869', 'WR10337', 'WR10336', 'WR20336']);
    const [plain, turned] = [codesOf('WR10846'), codesOf('W1R0846')];
    const shares = slipShares(7, 0);
    expect(sibling(listed, trie, turned)).toBeLessThan(1e-3 * sibling(listed, trie, plain));
    // Two characters turned round are one slip, not a number of another family.
    expect(siblingSlipped(listed, trie, turned, shares)).toBeGreaterThan(
      0.5 * shares.swapped * sibling(listed, trie, plain),
    );
  });

  it('has slips that are shares: none, one of each kind, more', () => {
    for (const [length, marks] of [
      [5, 0],
      [12, 0],
      [9, 2],
    ] as const) {
      const { none, more } = slipShares(length, marks);
      expect(none).toBeGreaterThan(0.2);
      expect(none + more).toBeLessThan(1);
      expect(more).toBeGreaterThanOrEqual(0);
    }
    expect(slipShares(12, 0).none).toBeLessThan(slipShares(5, 0).none);
  });
});

describe('what the listed numbers say of unlisted ones', () => {
  const digits = (from: number, count: number, step: number) =>
    Array.from({ length: count }, (_, at) => `AB${String(from + at * step)}X`);

  it('is that dense numbering has more of them, and that the shares are shares', () => {
    // Runs that are nearly full, and strays without a neighbour that is listed.
    const dense = digits(1000, 300, 1).filter((_, at) => at % 7 !== 0);
    const strays = Array.from({ length: 300 }, (_, at) => `C${at * 37 + 10_000}Q${(at * 91) % 10}`);
    const { gain, shares } = buildModelIndex([...dense, ...strays].map(model)).absent;
    expect(gain[bandOf(9)]).toBeGreaterThan(gain[bandOf(1)] ?? Infinity);
    expect(shares.oneOff + shares.sibling + shares.alike).toBeCloseTo(1, 9);
  });

  it('is the same for the same list, and says nothing where there is nothing to learn of', () => {
    const { models } = demoCatalogue();
    const [one, other] = [buildModelIndex(models), buildModelIndex([...models])];
    expect([...one.absent.gain]).toEqual([...other.absent.gain]);
    expect(one.absent.shares).toEqual(other.absent.shares);
    for (const few of [['AB 1234'], ['AB 1234', 'Q 77-1'], []]) {
      const { gain, shares } = buildModelIndex(few.map(model)).absent;
      expect([...gain].every((value) => value === 1)).toBe(true);
      expect(shares.oneOff + shares.sibling + shares.alike).toBeCloseTo(1, 9);
    }
  });
});

describe('texts as readers leave them', () => {
  const { models } = demoCatalogue();
  const index = buildModelIndex(models);
  const wanted = models[3] ?? models[0];
  const said = wanted?.modelNumber.replace(/[^A-Za-z0-9]/g, '') ?? '';

  it.each([`TYPE${said}`, `| MODEL${said} ~~ |`, `_Type${said}\n230V 50Hz`])(
    'a label that stands close to its number is no part of it: %j',
    (text) => {
      const { candidates } = readPlate(index, text);
      expect(candidates[0]?.modelId).toBe(wanted?.id);
      expect(candidates[0]?.probability).toBeGreaterThan(0.9);
    },
  );

  it('a text without a digit was not read: it is no word on whether the machine is listed', () => {
    for (const text of ['ER', '| E— |', 'ore gens vw m—', '[ewig |']) {
      const { unknown, unlisted } = readPlate(index, text);
      expect(unlisted).toBeGreaterThan(0.8);
      expect(unknown).toBeCloseTo(0.1, 1);
    }
  });

  it('a listed number that is letters alone is read all the same', () => {
    const own = buildModelIndex(['SOLANDA', 'SOLANDA X', 'VB 61-407', 'NR 1165 B'].map(model));
    const { candidates, unlisted } = readPlate(own, 'solanda');
    expect(candidates[0]).toMatchObject({ modelNumber: 'SOLANDA' });
    expect(candidates[0]?.probability).toBeGreaterThan(0.9);
    expect(unlisted).toBeLessThan(0.05);
  });

  it('digits on both sides of a dash are a number, with a unit behind them a measure', () => {
    const codes = ['9691-249479', '9691-249122', '4417-120345'].map(model);
    const own = buildModelIndex(codes);
    for (const beside of ['230V', '7 kg', 'IPX4', '220-240V~50Hz'])
      expect(readPlate(own, `9691-249479 ${beside}`).candidates[0]).toMatchObject({ modelNumber: '9691-249479' });
  });
});
