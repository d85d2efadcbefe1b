import type { Instant, LocalDate, TicketId } from '../units';
import type { Waited, WaitedFor } from '../ticket';
import { daysBetween, groupBy, hoursBetween, localDateOf, sum } from '../units';

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
  /** Hours in the shop by what it waited for. */
  waited: Waited;
  /** What was told that it may cost while the cause was open, and what was agreed; gross, minor units. */
  price: { low: number; high: number; agreed: number; currency: string } | null;
  /** What was paid for it without tax, what its parts cost the shop, minor units; and the hands-on minutes that were planned. */
  earned: { net: number; parts: number; minutes: number; currency: string } | null;
  /** What the last offer advised, by how much (major units, above 0 for repairing), and what the house rules said. */
  advice: { repair: boolean; advantage: number; currency: string; rules: { id: string; repair: boolean }[] } | null;
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

/** A month and its cases: of how many, and of how many it was so. */
export type MonthShare = { month: string; of: number; yes: number };

export type RuleRecord = {
  id: string;
  /** Of the offers with an advice, those of which the rule said otherwise. */
  otherwise: Share;
  /** What going by the rule there would have cost the customers by the computation, major units. */
  costs: number;
  currency: string;
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
  /** What it waited for: mean days of a machine, and the tickets that waited longest for it; longest first. */
  waits: { what: WaitedFor; days: number; share: number; longest: Ticket[] }[];
  /** Of the ranges that were told, eight in ten of which should hold what was agreed. */
  prices: { inside: Share; above: number; below: number } | null;
  /** Days that a machine was told ready after the day it was promised for: half, and nine in ten, were not later; below 0 it was sooner. */
  lateness: { median: number; ninety: number; of: number } | null;
  /** Paid without tax less what the parts cost: of half of the jobs, and for each planned hour; of one currency, minor units. */
  margin: { median: number; perHour: number; of: number; unknown: number; currency: string; least: Ticket[] } | null;
  rules: RuleRecord[];
  months: Record<'rightFirstTime' | 'cameBack' | 'accepted' | 'promiseKept', MonthShare[]>;
};

/** Standard normal quantile of the two-sided 95 %. */
const Z = 1.96;
const BINS = [0, 0.5, 0.8, 0.95, 1.000001];
const SLOWEST = 5;

