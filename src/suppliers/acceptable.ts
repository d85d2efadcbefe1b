import type { UblOrder } from '@/core/order/documents';
import { sum } from '@/core/units';

const MOST_LINES = 500;
const LONGEST = { number: 200, partNumber: 80, line: 200 } as const;
const PACKS = 1_000_000;

/** Why a supplier does not take an order of this size or day, in words; null: it does. What it takes it must be able to keep. */
export function refusalOf({ number, issuedOn, lines }: UblOrder): string | null {
  const year = Number(issuedOn.slice(0, 4));
  if (year < 2000 || year > 2200) return `An order issued on ${issuedOn} is none.`;
  if (number.length > LONGEST.number) return `An order number has at most ${LONGEST.number} characters.`;
  if (lines.length === 0) return 'An order without lines is none.';
  if (lines.length > MOST_LINES) return `An order has at most ${MOST_LINES} lines; this one has ${lines.length}.`;
  if (
    lines.some(
      ({ partNumber, supplierNumber }) => Math.max(partNumber.length, supplierNumber.length) > LONGEST.partNumber,
    )
  )
    return `A part number has at most ${LONGEST.partNumber} characters.`;
  if (lines.some(({ id, partId }) => Math.max(id.length, partId.length) > LONGEST.line))
    return `A line's name has at most ${LONGEST.line} characters.`;
  if (new Set(lines.map(({ id }) => id)).size < lines.length) return 'Two lines of this order have the same name.';
  if (sum(lines.map(({ packs }) => packs)) > PACKS) return `An order has at most ${PACKS} packs.`;
  return null;
}
