import type { Instant, LocalDate, TicketId } from '../units';
import { daysBetween, hoursBetween, localDateOf, sum } from '../units';

/** What a closed ticket says of how the shop works: kept with its lesson. */
export type CaseRecord = {
  openedAt: Instant;
  outcome: string;
  /** What the customer said to the last offer; null where none was made. */
  answer: 'yes' | 'no' | 'thinking' | null;
  promisedOn: LocalDate | null;
  /** When the customer was told that it is ready. */
  toldAt: Instant | null;
  callBacks: number;
  /** P(this model) at the first reading of its plate, and whether it was. */
  plate: { said: number; true: boolean } | null;
  /** P(this cause) when it was settled on, of each attempt, and whether mending it mended the machine. */
  causes: { said: number; true: boolean }[];
};

/** A closed ticket as the records see it. */
export type RecordedCase = CaseRecord & {
  ticketId: TicketId;
  number: number;
  closedAt: Instant;
  takenMinutes: number | null;
  listMinutes: number | null;
  rightFirstTime: boolean | null;
};

type Ticket = { ticketId: TicketId; number: number };

/** A share with the bounds between which it lies in 95 of 100 shops like this (Wilson, 1927). Tickets for which it is true, and the others. */
export type Share = { of: number; share: number; low: number; high: number; yes: Ticket[]; no: Ticket[] };

export type Calibration = {
  /** Said between these. */
  from: number;
  to: number;
  meanSaid: number;
  is: Share;
};

export type Records = {
  cases: number;
  rightFirstTime: Share | null;
  cameBack: Share | null;
  accepted: Share | null;
  promiseKept: Share | null;
  /** Minutes really taken for each of the list; null where nobody noted any. */
  minutes: { ratio: number; of: number; tickets: Ticket[] } | null;
  /** Days from check-in until the customer was told: half are faster, nine in ten are. */
  days: { median: number; ninety: number; of: number; slowest: Ticket[] } | null;
  plates: Calibration[];
  causes: Calibration[];
};

/** Standard normal quantile of the two-sided 95 %. */
const Z = 1.96;
const BINS = [0, 0.5, 0.8, 0.95, 1.000001];
const SLOWEST = 5;

/** Wilson score interval of a share of independent cases. null of none. O(cases). */
function shareOf<T extends Ticket>(cases: readonly T[], isTrue: (one: T) => boolean): Share | null {
  const of = cases.length;
  if (of === 0) return null;
  const plain = ({ ticketId, number }: T): Ticket => ({ ticketId, number });
  const yes = cases.filter(isTrue).map(plain);
  const no = cases.filter((one) => !isTrue(one)).map(plain);
  const p = yes.length / of;
  const middle = (p + Z ** 2 / (2 * of)) / (1 + Z ** 2 / of);
  const half = (Z / (1 + Z ** 2 / of)) * Math.sqrt((p * (1 - p)) / of + Z ** 2 / (4 * of ** 2));
  return { of, share: p, low: Math.max(0, middle - half), high: Math.min(1, middle + half), yes, no };
}

function calibration(said: readonly (Ticket & { said: number; true: boolean })[]): Calibration[] {
  return BINS.slice(0, -1).flatMap((from, bin) => {
    const to = BINS[bin + 1] ?? 1;
    const own = said.filter((one) => one.said >= from && one.said < to);
    const is = shareOf(own, (one) => one.true);
    return is ? [{ from, to: Math.min(1, to), meanSaid: sum(own.map((one) => one.said)) / own.length, is }] : [];
  });
}

/** The smallest value that so many of them do not exceed; of an even number the lower. */
const quantile = (sorted: readonly number[], q: number): number =>
  sorted[Math.max(0, Math.ceil(q * sorted.length) - 1)] ?? 0;

/**
 * How the shop works, by its closed tickets: shares with their bounds, so that few cases look like few; what was said against what was so. Each figure with its tickets.
 * `zone`: the shop's, for what was promised on a day. O(cases log cases).
 */
export function recordsOf(cases: readonly RecordedCase[], zone: string): Records {
  const repaired = cases.filter(({ outcome }) => outcome === 'repaired');
  const timed = repaired.filter(({ takenMinutes, listMinutes }) => takenMinutes !== null && (listMinutes ?? 0) > 0);
  const told = repaired.flatMap(({ toldAt, ...one }) => (toldAt ? [{ ...one, toldAt }] : []));
  const dayOf = (one: (typeof told)[number]) => hoursBetween(one.openedAt, one.toldAt) / 24;
  const bySpeed = [...told].sort((a, b) => dayOf(a) - dayOf(b));
  const days = bySpeed.map(dayOf);
  const promised = told.flatMap(({ promisedOn, ...one }) => (promisedOn ? [{ ...one, promisedOn }] : []));
  return {
    cases: cases.length,
    rightFirstTime: shareOf(
      repaired.filter(({ rightFirstTime }) => rightFirstTime !== null),
      ({ rightFirstTime }) => rightFirstTime === true,
    ),
    cameBack: shareOf(repaired, ({ callBacks }) => callBacks > 0),
    accepted: shareOf(
      cases.filter(({ answer }) => answer === 'yes' || answer === 'no'),
      ({ answer }) => answer === 'yes',
    ),
    promiseKept: shareOf(promised, (one) => daysBetween(localDateOf(one.toldAt, zone), one.promisedOn) >= 0),
    minutes: timed.length
      ? {
          ratio: sum(timed.map((one) => one.takenMinutes ?? 0)) / sum(timed.map((one) => one.listMinutes ?? 0)),
          of: timed.length,
          tickets: timed.map(({ ticketId, number }) => ({ ticketId, number })),
        }
      : null,
    days: days.length
      ? {
          median: quantile(days, 0.5),
          ninety: quantile(days, 0.9),
          of: days.length,
          slowest: bySpeed
            .slice(-SLOWEST)
            .reverse()
            .map(({ ticketId, number }) => ({ ticketId, number })),
        }
      : null,
    plates: calibration(
      cases.flatMap(({ ticketId, number, plate }) => (plate ? [{ ticketId, number, ...plate }] : [])),
    ),
    causes: calibration(
      cases.flatMap(({ ticketId, number, causes }) => causes.map((one) => ({ ticketId, number, ...one }))),
    ),
  };
}
