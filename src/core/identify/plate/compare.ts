import { keptPositions, normaliseNumber } from './normal';
import { rereadsOf, type Reread } from './rereads';

/** What a look at the plate settles. */
export type ToCompare =
  /** One character of the likeliest number: which is it? */
  | ({ kind: 'character' } & Reread)
  /** The reading stops where these numbers go on differently: which ending stands behind `stem` (as printed)? An empty one: none. */
  | { kind: 'ending'; stem: string; after: string; endings: { ending: string; probability: number }[] };

type Candidate = { modelNumber: string; probability: number };

/** Less likely ones do not decide where to look. */
const LEAST = 0.01;
const SHORTEST_STEM = 4;
/** A family that holds nearly all is asked for its ending, whatever slip else it might be. */
const CLEAR = 0.08;
const NEARLY_ALL = 0.85;

/**
 * Where to look on the plate, to tell apart the numbers that a reading may be; null when only one is left. `text`: what was read, its number at the end of
 * one of its lines. O(candidates · length).
 */
export function toCompare(text: string, candidates: readonly Candidate[]): ToCompare | null {
  const likely = candidates.filter(({ probability }) => probability >= LEAST);
  if (likely.length < 2) return null;
  const clear = likely.filter(({ probability }) => probability >= CLEAR);
  const ending =
    endingIn(text, likely) ?? (massOf(clear) >= NEARLY_ALL * massOf(likely) ? endingIn(text, clear) : null);
  if (ending) return ending;
  const [reread] = rereadsOf(likely);
  return reread ? { kind: 'character', ...reread } : null;
}

const massOf = (candidates: readonly Candidate[]): number =>
  candidates.reduce((sum, { probability }) => sum + probability, 0);

/** Which ending is to be looked for, where the reading ends as all of these numbers begin. */
function endingIn(text: string, likely: readonly Candidate[]): ToCompare | null {
  const numbers = likely.map(({ modelNumber }) => normaliseNumber(modelNumber));
  const stem = sharedBegin(numbers);
  const endsThere = text.split('\n').some((line) => normaliseNumber(line).endsWith(stem));
  if (likely.length < 2 || stem.length < SHORTEST_STEM || !endsThere) return null;
  const total = massOf(likely);
  const printed = likely[0]?.modelNumber ?? '';
  const endings = new Map<string, number>();
  likely.forEach(({ probability }, index) => {
    const ending = (numbers[index] ?? '').slice(stem.length);
    endings.set(ending, (endings.get(ending) ?? 0) + probability / total);
  });
  return {
    kind: 'ending',
    stem: printed.slice(0, (keptPositions(printed)[stem.length - 1] ?? 0) + 1),
    after: stem.slice(-1),
    endings: [...endings]
      .map(([ending, probability]) => ({ ending, probability }))
      .sort((a, b) => b.probability - a.probability),
  };
}

function sharedBegin(numbers: readonly string[]): string {
  const [first = '', ...others] = numbers;
  let length = 0;
  while (length < first.length && others.every((other) => other[length] === first[length])) length += 1;
  return first.slice(0, length);
}
