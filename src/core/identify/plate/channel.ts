import { isDigit, SYMBOL_COUNT, SYMBOLS, UNREADABLE } from './symbols';

/**
 * How a number comes to be read: one of several modes (copied, typed, by a camera, off a worn plate), each lighter or heavier. P(read | truth) is the mixture
 * over the modes; within one reading slips are independent. Nobody knows the rates of a reading beforehand: a hurried one has several slips where a careful one
 * has none, and severity is what they have in common. The rates are the tool's own estimates (docs/methods.md).
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
  /** Two characters read as one or one as two, where they look alike so (MERGE). */
  merge: number;
  /** An edge lost: P(begin torn) = P(end torn), then each further character with `tornOn`. */
  torn: number;
  tornOn: number;
};

/** No more than two fifths of a number, and no more than this, is torn off an edge: with more missing it is not read but guessed. */
export const MOST_TORN = 5;
const TORN_SHARE = 0.4;
/** How much of a number of this length an edge may lose. */
export const mostTorn = (length: number): number => Math.min(MOST_TORN, Math.floor(length * TORN_SHARE));

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
/** Where Z and Y have changed places. */
const OTHER_ORDER = KEY_ROWS.map(([keys, shift]): [string, number] => [
  keys.replace(/[YZ]/, (key) => (key === 'Y' ? 'Z' : 'Y')),
  shift,
]);
const OTHER_ORDER_SHARE = 0.5;
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
      .filter((b) => b.code !== a.code && Math.hypot(a.x - b.x, a.y - b.y) < 1.3)
      .map((b): [number, number] => [a.code, b.code]),
  );
}

/** Letters and digits that sound alike when a number is told: groups whose names rhyme or begin alike. */
const SOUND_ALIKE = ['BDEGPTVZC', 'MN', 'FSX', 'AHKJ8', 'IY5', 'QUW2', '59', '23', 'O0', 'LMN', 'IE'];

type Rates = { alike: number; key: number; heard: number; other: number; unreadable: number };

/** Row by row: the wrong reads share out `alike`, `key`, `heard` and `other`; what is left is read right. */
function table(rates: Rates, lost: number): Float64Array {
  const out = new Float64Array(SYMBOL_COUNT * COLUMNS);
  const alike = new Float64Array(SYMBOL_COUNT * SYMBOL_COUNT);
  const near = new Float64Array(SYMBOL_COUNT * SYMBOL_COUNT);
  const sound = new Float64Array(SYMBOL_COUNT * SYMBOL_COUNT);
  for (const group of SOUND_ALIKE)
    for (const a of group)
      for (const b of group) if (a !== b) sound[SYMBOLS.indexOf(a) * SYMBOL_COUNT + SYMBOLS.indexOf(b)] = 1;
  for (const [group, weight] of LOOKALIKES)
    for (const a of group)
      for (const b of group) {
        const cell = SYMBOLS.indexOf(a) * SYMBOL_COUNT + SYMBOLS.indexOf(b);
        if (a !== b) alike[cell] = Math.max(alike[cell] ?? 0, weight);
      }
  for (const [a, b] of neighbours(KEYPAD)) near[a * SYMBOL_COUNT + b] = KEYPAD_SHARE;
  for (const [a, b] of neighbours(OTHER_ORDER)) near[a * SYMBOL_COUNT + b] = OTHER_ORDER_SHARE;
  for (const [a, b] of neighbours(KEY_ROWS)) near[a * SYMBOL_COUNT + b] = 1;
  for (let truth = 0; truth < SYMBOL_COUNT; truth += 1) {
    const row = truth * SYMBOL_COUNT;
    let alikeSum = 0;
    let nearSum = 0;
    let soundSum = 0;
    for (let read = 0; read < SYMBOL_COUNT; read += 1) {
      alikeSum += alike[row + read] ?? 0;
      nearSum += near[row + read] ?? 0;
      soundSum += sound[row + read] ?? 0;
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
        (soundSum > 0 ? (rates.heard * (sound[row + read] ?? 0)) / soundSum : 0) +
        (rates.other * sameClass) / (SYMBOL_COUNT - 1);
      out[truth * COLUMNS + read] = p;
      wrong += p;
    }
    out[truth * COLUMNS + UNREADABLE] = rates.unreadable;
    out[truth * COLUMNS + truth] = Math.max(1e-6, 1 - wrong - rates.unreadable - lost);
  }
  return out;
}

