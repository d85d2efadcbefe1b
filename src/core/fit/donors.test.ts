import { asDay, type PlatformId, asId, type CauseId, type TicketId, type RoleId } from '../units';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { donorsFor, partsFor, type Donor } from '.';

const catalogue = demoCatalogue();
const today = asDay('2026-11-24');
const onPlatform = (platformId: PlatformId) => catalogue.models.filter((model) => model.platformId === platformId);
const [own, other] = onPlatform(asId('fj-a1'));
if (!own || !other) throw new Error('no models');
const listed = partsFor(catalogue, {
  models: [{ modelId: own.id, probability: 1 }],
  roleId: asId<RoleId>('pump'),
  today,
});
const question = {
  roleId: asId<RoleId>('pump'),
  position: 'any',
  listedPartIds: listed.candidates.map(({ listedPartId }) => listedPartId),
  platformId: asId<PlatformId>('fj-a1'),
  today,
};
const donor = (more: Partial<Donor> = {}): Donor => ({
  ticketId: asId<TicketId>('t'),
  number: 90,
  modelId: other.id,
  platformId: asId<PlatformId>('fj-a1'),
  causeId: asId<CauseId>('bearings'),
  taken: [],
  ...more,
});
const found = (donors: Donor[], more: Partial<typeof question> = {}) =>
  donorsFor(catalogue, donors, { ...question, ...more }).map(({ donor: { number } }) => number);

describe('donors on the shelf', () => {
  it('of the same platform carry the same part, newest first where equally sure', () => {
    const twice = [donor(), donor({ number: 91 })];
    expect(found(twice).sort()).toEqual([90, 91]);
    for (const { probability } of donorsFor(catalogue, twice, question)) {
      expect(probability).toBeGreaterThanOrEqual(0.5);
      expect(probability).toBeLessThanOrEqual(1);
    }
  });

  it('do not when the part is gone, is what they failed of, or they are another machine', () => {
    expect(found([donor({ taken: [{ roleId: asId('pump'), position: 'any' }] })])).toEqual([]);
    expect(found([donor({ taken: [{ roleId: asId('belt'), position: 'any' }] })])).toEqual([90]);
    const pumps = catalogue.causes.filter((cause) => cause.roleId === 'pump');
    expect(pumps.length).toBeGreaterThan(0);
    for (const { id } of pumps) expect(found([donor({ causeId: id })]), id).toEqual([]);
    expect(found([donor({ platformId: asId('qu-m3') })])).toEqual([]);
    expect(found([donor({ modelId: asId('gone from the catalogue') })])).toEqual([]);
    expect(found([donor()], { listedPartIds: [asId('p-none')] })).toEqual([]);
  });

  it('that failed of bearings have no good seal either', () => {
    const seal = partsFor(catalogue, {
      models: [{ modelId: own.id, probability: 1 }],
      roleId: asId<RoleId>('shaft-seal'),
      today,
    });
    const listedPartIds = seal.candidates.map(({ listedPartId }) => listedPartId);
    expect(listedPartIds.length).toBeGreaterThan(0);
    expect(found([donor()], { roleId: asId('shaft-seal'), listedPartIds })).toEqual([]);
    expect(found([donor({ causeId: asId('belt') })], { roleId: asId('shaft-seal'), listedPartIds })).toEqual([90]);
  });

  it('give nothing that an operation uses up: no sealant, no gasket', () => {
    const used = catalogue.operations.flatMap(({ consumables }) => consumables.map(({ id }) => id));
    const kept = { ...catalogue, operations: catalogue.operations.map((row) => ({ ...row, consumables: [] })) };
    let compared = 0;
    for (const roleId of new Set(used)) {
      const { candidates } = partsFor(catalogue, { models: [{ modelId: own.id, probability: 1 }], roleId, today });
      const asked = { ...question, roleId, listedPartIds: candidates.map(({ listedPartId }) => listedPartId) };
      const machines = [donor({ causeId: asId<CauseId>('belt') })];
      expect(donorsFor(catalogue, machines, asked), roleId).toEqual([]);
      compared += donorsFor(kept, machines, asked).length;
    }
    // Some of them lie in the donor, and would have been offered.
    expect(compared).toBeGreaterThan(0);
  });
});
