import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeSeats, judgeSuffixes, TOOLS, type Tool } from '.';

const bearing = { bore: 25, outside: 52 };
const verdicts = (measured: Parameters<typeof judgeSeats>[1], tool: Tool) =>
  judgeSeats(bearing, measured, tool).map(({ seat, verdict }) => `${seat} ${verdict}`);

describe('the seats of a bearing', () => {
  it('that are worn mean a spider or a tub, not a bearing', () => {
    expect(judgeSeats(bearing, { journalMm: 24.9, housingMm: 52.1, lipTrackMm: 0.2 }, 'caliper')).toMatchObject([
      { seat: 'journal', verdict: 'worn', instead: 'spider' },
      { seat: 'housing', verdict: 'worn', instead: 'tub' },
      { seat: 'lip-track', verdict: 'worn', instead: 'spider' },
    ]);
  });

  it('near their limit are not called sound by a caliper, but by a micrometer', () => {
    expect(verdicts({ journalMm: 25.01, housingMm: 52.0 }, 'caliper')).toEqual([
      'journal measure-finer',
      'housing measure-finer',
    ]);
    expect(verdicts({ journalMm: 25.01, housingMm: 52.0 }, 'micrometer')).toEqual(['journal sound', 'housing sound']);
    expect(verdicts({}, 'caliper')).toEqual([]);
  });

  it('only get worse with wear, and a finer tool never contradicts a coarse one', () => {
    const order = ['sound', 'measure-finer', 'worn'];
    fc.assert(
      fc.property(
        fc.double({ min: -0.2, max: 0.2, noNaN: true }),
        fc.double({ min: 0, max: 0.2, noNaN: true }),
        (index, wear) => {
          for (const tool of Object.keys(TOOLS) as Tool[]) {
            const rank = (journalMm: number, housingMm: number) =>
              judgeSeats(bearing, { journalMm, housingMm }, tool).map(({ verdict }) => order.indexOf(verdict));
            const [before, after] = [rank(25 + index, 52 - index), rank(25 + index - wear, 52 - index + wear)];
            after.forEach((value, seat) => expect(value).toBeGreaterThanOrEqual(before[seat] ?? 0));
          }
          const [coarse, fine] = (['caliper', 'micrometer'] as const).map(
            (tool) => judgeSeats(bearing, { journalMm: 25 + index }, tool)[0]?.verdict,
          );
          if (coarse !== 'measure-finer') expect(fine).toBe(coarse);
        },
      ),
    );
  });
});

describe('seals and clearance', () => {
  it('suit a washer with rubbing seals on both sides and C3', () => {
    const suits = (designation: string) => judgeSuffixes(designation).map((verdict) => verdict.suits);
    expect(suits('6204-2RS C3')).toEqual(['yes', 'yes']);
    expect(suits('6204 2RS')).toEqual(['yes', 'with-care']);
    expect(suits('6306-2Z C3')).toEqual(['no', 'yes']);
    expect(suits('62205')).toEqual(['no', 'with-care']);
    expect(suits('6204-2RS1 C2')).toEqual(['yes', 'no']);
  });
});
