import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { knowledgeFor, OTHER_CAUSE, type Platform } from '../catalogue';
import { faultStatesOf, findingGiven, rankCauses, stateBeliefs } from '../diagnose';
import { asId, sum } from '../units';
import { designsBy, kindBeside, kindSeen, nextKindQuestion, tubSeen, type KindAnswers } from '.';

const catalogue = demoCatalogue();
const { kind_questions, kind_answers, designs } = catalogue;
const answersArb: fc.Arbitrary<KindAnswers> = fc
  .tuple(
    ...kind_questions.map(({ id }) =>
      fc.constantFrom(
        undefined,
        null,
        ...kind_answers.filter(({ questionId }) => questionId === id).map((answer) => answer.id),
      ),
    ),
  )
  .map((given) =>
    Object.fromEntries(
      kind_questions.flatMap(({ id }, index) => (given[index] === undefined ? [] : [[id, given[index]]])),
    ),
  );

const shareOf = (answers: KindAnswers, designId: string) =>
  designsBy(catalogue, answers).find(({ design }) => design.id === designId)?.probability ?? 0;

describe('the design of a machine that nobody listed', () => {
  it('is a distribution over all designs, whatever was answered, likeliest first', () => {
    fc.assert(
      fc.property(answersArb, (answers) => {
        const shares = designsBy(catalogue, answers).map(({ probability }) => probability);
        expect(shares).toHaveLength(designs.length);
        expect(sum(shares)).toBeCloseTo(1, 9);
        for (const [index, share] of shares.entries()) {
          expect(share).toBeGreaterThan(0);
          expect(share).toBeLessThanOrEqual(shares[index - 1] ?? 1);
        }
      }),
    );
  });
  it('does not move by what could not be told, nor by a question that nobody knows any more', () => {
    fc.assert(
      fc.property(answersArb, (answers) => {
        const told = Object.fromEntries(Object.entries(answers).filter(([, answer]) => answer !== null));
        expect(designsBy(catalogue, { ...answers, gone: 'x' })).toEqual(designsBy(catalogue, told));
      }),
    );
  });
  it('comes out as the machine is built when every look says so', () => {
    for (const { id } of designs) {
      const typical = Object.fromEntries(
        kind_questions.flatMap(({ id: questionId }) => {
          const rows = catalogue.kind_likelihoods.filter((row) => row.designId === id && row.questionId === questionId);
          const best = rows.sort((a, b) => b.p - a.p)[0];
          return best ? [[questionId, best.answerId]] : [];
        }),
      );
      expect(shareOf(typical, id), id).toBeGreaterThan(0.9);
    }
  });
  it('is held loosely: one look that does not fit does not rule a design out', () => {
    expect(shareOf({ loading: 'front', drive: 'belt', motor: 'brushed', hung: 'rods' }, 'F-BB')).toBeGreaterThan(0.5);
  });
});

describe('the next look', () => {
  it('is the easiest that tells something, and tells as much as it says', () => {
    expect(nextKindQuestion(catalogue, {})?.id).toBe('loading');
    expect(nextKindQuestion(catalogue, { loading: 'front' })?.id).toBe('drive');
    fc.assert(
      fc.property(answersArb, (answers) => {
        const asked = nextKindQuestion(catalogue, answers);
        if (!asked) return;
        expect(answers[asked.id]).toBeUndefined();
        expect(sum(asked.answers.map(({ probability }) => probability))).toBeCloseTo(1, 9);
        // The average over its answers is what is believed now: a question that is only asked moves nothing.
        for (const { design, probability } of designsBy(catalogue, answers)) {
          const after = asked.answers.map(
            ({ id, probability: p }) => p * shareOf({ ...answers, [asked.id]: id }, design.id),
          );
          expect(sum(after)).toBeCloseTo(probability, 9);
        }
      }),
      { numRuns: 40 },
    );
  });
  it('ends when the design is known well enough', () => {
    const looked = { loading: 'front', drive: 'direct', motor: 'inverter' };
    expect(nextKindQuestion(catalogue, looked)).toBeNull();
    expect(shareOf(looked, 'F-DD')).toBeGreaterThan(0.95);
    expect(kindSeen(catalogue, { drive: 'direct', loading: null }).map(({ id, answerId }) => [id, answerId])).toEqual([
      ['loading', null],
      ['drive', 'direct'],
    ]);
  });
});

describe('causes of a machine of several designs', () => {
  const bare = (tags: string[]): Platform => ({
    id: asId('u'),
    makerId: asId('u'),
    name: '',
    design: '',
    tags,
    loading: 'front',
    tub: 'bolted',
    description: '',
    serviceMode: undefined,
  });
  it('are those of each design by its share, exactly', () => {
    const noise = catalogue.findings.filter(({ designs: of }) => of.includes('all')).slice(0, 6);
    fc.assert(
      fc.property(answersArb, fc.subarray(noise), (answers, found) => {
        const mixture = designsBy(catalogue, answers);
        const evidence = {
          findings: found.map(({ id }) => ({ findingId: id, present: true })),
          outcomes: [],
          failedFixes: [],
        };
        const tags = [...new Set(mixture.flatMap(({ design }) => design.tags))];
        const together = rankCauses(knowledgeFor(catalogue, bare(tags), mixture), evidence);
        // A second way: every design by itself, weighed by how well it explains what was found.
        const alone = mixture.map(({ design, probability }) => {
          const knowledge = knowledgeFor(catalogue, bare(design.tags));
          const { beliefs } = stateBeliefs(knowledge, { ...evidence, findings: [] });
          return faultStatesOf(knowledge).map((state, index) => ({
            causeId: state.causeId,
            mass:
              probability *
              (beliefs[index] ?? 0) *
              found.reduce((mass, { id }) => mass * findingGiven(knowledge, state, id), 1),
          }));
        });
        const all = sum(alone.flat().map(({ mass }) => mass));
        for (const { causeId, probability } of together.causes)
          expect(probability, causeId).toBeCloseTo(
            sum(
              alone
                .flat()
                .filter((entry) => entry.causeId === causeId)
                .map(({ mass }) => mass),
            ) / all,
            9,
          );
        expect(together.causes.some(({ causeId }) => causeId === OTHER_CAUSE)).toBe(true);
      }),
      { numRuns: 30 },
    );
  });
});

describe('how the tub is closed', () => {
  it('is as somebody saw it, whatever the design, and moves no design', () => {
    const front: KindAnswers = { loading: 'front' };
    expect(tubSeen(catalogue, front)).toBeNull();
    expect(tubSeen(catalogue, { ...front, tub: null })).toBeNull();
    expect(tubSeen(catalogue, { ...front, tub: 'welded' })).toBe('welded');
    expect(designsBy(catalogue, { ...front, tub: 'welded' })).toEqual(designsBy(catalogue, front));
  });

  it('may be answered from the first, and is never asked', () => {
    expect(kindBeside(catalogue, {}).map(({ id, answerId }) => [id, answerId])).toEqual([['tub', null]]);
    fc.assert(fc.property(answersArb, (answers) => nextKindQuestion(catalogue, answers)?.id !== 'tub'));
  });
});
