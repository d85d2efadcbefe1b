import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asId, seededRandom } from '../../units';
import { toCompare } from './compare';
import { separatorsIn, stemsOf } from './endings';
import { keptReading } from './keptReading';
import { buildModelIndex, type ModelRecord } from './modelIndex';
import { normaliseNumber } from './normal';
import { readPlate } from './readPlate';
import { codesOf } from './symbols';
import { wordListOf } from './wordList';

const model = (modelNumber: string, popularity = 1): ModelRecord => ({
  id: asId(modelNumber),
  modelNumber,
  makerId: asId('m'),
  platformId: asId('p'),
  popularity,
});

/** Families of drawn stems, each with two to four endings of one form; popularities over four powers of ten. */
const families = fc.record({
  stems: fc.uniqueArray(fc.stringMatching(/^[B-DK-N]{2}[0-9]{4}$/), { minLength: 3, maxLength: 30 }),
  endings: fc.uniqueArray(fc.stringMatching(/^[A-Z]{1,3}$/), { minLength: 2, maxLength: 4 }),
  join: fc.constantFrom('', '-', ' ', '/'),
  seed: fc.nat(),
});
const listing = ({
  stems,
  endings,
  join,
  seed,
}: {
  stems: string[];
  endings: string[];
  join: string;
  seed: number;
}) => {
  const random = seededRandom(seed);
  return stems.flatMap((stem) => endings.map((ending) => model(stem + join + ending, 10 ** (4 * random()))));
};

describe('a number without its ending', () => {
  it('is never said to be unlisted while its family is listed: the family is the answer, with the chance of each ending', () => {
    fc.assert(
      fc.property(families, fc.nat(), (drawn, which) => {
        const stem = drawn.stems[which % drawn.stems.length] ?? '';
        const { candidates, unknown } = readPlate(buildModelIndex(listing(drawn)), stem);
        const family = candidates.filter(({ modelNumber }) => modelNumber.startsWith(stem));
        const mass = family.reduce((sum, { probability }) => sum + probability, 0);
        expect(mass).toBeGreaterThan(unknown);
        expect(family.length).toBe(drawn.endings.length);
        for (const { ending } of family) expect(ending).not.toBe('');
      }),
      { numRuns: 200 },
    );
  });

  it('may have lost two endings written together, as its brothers show: then none of them is sure', () => {
    // Country and colour, nothing between them; one brother has a country alone.
    const brothers = ['QX52814RUPM', 'QX52814TLADV', 'QX52814TLA', 'QX52814RUPDV'];
    const index = buildModelIndex([...brothers, 'QX61300RUPM', 'QX70925TLADVE'].map((number) => model(number)));
    const { candidates } = readPlate(index, 'qx 52814');
    expect(candidates.slice(0, 4).map(({ modelNumber }) => modelNumber)).toEqual(expect.arrayContaining(brothers));
    expect(candidates[0]?.probability).toBeLessThan(0.5);
    // Where no brother shows it, so many letters are part of the number.
    const alone = readPlate(index, 'qx 70925').candidates;
    expect(alone.filter(({ modelNumber, ending }) => modelNumber.startsWith('QX70925') && ending !== '')).toEqual([]);
  });

  it('is answered with where to look: behind which character, and for what', () => {
    const index = buildModelIndex(
      ['TK 6140', 'TK 6150', 'TK 6260', 'TK 7010'].flatMap((stem) =>
        ['EU', 'FR', 'W'].map((mark) => model(`${stem}-${mark}`)),
      ),
    );
    const { candidates, taken } = readPlate(index, 'model tk 6150');
    const compare = toCompare(taken, candidates);
    expect(compare).toMatchObject({ kind: 'ending', stem: 'TK 6150', after: '0' });
    expect(compare?.kind === 'ending' && compare.endings.map(({ ending }) => ending).sort()).toEqual(['EU', 'FR', 'W']);
    expect(candidates[0]?.ending).toMatch(/^-/);
    // One that was read to its end asks for nothing.
    const whole = readPlate(index, 'TK 6150-FR');
    expect(whole.candidates[0]).toMatchObject({ modelNumber: 'TK 6150-FR', ending: '' });
    expect(whole.candidates[0]?.probability).toBeGreaterThan(0.95);
  });

  it('takes what many stems share for an ending, and what only one has hardly', () => {
    const numbers = [
      ...Array.from({ length: 60 }, (_, at) => `KX ${1000 + at * 7}/${(at % 3) + 1}`),
      ...Array.from({ length: 60 }, (_, at) => `LM ${1000 + at * 7}-${100 + at}`),
    ];
    const stems = stemsOf(
      wordListOf(numbers.map((number) => codesOf(normaliseNumber(number)))),
      numbers.map((number) => model(number)),
    );
    expect(stems[0]?.[0]?.leftOff).toBeGreaterThan(3 * (stems[60]?.[0]?.leftOff ?? 1));
    for (const own of stems) expect(own.reduce((sum, { leftOff }) => sum + leftOff, 0)).toBeLessThan(1);
  });

  it('knows a family as one finds it by comparing every number with every other', () => {
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[AB]{1,2}[-/]?[01]{2,4}[-/ ]?[AB01]{0,4}$/), { minLength: 2, maxLength: 25 }),
        (numbers) => {
          const plain = numbers.map(normaliseNumber);
          const stems = stemsOf(
            wordListOf(plain.map(codesOf)),
            numbers.map((number) => model(number)),
          );
          stems.forEach((own, at) => {
            for (const { length, leftOff } of own) {
              const stem = plain[at]?.slice(0, length) ?? '';
              const going = plain.filter(
                (other, index) => other.startsWith(stem) && stems[index]?.some((one) => one.length === length),
              );
              // Seen as an ending for certain, or doubted.
              expect(leftOff > 0.19, `${numbers[at]} after ${length} of ${numbers.join(', ')}`).toBe(
                new Set(going).size > 1 || plain.includes(stem),
              );
            }
          });
        },
      ),
      { numRuns: 300 },
    );
  });

  it('finds the separators at their places in the plain number', () => {
    expect([...separatorsIn('TK 61-408/2')]).toEqual([
      [2, ' '],
      [4, '-'],
      [7, '/'],
    ]);
  });
});

