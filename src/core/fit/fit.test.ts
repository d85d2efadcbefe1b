import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { emptyCatalogue, type Fit, type Part, type Relation, type RoleProperty } from '../catalogue';
import {
  addDays,
  daysBetween,
  asDay,
  type PartId,
  asId,
  type PlatformId,
  type MakerId,
  type ModelId,
  type RoleId,
  defined,
} from '../units';
import { compareParts, crossReference, partsFor, partsOfModel } from '.';

const part = (id: PartId, more: Partial<Part> = {}): Part => ({
  id,
  partNumber: id.toUpperCase(),
  makerId: asId<MakerId>('m'),
  roleId: asId<RoleId>('pump'),
  description: id,
  kind: 'maker',
  status: 'current',
  ...more,
});
let count = 0;
const relation = (
  fromPartId: PartId,
  toPartId: PartId,
  kind: Relation['kind'] = 'superseded-by',
  more: Partial<Relation> = {},
): Relation => ({
  id: `x${(count += 1)}`,
  fromPartId,
  toPartId,
  kind,
  quantity: 1,
  source: 'list',
  note: undefined,
  builtFrom: undefined,
  builtTo: undefined,
  ...more,
});
const world = (parts: Part[], relations: Relation[]) => ({ ...emptyCatalogue(), parts, relations });

describe('cross-reference', () => {
  it('follows a chain to what is sold today, from wherever one begins', () => {
    const ids = ['a', 'b', 'c', 'd'].map((id) => asId<PartId>(id));
    const chain = world(
      ids.map((id) => part(id)),
      [relation(asId('a'), asId('b')), relation(asId('b'), asId('c')), relation(asId('c'), asId('d'))],
    );
    for (const id of ids) expect(crossReference(chain, id).soldToday?.parts).toEqual([{ partId: 'd', quantity: 1 }]);
    expect(crossReference(chain, asId('a')).soldToday?.via.map((step) => step.toPartId)).toEqual(['b', 'c', 'd']);
  });

  it('is transitive: what the successor is sold as, the part is sold as', () => {
    const catalogue = demoCatalogue();
    let tested = 0;
    for (const step of catalogue.relations.filter((entry) => entry.kind === 'superseded-by')) {
      const alone =
        catalogue.relations.filter((entry) => entry.kind === 'superseded-by' && entry.fromPartId === step.fromPartId)
          .length === 1;
      if (!alone) continue;
      expect(crossReference(catalogue, step.fromPartId).soldToday?.parts).toEqual(
        crossReference(catalogue, step.toPartId).soldToday?.parts,
      );
      tested += 1;
    }
    expect(tested).toBeGreaterThan(50);
  });

  it('buys a split whole and merges to one', () => {
    const split = world(
      [part(asId('a')), part(asId('b')), part(asId('c'))],
      [relation(asId('a'), asId('b')), relation(asId('a'), asId('c'), 'superseded-by', { quantity: 2 })],
    );
    expect(crossReference(split, asId('a')).soldToday?.parts).toEqual([
      { partId: asId<PartId>('b'), quantity: 1 },
      { partId: asId<PartId>('c'), quantity: 2 },
    ]);
    const merge = world(
      [part(asId('a')), part(asId('b')), part(asId('c'))],
      [relation(asId('a'), asId('c')), relation(asId('b'), asId('c'))],
    );
    expect(crossReference(merge, asId('a')).soldToday?.parts).toEqual(
      crossReference(merge, asId('b')).soldToday?.parts,
    );
  });

  it('stops at circles, dead ends and missing parts, and says which', () => {
    const circle = world(
      [part(asId('a')), part(asId('b'))],
      [relation(asId('a'), asId('b')), relation(asId('b'), asId('a'))],
    );
    expect(crossReference(circle, asId('a'))).toMatchObject({
      soldToday: null,
      problems: [{ kind: 'circle', partIds: ['a', 'b', 'a'] }],
    });
    const dead = world([part(asId('a'), { status: 'discontinued' })], []);
    expect(crossReference(dead, asId('a'))).toMatchObject({
      soldToday: null,
      problems: [{ kind: 'dead-end', partId: 'a' }],
    });
    const missing = world([part(asId('a'))], [relation(asId('a'), asId('gone'))]);
    expect(crossReference(missing, asId('a')).problems).toContainEqual({ kind: 'missing-part', partId: 'gone' });
  });

  it('says when two sources disagree', () => {
    const disputed = world(
      [part(asId('a')), part(asId('b')), part(asId('c'))],
      [relation(asId('a'), asId('b')), relation(asId('a'), asId('c'), 'superseded-by', { source: 'another list' })],
    );
    expect(crossReference(disputed, asId('a')).problems).toContainEqual({
      kind: 'sources-disagree',
      partId: asId<PartId>('a'),
      successors: ['b', 'c'],
    });
  });

  it('ends or is reported for every part of the demo', () => {
    const catalogue = demoCatalogue();
    let dead = 0;
    for (const { id } of catalogue.parts) {
      const { soldToday, problems } = crossReference(catalogue, id);
      if (soldToday === null) {
        expect(problems.length, id).toBeGreaterThan(0);
        dead += 1;
      }
    }
    expect(dead).toBeGreaterThan(0);
    expect(dead).toBeLessThan(60);
  });
});

