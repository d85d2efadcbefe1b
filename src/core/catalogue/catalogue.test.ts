import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoFiles, platform } from '../../../tests/support/demo';
import { knowledgeFor, OTHER_CAUSE, tableNames } from '.';
import { readPackage, type PackageFile } from '../package';

const edit = (name: string, change: (text: string) => string): PackageFile[] =>
  demoFiles().map((file) => (file.path === name ? { ...file, text: change(file.text) } : file));

const problemsOf = (files: PackageFile[]) =>
  readPackage(files).problems.map(({ file, row, column, value, why }) =>
    [file, row ?? '-', column ?? '-', value ?? '-', why].join(' | '),
  );

describe('the demo package', () => {
  it('is without a fault, and as large as promised', () => {
    const { catalogue, problems } = readPackage(demoFiles());
    expect(problems).toEqual([]);
    expect(catalogue.makers.length).toBe(4);
    expect(catalogue.badges.length).toBeGreaterThanOrEqual(6);
    expect(catalogue.platforms.length).toBe(12);
    expect(catalogue.models.length).toBeGreaterThanOrEqual(400);
    expect(catalogue.parts.length).toBeGreaterThanOrEqual(880);
    expect(catalogue.offers.length).toBeGreaterThanOrEqual(2000);
    expect(catalogue.suppliers.length).toBe(5);
    for (const name of tableNames) expect(catalogue[name].length, name).toBeGreaterThan(0);
  });

  it('covers every cause of its two complete designs, each with a way to mend it and at least one sign', () => {
    const catalogue = demoCatalogue();
    for (const id of ['fj-a1', 'os-t4']) {
      const knowledge = knowledgeFor(catalogue, platform(id));
      expect(knowledge.causes.length).toBeGreaterThan(20);
      const told = new Set(catalogue.likelihoods.map((row) => row.causeId));
      const tried = new Set(catalogue.outcome_likelihoods.map((row) => row.causeId));
      for (const cause of knowledge.causes) {
        expect(cause.operations.length, cause.id).toBeGreaterThan(0);
        expect(told.has(cause.id) || tried.has(cause.id), cause.id).toBe(true);
      }
      expect(knowledge.causes.some((cause) => cause.roleId === undefined)).toBe(true);
    }
  });
});

describe('knowledge of a platform', () => {
  it('puts the platform’s own rows in place of those of its design', () => {
    const general = knowledgeFor(demoCatalogue(), platform('fj-a1')).limits.find((limit) => limit.id === 'element');
    const own = knowledgeFor(demoCatalogue(), platform('qu-m1')).limits.find((limit) => limit.id === 'element');
    expect(general?.powerW).toBe(2000);
    expect(own?.powerW).toBe(1850);
  });

  it('gives outcomes that sum to one for every cause, listed or not', () => {
    for (const { id } of demoCatalogue().platforms) {
      const knowledge = knowledgeFor(demoCatalogue(), platform(id));
      for (const check of knowledge.checks)
        for (const cause of [...knowledge.causes.map((entry) => entry.id), OTHER_CAUSE]) {
          const total = check.outcomes.reduce(
            (sum, outcome) => sum + knowledge.outcomeLikelihood(cause, check.id, outcome.id),
            0,
          );
          expect(total, `${id} ${check.id} ${cause}`).toBeCloseTo(1, 9);
        }
    }
  });

  it('never holds anything for certain', () => {
    const knowledge = knowledgeFor(demoCatalogue(), platform('fj-a1'));
    for (const cause of knowledge.causes)
      for (const finding of knowledge.findings) {
        const p = knowledge.findingLikelihood(cause.id, finding.id);
        expect(p).toBeGreaterThan(0);
        expect(p).toBeLessThan(1);
      }
  });
});

describe('reading a package', () => {
  it('names file, row, column, value and reason of every fault, and keeps the good rows', () => {
    const files = edit('models.csv', (text) => `${text}m-x,AB 1,vessby,fjordal,fj-zz,-1,2019-31-12,,7,\n`);
    const lines = problemsOf(files);
    expect(lines).toContain('models.csv | 422 | popularity | -1 | -1 is below 0');
    expect(lines).toContain('models.csv | 422 | platformId | fj-zz | does not exist in platforms.');
    expect(lines.some((line) => line.startsWith('models.csv | 422 | producedFrom | 2019-31-12'))).toBe(true);
    expect(readPackage(files).catalogue.models.length).toBe(demoCatalogue().models.length);
  });

  it('does not report what points to a bad row as a second fault', () => {
    const lines = problemsOf(edit('suppliers.csv', (text) => text.replace('0.00 EUR', 'free')));
    expect(lines).toHaveLength(1);
    expect(lines[0]).toContain('suppliers.csv | 2 | minimumOrder | free');
  });

  it('finds doubled keys and dangling references', () => {
    const lines = problemsOf(
      edit(
        'relations.csv',
        (text) => `${text}x-dangling,p-0001,p-none,sister,1,somebody,\nx-dangling,p-0001,p-0002,sister,1,somebody,\n`,
      ),
    );
    expect(lines.some((line) => line.includes('p-none | does not exist in parts'))).toBe(true);
    expect(lines.some((line) => line.includes('x-dangling | stands in this file twice'))).toBe(true);
    expect(lines).toHaveLength(2);
  });

  it('notices circles, sources that disagree and dead ends, and takes the package all the same', () => {
    const before = readPackage(demoFiles()).notices;
    const count = (notices: typeof before, kind: string) => notices.find((notice) => notice.kind === kind)?.count ?? 0;
    const step = demoCatalogue().relations.find((relation) => relation.kind === 'superseded-by');
    const { problems, notices } = readPackage(
      edit('relations.csv', (text) => {
        const back = `x-back,${step?.toPartId},${step?.fromPartId},superseded-by,1,${step?.source},\n`;
        return `${text}${back}x-other,${step?.fromPartId},p-0003,superseded-by,1,somebody else,\n`;
      }),
    );
    expect(problems).toEqual([]);
    expect(count(notices, 'supersession-circle')).toBe(1);
    expect(count(notices, 'sources-disagree')).toBe(count(before, 'sources-disagree') + 1);
    const plain = demoCatalogue().parts.filter(
      (part) =>
        part.status === 'discontinued' &&
        !demoCatalogue().relations.some(({ kind, fromPartId }) => kind === 'superseded-by' && fromPartId === part.id),
    );
    expect(notices.find((notice) => notice.kind === 'dead-end')?.partIds).toEqual(plain.map((part) => part.id));
  });

  it('says which column or file is missing', () => {
    expect(problemsOf(edit('makers.csv', (text) => text.replace('id,name', 'id,title')))).toContain(
      'makers.csv | 1 | name | - | this column is missing from the header.',
    );
    const without = demoFiles().filter((file) => file.path !== 'offers.csv');
    expect(
      problemsOf(without).some((line) => line.startsWith('offers.csv') && line.includes('not in the package')),
    ).toBe(true);
    expect(problemsOf([{ path: 'x.csv', text: '' }])[0]).toContain('this is not a catalogue package');
    expect(problemsOf(edit('datapackage.json', () => '{'))[0]).toContain('is not JSON');
  });

  it('does not drown in a file of nothing but faults', () => {
    const bad = Array.from({ length: 5000 }, (_, i) => `o-b${i},northquay,p-0001,NO1,none,1,1,1`).join('\n');
    const lines = problemsOf(edit('offers.csv', (text) => `${text}${bad}\n`));
    expect(lines.length).toBeLessThanOrEqual(2001);
    expect(lines.at(-1)).toMatch(/more problems are not listed/);
  });
});
