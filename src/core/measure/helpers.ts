import type { Bearing } from './bearings';

/** Coarse ISO metric threads: pitch (ISO 261), and the hole that the screw passes, medium fit (ISO 273). Millimetres. */
const THREADS = [
  { thread: 'M3', diameter: 3, pitch: 0.5, clearance: 3.4 },
  { thread: 'M4', diameter: 4, pitch: 0.7, clearance: 4.5 },
  { thread: 'M5', diameter: 5, pitch: 0.8, clearance: 5.5 },
  { thread: 'M6', diameter: 6, pitch: 1, clearance: 6.6 },
  { thread: 'M8', diameter: 8, pitch: 1.25, clearance: 9 },
  { thread: 'M10', diameter: 10, pitch: 1.5, clearance: 11 },
  { thread: 'M12', diameter: 12, pitch: 1.75, clearance: 13.5 },
  { thread: 'M16', diameter: 16, pitch: 2, clearance: 17.5 },
] as const;
export type Thread = (typeof THREADS)[number]['thread'];
export const THREAD_NAMES: readonly Thread[] = THREADS.map(({ thread }) => thread);

/** Drills for a screw: for its thread (diameter less pitch), to pass it, and to drill out a snapped one (about two thirds of its core). Millimetres; null for an unknown thread. */
export function drillsFor(name: string): { tap: number; clearance: number; core: number } | null {
  const found = THREADS.find(({ thread }) => thread === name);
  if (!found) return null;
  const tap = found.diameter - found.pitch;
  return { tap: round(tap, 0.1), clearance: found.clearance, core: round((2 / 3) * tap, 0.5) };
}

const round = (value: number, step: number): number => Math.round(Math.round(value / step) * step * 1000) / 1000;

export type DrawingIn = {
  /** Presses on the outer ring alone. */
  washer: { outsideMm: number; atLeastInsideMm: number };
  /** The counter-piece: wide enough to stand on the hub around the bore. */
  counter: { outsideMm: number };
  rod: { thread: Thread; lengthMm: number };
};

/** Nuts, washers and a hand to hold it. */
const BEYOND_THE_STACK_MM = 60;
/** The rings of a deep-groove bearing are each about a fifth of its section high; the washer must not touch seal or cage. */
const RING_SHARE = 0.22;

/**
 * What draws a ring into its bore without a blow: a washer just smaller than the bore, that presses on the outer ring alone; a counter-piece wider than the bore; a rod as long as
 * the stack, with its nuts. Millimetres. null where the sizes are none (outside > bore > 0, stack > 0) or no rod passes.
 */
export function drawingIn(bearing: Pick<Bearing, 'bore' | 'outside'>, stackMm: number): DrawingIn | null {
  const { bore, outside } = bearing;
  if (!(bore > 0) || !(outside > bore) || !(stackMm > 0)) return null;
  const rod = [...THREADS].reverse().find(({ diameter }) => diameter <= Math.min(16, bore - 1));
  if (!rod) return null;
  const section = (outside - bore) / 2;
  return {
    washer: { outsideMm: round(outside - 0.5, 0.5), atLeastInsideMm: round(outside - 2 * RING_SHARE * section, 0.5) },
    counter: { outsideMm: Math.ceil(outside + 10) },
    rod: { thread: rod.thread, lengthMm: Math.ceil((stackMm + BEYOND_THE_STACK_MM) / 10) * 10 },
  };
}

/**
 * The order in which n bolts on a circle are tightened: each next one as far from those that are tight as can be, so that no side is drawn down alone. Bolts are counted from 1,
 * clockwise from twelve o’clock. [] for fewer than one. O(n²).
 */
export function tighteningOrder(bolts: number): number[] {
  const count = Math.floor(bolts);
  if (!(count >= 1)) return [];
  const apart = (a: number, b: number) => Math.min((a - b + count) % count, (b - a + count) % count);
  const order = [0];
  while (order.length < count) {
    const left = Array.from({ length: count }, (_, bolt) => bolt).filter((bolt) => !order.includes(bolt));
    const last = order.at(-1) ?? 0;
    const nearest = (bolt: number) => Math.min(...order.map((other) => apart(bolt, other)));
    order.push(
      left.reduce((best, bolt) => {
        const [a, b] = [nearest(bolt), nearest(best)];
        return a > b || (a === b && apart(bolt, last) > apart(best, last)) ? bolt : best;
      }),
    );
  }
  return order.map((bolt) => bolt + 1);
}

export type Drift = { outsideMm: number; atLeastInsideMm: number };

/** What a drift stays clear of: of the edge of the sleeve, and of the shaft in it. */
const CLEAR_MM = 0.5;
/** Thinner than this a tube collars under the hammer. */
const THINNEST_WALL_MM = 1;

/**
 * The tube that drives a hub or sleeve home flush: as wide as the sleeve, hollow enough to pass the shaft. Millimetres. null where the sizes are none (sleeve > shaft ≥ 0), or
 * where too thin a wall is left: then a plate across it, and no shaft through.
 */
export function driftFor(sleeveOutsideMm: number, shaftMm: number): Drift | null {
  if (!(sleeveOutsideMm > 0) || !(shaftMm >= 0)) return null;
  const outsideMm = round(sleeveOutsideMm - CLEAR_MM, 0.5);
  const atLeastInsideMm = shaftMm > 0 ? round(shaftMm + CLEAR_MM, 0.5) : 0;
  return (outsideMm - atLeastInsideMm) / 2 >= THINNEST_WALL_MM ? { outsideMm, atLeastInsideMm } : null;
}

export type RunOut = {
  /** Between the nearest and the farthest. */
  totalMm: number;
  /** How far the middle runs beside the axis, where it is round: half of it. */
  offMm: number;
  /** Which reading stands nearest to the fixed point, counted from 1: where it is pushed back. */
  nearest: number;
};

/** Run-out by hand: gaps to a fixed point at places round the turn. null for fewer than three, or where one is none. O(n). */
export function runOutOf(gapsMm: readonly number[]): RunOut | null {
  if (gapsMm.length < 3 || gapsMm.some((gap) => !(gap >= 0))) return null;
  const least = Math.min(...gapsMm);
  const totalMm = round(Math.max(...gapsMm) - least, 0.01);
  return { totalMm, offMm: round(totalMm / 2, 0.01), nearest: gapsMm.indexOf(least) + 1 };
}

/** What the marks said with a shim in: the mark stands before its window, in it, or past it. */
export type ShimTried = { mm: number; mark: 'before' | 'in' | 'past' };
export type NextShim = { kind: 'try'; mm: number } | { kind: 'chosen'; mm: number } | { kind: 'none' };

/**
 * The next shim of a kit to try: the thinnest first, then upwards while the mark stands before its window; the one with which it stands in the window is chosen. `none`: past the
 * window with the thinnest, or before it with the thickest: then something else is worn or put together wrong. O(n log n).
 */
export function nextShim(kitMm: readonly number[], tried: readonly ShimTried[]): NextShim {
  const kit = [...new Set(kitMm)].filter((mm) => mm > 0).sort((a, b) => a - b);
  const chosen = tried.find(({ mark }) => mark === 'in');
  if (chosen) return { kind: 'chosen', mm: chosen.mm };
  const least = Math.max(0, ...tried.filter(({ mark }) => mark === 'before').map(({ mm }) => mm));
  const most = Math.min(Infinity, ...tried.filter(({ mark }) => mark === 'past').map(({ mm }) => mm));
  const mm = kit.find((thickness) => thickness > least && thickness < most);
  return mm === undefined ? { kind: 'none' } : { kind: 'try', mm };
}