describe('parts for a machine', () => {
  const catalogue = demoCatalogue();
  const model = catalogue.models.find((entry) => entry.modelNumber === 'VB 61-407/2');
  const ask = (more: object = {}) =>
    partsFor(catalogue, {
      models: [{ modelId: model?.id ?? asId('none'), probability: 1 }],
      roleId: asId<RoleId>('pump'),
      today: asDay('2026-11-24'),
      ...more,
    });

  it('separate the two sides of a serial break by the date', () => {
    const early = ask({ serial: 'H20K40931' });
    const late = ask({ serial: 'L30K40931' });
    expect(early.candidates[0]?.listedPartId).not.toBe(late.candidates[0]?.listedPartId);
    expect(late.candidates[0]?.reasons.map((reason) => reason.kind)).toEqual(
      expect.arrayContaining(['listed-for-platform', 'serial-within', 'superseded']),
    );
    const open = ask();
    const listed = new Set(open.candidates.map((candidate) => candidate.listedPartId));
    expect(listed.size).toBe(2);
    const makers = open.candidates.filter((candidate) => candidate.route === 'maker');
    expect(makers.reduce((sum, candidate) => sum + candidate.probability, 0)).toBeCloseTo(1, 6);
  });

  it('are never sure when the model is not', () => {
    const other = catalogue.models.find((entry) => entry.platformId === 'qu-m1');
    const answer = partsFor(catalogue, {
      models: [
        { modelId: model?.id ?? asId('none'), probability: 0.6 },
        { modelId: other?.id ?? asId('none'), probability: 0.3 },
      ],
      roleId: asId<RoleId>('pump'),
      today: asDay('2026-11-24'),
    });
    // Something is found for the likelier model, and nothing is surer than that model is.
    expect(answer.candidates.length).toBeGreaterThan(0);
    expect(answer.candidates[0]?.probability).toBeGreaterThan(0.3);
    for (const candidate of answer.candidates) expect(candidate.probability).toBeLessThanOrEqual(0.6 + 1e-9);
  });

  it('offer every equal number with a chain of reasons that ends at it', () => {
    for (const roleId of catalogue.roles.map((role) => role.id))
      for (const candidate of ask({ roleId }).candidates) {
        expect(candidate.reasons.length).toBeGreaterThan(0);
        expect(candidate.buy.length).toBeGreaterThan(0);
        expect(candidate.probability).toBeGreaterThan(0);
        expect(candidate.probability).toBeLessThanOrEqual(1);
      }
  });

  it('keep positions apart', () => {
    const top = catalogue.models.find((entry) => entry.platformId === 'os-t4');
    const hot = partsFor(catalogue, {
      models: [{ modelId: top?.id ?? asId('none'), probability: 1 }],
      roleId: asId<RoleId>('inlet-valve'),
      position: 'hot',
      today: asDay('2026-11-24'),
    });
    expect(hot.candidates.length).toBeGreaterThan(0);
    for (const candidate of hot.candidates) expect(['hot', 'any']).toContain(candidate.position);
  });

  it('come from the sisters when the model itself has none listed, as likely but not sure', () => {
    const bare = {
      ...catalogue,
      fits: catalogue.fits.map((fit) =>
        fit.platformId === 'fj-a1' && fit.roleId === 'pump'
          ? { ...fit, platformId: undefined, modelId: asId<ModelId>('m-fj-a1-02') }
          : fit,
      ),
    };
    const answer = partsFor(bare, {
      models: [{ modelId: model?.id ?? asId('none'), probability: 1 }],
      roleId: asId<RoleId>('pump'),
      today: asDay('2026-11-24'),
    });
    expect(answer.candidates[0]?.reasons[0]).toMatchObject({ kind: 'fitted-to-sisters' });
    expect(answer.candidates[0]?.probability).toBeLessThan(0.9);
  });
});

