import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { knowledgeFor, waysToMend } from '../catalogue';
import { inWorkingOrder, planWork, type Step, type WorkPlan } from '../labour';
import { asInstant, defined } from '../units';
import {
  buildWorkSheet,
  dueProofs,
  machineNow,
  proofsFor,
  refitNeedsOf,
  screwsOf,
  stepsBehind,
  type Beforehand,
  type BenchState,
} from '.';

const catalogue = demoCatalogue();
const AT = asInstant('2026-11-24T08:00:00.000Z');

/** Every job of the demo: each platform, each cause, each way. */
const jobs = catalogue.platforms.flatMap((platform) => {
  const knowledge = knowledgeFor(catalogue, platform);
  return knowledge.causes
    .flatMap((own) => waysToMend(knowledge, own).map(({ cause }) => cause))
    .map((cause) => ({
      platform,
      knowledge,
      cause,
      plan: inWorkingOrder(planWork(knowledge.operations, cause.operations), refitNeedsOf(knowledge.handling)),
    }));
});
type Job = (typeof jobs)[number];

const ALL_HOME = { missing: [] };
const sheetOf = (
  { plan, platform, knowledge }: Job,
  ticks: readonly Step[],
  before?: Beforehand,
  more: Partial<BenchState> = { count: ALL_HOME },
) => {
  const manual = { handling: knowledge.handling, joints: knowledge.joints, swapped: () => [] };
  const state = { ticks: ticks.map((step) => ({ step, at: AT })), ...more };
  return before ? buildWorkSheet(plan, platform, state, manual, before) : buildWorkSheet(plan, platform, state, manual);
};
const stepsOf = (job: Job, ticks: readonly Step[], before?: Beforehand) =>
  sheetOf(job, ticks, before).sections.flatMap(({ steps }) => steps);

