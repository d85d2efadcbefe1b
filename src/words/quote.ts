import type { QuoteLine } from '@/core/quote';
import { capital, formatMinutes, formatMoney, formatPercent } from './format';

type Named = {
  kind: 'best-fit' | 'cheaper-part' | 'while-open' | 'other-way' | 'used-part';
  causeNames: readonly string[];
  fixName?: string | null | undefined;
};

/** A cause, and how it is mended where that is not its own way. */
export const wayWords = (causeName: string, fixName: string | null | undefined): string =>
  fixName ? `${causeName}: ${fixName}` : causeName;

/** What an option is called: "Drain pump, cheaper part"; "Inlet valve: opened, cleaned and reseated". */
export function optionWords({ kind, causeNames, fixName }: Named): string {
  const [cause = '', ...others] = causeNames;
  const first = wayWords(cause, fixName);
  switch (kind) {
    case 'other-way':
      return fixName ? first : `${cause}, with its own part`;
    case 'best-fit':
      return first;
    case 'used-part':
      return `${first}, used part`;
    case 'cheaper-part':
      return `${first}, cheaper part`;
    case 'while-open':
      return `${first}, and ${others.map((name) => name.toLowerCase()).join(', ')} while it is open`;
  }
}

/** What another way of mending promises: its odds, and how long it lasts; null for a new part in its own place. */
export function promiseWords({
  kind,
  fixName,
  cure,
  lifeShare,
}: {
  kind?: Named['kind'] | undefined;
  fixName?: string | null | undefined;
  cure?: number | undefined;
  lifeShare?: number | undefined;
}): string | null {
  if ((!fixName && kind !== 'used-part') || cure === undefined || lifeShare === undefined) return null;
  const lasts = lifeShare < 1 ? `, for about ${formatPercent(lifeShare)} of a new part’s life` : '';
  return `${formatPercent(cure)} likely to mend it${lasts}`;
}

type WhyNot = { kind: 'welded-tub' } | { kind: 'no-better'; than: Named } | { kind: 'less-for-the-money' };

/** Why a way of mending is not among those offered. */
export function whyNotWords(why: WhyNot): string {
  switch (why.kind) {
    case 'welded-tub':
      return 'The tub is welded, and this shop opens none (Shop settings).';
    case 'no-better':
      return `“${optionWords(why.than)}” is no dearer, later, less sure or shorter-lived.`;
    case 'less-for-the-money':
      return 'Those offered give more mended life for the money.';
  }
}

type Line = Pick<
  QuoteLine,
  'kind' | 'description' | 'partNumber' | 'quantity' | 'minutes' | 'amounts' | 'estimated' | 'usedFrom'
>;

/** A line of an offer without its number. */
export function lineWords(line: Line): string {
  switch (line.kind) {
    case 'labour':
      return `Labour, ${formatMinutes(line.minutes ?? 0)}`;
    case 'fee':
      return 'Inspection';
    case 'reserve':
      return 'Guarantee on the work';
    case 'collection':
      return 'Fetching the machine';
    case 'delivery':
      return 'Bringing it back';
    default:
      return `${line.quantity > 1 ? `${line.quantity} × ${line.description}` : capital(line.description)}${line.usedFrom === undefined ? '' : `, used and tested, from machine ${line.usedFrom}`}`;
  }
}

/** Why more is charged than is expected to be worked. */
export const chargedWords = (charged: number, expected: number): string =>
  `${formatMinutes(expected)} of work are expected, learned times and the chance of a rescue in it. Charged is the started quarter of an hour: ${formatMinutes(charged)}.`;

/** Its net amount; what nobody lists is to be asked and is not in the sum. */
export const lineAmountWords = ({ amounts, estimated }: Pick<Line, 'amounts' | 'estimated'>): string =>
  amounts ? `${estimated ? 'usually about ' : ''}${formatMoney(amounts.net)}` : 'price to be asked';
