import type { Supplier } from '../../catalogue';
import { coveredBy, worthBringing, type Brought, type CauseRanking } from '../../diagnose';
import { toMajor, unique } from '../../units';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { Job, Jobs } from './jobs';

/** What to have beforehand: going to the customer, or ordering in one go. */
export type AlongShown = {
  /** Parts to bring to the customer's: without them one comes twice. */
  bring: Brought[];
  tools: string[];
  /** P(one trip is enough). */
  covered: number;
  /** Parts worth ordering with those of the likeliest cause: the second wait costs more than giving them back. */
  orderWith: Brought[];
};

const LIKELY_FROM = 0.03;
/** There and back, beside what the trip costs the owner. */
const TRIP_MINUTES = 40;

export const alongChapter: Chapter<
  'along',
  {
    ranking: CauseRanking;
    jobs: Jobs;
    suppliers: readonly Supplier[];
    settings: Settings;
  },
  AlongShown
> = {
  name: 'along',
  byContent: ['settings'],
  answer: ({ ranking, jobs, suppliers, settings }) => {
    const likely = ranking.causes.flatMap(({ causeId, probability }) => {
      const [job] = jobs.get(causeId) ?? [];
      return job && probability >= LIKELY_FROM ? [{ cause: job.way.cause, probability, job }] : [];
    });
    const perMinute = toMajor(settings.labourPerHour) / 60;
    const late = toMajor(settings.latePerDay);
    const restocking = (job: Job) => restockingOf(job, suppliers);
    const toBring = likely.map(({ cause, probability, job }) => ({
      causeId: cause.id,
      probability,
      parts: cause.roleId ? job.costMajor : 0,
      restocking: restocking(job),
      secondTrip: TRIP_MINUTES * perMinute + job.waitDays * late,
    }));
    const bring = worthBringing(toBring);
    const noPart = likely.reduce((sum, { cause, probability }) => (cause.roleId ? sum : sum + probability), 0);
    // With the first ordered, a second one comes in the same parcel: what is saved is its wait.
    const [first] = likely;
    const notMended = first ? 1 - first.probability * first.cause.cure : 0;
    const orderWith = first?.cause.roleId
      ? worthBringing(
          toBring.slice(1).map((entry, index) => ({
            ...entry,
            // Wanted where the first does not mend it.
            probability: Math.min(notMended, entry.probability),
            secondTrip: (likely[index + 1]?.job.waitDays ?? 0) * late,
          })),
        ).slice(0, 2)
      : [];
    const tools = unique(
      // The way in needs its own.
      likely.flatMap(({ job }) => job.option.plan.strip.flatMap(({ operation }) => operation.tools)),
    );
    return { bring, tools, covered: coveredBy(bring, noPart), orderWith };
  },
};

/** The share that is kept by those from whom the parts of a job would be bought; the dearest counts. */
function restockingOf({ option }: Job, suppliers: readonly Supplier[]): number {
  const from = new Set(
    option.picks.flatMap(({ candidate }) =>
      candidate.parts.flatMap(({ purchase }) => purchase?.offer.supplierId ?? []),
    ),
  );
  return Math.max(0, ...suppliers.filter(({ id }) => from.has(id)).map((supplier) => supplier.restocking));
}