describe('a work sheet and what it bars', () => {
  it('can always be worked in its own order, and never another way against what it bars: drawn orders of ticks', () => {
    fc.assert(
      fc.property(fc.nat(jobs.length - 1), fc.infiniteStream(fc.nat(1000)), (which, draws) => {
        const job = defined(jobs[which], 'a job');
        const ticks: Step[] = [];
        const has = (step: Step) =>
          ticks.some((one) => one.operationId === step.operationId && one.phase === step.phase);
        for (;;) {
          const steps = stepsOf(job, ticks);
          const open = steps.filter(({ tickedAt }) => tickedAt === null);
          if (open.length === 0) break;
          const free = open.filter(({ barred }) => barred === null);
          // Something can always be done, and the one shown as next is free.
          expect(open[0]?.barred, `${job.platform.id} ${job.cause.id}`).toBeNull();
          const chosen = defined(free[draws.next().value % free.length], 'a free step');
          const { phase, operationId } = chosen.step;
          const isolation = job.plan.strip.find(({ operation: { power } }) => power === 'off')?.operationId;
          if (isolation && operationId !== isolation && phase !== 'refit')
            expect(has({ phase: 'strip', operationId: isolation })).toBe(true);
          if (phase === 'refit')
            for (const later of needing(job.plan, operationId))
              expect(has({ phase: 'refit', operationId: later }), `${operationId} before ${later}`).toBe(true);
          ticks.push(chosen.step);
        }
        // All is back: nothing is off, and it stands as it came.
        expect(sheetOf(job, ticks).now).toMatchObject({ off: [], interlocksOff: [], posture: 'upright' });
      }),
      { numRuns: 150 },
    );
  });

  it('closes no machine before the bench is counted empty, and says what is not home', () => {
    const job = defined(
      jobs.find(({ platform, cause }) => platform.id === 'fj-a1' && cause.id === 'bearings'),
      'bearings',
    );
    const empty = sheetOf(job, [], undefined, {});
    const closing = defined(empty.count, 'a count').closing;
    expect(empty.count?.isDue).toBe(false);
    const refit = job.plan.refit.map(({ operationId }): Step => ({ phase: 'refit', operationId }));
    const at = refit.findIndex(({ operationId }) => operationId === closing.operationId);
    const before = [
      ...job.plan.strip.map(({ kind, operationId }): Step => ({ phase: kind, operationId })),
      ...refit.slice(0, at),
    ];
    const barred = (more: Partial<BenchState>) => {
      const sheet = sheetOf(job, before, undefined, more);
      return sheet.sections
        .flatMap(({ steps }) => steps)
        .find(({ step }) => step.phase === 'refit' && step.operationId === closing.operationId)?.barred;
    };
    expect(sheetOf(job, before, undefined, {}).count?.isDue).toBe(true);
    expect(barred({})).toEqual({ kind: 'count-first' });
    expect(barred({ count: { missing: ['torx 20'] } })).toEqual({ kind: 'not-home', missing: ['torx 20'], pieces: [] });
    const piece = (operationId: string, home: boolean) => ({
      pieces: [{ piece: 1, text: 'clip', step: { phase: 'strip' as const, operationId }, photoId: null, home }],
      count: ALL_HOME,
    });
    const elsewhere = defined(job.plan.strip.at(-1), 'a step').operationId;
    expect(barred(piece(elsewhere, false))).toEqual({ kind: 'not-home', missing: [], pieces: [1] });
    expect(barred(piece(elsewhere, true))).toBeNull();
    // What belongs under the last panel itself goes home with it.
    expect(barred(piece(closing.operationId, false))).toBeNull();
    // A tool that the last panel takes cannot be home before.
    const last = job.plan.refit[at]?.operation.tools ?? [];
    expect(empty.count?.items.some((tool) => last.includes(tool))).toBe(false);
  });

  it('opens again, after a proof that failed, what it tests and all that goes back after that', () => {
    const job = defined(
      jobs.find(({ platform, cause }) => platform.id === 'fj-a1' && cause.id === 'bearings'),
      'bearings',
    );
    const leak = defined(
      job.knowledge.proofs.find(({ id }) => id === 'leak'),
      'the leak test',
    );
    const steps = stepsBehind(leak, job.plan);
    const goesBack = { ...leak, disturbedBy: ['tub-split'] };
    expect(stepsBehind(goesBack, job.plan)[0]?.operationId).toBe('tub-split');
    expect(steps.length).toBeGreaterThanOrEqual(stepsBehind(goesBack, job.plan).length);
    expect(steps.at(-1)?.operationId).toBe(job.plan.refit.at(-1)?.operationId);
    const all = stepsOf(job, []).map(({ step }) => step);
    const open = all.filter(
      (step) => !steps.some(({ operationId }) => step.phase === 'refit' && step.operationId === operationId),
    );
    // It can be worked to its end from there.
    const ticks = [...open];
    for (let next = sheetOf(job, ticks).next; next; next = sheetOf(job, ticks).next) ticks.push(next);
    expect(ticks).toHaveLength(all.length);
    expect(stepsBehind({ ...leak, disturbedBy: ['nothing'] }, job.plan)).toEqual([]);
  });

  it('lets nobody cut, drill or break a gasket before the parts are here and the customer said yes', () => {
    const last = jobs.filter(({ plan }) => plan.pointsOfNoReturn.length > 0);
    expect(last.length).toBeGreaterThan(10);
    for (const job of last) {
      const isolated: Step[] = [{ phase: 'strip', operationId: 'isolate' }];
      const barred = (before: Beforehand) => stepsOf(job, isolated, before).find(({ noReturn }) => noReturn)?.barred;
      expect(barred({ partsHere: false, yes: true, curing: false })).toEqual({
        kind: 'no-way-back',
        lacking: ['parts'],
      });
      expect(barred({ partsHere: true, yes: false, curing: false })).toEqual({ kind: 'no-way-back', lacking: ['yes'] });
      expect(barred({ partsHere: true, yes: true, curing: false })).toBeNull();
    }
  });

  it('does nothing more to a machine that is plugged in again, and opens no tap while a joint cures', () => {
    const job = defined(
      jobs.find(({ platform, cause }) => platform.id === 'fj-a1' && cause.id === 'bearings'),
      'bearings',
    );
    const all = stepsOf(job, []).map(({ step }) => step);
    const isPanel = ({ phase, operationId }: Step) => phase === 'refit' && operationId === 'back-off';
    // All is back and it is plugged in; then somebody finds that the back panel must come off once more.
    const again = stepsOf(
      job,
      all.filter((step) => !isPanel(step)),
    );
    expect(again.find(({ step }) => isPanel(step))?.barred).toEqual({ kind: 'not-isolated' });
    const unplugged = stepsOf(
      job,
      all.filter((step) => !isPanel(step) && !(step.phase === 'refit' && step.operationId === 'isolate')),
    );
    expect(unplugged.find(({ step }) => isPanel(step))?.barred).toBeNull();

    const last = all.at(-1);
    const barred = (curing: boolean) =>
      stepsOf(job, all.slice(0, -1), { partsHere: true, yes: true, curing }).at(-1)?.barred;
    expect(last).toEqual({ phase: 'refit', operationId: 'isolate' });
    expect(barred(true)).toEqual({ kind: 'curing' });
    expect(barred(false)).toBeNull();
  });

  it('says the machine’s state by the ticks: isolated, on its back, lock off', () => {
    const job = defined(
      jobs.find(({ platform, cause }) => platform.id === 'fj-a1' && cause.id === 'bearings'),
      'bearings',
    );
    const strip = job.plan.strip.map(({ operationId, kind }): Step => ({
      phase: kind === 'work' ? 'work' : 'strip',
      operationId,
    }));
    const now = machineNow(
      job.plan,
      strip.map((step) => ({ step })),
      job.knowledge.handling,
    );
    expect(now).toMatchObject({ power: 'off', water: 'shut' });
    expect(now.interlocksOff.map(({ operationId }) => operationId)).toEqual(['front-off']);
    expect(sheetOf(job, strip).off.screws).toBeGreaterThan(20);
    expect(machineNow(job.plan, [], job.knowledge.handling)).toMatchObject({ power: 'on', off: [] });
  });

  it('has for most of what comes off a manual: how, how it sits, what it warns of', () => {
    const access = jobs.flatMap(({ plan, knowledge }) =>
      plan.refit.map(({ operationId }) => knowledge.handling.get(operationId)),
    );
    const share = (has: (row: NonNullable<(typeof access)[number]>) => boolean) =>
      access.filter((row) => row && has(row)).length / access.length;
    expect(share(() => true)).toBe(1);
    expect(share(({ pose, refitCautions, tightness }) => Boolean(pose ?? tightness) || refitCautions.length > 0)).toBe(
      1,
    );
  });

  it('reads screws by count, kind and hole', () => {
    expect(screwsOf('4 x M5x16 hex, rear edge')).toEqual({ count: 4, what: 'M5x16 hex', hole: 'rear edge' });
    expect(screwsOf('2 x spring clips')).toEqual({ count: 2, what: 'spring clips', hole: '' });
    expect(screwsOf('the earth nut')).toEqual({ count: 1, what: 'the earth nut', hole: '' });
  });
});

