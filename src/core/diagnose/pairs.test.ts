import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { knowledgeFor, livesOf, OTHER_CAUSE, type Knowledge } from '../catalogue';
import { asId, defined, sum, type CauseId } from '../units';
import {
  ageFactors,
  lifeByWeight,
  faultStatesOf,
  findingGiven,
  nextSteps,
  priorsOf,
  rankCauses,
  stateBeliefs,
  tellingFindings,
  whyItFailed,
  type Evidence,
} from '.';

const PLATFORMS = ['fj-a1', 'fj-i4', 'qu-d5', 'mw-t1', 'os-t4', 'os-r8'];
const knowledges = new Map(PLATFORMS.map((id) => [id, knowledgeFor(demoCatalogue(), platform(id))]));
const of = (id: string): Knowledge => knowledges.get(id) ?? knowledgeFor(demoCatalogue(), platform(id));

const evidenceOn = (knowledge: Knowledge): fc.Arbitrary<Evidence> =>
  fc.record({
    findings: fc.uniqueArray(
      fc.record({ findingId: fc.constantFrom(...knowledge.findings.map(({ id }) => id)), present: fc.boolean() }),
      { maxLength: 4, selector: ({ findingId }) => findingId },
    ),
    outcomes: fc
      .uniqueArray(fc.constantFrom(...knowledge.checks), { maxLength: 3, selector: ({ id }) => id })
      .chain((checks) =>
        fc.tuple(
          ...checks.map(({ id, outcomes }) =>
            fc.constantFrom(...outcomes).map((outcome) => ({ checkId: id, outcomeId: outcome.id })),
          ),
        ),
      ),
    failedFixes: fc.uniqueArray(fc.constantFrom(...knowledge.causes.map(({ id }) => id)), { maxLength: 2 }),
  });
const cases = fc.constantFrom(...PLATFORMS).chain((id) => evidenceOn(of(id)).map((evidence) => ({ id, evidence })));

/** A second way: every set of one or two causes written out, its chance and what it shows counted by hand from the rows. */
function byHand(knowledge: Knowledge, { findings, outcomes, failedFixes }: Evidence): Map<CauseId, number> {
  const priors = priorsOf(knowledge);
  const failed = new Set<string>(failedFixes);
  const masses = new Map<CauseId, number>();
  const put = (name: CauseId, mass: number) => masses.set(name, (masses.get(name) ?? 0) + mass);
  const shown = (present: readonly CauseId[], hidden: readonly string[]) => {
    let p = 1;
    for (const { findingId, present: seen } of findings) {
      const showing = present.filter((_, index) => index > 0 || !hidden.includes(findingId));
      const leak = knowledge.findingLikelihood(OTHER_CAUSE, findingId);
      const none = showing.reduce(
        (left, id) => (left * (1 - knowledge.findingLikelihood(id, findingId))) / (1 - leak),
        1 - leak,
      );
      const yes = showing.length === 1 ? knowledge.findingLikelihood(showing[0] ?? OTHER_CAUSE, findingId) : 1 - none;
      const clamped = Math.min(0.999, Math.max(0.001, yes));
      p *= seen ? clamped : 1 - clamped;
    }
    for (const { checkId, outcomeId } of outcomes) {
      const check = knowledge.checks.find(({ id }) => id === checkId);
      const likely = (id: CauseId, outcome: string) => knowledge.outcomeLikelihood(id, checkId, outcome);
      const all = check?.outcomes.map(({ id }) => id) ?? [];
      const [a = OTHER_CAUSE, b] = present;
      if (b === undefined) p *= likely(a, outcomeId);
      else {
        const normal = [...all].sort((x, y) => likely(OTHER_CAUSE, y) - likely(OTHER_CAUSE, x))[0] ?? '';
        const sound = Math.min(
          Math.max(likely(a, normal), likely(b, normal)),
          (likely(a, normal) * likely(b, normal)) / likely(OTHER_CAUSE, normal),
        );
        const others = sum(all.filter((id) => id !== normal).map((id) => likely(a, id) + likely(b, id)));
        p *= outcomeId === normal ? sound : ((1 - sound) * (likely(a, outcomeId) + likely(b, outcomeId))) / others;
      }
    }
    const cure = (id: CauseId) => knowledge.causes.find((cause) => cause.id === id)?.cure ?? 0;
    return p * (present.every((id) => failed.has(id)) ? 1 - present.reduce((c, id) => c * cure(id), 1) : 1);
  };
  knowledge.causes.forEach(({ id }, index) => {
    const brings = knowledge.brings.filter((row) => row.causeId === id);
    put(id, (priors[index] ?? 0) * (1 - sum(brings.map(({ p }) => p))) * shown([id], []));
    for (const row of brings)
      put(
        failed.has(id) && !failed.has(row.bringsId) ? row.bringsId : id,
        (priors[index] ?? 0) * row.p * shown([id, row.bringsId], row.hides),
      );
  });
  put(OTHER_CAUSE, (priors.at(-1) ?? 0) * shown([OTHER_CAUSE], []));
  const total = sum([...masses.values()]);
  return new Map([...masses].map(([id, mass]) => [id, mass / total]));
}

