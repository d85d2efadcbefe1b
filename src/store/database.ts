import Dexie, { type EntityTable, type Table } from 'dexie';
import type { Lesson } from '@/core/learn';
import type { OrderState } from '@/core/order';
import type { StockState } from '@/core/stock';
import type { TicketSummary } from '@/core/ticket';
import type { Instant, MakerId, ModelId, Money, SupplierId, TicketId } from '@/core/units';
import type { AnyEvent } from './records/door';

export type CustomerRecord = { id: string; name: string; phone: string; place: string };
export type MachineRecord = {
  id: string;
  modelId: ModelId;
  modelNumber: string;
  serial: string;
  customerId: string | null;
};
export type SummaryRecord =
  | {
      stream: string;
      kind: 'ticket';
      open: 0 | 1;
      number: number;
      modelId: string;
      summary: TicketSummary;
      /** What it teaches, open or closed. */
      lesson: Lesson;
    }
  | { stream: string; kind: 'order'; open: 0 | 1; number: number; modelId: string; summary: OrderState }
  | { stream: string; kind: 'stock'; open: 0 | 1; number: number; modelId: string; summary: StockState };
export type DraftRecord = { key: string; text: string; at: Instant };
/** `of`: what it shows where that is not the plate. */
export type PhotoRecord = {
  id: string;
  ticketId: TicketId;
  at: Instant;
  type: string;
  bytes: Uint8Array;
  of?: 'bench';
};
/** One package as it was imported: a layer of the catalogue. */
export type EditionRecord = {
  id: string;
  /** The package's own name: the next one of this name renews it. Empty where it is not known. */
  name: string;
  /** As the package says it; empty where it does not. */
  version: string;
  /** What stands before its ids, so that they are not another package's. */
  prefix: string;
  title: string;
  at: Instant;
  state: 'writing' | 'ready';
  /** Rows of each table. */
  counts: Record<string, number>;
  /** Buckets of each kind, and the segments in which they were written (1 where missing). */
  buckets: Record<string, number>;
  segments?: Record<string, number>;
};
/** Rows as they are, or packed (packedRows.ts). */
export type BucketRecord = { edition: string; kind: string; bucket: number; rows?: unknown[]; packed?: Uint8Array };
/** A supplier's own price list, used in place of what the catalogue says of that supplier. It outlives an edition: rows name numbers, not ids. */
export type PriceListRecord = { supplierId: SupplierId; title: string; at: Instant; rows: number };
export type PriceRecord = {
  id: string;
  supplierId: SupplierId;
  /** Normalised. */
  number: string;
  makerId: MakerId | null;
  supplierNumber: string;
  packPrice: Money;
  packQuantity: number;
  stockPacks: number;
  handlingDays: number;
};
/** What the shop itself says of a row that it learned, or struck out (null), in place of what would follow from its tickets. Cells as in a file. */
export type OwnRecord = { id: string; table: string; cells: Record<string, string> | null; at: Instant };
export type MetaRecord = { key: string; value: unknown };
/** What could not be parsed: kept, never deleted. */
export type AsideRecord = { id: string; table: string; at: Instant; why: string; raw: unknown };

export class SorterDatabase extends Dexie {
  events!: EntityTable<AnyEvent, 'id'>;
  summaries!: EntityTable<SummaryRecord, 'stream'>;
  customers!: EntityTable<CustomerRecord, 'id'>;
  machines!: EntityTable<MachineRecord, 'id'>;
  settings!: EntityTable<MetaRecord, 'key'>;
  photos!: EntityTable<PhotoRecord, 'id'>;
  drafts!: EntityTable<DraftRecord, 'key'>;
  editions!: EntityTable<EditionRecord, 'id'>;
  buckets!: Table<BucketRecord, [string, string, number]>;
  priceLists!: EntityTable<PriceListRecord, 'supplierId'>;
  prices!: EntityTable<PriceRecord, 'id'>;
  own!: EntityTable<OwnRecord, 'id'>;
  meta!: EntityTable<MetaRecord, 'key'>;
  aside!: EntityTable<AsideRecord, 'id'>;

  constructor(name = 'sorter') {
    super(name);
    this.version(1).stores({
      events: 'id, &[stream+sequence]',
      summaries: 'stream, [kind+open], [kind+number]',
      customers: 'id, name',
      machines: 'id, modelId',
      settings: 'key',
      photos: 'id, ticketId',
      drafts: 'key',
      outbox: 'orderId',
      editions: 'id',
      buckets: '[edition+kind+bucket], edition',
      meta: 'key',
      aside: 'id',
    });
    this.version(2).stores({ priceLists: 'supplierId', prices: 'id, number, supplierId' });
    // What is to be sent follows from the orders themselves.
    this.version(3).stores({ events: 'id, &[stream+sequence], groupId', outbox: null });
    // One catalogue became a pile of layers.
    this.version(4)
      .stores({ own: 'id' })
      .upgrade(async (transaction) => {
        const meta = transaction.table<MetaRecord>('meta');
        await transaction
          .table<EditionRecord>('editions')
          .toCollection()
          .modify((edition) => void Object.assign(edition, { name: '', version: '', prefix: '' }));
        const active: unknown = (await meta.get('activeEdition'))?.value;
        if (typeof active === 'string') await meta.put({ key: 'layers', value: [{ id: active, on: true }] });
        await meta.delete('activeEdition');
      });
  }
}

/** Everything that a backup holds and a wipe clears, beside the catalogue. */
export const RECORD_TABLES = [
  'events',
  'customers',
  'machines',
  'settings',
  'photos',
  'drafts',
  'priceLists',
  'prices',
  'own',
  'aside',
] as const;

/** The shop's own data, and the demo's: two databases that never meet. */
export const SHOPS = { own: 'sorter', demo: 'sorter-demo' } as const;
export type ShopKind = keyof typeof SHOPS;

let open: SorterDatabase | null = null;

// Asked of the realm itself: bundlers answer `typeof window` for it.
const workerName = (): unknown => ('document' in globalThis ? null : Reflect.get(globalThis, 'name'));

/** A worker is told by its name for which shop and which tab it works; a page says so before it asks. */
const namedHere = (): { shop: string; tab: string | null } => {
  const named = workerName();
  const [shop = '', tab = null] = typeof named === 'string' ? named.split('#') : [];
  return { shop: Object.values<string>(SHOPS).includes(shop) ? shop : SHOPS.own, tab };
};

let tab: string | null = null;

/** This tab, the same in its workers; another one after a reload. */
export const tabHere = (): string => (tab ??= namedHere().tab ?? crypto.randomUUID());

/** Tells a worker its shop and its tab. */
export const nameForWorker = (): string => `${database().name}#${tabHere()}`;

/** The one database of this realm (page or worker). */
export function database(): SorterDatabase {
  open ??= new SorterDatabase(namedHere().shop);
  return open;
}

/** The page works for this shop from here on: once, before anything else. */
export function openShop(kind: ShopKind): SorterDatabase {
  if (open?.name !== SHOPS[kind]) {
    open?.close();
    open = new SorterDatabase(SHOPS[kind]);
  }
  return open;
}

export const shopOpen = (): ShopKind => (database().name === SHOPS.demo ? 'demo' : 'own');
