import { type Instant, asInstant, type CauseId, asId } from '../units';
import { describe, expect, it } from 'vitest';
import { demoCatalogue, platform } from '../../../tests/support/demo';
import { knowledgeFor } from '../catalogue';
import { inWorkingOrder, planWork, type Step } from '../labour';
import { buildWorkSheet, proofsFor } from '.';

const knowledge = knowledgeFor(demoCatalogue(), platform('fj-a1'));
const planFor = (causeId: CauseId) =>
  inWorkingOrder(
    planWork(knowledge.operations, knowledge.causes.find((cause) => cause.id === causeId)?.operations ?? []),
    () => [],
  );
const sheetFor = (causeId: CauseId, ticks: { step: Step; at: Instant }[] = []) =>
  buildWorkSheet(planFor(causeId), platform('fj-a1'), { ticks });
const stepsOf = (causeId: CauseId) => sheetFor(causeId).sections.flatMap((section) => section.steps);

describe('a work sheet', () => {
  it('has each step once, in the order of the job, and counts down to nothing', () => {
    const all = stepsOf(asId('bearings')).map(({ step }) => step);
    expect(new Set(all.map(({ phase, operationId }) => `${phase} ${operationId}`)).size).toBe(all.length);
    const ticks = all.map((step) => ({ step, at: asInstant('2026-11-24T08:00:00.000Z') }));
    let left = Infinity;
    for (let done = 0; done <= all.length; done += 1) {
      const sheet = sheetFor(asId('bearings'), ticks.slice(0, done));
      expect(sheet.done).toBe(done);
      expect(sheet.next).toEqual(all[done] ?? null);
      expect(sheet.remainingMinutes).toBeLessThanOrEqual(left);
      left = sheet.remainingMinutes;
    }
    expect(left).toBe(0);
  });

  it('waits for the sealant from the moment at which the joint is closed, and not when it is opened', () => {
    const closing = planFor(asId('bearings')).strip.find((step) => step.operation.elapsedHours > 0);
    const waits = stepsOf(asId('bearings')).filter(({ waitHours }) => waitHours > 0);
    expect(waits.map(({ step, waitHours }) => [step, waitHours])).toEqual([
      [{ phase: 'refit', operationId: closing?.operationId }, closing?.operation.elapsedHours],
    ]);
  });

  it('warns where it can hurt: isolation first, points of no return before they are passed', () => {
    const sheet = sheetFor(asId('bearings'));
    expect(sheet.cautions.length).toBeGreaterThan(2);
    expect(sheet.sections[0]?.steps[0]?.title).toMatch(/unplug/i);
    const welded = buildWorkSheet(
      inWorkingOrder(
        planWork(
          knowledgeFor(demoCatalogue(), platform('fj-a2')).operations,
          knowledgeFor(demoCatalogue(), platform('fj-a2')).causes.find((cause) => cause.id === 'bearings')
            ?.operations ?? [],
        ),
        () => [],
      ),
      platform('fj-a2'),
      { ticks: [] },
    );
    expect(welded.sections.flatMap((section) => section.steps).some((step) => step.noReturn !== null)).toBe(true);
  });
});

describe('proofs', () => {
  it('follow from what was disturbed and from the cause, in stages', () => {
    const disturbed = planFor(asId('drain-pump')).strip.map((step) => step.operationId);
    const proofs = proofsFor(knowledge.proofs, disturbed, asId('drain-pump')).map((proof) => proof.id);
    expect(proofs).toEqual(expect.arrayContaining(['leak', 'failed-cycle', 'root-cause', 'nothing-left', 'put-back']));
    expect(proofs).not.toContain('tub-bench');
    const bearings = proofsFor(
      knowledge.proofs,
      planFor(asId('bearings')).strip.map((step) => step.operationId),
      asId('bearings'),
    );
    expect(bearings.map((proof) => proof.id)).toContain('tub-bench');
    const stages = ['open', 'closed', 'handover'];
    const order = bearings.map((proof) => stages.indexOf(proof.stage));
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });
});
