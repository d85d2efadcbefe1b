import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import type { SerialScheme } from '../catalogue';
import { daysBetween, seededRandom, asDay, asId, defined, type MakerId, type PlatformId, type ModelId } from '../units';
import {
  buildModelIndex,
  buildNumberList,
  nearNumbers,
  normaliseNumber,
  readPlate,
  readSerial,
  sortInput,
  type InputContext,
  type InputSources,
} from '.';
import { MODES } from './plate/channel';
import { logLikelihood } from './plate/likelihood';
import { rereadsOf } from './plate/rereads';
import { codesOf, SYMBOL_COUNT } from './plate/symbols';
import { bestPriorOf, endsWord, firstChildOf, nextSisterOf, wordEndingAt } from './plate/trie';
import { stretchesOf } from './plate/windows';
import { wordCount } from './plate/wordList';

const models = demoCatalogue().models;
const index = buildModelIndex(models);
const anyModel = fc.constantFrom(...models);

describe('reading a plate', () => {
  it('finds every listed number as it stands there, whatever the case and the separators', () => {
    fc.assert(
      fc.property(anyModel, fc.constantFrom('', ' ', '-', '.', ' / '), fc.boolean(), (model, separator, lower) => {
        const plain = normaliseNumber(model.modelNumber);
        const text = [...(lower ? plain.toLowerCase() : plain)].join(separator);
        expect(readPlate(index, text).candidates[0]?.modelId).toBe(model.id);
      }),
    );
  });

  it('gives probabilities that sum to one with none of these', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 30 }), (text) => {
        const { candidates, unknown, unlisted } = readPlate(index, text);
        const total = candidates.reduce((sum, candidate) => sum + candidate.probability, unknown + unlisted);
        expect(total).toBeCloseTo(1, 6);
        for (let place = 1; place < candidates.length; place += 1)
          expect(candidates[place]?.probability).toBeLessThanOrEqual((candidates[place - 1]?.probability ?? 0) + 1e-12);
      }),
    );
  });

  it('says none of these for what no catalogue lists', () => {
    for (const text of ['', 'WKX 9931-QQ/7', 'WASHING MACHINE 230V 50HZ', '12345678901234567890'])
      expect(readPlate(index, text).unknown, text).toBeGreaterThan(0.9);
  });

  it('marks the characters that differ, in the number as printed', () => {
    const { candidates } = readPlate(index, 'VB 61-4O7/2');
    expect(candidates[0]?.modelNumber).toBe('VB 61-407/2');
    expect(candidates[0]?.differences).toEqual([{ index: 7, listed: '0', read: 'O' }]);
  });

  it('takes a suffix left off for left off, and names what settles it', () => {
    const { candidates } = readPlate(index, 'VB 61-407');
    expect(candidates[0]?.ending).not.toBe('');
    expect(candidates[0]?.modelNumber.startsWith('VB 61-407')).toBe(true);
    const twins = ['AB 1234/1', 'AB 1234/2', 'CD 5678/1'].map((modelNumber, index) => ({
      id: asId<ModelId>(`t${index}`),
      modelNumber,
      makerId: asId<MakerId>('m'),
      platformId: asId<PlatformId>('p'),
      popularity: 1,
    }));
    const open = readPlate(buildModelIndex(twins), 'AB 1234');
    expect(
      open.candidates
        .slice(0, 2)
        .map((candidate) => candidate.modelId)
        .sort(),
    ).toEqual(['t0', 't1']);
    expect(open.rereads[0]).toMatchObject({ position: 8, character: 7 });
    expect([...(open.rereads[0]?.choices ?? [])].slice(0, 2).sort()).toEqual(['1', '2']);
  });

  it('finds the number in the whole text of a plate', () => {
    const text = 'VESSBY\nMod. VB 61-407/2\nS/N H20K40931\n230V ~ 50Hz 2100W\nMade in port';
    expect(readPlate(index, text).candidates[0]?.modelNumber).toBe('VB 61-407/2');
  });

  it('weighs what this shop sees', () => {
    const unread = normaliseNumber('NR 11?5 B');
    const plain = readPlate(index, unread);
    const second = plain.candidates[1];
    if (!second) throw new Error('the demo has siblings that only this character tells apart');
    const shop = readPlate(index, unread, { shopCounts: new Map([[second.modelId, 200]]) });
    const share = (reading: typeof plain) =>
      reading.candidates.find((entry) => entry.modelId === second.modelId)?.probability ?? 0;
    expect(share(shop)).toBeGreaterThan(share(plain));
  });

  it('lets one more true character never lower the truth’s rank', () => {
    const random = seededRandom(12);
    let tested = 0;
    for (let i = 0; i < 60; i += 1) {
      const model = models[Math.floor(random() * models.length)];
      if (!model) continue;
      const plain = normaliseNumber(model.modelNumber);
      const place = Math.floor(random() * plain.length);
      const rankOf = (text: string) => {
        const { candidates } = readPlate(index, text, { maxCandidates: 100 });
        const rank = candidates.findIndex((candidate) => candidate.modelId === model.id);
        return rank < 0 ? 1000 : rank;
      };
      const torn = `${plain.slice(0, place)}?${plain.slice(place + 1)}`;
      expect(rankOf(plain), plain).toBeLessThanOrEqual(rankOf(torn));
      tested += 1;
    }
    expect(tested).toBe(60);
  });

  it('is empty for an empty catalogue', () => {
    expect(readPlate(buildModelIndex([]), 'VB 61-407/2')).toMatchObject({ candidates: [], unknown: 1 });
  });
});