const needing = (plan: WorkPlan, operationId: string): string[] =>
  plan.refit
    .filter(({ operation }) => operation.needs.some((group) => group.includes(operationId)))
    .map((one) => one.operationId);

describe('proofs and what they wait for', () => {
  const { knowledge, plan } = defined(
    jobs.find(({ platform, cause }) => platform.id === 'fj-a1' && cause.id === 'element'),
    'element',
  );
  const due = proofsFor(
    knowledge.proofs,
    plan.strip.map(({ operationId }) => operationId),
    null,
  );
  const none = { passed: () => null, closed: true, cures: () => false, liveBarred: false, figureOf: () => null };
  const barOf = (id: string, facts: Partial<Parameters<typeof dueProofs>[1]>) =>
    dueProofs(due, { ...none, ...facts }).find(({ proof }) => proof.id === id)?.barred;

  it('bar power while it is open, before earth is whole, and while a finding forbids it', () => {
    expect(barOf('failed-cycle', { closed: false })).toBe('not-closed');
    expect(barOf('leak', { cures: ({ id }) => id === 'leak' })).toBe('curing');
    expect(barOf('insulation', { closed: false })).toBeNull();
    expect(barOf('failed-cycle', {})).toBe('safe-first');
    const safe = (id: string) => (id === 'earth' || id === 'nothing-left' ? true : null);
    expect(barOf('failed-cycle', { passed: safe })).toBeNull();
    expect(barOf('failed-cycle', { passed: safe, liveBarred: true })).toBe('live-barred');
    expect(barOf('earth', { liveBarred: true })).toBeNull();
  });

  it('cannot be passed with a figure outside its limit', () => {
    const figure = (verdict: string) => (limitId: string) => ({ limitId, value: 1, unit: 'Ohm', verdict, at: AT });
    expect(barOf('earth', { figureOf: figure('above') })).toBe('figure-outside');
    expect(barOf('earth', { figureOf: figure('within') })).toBeNull();
  });

  it('come in an order in which each can be passed when its turn is', () => {
    for (const { knowledge: known, plan: own, cause } of jobs) {
      const passed = new Set<string>();
      const all = proofsFor(
        known.proofs,
        own.strip.map(({ operationId }) => operationId),
        cause.id,
      );
      for (const { id } of all) {
        const now = dueProofs(all, { ...none, passed: (one) => (passed.has(one) ? true : null) });
        expect(now.find(({ proof }) => proof.id === id)?.barred, `${cause.id} ${id}`).toBeNull();
        passed.add(id);
      }
    }
  });
});
