import type { Platform, Proof } from '../catalogue';
import { mergeQuantities, sameStep, type Step, type WorkPlan, type WorkStep } from '../labour';
import { sum, type Instant, type CauseId } from '../units';

/** What the bench needs to know of a ticket. */
export type BenchState = { ticks: readonly { step: Step; at: Instant }[] };

export type SheetStep = {
  step: Step;
  title: string;
  minutes: number;
  cautions: readonly string[];
  tools: readonly string[];
  people: number;
  noReturn: string | null;
  rescue: { what: string; chance: number; minutes: number } | null;
  tickedAt: Instant | null;
  /** Hours for which nothing may load the joint once this is ticked; 0 for most. */
  waitHours: number;
};

export type SheetSection = { kind: 'strip' | 'work' | 'refit'; steps: SheetStep[] };

export type WorkSheet = {
  platformName: string;
  sections: SheetSection[];
  cautions: string[];
  tools: string[];
  consumables: { id: string; quantity: number }[];
  people: number;
  done: number;
  total: number;
  /** First step not ticked; null when all are done. */
  next: Step | null;
  remainingMinutes: number;
};

const toStep =
  (ticks: BenchState['ticks']) =>
  ({ kind: phase, operationId, operation, title, minutes }: WorkStep): SheetStep => {
    const step: Step = { phase, operationId };
    const isRefit = phase === 'refit';
    return {
      step,
      title,
      minutes,
      cautions: isRefit ? [] : operation.cautions,
      tools: operation.tools,
      people: operation.people,
      noReturn: isRefit ? null : (operation.noReturn ?? null),
      rescue:
        !isRefit && operation.rescue
          ? { what: operation.rescue, chance: operation.rescueChance, minutes: operation.rescueMinutes }
          : null,
      tickedAt: ticks.find((tick) => sameStep(tick.step, step))?.at ?? null,
      // It waits from the moment at which it is closed again; what is not put back waits when it is done.
      waitHours: isRefit || operation.refitMinutes === 0 ? operation.elapsedHours : 0,
    };
  };

/** The work sheet of one machine: strip, work, refit, with what is ticked and what must wait. O(steps × ticks). */
export function buildWorkSheet(plan: WorkPlan, platform: Platform, state: BenchState): WorkSheet {
  const { ticks } = state;
  const sections: SheetSection[] = [
    { kind: 'strip', steps: plan.strip.filter((step) => step.kind === 'strip').map(toStep(ticks)) },
    { kind: 'work', steps: plan.strip.filter((step) => step.kind === 'work').map(toStep(ticks)) },
    { kind: 'refit', steps: plan.refit.map(toStep(ticks)) },
  ];
  const steps = sections.flatMap((section) => section.steps);
  const open = steps.filter((step) => step.tickedAt === null);
  return {
    platformName: platform.name,
    sections,
    cautions: plan.cautions,
    tools: plan.tools,
    consumables: mergeQuantities(plan.consumables),
    people: plan.people,
    done: steps.length - open.length,
    total: steps.length,
    next: open[0]?.step ?? null,
    remainingMinutes: sum(open.map((step) => step.minutes)),
  };
}

/** What must be tested: what the work disturbed decides, the cause, and why it came about (`rootProofId`). 'always' proofs come every time. In stage order. O(proofs). */
export function proofsFor(
  proofs: readonly Proof[],
  disturbed: readonly string[],
  causeId: CauseId | null,
  rootProofId: string | null = null,
): Proof[] {
  return proofsInOrder(
    proofs.filter(
      (proof) =>
        proof.id === rootProofId ||
        proof.disturbedBy.includes('always') ||
        proof.disturbedBy.some((id) => disturbed.includes(id)) ||
        (causeId !== null && proof.causes.includes(causeId)),
    ),
  );
}

const STAGES = ['open', 'closed', 'handover'];

/** Open, closed, put back. */
export const proofsInOrder = (proofs: readonly Proof[]): Proof[] =>
  [...proofs].sort((a, b) => STAGES.indexOf(a.stage) - STAGES.indexOf(b.stage));
