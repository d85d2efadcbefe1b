import type { Offer, ShippingMode, Supplier } from '../catalogue';
import { asId, sum, zeroMoney, type StockId, type SupplierId } from '../units';
import type { StockState } from './stockStream';

/** The shop's own shelf, as a supplier: near, free and always open. */
export const SHELF = { id: asId<SupplierId>('shelf'), name: 'Our own shelf' };

const OFFER = 'shelf ';

/** The lot behind an offer of the shelf; null for any other offer. */
export const lotOfOffer = (offerId: string): StockId | null =>
  offerId.startsWith(OFFER) ? asId<StockId>(offerId.slice(OFFER.length)) : null;

/** The lots as a ticket sees them: what is kept for it, or was taken for it, is as good as free. O(movements). */
export const asSeenBy = (lots: readonly StockState[], ticketNumber: number): StockState[] =>
  lots.map((lot) => {
    const own =
      sum(lot.reserved.filter(({ number }) => number === ticketNumber).map(({ units }) => units)) -
      sum(lot.movements.filter(({ number }) => number === ticketNumber).map(({ units }) => units));
    return own > 0 && lot.works !== false ? { ...lot, free: lot.free + own } : lot;
  });

/** What may be sold as new: tried ones out of a donor are another way of mending (`case/usedPart`). */
const isNew = ({ used, free, partId }: StockState): boolean => !used && free > 0 && partId !== null;

type Rows = {
  readonly suppliers: readonly Supplier[];
  readonly shipping_modes: readonly ShippingMode[];
  readonly offers: readonly Offer[];
};

/**
 * The shelf among the suppliers: every free piece of a new part at what it cost, here today, for nothing. Where lots are counted, what a list once said
 * of the shelf counts no more. O(offers + lots).
 */
export function withStock<R extends Rows>(rows: R, lots: readonly StockState[], currency: string): R {
  if (lots.length === 0) return rows;
  const listed = rows.offers.some(({ supplierId }) => supplierId === SHELF.id);
  const offers = lots.filter(isNew).flatMap(({ stockId, partId, partNumber, unitCost, free }): Offer[] =>
    partId === null
      ? []
      : [
          {
            id: `${OFFER}${stockId}`,
            supplierId: SHELF.id,
            partId,
            supplierNumber: partNumber,
            packPrice: unitCost,
            packQuantity: 1,
            stockPacks: free,
            handlingDays: 0,
            asOf: undefined,
          },
        ],
  );
  if (offers.length === 0 && !listed) return rows;
  return {
    ...rows,
    suppliers: [
      ...rows.suppliers.filter(({ id }) => id !== SHELF.id),
      { ...SHELF, minimumOrder: zeroMoney(currency), restocking: 0, note: undefined, orders: undefined },
    ],
    shipping_modes: [
      ...rows.shipping_modes.filter(({ supplierId }) => supplierId !== SHELF.id),
      {
        id: 'shelf',
        supplierId: SHELF.id,
        name: 'At hand',
        fee: zeroMoney(currency),
        freeOver: undefined,
        transitDays: 0,
      },
    ],
    offers: [...rows.offers.filter(({ supplierId }) => supplierId !== SHELF.id), ...offers],
  };
}
