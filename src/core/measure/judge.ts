import { elementOhm, ntcOhm } from './laws';

export type Reading = { value: number; ambientCelsius?: number } | { open: true };

/** `open`: the meter shows no continuity at all. */
export type ReadingVerdict = {
  verdict: 'below' | 'within' | 'above' | 'open' | 'cannot-judge';
  /** Limits as they apply to this reading, in the limit's unit; null = no limit on that side. */
  low: number | null;
  high: number | null;
  /** What the law expects, where there is one. */
  expected: number | null;
  reason: 'limit' | 'element-law' | 'ntc-law' | 'ambient-missing' | 'limit-incomplete' | 'not-a-number';
};

/** The limit of one quantity: a range from the data sheet, or a law with a tolerance (0.1 = ±10 %). */
export type ReadingLimit = {
  law: 'range' | 'element' | 'ntc';
  low?: number | undefined;
  high?: number | undefined;
  powerW?: number | undefined;
  voltageV?: number | undefined;
  r25Ohm?: number | undefined;
  betaK?: number | undefined;
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
  return {
    low: limit.low ?? null,
    high: limit.high ?? null,
    expected: null,
    reason: limit.low === undefined && limit.high === undefined ? 'limit-incomplete' : 'limit',
  };
}

/** Judges one reading against its limit. Bounds are inclusive. O(1). A thermistor needs the ambient temperature at which it was measured. */
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
