import { BEARINGS } from './bearings';

/**
 * What a bearing and its seal run on and in, measured before a bearing is ordered: the journal under the inner ring, the seat around the outer
 * ring, the groove that the seal's lip has cut. A ring on a worn seat creeps and the new bearing is gone within the year.
 */
export type Seat = 'journal' | 'housing' | 'lip-track';
export type SeatVerdict = {
  seat: Seat;
  verdict: 'sound' | 'worn' | 'measure-finer';
  /** The limit in mm that the reading was held against. */
  limitMm: number;
  /** What a worn one means. */
  instead: 'spider' | 'tub';
};

/**
 * Limits against the nominal size. Journal: the lower deviation of j6, housing: the upper of J7, both for the sizes of drum bearings (bores 18 to 50,
 * outsides 40 to 120 mm): ISO 286-2:2010. A lip track deeper than 0.05 mm leaks with a new seal: workshop practice.
 */
const JOURNAL_LOWER: [number, number][] = [
  [18, -0.003],
  [30, -0.004],
  [50, -0.005],
  [80, -0.007],
];
const HOUSING_UPPER: [number, number][] = [
  [30, 0.012],
  [50, 0.014],
  [80, 0.018],
  [120, 0.022],
];
const LIP_TRACK_MM = 0.05;

/** Uncertainty of what is measured with, in mm: a workshop caliper, a micrometer. */
export const TOOLS = { caliper: 0.03, micrometer: 0.005 } as const;
export type Tool = keyof typeof TOOLS;

const upTo = (table: readonly [number, number][], size: number): number =>
  (table.find(([most]) => size <= most) ?? table.at(-1) ?? [0, 0])[1];

/** `short`: by how much the reading lies beyond its limit, mm; positive is worn. Within the tool's uncertainty it is not known. */
const verdictOf = (short: number, tool: Tool): SeatVerdict['verdict'] =>
  short > TOOLS[tool] + 1e-9 ? 'worn' : short < -TOOLS[tool] - 1e-9 ? 'sound' : 'measure-finer';

/**
 * Judges what has been measured; what has not is left out. Diameters and depth in mm, finite and above zero (the depth may be zero). A caliper can only
 * tell gross wear: near the limit it says to measure finer, never that a seat is sound.
 */
export function judgeSeats(
  bearing: { bore: number; outside: number },
  measured: { journalMm?: number | undefined; housingMm?: number | undefined; lipTrackMm?: number | undefined },
  tool: Tool,
): SeatVerdict[] {
  const found: SeatVerdict[] = [];
  const { journalMm, housingMm, lipTrackMm } = measured;
  if (journalMm !== undefined) {
    const limitMm = bearing.bore + upTo(JOURNAL_LOWER, bearing.bore);
    found.push({ seat: 'journal', verdict: verdictOf(limitMm - journalMm, tool), limitMm, instead: 'spider' });
  }
  if (housingMm !== undefined) {
    const limitMm = bearing.outside + upTo(HOUSING_UPPER, bearing.outside);
    found.push({ seat: 'housing', verdict: verdictOf(housingMm - limitMm, tool), limitMm, instead: 'tub' });
  }
  if (lipTrackMm !== undefined)
    found.push({
      seat: 'lip-track',
      // A depth is a difference of two readings close together: what cannot be felt is not there.
      verdict: lipTrackMm > LIP_TRACK_MM ? 'worn' : 'sound',
      limitMm: LIP_TRACK_MM,
      instead: 'spider',
    });
  return found;
}

export type SuffixVerdict = {
  part: string;
  suits: 'yes' | 'no' | 'with-care';
  kind: 'seals' | 'shields' | 'open' | 'clearance';
};

/**
 * Whether seals and internal clearance suit a washer's drum: rubbing seals on both sides, clearance C3 (ISO 5753-1) because the rings sit tight and the
 * drum is warm. Reads the suffixes after the basic designation (ISO 15): "6204-2RS C3".
 */
export function judgeSuffixes(designation: string): SuffixVerdict[] {
  const plain = designation.toUpperCase().replace(/[\s-]/g, '');
  // "6204-2RS" must not be read as 62042: the longest designation that exists.
  const known = BEARINGS.filter((bearing) => plain.startsWith(bearing.designation)).map(
    (bearing) => bearing.designation.length,
  );
  const tail = plain.slice(Math.max(0, ...known));
  const seals = /2RS|2LS|DDU|LLU/.exec(tail)?.[0];
  const oneSeal = /RS/.exec(tail)?.[0];
  const shields = /2Z|ZZ|Z/.exec(tail)?.[0];
  const clearance = /C[2-5N]/.exec(tail)?.[0];
  const closed: SuffixVerdict = seals
    ? { part: seals, suits: 'yes', kind: 'seals' }
    : oneSeal
      ? { part: oneSeal, suits: 'with-care', kind: 'seals' }
      : shields
        ? { part: shields, suits: 'no', kind: 'shields' }
        : { part: '', suits: 'no', kind: 'open' };
  return [
    closed,
    {
      part: clearance ?? '',
      suits: clearance === 'C3' ? 'yes' : clearance === 'C2' ? 'no' : 'with-care',
      kind: 'clearance',
    },
  ];
}
