/** One boundary dimension plan entry. All in millimetres. */
export type Bearing = { designation: string; bore: number; outside: number; width: number };

const BORES = [10, 12, 15, 17, 20, 25, 30, 35, 40, 45, 50, 55, 60];

/**
 * Outside diameter and width for the bores above, per series: radial contact ball bearings, ISO 15:2017 boundary dimensions,
 * dimension series 10 (60), 02 (62), 03 (63), 22 (622), 23 (623), 18 (68), 19 (69).
 */
const SERIES: Record<string, [number, number][]> = {
  '60': [
    [26, 8],
    [28, 8],
    [32, 9],
    [35, 10],
    [42, 12],
    [47, 12],
    [55, 13],
    [62, 14],
    [68, 15],
    [75, 16],
    [80, 16],
    [90, 18],
    [95, 18],
  ],
  '62': [
    [30, 9],
    [32, 10],
    [35, 11],
    [40, 12],
    [47, 14],
    [52, 15],
    [62, 16],
    [72, 17],
    [80, 18],
    [85, 19],
    [90, 20],
    [100, 21],
    [110, 22],
  ],
  '63': [
    [35, 11],
    [37, 12],
    [42, 13],
    [47, 14],
    [52, 15],
    [62, 17],
    [72, 19],
    [80, 21],
    [90, 23],
    [100, 25],
    [110, 27],
    [120, 29],
    [130, 31],
  ],
  '622': [
    [30, 14],
    [32, 14],
    [35, 14],
    [40, 16],
    [47, 18],
    [52, 18],
    [62, 20],
    [72, 23],
    [80, 23],
    [85, 23],
    [90, 23],
    [100, 25],
    [110, 28],
  ],
  '623': [
    [35, 17],
    [37, 17],
    [42, 17],
    [47, 19],
    [52, 21],
    [62, 24],
    [72, 27],
    [80, 31],
    [90, 33],
    [100, 36],
    [110, 40],
    [120, 43],
    [130, 46],
  ],
  '68': [
    [19, 5],
    [21, 5],
    [24, 5],
    [26, 5],
    [32, 7],
    [37, 7],
    [42, 7],
    [47, 7],
    [52, 7],
    [58, 7],
    [65, 7],
    [72, 9],
    [78, 10],
  ],
  '69': [
    [22, 6],
    [24, 6],
    [28, 7],
    [30, 7],
    [37, 9],
    [42, 9],
    [47, 9],
    [55, 10],
    [62, 12],
    [68, 12],
    [72, 12],
    [80, 13],
    [85, 13],
  ],
};

const BORE_CODES: Record<number, string> = { 10: '00', 12: '01', 15: '02', 17: '03' };
const boreCode = (bore: number) => BORE_CODES[bore] ?? String(bore / 5).padStart(2, '0');

export const BEARINGS: readonly Bearing[] = Object.entries(SERIES).flatMap(([series, sizes]) =>
  sizes.map(([outside, width], index) => {
    const bore = BORES[index] ?? NaN;
    return { designation: `${series}${boreCode(bore)}`, bore, outside, width };
  }),
);

/**
 * Bearings whose three sizes all lie within ±tolerance (mm, default 0.3 for a worn caliper reading), nearest first.
 * Empty when nothing standard is that size. O(91).
 */
export function findBearing(size: { bore: number; outside: number; width: number; tolerance?: number }): Bearing[] {
  const tolerance = size.tolerance ?? 0.3;
  const off = (bearing: Bearing) =>
    Math.max(
      Math.abs(bearing.bore - size.bore),
      Math.abs(bearing.outside - size.outside),
      Math.abs(bearing.width - size.width),
    );
  return BEARINGS.filter((bearing) => off(bearing) <= tolerance + 1e-9).sort((a, b) => off(a) - off(b));
}

const SUFFIXES = /^(2RS[1H]?|RS|2Z|ZZ|Z)?(C[234])?$/;

/** "6204-2RS C3" and "6204 2RS" → 6204; null when the designation is not in the table. Suffixes tell shields, seals and clearance. */
export function bearingByDesignation(text: string): Bearing | null {
  const plain = text.toUpperCase().replace(/[\s-]/g, '');
  return (
    BEARINGS.find(
      ({ designation }) => plain.startsWith(designation) && SUFFIXES.test(plain.slice(designation.length)),
    ) ?? null
  );
}

/** "20x47x14", "25 × 47 × 8 seal": three sizes in millimetres; null if the text is not that. */
export function parseSizes(text: string): { first: number; second: number; third: number } | null {
  const match =
    /^\s*(\d+(?:[.,]\d+)?)\s*[x×*/]\s*(\d+(?:[.,]\d+)?)\s*[x×*/]\s*(\d+(?:[.,]\d+)?)\s*(?:mm)?\s*(?:bearing|seal)?\s*$/i.exec(
      text,
    );
  if (!match) return null;
  const [first, second, third] = match.slice(1, 4).map((size) => Number(size.replace(',', '.')));
  return first !== undefined && second !== undefined && third !== undefined ? { first, second, third } : null;
}
