import type { Platform, Proof } from '../catalogue';
import { mergeQuantities, type WorkPlan, type WorkStep } from '../labour';
import { addHours, sum, type Instant } from '../units';

/** What the bench needs to know of a ticket. */
export type BenchState = { ticks: readonly { key: string; at: Instant }[] };

export type SheetStep = {
  key: string;
  title: string;
  minutes: number;
  cautions: readonly string[];
  tools: readonly string[];
  people: number;
  noReturn: string | null;
  rescue: { what: string; chance: number; minutes: number } | null;
  tickedAt: Instant | null;
  /** The joint must not be loaded before this; null when nothing has to wait. */
  waitUntil: Instant | null;
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
  nextKey: string | null;
  remainingMinutes: number;
  waitUntil: Instant | null;
};

const toStep =
  (ticks: ReadonlyMap<string, Instant>) =>
  (step: WorkStep): SheetStep => {
    const key = `${step.kind} ${step.operationId}`;
    const tickedAt = ticks.get(key) ?? null;
    const { operation } = step;
    const waits =
      operation.elapsedHours > 0 && tickedAt !== null && (step.kind === 'refit' || operation.refitMinutes === 0);
    return {
      key,
      title: step.title,
      minutes: step.minutes,
      cautions: step.kind === 'refit' ? [] : operation.cautions,
      tools: operation.tools,
      people: operation.people,
      noReturn: step.kind === 'refit' ? null : (operation.noReturn ?? null),
      rescue:
        step.kind !== 'refit' && operation.rescue
          ? { what: operation.rescue, chance: operation.rescueChance, minutes: operation.rescueMinutes }
          : null,
      tickedAt,
      waitUntil: waits ? addHours(tickedAt, operation.elapsedHours) : null,
    };
  };

/** The work sheet of one machine: strip, work, refit, with what is ticked and what must wait. Keys are stable while the plan is. O(steps). */
export function buildWorkSheet(plan: WorkPlan, platform: Platform, state: BenchState): WorkSheet {
  const ticks = new Map(state.ticks.map((tick) => [tick.key, tick.at]));
  const sections: SheetSection[] = [
    { kind: 'strip', steps: plan.strip.filter((step) => step.kind === 'strip').map(toStep(ticks)) },
    { kind: 'work', steps: plan.strip.filter((step) => step.kind === 'work').map(toStep(ticks)) },
    { kind: 'refit', steps: plan.refit.map(toStep(ticks)) },
  ];
  const steps = sections.flatMap((section) => section.steps);
  const open = steps.filter((step) => step.tickedAt === null);
  const waits = steps.flatMap((step) => step.waitUntil ?? []).sort();
  return {
    platformName: platform.name,
    sections,
    cautions: plan.cautions,
    tools: plan.tools,
    consumables: mergeQuantities(plan.consumables),
    people: plan.people,
    done: steps.length - open.length,
    total: steps.length,
    nextKey: open[0]?.key ?? null,
    remainingMinutes: sum(open.map((step) => step.minutes)),
    waitUntil: waits.at(-1) ?? null,
  };
}

/** What must be tested: what the work disturbed decides, and the cause. 'always' proofs come every time. In stage order. O(proofs). */
export function proofsFor(proofs: readonly Proof[], disturbed: readonly string[], causeId: string | null): Proof[] {
  const stages = ['open', 'closed', 'handover'];
  return proofs
    .filter(
      (proof) =>
        proof.disturbedBy.includes('always') ||
        proof.disturbedBy.some((id) => disturbed.includes(id)) ||
        (causeId !== null && proof.causes.includes(causeId)),
    )
    .sort((a, b) => stages.indexOf(a.stage) - stages.indexOf(b.stage));
}
