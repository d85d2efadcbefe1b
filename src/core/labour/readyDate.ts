import { addDays, isoWeekday, type LocalDate } from '../units';

/** On which days of the week things happen: 1 is Monday, 7 Sunday. At least one each. */
export type WorkingWeek = {
  shopDays: readonly number[];
  carrierDays: readonly number[];
  /** Working days until a bench is free. */
  queueDays: number;
};

/** Hands-on minutes that a bench gives in a day: the rest is talking, fetching and sweeping. */
export const BENCH_MINUTES_A_DAY = 360;

/** Working days until a bench is free, by the hands-on minutes that wait before it. */
export const queueOf = (waitingMinutes: number, benches: number): number =>
  Math.floor(waitingMinutes / (BENCH_MINUTES_A_DAY * Math.max(1, benches)));

/** The first of these weekdays that is not before the date; the date itself where the list is empty. */
export function nextOn(date: LocalDate, weekdays: readonly number[]): LocalDate {
  for (let ahead = 0; ahead < 7; ahead += 1) {
    const day = addDays(date, ahead);
    if (weekdays.includes(isoWeekday(day))) return day;
  }
  return date;
}

function afterWorkingDays(from: LocalDate, days: number, weekdays: readonly number[]): LocalDate {
  let date = nextOn(from, weekdays);
  for (let left = days; left > 0; left -= 1) date = nextOn(addDays(date, 1), weekdays);
  return date;
}

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
  { shopDays, carrierDays, queueDays }: WorkingWeek,
): LocalDate {
  const here = job.partDays > 0 ? nextOn(addDays(today, job.partDays), carrierDays) : today;
  const begun = afterWorkingDays(here, queueDays, shopDays);
  const worked = afterWorkingDays(
    begun,
    Math.max(0, Math.ceil(job.handsOnMinutes / BENCH_MINUTES_A_DAY) - 1),
    shopDays,
  );
  return nextOn(addDays(worked, Math.ceil(job.elapsedHours / 24)), shopDays);
}