describe('a reading that is kept', () => {
  it('says afterwards what it said: the same numbers, chances, endings and places that differ', () => {
    fc.assert(
      fc.property(families, fc.nat(), fc.constantFrom('whole', 'stem', 'slip'), (drawn, at, how) => {
        const listed = listing(drawn);
        const number = listed[at % listed.length]?.modelNumber ?? '';
        const text =
          how === 'stem' ? number.slice(0, 6) : how === 'slip' ? number.slice(0, 3) + number.slice(4) : number;
        const { candidates, unknown } = readPlate(buildModelIndex(listed), text);
        const again = keptReading(text, candidates, unknown);
        expect(again.unknown).toBe(unknown);
        expect(
          again.candidates.reduce((sum, { probability }) => sum + probability, unknown + again.unlisted),
        ).toBeCloseTo(1, 9);
        for (const [rank, candidate] of candidates.entries()) {
          const { modelNumber, probability, ending } = again.candidates[rank] ?? candidate;
          expect({ modelNumber, probability }).toEqual({
            modelNumber: candidate.modelNumber,
            probability: candidate.probability,
          });
          if (how === 'stem' && modelNumber.startsWith(text)) expect(ending).toBe(candidate.ending);
        }
      }),
      { numRuns: 100 },
    );
  });
});

describe('popularity', () => {
  it('is relative: times any constant it changes nothing', () => {
    fc.assert(
      fc.property(families, fc.double({ min: 1e-6, max: 1e6, noNaN: true }), fc.nat(), (drawn, times, at) => {
        const listed = listing(drawn);
        const scaled = listed.map((one) => ({ ...one, popularity: one.popularity * times }));
        const number = listed[at % listed.length]?.modelNumber ?? '';
        const text = number.slice(0, 3) + number.slice(4);
        const [one, other] = [readPlate(buildModelIndex(listed), text), readPlate(buildModelIndex(scaled), text)];
        expect(other.unknown).toBeCloseTo(one.unknown, 4);
        for (const { modelId, probability } of one.candidates)
          expect(other.candidates.find((entry) => entry.modelId === modelId)?.probability ?? 0).toBeCloseTo(
            probability,
            4,
          );
      }),
      { numRuns: 100 },
    );
  });

  it('may be nought for all, and is then alike for all', () => {
    const index = buildModelIndex([model('TK 6140', 0), model('TK 6150', 0)]);
    const { candidates } = readPlate(index, 'TK 61?0');
    expect(candidates[0]?.probability).toBeCloseTo(candidates[1]?.probability ?? 0, 6);
  });
});

