import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { knowledgeFor } from '../catalogue';
import { planWork } from '../labour';
import { conditionsSeen, lifeFactor, rescueFactor } from '.';

const knowledge = knowledgeFor(demoCatalogue(), platform('fj-a1'));
const none = { findings: [], outcomes: [] };
const damp = { ...none, outcomes: [{ checkId: 'ask-place', outcomeId: 'damp' }] };
const bearings = knowledge.causes.find(({ id }) => id === 'bearings')?.id;
const pump = knowledge.causes.find(({ id }) => id === 'drain-pump')?.id;

describe('the condition of a machine and its place', () => {
  it('is what was seen or told, and nothing where it was denied or not asked', () => {
    expect(conditionsSeen(knowledge, none)).toEqual([]);
    expect(conditionsSeen(knowledge, damp).map(({ id }) => id)).toEqual(['damp']);
    const rust = (present: boolean) =>
      conditionsSeen(knowledge, { ...none, findings: [{ findingId: 'rust-run', present }] }).map(({ id }) => id);
    expect(rust(true)).toEqual(['rust']);
    expect(rust(false)).toEqual([]);
  });

  it('shortens the lives that it names, and all of them where it names none', () => {
    const seen = conditionsSeen(knowledge, damp);
    expect(lifeFactor(seen, bearings)).toBeLessThan(1);
    expect(lifeFactor(seen, pump)).toBe(1);
    const used = conditionsSeen(knowledge, { ...none, outcomes: [{ checkId: 'ask-place', outcomeId: 'much' }] });
    expect(lifeFactor(used, pump)).toBeLessThan(1);
    expect(lifeFactor(used, undefined)).toBeLessThan(1);
  });

  it('makes it likelier that something will not come: nine in ten jobs stay under more minutes, never under fewer', () => {
    fc.assert(
      fc.property(fc.subarray([...knowledge.conditions]), fc.constantFrom(...knowledge.causes), (seen, cause) => {
        const factor = rescueFactor(seen);
        expect(factor).toBeGreaterThanOrEqual(1);
        expect(factor).toBeLessThanOrEqual(3);
        const usual = planWork(knowledge.operations, cause.operations);
        const rusty = planWork(knowledge.operations, cause.operations, { rescueFactor: factor });
        expect(rusty.handsOnMinutes).toBe(usual.handsOnMinutes);
        expect(rusty.expectedMinutes).toBeGreaterThanOrEqual(usual.expectedMinutes - 1e-9);
        expect(rusty.ninetyPercentMinutes).toBeGreaterThanOrEqual(usual.ninetyPercentMinutes);
      }),
    );
    const element = knowledge.causes.find(({ id }) => id === 'element')?.operations ?? [];
    const factor = rescueFactor(conditionsSeen(knowledge, damp));
    expect(planWork(knowledge.operations, element, { rescueFactor: factor }).expectedMinutes).toBeGreaterThan(
      planWork(knowledge.operations, element).expectedMinutes,
    );
  });
});