type Slips = Omit<Mode, 'name' | 'share' | 'substitution'>;

const mode = (name: Mode['name'], share: number, rates: Rates, slips: Slips): Mode => ({
  name,
  share,
  substitution: table(rates, slips.drop + slips.swap),
  ...slips,
});

/** How heavy the slips of a reading are: times the usual rates. */
const SEVERITIES = [
  { share: 0.38, times: 0.3 },
  { share: 0.4, times: 1 },
  { share: 0.16, times: 3 },
  { share: 0.06, times: 7 },
] as const;

/** No slip is commoner than this, however heavy. */
const MOST = 0.25;

/** One mode at every severity. */
const severally = (name: Mode['name'], share: number, rates: Rates, slips: Slips): Mode[] =>
  SEVERITIES.map(({ share: part, times }) => {
    const at = (rate: number) => Math.min(MOST, rate * times);
    return mode(
      name,
      share * part,
      {
        alike: at(rates.alike),
        key: at(rates.key),
        heard: at(rates.heard),
        other: at(rates.other),
        unreadable: at(rates.unreadable),
      },
      {
        drop: at(slips.drop),
        add: at(slips.add),
        double: at(slips.double),
        swap: at(slips.swap),
        merge: at(slips.merge),
        torn: at(slips.torn),
        tornOn: times > 1 ? Math.max(0.7, slips.tornOn) : slips.tornOn,
      },
    );
  });

export const MODES: readonly Mode[] = [
  mode(
    'copied',
    0.34,
    { alike: 0.0006, key: 0.0003, heard: 0.0001, other: 0.0003, unreadable: 1e-6 },
    { drop: 0.0003, add: 0.0001, double: 0.0002, swap: 0.0003, merge: 0, torn: 0.0002, tornOn: 0.3 },
  ),
  ...severally(
    'typed',
    0.24,
    { alike: 0.005, key: 0.022, heard: 0.008, other: 0.004, unreadable: 1e-5 },
    { drop: 0.016, add: 0.005, double: 0.014, swap: 0.018, merge: 0, torn: 0.003, tornOn: 0.3 },
  ),
  ...severally(
    'camera',
    0.24,
    { alike: 0.07, key: 0.0002, heard: 0, other: 0.0025, unreadable: 5e-4 },
    { drop: 0.008, add: 0.004, double: 0.001, swap: 0.0003, merge: 0.03, torn: 0.03, tornOn: 0.4 },
  ),
  ...severally(
    'worn',
    0.18,
    { alike: 0.03, key: 0.0002, heard: 0, other: 0.002, unreadable: 0.12 },
    { drop: 0.004, add: 0.001, double: 0.0005, swap: 0.0003, merge: 0, torn: 0.16, tornOn: 0.5 },
  ),
];

/** Pairs that a camera reads as one character, or one as two: RN and M. */
export const MERGE = { from: [SYMBOLS.indexOf('R'), SYMBOLS.indexOf('N')] as const, to: SYMBOLS.indexOf('M') };

/** Of the mode's share only a part counts to the cost of each slip: several slips have their mode in common. */
const SHARE_POWER = 0.6;

/** Costs for the search, in nats: for each slip the cheapest over the modes, so that nothing likely in any mode is missed. `?` costs nothing there. */
export const searchCosts = (() => {
  const weights = MODES.map(({ share }) => 1.6 * share ** SHARE_POWER);
  const cost = (p: (entry: Mode) => number) =>
    -Math.log(Math.min(1, Math.max(...MODES.map((entry, index) => (weights[index] ?? 0) * p(entry)))));
  const substitution = new Float32Array(SYMBOL_COUNT * COLUMNS);
  for (let truth = 0; truth < SYMBOL_COUNT; truth += 1)
    for (let read = 0; read < COLUMNS; read += 1) {
      const cell = truth * COLUMNS + read;
      substitution[cell] =
        read === truth || read === UNREADABLE ? 0 : cost(({ substitution: rows }) => rows[cell] ?? 0);
    }
  return {
    substitution,
    columns: COLUMNS,
    drop: cost((entry) => entry.drop),
    add: cost((entry) => entry.double / 2 + entry.add / 4),
    swap: cost((entry) => entry.swap),
    torn: cost((entry) => entry.torn),
    tornOn: -Math.log(0.6),
    merge: 4.2,
  };
})();
