import type { Notice, PriceField, Problem } from '@/core/catalogue';
import type { CrossReferenceProblem, DimensionVerdict, FitReason, FitRoute, FitVerdict } from '@/core/fit';
import type { InputReading, PlateDifference, SerialProblem } from '@/core/identify';
import { judgeSuffixes, type ReadingVerdict, type SeatVerdict, type SuffixVerdict } from '@/core/measure';
import type { CheckInVerdict, PlacedLine } from '@/core/order';
import { capital, formatNumber, formatPercent, listOf, ordinal, plural } from './format';

export const ROUTE_WORDS: Record<FitRoute | 'shelf', string> = {
  maker: 'maker’s part',
  sister: 'same part, sister number',
  generic: 'generic',
  kit: 'kit',
  shelf: 'from the shelf',
};

type Names = { model: (id: string) => string; part: (id: string) => string; platform: (id: string) => string };

/** Why a number is offered, link by link. */
export function fitReasonWords(reason: FitReason, names: Names): string {
  switch (reason.kind) {
    case 'listed-for-model':
      return `listed for ${names.model(reason.modelId)}`;
    case 'listed-for-platform':
      return `listed for platform ${names.platform(reason.platformId)}`;
    case 'fitted-to-sisters':
      return `not listed for this model, but for ${plural(reason.models, 'sister')} on platform ${names.platform(reason.platformId)}`;
    case 'serial-within':
      return `built ${span(reason)}: settled by the date`;
    case 'serial-open':
      return `for machines built ${span(reason)}: the date is open, compare in the hand`;
    case 'position':
      return `position ${reason.position}`;
    case 'superseded':
      return `${names.part(reason.fromPartId)} is now ${names.part(reason.toPartId)} (${[reason.source, ...(reason.builtFrom ? [`built from ${reason.builtFrom}`] : []), ...(reason.builtTo ? [`built up to ${reason.builtTo}`] : [])].join(', ')})`;
    case 'interchangeable':
      return `interchangeable with ${names.part(reason.partId)} (${reason.source})`;
    case 'sister-number':
      return `the same part as ${names.part(reason.partId)} under a sister badge (${reason.source})`;
    case 'generic-for':
      return `stands in for ${names.part(reason.partId)} (${reason.source})${reason.note ? `. ${reason.note}` : ''}`;
    case 'kit-contains':
      return `contains ${names.part(reason.partId)}`;
  }
}

const span = ({ builtFrom, builtTo }: { builtFrom: string | null; builtTo: string | null }) =>
  builtFrom && builtTo ? `${builtFrom} to ${builtTo}` : builtFrom ? `from ${builtFrom}` : `until ${builtTo ?? ''}`;

