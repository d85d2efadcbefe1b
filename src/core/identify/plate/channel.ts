import { isDigit, SYMBOL_COUNT, SYMBOLS, UNREADABLE } from './symbols';

/**
 * How a number comes to be read: one of several modes, each with its own rates. P(read | truth) is the mixture over the modes; within one reading
 * slips are independent. The rates are the tool's own estimates (docs/methods.md), not those of any corruption it is tested with.
 */
export type Mode = {
  name: 'copied' | 'typed' | 'camera' | 'worn';
  /** How often a reading comes about this way. */
  share: number;
  /** P(read symbol | true symbol), rows truth, columns read (with ? last). Rows sum to 1 − drop − swap. */
  substitution: Float64Array;
  drop: number;
  /** A character too many before or after a true one; what it is follows `added`. */
  add: number;
  double: number;
  swap: number;
  /** An edge lost: P(begin torn) = P(end torn), then each further character with `tornOn`. */
  torn: number;
  tornOn: number;
};

/** No more than this is torn off an edge: a number with more missing is not read but guessed. */
export const MOST_TORN = 3;

const COLUMNS = SYMBOL_COUNT + 1;

/** Alike to the eye or the camera, weight of the confusion within a group. */
const LOOKALIKES: readonly [string, number][] = [
  ['0ODQ', 1],
  ['1IL', 1],
  ['17', 0.5],
  ['1T', 0.3],
  ['8B', 1],
  ['83', 0.6],
  ['38', 0.4],
  ['5S', 1],
  ['56', 0.4],
  ['2Z', 1],
  ['27', 0.25],
  ['6G', 1],
  ['68', 0.4],
  ['6B', 0.2],
  ['UV', 0.8],
  ['UO', 0.2],
  ['4A', 0.4],
  ['CG', 0.5],
  ['C0', 0.25],
  ['EF', 0.5],
  ['PR', 0.4],
  ['PF', 0.3],
  ['MN', 0.4],
  ['MH', 0.3],
  ['HN', 0.3],
  ['VY', 0.4],
  ['KX', 0.4],
  ['WV', 0.3],
  ['9G', 0.3],
  ['97', 0.2],
  ['Z7', 0.4],
  ['J1', 0.3],
  ['IJ', 0.3],
  ['B3', 0.4],
  ['D0', 1],
  ['XY', 0.2],
  ['TY', 0.25],
  ['BR', 0.2],
  ['S8', 0.25],
  ['Q9', 0.2],
  ['90', 0.2],
  ['49', 0.2],
  ['Z2', 1],
];

const KEY_ROWS: readonly [string, number][] = [
  ['1234567890', 0],
  ['QWERTYUIOP', 0.5],
  ['ASDFGHJKL', 0.75],
  ['ZXCVBNM', 1.25],
];
/** The keypad beside it: digits are typed there, too. */
const KEYPAD: readonly [string, number][] = [
  ['789', 0],
  ['456', 0],
  ['123', 0],
  ['0', 0],
];

/** Most type model numbers on the main keys, letters and digits mixed. */
const KEYPAD_SHARE = 0.3;

function neighbours(rows: readonly [string, number][]): [number, number][] {
  const at = rows.flatMap(([keys, shift], y) =>
    [...keys].map((key, x) => ({ code: SYMBOLS.indexOf(key), x: x + shift, y })),
  );
  return at.flatMap((a) =>
    at
      .filter((b) => b.code !== a.code && Math.hypot(a.x - b.x, a.y - b.y) < 1.2)
      .map((b): [number, number] => [a.code, b.code]),
  );
}

type Rates = { alike: number; key: number; other: number; unreadable: number };

