import type { CauseId, ModelId, PlatformId } from '../units';
import { addFailure, type Failures } from './lives';
import { addRescues, type RescueCounts, type TriedStep } from './rescues';
import { addSteps, noStepSums, type StepSums, type TimedStep } from './stepTimes';

/** What a closed ticket teaches, as plain values. */
export type ClosedTicket = {
  modelId: ModelId | null;
  design: string | null;
  causeId: CauseId | null;
  takenMinutes: number | null;
  /** By the list: what was learned before is not in it, or learning would run after itself. */
  listMinutes: number | null;
  rightFirstTime: boolean | null;
  platformId?: PlatformId | null;
  /** When it failed. */
  ageYears?: number | null;
  steps?: readonly TimedStep[];
  tried?: readonly TriedStep[];
};

export type Learned = {
  closed: number;
  shopCounts: Record<string, number>;
  /** Cases per design and cause. */
  causeCounts: Record<string, Record<string, number>>;
  /** Sums over the tickets of a design that have both figures. */
  minutes: Record<string, { taken: number; listed: number; tickets: number }>;
  rightFirst: { right: number; known: number };
  /** Steps by the clock at the bench. */
  steps: StepSums;
  /** Steps that would not come by themselves. */
  rescues: RescueCounts;
  /** Which cause at which age. */
  failures: Failures[];
};

export const nothingLearned = (): Learned => ({
  closed: 0,
  shopCounts: {},
  causeCounts: {},
  minutes: {},
  rightFirst: { right: 0, known: 0 },
  steps: noStepSums(),
  rescues: {},
  failures: [],
});

/** Counts of what closed tickets say. O(tickets). */
export function learnFrom(closedTickets: readonly ClosedTicket[]): Learned {
  const learned = nothingLearned();
  for (const ticket of closedTickets) {
    learned.closed += 1;
    if (ticket.modelId !== null) learned.shopCounts[ticket.modelId] = (learned.shopCounts[ticket.modelId] ?? 0) + 1;
    if (ticket.design !== null && ticket.causeId !== null) {
      const counts = (learned.causeCounts[ticket.design] ??= {});
      counts[ticket.causeId] = (counts[ticket.causeId] ?? 0) + 1;
      const { design, causeId, platformId = null, ageYears } = ticket;
      if (ageYears != null) addFailure(learned.failures, { design, causeId, platformId }, ageYears);
    }
    if (
      ticket.design !== null &&
      ticket.takenMinutes !== null &&
      ticket.listMinutes !== null &&
      ticket.listMinutes > 0
    ) {
      const minutes = (learned.minutes[ticket.design] ??= { taken: 0, listed: 0, tickets: 0 });
      minutes.taken += ticket.takenMinutes;
      minutes.listed += ticket.listMinutes;
      minutes.tickets += 1;
    }
    addRescues(learned.rescues, ticket.tried ?? []);
    addSteps(learned.steps, ticket.steps ?? [], ticket.platformId ?? null);
    if (ticket.rightFirstTime !== null) {
      learned.rightFirst.known += 1;
      if (ticket.rightFirstTime) learned.rightFirst.right += 1;
    }
  }
  return learned;
}

/** Weight of the catalogue's prior, in cases: after this many own cases both count the same. */
const PRIOR_CASES = 30;
/** The same for times: with five own jobs they count half. */
const PRIOR_JOBS = 5;

/** By what the shop's own cases multiply a cause's prior share: posterior mean of a Dirichlet over the prior. 1 without cases. */
export function causeFactor(learned: Learned, design: string, causeId: CauseId, priorShare: number): number {
  const counts = learned.causeCounts[design];
  if (!counts || priorShare <= 0) return 1;
  const total = Object.values(counts).reduce((sum, count) => sum + count, 0);
  return (PRIOR_CASES * priorShare + (counts[causeId] ?? 0)) / (PRIOR_CASES + total) / priorShare;
}

/** Ratio of the hours it really took to those of the list, drawn to 1 when there are few jobs. Between 0.5 and 2. */
export function timeFactor(learned: Learned, design: string): number {
  const minutes = learned.minutes[design];
  if (!minutes) return 1;
  const own = minutes.taken / minutes.listed;
  return Math.min(2, Math.max(0.5, (PRIOR_JOBS + minutes.tickets * own) / (PRIOR_JOBS + minutes.tickets)));
}