describe('a cause and what it brings', () => {
  it('are weighed as counting every single and every pair by hand weighs them', () => {
    let told = 0;
    fc.assert(
      fc.property(cases, ({ id, evidence }) => {
        const knowledge = of(id);
        const { causes, contradictory } = rankCauses(knowledge, evidence);
        expect(contradictory).toBe(false);
        const hand = byHand(knowledge, evidence);
        for (const { causeId, probability } of causes)
          expect(Math.abs(probability - (hand.get(causeId) ?? 0)), causeId).toBeLessThan(1e-9);
        if (causes.some((entry) => entry.with.some(({ probability }) => probability > 0.05))) told += 1;
      }),
      { numRuns: 150 },
    );
    expect(told, 'pairs that counted').toBeGreaterThan(10);
  });

  it('do not depend on the order of the evidence', () => {
    fc.assert(
      fc.property(cases, ({ id, evidence }) => {
        const turned = {
          findings: [...evidence.findings].reverse(),
          outcomes: [...evidence.outcomes].reverse(),
          failedFixes: [...evidence.failedFixes].reverse(),
        };
        const [one, two] = [evidence, turned].map((said) => rankCauses(of(id), said).causes);
        for (const { causeId, probability } of one ?? [])
          expect(two?.find((entry) => entry.causeId === causeId)?.probability).toBeCloseTo(probability, 9);
      }),
      { numRuns: 60 },
    );
  });

  it('are not lowered by a finding that only they show', () => {
    let only = 0;
    for (const id of PLATFORMS) {
      const knowledge = of(id);
      for (const { id: findingId } of knowledge.findings) {
        const leak = knowledge.findingLikelihood(OTHER_CAUSE, findingId);
        const showing = knowledge.causes.filter((cause) => knowledge.findingLikelihood(cause.id, findingId) > leak);
        const [cause] = showing;
        if (showing.length !== 1 || !cause) continue;
        only += 1;
        const before = rankCauses(knowledge, { findings: [], outcomes: [], failedFixes: [] });
        const after = rankCauses(knowledge, {
          findings: [{ findingId, present: true }],
          outcomes: [],
          failedFixes: [],
        });
        const of = (ranking: typeof before) =>
          ranking.causes.find(({ causeId }) => causeId === cause.id)?.probability ?? NaN;
        expect(of(after), `${id} ${findingId}`).toBeGreaterThanOrEqual(of(before));
      }
    }
    expect(only).toBeGreaterThan(5);
  });

  it('a spider is found through the pump that its crumbs have stopped', () => {
    const knowledge = of('fj-a1');
    const evidence: Evidence = {
      findings: [
        { findingId: 'stands-full', present: true },
        { findingId: 'metal-crumbs', present: true },
      ],
      outcomes: [{ checkId: 'look-filter', outcomeId: 'crumbs' }],
      failedFixes: [],
    };
    const [lead] = rankCauses(knowledge, evidence).causes;
    expect(lead?.causeId).toBe('spider');
    expect(lead?.with[0]?.causeId).toBe('filter-blocked');
    const both = nextSteps(knowledge, evidence, { perMinute: 0.9, parts: () => 40, escalate: 900, open: [] }).find(
      (step) => step.kind === 'fix' && step.id === 'spider' && step.also === 'filter-blocked',
    );
    expect(both?.cures).toBeGreaterThan(0.2);
  });

  it('with the first mended, what is left is the second', () => {
    const knowledge = of('mw-t1');
    const evidence = { findings: [{ findingId: 'belt-dust', present: true }], outcomes: [], failedFixes: [] };
    const mended = rankCauses(knowledge, { ...evidence, failedFixes: ['brake-drags-top'] });
    const before = rankCauses(knowledge, evidence);
    const shareOf = (ranking: typeof before, id: string) =>
      ranking.causes.find(({ causeId }) => causeId === id)?.probability ?? NaN;
    expect(shareOf(mended, 'brake-drags-top')).toBeLessThan(shareOf(before, 'brake-drags-top') / 4);
    expect(shareOf(mended, 'belt-top')).toBeGreaterThan(shareOf(before, 'belt-top'));
  });

  it('a sign on the wreck raises what it points to', () => {
    const knowledge = of('os-t4');
    const evidence = { findings: [{ findingId: 'no-agitation', present: true }], outcomes: [], failedFixes: [] };
    const sign = knowledge.wreckSigns.find(({ rootId }) => rootId === 'coupler.gearbox');
    const gearbox = (wreckSigns: string[]) =>
      rankCauses(knowledge, { ...evidence, wreckSigns }).causes.find(({ causeId }) => causeId === asId('gearbox'))
        ?.probability ?? NaN;
    expect(gearbox([sign?.id ?? ''])).toBeGreaterThan(2 * gearbox([]));
  });

  it('a sign on a dead part says that this part is dead, and after it was mended in vain what killed it is left', () => {
    for (const id of PLATFORMS) {
      const knowledge = of(id);
      const shareOf = (evidence: Partial<Evidence>, causeId: CauseId) =>
        rankCauses(knowledge, { findings: [], outcomes: [], failedFixes: [], ...evidence }).causes.find(
          (entry) => entry.causeId === causeId,
        )?.probability ?? NaN;
      for (const sign of knowledge.wreckSigns) {
        // A dead part counts where it is dead alone and where something brought it.
        const dead = (evidence: Partial<Evidence>) =>
          sum(
            rankCauses(knowledge, { findings: [], outcomes: [], failedFixes: [], ...evidence }).causes.map((entry) =>
              entry.causeId === sign.causeId
                ? entry.probability
                : sum(
                    entry.with.filter(({ causeId }) => causeId === sign.causeId).map(({ probability }) => probability),
                  ),
            ),
          );
        expect(dead({ wreckSigns: [sign.id] }), sign.id).toBeGreaterThan(dead({}));
        const raisesId = knowledge.rootCauses.find((root) => root.id === sign.rootId)?.raisesId;
        if (raisesId === undefined || !knowledge.causes.some((cause) => cause.id === raisesId)) continue;
        const mended = { failedFixes: [sign.causeId] };
        expect(shareOf({ ...mended, wreckSigns: [sign.id] }, raisesId), `${id} ${sign.id}`).toBeGreaterThan(
          shareOf(mended, raisesId),
        );
      }
    }
  });

  it('why it failed sums to one with not known, and a sign moves it to its root', () => {
    const knowledge = of('fj-a1');
    for (const { id: causeId } of knowledge.causes) {
      const signs = knowledge.wreckSigns.filter((sign) => sign.causeId === causeId);
      for (const sign of [null, ...signs]) {
        const roots = whyItFailed(knowledge, causeId, sign?.id ?? null);
        if (roots.length === 0) continue;
        expect(sum(roots.map(({ probability }) => probability))).toBeCloseTo(1, 12);
        expect(roots.filter(({ root }) => root === null)).toHaveLength(1);
        if (sign) expect(roots.find(({ root }) => root?.id === sign.rootId)?.probability).toBe(sign.surely);
      }
    }
  });

  it('what would tell most is what lowers the doubt most on average, both answers counted out', () => {
    const knowledge = of('os-t4');
    const doubt = (evidence: Evidence) =>
      sum(stateBeliefs(knowledge, evidence).beliefs.map((p) => (p > 0 ? -p * Math.log2(p) : 0)));
    fc.assert(
      fc.property(evidenceOn(knowledge), (evidence) => {
        const asked = new Set(evidence.findings.map(({ findingId }) => findingId));
        const { beliefs } = stateBeliefs(knowledge, evidence);
        for (const { findingId, bits } of tellingFindings(knowledge, evidence, asked).slice(0, 3)) {
          expect(asked.has(findingId)).toBe(false);
          const answered = (present: boolean) =>
            doubt({ ...evidence, findings: [...evidence.findings, { findingId, present }] });
          const yes = sum(
            faultStatesOf(knowledge).map(
              (state, index) => (beliefs[index] ?? 0) * findingGiven(knowledge, state, findingId),
            ),
          );
          expect(doubt(evidence) - yes * answered(true) - (1 - yes) * answered(false)).toBeCloseTo(bits, 9);
        }
      }),
      { numRuns: 25 },
    );
  });

  it('two facts that hardly go together are named, and what goes together is not', () => {
    const knowledge = of('fj-a1');
    const said = (findings: string[], outcomes: Evidence['outcomes'] = []) =>
      rankCauses(knowledge, {
        findings: findings.map((findingId) => ({ findingId, present: true })),
        outcomes,
        failedFixes: [],
      }).clashes;
    expect(said(['stands-full', 'hums'])).toEqual([]);
    const [clash] = said(['rust-run'], [{ checkId: 'lift-drum', outcomeId: 'firm' }]);
    expect([clash?.first.id, clash?.second.id]).toEqual(['rust-run', 'lift-drum firm']);
    expect(said(['rust-run'], [{ checkId: 'lift-drum', outcomeId: 'rust' }])).toEqual([]);
  });
});

