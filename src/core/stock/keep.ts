import { daysBetween, localDateOf, sum, type LocalDate, type Money, type PartId } from '../units';
import type { StockState } from './stockStream';

/** What is known of the demand for a number. */
export type Demand = {
  /** Pieces that jobs took in the days looked at. */
  uses: number;
  days: number;
  /** Of each open machine the chance that it will take one: its causes are not settled yet, or its customer has not said yes. */
  needs: readonly number[];
};

/** Before anything was used: half a piece in a year. Gamma prior of the rate; a shop with records soon outweighs it. */
const PRIOR_USES = 0.5;
const PRIOR_DAYS = 365;
/** No piece is thought to lie longer than this before something is done about it. */
const LONGEST_LIE_DAYS = 3 * 365;
const MOST = 60;

/**
 * P(n pieces are asked for within so many days), n from 0. Uses come as a Poisson process whose rate is not known (gamma, so that their number is negative
 * binomial: Greenwood & Yule, J. Royal Statistical Society 83, 1920); each open machine adds its own chance. Sums to one. O(n · needs).
 */
export function demandWithin({ uses, days, needs }: Demand, horizonDays: number): number[] {
  const [shape, rate] = [PRIOR_USES + uses, PRIOR_DAYS + days];
  const share = horizonDays / (rate + horizonDays);
  const steady: number[] = [];
  let p = (1 - share) ** shape;
  for (let n = 0; n < MOST; n += 1) {
    steady.push(p);
    p *= ((shape + n) / (n + 1)) * share;
  }
  // What is beyond the table is counted with its last entry.
  steady.push(Math.max(0, 1 - sum(steady)));
  return needs.reduce((all, need) => withOne(all, need), steady);
}

/** The distribution when one more is asked for with this chance. */
const withOne = (distribution: readonly number[], chance: number): number[] =>
  Array.from(
    { length: distribution.length + 1 },
    (_, n) => (distribution[n] ?? 0) * (1 - chance) + (distribution[n - 1] ?? 0) * chance,
  );

export type KeepTerms = {
  /** Days until one that is ordered is here. */
  leadDays: number;
  unitCost: Money;
  /** What a machine that waits costs in a day. */
  waitingPerDay: Money;
  /** What a piece that lies there costs in a year, as a share of its price: money, room, what gets old. */
  holdingShare: number;
};

export type KeepLevel = {
  /** Pieces to have there, counting those on the way. */
  level: number;
  /** P(this is enough until more would be here). */
  enough: number;
  /** P(more than n are asked for within the lead time), n from 0. */
  short: number[];
  /** Pieces expected to be asked for within the lead time. */
  expected: number;
  /** Days until the next one is expected to be asked for. */
  nextInDays: number;
  /** What one too few costs, and one too many; minor units. */
  under: number;
  over: number;
};

/**
 * How many to keep: the least number that is enough with a chance of under / (under + over), the newsvendor's rule (Arrow, Harris & Marschak, Econometrica 19,
 * 1951) over the lead time of a base stock that is filled up piece by piece. One too few makes a machine wait for the lead time; one too many lies there until
 * the next is asked for. Nothing is kept that is here on the day. O(pieces · needs).
 */
export function keepLevel(demand: Demand, terms: KeepTerms): KeepLevel {
  const { leadDays, unitCost, waitingPerDay, holdingShare } = terms;
  const within = demandWithin(demand, leadDays);
  const expected = sum(within.map((p, n) => p * n));
  const nextInDays = nextUse(demand);
  const under = waitingPerDay.amountMinor * leadDays;
  const over = unitCost.amountMinor * holdingShare * (Math.min(nextInDays, LONGEST_LIE_DAYS) / 365);
  const wanted = under === 0 ? 0 : under / (under + over);
  let level = 0;
  let enough = within[0] ?? 1;
  while (enough < wanted - 1e-12 && level < MOST) {
    level += 1;
    enough += within[level] ?? 0;
  }
  let rest = 1;
  const short = within.slice(0, level + 1).map((p) => Math.max(0, (rest -= p)));
  return {
    level,
    enough: Math.min(1, enough),
    short,
    expected,
    nextInDays,
    under: Math.round(under),
    over: Math.round(over),
  };
}

/** Days until the next piece is asked for, on average: by the steady rate, or sooner where an open machine asks. Open machines are settled within a week. */
function nextUse({ uses, days, needs }: Demand): number {
  const steady = (PRIOR_DAYS + days) / (PRIOR_USES + uses);
  const none = needs.reduce((all, need) => all * (1 - need), 1);
  return none * steady + (1 - none) * Math.min(steady, SETTLED_DAYS);
}
const SETTLED_DAYS = 7;

/** A lot untouched for so long, of which the year ahead asks hardly any, is dead. */
const DEAD_AFTER_DAYS = 365;
const HARDLY_ANY = 0.5;

/** Whether a lot lies there for nothing: in pieces beyond what the year ahead is expected to ask for. 0: it does not. O(movements). */
export function deadPieces(lot: StockState, demand: Demand, today: LocalDate, zone: string): number {
  const touched = lot.movements.filter(({ why }) => why !== 'counted').at(-1)?.at ?? lot.since;
  if (lot.units === 0 || daysBetween(localDateOf(touched, zone), today) < DEAD_AFTER_DAYS) return 0;
  const expected = sum(demandWithin(demand, 365).map((p, n) => p * n));
  return expected >= HARDLY_ANY ? 0 : lot.units;
}

/** What is missing on the shelf of a number: nothing more, or so many whole packs. */
export const packsToFill = (level: number, free: number, coming: number, packSize: number): number =>
  Math.max(0, Math.ceil((level - free - coming) / packSize));

/** A piece that a job took, or was ordered for one. */
export type Use = { partId: PartId; units: number; at: LocalDate };

/** What is known of a number that nothing asked for since a day. */
export const noDemand = (from: LocalDate, today: LocalDate): Demand => ({
  uses: 0,
  days: Math.max(1, daysBetween(from, today)),
  needs: [],
});

/** The demand by number, over a window of days that ends today. O(uses + needs). */
export function demandOf(
  uses: readonly Use[],
  needs: readonly { partId: PartId; chance: number }[],
  from: LocalDate,
  today: LocalDate,
): ReadonlyMap<PartId, Demand> {
  const { days } = noDemand(from, today);
  const found = new Map<PartId, { uses: number; days: number; needs: number[] }>();
  const of = (partId: PartId) => {
    const known = found.get(partId) ?? { uses: 0, days, needs: [] };
    found.set(partId, known);
    return known;
  };
  for (const use of uses) if (use.at >= from && use.at <= today) of(use.partId).uses += use.units;
  for (const { partId, chance } of needs) if (chance > 0) of(partId).needs.push(Math.min(1, chance));
  return found;
}
