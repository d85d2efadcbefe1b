import { expose } from 'comlink';
import { bestPurchase, costOfPieces, harvestList, marketOf, type HarvestRow, type KeepRow } from '@/core/case';
import { deadPieces, demandOf, noDemand, SHELF, type Lot } from '@/core/stock';
import {
  localDateOf,
  money,
  sum,
  type Instant,
  type LocalDate,
  type Money,
  type PartId,
  type PlatformId,
  type StockId,
  type TicketId,
} from '@/core/units';
import { eventStore, loadSettings } from '@/store';
import { demandToday, keepToday, needsOfOpen } from './shelfDemand';
import { catalogueFor, donorsOnShelf, lotsOnShelf, readerOfToday } from './world';

export type ShelfView = {
  keep: (KeepRow & { supplierName: string })[];
  /** Lots that lie there for nothing. */
  dead: { stockId: StockId; pieces: number; value: Money }[];
  /** The records reach back to this day, over so many closed tickets. */
  from: LocalDate;
  closed: number;
  /** The share of offers that get a yes, as it is reckoned with. */
  yes: number;
  /** Open machines whose needs are guessed from their causes. */
  guessed: number;
};

/** A number as it is listed, with what one costs where somebody sells it. */
export type ListedNumber = { partId: PartId; partNumber: string; description: string; unitCost: Money | null };

/** A stock list that was loaded, and is not counted on the shelf yet. */
export type ListedStock = (Lot & { partId: PartId })[];

const api = {
  /** The parts of this number, whoever makes them; none where nobody lists it. */
  async named(number: string, now: Instant): Promise<ListedNumber[]> {
    const [reader, settings] = await Promise.all([readerOfToday(), loadSettings()]);
    const listed = await reader.partsNumbered([number]);
    const { offers } = await reader.partsWith(listed.map(({ id }) => id));
    const shipping_modes = await reader.table('shipping_modes');
    const market = marketOf(settings, localDateOf(now, settings.zone));
    return listed.map(({ id, partNumber, description }) => {
      const purchase = bestPurchase({ offers, shipping_modes }, id, 1, market);
      return { partId: id, partNumber, description, unitCost: purchase && costOfPieces(purchase, 1) };
    });
  },

  /** What stock lists say lies on the shelf, as lots to be. */
  async listedStock(): Promise<ListedStock> {
    const [reader, lots] = await Promise.all([readerOfToday(), lotsOnShelf()]);
    if (lots.length) return [];
    const offers = await reader.offersOf(SHELF.id);
    const parts = new Map(
      (await reader.partsWith(offers.map(({ partId }) => partId))).parts.map((part) => [part.id, part]),
    );
    return offers.flatMap(({ partId, packPrice, packQuantity, stockPacks, supplierNumber }) => {
      const units = stockPacks * packQuantity;
      return units < 1
        ? []
        : [
            {
              partId,
              partNumber: parts.get(partId)?.partNumber ?? supplierNumber,
              description: parts.get(partId)?.description ?? '',
              place: '',
              units,
              unitCost: money(Math.round(packPrice.amountMinor / packQuantity), packPrice.currency),
              used: false,
              origin: { kind: 'by-hand' as const },
            },
          ];
    });
  },

  /** What to keep, and what lies there for nothing. Weighs every open machine: cancel by terminating. */
  async view(now: Instant): Promise<ShelfView> {
    const { keep, suppliers, here, needs, guessed, demand } = await keepToday(now);
    const { closed, settings, today, from, uses, yes } = demand;
    const demands = demandOf(uses, needs, from, today);
    const none = noDemand(from, today);
    return {
      keep: keep.map((row) => ({
        ...row,
        supplierName: suppliers.find(({ id }) => id === row.supplierId)?.name ?? row.supplierId,
      })),
      dead: here.flatMap((lot) => {
        const pieces = deadPieces(lot, (lot.partId && demands.get(lot.partId)) ?? none, today, settings.zone);
        const { amountMinor, currency } = lot.unitCost;
        return pieces ? [{ stockId: lot.stockId, pieces, value: money(pieces * amountMinor, currency) }] : [];
      }),
      from,
      closed: closed.length,
      yes,
      guessed,
    };
  },

  /** Which parts of a donor are worth the minutes. null: it is no donor any more. */
  async harvest(donorId: TicketId, now: Instant): Promise<HarvestRow[] | null> {
    const [donors, ticket, reader] = [await donorsOnShelf(), await eventStore().ticket(donorId), await readerOfToday()];
    const donor = donors.find(({ ticketId }) => ticketId === donorId);
    if (!donor || !ticket) return null;
    const { open, settings, today, from, uses, yes } = await demandToday(now);
    const catalogue = await catalogueFor(ticket.state, reader);
    const platform = catalogue.platforms.find(({ id }) => id === (donor.platformId satisfies PlatformId));
    if (!platform) return [];
    const { needs } = await needsOfOpen(open, yes, now, today);
    const demands = demandOf(uses, needs, from, today);
    const lots = await lotsOnShelf();
    return harvestList({
      catalogue,
      donor,
      platform,
      demand: (partId) => demands.get(partId) ?? noDemand(from, today),
      there: (partId) => sum(lots.filter((lot) => lot.partId === partId).map(({ free }) => free)),
      settings,
      today,
    });
  },
};

export type ShelfApi = typeof api;
expose(api);