describe('chances of a number', () => {
  const platformId: PlatformId = asId('fj-a1');
  const base = demoCatalogue();
  const [one, two] = base.models.filter((model) => model.platformId === platformId);
  const fit = (id: string, partId: PartId, more: Partial<Fit>): Fit => ({
    id,
    modelId: undefined,
    platformId: undefined,
    roleId: asId<RoleId>('pump'),
    partId,
    position: 'any',
    builtFrom: undefined,
    builtTo: undefined,
    quantity: 1,
    ...more,
  });
  const ask = (fits: Fit[], more: object = {}, relations: Relation[] = []) =>
    partsFor(
      { ...base, parts: [part(asId('a')), part(asId('b')), part(asId('kit'), { kind: 'kit' })], relations, fits },
      {
        models: [
          { modelId: one?.id ?? asId('none'), probability: 0.5 },
          { modelId: two?.id ?? asId('none'), probability: 0.3 },
        ],
        roleId: asId<RoleId>('pump'),
        today: asDay('2026-11-24'),
        ...more,
      },
    ).candidates.map(({ part: own, position, probability, buy }) => ({ id: own.id, position, probability, buy }));

  it('is not doubled by a second listing of the same machine', () => {
    const twice = [fit('1', asId('a'), { modelId: one?.id }), fit('2', asId('a'), { platformId })];
    expect(ask(twice)[0]?.probability).toBeCloseTo(0.8, 9);
    expect(ask([fit('1', asId('a'), { modelId: one?.id })])[0]?.probability).toBeGreaterThanOrEqual(0.5);
    const alone = { models: [{ modelId: one?.id ?? '', probability: 0.5 }] };
    expect(ask(twice, alone)[0]?.probability).toBeCloseTo(0.5, 9);
  });

  it('is counted place by place among the sisters: a front part takes nothing from a rear one', () => {
    const sisters = base.models.filter((model) => model.platformId === platformId).slice(2, 6);
    const fits = sisters.flatMap(({ id }, index) => [
      fit(`f${index}`, asId('a'), { modelId: id, position: 'front' }),
      fit(`r${index}`, asId('b'), { modelId: id, position: 'rear' }),
    ]);
    const alone = { models: [{ modelId: one?.id ?? '', probability: 1 }] };
    const found = ask(fits, alone);
    expect(found.map(({ id, position }) => `${id} ${position}`).sort()).toEqual(['a front', 'b rear']);
    for (const { probability } of found) expect(probability).toBeCloseTo(0.85, 9);
  });

  it('buys as many kits as hold what is wanted', () => {
    const alone = { models: [{ modelId: one?.id ?? '', probability: 1 }] };
    const four = [fit('1', asId('a'), { platformId, quantity: 4 })];
    const inKit = (pieces: number, more: object = {}) =>
      ask(four, { ...alone, ...more }, [relation(asId('kit'), asId('a'), 'contains', { quantity: pieces })]).find(
        ({ id }) => id === 'kit',
      )?.buy;
    expect(inKit(4)).toEqual([{ partId: 'kit', quantity: 1 }]);
    expect(inKit(2)).toEqual([{ partId: 'kit', quantity: 2 }]);
    expect(inKit(3)).toEqual([{ partId: 'kit', quantity: 2 }]);
    expect(inKit(4, { sets: 2 })).toEqual([{ partId: 'kit', quantity: 2 }]);
    expect(ask(four, { ...alone, sets: 2 }).find(({ id }) => id === 'a')?.buy[0]?.quantity).toBe(8);
  });

  it('ends where a listing ends, however many other dates there are', () => {
    const alone = { models: [{ modelId: one?.id ?? '', probability: 1 }] };
    const from = one?.producedFrom ?? asDay('2026-11-24');
    const to = one?.producedTo ?? asDay('2026-11-24');
    const day = (share: number) => addDays(from, Math.round(daysBetween(from, to) * share));
    const fits = [
      fit('1', asId('a'), { platformId, builtTo: day(0.25) }),
      fit('2', asId('b'), { platformId, builtFrom: day(0.5), builtTo: day(0.75) }),
    ];
    const found = new Map(ask(fits, alone).map(({ id, probability }) => [id, probability]));
    expect(found.get(asId('a'))).toBeCloseTo(0.25, 2);
    expect(found.get(asId('b'))).toBeCloseTo(0.25, 2);
  });
});

