import { MERGE, MODES, MOST_TORN, type Mode } from './channel';
import { isDigit, SYMBOL_COUNT, UNREADABLE } from './symbols';

const COLUMNS = SYMBOL_COUNT + 1;
const ADDED_ANY = 1 / SYMBOL_COUNT;
const WIDTH = 44;
const SIZE = WIDTH * WIDTH;
const listed = new Float64Array(SIZE);
const replaced = new Float64Array(SIZE);
const entering = new Float64Array(SIZE);

/**
 * Fills `rows` with P(the first j of the reading, from the first i of the truth), summed over all alignments. `starts`: what begins at a cell.
 * O(|truth| · |read|).
 */
function sumAlignments(
  rows: Float64Array,
  starts: Float64Array,
  mode: Mode,
  truth: Uint8Array,
  read: Uint8Array,
): void {
  const n = truth.length;
  const m = read.length;
  const camera = mode.name === 'camera';
  const {
    p: merging,
    to: into,
    from: [one, two],
  } = MERGE;
  const { substitution, drop, add, double, swap } = mode;
  for (let i = 0; i <= n; i += 1) {
    const base = i * WIDTH;
    for (let j = 0; j <= m; j += 1) {
      let p = starts[base + j] ?? 0;
      if (i > 0) {
        const true1 = truth[i - 1] ?? 0;
        if (j > 0) p += (rows[base - WIDTH + j - 1] ?? 0) * (substitution[true1 * COLUMNS + (read[j - 1] ?? 0)] ?? 0);
        p += (rows[base - WIDTH + j] ?? 0) * drop;
        if (j > 1 && i > 1 && read[j - 1] === truth[i - 2] && read[j - 2] === true1 && true1 !== truth[i - 2])
          p += (rows[base - 2 * WIDTH + j - 2] ?? 0) * swap;
        if (j > 0 && i > 1 && read[j - 1] === into && truth[i - 2] === one && true1 === two && camera)
          p += (rows[base - 2 * WIDTH + j - 1] ?? 0) * merging;
        if (j > 1 && true1 === into && read[j - 2] === one && read[j - 1] === two && camera)
          p += (rows[base - WIDTH + j - 2] ?? 0) * merging;
      }
      if (j > 0) {
        const same = j > 1 && read[j - 1] === read[j - 2];
        p += (rows[base + j - 1] ?? 0) * (add * ADDED_ANY + (same ? double : 0));
      }
      rows[base + j] = p;
    }
  }
}

/** The begin is whole, or torn off by up to MOST_TORN characters. */
function startWhole({ torn, tornOn }: Mode, n: number, m: number): void {
  let mass = 1 - torn;
  for (let i = 0; i <= n; i += 1) {
    if (i > 0) mass = i === 1 ? torn * (1 - tornOn) : i <= MOST_TORN ? mass * tornOn : 0;
    entering.fill(0, i * WIDTH, i * WIDTH + m + 1);
    entering[i * WIDTH] = mass;
  }
}

/** So is the end. */
function endWhole(rows: Float64Array, { torn, tornOn }: Mode, n: number, m: number): number {
  let total = (rows[n * WIDTH + m] ?? 0) * (1 - torn);
  let lost = torn * (1 - tornOn);
  for (let k = 1; k <= MOST_TORN && k <= n; k += 1) {
    total += (rows[(n - k) * WIDTH + m] ?? 0) * lost;
    lost *= tornOn;
  }
  return total;
}

/** ln P(read | truth), mixed over the modes; −Infinity when impossible. O(|truth| · |read|) per mode. */
export function logLikelihood(truth: Uint8Array, read: Uint8Array): number {
  let p = 0;
  for (const mode of MODES) {
    startWhole(mode, truth.length, read.length);
    sumAlignments(listed, entering, mode, truth, read);
    p += mode.share * endWhole(listed, mode, truth.length, read.length);
  }
  return Math.log(p);
}

/** P(one character of a listed number is another one of its class): makers count their numbers up. */
export const SAME_CLASS = 0.95;

/** P(character b stands where a listed sibling has a). */
export const replacement = (a: number, b: number): number =>
  isDigit(a) === isDigit(b) ? SAME_CLASS / (isDigit(b) ? 9 : 25) : (1 - SAME_CLASS) / (isDigit(b) ? 10 : 26);

