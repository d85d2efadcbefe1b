import type { DimensionVerdict } from '@/core/fit';
import type { CheckInVerdict, PlacedLine } from '@/core/order';
import { differenceWords } from './numbers';

const CHECK_IN_WORDS: Record<CheckInVerdict['reason'], string> = {
  'number-equals': 'the number that was ordered',
  supersession: 'the newer number of what was ordered: fine',
  'cross-reference': 'another number for the same part: fine',
  'unknown-number': 'no known number for this part',
  'other-part': 'another part',
};

/** Is what arrived what was ordered, and if not, whether it may only be misread. */
export function checkInWords({ reason, misread }: Pick<CheckInVerdict, 'reason' | 'misread'>): string {
  if (!misread) return CHECK_IN_WORDS[reason];
  const { partNumber, differences } = misread;
  return `${CHECK_IN_WORDS[reason]}. It is ${partNumber} but for this: ${differenceWords(partNumber, differences)}. Look again at that place`;
}

export function lineStatusWords(line: PlacedLine): string {
  switch (line.status) {
    case 'unanswered':
      return 'not answered yet';
    case 'accepted':
      return 'accepted';
    case 'substituted':
      return line.note ?? `comes as ${line.answeredNumber}`;
    case 'back-ordered':
      return line.note ?? 'on back-order';
    case 'rejected':
      return `refused: ${line.note ?? ''}`;
  }
}

/** A part in the hand against the size it should have: there is nothing to work around, it is this part or it is not. */
export const sizeCheckWords = ({ verdict, old, candidate, unit }: DimensionVerdict): string =>
  verdict === 'fits'
    ? 'as it should be'
    : verdict === 'unknown'
      ? 'not a figure'
      : `${candidate ?? '?'} instead of ${old ?? '?'} ${unit}`.trim();
