/** "2026-11-24": a day in the shop's own zone, without a time. */
export type LocalDate = string;
/** "2026-11-24T08:30:00.000Z": a point in time, always UTC. */
export type Instant = string;

const DAY_MS = 86_400_000;
const formatters = new Map<string, Intl.DateTimeFormat>();

const formatter = (zone: string): Intl.DateTimeFormat => {
  const known = formatters.get(zone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  formatters.set(zone, made);
  return made;
};

const partsIn = (instant: Instant, zone: string): Record<string, string> =>
  Object.fromEntries(
    formatter(zone)
      .formatToParts(new Date(instant))
      .map((part) => [part.type, part.value]),
  );

/** The calendar day on which an instant falls in an IANA zone. */
export function localDateOf(instant: Instant, zone: string): LocalDate {
  const parts = partsIn(instant, zone);
  return `${parts['year']}-${parts['month']}-${parts['day']}`;
}

/** "14:05" in an IANA zone. */
export function localTimeOf(instant: Instant, zone: string): string {
  const parts = partsIn(instant, zone);
  return `${parts['hour']}:${parts['minute']}`;
}

const noonUtc = (date: LocalDate): number => Date.parse(`${date}T12:00:00Z`);

export const addDays = (date: LocalDate, days: number): LocalDate =>
  new Date(noonUtc(date) + days * DAY_MS).toISOString().slice(0, 10);

/** Whether a text is a day that the calendar has: 2026-02-31 is none. */
export const isDay = (text: string): boolean => {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const at = new Date(`${text}T12:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().slice(0, 10) === text;
};

/** Whole days from one date to a later one (negative if earlier). */
export const daysBetween = (from: LocalDate, to: LocalDate): number =>
  Math.round((noonUtc(to) - noonUtc(from)) / DAY_MS);

/** Julian years of 365.25 days. */
export const yearsBetween = (from: LocalDate, to: LocalDate): number => daysBetween(from, to) / 365.25;

/** 1 = Monday … 7 = Sunday (ISO 8601). */
export const isoWeekday = (date: LocalDate): number => ((new Date(noonUtc(date)).getUTCDay() + 6) % 7) + 1;

/** Monday of an ISO 8601 week. Week 53 of a 52-week year runs into the next year, as the arithmetic says. */
export function isoWeekStart(year: number, week: number): LocalDate {
  const fourth = `${String(year).padStart(4, '0')}-01-04`;
  return addDays(fourth, 1 - isoWeekday(fourth) + (week - 1) * 7);
}

export const addHours = (instant: Instant, hours: number): Instant =>
  new Date(Date.parse(instant) + hours * 3_600_000).toISOString();
export const hoursBetween = (from: Instant, to: Instant): number => (Date.parse(to) - Date.parse(from)) / 3_600_000;
export const laterOf = <T extends string>(a: T, b: T): T => (a > b ? a : b);
export const earlierOf = <T extends string>(a: T, b: T): T => (a < b ? a : b);
