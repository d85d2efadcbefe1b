import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, asDay, isoWeekday } from '../units';
import { BENCH_MINUTES_A_DAY, readyDate } from '.';

const weekdays = fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 7 });
const job = fc.record({
  partDays: fc.integer({ min: 0, max: 20 }),
  handsOnMinutes: fc.integer({ min: 1, max: 1200 }),
  elapsedHours: fc.integer({ min: 0, max: 72 }),
});
const week = fc.record({ shopDays: weekdays, carrierDays: weekdays, queueDays: fc.integer({ min: 0, max: 5 }) });

describe('the day on which it is ready', () => {
  it('is that of going through the days one by one', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 }), job, week, (offset, work, { shopDays, carrierDays, queueDays }) => {
        const today = addDays(asDay('2026-11-24'), offset);
        let day = today;
        let here = work.partDays === 0;
        let queue = queueDays;
        let left = Math.ceil(work.handsOnMinutes / BENCH_MINUTES_A_DAY);
        let cures = Math.ceil(work.elapsedHours / 24);
        let travelled = 0;
        for (let guard = 0; guard < 400; guard += 1, day = addDays(day, 1), travelled += 1) {
          if (!here && travelled >= work.partDays && carrierDays.includes(isoWeekday(day))) here = true;
          if (!here) continue;
          if (left > 0) {
            if (!shopDays.includes(isoWeekday(day))) continue;
            if (queue > 0) queue -= 1;
            else left -= 1;
            if (left > 0) continue;
            if (cures > 0) continue;
          } else if (cures > 0) cures -= 1;
          if (left === 0 && cures === 0 && shopDays.includes(isoWeekday(day))) break;
        }
        expect(readyDate(today, work, { shopDays, carrierDays, holidays: [], queueDays })).toBe(day);
      }),
      { numRuns: 400 },
    );
  });

  it('passes over the days on which nobody brings and nobody works', () => {
    const weekdaysOnly = { shopDays: [1, 2, 3, 4, 5], carrierDays: [1, 2, 3, 4, 5, 6], holidays: [], queueDays: 1 };
    // Ordered on a Thursday, two days on the way: here on Saturday, on the bench on Tuesday.
    const quick = { partDays: 2, handsOnMinutes: 60, elapsedHours: 0 };
    expect(readyDate(asDay('2026-11-26'), quick, weekdaysOnly)).toBe('2026-12-01');
    // A joint that cures from Friday on is safe on Saturday, and fetched on Monday.
    const cures = { partDays: 0, handsOnMinutes: 60, elapsedHours: 24 };
    expect(readyDate(asDay('2026-11-26'), cures, weekdaysOnly)).toBe('2026-11-30');
  });
});
