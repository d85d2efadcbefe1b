import { elementOhm, levelSignal, ntcOhm } from './laws';

/** `values`: of quantities that must be alike (three phases of a winding); `columnMm`: the height of the water at a level sensor. */
export type Reading =
  { value: number; ambientCelsius?: number; columnMm?: number; values?: readonly number[] } | { open: true };

/** `open`: the meter shows no continuity at all. */
export type ReadingVerdict = {
  verdict: 'below' | 'within' | 'above' | 'open' | 'cannot-judge';
  /** Limits as they apply to this reading, in the limit's unit; null = no limit on that side. */
  low: number | null;
  high: number | null;
  /** What the law expects, where there is one. */
  expected: number | null;
  reason:
    | 'limit'
    | 'element-law'
    | 'ntc-law'
    | 'column-law'
    | 'spread-law'
    | 'ambient-missing'
    | 'column-missing'
    | 'too-few'
    | 'limit-incomplete'
    | 'not-a-number';
};

/** The limit of one quantity: a range from the data sheet, or a law with a tolerance (0.1 = ±10 %). */
export type ReadingLimit = {
  law: 'range' | 'element' | 'ntc' | 'spread' | 'column';
  low?: number | undefined;
  high?: number | undefined;
  powerW?: number | undefined;
  voltageV?: number | undefined;
  r25Ohm?: number | undefined;
  betaK?: number | undefined;
  atZero?: number | undefined;
  perMm?: number | undefined;
  tolerance: number;
};

const around = (expected: number, tolerance: number) => ({
  low: expected * (1 - tolerance),
  high: expected * (1 + tolerance),
  expected,
});

function bounds(
  limit: ReadingLimit,
  reading: Reading,
): { low: number | null; high: number | null; expected: number | null; reason: ReadingVerdict['reason'] } {
  const none = { low: null, high: null, expected: null };
  if (limit.law === 'element') {
    if (limit.powerW === undefined || limit.voltageV === undefined) return { ...none, reason: 'limit-incomplete' };
    return { ...around(elementOhm(limit.voltageV, limit.powerW), limit.tolerance), reason: 'element-law' };
  }
  if (limit.law === 'ntc') {
    if (limit.r25Ohm === undefined || limit.betaK === undefined) return { ...none, reason: 'limit-incomplete' };
    const ambient = 'open' in reading ? 25 : reading.ambientCelsius;
    if (ambient === undefined) return { ...none, reason: 'ambient-missing' };
    return { ...around(ntcOhm(limit.r25Ohm, limit.betaK, ambient), limit.tolerance), reason: 'ntc-law' };
  }
  if (limit.law === 'column') {
    if (limit.atZero === undefined || limit.perMm === undefined) return { ...none, reason: 'limit-incomplete' };
    const column = 'open' in reading ? 0 : reading.columnMm;
    if (column === undefined) return { ...none, reason: 'column-missing' };
    return { ...around(levelSignal(limit.atZero, limit.perMm, column), limit.tolerance), reason: 'column-law' };
  }
  if (limit.law === 'spread') {
    const values = 'open' in reading ? [1, 1] : (reading.values ?? []);
    if (values.length < 2) return { ...none, reason: 'too-few' };
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    return { low: null, high: Math.min(...values) + limit.tolerance * mean, expected: mean, reason: 'spread-law' };
  }
  return {
    low: limit.low ?? null,
    high: limit.high ?? null,
    expected: null,
    reason: limit.low === undefined && limit.high === undefined ? 'limit-incomplete' : 'limit',
  };
}

/**
 * Judges one reading against its limit. Bounds are inclusive. O(1). A thermistor needs the ambient temperature at which it was measured, a
 * level sensor the height of the water; of values that must be alike (law `spread`) the largest is judged: it may lie above the least by the tolerance of their mean.
 */
export function judgeReading(limit: ReadingLimit, reading: Reading): ReadingVerdict {
  const found = bounds(limit, reading);
  if ('open' in reading) return { verdict: 'open', ...found };
  if (!Number.isFinite(reading.value)) return { ...found, verdict: 'cannot-judge', reason: 'not-a-number' };
  if (found.low === null && found.high === null) return { verdict: 'cannot-judge', ...found };
  const verdict =
    found.low !== null && reading.value < found.low
      ? 'below'
      : found.high !== null && reading.value > found.high
        ? 'above'
        : 'within';
  return { verdict, ...found };
}