describe('priors by age', () => {
  const { lives } = demoCatalogue();
  const livesOn = (id: string) => livesOf(lives, platform(id).design, platform(id).id);

  it('wear counts more in an old machine than in a young one, chance failures alike', () => {
    const at = (years: number, id: string) => ageFactors(livesOn('fj-a1'), years).get(asId<CauseId>(id)) ?? NaN;
    expect(at(14, 'bearings')).toBeGreaterThan(3 * at(2, 'bearings'));
    expect(at(14, 'hose-leak')).toBeCloseTo(at(2, 'hose-leak'), 9);
    for (let years = 1; years < 20; years += 1) {
      expect(at(years + 1, 'brushes')).toBeGreaterThanOrEqual(at(years, 'brushes'));
      expect(at(years, 'brushes')).toBeGreaterThanOrEqual(0.25);
      expect(at(years, 'brushes')).toBeLessThanOrEqual(4);
    }
    expect(ageFactors(livesOn('fj-a1'), null).size).toBe(0);
  });

  it('a cause without a life has the one that its share of failures asks for, flat wear, and none where nothing is known', () => {
    const causes = of('fj-a1').causes;
    const rows = livesOn('fj-a1');
    const weigh = (weight: number) => defined(lifeByWeight(rows, causes, { weight }), 'a life');
    const hazardAt = ({ shape, scaleYears }: { shape: number; scaleYears: number }, years: number) =>
      (shape / scaleYears) * (years / scaleYears) ** (shape - 1);
    // A year of each age from 1 to 14, one by one: twice the weight, twice the failures.
    const failures = (life: { shape: number; scaleYears: number }) =>
      Array.from({ length: 14 }, (_, index) => hazardAt(life, index + 1)).reduce((a, b) => a + b, 0);
    expect(failures(weigh(8)) / failures(weigh(4))).toBeCloseTo(2, 9);
    const known = rows.flatMap((row) => causes.filter(({ id }) => id === row.causeId).map((cause) => ({ row, cause })));
    const perWeight =
      known.reduce((sum, { row }) => sum + failures(row), 0) / known.reduce((sum, { cause }) => sum + cause.weight, 0);
    expect(failures(weigh(4))).toBeCloseTo(4 * perWeight, 9);
    expect(weigh(4).shape).toBeLessThanOrEqual(
      Math.min(...rows.map(({ shape }) => shape).filter((shape) => shape > 1)),
    );
    expect(lifeByWeight([], causes, { weight: 4 })).toBeNull();
  });

  it('a platform has its own word on a life, and the others keep the design’s', () => {
    const scale = (id: string) => livesOn(id).find(({ component }) => component === 'brushes')?.scaleYears;
    expect([scale('qu-m1'), scale('fj-a1')]).toEqual([8, 13]);
    expect(livesOn('qu-m1')).toHaveLength(livesOn('fj-a1').length);
  });
});
