import type { PlateReading } from './readPlate';

/** A part for the wrong machine costs about as much more than a second look at the plate. */
const DEARER = 2.5;

/**
 * Whether a reading is to be taken for a number that no list has, or at least to be asked whether it is: from two fifths of the chance of the likeliest listed number on. The chances stay what they are; only what
 * is made of them leans to the cheaper mistake.
 */
export const mayBeUnlisted = ({ candidates, unknown }: PlateReading): boolean =>
  DEARER * unknown > (candidates[0]?.probability ?? 0);
