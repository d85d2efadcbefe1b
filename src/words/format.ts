import {
  currencyDecimals,
  daysBetween,
  localDateOf,
  localTimeOf,
  toMajor,
  type Instant,
  type LocalDate,
  type Money,
} from '@/core/units';

const LOCALE = 'en-GB';
const SYMBOLS: Record<string, string> = { EUR: '€', GBP: '£', USD: '$', CHF: 'CHF' };
const NBSP = '\u00a0';
const decimals = new Map<number, Intl.NumberFormat>();

const plain = (digits: number): Intl.NumberFormat => {
  const known =
    decimals.get(digits) ??
    new Intl.NumberFormat(LOCALE, { minimumFractionDigits: digits, maximumFractionDigits: digits });
  decimals.set(digits, known);
  return known;
};

export const formatNumber = (value: number, digits = 0): string => plain(digits).format(value);
export const symbolOf = (currency: string): string => SYMBOLS[currency] ?? currency;
/** "33.42 €" */
export const formatMoney = (money: Money): string =>
  `${formatNumber(toMajor(money), currencyDecimals(money.currency))}${NBSP}${symbolOf(money.currency)}`;
/** A computed rate, without cents: "71 €". */
export const formatRate = (major: number, currency: string): string =>
  `${formatNumber(major)}${NBSP}${symbolOf(currency)}`;
/** "17 € to 87 €", or "about 87 €" where both are that. */
export function formatRange(low: number, high: number, currency: string): string {
  const [from, to] = [formatRate(low, currency), formatRate(high, currency)];
  return from === to ? `about ${from}` : `${from} to ${to}`;
}
/** The same of two sums of one currency. */
export const formatMoneyRange = (low: Money, high: Money): string =>
  formatRange(toMajor(low), toMajor(high), low.currency);
/** Never "0 %" or "100 %" for something that is neither. */
export function formatPercent(probability: number): string {
  if (probability > 0 && probability < 0.01) return `under${NBSP}1${NBSP}%`;
  if (probability < 1 && probability > 0.99) return `over${NBSP}99${NBSP}%`;
  return `${Math.round(probability * 100)}${NBSP}%`;
}
/** A share of draws: what came in none or in all of them may still come. */
export const formatDrawn = (share: number): string => formatPercent(Math.min(1 - 1e-6, Math.max(1e-6, share)));
/** How many times as likely: "× 4.2" */
export const formatTimes = (factor: number): string =>
  `×${NBSP}${factor >= 10 ? String(Math.round(factor)) : factor.toFixed(1)}`;

/** "2 h 50 min" */
export function formatMinutes(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  if (hours === 0) return `${whole}${NBSP}min`;
  return whole % 60 === 0 ? `${hours}${NBSP}h` : `${hours}${NBSP}h${NBSP}${whole % 60}${NBSP}min`;
}
export const formatYears = (years: number): string => `${formatNumber(years, 1)} years`;

const WEEKDAY = new Intl.DateTimeFormat(LOCALE, { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' });
const LONG = new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });

/** "today", "tomorrow", "Thu, 26 Nov", with the year when it is far. */
export function formatDate(date: LocalDate, today: LocalDate): string {
  const days = daysBetween(today, date);
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days === -1) return 'yesterday';
  const at = new Date(`${date}T12:00:00Z`);
  return Math.abs(days) < 180 ? WEEKDAY.format(at) : formatFullDate(date);
}

/** With its year, whatever day it is read on. */
export const formatFullDate = (date: LocalDate): string => LONG.format(new Date(`${date}T12:00:00Z`));

/** "09:40" today, "yesterday", "3 days ago". */
export function formatSince(at: Instant, now: Instant, zone: string): string {
  const days = daysBetween(localDateOf(at, zone), localDateOf(now, zone));
  if (days <= 0) return localTimeOf(at, zone);
  return days === 1 ? 'yesterday' : `${days} days`;
}

export const formatMoment = (at: Instant, now: Instant, zone: string): string => {
  const date = formatDate(localDateOf(at, zone), localDateOf(now, zone));
  return `${date === 'today' ? '' : `${date} `}${localTimeOf(at, zone)}`;
};

const COUNTED = new Intl.PluralRules(LOCALE);
export const plural = (count: number, one: string, many = `${one}s`): string =>
  `${formatNumber(count)} ${COUNTED.select(count) === 'one' ? one : many}`;

const RANKED = new Intl.PluralRules(LOCALE, { type: 'ordinal' });
const RANK_ENDINGS: Partial<Record<Intl.LDMLPluralRule, string>> = { one: 'st', two: 'nd', few: 'rd' };
export const ordinal = (n: number): string => `${n}${RANK_ENDINGS[RANKED.select(n)] ?? 'th'}`;

const LISTS = {
  and: new Intl.ListFormat(LOCALE, { type: 'conjunction' }),
  or: new Intl.ListFormat(LOCALE, { type: 'disjunction' }),
};
export const listOf = (items: readonly string[], last: 'and' | 'or' = 'and'): string => LISTS[last].format(items);
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
