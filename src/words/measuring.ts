import type { StandardKind } from '@/core/measure';
import { judgeSuffixes, type ReadingVerdict, type SeatVerdict, type SuffixVerdict } from '@/core/measure';
import type { TicketEventOf } from '@/core/ticket';
import { capital, formatNumber } from './format';

/** A verdict as it is computed, or as it was noted. */
export function verdictWords(
  verdict: Pick<ReadingVerdict, 'low' | 'high'> & {
    verdict: ReadingVerdict['verdict'];
    reason?: ReadingVerdict['reason'];
  },
  unit: string,
): string {
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
        : verdict.reason === 'column-missing'
          ? 'Note the height of the water at which it was measured'
          : verdict.reason === 'too-few'
            ? 'Note all values, with spaces between'
            : 'No limit is known for this';
  }
}

const SEAT_NAMES: Record<SeatVerdict['seat'], string> = {
  journal: 'shaft journal',
  housing: 'seat in the tub',
  'lip-track': 'lip track',
};

/** How a seat was judged, with the limit and what follows. */
export function seatWords({
  seat,
  verdict,
  limitMm,
  instead,
}: Pick<SeatVerdict, 'seat' | 'verdict' | 'limitMm'> & { instead: string }): string {
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

/** What to measure of a part that is sold by its size. */
export const STANDARD_WORDS: Record<StandardKind, string> = {
  bearing: 'Bore × outside × width, mm',
  seal: 'Shaft × housing × width, mm',
  belt: 'Length in mm, and ribs',
  hose: 'Bore × length, mm',
};

/** A run that failed: what, with how much, how fast, after how long, and what was seen. */
export function runWords({
  title,
  loadKg,
  rpm,
  minute,
  seen,
}: Pick<TicketEventOf<'failing-run-noted'>, 'title' | 'loadKg' | 'rpm' | 'minute' | 'seen'>): string {
  const how = [
    loadKg > 0 ? `${formatNumber(loadKg, 1)} kg` : 'empty',
    rpm > 0 ? `${formatNumber(rpm, 0)} rpm` : null,
    minute === null ? null : `in minute ${formatNumber(minute, 0)}`,
  ].filter((part) => part !== null);
  return `${title} (${how.join(', ')})${seen === '' ? '' : `: ${seen}`}`;
}

/** A reading with its unit, and with what it was taken. */
export const measuredWords = ({
  value,
  unit,
  instrument,
}: {
  value: number | null;
  unit: string;
  instrument?: string | undefined;
}): string => `${value === null ? 'open' : `${value} ${unit}`}${instrument ? `, with ${instrument}` : ''}`;
