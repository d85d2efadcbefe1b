import { entropyBits } from '../../units';
import { normaliseNumber } from './normal';

export type Reread = {
  /** Position in the leading number as printed, counted from 0. */
  position: number;
  /** Which letter or digit that is, counted from 1 without separators. */
  character: number;
  /** What stands there in the candidates, likeliest first; – where a candidate has nothing. */
  choices: string[];
  /** Information that a look gives, in bits. */
  bits: number;
  /** The same as a share of all doubt between the candidates, 0 to 1. */
  settles: number;
};

type Candidate = { modelNumber: string; probability: number };

const LEAST_BITS = 0.05;

/**
 * Which character to look at again: for each place of the leading number the information gained about which of the candidates it is. Characters are
 * held against each other by their distance from the nearer end, so that a longer sibling does not make every place differ. O(candidates · length).
 */
export function rereadsOf(candidates: readonly Candidate[]): Reread[] {
  const lead = candidates[0];
  if (!lead || candidates.length < 2) return [];
  const total = candidates.reduce((sum, candidate) => sum + candidate.probability, 0);
  const places = [...lead.modelNumber]
    .map((character, position) => ({ character, position }))
    .filter(({ character }) => normaliseNumber(character) !== '');
  const plain = candidates.map((candidate) => ({
    normal: normaliseNumber(candidate.modelNumber),
    share: candidate.probability / total,
  }));
  const leadLength = places.length;
  const doubt = entropyBits(plain.map(({ share }) => share));
  const rereads = places.map(({ position }, index): Reread => {
    const shares = new Map<string, number>();
    for (const { normal, share } of plain) {
      const shift = normal.length - leadLength;
      const there = shift === 0 || sharesHead(normal, plain[0]?.normal ?? '', index) ? index : index + shift;
      const character = normal.charAt(there) || '–';
      shares.set(character, (shares.get(character) ?? 0) + share);
    }
    const choices = [...shares].sort((a, b) => b[1] - a[1]).map(([character]) => character);
    const bits = entropyBits([...shares.values()]);
    return { position, character: index + 1, choices, bits, settles: doubt > 0 ? Math.min(1, bits / doubt) : 0 };
  });
  return rereads
    .filter((reread) => reread.choices.length > 1 && reread.bits >= LEAST_BITS)
    .sort((a, b) => b.bits - a.bits);
}

const sharesHead = (a: string, b: string, length: number): boolean => a.slice(0, length) === b.slice(0, length);