/** Row by row: the wrong reads share out `alike`, `key` and `other`; what is left is read right. */
function table(rates: Rates, lost: number): Float64Array {
  const out = new Float64Array(SYMBOL_COUNT * COLUMNS);
  const alike = new Float64Array(SYMBOL_COUNT * SYMBOL_COUNT);
  const near = new Float64Array(SYMBOL_COUNT * SYMBOL_COUNT);
  for (const [group, weight] of LOOKALIKES)
    for (const a of group)
      for (const b of group) {
        const cell = SYMBOLS.indexOf(a) * SYMBOL_COUNT + SYMBOLS.indexOf(b);
        if (a !== b) alike[cell] = Math.max(alike[cell] ?? 0, weight);
      }
  for (const [a, b] of neighbours(KEYPAD)) near[a * SYMBOL_COUNT + b] = KEYPAD_SHARE;
  for (const [a, b] of neighbours(KEY_ROWS)) near[a * SYMBOL_COUNT + b] = 1;
  for (let truth = 0; truth < SYMBOL_COUNT; truth += 1) {
    const row = truth * SYMBOL_COUNT;
    let alikeSum = 0;
    let nearSum = 0;
    for (let read = 0; read < SYMBOL_COUNT; read += 1) {
      alikeSum += alike[row + read] ?? 0;
      nearSum += near[row + read] ?? 0;
    }
    // A character with many doubles is misread more often than one with a single faint one.
    const alikeRate = rates.alike * Math.min(1.6, alikeSum);
    const keyRate = nearSum > 0 ? rates.key : 0;
    let wrong = 0;
    for (let read = 0; read < SYMBOL_COUNT; read += 1) {
      if (read === truth) continue;
      const sameClass = isDigit(read) === isDigit(truth) ? 1.5 : 0.5;
      const p =
        (alikeSum > 0 ? (alikeRate * (alike[row + read] ?? 0)) / alikeSum : 0) +
        (nearSum > 0 ? (keyRate * (near[row + read] ?? 0)) / nearSum : 0) +
        (rates.other * sameClass) / (SYMBOL_COUNT - 1);
      out[truth * COLUMNS + read] = p;
      wrong += p;
    }
    out[truth * COLUMNS + UNREADABLE] = rates.unreadable;
    out[truth * COLUMNS + truth] = Math.max(1e-6, 1 - wrong - rates.unreadable - lost);
  }
  return out;
}

const mode = (
  name: Mode['name'],
  share: number,
  rates: Rates,
  slips: Omit<Mode, 'name' | 'share' | 'substitution'>,
): Mode => ({
  name,
  share,
  substitution: table(rates, slips.drop + slips.swap),
  ...slips,
});

export const MODES: readonly Mode[] = [
  mode(
    'copied',
    0.34,
    { alike: 0.0006, key: 0.0003, other: 0.0003, unreadable: 1e-6 },
    { drop: 0.0003, add: 0.0001, double: 0.0002, swap: 0.0003, torn: 0.0002, tornOn: 0.3 },
  ),
  mode(
    'typed',
    0.24,
    { alike: 0.005, key: 0.024, other: 0.001, unreadable: 1e-5 },
    { drop: 0.016, add: 0.002, double: 0.016, swap: 0.018, torn: 0.001, tornOn: 0.3 },
  ),
  mode(
    'camera',
    0.24,
    { alike: 0.07, key: 0.0002, other: 0.0015, unreadable: 5e-4 },
    { drop: 0.008, add: 0.003, double: 0.001, swap: 0.0003, torn: 0.03, tornOn: 0.4 },
  ),
  mode(
    'worn',
    0.18,
    { alike: 0.03, key: 0.0002, other: 0.002, unreadable: 0.15 },
    { drop: 0.004, add: 0.001, double: 0.0005, swap: 0.0003, torn: 0.16, tornOn: 0.45 },
  ),
];

/** P(the part after the slash is left off), where there is one. */
export const SUFFIX_LEFT_OFF = 0.08;

/** Pairs that a camera reads as one character, or one as two: RN and M. */
export const MERGE = { from: [SYMBOLS.indexOf('R'), SYMBOLS.indexOf('N')] as const, to: SYMBOLS.indexOf('M'), p: 0.03 };

/** Costs for the search, in nats: for each slip the cheapest over the modes, so that nothing likely in any mode is missed. `?` costs nothing there. */
export const searchCosts = (() => {
  const substitution = new Float32Array(SYMBOL_COUNT * COLUMNS);
  for (let truth = 0; truth < SYMBOL_COUNT; truth += 1)
    for (let read = 0; read < COLUMNS; read += 1) {
      const p = MODES.reduce(
        (best, { share, substitution: rows }) => Math.max(best, 1.6 * share * (rows[truth * COLUMNS + read] ?? 0)),
        0,
      );
      substitution[truth * COLUMNS + read] = read === truth || read === UNREADABLE ? 0 : -Math.log(Math.min(1, p));
    }
  const cost = (p: (entry: Mode) => number) =>
    -Math.log(Math.max(...MODES.map((entry) => 1.6 * entry.share * p(entry))));
  return {
    substitution,
    columns: COLUMNS,
    drop: cost((entry) => entry.drop),
    add: cost((entry) => entry.double / 2 + entry.add / 4),
    swap: cost((entry) => entry.swap),
    torn: cost((entry) => entry.torn),
    tornOn: -Math.log(0.45),
    merge: 4.6,
    suffixLeftOff: -Math.log(SUFFIX_LEFT_OFF),
  };
})();
