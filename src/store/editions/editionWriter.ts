import { tableNames, type Catalogue, type Row, type TableName } from '@/core/catalogue';
import { columnsOf, rowKey, rowText } from '@/core/package';
import { hashText, type PartId, type PlatformId } from '@/core/units';
import { contentHash, KeyTable, type Ledger } from '@/core/package';
import { now } from '../clock';
import { Components } from './components';
import type { BucketRecord, EditionRecord, SorterDatabase } from '../database';
import { EditionReader } from './editionReader';
import { dropEdition, mustBeThere, putBuckets } from './layers';
import {
  isLarge,
  KINDS,
  LARGE,
  placesOf,
  segmentKind,
  SMALL_TABLES,
  type ComponentEntry,
  type Large,
  type Placing,
} from './layout';
import { COMPONENT_COLUMNS, Pile } from './packedRows';
import { ledgerBuckets, writeIndexes } from './searchIndexes';

/** Packed rows held before they are written out as a segment. More segments mean more records to write and to read. */
const FLUSH_BYTES = 48_000_000;
/** Bytes and records of one write: a transaction this long lets the page's own reads in between. */
const PUT_BYTES = 4_000_000;
const PUT_RECORDS = 400;

/** What a package says of itself, and what its ids begin with. */
export type Named = Pick<EditionRecord, 'name' | 'version' | 'prefix' | 'title'>;

/**
 * Writes a new edition beside the active one while its rows stream in. Rows wait in memory up to a limit, then go out bucket by bucket as a segment,
 * so a bucket is read as a few records. The edition counts only after it is made active. Throws EditionGone as soon as somebody has dropped it.
 */
export class EditionWriter {
  readonly id = crypto.randomUUID();
  readonly counts: Record<string, number> = Object.fromEntries(tableNames.map((name) => [name, 0]));
  private readonly db: SorterDatabase;
  private readonly named: Named;
  private readonly components: Components;
  private readonly buckets: Record<string, number> = {};
  private readonly piles = new Map<string, Pile>();
  private readonly segments: Record<string, number> = {};
  private readonly small = new Map<TableName, unknown[]>();
  private readonly noted = new KeyTable();
  private readonly modelKeys = new KeyTable();
  private readonly platforms: string[] = [];
  private readonly platformNumbers = new Map<string, number>();
  private platformOfModel = new Int32Array(1024);
  private held = 0;

  /** `expected`: about how many rows each table will have; it sets the number of buckets. */
  constructor(db: SorterDatabase, named: Named, expected: Partial<Record<TableName, number>>, components: Components) {
    this.db = db;
    this.named = named;
    this.components = components;
    for (const table of LARGE)
      for (const { kind, perBucket } of KINDS[table])
        this.buckets[kind] = Math.max(1, Math.ceil((expected[table] ?? 0) / perBucket));
    this.buckets['components'] = Math.max(1, Math.ceil((expected.relations ?? 0) / 100));
  }

  async open(): Promise<void> {
    await this.db.editions.put(this.record('writing'));
  }

  /** `text`: the row as `rowText` gives it. */
  take(table: TableName, row: Row<TableName>, text: string): void {
    this.counts[table] = (this.counts[table] ?? 0) + 1;
    if (isLarge(table)) this.spread(table, row, text);
    else {
      const rows = this.small.get(table);
      if (rows) rows.push(row);
      else this.small.set(table, [row]);
    }
  }

  /** To be called now and then: writes out what waits when it has become much. */
  async relieve(): Promise<void> {
    if (this.held >= FLUSH_BYTES) await this.flush();
  }

  private spread(table: Large, row: Row<TableName>, packed: string): void {
    if (table === 'models') {
      const { id, platformId } = row as Row<'models'>;
      this.knows(id, platformId);
    }
    for (const [kind, key] of placesOf(table, row, this.placing)) this.put(kind, key, packed);
    if (table !== 'relations') return;
    const { fromPartId, toPartId } = row as Row<'relations'>;
    for (const partId of [fromPartId, toPartId]) this.noteComponent(partId);
  }

  /** Of every part that a relation names, whether its own row lies in this layer or in another. */
  private noteComponent(partId: PartId): void {
    if (this.noted.add(partId) < 0) return;
    const component = this.components.of(partId);
    this.put('components', partId, rowText(COMPONENT_COLUMNS, { partId, component } satisfies ComponentEntry));
  }

