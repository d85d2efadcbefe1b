import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { emptyCatalogue, type Catalogue, type Fit, type Part, type Relation } from '../catalogue';
import { readPartNumber } from '../identify';
import { asDay, asId, defined, type ModelId, type PartId, type RoleId } from '../units';
import { numbersOn, partsFor, type FitAnswer } from '.';
import { afterOldNumber, type OldHypothesis } from './oldNumber';

const roleId = asId<RoleId>('pump');
const partOf = (partNumber: string, role = roleId): Part => ({
  id: asId<PartId>(partNumber),
  partNumber,
  makerId: asId('m'),
  roleId: role,
  description: partNumber,
  kind: 'maker',
  status: 'current',
});
const world = (parts: Part[], relations: Relation[] = []) => ({ ...emptyCatalogue(), parts, relations });
const always = () => true;
const takes = (probability: number, ...listings: [string, number][]): OldHypothesis => ({
  probability,
  holds: always,
  listings: listings.map(([number, share]) => ({ partId: asId<PartId>(number), share })),
});

/** Without endings: those are learned from each list, and what is counted out by hand below knows another list. */
const numbers = fc.uniqueArray(
  fc
    .tuple(fc.constantFrom('FJ-', 'TR', ''), fc.integer({ min: 1_000_000, max: 9_999_999 }))
    .map((pieces) => pieces.join('')),
  { minLength: 4, maxLength: 4 },
);
/** A number as somebody reads it: whole, with one character replaced, or with one left out. */
const readOf = (number: string, slip: number): string =>
  slip === 0
    ? number
    : slip === 1
      ? number.replace(/\d(?=\D*$)/, (digit) => String((Number(digit) + 5) % 10))
      : number.slice(0, 3) + number.slice(4);

