import type { PlateReading } from './readPlate';

/** How much dearer a part for the wrong machine is than a second look at the plate: a judgement, set where unlisted numbers are still called so in four of five in the worst world of the bench. */
const DEARER = 2.5;

/**
 * Whether a reading is to be taken for a number that no list has, or at least to be asked whether it is: from two fifths of the chance of the likeliest listed number on. The chances stay what they are; only what
 * is made of them leans to the cheaper mistake.
 */
export const mayBeUnlisted = ({ candidates, unknown }: PlateReading): boolean =>
  DEARER * unknown > (candidates[0]?.probability ?? 0);