  private readonly placing: Placing = {
    componentOf: (partId) => this.components.of(partId),
    platformOf: (modelId) => this.platforms[this.platformOfModel[this.modelKeys.find(modelId)] ?? -1] ?? '',
  };

  /** Which platform a model stands on, without holding the models: of this package, or of a layer below whose models its fits name. */
  knows(id: string, platformId: PlatformId): void {
    const index = this.modelKeys.add(id);
    if (index === this.platformOfModel.length) {
      const bigger = new Int32Array(index * 2);
      bigger.set(this.platformOfModel);
      this.platformOfModel = bigger;
    }
    const number = this.platformNumbers.get(platformId) ?? this.platforms.push(platformId) - 1;
    this.platformNumbers.set(platformId, number);
    this.platformOfModel[index] = number;
  }

  private put(kind: string, key: string, packed: string): void {
    const pile = this.piles.get(kind) ?? new Pile();
    this.piles.set(kind, pile);
    pile.add(hashText(key) % (this.buckets[kind] ?? 1), packed);
    this.held += packed.length;
  }

  private async flush(): Promise<void> {
    for (const [kind, pile] of this.piles) {
      if (pile.size === 0) continue;
      const segment = this.segments[kind] ?? 0;
      this.segments[kind] = segment + 1;
      await this.putAll(recordsOf(this.id, segmentKind(kind, segment), pile));
    }
    this.held = 0;
  }

  private async putAll(records: Iterable<BucketRecord>): Promise<void> {
    let batch: BucketRecord[] = [];
    let bytes = 0;
    for (const record of records) {
      batch.push(record);
      bytes += record.packed?.length ?? 0;
      if (bytes < PUT_BYTES && batch.length < PUT_RECORDS) continue;
      await putBuckets(this.db, this.id, batch);
      [batch, bytes] = [[], 0];
    }
    if (batch.length) await putBuckets(this.db, this.id, batch);
  }

  /** Writes the rest, the search indexes and the ledgers. The edition is then complete, but not active. */
  async finish(ledgers: ReadonlyMap<TableName, Ledger>): Promise<void> {
    await this.flush();
    this.piles.clear();
    await this.putAll(
      SMALL_TABLES.map((table) => ({ edition: this.id, kind: table, bucket: 0, rows: this.small.get(table) ?? [] })),
    );
    await this.putAll(ledgerBuckets(this.id, ledgers));
    const record = this.record('writing');
    // Read back rather than held all the while: nothing else is in memory now.
    await writeIndexes(this.db, new EditionReader(this.db, record));
    await this.db.transaction('rw', this.db.editions, async () => {
      await mustBeThere(this.db, this.id);
      await this.db.editions.put({ ...record, state: 'ready' });
    });
  }

  async abandon(): Promise<void> {
    await dropEdition(this.db, this.id);
  }

  private record(state: EditionRecord['state']): EditionRecord {
    const { id, named, counts, buckets, segments } = this;
    return { id, ...named, at: now(), state, counts, buckets, segments };
  }
}

function* recordsOf(edition: string, kind: string, pile: Pile): Generator<BucketRecord> {
  for (const { bucket, packed } of pile.drain()) yield { edition, kind, bucket, packed };
}

/** A catalogue that is in memory already, as a new edition. `platformOf`: of models that stand in layers below and that its fits name. */
export async function writeEdition(
  db: SorterDatabase,
  named: string | Named,
  catalogue: Catalogue,
  platformOf: ReadonlyMap<string, PlatformId> = new Map(),
): Promise<string> {
  const components = new Components();
  for (const { fromPartId, toPartId } of catalogue.relations) components.join(fromPartId, toPartId);
  const sizes = Object.fromEntries(tableNames.map((table) => [table, catalogue[table].length]));
  const whole = typeof named === 'string' ? { name: named, version: '', prefix: '', title: named } : named;
  const writer = new EditionWriter(db, whole, sizes, components);
  for (const [modelId, platformId] of platformOf) writer.knows(modelId, platformId);
  await writer.open();
  const ledgers = new Map<TableName, Ledger>();
  for (const table of tableNames) {
    const keys = new KeyTable();
    for (const row of catalogue[table]) {
      const text = rowText(columnsOf(table), row);
      keys.add(rowKey(table, row), contentHash(text));
      writer.take(table, row, text);
    }
    ledgers.set(table, keys.ledger());
    await writer.relieve();
  }
  await writer.finish(ledgers);
  return writer.id;
}