describe('the number on the old part', () => {
  it('weighs what the machine may be as Bayes’ rule says, counted out number by number', () => {
    fc.assert(
      fc.property(
        numbers,
        fc.nat(3),
        fc.nat(2),
        fc.double({ min: 0.05, max: 0.6, noNaN: true }),
        ([a = '', b = '', c = '', d = ''], which, slip, first) => {
          const second = 0.35;
          const text = readOf([a, b, c, d][which] ?? a, slip);
          const catalogue = world([a, b, c, d].map((number) => partOf(number)));
          const hypotheses = [takes(first, [a, 1]), takes(second, [b, 1], [c, 1])];
          const { old, probabilities } = afterOldNumber(catalogue, hypotheses, text, roleId);
          const total = old.candidates.reduce((sum, { probability }) => sum + probability, old.unknown + old.unread);
          expect(total).toBeCloseTo(1, 6);

          // How likely the text is as each number, by a reading in which all are alike.
          const alike = [a, b, c, d].map((number) => partOf(number));
          const flat = readPartNumber(
            { expected: alike.map(({ id, partNumber }) => ({ partId: id, partNumber, prior: 0.2 })), unlisted: 0.2 },
            text,
          );
          const likely = (number: string) =>
            flat.candidates.find(({ partNumber }) => partNumber === number)?.probability ?? 0;
          const ofModels = (number: string, share: number) => 0.9 * (0.9 * share + 0.1 / 3) * likely(number);
          const elsewhere = (foreign: number, unlisted: number) =>
            (foreign / 30) * likely(d) + unlisted * old.unknown * scale;
          // The two readings know unlisted numbers through other lists: their share is taken over.
          const led = first + second;
          const foreignPrior = led * 0.05 + (1 - led) * 0.9;
          const unlistedPrior = led * 0.05 + (1 - led) * 0.1;
          const listed =
            first * (ofModels(a, 1) + ofModels(b, 0) + ofModels(c, 0)) +
            second * (ofModels(a, 0) + ofModels(b, 0.5) + ofModels(c, 0.5)) +
            (foreignPrior / 30) * likely(d);
          const scale = listed / Math.max(1e-12, 1 - old.unknown) / unlistedPrior;
          const all = listed + unlistedPrior * old.unknown * scale;
          const expected = [
            (first * (ofModels(a, 1) + ofModels(b, 0) + ofModels(c, 0) + elsewhere(0.05, 0.05))) / all,
            (second * (ofModels(a, 0) + ofModels(b, 0.5) + ofModels(c, 0.5) + elsewhere(0.05, 0.05))) / all,
          ];
          if (old.unknown > 0.999) return;
          // What is far behind 'in no list' is not weighed at all.
          for (const [h, p] of expected.entries()) expect(Math.abs((probabilities[h] ?? 0) - p)).toBeLessThan(0.02);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('makes what was only learned or only listed for sisters surer where it says so, and less sure where it says another', () => {
    const catalogue = world(['FJ-2817-61', 'FJ-4402-17', 'FJ-9038-55'].map((number) => partOf(number)));
    const hypothesis = takes(1, ['FJ-2817-61', 0.5], ['FJ-4402-17', 0.35]);
    const after = (text: string) => defined(afterOldNumber(catalogue, [hypothesis], text, roleId).shares[0], 'shares');
    const [same = 0, other = 0] = after('FJ 2817 61');
    expect(same).toBeGreaterThan(0.93);
    expect(other).toBeLessThan(0.1);
    // What leads nowhere speaks against both alike.
    const [one = 0, two = 0] = after('QX 11-7790');
    expect(one).toBeLessThan(0.5);
    expect(two).toBeLessThan(0.35);
  });

  it('of many drawn slips, is right more often than not, and says so as often as it is', () => {
    let [right, asked, said] = [0, 0, 0];
    fc.assert(
      fc.property(numbers, fc.nat(2), ([a = '', b = '', c = '', d = ''], slip) => {
        const catalogue = world([a, b, c, d].map((number) => partOf(number)));
        const { old } = afterOldNumber(catalogue, [takes(0.5, [a, 1]), takes(0.4, [b, 1])], readOf(a, slip), roleId);
        const [lead] = old.candidates;
        asked += 1;
        said += old.candidates.find(({ part }) => part.partNumber === a)?.probability ?? 0;
        if (lead?.part.partNumber === a && lead.probability > old.unknown) right += 1;
      }),
      { numRuns: 150, seed: 7 },
    );
    expect(right / asked).toBeGreaterThan(0.6);
    // A digit that nobody confuses is not likely a slip: what is said is below what was drawn, not above.
    expect(said / asked).toBeLessThanOrEqual(right / asked + 0.1);
  });
});

describe('a part asked for with the number on the old one', () => {
  const catalogue = demoCatalogue();
  const today = asDay('2026-11-24');
  const chain = defined(
    catalogue.relations.find(({ kind, builtFrom }) => kind === 'superseded-by' && builtFrom === undefined),
    'a supersession',
  );
  const numberOf = (id: string, from: Catalogue = catalogue) =>
    defined(
      from.parts.find((part) => part.id === id),
      id,
    ).partNumber;
  const fit = defined(
    catalogue.fits.find(({ partId }) => partId === chain.fromPartId),
    'its fit',
  );
  const model = defined(
    catalogue.models.find(({ id, platformId }) => id === fit.modelId || platformId === fit.platformId),
    'its model',
  );
  const models = [{ modelId: model.id, probability: 0.9 }];
  const ask = (oldNumber: string | undefined, from: Catalogue = catalogue): FitAnswer =>
    partsFor(from, { models, roleId: fit.roleId, position: fit.position, today, oldNumber });

  it('is surer where the lists lead from the machine to that number, be it the first of a chain or what replaced it', () => {
    const before = defined(ask(undefined).candidates[0], 'a candidate').probability;
    for (const id of [chain.fromPartId, chain.toPartId]) {
      const { candidates, old } = ask(`P/N ${numberOf(id)}`);
      expect(old?.noRoute).toBeLessThan(0.05);
      expect(old?.candidates[0]).toMatchObject({ part: { id }, ledTo: true });
      expect(candidates[0]?.probability).toBeGreaterThan(before);
      expect(candidates[0]?.reasons.some(({ kind }) => kind === 'on-the-old-part')).toBe(true);
    }
  });

  it('says so where nothing leads to it: another listed part, or one in no list', () => {
    const led = new Set(numbersOn(catalogue, { models, today }).map(({ partId }) => partId));
    const foreign = defined(
      catalogue.parts.find(({ id, roleId: role }) => role === fit.roleId && !led.has(id)),
      'a part of another machine',
    );
    const listed = ask(foreign.partNumber).old;
    expect(listed?.candidates[0]).toMatchObject({ part: { id: foreign.id }, ledTo: false });
    expect(listed?.noRoute).toBeGreaterThan(0.9);
    const unlisted = ask('QX 11-7790').old;
    expect(unlisted?.unknown).toBeGreaterThan(0.9);
    // The machine is still most likely what its plate says: an earlier repair may have fitted anything.
    expect(ask('QX 11-7790').candidates[0]?.probability).toBeGreaterThan(0.5);
  });

  it('puts what was in the machine before its equals, and trusts it', () => {
    const generic = defined(
      ask(undefined).candidates.find(({ route }) => route === 'generic' || route === 'sister'),
      'an equal number',
    );
    const [bought] = generic.buy;
    const found = ask(numberOf(defined(bought, 'a part').partId)).candidates[0];
    expect(found?.part.id).toBe(bought?.partId);
    expect(found?.probability).toBeGreaterThan(generic.probability);
    expect(found?.reasons.at(-1)).toMatchObject({ kind: 'on-the-old-part', same: true });
  });

  it('settles which of two models it is, as far as they take different numbers', () => {
    const other: Part = partOf('ZZ-40-7781', fit.roleId);
    const twin = { ...model, id: asId<ModelId>('twin') };
    const own: Fit = { ...fit, id: 'own', partId: chain.fromPartId, modelId: model.id, platformId: undefined };
    const split: Catalogue = {
      ...catalogue,
      models: [...catalogue.models, twin],
      parts: [...catalogue.parts, other],
      fits: [
        ...catalogue.fits.filter(({ roleId: role }) => role !== fit.roleId),
        own,
        { ...own, id: 'twin’s', partId: other.id, modelId: twin.id },
      ],
    };
    const either = [model, twin].map(({ id }) => ({ modelId: id, probability: 0.5 }));
    const lead = (oldNumber?: string) =>
      partsFor(split, { models: either, roleId: fit.roleId, today, oldNumber }).candidates.find(
        ({ listedPartId }) => listedPartId === other.id,
      )?.probability ?? 0;
    expect(lead()).toBeGreaterThan(0.4);
    expect(lead(other.partNumber)).toBeGreaterThan(0.97);
    expect(lead(numberOf(chain.fromPartId))).toBeLessThan(0.03);
  });

  it('changes nothing where the text has no number in it', () => {
    const plain = ask(undefined).candidates.map(({ part, probability }) => [part.id, probability]);
    const { candidates, old } = ask('made in\n230V 50Hz\nclass F');
    expect(old?.candidates ?? []).toEqual([]);
    expect(candidates.map(({ part }) => part.id)).toEqual(plain.map(([id]) => id));
  });
});