describe('comparing old and new', () => {
  const property = (name: string, more: Partial<RoleProperty> = {}): RoleProperty => ({
    roleId: asId<RoleId>('pump'),
    property: name,
    label: name,
    kind: 'dimension',
    unit: 'mm',
    rule: 'within',
    below: 1,
    above: 1,
    workaround: 'Sleeve',
    workBelow: 3,
    workAbove: 3,
    workMinutes: 6,
    leaves: undefined,
    ...more,
  });
  const role = [
    property('outletMm'),
    property('voltageV', { kind: 'rating', rule: 'same', below: 0, above: 0, workBelow: 9999, workAbove: 9999 }),
  ];

  it('answers in four words, with the dimension that decides', () => {
    const old = { outletMm: '26', voltageV: '230' };
    expect(compareParts(role, old, { outletMm: '26.5', voltageV: '230' }).verdict).toBe('drops-in');
    expect(compareParts(role, old, { outletMm: '28.5', voltageV: '230' })).toMatchObject({
      verdict: 'fits-with-work',
      workMinutes: 6,
    });
    expect(compareParts(role, old, { outletMm: '31', voltageV: '230' }).verdict).toBe('does-not-fit');
    expect(compareParts(role, { voltageV: '230' }, { outletMm: '26', voltageV: '230' }).verdict).toBe('measure-first');
    expect(compareParts([], old, old).verdict).toBe('measure-first');
  });

  it('never works around a rating', () => {
    const verdict = compareParts(role, { outletMm: '26', voltageV: '230' }, { outletMm: '26', voltageV: '120' });
    expect(verdict.verdict).toBe('does-not-fit');
    expect(verdict.dimensions.find((entry) => entry.property === 'voltageV')).toMatchObject({
      reason: 'rating-breached',
      work: null,
    });
  });

  it('is symmetric where the tolerances are', () => {
    const size = fc.double({ min: 10, max: 40, noNaN: true });
    fc.assert(
      fc.property(size, size, (a, b) => {
        const one = compareParts([property('outletMm')], { outletMm: a }, { outletMm: b }).verdict;
        expect(compareParts([property('outletMm')], { outletMm: b }, { outletMm: a }).verdict).toBe(one);
      }),
    );
  });

  it('lets more be more where more is allowed', () => {
    const flow = [property('flowLpm', { kind: 'rating', rule: 'at-least', below: 0, above: 0 })];
    expect(compareParts(flow, { flowLpm: 7 }, { flowLpm: 9 }).verdict).toBe('drops-in');
    expect(compareParts(flow, { flowLpm: 7 }, { flowLpm: 6 }).verdict).toBe('does-not-fit');
    const current = [property('currentA', { kind: 'rating', rule: 'at-most', below: 0, above: 0 })];
    expect(compareParts(current, { currentA: 7 }, { currentA: 6 }).verdict).toBe('drops-in');
    expect(compareParts(current, { currentA: 7 }, { currentA: 8 }).verdict).toBe('does-not-fit');
  });

  it('finds a part equal to itself to drop in, for every role of the demo', () => {
    const catalogue = demoCatalogue();
    let tested = 0;
    for (const { id } of catalogue.roles) {
      const properties = catalogue.role_properties.filter((entry) => entry.roleId === id);
      const own = catalogue.parts.find(
        (entry) => entry.roleId === id && catalogue.part_properties.some((row) => row.partId === entry.id),
      );
      if (!own || properties.length === 0) continue;
      const values = Object.fromEntries(
        catalogue.part_properties.filter((row) => row.partId === own.id).map((row) => [row.property, row.value]),
      );
      expect(compareParts(properties, values, values).verdict, id).toBe('drops-in');
      tested += 1;
    }
    expect(tested).toBeGreaterThan(5);
  });
});

