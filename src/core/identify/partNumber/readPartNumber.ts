import { asId, type MakerId, type PartId } from '../../units';
import type { NumberDifference } from '../plate/differences';
import { buildModelIndex, type ModelIndex } from '../plate/modelIndex';
import { readPlate } from '../plate/readPlate';
import { stretchesOf } from '../plate/windows';

/** A number that may be printed there. `prior`: how likely before anything is read, ≥ 0. */
export type ExpectedNumber = { partId: PartId; partNumber: string; prior: number };

export type NumberCandidate = {
  partId: PartId;
  partNumber: string;
  probability: number;
  differences: NumberDifference[];
};

export type NumberReading = {
  /** Highest first. With `unknown` and `unread` the probabilities sum to one. */
  candidates: NumberCandidate[];
  /** P(it is none of these numbers). */
  unknown: number;
  /** P(the number is not in the text that was read). */
  unread: number;
};

const MOST_CANDIDATES = 24;

/** What number it may be, before it is read; priors in any one unit. */
export type NumberQuestion = {
  expected: readonly ExpectedNumber[];
  /** Numbers that nothing leads to, and that are listed. */
  elsewhere?: readonly ExpectedNumber[];
  /** Prior of all that is in neither list. */
  unlisted: number;
};

/** Of parts nobody asks which maker repeats which ending. */
const NOBODY = asId<MakerId>('any');
const NONE: readonly ExpectedNumber[] = [];

const indexOf = (numbers: readonly ExpectedNumber[]): ModelIndex =>
  buildModelIndex(
    numbers.map(({ partId, partNumber, prior }) => ({
      id: asId(partId),
      modelNumber: partNumber,
      makerId: NOBODY,
      platformId: asId('any'),
      popularity: prior,
    })),
  );

/**
 * Which of some numbers a text means that was read or typed off a part, a label or a parcel: the channel of the plate, with its severities, its endings and its
 * model of numbers that are not listed. Empty text, or nothing to compare with: unknown = 1. O(numbers · longest), then as
 * `readPlate`.
 */
export function readPartNumber({ expected, elsewhere = NONE, unlisted }: NumberQuestion, text: string): NumberReading {
  const sum = (list: readonly ExpectedNumber[]) => list.reduce((total, { prior }) => total + prior, 0);
  const [near, far] = [sum(expected), sum(elsewhere)];
  if (near + far <= 0) return { candidates: [], unknown: 1, unread: 0 };
  const reading = readPlate([indexOf(expected), indexOf(elsewhere)], text, {
    absentPrior: unlisted / (near + far + unlisted),
    shares: [near / (near + far), far / (near + far)],
    maxCandidates: MOST_CANDIDATES,
    of: 'part',
    thorough: true,
  });
  return {
    candidates: reading.candidates.map(({ modelId, modelNumber, probability, differences }) => ({
      partId: asId(modelId),
      partNumber: modelNumber,
      probability,
      differences,
    })),
    unknown: reading.unknown,
    unread: reading.unlisted,
  };
}

/** The stretches of a text that may be the number on a part, normalised. O(words). */
export const numbersIn = (text: string): string[] => stretchesOf(text, 'part').map((stretch) => stretch.text);
