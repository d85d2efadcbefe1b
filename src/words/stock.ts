import type { KeepRow } from '@/core/case';
import type { Movement, StockState } from '@/core/stock';
import { formatMinutes, formatMoney, formatNumber, formatPercent, listOf, plural } from './format';

const LOST: Record<NonNullable<Movement['lost']>, string> = {
  broken: 'broken',
  sold: 'sold over the counter',
  'sent-back': 'sent back',
  scrapped: 'scrapped',
};

/** One line of a lot's story. */
export function movementWords({ why, units, number, lost }: Movement): string {
  const pieces = plural(Math.abs(units), 'piece');
  switch (why) {
    case 'stocked':
      return `${pieces} put here`;
    case 'taken':
      return `${pieces} taken for ticket ${number}`;
    case 'put-back':
      return `${pieces} back from ticket ${number}`;
    case 'written-off':
      return `${pieces} ${lost ? LOST[lost] : 'gone'}`;
    case 'counted':
      return units === 0
        ? 'counted: as many as noted'
        : `counted: ${pieces} ${units > 0 ? 'more' : 'fewer'} than noted`;
  }
}

export function originWords({ origin }: StockState): string {
  switch (origin.kind) {
    case 'by-hand':
      return 'put here by hand';
    case 'order':
      return `left over from order ${origin.orderNumber}`;
    case 'donor':
      return `out of machine ${origin.number}`;
  }
}

/** Used, and whether anybody tried it. */
export const usedWords = ({ works }: StockState): string =>
  works === null ? 'used, not tried' : works ? 'used, tried: works' : 'does not work';

/** "Take 2 from the shelf, A3". */
export const takeWords = (units: number, place: string): string =>
  `Take ${units > 1 ? `${units} ` : ''}from the shelf${place ? `, ${place}` : ''}`;

/** "1 part to order, 1 to take": of what is not here yet, what is bought and what comes out of a machine kept for parts. */
export function openPartsWords(open: number, toBuy: number): string {
  const rest = open - toBuy;
  if (toBuy === 0) return `${plural(open, 'used part')} to take`;
  return `${plural(toBuy, 'part')} to order${rest ? `, ${rest} to take` : ''}`;
}

/** "out of machine 149, tried". */
export const usedPartWords = (machine: number, tried: boolean): string =>
  `out of machine ${machine}${tried ? ', tried' : ': try it before it goes in, if nobody has'}`;

const daysWords = (days: number): string =>
  days < 60 ? plural(Math.round(days), 'day') : `${formatNumber(days / 30.4)} months`;

/** Why so many are kept: what was asked for, what one too few and one too many costs. */
export function keepBecause({ level, leadDays, uses, needs, unitCost }: KeepRow): string {
  const asked = [
    ...(uses ? [`${plural(uses, 'piece was', 'pieces were')} fitted`] : []),
    ...needs.map(({ number, chance }) => `ticket ${number} may take one (${formatPercent(chance)})`),
  ];
  const cash = (amountMinor: number) => formatMoney({ ...unitCost, amountMinor });
  return `${asked.length ? `${listOf(asked)}. ` : 'Nothing was asked for yet. '}A new one is here in ${plural(leadDays, 'day')}; until then ${formatNumber(level.expected, 2)} are expected to be asked for. One too few makes a machine wait: ${cash(level.under)}. One too many lies there for ${daysWords(level.nextInDays)}: ${cash(level.over)}. ${level.level} ${level.level === 1 ? 'is' : 'are'} enough with a chance of ${formatPercent(level.enough)}.`;
}

/** "wanted 40 %, works 76 %, 25 min, 46.45 € used". */
export const harvestWords = (row: {
  wanted: number;
  works: number;
  minutes: number;
  testMinutes: number;
  price: Parameters<typeof formatMoney>[0];
}): string =>
  `asked for within a year: ${formatPercent(row.wanted)} · right and works: ${formatPercent(row.works)} · ${formatMinutes(row.minutes)} to get at it, ${formatMinutes(row.testMinutes)} to try it · ${formatMoney(row.price)} used`;