describe('a model’s parts by role', () => {
  const catalogue = demoCatalogue();
  it('are what its own and its platform’s fits list, no more and no less, each with what is sold today', () => {
    for (const model of catalogue.models.filter((_, index) => index % 60 === 0)) {
      const roles = partsOfModel(catalogue, model.id);
      const listed = catalogue.fits.filter((fit) => fit.modelId === model.id || fit.platformId === model.platformId);
      expect(roles.flatMap((role) => role.parts.map(({ fit }) => fit.id)).sort()).toEqual(
        listed.map(({ id }) => id).sort(),
      );
      expect([...roles].map(({ name }) => name)).toEqual(roles.map(({ name }) => name).sort());
      for (const { part: own, soldToday, soldAs, offers } of roles.flatMap((role) => role.parts)) {
        expect(soldToday).toEqual(crossReference(catalogue, own.id).soldToday);
        expect(soldAs).toHaveLength(soldToday?.parts.length ?? 0);
        expect(offers).toBeGreaterThanOrEqual(0);
      }
    }
  });
  it('stand once each, with what the shop learned of a listed number; what only the shop fitted stands by itself', () => {
    const [model] = catalogue.models.filter(({ id }) => catalogue.fits.some(({ modelId }) => modelId === id));
    const [listed] = catalogue.fits.filter(({ modelId }) => modelId === model?.id);
    if (!model || !listed) throw new Error('the demo lists a part for a model');
    const other = defined(
      catalogue.parts.find(
        ({ id }) => !catalogue.fits.some((fit) => fit.partId === id && fit.roleId === listed.roleId),
      ),
      'a part of another role',
    );
    const learned = { ...listed, platformId: undefined, position: 'any' as const, probability: 0.9 };
    const roles = partsOfModel(
      {
        ...catalogue,
        fits: [
          ...catalogue.fits,
          { ...learned, id: 'learned' },
          { ...learned, id: 'only here', partId: other.id, probability: 0.8 },
        ],
      },
      model.id,
    );
    const there = roles.flatMap(({ parts }) => parts).filter(({ fit }) => fit.roleId === listed.roleId);
    expect(there.filter(({ part }) => part.id === listed.partId)).toMatchObject([
      { fit: { id: listed.id }, fittedHere: 0.9 },
    ]);
    expect(there.filter(({ part }) => part.id === other.id)).toMatchObject([
      { fit: { id: 'only here' }, fittedHere: 0.8 },
    ]);
  });
  it('are none for a model that is not there', () => {
    expect(partsOfModel(catalogue, asId('none'))).toEqual([]);
  });
});

describe('a supersession from a serial on', () => {
  const catalogue = demoCatalogue();
  const step = catalogue.relations.find((entry) => entry.builtFrom !== undefined);
  if (!step) throw new Error('the demo has none');
  const fits = catalogue.fits.filter((entry) => entry.partId === step.fromPartId);
  const model = catalogue.models.find(
    ({ id, platformId, producedFrom, producedTo }) =>
      fits.some((entry) => entry.modelId === id || entry.platformId === platformId) &&
      producedFrom < '2012' &&
      (producedTo ?? '9999') > '2014-06',
  );
  if (!model) throw new Error('no model spans it');
  const ask = (serial?: string) =>
    partsFor(catalogue, {
      models: [{ modelId: model.id, probability: 1 }],
      roleId: fits[0]?.roleId ?? asId('none'),
      serial,
      today: asDay('2026-11-24'),
    });
  const maker = (serial?: string) => ask(serial).candidates.filter(({ route }) => route === 'maker');
  const newest = crossReference(catalogue, step.fromPartId).soldToday?.parts[0]?.partId;

  it('gives the older number to an older machine, the newer to a younger one', () => {
    // Year letters from A = 2004: H is 2011, L is 2014.
    expect(maker('H14P11830').map(({ part: own }) => own.id)).toEqual([step.fromPartId]);
    expect(maker('L14P11830').map(({ part: own }) => own.id)).toEqual([newest]);
    expect(maker('L14P11830')[0]?.reasons).toContainEqual(
      expect.objectContaining({ kind: 'superseded', builtFrom: step.builtFrom }),
    );
  });

  it('leaves both open, with shares that sum to one, while the build date is', () => {
    const both = maker();
    expect(both.map(({ part: own }) => own.id).sort()).toEqual([step.fromPartId, newest].sort());
    expect(both.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 9);
    for (const { probability } of both) expect(probability).toBeGreaterThan(0.05);
  });

  it('and one that ends are cut where they begin and end to hold', () => {
    const world = (relations: Relation[]) => ({
      ...catalogue,
      parts: [...catalogue.parts, part(asId('old')), part(asId('mid')), part(asId('new'))],
      relations,
      fits: [
        {
          id: 'f',
          modelId: model.id,
          platformId: undefined,
          roleId: asId<RoleId>('pump'),
          partId: asId<PartId>('old'),
          position: 'any' as const,
          builtFrom: undefined,
          builtTo: undefined,
          quantity: 1,
        },
      ],
    });
    const found = (relations: Relation[], serial: string) =>
      partsFor(world(relations), {
        models: [{ modelId: model.id, probability: 1 }],
        roleId: asId<RoleId>('pump'),
        serial,
        today: asDay('2026-11-24'),
      }).candidates.map(({ part: own, probability }) => [own.id, probability]);
    const eras = [
      relation(asId('old'), asId('mid'), 'superseded-by', { builtTo: asDay('2012-12-31') }),
      relation(asId('old'), asId('new'), 'superseded-by', { builtFrom: asDay('2013-01-01') }),
    ];
    expect(found(eras, 'H14P11830')).toEqual([['mid', 1]]);
    expect(found(eras, 'L14P11830')).toEqual([['new', 1]]);
    expect(found([], 'L14P11830')).toEqual([['old', 1]]);
  });
});
