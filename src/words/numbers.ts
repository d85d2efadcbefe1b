import type { InputReading, NumberDifference, SerialProblem } from '@/core/identify';
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

/** What the one input takes a text for. */
export function readingWords(reading: InputReading): { what: string; detail: string } {
  switch (reading.kind) {
    case 'model':
      return { what: `model ${reading.modelNumber}`, detail: formatPercent(reading.probability) };
    case 'part':
      return {
        what: `part ${reading.partNumber}`,
        detail: reading.differences.length
          ? differenceWords(reading.partNumber, reading.differences)
          : 'number as listed',
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
