import type { World } from '@/core/case';
import type { Catalogue } from '@/core/catalogue';
import type { Donor } from '@/core/fit';
import { numbersIn, unlistedModel } from '@/core/identify';
import { without, type Learned } from '@/core/learn';
import { asSeenBy, withStock, type StockState } from '@/core/stock';
import type { TicketState } from '@/core/ticket';
import { asId, sum, type PlatformId, type TicketId } from '@/core/units';
import {
  catalogueOf,
  CLOSED_VERSION,
  database,
  loadLearned,
  loadSettings,
  lotsOf,
  pricesVersion,
  STOCK_VERSION,
  type CatalogueReader,
} from '@/store';

/*
 * All that an assessment of one ticket rests on, read once for as long as nothing of it changes: the catalogue around its machine, what was learned, the shelf.
 */

let cached: { key: string; catalogue: Catalogue } | null = null;
let learned: { key: string; value: Learned } | null = null;

export const readerOfToday = (): Promise<CatalogueReader> => catalogueOf(database());

/** The rows that a ticket's questions need: of its machine, and of the numbers that were typed for it or read on its old parts, listed or not. */
export async function catalogueFor(state: TicketState, from: CatalogueReader): Promise<Catalogue> {
  const { plate, plateNotListed, relative, typed, oldNumbers } = state;
  const own = plateNotListed === null ? null : unlistedModel(plateNotListed);
  const platformId = plate?.platformId ?? relative?.platformId ?? (own && asId<PlatformId>(own));
  const models = [
    ...(plate ? [plate.modelId, ...plate.others.map((other) => other.modelId)] : []),
    ...(own ? [own] : []),
  ];
  const numbers = [
    ...Object.values(typed).map(({ partNumber }) => partNumber),
    ...Object.values(oldNumbers).flatMap(({ text }) => numbersIn(text)),
  ];
  const prices = await pricesVersion(database());
  const lots = asSeenBy(await lotsOnShelf(), state.number);
  const key = `${from.key} ${prices} ${lots.length ? `${stockKey} ${state.number}` : ''} ${platformId ?? ''} ${models.join(' ')} ${numbers.join(' ')}`;
  if (cached?.key === key) return cached.catalogue;
  const { currency } = await loadSettings();
  const parts = numbers.length ? (await from.partsNumbered(numbers)).map(({ id }) => id) : [];
  const catalogue = withStock(await from.forMachine(platformId, models, parts), lots, currency);
  cached = { key, catalogue };
  return catalogue;
}

async function learnedOf(catalogue: Catalogue, from: CatalogueReader): Promise<Learned> {
  const db = database();
  const { notLearned } = await loadSettings();
  const key = `${from.key} ${String((await db.meta.get(CLOSED_VERSION))?.value ?? '')} ${notLearned.join('|')}`;
  if (learned?.key !== key)
    learned = {
      key,
      value: without(
        await loadLearned(db, new Map(catalogue.platforms.map((platform) => [platform.id, platform.design]))),
        notLearned,
      ),
    };
  return learned.value;
}

/** What the bench owes to the other open machines. */
async function waitingMinutes(ticketId: TicketId): Promise<number> {
  const open = await database().summaries.where('[kind+open]').equals(['ticket', 1]).toArray();
  return sum(
    open.map((record) =>
      record.kind === 'ticket' && record.summary.ticketId !== ticketId ? (record.summary.benchMinutes ?? 0) : 0,
    ),
  );
}

/** The shelf as an offer to this ticket sees it: what was taken for it is its own, and the machine itself is none. */
const donorsFrom = async ({ ticketId, number }: TicketState): Promise<Donor[]> =>
  (await donorsOnShelf())
    .filter((donor) => donor.ticketId !== ticketId)
    .map((donor) => ({ ...donor, taken: donor.taken.filter(({ forTicket }) => forTicket !== number) }));

let stockKey = '';
let stock: readonly StockState[] = [];

/** Lots, read once for as long as nothing on the shelf changes. Past ones too: what a ticket took of them is its own. */
export async function lotsOnShelf(): Promise<readonly StockState[]> {
  const key = String((await database().meta.get(STOCK_VERSION))?.value ?? '');
  if (stockKey !== key) {
    stock = (await Promise.all([lotsOf(database(), 1), lotsOf(database(), 0)])).flat();
    stockKey = key;
  }
  return stock;
}

let shelf: { key: string; donors: Donor[] } | null = null;

/** Closed machines that were kept for their parts. Read once for as long as no closed ticket changes: a ticket is weighed at every touch. */
export async function donorsOnShelf(): Promise<Donor[]> {
  const key = String((await database().meta.get(CLOSED_VERSION))?.value ?? '');
  if (shelf?.key !== key) shelf = { key, donors: await readShelf() };
  return shelf.donors;
}

async function readShelf(): Promise<Donor[]> {
  const closed = await database().summaries.where('[kind+open]').equals(['ticket', 0]).toArray();
  return closed.flatMap((record): Donor[] => {
    if (record.kind !== 'ticket' || !record.summary.donor) return [];
    const { ticketId, number, modelId, platformId, causeId, donor } = record.summary;
    return modelId && platformId ? [{ ticketId, number, modelId, platformId, causeId, taken: donor.taken }] : [];
  });
}

/** What a ticket is weighed in. */
export const worldOf = async (state: TicketState, from: CatalogueReader): Promise<World> => {
  const catalogue = await catalogueFor(state, from);
  return {
    catalogue,
    settings: await loadSettings(),
    learned: await learnedOf(catalogue, from),
    shipped: from.shipped,
    donors: await donorsFrom(state),
    lots: asSeenBy(await lotsOnShelf(), state.number),
    waitingMinutes: await waitingMinutes(state.ticketId),
  };
};
