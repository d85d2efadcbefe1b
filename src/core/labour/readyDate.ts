import { addDays, afterWorkingDays, nextWorkingDay, type LocalDate } from '../units';

/** On which days of the week things happen: 1 is Monday, 7 Sunday. At least one each. */
export type WorkingWeek = {
  shopDays: readonly number[];
  carrierDays: readonly number[];
  /** Days on which neither works. */
  holidays: readonly LocalDate[];
  /** Working days until a bench is free. */
  queueDays: number;
};

/** Hands-on minutes that a bench gives in a day: the rest is talking, fetching and sweeping. */
export const BENCH_MINUTES_A_DAY = 360;

/** Working days until a bench is free, by the hands-on minutes that wait before it. */
export const queueOf = (waitingMinutes: number, benches: number): number =>
  Math.floor(waitingMinutes / (BENCH_MINUTES_A_DAY * Math.max(1, benches)));

/**
 * The elapsed clock: parts come on a day on which carriers work, the bench is free some working days later, the work takes as many as its hands-on minutes fill, what
 * cures does so on any day, and it is fetched on a day on which the shop is open. O(days).
 */
export function readyDate(
  today: LocalDate,
  job: {
    /** Calendar days until the last part is here; 0 where none is needed. */
    partDays: number;
    handsOnMinutes: number;
    /** Curing, soaking. */
    elapsedHours: number;
  },
  { shopDays, carrierDays, holidays, queueDays }: WorkingWeek,
): LocalDate {
  const shop = { weekdays: shopDays, holidays };
  const here =
    job.partDays > 0 ? nextWorkingDay(addDays(today, job.partDays), { weekdays: carrierDays, holidays }) : today;
  const begun = afterWorkingDays(here, queueDays, shop);
  const worked = afterWorkingDays(begun, Math.max(0, Math.ceil(job.handsOnMinutes / BENCH_MINUTES_A_DAY) - 1), shop);
  return nextWorkingDay(addDays(worked, Math.ceil(job.elapsedHours / 24)), shop);
}
