/** Scales non-negative masses to sum to one. All-zero (or empty) input comes back as it is: the caller says what that means. */
export function normalise(masses: readonly number[]): number[] {
  const total = masses.reduce((sum, mass) => sum + mass, 0);
  return total > 0 && Number.isFinite(total) ? masses.map((mass) => mass / total) : [...masses];
}

/** Shannon entropy in bits; zero masses count nothing. */
export const entropyBits = (probabilities: readonly number[]): number =>
  probabilities.reduce((sum, p) => (p > 0 ? sum - p * Math.log2(p) : sum), 0);

/** The smallest value at which the weights up to it reach the share q of all; of equal weights as `quantile` without interpolation. O(n log n). */
export function weightedQuantile(values: readonly { value: number; weight: number }[], q: number): number {
  const sorted = [...values].sort((a, b) => a.value - b.value);
  const total = sorted.reduce((sum, { weight }) => sum + weight, 0);
  let mass = 0;
  for (const { value, weight } of sorted) {
    mass += weight;
    if (mass >= q * total - 1e-12) return value;
  }
  return sorted.at(-1)?.value ?? NaN;
}

/** Value below which the share q of the sorted copy lies, linearly interpolated; NaN for an empty list. */
export function quantile(values: readonly number[], q: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  if (sorted.length === 0) return NaN;
  const index = (sorted.length - 1) * q;
  const low = sorted[Math.floor(index)] ?? NaN;
  const high = sorted[Math.ceil(index)] ?? NaN;
  return low + (high - low) * (index - Math.floor(index));
}

/**
 * Standard normal distribution function. Abramowitz & Stegun 26.2.17 through the complementary error function of W. J. Cody's
 * rational form as given in Numerical Recipes §6.2 (erfcc): absolute error below 1.2e-7 everywhere.
 */
export function normalCdf(x: number): number {
  const z = Math.abs(x) / Math.SQRT2;
  const t = 1 / (1 + 0.5 * z);
  const poly =
    -1.26551223 +
    t *
      (1.00002368 +
        t *
          (0.37409196 +
            t *
              (0.09678418 +
                t *
                  (-0.18628806 +
                    t * (0.27886807 + t * (-1.13520398 + t * (1.48851587 + t * (-0.82215223 + t * 0.17087277))))))));
  const tail = 0.5 * t * Math.exp(-z * z + poly);
  return x >= 0 ? 1 - tail : tail;
}

export type Random = () => number;

/** mulberry32: 32-bit state, uniform on [0, 1). For draws and demo data, not for secrets. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** One standard normal draw (Box–Muller, cosine branch). */
export function normalDraw(random: Random): number {
  const radius = Math.sqrt(-2 * Math.log(1 - random()));
  return radius * Math.cos(2 * Math.PI * random());
}

/** FNV-1a, 32 bit: stable bucket numbers and seeds from texts. */
export function hashText(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i += 1) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
