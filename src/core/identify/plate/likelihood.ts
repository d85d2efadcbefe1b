import { MERGE, MODES, mostTorn } from './channel';
import { isDigit, MAX_LENGTH, SYMBOL_COUNT } from './symbols';

const COLUMNS = SYMBOL_COUNT + 1;
const ADDED_ANY = 1 / SYMBOL_COUNT;

/*
 * All modes are summed side by side: cell (i, j) of a table holds one number per mode, next to each other, so that what an alignment may do is found out
 * once for all of them.
 */
const K = MODES.length;
const SIZE = (MAX_LENGTH + 2) * (MAX_LENGTH + 2) * K;
const listed = new Float64Array(SIZE);
const replaced = new Float64Array(SIZE);
const entering = new Float64Array(SIZE);
const ofModes = (value: (mode: (typeof MODES)[number]) => number) => Float64Array.from(MODES, value);
const SHARE = ofModes(({ share }) => share);
const DROP = ofModes(({ drop }) => drop);
const SWAP = ofModes(({ swap }) => swap);
const MERGING = ofModes(({ merge }) => merge);
const TORN = ofModes(({ torn }) => torn);
const TORN_ON = ofModes(({ tornOn }) => tornOn);
const ADD = ofModes(({ add }) => add * ADDED_ANY);
const ADD_SAME = ofModes(({ add, double }) => add * ADDED_ANY + double);
/** Of each pair of symbols one number per mode. */
const sideBySide = (tables: readonly Float64Array[]): Float64Array => {
  const out = new Float64Array(SYMBOL_COUNT * COLUMNS * K);
  tables.forEach((table, k) => table.forEach((value, cell) => (out[cell * K + k] = value)));
  return out;
};
const SUBSTITUTION = sideBySide(MODES.map(({ substitution }) => substitution));

/**
 * Fills `rows` with P(the first j of the reading, from the first i of the truth), summed over all alignments, for every mode. `starts`: what begins at a cell.
 * O(|truth| · |read| · modes).
 */
function sumAlignments(rows: Float64Array, starts: Float64Array, truth: Uint8Array, read: Uint8Array): void {
  const n = truth.length;
  const m = read.length;
  const {
    to: into,
    from: [one, two],
  } = MERGE;
  const stride = (m + 1) * K;
  for (let i = 0; i <= n; i += 1) {
    const true1 = i > 0 ? (truth[i - 1] as number) : -1;
    const true2 = i > 1 ? (truth[i - 2] as number) : -1;
    for (let j = 0; j <= m; j += 1) {
      const at = i * stride + j * K;
      const above = at - stride;
      const read1 = j > 0 ? (read[j - 1] as number) : -1;
      const read2 = j > 1 ? (read[j - 2] as number) : -1;
      const add = read1 === read2 ? ADD_SAME : ADD;
      if (i > 0 && j > 0) {
        const pair = (true1 * COLUMNS + read1) * K;
        // One pass for the common steps: a character left out, read, or too many.
        for (let k = 0; k < K; k += 1)
          rows[at + k] =
            (starts[at + k] as number) +
            (rows[above + k] as number) * (DROP[k] as number) +
            (rows[above - K + k] as number) * (SUBSTITUTION[pair + k] as number) +
            (rows[at - K + k] as number) * (add[k] as number);
        if (read2 >= 0 && true2 >= 0 && read1 === true2 && read2 === true1 && true1 !== true2)
          addFrom(rows, at, at - 2 * stride - 2 * K, SWAP);
        if (read1 === into && true2 === one && true1 === two) addFrom(rows, at, at - 2 * stride - K, MERGING);
        if (true1 === into && read2 === one && read1 === two) addFrom(rows, at, above - 2 * K, MERGING);
      } else {
        for (let k = 0; k < K; k += 1) rows[at + k] = starts[at + k] as number;
        if (i > 0) addFrom(rows, at, above, DROP);
        if (j > 0) addFrom(rows, at, at - K, add);
      }
    }
  }
}

function addFrom(rows: Float64Array, at: number, from: number, times: Float64Array): void {
  for (let k = 0; k < K; k += 1)
    rows[at + k] = (rows[at + k] as number) + (rows[from + k] as number) * (times[k] as number);
}