const scheme = (pattern: string, yearSymbols: string, firstYear: number): SerialScheme => ({
  id: 's',
  makerId: asId<MakerId>('m'),
  pattern,
  yearSymbols,
  firstYear,
  note: undefined,
});

describe('reading a serial', () => {
  const letters = [scheme('YWWP####', 'ABCDEFGHJK', 2004)];

  it('gives the week, one window per cycle of the letters that production leaves open', () => {
    const open = readSerial(letters, asId('m'), 'B12K0001', { today: asDay('2026-11-24') });
    expect(open.candidates.map((window) => window.builtFrom)).toEqual(['2025-03-17', '2015-03-16', '2005-03-21']);
    expect(open.candidates.reduce((sum, window) => sum + window.probability, 0)).toBeCloseTo(1);
    const settled = readSerial(letters, asId('m'), 'b12k-0001', {
      today: asDay('2026-11-24'),
      producedFrom: asDay('2012-01-01'),
      producedTo: asDay('2018-12-31'),
    });
    expect(settled.candidates).toEqual([{ builtFrom: '2015-03-16', builtTo: '2015-03-22', probability: 1 }]);
  });

  it('says what is wrong with one that cannot be', () => {
    const kind = (serial: string, more = {}) =>
      readSerial(letters, asId('m'), serial, { today: asDay('2026-11-24'), ...more }).problems[0]?.kind;
    expect(kind('B12K001')).toBe('does-not-match');
    expect(kind('Z12K0001')).toBe('does-not-match');
    expect(kind('B77K0001')).toBe('week-out-of-range');
    expect(kind('B12K0001', { producedFrom: '2019-01-01', producedTo: '2020-12-31' })).toBe('outside-production');
    expect(readSerial(letters, asId('unknown'), 'B12K0001', { today: asDay('2026-11-24') }).problems[0]?.kind).toBe(
      'no-scheme',
    );
    const checked = [scheme('YYWW##C', '0405060708', 2004)];
    expect(readSerial(checked, asId('m'), '0612341', { today: asDay('2026-11-24') }).problems[0]?.kind).toBe(
      'check-digit-wrong',
    );
    expect(readSerial(checked, asId('m'), '0612346', { today: asDay('2026-11-24') }).candidates.length).toBeGreaterThan(
      0,
    );
  });

  it('never builds a machine in the future, and weeks are seven days', () => {
    fc.assert(
      fc.property(fc.constantFrom(...'ABCDEFGHJK'), fc.integer({ min: 1, max: 52 }), (letter, week) => {
        const serial = `${letter}${String(week).padStart(2, '0')}K0001`;
        for (const window of readSerial(letters, asId('m'), serial, { today: asDay('2026-11-24') }).candidates) {
          expect(window.builtFrom <= '2026-11-24').toBe(true);
          expect(daysBetween(window.builtFrom, window.builtTo)).toBeLessThanOrEqual(6);
        }
      }),
    );
  });
});

