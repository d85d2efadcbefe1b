import type { InputReading, NumberDifference, PlateCandidate, SerialProblem, ToCompare } from '@/core/identify';
import { formatPercent, listOf, ordinal } from './format';

export function serialProblemWords(problem: SerialProblem): string {
  switch (problem.kind) {
    case 'no-scheme':
      return 'No serial scheme is known for this maker.';
    case 'does-not-match':
      return `This is not how this maker writes serials (${problem.pattern}). Read it again.`;
    case 'week-out-of-range':
      return `Week ${problem.week} does not exist. Read it again.`;
    case 'check-digit-wrong':
      return 'The last digit does not agree with the others: one of them was misread.';
    case 'outside-production':
      return 'By this serial the machine was built when this model was not made. One of the two was misread.';
  }
}

/** Where a number and what was read differ: "3rd character: 8, read as B". */
export function differenceWords(number: string, differences: readonly NumberDifference[]): string {
  const place = (index: number) => ordinal(number.slice(0, index + 1).replace(/[^A-Za-z0-9]/g, '').length);
  return listOf(
    differences.map(({ index: index, listed, read }) =>
      listed === ''
        ? `one ${read} too many`
        : read === ''
          ? `${place(index)} character, ${listed}, is left out`
          : read === '?'
            ? `${place(index)} character is not readable`
            : `${place(index)} character: ${listed}, read as ${read}`,
    ),
  );
}

/** With more of them, where a number and a reading differ is seen in the number and not said. */
const MOST_SAID = 2;

/** How a listed number was read: "3rd character: 8, read as B", "its ending “EU” is left off in the reading". */
export function candidateWords({ modelNumber, differences, ending }: PlateCandidate): string {
  if (ending) return `its ending “${ending.trim()}” is left off in the reading`;
  if (differences.length === 0) return 'as read';
  return differences.length <= MOST_SAID
    ? differenceWords(modelNumber, differences)
    : `differs in ${differences.length} places`;
}

const MOST_CHOICES = 4;

/** Where to look on the plate, and what for: "what stands behind VB611408: EU, FR or nothing?" */
export function compareWords(compare: ToCompare): string {
  const choices =
    compare.kind === 'ending'
      ? compare.endings.map(({ ending }) => ending || 'nothing')
      : compare.choices.map((choice) => (choice === '–' ? 'none' : choice));
  const asked = `${listOf(
    choices.length > MOST_CHOICES ? [...choices.slice(0, MOST_CHOICES - 1), 'another'] : choices,
    'or',
  )}?`;
  return compare.kind === 'ending'
    ? `what stands behind ${compare.stem}: ${asked}`
    : `${ordinal(compare.character)} character: ${asked}`;
}

/** `number`: what is said in `what` as a number, with the places at which it differs from what was typed. */
export type InputWords = {
  what: string;
  detail: string;
  number?: { before: string; text: string; marked: number[] };
};

const marked = (before: string, text: string, differences: readonly NumberDifference[]) => ({
  before,
  text,
  marked: differences.filter(({ listed }) => listed !== '').map(({ index }) => index),
});

/** A number that is none of the listed ones it may be. */
export const NOT_LISTED = 'none of these: a machine that is not listed';

/** What the one input takes a text for. */
export function readingWords(reading: InputReading): InputWords {
  switch (reading.kind) {
    case 'model':
      return {
        what: `model ${reading.modelNumber}`,
        number: marked('model ', reading.modelNumber, reading.differences),
        detail: formatPercent(reading.probability),
      };
    case 'unlisted':
      return { what: NOT_LISTED, detail: formatPercent(reading.probability) };
    case 'part':
      return {
        what: `part ${reading.partNumber}`,
        number: marked('part ', reading.partNumber, reading.differences),
        detail: `${
          reading.differences.length ? differenceWords(reading.partNumber, reading.differences) : 'number as listed'
        }${reading.roleId === null ? '' : ' · of this machine'}`,
      };
    case 'serial':
      return { what: `serial ${reading.serial}`, detail: `built ${reading.builtFrom} to ${reading.builtTo}` };
    case 'code':
      return { what: `code ${reading.code}`, detail: reading.meaning };
    case 'finding':
      return { what: `finding: ${reading.text.toLowerCase()}`, detail: 'as said' };
    case 'bearing':
      return {
        what: `bearing ${reading.designation}`,
        detail: `${reading.bore} × ${reading.outside} × ${reading.width} mm, ISO 15`,
      };
    case 'size':
      return {
        what: `size ${reading.first} × ${reading.second} × ${reading.third} mm`,
        detail: 'no standard bearing: perhaps a shaft seal',
      };
    case 'ticket':
      return { what: `ticket ${reading.number}`, detail: 'open it' };
    case 'order':
      return { what: `order ${reading.number}`, detail: 'open it' };
  }
}