/** The begin is whole, or torn off as far as an edge may be. */
function startWhole(n: number, m: number): void {
  const stride = (m + 1) * K;
  const most = mostTorn(n);
  entering.fill(0, 0, (n + 1) * stride);
  for (let k = 0; k < K; k += 1) {
    entering[k] = 1 - (TORN[k] as number);
    let lost = (TORN[k] as number) * (1 - (TORN_ON[k] as number));
    for (let i = 1; i <= most; i += 1) {
      entering[i * stride + k] = lost;
      lost *= TORN_ON[k] as number;
    }
  }
}

/** So is the end. Mixed over the modes. */
function endWhole(rows: Float64Array, n: number, m: number): number {
  const stride = (m + 1) * K;
  const most = mostTorn(n);
  let total = 0;
  for (let k = 0; k < K; k += 1) {
    let own = (rows[n * stride + m * K + k] as number) * (1 - (TORN[k] as number));
    let lost = (TORN[k] as number) * (1 - (TORN_ON[k] as number));
    for (let i = 1; i <= most; i += 1) {
      own += (rows[(n - i) * stride + m * K + k] as number) * lost;
      lost *= TORN_ON[k] as number;
    }
    total += own * (SHARE[k] as number);
  }
  return total;
}

/** ln P(read | truth), mixed over the modes; −Infinity when impossible. O(|truth| · |read|) per mode. */
export function logLikelihood(truth: Uint8Array, read: Uint8Array): number {
  startWhole(truth.length, read.length);
  sumAlignments(listed, entering, truth, read);
  return Math.log(endWhole(listed, truth.length, read.length));
}

/** P(one character of a listed number is another one of its class): makers count their numbers up. */
export const SAME_CLASS = 0.95;

/** P(character b stands where a listed sibling has a). */
export const replacement = (a: number, b: number): number =>
  isDigit(a) === isDigit(b) ? SAME_CLASS / (isDigit(b) ? 9 : 25) : (1 - SAME_CLASS) / (isDigit(b) ? 10 : 26);

/** P(read symbol | the listed character was replaced by another one), of all modes side by side. */
const REPLACED = sideBySide(
  MODES.map(({ substitution }) => {
    const table = new Float64Array(SYMBOL_COUNT * COLUMNS);
    for (let a = 0; a < SYMBOL_COUNT; a += 1)
      for (let b = 0; b < SYMBOL_COUNT; b += 1)
        for (let seen = 0; a !== b && seen < COLUMNS; seen += 1)
          table[a * COLUMNS + seen] =
            (table[a * COLUMNS + seen] ?? 0) + replacement(a, b) * (substitution[b * COLUMNS + seen] ?? 0);
    return table;
  }),
);

export type Likelihoods = {
  /** ln P(read | truth). */
  log: number;
  /** P(read | truth with exactly one character, any with equal chance, replaced by another one). */
  sibling: number;
};

/** Both, mixed over the modes: the second goes on from the alignments of the first. O(|truth| · |read|) per mode. */
export function likelihoods(truth: Uint8Array, read: Uint8Array): Likelihoods {
  const n = truth.length;
  const m = read.length;
  const stride = (m + 1) * K;
  startWhole(n, m);
  sumAlignments(listed, entering, truth, read);
  const log = Math.log(endWhole(listed, n, m));
  entering.fill(0, 0, stride);
  for (let i = 1; i <= n; i += 1)
    for (let j = 0; j <= m; j += 1) {
      const at = i * stride + j * K;
      const pair = ((truth[i - 1] as number) * COLUMNS + (j > 0 ? (read[j - 1] as number) : 0)) * K;
      for (let k = 0; k < K; k += 1)
        entering[at + k] =
          ((j > 0 ? (listed[at - stride - K + k] as number) * (REPLACED[pair + k] as number) : 0) +
            (listed[at - stride + k] as number) * (DROP[k] as number)) /
          n;
    }
  sumAlignments(replaced, entering, truth, read);
  return { log, sibling: endWhole(replaced, n, m) };
}

export type AlignedSlip = { truthAt: number; readAt: number; kind: 'substituted' | 'dropped' | 'added' | 'swapped' };

/** Costs of the alignment at hand; numbers are short. */
const aligned = new Float64Array((MAX_LENGTH + 1) ** 2);

/** The likeliest alignment by the typical costs, as the slips in it. O(|truth| · |read|). */
export function alignSlips(
  truth: Uint8Array,
  read: Uint8Array,
  cost: (truth: number, read: number) => number,
  slip: { drop: number; add: number; swap: number },
): AlignedSlip[] {
  const n = truth.length;
  const m = read.length;
  const table = (n + 1) * (m + 1) <= aligned.length ? aligned : new Float64Array((n + 1) * (m + 1));
  table[0] = 0;
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