describe('sorting an input', () => {
  const catalogue = demoCatalogue();
  const parts = new Map(catalogue.parts.map((part) => [normaliseNumber(part.partNumber), [part]]));
  const { list: partList, order } = buildNumberList(
    catalogue.parts.map(({ partNumber }) => ({ number: partNumber, words: '' })),
  );
  const sources: InputSources = {
    readPlate: (text, sure) => readPlate(index, text, { sure }),
    partsByNumber: (number) => parts.get(number) ?? [],
    partsNear: (number) => nearNumbers(partList, number).flatMap((index) => catalogue.parts[order[index] ?? -1] ?? []),
    tickets: [{ id: asId('t-201'), number: 201 }],
    orders: [{ id: asId('o-1'), number: 'HW-41' }],
  };
  const context: InputContext = {
    today: asDay('2026-11-24'),
    makerId: asId<MakerId>('fjordal'),
    schemes: catalogue.serial_schemes,
    codes: catalogue.codes.filter((code) => code.makerId === 'fjordal'),
    findings: catalogue.findings,
  };
  const first = (text: string) => sortInput(sources, text, context)[0];

  it.each([
    ['VB 61-407/2', 'model'],
    ['FJ-2033-90', 'part'],
    ['H20K40931', 'serial'],
    ['e21', 'code'],
    ['20x47x14', 'bearing'],
    ['6204 2RS', 'bearing'],
    ['25x47x8', 'size'],
    ['#201', 'ticket'],
    ['hw-41', 'order'],
    ['will not spin', 'finding'],
  ])('takes %s for a %s', (text, kind) => {
    expect(first(text)?.kind).toBe(kind);
  });

  it('takes a part number with a slip for the part, and says which character', () => {
    const [part] = parts.get('FJ203390') ?? [];
    expect(part).toBeDefined();
    for (const text of ['FJ-2033-9O', 'FJ-203390 0', 'FJ203?90', 'FJ-2303-90']) {
      const found = sortInput(sources, text, context).find(
        (reading) => reading.kind === 'part' && reading.partId === part?.id,
      );
      expect(found?.kind === 'part' ? found.differences.length : 0, text).toBeGreaterThan(0);
    }
    const exact = sortInput(sources, 'fj 2033 90', context).filter(({ kind }) => kind === 'part');
    expect(exact).toEqual([expect.objectContaining({ partId: part?.id, differences: [] })]);
  });

  it('beside a machine knows its parts through several slips, and says on which of them it stands', () => {
    const [part] = parts.get('FJ203390') ?? [];
    const { id, partNumber, roleId } = defined(part, 'the part');
    const onMachine = [{ partId: id, partNumber, roleId, prior: 0.5 }];
    for (const text of ['FJ 2033 9O', 'FJ-2O33-9O', 'P/N FJ2O33-9O', 'FJ-2033-90']) {
      const [lead] = sortInput(sources, text, { ...context, onMachine });
      expect(lead, text).toMatchObject({ kind: 'part', partId: id, roleId });
    }
    // Without the machine two slips are too many.
    expect(
      sortInput(sources, 'FJ-2O33-9O', context).some((reading) => reading.kind === 'part' && reading.partId === id),
    ).toBe(false);
    const other = sortInput(sources, 'FJ-2033-90', { ...context, onMachine: [] });
    expect(other[0]).toMatchObject({ kind: 'part', roleId: null });
  });

  it('puts none of the listed models where its chance stands, with it; never before what the text is as well', () => {
    const found = sortInput(sources, 'VB 61-407/3', context);
    const unknown = readPlate(index, 'VB 61-407/3').unknown;
    expect(found.find(({ kind }) => kind === 'unlisted')).toMatchObject({ probability: unknown });
    const chances = found.flatMap((reading) =>
      reading.kind === 'model' || reading.kind === 'unlisted' ? [reading.probability] : [],
    );
    expect(chances.length).toBeGreaterThan(1);
    expect(chances).toEqual([...chances].sort((a, b) => b - a));
    for (const text of ['H20K40931', 'FJ-2033-90', '6204 2RS'])
      expect(
        sortInput(sources, text, context).some(({ kind }) => kind === 'unlisted'),
        text,
      ).toBe(false);
  });

  it('believes a picture as far as its reader was sure', () => {
    const chance = (sure: number) =>
      sortInput(sources, 'VB 61-4O8/3', { ...context, sure }).find(({ kind }) => kind === 'unlisted');
    expect(chance(0.95)).toMatchObject({ probability: readPlate(index, 'VB 61-4O8/3', { sure: 0.95 }).unknown });
  });

  it('ranks by weight, and takes nothing for nothing', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 20 }), (text) => {
        const weights = sortInput(sources, text, context).map((reading) => reading.weight);
        expect(weights).toEqual([...weights].sort((a, b) => b - a));
        for (const weight of weights) expect(weight).toBeLessThanOrEqual(1);
      }),
    );
    expect(sortInput(sources, '  ', context)).toEqual([]);
    expect(sortInput(sources, '---', context)).toEqual([]);
  });
});

