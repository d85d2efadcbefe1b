import type { QuoteLine } from '@/core/quote';
import { formatMinutes, formatMoney } from './format';

type Named = { kind: 'best-fit' | 'cheaper-part' | 'while-open'; causeNames: readonly string[] };

/** What an option is called: "Drain pump, cheaper part". */
export function optionWords({ kind, causeNames }: Named): string {
  const [first = '', ...others] = causeNames;
  switch (kind) {
    case 'best-fit':
      return first;
    case 'cheaper-part':
      return `${first}, cheaper part`;
    case 'while-open':
      return `${first}, and ${others.map((name) => name.toLowerCase()).join(', ')} while it is open`;
  }
}

type Line = Pick<QuoteLine, 'kind' | 'description' | 'partNumber' | 'quantity' | 'minutes' | 'amounts' | 'estimated'>;

/** A line of an offer without its number. */
export function lineWords(line: Line): string {
  switch (line.kind) {
    case 'labour':
      return `Labour, ${formatMinutes(line.minutes ?? 0)}`;
    case 'fee':
      return 'Inspection';
    case 'reserve':
      return 'Guarantee on the work';
    default:
      return `${line.quantity > 1 ? `${line.quantity} × ` : ''}${line.description}`;
  }
}

/** Why more is charged than is expected to be worked. */
export const chargedWords = (charged: number, expected: number): string =>
  `${formatMinutes(expected)} of work are expected, learned times and the chance of a rescue in it. Charged is the started quarter of an hour: ${formatMinutes(charged)}.`;

/** Its net amount; what nobody lists is to be asked and is not in the sum. */
export const lineAmountWords = ({ amounts, estimated }: Pick<Line, 'amounts' | 'estimated'>): string =>
  amounts ? `${estimated ? 'usually about ' : ''}${formatMoney(amounts.net)}` : 'price to be asked';
