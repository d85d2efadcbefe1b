import { dueProofs, proofsFor, refitNeedsOf } from '@/core/bench';
import { knowledgeFor, waysToMend } from '@/core/catalogue';
import { inWorkingOrder, planWork } from '@/core/labour';
import { unique } from '@/core/units';
import { demoCatalogue } from '../../tests/support/demo';
import { percent, table } from './report';

/** How much of what a careful master would write stands on the sheets of the demo's jobs: each platform, cause and way. */
export function benchSheets(): void {
  const catalogue = demoCatalogue();
  const jobs = catalogue.platforms.flatMap((platform) => {
    const knowledge = knowledgeFor(catalogue, platform);
    return knowledge.causes
      .flatMap((own) => waysToMend(knowledge, own).map(({ cause }) => cause))
      .map((cause) => {
        const plan = inWorkingOrder(planWork(knowledge.operations, cause.operations), refitNeedsOf(knowledge.handling));
        return { knowledge, cause, plan };
      });
  });
  const steps = jobs.flatMap(({ plan, knowledge }) =>
    [...plan.strip, ...plan.refit].map((step) => ({ ...step, own: knowledge.handling.get(step.operationId) })),
  );
  const count = (name: string, of: typeof steps, has: (step: (typeof steps)[number]) => boolean) => [
    name,
    `${of.filter(has).length} of ${of.length}`,
    percent(of.filter(has).length / Math.max(1, of.length)),
  ];
  const strip = steps.filter(({ kind }) => kind === 'strip');
  const work = steps.filter(({ kind }) => kind === 'work');
  const refit = steps.filter(({ kind }) => kind === 'refit');
  table(
    `Sheets: ${jobs.length} jobs of ${catalogue.platforms.length} platforms, ${steps.length} steps`,
    ['steps that say', 'rows', 'share'],
    [
      count('strip: how', strip, ({ own }) => own?.how !== undefined),
      count('strip: caution', strip, ({ operation }) => operation.cautions.length > 0),
      count('strip: connections', strip, ({ own }) => (own?.connections.length ?? 0) > 0),
      count('strip: screws by kind and hole', strip, ({ own }) => (own?.screws.length ?? 0) > 0),
      count('strip: what to look at', strip, ({ own }) => own?.look !== undefined),
      count('strip: rescue', strip, ({ operation }) => operation.rescueChance > 0),
      count('work: how', work, ({ own }) => own?.how !== undefined),
      count('work: pose', work, ({ own }) => own?.pose !== undefined),
      count('refit: order of its own', refit, ({ own }) => (own?.refitNeeds.length ?? 0) > 0),
      count('refit: caution', refit, ({ own }) => (own?.refitCautions.length ?? 0) > 0),
      count('refit: pose', refit, ({ own }) => own?.pose !== undefined),
      count('refit: tightness', refit, ({ own }) => own?.tightness !== undefined),
    ],
  );
  const mirrored = jobs.filter(({ plan }) => {
    const back = plan.strip.filter(({ operation }) => operation.refitMinutes > 0).map(({ operationId }) => operationId);
    return plan.refit.map(({ operationId }) => operationId).join() === back.reverse().join();
  });
  const proofs = jobs.map(
    ({ plan, knowledge, cause }) =>
      dueProofs(
        proofsFor(
          knowledge.proofs,
          plan.strip.map(({ operationId }) => operationId),
          cause.id,
        ),
        { passed: () => null, closed: true, cures: () => false, liveBarred: false, figureOf: () => null },
      ).length,
  );
  const own = unique(steps.map(({ operationId }) => operationId));
  console.log(
    `refit plans that are not the mirror: ${jobs.length - mirrored.length} of ${jobs.length}; refused orders: ${jobs.flatMap(({ plan }) => plan.refusedOrders).length}; proofs a job: ${Math.min(...proofs)} to ${Math.max(...proofs)}; operations in use: ${own.length}, with a manual: ${own.filter((id) => steps.some((step) => step.operationId === id && step.own)).length}`,
  );
}