export function crossProblemWords(problem: CrossReferenceProblem, part: (id: string) => string): string {
  switch (problem.kind) {
    case 'circle':
      return `The supersessions of ${part(problem.partIds[0] ?? '')} run in a circle: not followed. Ask the supplier.`;
    case 'dead-end':
      return `${part(problem.partId)} is discontinued and nothing replaces it. Ask the supplier with model and serial, or look for a donor.`;
    case 'missing-part':
      return `A reference leads to a number that is not in the catalogue.`;
    case 'sources-disagree':
      return `Sources disagree on what replaces ${part(problem.partId)}: compare in the hand.`;
  }
}

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
export function differenceWords(number: string, differences: readonly PlateDifference[]): string {
  const place = (at: number) => ordinal(number.slice(0, at + 1).replace(/[^A-Za-z0-9]/g, '').length);
  return listOf(
    differences.map(({ at, listed, read }) =>
      listed === ''
        ? `one ${read} too many`
        : read === ''
          ? `${place(at)} character, ${listed}, is left out`
          : read === '?'
            ? `${place(at)} character is not readable`
            : `${place(at)} character: ${listed}, read as ${read}`,
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

export function verdictWords(verdict: ReadingVerdict, unit: string): string {
  const digits = (value: number) => (Math.abs(value) >= 1000 ? 0 : 1);
  const low = verdict.low === null ? null : `${formatNumber(verdict.low, digits(verdict.low))}`;
  const high = verdict.high === null ? null : `${formatNumber(verdict.high, digits(verdict.high))}`;
  const range =
    low !== null && high !== null
      ? `${low} to ${high} ${unit}`
      : low !== null
        ? `${low} ${unit} or more`
        : high !== null
          ? `${high} ${unit} or less`
          : '';
  switch (verdict.verdict) {
    case 'within':
      return `Within limits (${range})`;
    case 'below':
      return `Too low (${range})`;
    case 'above':
      return `Too high (${range})`;
    case 'open':
      return `Open: no continuity (${range})`;
    case 'cannot-judge':
      return verdict.reason === 'ambient-missing'
        ? 'Note the temperature at which it was measured'
        : 'No limit is known for this';
  }
}

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

export const problemWords = (problem: Problem): string =>
  [
    problem.file,
    problem.row === null ? null : `row ${problem.row}`,
    problem.column,
    // The reason may name it already.
    problem.value === null || problem.value === '' || problem.why.includes(problem.value) ? null : `“${problem.value}”`,
    problem.why,
  ]
    .filter(Boolean)
    .join(' · ');

const NOTICE_WORDS: Record<Notice['kind'], (count: string) => string> = {
  'supersession-circle': (count) => `Not followed: supersessions that lead back to where they began (${count})`,
  'sources-disagree': (count) => `Sources name different successors; both are shown, the first is taken (${count})`,
  'dead-end': (count) => `No longer made, and nothing replaces it (${count})`,
};

/** What an import noticed: no fault of the file, but nothing to follow blindly. */
export const noticeWords = (notice: Notice): string => NOTICE_WORDS[notice.kind](plural(notice.count, 'part number'));

const SEAT_NAMES: Record<SeatVerdict['seat'], string> = {
  journal: 'shaft journal',
  housing: 'seat in the tub',
  'lip-track': 'lip track',
};

/** How a seat was judged, with the limit and what follows. */
export function seatWords({ seat, verdict, limitMm, instead }: SeatVerdict): string {
  const limit = `${seat === 'journal' ? 'at least' : 'at most'} ${limitMm.toFixed(seat === 'lip-track' ? 2 : 3)} mm`;
  if (verdict === 'sound') return `${SEAT_NAMES[seat]} sound (${limit})`;
  if (verdict === 'measure-finer')
    return `${SEAT_NAMES[seat]} too near its limit for this tool (${limit}): take a micrometer`;
  return `${SEAT_NAMES[seat]} worn (${limit}): a new bearing or seal will not last on it. Price the ${instead}`;
}

const SUFFIX_WORDS: Record<SuffixVerdict['kind'], Record<SuffixVerdict['suits'], string>> = {
  seals: {
    yes: 'rubbing seals on both sides: suits a washer',
    'with-care': 'sealed on one side only: the seal goes to the water',
    no: '',
  },
  shields: { yes: '', 'with-care': '', no: 'shields let water in: not for a drum' },
  open: { yes: '', 'with-care': '', no: 'open, without seals: not for a drum' },
  clearance: {
    yes: 'clearance C3: right for tight rings in a warm drum',
    'with-care': 'C3 would be the better clearance',
    no: 'C2 is too tight for a drum',
  },
};

/** What the letters behind a bearing's designation mean for a washer. */
export const suffixWords = (designation: string): string =>
  capital(
    judgeSuffixes(designation)
      .map(({ kind, suits }) => SUFFIX_WORDS[kind][suits])
      .join('; '),
  );

export const PRICE_FIELD_WORDS: Record<PriceField, string> = {
  partNumber: 'Part number',
  supplierNumber: 'Supplier’s number',
  price: 'Price, net',
  currency: 'Currency',
  packQuantity: 'Pieces in a pack',
  stock: 'Stock, pieces',
  handlingDays: 'Days until it leaves',
  maker: 'Maker',
};

/** A table of the data package as a person calls it: "part_properties" → "Part properties". */
export const tableWords = (table: string): string => capital(table.replaceAll('_', ' '));

export const FIT_WORDS: Record<FitVerdict['verdict'], string> = {
  'drops-in': 'drops in',
  'fits-with-work': 'fits with this work',
  'does-not-fit': 'does not fit',
  'measure-first': 'measure this first',
};

/** Why one dimension or rating is as it is judged. */
export function dimensionWords(dimension: DimensionVerdict): string {
  const { old, candidate, unit, work } = dimension;
  const sizes = `${old ?? '?'} → ${candidate ?? '?'} ${unit}`;
  switch (dimension.reason) {
    case 'within-tolerance':
      return 'within tolerance';
    case 'same':
      return 'the same';
    case 'workaround':
      return `${sizes}: ${work?.what.toLowerCase() ?? ''}, ${work?.minutes ?? 0} min${work?.leaves ? `; leaves ${work.leaves.toLowerCase()}` : ''}`;
    case 'out-of-tolerance':
      return `${sizes}: out of tolerance`;
    case 'rating-breached':
      return `${sizes}: the rating does not hold. There is no way round a rating`;
    case 'different':
      return `${sizes}: different`;
    case 'old-not-measured':
      return 'measure the old part';
    case 'candidate-not-listed':
      return 'not listed for this number: ask the supplier';
  }
}

/** A part in the hand against the size it should have: there is nothing to work around, it is this part or it is not. */
export const sizeCheckWords = ({ verdict, old, candidate, unit }: DimensionVerdict): string =>
  verdict === 'fits'
    ? 'as it should be'
    : verdict === 'unknown'
      ? 'not a figure'
      : `${candidate ?? '?'} instead of ${old ?? '?'} ${unit}`.trim();

export const RELATION_WORDS = {
  'superseded-by': 'is now',
  interchangeable: 'same as',
  sister: 'sister number',
  generic: 'generic',
  contains: 'contains',
} as const;
