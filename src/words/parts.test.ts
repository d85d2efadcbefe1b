import { asDay, asId, defined, type PartId, type ModelId, type PlatformId } from '@/core/units';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../tests/support/demo';
import {
  crossReference,
  partsFor,
  type CrossReferenceProblem,
  type DimensionVerdict,
  type FitReason,
} from '@/core/fit';
import {
  checkInWords,
  crossProblemWords,
  differenceWords,
  dimensionWords,
  fitReasonWords,
  formatPercent,
  lineStatusWords,
  noticeWords,
  oldNumberWords,
  seatWords,
  sizeCheckWords,
  suffixWords,
  tableWords,
} from '.';

const catalogue = demoCatalogue();
const numberOf = new Map(catalogue.parts.map(({ id, partNumber }) => [id, partNumber]));
const names = {
  model: (id: ModelId) => catalogue.models.find((model) => model.id === id)?.modelNumber ?? `(${id})`,
  part: (id: PartId) => numberOf.get(id) ?? `(${id})`,
  platform: (id: PlatformId) => catalogue.platforms.find((platform) => platform.id === id)?.name ?? `(${id})`,
};
const BROKEN = /undefined|null|NaN|\[object|\(\)|, ,/;

describe('why a number is offered, in words', () => {
  it('is said of every offered number of the demo, link by link, by names and never by keys', () => {
    const kinds = new Set<FitReason['kind']>();
    for (const model of catalogue.models.filter((_, index) => index % 9 === 0))
      for (const role of catalogue.roles)
        for (const position of ['any', 'front'] as const)
          for (const { reasons } of partsFor(catalogue, {
            models: [{ modelId: model.id, probability: 1 }],
            roleId: role.id,
            position,
            today: asDay('2026-11-24'),
          }).candidates)
            for (const reason of reasons) {
              kinds.add(reason.kind);
              expect(fitReasonWords(reason, names)).not.toMatch(BROKEN);
              expect(fitReasonWords(reason, names).length).toBeGreaterThan(5);
            }
    expect([...kinds]).toEqual(expect.arrayContaining(['listed-for-model', 'listed-for-platform', 'superseded']));
  });

  it('names the dates and the source of a supersession, as far as there are some', () => {
    const [from, to] = catalogue.parts;
    const reason: Extract<FitReason, { kind: 'superseded' }> = {
      kind: 'superseded',
      fromPartId: from?.id ?? asId('none'),
      toPartId: to?.id ?? asId('none'),
      source: 'maker bulletin 7',
    };
    const said = `${from?.partNumber} is now ${to?.partNumber}`;
    expect(fitReasonWords(reason, names)).toBe(`${said} (maker bulletin 7)`);
    expect(fitReasonWords({ ...reason, builtFrom: asDay('2019-05-01'), builtTo: asDay('2020-01-31') }, names)).toBe(
      `${said} (maker bulletin 7, built from 2019-05-01, built up to 2020-01-31)`,
    );
    expect(fitReasonWords({ kind: 'serial-within', builtFrom: null, builtTo: asDay('2019-04-30') }, names)).toContain(
      'until 2019-04-30',
    );
    expect(fitReasonWords({ kind: 'serial-open', builtFrom: asDay('2019-05-01'), builtTo: null }, names)).toContain(
      'compare in the hand',
    );
  });

  it('says of every problem of a cross-reference what to do', () => {
    const problems = new Map<CrossReferenceProblem['kind'], CrossReferenceProblem>();
    for (const part of catalogue.parts)
      for (const problem of crossReference(catalogue, part.id).problems) problems.set(problem.kind, problem);
    expect(problems.size).toBeGreaterThan(0);
    for (const problem of problems.values()) expect(crossProblemWords(problem, names.part)).not.toMatch(BROKEN);
    const [first] = catalogue.parts;
    const partId = first?.id ?? asId('none');
    const all: CrossReferenceProblem[] = [
      { kind: 'circle', partIds: [partId] },
      { kind: 'dead-end', partId },
      { kind: 'missing-part', partId },
      { kind: 'sources-disagree', partId, successors: [partId] },
    ];
    const said = all.map((problem) => crossProblemWords(problem, names.part));
    expect(new Set(said).size).toBe(4);
    for (const words of said.filter((_, index) => index !== 2)) expect(words).toContain(first?.partNumber);
    expect(said[0]).toContain('not followed');
    expect(said[1]).toContain('look for a donor');
  });
});

describe('what the caliper says, in words', () => {
  const dimension: DimensionVerdict = {
    key: 'bore',
    label: 'Bore',
    unit: 'mm',
    old: '20',
    candidate: '22',
    reason: 'out-of-tolerance',
    verdict: 'does-not-fit',
    work: null,
  } as unknown as DimensionVerdict;
  it('gives both sizes where they differ, and what is missing where one is', () => {
    expect(dimensionWords(dimension)).toBe('20 → 22 mm: out of tolerance');
    expect(dimensionWords({ ...dimension, candidate: null, reason: 'candidate-not-listed' })).toContain(
      'ask the supplier',
    );
    expect(dimensionWords({ ...dimension, old: null, reason: 'old-not-measured' })).toBe('measure the old part');
    expect(dimensionWords({ ...dimension, reason: 'same' })).toBe('the same');
  });
  it('never offers a way round a rating', () => {
    expect(dimensionWords({ ...dimension, reason: 'rating-breached' })).toContain('no way round a rating');
  });
});

describe('a number that was read otherwise, in words', () => {
  const [replaced, left, extra, torn] = [
    { index: 3, listed: '8', read: 'B' },
    { index: 4, listed: '1', read: '' },
    { index: 4, listed: '', read: '7' },
    { index: 0, listed: 'A', read: '?' },
  ];
  it('counts characters as a person does, without separators', () => {
    expect(differenceWords('A-2817', [replaced])).toBe('3rd character: 8, read as B');
    expect(differenceWords('A-2817', [left])).toBe('4th character, 1, is left out');
    expect(differenceWords('A-2817', [extra, torn])).toBe('one 7 too many and 1st character is not readable');
  });
  it('asks for another look before anything is sent back', () => {
    const misread = { partNumber: 'A-2817', differences: [replaced], probability: 0.9 };
    expect(checkInWords({ reason: 'unknown-number', misread })).toBe(
      `no known number for this part. It is A-2817 but for this: 3rd character: 8, read as B. Look again at that place: ${formatPercent(0.9)} likely that it is only misread`,
    );
    expect(checkInWords({ reason: 'supersession', misread: null })).toContain('fine');
  });
  it('says of the number on an old part where it leads, or that nothing does', () => {
    const part = defined(demoCatalogue().parts[0], 'a part');
    const lead = { part, probability: 0.97, differences: [], ledTo: true };
    const old = { text: 'x', candidates: [lead], unknown: 0.03, unread: 0, noRoute: 0.03 };
    expect(oldNumberWords(old)).toEqual({
      tone: 'sound',
      text: `The lists lead from this machine to ${part.partNumber}.`,
    });
    expect(
      oldNumberWords({ ...old, candidates: [{ ...lead, probability: 0.7, differences: [replaced] }], unknown: 0.3 }),
    ).toMatchObject({ tone: 'doubt', text: expect.stringMatching(/if it was misread .*, 70.% likely/) });
    const foreign = oldNumberWords({ ...old, candidates: [{ ...lead, ledTo: false }], noRoute: 1 });
    expect(foreign.text).toMatch(/nothing leads from this machine to it.*earlier repair/);
    expect(oldNumberWords({ ...old, candidates: [], unknown: 1, noRoute: 1 }).text).toMatch(/No list .*earlier repair/);
    expect(oldNumberWords({ ...old, candidates: [], unknown: 0.1, unread: 0.9 }).text).toMatch(/type it/);
  });
  it('says of a size in the hand that it is right, or what it is instead', () => {
    const size = { verdict: 'fits', old: '20', candidate: '20.02', unit: 'mm' } as DimensionVerdict;
    expect(sizeCheckWords(size)).toBe('as it should be');
    expect(sizeCheckWords({ ...size, verdict: 'does-not-fit', candidate: '22' })).toBe('22 instead of 20 mm');
    expect(sizeCheckWords({ ...size, verdict: 'unknown', candidate: 'x' })).toBe('not a figure');
  });
});

describe('other verdicts in words', () => {
  it('name a worn seat’s limit, and what is mended instead of the bearing', () => {
    const seat = { seat: 'journal', limitMm: 24.995, instead: 'spider' } as const;
    const say = (verdict: 'sound' | 'worn' | 'measure-finer') =>
      seatWords({ ...seat, verdict } as Parameters<typeof seatWords>[0]);
    expect(say('sound')).toBe('shaft journal sound (at least 24.995 mm)');
    expect(say('worn')).toContain('Price the spider');
    expect(say('measure-finer')).toContain('micrometer');
  });
  it('know seals, shields and clearances', () => {
    expect(suffixWords('6205-2RS C3')).toMatch(/^Rubbing seals on both sides: suits a washer; clearance C3/);
    expect(suffixWords('6205 ZZ')).toMatch(/not for a drum/);
    expect(suffixWords('6205')).toMatch(/not for a drum/);
  });
  it('count what an import noticed', () => {
    expect(
      noticeWords({ kind: 'dead-end', count: 1, samples: [] } as unknown as Parameters<typeof noticeWords>[0]),
    ).toContain('1 part number)');
    expect(tableWords('part_properties')).toBe('Part properties');
  });
  it('say of an order line what the supplier said', () => {
    const line = { status: 'substituted', note: null, answeredNumber: 'B-2' } as unknown as Parameters<
      typeof lineStatusWords
    >[0];
    expect(lineStatusWords(line)).toBe('comes as B-2');
    expect(lineStatusWords({ ...line, status: 'back-ordered' })).toBe('on back-order');
    expect(lineStatusWords({ ...line, status: 'rejected', note: 'not sold singly' })).toBe('refused: not sold singly');
  });
});
