import type { SupplierId } from '@/core/units';
import type { Offer, Part } from '@/core/catalogue';
import type { PriceMapping, PriceRow, PriceStyle } from '@/core/prices';
import { normaliseNumber } from '@/core/identify';
import { now } from '../clock';
import type { PriceListRecord, PriceRecord, SorterDatabase } from '../database';

/** How a supplier's lists are read: remembered, so that the next list needs no mapping. */
export type PriceHabit = { mapping: PriceMapping; style: PriceStyle };

export type MatchedPrices = {
  rows: PriceRecord[];
  /** Numbers that no part of the catalogue has; of those that it has, not from the maker that the row names; those of parts of several makers. */
  unknown: string[];
  otherMaker: string[];
  ambiguous: string[];
  doubled: string[];
};

/**
 * Finds the part of each row by its number, and by its maker where two makers use the same number. `partsOf`: parts by normalised number; `makerNames`: names by id.
 */
export function matchPrices(
  supplierId: SupplierId,
  rows: readonly PriceRow[],
  partsOf: ReadonlyMap<string, readonly Part[]>,
  makerNames: ReadonlyMap<string, string>,
): MatchedPrices {
  const found = new Map<string, PriceRecord>();
  const unknown: string[] = [];
  const otherMaker: string[] = [];
  const ambiguous: string[] = [];
  const doubled: string[] = [];
  for (const row of rows) {
    const number = normaliseNumber(row.partNumber);
    const named = row.maker.toLowerCase();
    const parts = partsOf.get(number) ?? [];
    const own = parts.filter(
      ({ makerId }) =>
        named === '' || (makerNames.get(makerId ?? '') ?? '').toLowerCase().includes(named) || makerId === row.maker,
    );
    const [part] = own;
    if (!part) (parts.length ? otherMaker : unknown).push(row.partNumber);
    else if (own.length > 1) ambiguous.push(row.partNumber);
    else {
      const id = `${supplierId} ${part.makerId ?? ''} ${number} ${row.supplierNumber}`;
      if (found.has(id)) doubled.push(row.partNumber);
      const { packPrice, packQuantity, stockPacks, handlingDays, supplierNumber } = row;
      found.set(id, {
        id,
        supplierId,
        number,
        makerId: part.makerId ?? null,
        supplierNumber,
        packPrice,
        packQuantity,
        stockPacks,
        handlingDays,
      });
    }
  }
  return { rows: [...found.values()], unknown, otherMaker, ambiguous, doubled };
}

/** Replaces a supplier's list, all or nothing. From now on the catalogue's own offers of this supplier are not used. */
export async function putPrices(
  db: SorterDatabase,
  list: Omit<PriceListRecord, 'at' | 'rows'>,
  rows: readonly PriceRecord[],
): Promise<void> {
  await db.transaction('rw', [db.prices, db.priceLists], async () => {
    await db.prices.where('supplierId').equals(list.supplierId).delete();
    await db.prices.bulkPut(rows);
    await db.priceLists.put({ ...list, at: now(), rows: rows.length });
  });
}

/** Back to the offers that the catalogue has of this supplier. How the list was read stays remembered. */
export async function dropPrices(db: SorterDatabase, supplierId: SupplierId): Promise<void> {
  await db.transaction('rw', [db.prices, db.priceLists], async () => {
    await db.prices.where('supplierId').equals(supplierId).delete();
    await db.priceLists.delete(supplierId);
  });
}

const habitKey = (supplierId: SupplierId) => `prices ${supplierId}`;

export async function rememberHabit(db: SorterDatabase, supplierId: SupplierId, habit: PriceHabit): Promise<void> {
  await db.settings.put({ key: habitKey(supplierId), value: habit });
}

export async function habitOf(db: SorterDatabase, supplierId: SupplierId): Promise<PriceHabit | null> {
  const value = (await db.settings.get(habitKey(supplierId)))?.value;
  return typeof value === 'object' && value !== null && 'mapping' in value && 'style' in value
    ? (value as PriceHabit)
    : null;
}

/** Changes whenever a list does: what was loaded before is then out of date. */
export async function pricesVersion(db: SorterDatabase): Promise<string> {
  return (await db.priceLists.toArray()).map(({ supplierId, at }) => `${supplierId} ${at}`).join(' ');
}

/** Offers as they stand: the catalogue's, but from a supplier with a price list of its own only what that list says. */
export async function offersToday(
  db: SorterDatabase,
  parts: readonly Part[],
  offers: readonly Offer[],
): Promise<readonly Offer[]> {
  const lists = new Set((await db.priceLists.toArray()).map(({ supplierId }) => supplierId));
  if (lists.size === 0) return offers;
  const byNumber = new Map<string, Part[]>();
  for (const part of parts) {
    const number = normaliseNumber(part.partNumber);
    byNumber.set(number, [...(byNumber.get(number) ?? []), part]);
  }
  const rows = await db.prices
    .where('number')
    .anyOf([...byNumber.keys()])
    .toArray();
  return [
    ...offers.filter(({ supplierId }) => !lists.has(supplierId)),
    ...rows.flatMap(({ number, makerId, ...offer }) =>
      (byNumber.get(number) ?? [])
        .filter((part) => (part.makerId ?? null) === makerId)
        .map((part): Offer => ({ ...offer, partId: part.id })),
    ),
  ];
}
