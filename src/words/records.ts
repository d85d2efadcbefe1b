import type { Calibration, MonthShare, Records, RuleRecord, Share } from '@/core/learn';
import { money } from '@/core/units';
import { formatMoney, formatNumber, formatRate, formatPercent, plural } from './format';

/** "87 % of 180 machines". */
export const shareWords = ({ share, of }: Share): string => `${formatPercent(share)} of ${plural(of, 'machine')}`;

/** "very likely between 82 % and 91 %". */
export const boundsWords = ({ low, high }: Pick<Share, 'low' | 'high'>): string =>
  `very likely between ${formatPercent(low)} and ${formatPercent(high)}`;

export const BOUNDS_BECAUSE =
  'What these cases say of many more: in 95 of 100 shops the true share lies between such bounds (score interval, Wilson 1927). Few cases, wide bounds.';

export const minutesWords = ({ ratio, of }: NonNullable<Records['minutes']>): string => {
  const by = formatPercent(Math.abs(ratio - 1));
  const said =
    Math.abs(ratio - 1) < 0.005
      ? 'as long as the list says'
      : `${by} ${ratio > 1 ? 'longer' : 'shorter'} than the list says`;
  return `${said}, over ${plural(of, 'job')}`;
};

export const daysWords = ({ median, ninety, of }: NonNullable<Records['days']>): string =>
  `half within ${formatNumber(median, 1)} days, nine in ten within ${formatNumber(ninety, 1)}, of ${plural(of, 'machine')}`;

/** "Said 80 to 95 %, on average 88 %: true in 91 % of 34." */
export const calibrationWords = ({ from, to, meanSaid, is }: Calibration): string =>
  `Said ${formatPercent(from)} to ${formatPercent(to)}, on average ${formatPercent(meanSaid)}: true in ${formatPercent(is.share)} of ${is.of}`;

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const monthName = (month: string) => `${MONTHS[Number(month.slice(5)) - 1] ?? ''} ${month.slice(0, 4)}`;

/** "Dec 2025 to Nov 2026: 88 % in the first half, 92 % in the second." null of a single month. */
export function monthsWords(months: readonly MonthShare[]): string | null {
  const [first, last] = [months[0], months.at(-1)];
  if (!first || !last || first === last) return null;
  // All of them or none: a row of equal columns says no more than the sentence above it.
  if (months.every(({ yes }) => yes === 0) || months.every(({ of, yes }) => yes === of)) return null;
  const half = Math.ceil(months.length / 2);
  const shareOf = (some: readonly MonthShare[]) => {
    const of = some.reduce((sum, one) => sum + one.of, 0);
    return of === 0 ? null : some.reduce((sum, one) => sum + one.yes, 0) / of;
  };
  const [before, after] = [shareOf(months.slice(0, half)), shareOf(months.slice(half))];
  if (before === null || after === null) return null;
  return `A column a month, hollow where there were few, ${monthName(first.month)} to ${monthName(last.month)}: ${formatPercent(before)} in the first half, ${formatPercent(after)} in the second.`;
}

/** "2.1 days of a machine on average, 40 % of its time". */
export const waitWords = ({ days, share }: Pick<Records['waits'][number], 'days' | 'share'>): string =>
  `${formatNumber(days, 1)} days, ${formatPercent(share)}`;

export const latenessWords = ({ median, ninety, of }: NonNullable<Records['lateness']>): string => {
  const by = (days: number) =>
    days === 0 ? 'on the day' : `${plural(Math.abs(days), 'day')} ${days > 0 ? 'late' : 'early'}`;
  return `Half were ready ${by(median)} or sooner, nine in ten ${by(ninety)} or sooner, of ${plural(of, 'machine')}.`;
};

/** Of fewer no half is spoken of. */
const FEW = 5;

/** Without tax, parts at what they cost. */
export const marginWords = ({ median, perHour, of, unknown, currency }: NonNullable<Records['margin']>): string =>
  `${of < FEW ? `Known of ${plural(of, 'repair')} only: the middle one` : `Half of ${plural(of, 'repair')}`} left ${formatMoney(money(median, currency))}${of < FEW ? '' : ' or less'} once their parts were paid, without tax; ${formatMoney(money(Math.round(perHour), currency))} for each planned hour.${unknown ? ` Of ${unknown} it is not known what the parts cost.` : ''}`;

export const pricesWords = ({ inside, above, below }: NonNullable<Records['prices']>): string =>
  `What was agreed lay between what had been told in ${formatPercent(inside.share)} of ${inside.of} (eight in ten is what is said; ${boundsWords(inside)}); above it ${plural(above, 'time')}, below it ${plural(below, 'time')}.`;

/** House rules as they stood when an offer was made: their figures may have been others then. */
const RULE_NAMES: Record<string, string> = {
  'share-of-new': 'A share of a new one',
  'falling-share': 'A share that falls with age',
  'age-limit': 'Nothing over an age',
  'age-times-quote': 'Age times quote',
  'years-for-money': 'Years for the money',
};
export const ruleName = (id: string): string => RULE_NAMES[id] ?? id;

/** What going by a rule would have cost, where it and the advice differed. */
export const ruleRecordWords = ({ otherwise, costs, currency }: RuleRecord): string =>
  `said otherwise in ${formatPercent(otherwise.share)} of ${plural(otherwise.of, 'offer')}${
    otherwise.yes.length
      ? `; by the computation going by it there would have cost the customers ${formatRate(costs, currency)}`
      : ''
  }.`;