/** P(read symbol | the listed character was replaced by another one), per mode. */
const REPLACED = MODES.map(({ substitution }) => {
  const table = new Float64Array(SYMBOL_COUNT * COLUMNS);
  for (let a = 0; a < SYMBOL_COUNT; a += 1)
    for (let b = 0; b < SYMBOL_COUNT; b += 1)
      for (let seen = 0; a !== b && seen < COLUMNS; seen += 1)
        table[a * COLUMNS + seen] =
          (table[a * COLUMNS + seen] ?? 0) + replacement(a, b) * (substitution[b * COLUMNS + seen] ?? 0);
  return table;
});

/** P(read | truth with exactly one character, any with equal chance, replaced by another one), mixed over the modes. O(|truth| · |read|) per mode. */
export function siblingLikelihood(truth: Uint8Array, read: Uint8Array): number {
  const n = truth.length;
  const m = read.length;
  let total = 0;
  MODES.forEach((mode, index) => {
    const table = REPLACED[index] as Float64Array;
    startWhole(mode, n, m);
    sumAlignments(listed, entering, mode, truth, read);
    entering.fill(0, 0, m + 1);
    for (let i = 1; i <= n; i += 1) {
      const base = i * WIDTH;
      const row = (truth[i - 1] ?? 0) * COLUMNS;
      for (let j = 0; j <= m; j += 1)
        entering[base + j] =
          ((j > 0 ? (listed[base - WIDTH + j - 1] ?? 0) * (table[row + (read[j - 1] ?? 0)] ?? 0) : 0) +
            (listed[base - WIDTH + j] ?? 0) * mode.drop) /
          n;
    }
    sumAlignments(replaced, entering, mode, truth, read);
    total += mode.share * endWhole(replaced, mode, n, m);
  });
  return total;
}

export type AlignedSlip = { truthAt: number; readAt: number; kind: 'substituted' | 'dropped' | 'added' | 'swapped' };

/** The likeliest alignment by the typical costs, as the slips in it. O(|truth| · |read|). */
export function alignSlips(
  truth: Uint8Array,
  read: Uint8Array,
  cost: (truth: number, read: number) => number,
  slip: { drop: number; add: number; swap: number },
): AlignedSlip[] {
  const n = truth.length;
  const m = read.length;
  const table = new Float64Array((n + 1) * (m + 1));
  const cell = (i: number, j: number) => table[i * (m + 1) + j] ?? Infinity;
  const swapped = (i: number, j: number) =>
    i > 1 && j > 1 && truth[i - 1] !== truth[i - 2] && truth[i - 1] === read[j - 2] && truth[i - 2] === read[j - 1];
  for (let i = 0; i <= n; i += 1)
    for (let j = 0; j <= m; j += 1) {
      if (i === 0 && j === 0) continue;
      let best = Infinity;
      if (i > 0 && j > 0) best = cell(i - 1, j - 1) + cost(truth[i - 1] ?? 0, read[j - 1] ?? 0);
      if (i > 0) best = Math.min(best, cell(i - 1, j) + slip.drop);
      if (j > 0) best = Math.min(best, cell(i, j - 1) + slip.add);
      if (swapped(i, j)) best = Math.min(best, cell(i - 2, j - 2) + slip.swap);
      table[i * (m + 1) + j] = best;
    }
  const slips: AlignedSlip[] = [];
  for (let i = n, j = m; i > 0 || j > 0;) {
    const here = cell(i, j);
    if (i > 0 && j > 0 && Math.abs(here - cell(i - 1, j - 1) - cost(truth[i - 1] ?? 0, read[j - 1] ?? 0)) < 1e-9) {
      if (truth[i - 1] !== read[j - 1]) slips.push({ truthAt: i - 1, readAt: j - 1, kind: 'substituted' });
      i -= 1;
      j -= 1;
    } else if (swapped(i, j) && Math.abs(here - cell(i - 2, j - 2) - slip.swap) < 1e-9) {
      slips.push(
        { truthAt: i - 1, readAt: j - 1, kind: 'swapped' },
        { truthAt: i - 2, readAt: j - 2, kind: 'swapped' },
      );
      i -= 2;
      j -= 2;
    } else if (i > 0 && Math.abs(here - cell(i - 1, j) - slip.drop) < 1e-9) {
      slips.push({ truthAt: i - 1, readAt: -1, kind: 'dropped' });
      i -= 1;
    } else {
      slips.push({ truthAt: Math.max(0, i - 1), readAt: j - 1, kind: 'added' });
      j -= 1;
    }
  }
  return slips.reverse();
}

export const unreadableCount = (read: Uint8Array): number =>
  read.reduce((count, code) => (code === UNREADABLE ? count + 1 : count), 0);
