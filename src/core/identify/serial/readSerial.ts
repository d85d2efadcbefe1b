import type { SerialScheme } from '../../catalogue';
import { addDays, earlierOf, isoWeekStart, laterOf, type LocalDate, asDay, type MakerId } from '../../units';
import { normaliseNumber } from '../plate/normal';

export type SerialContext = {
  producedFrom?: LocalDate | undefined;
  producedTo?: LocalDate | undefined;
  today: LocalDate;
};

export type SerialProblem =
  | { kind: 'no-scheme' }
  | { kind: 'does-not-match'; pattern: string }
  | { kind: 'week-out-of-range'; week: number }
  | { kind: 'check-digit-wrong' }
  | { kind: 'outside-production' };

export type SerialReading = {
  /** Build windows (inclusive days); probabilities sum to one when there is any. */
  candidates: { builtFrom: LocalDate; builtTo: LocalDate; probability: number }[];
  problems: SerialProblem[];
};

type Decoded = { year: string; week: string } | SerialProblem;

/**
 * Pattern letters: Y year symbol, W week digit, P plant letter, # any digit, C check digit (sum of the digits before it, modulo 10);
 * any other character stands for itself.
 */
function decode(pattern: string, serial: string): Decoded {
  if (serial.length !== pattern.length) return { kind: 'does-not-match', pattern };
  let year = '';
  let week = '';
  let digits = 0;
  for (let i = 0; i < pattern.length; i += 1) {
    const want = pattern.charAt(i);
    const got = serial.charAt(i);
    const isDigit = /\d/.test(got);
    if (want === 'C') {
      if (!isDigit) return { kind: 'does-not-match', pattern };
      if (Number(got) !== digits % 10) return { kind: 'check-digit-wrong' };
      continue;
    }
    if (isDigit) digits += Number(got);
    if (want === 'Y') year += got;
    else if (want === 'W' && isDigit) week += got;
    else if (want === '#' ? !isDigit : want === 'P' ? isDigit : want !== 'W' && want !== got)
      return { kind: 'does-not-match', pattern };
    else if (want === 'W') return { kind: 'does-not-match', pattern };
  }
  return { year, week };
}

/**
 * When a machine was built, from its serial by the maker's scheme. Year letters repeat after a cycle; the model's production window
 * and today settle which cycle, and what stays open is returned as several windows, equally likely. O(schemes × cycles).
 */
export function readSerial(
  schemes: readonly SerialScheme[],
  makerId: MakerId,
  serial: string,
  context: SerialContext,
): SerialReading {
  const own = schemes.filter((scheme) => scheme.makerId === makerId);
  if (own.length === 0) return { candidates: [], problems: [{ kind: 'no-scheme' }] };
  const text = normaliseNumber(serial);
  const problems: SerialProblem[] = [];
  const windows: { builtFrom: LocalDate; builtTo: LocalDate }[] = [];
  for (const scheme of own) {
    const decoded = decode(scheme.pattern, text);
    if ('kind' in decoded) {
      problems.push(decoded);
      continue;
    }
    const symbol = yearIndex(scheme, decoded.year);
    const week = decoded.week === '' ? null : Number(decoded.week);
    if (symbol < 0) problems.push({ kind: 'does-not-match', pattern: scheme.pattern });
    else if (week !== null && (week < 1 || week > 53)) problems.push({ kind: 'week-out-of-range', week });
    else windows.push(...windowsOf(scheme, symbol, decoded.year.length, week, context.today));
  }
  const fitting = windows.filter(
    (window) =>
      window.builtTo >= (context.producedFrom ?? '0000') && window.builtFrom <= (context.producedTo ?? '9999'),
  );
  if (windows.length > 0 && fitting.length === 0) problems.push({ kind: 'outside-production' });
  const kept = fitting.map((window) => ({
    builtFrom: context.producedFrom ? laterOf(window.builtFrom, context.producedFrom) : window.builtFrom,
    builtTo: context.producedTo ? earlierOf(window.builtTo, context.producedTo) : window.builtTo,
    probability: 1 / fitting.length,
  }));
  return {
    candidates: kept.sort((a, b) => (a.builtFrom < b.builtFrom ? 1 : -1)),
    problems: kept.length ? [] : problems,
  };
}

/** Symbols stand side by side, one or two characters each as the pattern has Y or YY. −1 when unknown. */
function yearIndex(scheme: SerialScheme, year: string): number {
  for (let index = 0; year !== '' && index < scheme.yearSymbols.length; index += year.length)
    if (scheme.yearSymbols.startsWith(year, index)) return index / year.length;
  return -1;
}

function windowsOf(scheme: SerialScheme, symbol: number, width: number, week: number | null, today: LocalDate) {
  const found: { builtFrom: LocalDate; builtTo: LocalDate }[] = [];
  for (
    let year = scheme.firstYear + symbol;
    year <= Number(today.slice(0, 4));
    year += scheme.yearSymbols.length / width
  ) {
    const builtFrom = week === null ? asDay(`${year}-01-01`) : isoWeekStart(year, week);
    const builtTo = week === null ? asDay(`${year}-12-31`) : addDays(builtFrom, 6);
    if (builtFrom <= today) found.push({ builtFrom, builtTo: earlierOf(builtTo, today) });
  }
  return found;
}