describe('the search behind it', () => {
  const random = seededRandom(31);
  const some = Array.from({ length: 40 }, () => models[Math.floor(random() * models.length)] ?? models[0]);

  it('finds what weighing every number one by one finds', () => {
    let tested = 0;
    for (const model of some) {
      if (!model) continue;
      const plain = [...normaliseNumber(model.modelNumber)];
      const place = Math.floor(random() * plain.length);
      plain[place] = random() < 0.5 ? '?' : String(Math.floor(random() * 10));
      const read = codesOf(plain.join(''));
      const all = models
        .map((entry) => ({
          id: entry.id,
          log: logLikelihood(codesOf(normaliseNumber(entry.modelNumber)), read) + Math.log(entry.popularity + 0.25),
        }))
        .sort((a, b) => b.log - a.log);
      const found = readPlate(index, plain.join(''));
      // Suffixes left off aside, the best of all must be the best found, whenever it is worth finding.
      if (found.candidates[0]?.ending || found.unknown > 0.5) continue;
      expect(found.candidates[0]?.modelId, plain.join('')).toBe(all[0]?.id);
      tested += 1;
    }
    expect(tested).toBeGreaterThan(15);
  });

  it('has each number of both tries once, and every subtree’s best prior', () => {
    for (const trie of [index.forward, index.backward]) {
      const ends = Array.from({ length: trie.size }, (_, node) => node).filter((node) => endsWord(trie, node));
      expect(ends.map((node) => wordEndingAt(trie, node)).sort((a, b) => a - b)).toEqual(ends.map((_, index) => index));
      expect(ends.length).toBe(wordCount(index.words));
      for (let node = -1; node < trie.size; node += 1)
        for (let child = firstChildOf(trie, node); child >= 0; child = nextSisterOf(trie, child)) {
          expect(child).toBeGreaterThan(node);
          if (node >= 0) expect(bestPriorOf(trie, child)).toBeLessThanOrEqual(bestPriorOf(trie, node));
        }
    }
  });

  it('gives a channel whose rows are probabilities', () => {
    for (const mode of MODES)
      for (let truth = 0; truth < SYMBOL_COUNT; truth += 1) {
        const row = mode.substitution.subarray(truth * (SYMBOL_COUNT + 1), (truth + 1) * (SYMBOL_COUNT + 1));
        const total = row.reduce((sum, p) => sum + p, 0) + mode.drop + mode.swap;
        expect(total).toBeCloseTo(1, 6);
        for (const p of row) expect(p).toBeGreaterThanOrEqual(0);
      }
    expect(MODES.reduce((sum, mode) => sum + mode.share, 0)).toBeCloseTo(1, 9);
  });

  it('takes an edge that is torn off for as likely at the end as at the begin, and four characters for gone', () => {
    const truth = codesOf('KM88439P');
    const log = (read: string) => logLikelihood(truth, codesOf(read));
    expect(log('KM88439')).toBeCloseTo(log('M88439P'), 0);
    expect(log('KM8843')).toBeGreaterThan(log('KM8839P') - 1);
    expect(log('KM88')).toBeLessThan(log('KM884') - 4);
    expect(log('KM88439P')).toBeGreaterThan(log('KM88439'));
  });

  it('can be stored and sent as it is', () => {
    const copy = structuredClone(index);
    expect(readPlate(copy, 'VB 61-4O7/2')).toEqual(readPlate(index, 'VB 61-4O7/2'));
  });
});

describe('where to look again', () => {
  it('names the character that settles most, with what it decides', () => {
    const rereads = rereadsOf([
      { modelNumber: 'QM10-08 B', probability: 0.5 },
      { modelNumber: 'QM10-0B B', probability: 0.3 },
      { modelNumber: 'QM11-08 B', probability: 0.2 },
    ]);
    expect(rereads[0]).toMatchObject({ position: 6, character: 6, choices: ['8', 'B'] });
    expect(rereads[1]).toMatchObject({ position: 3, character: 4, choices: ['0', '1'] });
    expect(rereads[0]?.bits).toBeGreaterThan(rereads[1]?.bits ?? 0);
    for (const { settles } of rereads) expect(settles).toBeLessThanOrEqual(1);
    expect(rereads[0]?.settles).toBeGreaterThan(0.5);
  });
  it('does not send to every place because one sibling is longer', () => {
    const rereads = rereadsOf([
      { modelNumber: 'QM100', probability: 0.6 },
      { modelNumber: 'QM1001', probability: 0.4 },
    ]);
    expect(rereads.length).toBeLessThanOrEqual(1);
  });
  it('says nothing where nothing is in doubt', () => {
    expect(rereadsOf([{ modelNumber: 'QM100', probability: 1 }])).toEqual([]);
  });
});

describe('stretches of a text', () => {
  it('always count the whole, and sum to at most one', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('VB', '61-407/2', 'Model', 'S/N', '230V', '\n', 'X9', '?', 'Made'), { maxLength: 14 }),
        (words) => {
          const stretches = stretchesOf(words.join(' '));
          const total = stretches.reduce((sum, stretch) => sum + Math.exp(stretch.log), 0);
          expect(total).toBeLessThanOrEqual(1 + 1e-9);
          const whole = normaliseNumber(words.join(' '));
          if (whole.length > 0 && whole.length <= 40)
            expect(stretches.some((stretch) => stretch.text === whole)).toBe(true);
        },
      ),
    );
  });
});
