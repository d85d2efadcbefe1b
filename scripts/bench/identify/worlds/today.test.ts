import { describe, expect, it } from 'vitest';
import { buildModelIndex, normaliseNumber, readPlate } from '@/core/identify';
import { seededRandom } from '@/core/units';
import { makeWorld, neighbourShare } from './todayModels';
import { KINDS, misread, type Kind } from './todayMisread';

const world = makeWorld(4000, 7);
const index = buildModelIndex(world.listed);

describe('the generated catalogue', () => {
  it('is dense: three in four have a neighbour one character away, and no number is listed twice', () => {
    const plain = world.listed.map((model) => normaliseNumber(model.modelNumber));
    expect(neighbourShare(plain)).toBeGreaterThan(0.75);
    expect(new Set(plain).size).toBe(4000);
    for (const number of world.missing) expect(plain).not.toContain(normaliseNumber(number));
  });
  it('is the same for the same seed', () => {
    expect(makeWorld(300, 7).listed).toEqual(makeWorld(300, 7).listed);
    expect(makeWorld(300, 8).listed).not.toEqual(makeWorld(300, 7).listed);
  });
});

describe('reading among its siblings', () => {
  const outcomes = (kind: Kind, count: number) => {
    const random = seededRandom(101);
    return Array.from({ length: count }, () => {
      const model = world.listed[Math.floor(random() * world.listed.length)];
      const text = misread(model?.modelNumber ?? '', kind, random);
      return { truth: model?.id, reading: readPlate(index, text) };
    });
  };
  const share = <T>(list: readonly T[], holds: (entry: T) => boolean) => list.filter(holds).length / list.length;

  it.each([
    ['clean', 1, 1],
    ['typed', 0.93, 0.96],
    ['camera', 0.92, 0.96],
    ['worn', 0.75, 0.88],
    ['suffix', 0.5, 0.93],
    ['buried', 0.97, 0.99],
  ] as const)('finds %s readings: first %d, among five %d', (kind, first, five) => {
    const results = outcomes(kind, 120);
    expect(share(results, ({ truth, reading }) => reading.candidates[0]?.modelId === truth)).toBeGreaterThanOrEqual(
      first,
    );
    expect(
      share(results, ({ truth, reading }) => reading.candidates.slice(0, 5).some((entry) => entry.modelId === truth)),
    ).toBeGreaterThanOrEqual(five);
  });

  it('is hardly ever sure and wrong', () => {
    const all = KINDS.flatMap((kind) => outcomes(kind, 60));
    const sure = all.filter(({ reading }) => (reading.candidates[0]?.probability ?? 0) >= 0.95);
    expect(sure.length).toBeGreaterThan(150);
    expect(share(sure, ({ truth, reading }) => reading.candidates[0]?.modelId !== truth)).toBeLessThan(0.02);
  });

  it('says that another maker’s number is not in the catalogue', () => {
    const results = world.strangers.slice(0, 60).map((number) => readPlate(index, number));
    expect(share(results, (reading) => reading.unknown > 0.5)).toBeGreaterThan(0.85);
  });

  it('doubts a missing sibling far more than a listed number', () => {
    const missing = world.missing.slice(0, 80).map((number) => readPlate(index, number).unknown);
    const listed = world.listed.slice(0, 80).map((model) => readPlate(index, model.modelNumber).unknown);
    const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
    expect(mean(missing)).toBeGreaterThan(0.3);
    expect(mean(listed)).toBeLessThan(0.02);
  });
});