describe('several slips', () => {
  const random = seededRandom(12);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const listed = Array.from({ length: 400 }, () =>
    model(
      `${pick(['KR', 'TB', 'LS'])} ${1000 + Math.floor(random() * 9000)}${pick(['B', 'G', 'S', ''])}${pick(['', '5', '8'])}`,
    ),
  );
  const index = buildModelIndex(listed);
  const EYE: Record<string, string> = {
    B: '8',
    '8': 'B',
    S: '5',
    '5': 'S',
    G: '6',
    '6': 'G',
    '0': 'O',
    '1': 'I',
    '2': 'Z',
  };
  const slipped = (number: string, count: number) => {
    const out = [...normaliseNumber(number)];
    const places = out.map((_, at) => at).filter((at) => EYE[out[at] ?? ''] !== undefined);
    for (let left = count; left > 0 && places.length > 0; left -= 1) {
      const [at = 0] = places.splice(Math.floor(random() * places.length), 1);
      out[at] = EYE[out[at] ?? ''] ?? '';
    }
    return out.join('');
  };

  it('of one kind are still read, where one listed number explains them and the next is far off', () => {
    const readings = listed
      .slice(0, 150)
      .map(({ id, modelNumber }) => ({ id, reading: readPlate(index, slipped(modelNumber, 2)) }));
    const right = readings.filter(({ id, reading }) => reading.candidates[0]?.modelId === id && reading.unknown < 0.5);
    expect(right.length / readings.length).toBeGreaterThan(0.85);
  });

  it('never make a wrong answer surer, on average, than fewer do', () => {
    const wrongAt = (count: number) => {
      const wrong = listed.slice(0, 200).map(({ id, modelNumber }) => {
        const [lead] = readPlate(index, slipped(modelNumber, count)).candidates;
        return lead && lead.modelId !== id ? lead.probability : 0;
      });
      return wrong.reduce((sum, p) => sum + p, 0) / wrong.length;
    };
    const sure = [1, 2, 3].map((count) => wrongAt(count));
    expect(Math.max(...sure)).toBeLessThan(0.06);
  });

  it('keep the probabilities summing to one with none of these', () => {
    fc.assert(
      fc.property(fc.nat(399), fc.nat(3), (at, count) => {
        const { candidates, unknown, unlisted } = readPlate(index, slipped(listed[at]?.modelNumber ?? '', count));
        expect(candidates.reduce((sum, { probability }) => sum + probability, unknown + unlisted)).toBeCloseTo(1, 9);
      }),
      { numRuns: 60 },
    );
  });
});

describe('where to look on a plate whose ending was left off', () => {
  const family = [
    { modelNumber: 'MT1-920 T', probability: 0.45 },
    { modelNumber: 'MT1-920 V', probability: 0.32 },
    { modelNumber: 'MT1-920 U', probability: 0.19 },
  ];

  it('is behind the stem, though a number with a slip may be it as well', () => {
    expect(toCompare('mt1 920', [...family, { modelNumber: 'MT1-930 V', probability: 0.015 }])).toMatchObject({
      kind: 'ending',
      stem: 'MT1-920',
      endings: [{ ending: 'T' }, { ending: 'V' }, { ending: 'U' }],
    });
  });

  it('is the character, where another number is as likely as one of the family', () => {
    const doubtful = [...family.slice(0, 2), { modelNumber: 'MT1-930 V', probability: 0.2 }];
    expect(toCompare('mt1 920', doubtful)?.kind).toBe('character');
  });
});
