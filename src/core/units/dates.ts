import * as dateFns from 'date-fns';
import type { Branded } from './brands';

/** "2026-11-24": a day in the shop's own zone, without a time. */
export type LocalDate = Branded<'LocalDate'>;
/** "2026-11-24T08:30:00.000Z": a point in time, always UTC. */
export type Instant = Branded<'Instant'>;

const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?Z$/;

/** Whether a text is a day that the calendar has: 2026-02-31 is none. */
export const isDay = (text: string): text is LocalDate =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && dateFns.isValid(dateFns.parseISO(text));

/** Whether a text is a point in time as ISO 8601 writes it in UTC. */
export const isInstant = (text: string): text is Instant =>
  INSTANT.test(text) && isDay(text.slice(0, 10)) && dateFns.isValid(dateFns.parseISO(text));

/** The day that a text names. Throws where it names none: for texts that were checked before, and for fixed ones. */
export function asDay(text: string): LocalDate {
  if (isDay(text)) return text;
  throw new Error(`Bug: "${text}" is not a day like 2019-03-31`);
}

/** The point in time that a text names. Throws where it names none: for texts that were checked before, and for fixed ones. */
export function asInstant(text: string): Instant {
  if (isInstant(text)) return text;
  throw new Error(`Bug: "${text}" is not a time like 2019-03-31T08:30:00.000Z`);
}

export const instantOf = (date: Date): Instant => asInstant(date.toISOString());

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
  return asDay(`${parts['year']}-${parts['month']}-${parts['day']}`);
}

/** "14:05" in an IANA zone. */
export function localTimeOf(instant: Instant, zone: string): string {
  const parts = partsIn(instant, zone);
  return `${parts['hour']}:${parts['minute']}`;
}

const dayOf = (date: Date): LocalDate => asDay(dateFns.formatISO(date, { representation: 'date' }));

export const addDays = (date: LocalDate, days: number): LocalDate =>
  dayOf(dateFns.addDays(dateFns.parseISO(date), days));

/** Whole days from one date to a later one (negative if earlier). */
export const daysBetween = (from: LocalDate, to: LocalDate): number =>
  dateFns.differenceInCalendarDays(dateFns.parseISO(to), dateFns.parseISO(from));

/** Julian years of 365.25 days. */
export const yearsBetween = (from: LocalDate, to: LocalDate): number => daysBetween(from, to) / 365.25;

/** 1 = Monday … 7 = Sunday (ISO 8601). */
export const isoWeekday = (date: LocalDate): number => dateFns.getISODay(dateFns.parseISO(date));

/** Monday of an ISO 8601 week. Week 53 of a 52-week year runs into the next year, as the arithmetic says. */
export function isoWeekStart(year: number, week: number): LocalDate {
  // The fourth of January lies in the first week, always.
  const first = dateFns.startOfISOWeek(new Date(year, 0, 4));
  return dayOf(dateFns.addWeeks(first, week - 1));
}

export const addHours = (instant: Instant, hours: number): Instant =>
  instantOf(new Date(Date.parse(instant) + hours * 3_600_000));
export const hoursBetween = (from: Instant, to: Instant): number => (Date.parse(to) - Date.parse(from)) / 3_600_000;
export const laterOf = <T extends string>(a: T, b: T): T => (a > b ? a : b);
export const earlierOf = <T extends string>(a: T, b: T): T => (a < b ? a : b);
