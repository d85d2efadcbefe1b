import * as currencies from 'dinero.js/currencies';
import {
  add,
  dinero,
  multiply,
  subtract,
  toDecimal,
  toSnapshot,
  transformScale,
  halfAwayFromZero,
  type Dinero,
  type DineroCurrency,
} from 'dinero.js';
import { fail, ok, type Result } from './result';

/** Integer minor units (cents) with an ISO 4217 code. The only form in which money is stored. */
export type Money = { readonly amountMinor: number; readonly currency: string };

export type MoneyProblem =
  | { kind: 'not-a-decimal'; text: string }
  | { kind: 'too-many-decimals'; text: string; allowed: number }
  | { kind: 'unknown-currency'; currency: string };

const TABLE: ReadonlyMap<string, DineroCurrency<number>> = new Map(Object.entries(currencies));

export const isCurrency = (code: string): boolean => TABLE.has(code);
export const currencyCodes = (): string[] => [...TABLE.keys()].sort();

/** Digits after the decimal point of a currency (EUR 2, JPY 0). Unknown codes count as 2. */
export const currencyDecimals = (code: string): number => TABLE.get(code)?.exponent ?? 2;

const open = (money: Money): Dinero<number> =>
  dinero({
    amount: money.amountMinor,
    currency: TABLE.get(money.currency) ?? { code: money.currency, base: 10, exponent: 2 },
  });

const close = (value: Dinero<number>): Money => {
  const { amount, currency } = toSnapshot(value);
  // Rounding a small negative share gives −0, which is no amount.
  return { amountMinor: amount || 0, currency: currency.code };
};

export const money = (amountMinor: number, currency: string): Money => ({ amountMinor, currency });
export const zeroMoney = (currency: string): Money => money(0, currency);

/** Sum; throws (a bug) when currencies are mixed. */
export const addMoney = (a: Money, b: Money): Money => close(add(open(a), open(b)));
export const subtractMoney = (a: Money, b: Money): Money => close(subtract(open(a), open(b)));
export const sumMoney = (values: readonly Money[], currency: string): Money =>
  values.reduce(addMoney, zeroMoney(currency));

/**
 * A share of an amount, given in hundredths of a percent (1950 = 19.5 %), rounded half away from zero to whole minor units.
 * The one rounding rule of the project.
 */
export function shareOfMoney(value: Money, basisPoints: number): Money {
  const exact = multiply(open(value), { amount: basisPoints, scale: 4 });
  return close(transformScale(exact, currencyDecimals(value.currency), halfAwayFromZero));
}

export const timesMoney = (value: Money, whole: number): Money => close(multiply(open(value), whole));

/**
 * A decimal as machines write it ("12.50", "-3"): a full stop or nothing, no groups, no guessing. In minor units of `decimals` places, never through a
 * float. Zeros beyond them are none; any other digit there is a problem, not rounded away.
 */
export function parseDecimal(text: string, decimals: number): Result<number, MoneyProblem> {
  const match = /^(-?)(\d+)(?:\.(\d+))?$/.exec(text);
  if (!match) return fail({ kind: 'not-a-decimal', text });
  const [, sign = '', whole = '', fraction = ''] = match;
  if (fraction.replace(/0+$/, '').length > decimals)
    return fail({ kind: 'too-many-decimals', text, allowed: decimals });
  const minor = Number(whole + fraction.padEnd(decimals, '0').slice(0, decimals));
  if (!Number.isSafeInteger(minor)) return fail({ kind: 'not-a-decimal', text });
  return ok(sign ? -minor || 0 : minor);
}

/** An amount from a file or a message: `parseDecimal` in the currency's own places. */
export function parseMoney(text: string, currency: string): Result<Money, MoneyProblem> {
  if (!isCurrency(currency)) return fail({ kind: 'unknown-currency', currency });
  const read = parseDecimal(text, currencyDecimals(currency));
  return read.ok ? ok(money(read.value, currency)) : read;
}

/**
 * An amount as a person types it: "12.5", "1 234,50", "1,234.50". With both signs present the last one is the decimal sign; a lone sign followed by
 * exactly three digits groups thousands, unless the currency itself has three places. Never for files: see `parseMoney`.
 */
export function guessMoney(text: string, currency: string): Result<Money, MoneyProblem> {
  if (!isCurrency(currency)) return fail({ kind: 'unknown-currency', currency });
  const plain = text.trim().replace(/[\s\u00a0\u202f']/g, '');
  const match = /^(-?)(\d+(?:[.,]\d{3})*?)(?:([.,])(\d+))?$/.exec(plain);
  if (!match) return fail({ kind: 'not-a-decimal', text });
  const [, sign = '', whole = '', mark, fraction = ''] = match;
  const groupsOnly =
    mark !== undefined &&
    fraction.length === 3 &&
    !whole.startsWith('0') &&
    currencyDecimals(currency) < 3 &&
    !whole.includes(mark === '.' ? ',' : '.');
  const digits = whole.replace(/[.,]/g, '');
  const read = parseMoney(`${sign}${digits}${groupsOnly ? fraction : fraction && `.${fraction}`}`, currency);
  return read.ok ? read : fail({ ...read.error, ...('text' in read.error ? { text } : {}) });
}

/** Decimal string with a point, for files: "12.50". */
export const moneyToDecimal = (value: Money): string => toDecimal(open(value));

/** Float in major units. Only for probabilities and rates inside worth/ and diagnose/, never to be stored. */
export const toMajor = (value: Money): number => value.amountMinor / 10 ** currencyDecimals(value.currency);

/** Back from a computed rate; rounds half away from zero. */
export const fromMajor = (major: number, currency: string): Money => {
  const scaled = major * 10 ** currencyDecimals(currency);
  return money(Math.sign(scaled) * Math.round(Math.abs(scaled)) || 0, currency);
};
