import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { knowledgeFor, layeredCatalogue, tables, type Catalogue } from '../catalogue';
import { findingsIn, nextSteps, rankCauses } from '../diagnose';
import { asId } from '../units';
import { causeCard, ownCheck, ownLikelihood, ownPhrase, rowsOfCheck, type OwnRow } from './ownKnowledge';
import { ownRows } from './ownRows';

const catalogue = demoCatalogue();

/** The catalogue with rows of the shop's own over it, through the layer by which the application sees them. */
const over = (own: readonly OwnRow[]): Catalogue => layeredCatalogue(catalogue, ownRows([], [], own, catalogue).rows);

describe('the shop’s own word on causes', () => {
  it('every cause has a card that says what the rows say', () => {
    for (const { id } of catalogue.causes) {
      const card = causeCard(catalogue, id);
      expect(card?.findings).toHaveLength(catalogue.likelihoods.filter(({ causeId }) => causeId === id).length);
      for (const { p, background } of card?.checks ?? []) expect(p).toBeGreaterThan(background);
      for (const { name } of [...(card?.brings ?? []), ...(card?.broughtBy ?? [])]) expect(name).toMatch(/[A-Z]/);
    }
    expect(causeCard(catalogue, 'nothing')).toBeNull();
  });

  it('a likelihood of one’s own stands in the place of the trade’s, and moves the cause with it', () => {
    fc.assert(
      fc.property(fc.constantFrom(0, 0.1, 0.5, 0.99), (p) => {
        const own = over([ownLikelihood('brushes', 'sparks', p)]);
        expect(own.likelihoods).toHaveLength(catalogue.likelihoods.length);
        expect(causeCard(own, 'brushes')?.findings.find(({ findingId }) => findingId === 'sparks')?.p).toBe(p);
        const share = (from: Catalogue) =>
          rankCauses(knowledgeFor(from, platform('fj-a1')), {
            findings: [{ findingId: 'sparks', present: true }],
            outcomes: [],
            failedFixes: [],
          }).causes.find(({ causeId }) => causeId === asId('brushes'))?.probability ?? NaN;
        expect(Math.sign(share(own) - share(catalogue))).toBe(Math.sign(p - 0.3));
      }),
    );
  });

  it('a check of one’s own is read as a table’s rows are, is proposed where it pays, and goes again whole', () => {
    const cause = catalogue.causes.find(({ id }) => id === asId('brushes'));
    if (!cause) throw new Error('no brushes');
    const rows = ownCheck('own-1', cause, {
      title: 'Smell at the vent',
      how: 'Nose to the vent while it tries.',
      minutes: 1,
      state: 'isolated',
      seen: 'Burnt carbon',
      p: 0.95,
      otherwise: 'Nothing',
      background: 0.02,
    });
    for (const { table, cells } of rows)
      expect(tables[table === 'checks' ? 'checks' : 'outcomes'] && cells).toBeTruthy();
    const knowledge = knowledgeFor(over(rows), platform('fj-a1'));
    const check = knowledge.checks.find(({ id }) => id === 'own-1');
    expect(check?.outcomes.map(({ text }) => text)).toEqual(['Burnt carbon', 'Nothing']);
    const steps = nextSteps(
      knowledge,
      { findings: [{ findingId: 'drum-stands', present: true }], outcomes: [], failedFixes: [] },
      { perMinute: 0.9, parts: () => 40, escalate: 400, open: [] },
    );
    expect(steps.findIndex(({ kind, id }) => kind === 'check' && id === 'own-1')).toBeLessThan(4);
    expect(rowsOfCheck('own-1', rows)).toEqual(rows.map(({ id }) => id));
  });

  it('a phrase of one’s own is heard in a complaint', () => {
    const own = over([ownPhrase('roars', '  Like a   Tractor ')]);
    const heard = (from: Catalogue) =>
      findingsIn('it sounds like a tractor', from.phrases, from.findings).map(({ findingId }) => findingId);
    expect(heard(catalogue)).not.toContain('roars');
    expect(heard(own)).toContain('roars');
  });
});