/** Wilson score interval of a share of independent cases. null of none. O(cases). */
function shareOf<T extends Ticket>(cases: readonly T[], isTrue: (one: T) => boolean): Share | null {
  const of = cases.length;
  if (of === 0) return null;
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

/** The months from the first case to the last, those without a case as well. O(cases log cases). */
function monthly<T extends RecordedCase>(cases: readonly T[], isTrue: (one: T) => boolean, zone: string): MonthShare[] {
  const of = groupBy(cases, ({ closedAt }) => localDateOf(closedAt, zone).slice(0, 7));
  const known = [...of.keys()].sort();
  const last = known.at(-1) ?? '';
  const months: MonthShare[] = [];
  for (let month = known[0]; month !== undefined && month <= last; month = monthAfter(month)) {
    const own = of.get(month) ?? [];
    months.push({ month, of: own.length, yes: own.filter(isTrue).length });
  }
  return months;
}

function monthAfter(month: string): string {
  const [year = 0, number = 0] = month.split('-').map(Number);
  return number === 12 ? `${year + 1}-01` : `${year}-${String(number + 1).padStart(2, '0')}`;
}

const plain = ({ ticketId, number }: Ticket): Ticket => ({ ticketId, number });

const WAITS: readonly WaitedFor[] = ['you', 'customer', 'parts', 'cure', 'collection'];

/** Where the days went, longest first. What took nothing is left out. */
function waitsOf(cases: readonly RecordedCase[]): Records['waits'] {
  const all = sum(cases.flatMap(({ waited }) => Object.values(waited)));
  return WAITS.map((what) => {
    const hours = sum(cases.map(({ waited }) => waited[what]));
    const longest = cases
      .filter(({ waited }) => waited[what] > 0)
      .sort((a, b) => b.waited[what] - a.waited[what])
      .slice(0, SLOWEST)
      .map(plain);
    return { what, days: hours / 24 / cases.length, share: hours / all, longest };
  })
    .filter(({ longest }) => longest.length > 0)
    .sort((a, b) => b.days - a.days);
}

function pricesOf(cases: readonly RecordedCase[]): Records['prices'] {
  const told = cases.flatMap(({ price, ...one }) => (price ? [{ ...one, price }] : []));
  const inside = shareOf(told, ({ price }) => price.low <= price.agreed && price.agreed <= price.high);
  return (
    inside && {
      inside,
      above: told.filter(({ price }) => price.agreed > price.high).length,
      below: told.filter(({ price }) => price.agreed < price.low).length,
    }
  );
}

/** The largest of the groups: figures in other currencies are not added to it. */
const inOneCurrency = <T extends { currency: string }>(all: readonly T[]): T[] =>
  [...groupBy(all, ({ currency }) => currency).values()].sort((a, b) => b.length - a.length)[0] ?? [];

function marginOf(cases: readonly RecordedCase[]): Records['margin'] {
  const earned = inOneCurrency(cases.flatMap((one) => (one.earned ? [{ ...plain(one), ...one.earned }] : [])));
  const margins = earned.map((one) => ({ ...one, margin: one.net - one.parts })).sort((a, b) => a.margin - b.margin);
  const [first] = margins;
  if (!first) return null;
  const minutes = sum(margins.map((one) => one.minutes));
  const each = margins.map(({ margin }) => margin);
  return {
    median: quantile(each, 0.5),
    perHour: minutes > 0 ? (60 * sum(each)) / minutes : 0,
    of: margins.length,
    unknown: cases.length - margins.length,
    currency: first.currency,
    least: margins.slice(0, SLOWEST).map(plain),
  };
}

/** Each house rule against what was advised, where both were said; the dearest disagreement first. */
function rulesOf(cases: readonly RecordedCase[]): RuleRecord[] {
  const advised = inOneCurrency(cases.flatMap((one) => (one.advice ? [{ ...plain(one), ...one.advice }] : [])));
  const said = groupBy(
    advised.flatMap((one) => one.rules.map((rule) => ({ ...one, id: rule.id, differs: rule.repair !== one.repair }))),
    ({ id }) => id,
  );
  return [...said]
    .flatMap(([id, own]): RuleRecord[] => {
      const otherwise = shareOf(own, ({ differs }) => differs);
      const costs = sum(own.map(({ differs, advantage }) => (differs ? Math.abs(advantage) : 0)));
      return otherwise ? [{ id, otherwise, costs, currency: own[0]?.currency ?? '' }] : [];
    })
    .sort((a, b) => b.costs - a.costs);
}

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
  const judged = repaired.filter(({ rightFirstTime }) => rightFirstTime !== null);
  const isRight = ({ rightFirstTime }: RecordedCase) => rightFirstTime === true;
  const answered = cases.filter(({ answer }) => answer === 'yes' || answer === 'no');
  const isYes = ({ answer }: RecordedCase) => answer === 'yes';
  const isBack = ({ callBacks }: RecordedCase) => callBacks > 0;
  const lateDays = (one: (typeof promised)[number]) => daysBetween(one.promisedOn, localDateOf(one.toldAt, zone));
  const isKept = (one: (typeof promised)[number]) => lateDays(one) <= 0;
  const late = promised.map(lateDays).sort((a, b) => a - b);
  return {
    cases: cases.length,
    rightFirstTime: shareOf(judged, isRight),
    cameBack: shareOf(repaired, isBack),
    accepted: shareOf(answered, isYes),
    promiseKept: shareOf(promised, isKept),
    months: {
      rightFirstTime: monthly(judged, isRight, zone),
      cameBack: monthly(repaired, isBack, zone),
      accepted: monthly(answered, isYes, zone),
      promiseKept: monthly(promised, isKept, zone),
    },
    waits: waitsOf(cases),
    prices: pricesOf(cases),
    lateness: late.length ? { median: quantile(late, 0.5), ninety: quantile(late, 0.9), of: late.length } : null,
    margin: marginOf(repaired),
    rules: rulesOf(cases),
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
