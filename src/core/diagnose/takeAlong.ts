import { sum, type CauseId } from '../units';

/** What mending one cause needs, and what it costs when it was wanted and is not there, or is there and was not wanted. Money in major units. */
export type ToBring = {
  causeId: CauseId;
  /** P(it is wanted). */
  probability: number;
  /** Parts as bought; 0 where it needs none. */
  parts: number;
  /** Share that the supplier keeps of what is given back. */
  restocking: number;
  /** A second trip, or a second wait: minutes, way, days without washing. */
  secondTrip: number;
};

/** A cause whose parts are had beforehand: what that saves on average. */
export type Brought = { causeId: CauseId; probability: number; saves: number };

/**
 * The parts worth having before one goes, or worth ordering with the first ones: those for which the second trip that they save, times the chance that they are
 * wanted, is more than what giving them back costs, times the chance that they are not. Each by itself: causes exclude one another. Most saving first. O(n log n).
 */
export function worthBringing(list: readonly ToBring[]): Brought[] {
  return list
    .filter(({ parts }) => parts > 0)
    .map(({ causeId, probability, parts, restocking, secondTrip }) => ({
      causeId,
      probability,
      saves: probability * secondTrip - (1 - probability) * restocking * parts,
    }))
    .filter(({ saves }) => saves > 0)
    .sort((a, b) => b.saves - a.saves);
}

/** P(one of these is what it needs), causes that need no part included. */
export const coveredBy = (brought: readonly Brought[], noPart: number): number =>
  Math.min(1, noPart + sum(brought.map(({ probability }) => probability)));
