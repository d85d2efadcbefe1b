import {
  rowContent,
  rowKey,
  tableNames,
  type Catalogue,
  type Fit,
  type Model,
  type Part,
  type Row,
  type TableName,
} from '@/core/catalogue';
import { hashText, KeyTable, type Ledger } from '@/core/units';
import { now } from './clock';
import { Components } from './components';
import type { BucketRecord, EditionRecord, SorterDatabase } from './database';
import { dropEdition } from './editions';
import { isLarge, KINDS, LARGE, segmentKind, SMALL_TABLES, type ComponentEntry } from './layout';
import { derivedBuckets, type Badges } from './searchIndexes';

/** Rows held before they are written out as a segment: about 100 MB. */
const FLUSH_ROWS = 250_000;
const PUT_AT_ONCE = 400;

/**
 * Writes a new edition beside the active one while its rows stream in. Rows wait in memory up to a limit, then go out bucket by bucket as a segment,
 * so a bucket is read as a few records. The edition counts only after it is made active.
 */
export class EditionWriter {
  readonly id = crypto.randomUUID();
  readonly counts: Record<string, number> = Object.fromEntries(tableNames.map((name) => [name, 0]));
  private readonly db: SorterDatabase;
  private readonly title: string;
  private readonly components: Components;
  private readonly buckets: Record<string, number> = {};
  private readonly waiting = new Map<string, { bucket: number; row: unknown }[]>();
  private readonly segments: Record<string, number> = {};
  private readonly small = new Map<TableName, unknown[]>();
  private readonly platformOf = new Map<string, string>();
  private readonly models: Model[] = [];
  private readonly parts: Part[] = [];
  private held = 0;
  private writing: Promise<void> = Promise.resolve();

  /** `expected`: about how many rows each table will have; it sets the number of buckets. */
  constructor(db: SorterDatabase, title: string, expected: Partial<Record<TableName, number>>, components: Components) {
    this.db = db;
    this.title = title;
    this.components = components;
    for (const table of LARGE)
      for (const { kind, perBucket } of KINDS[table])
        this.buckets[kind] = Math.max(1, Math.ceil((expected[table] ?? 0) / perBucket));
    this.buckets['components'] = Math.max(1, Math.ceil((expected.relations ?? 0) / 100));
  }

  async open(): Promise<void> {
    await this.db.editions.put(this.record('writing'));
  }

  async add<T extends TableName>(table: T, rows: readonly Row<T>[]): Promise<void> {
    this.counts[table] = (this.counts[table] ?? 0) + rows.length;
    for (const row of rows) this.take(table, row);
    if (this.held >= FLUSH_ROWS) await this.flush();
  }

  private take(table: TableName, row: Row<TableName>): void {
    if (!isLarge(table)) {
      const known = this.small.get(table);
      if (known) known.push(row);
      else this.small.set(table, [row]);
      return;
    }
    // The table names the row's type; TypeScript cannot follow that.
    if (table === 'models') {
      const model = row as Model;
      this.models.push(model);
      this.platformOf.set(model.id, model.platformId);
      this.put('models', model.id, row);
      this.put('platformModels', model.platformId, row);
    } else if (table === 'fits') {
      const fit = row as Fit;
      this.put('fits', fit.platformId ?? this.platformOf.get(fit.modelId ?? '') ?? '', row);
      this.put('fitsByPart', this.components.of(fit.partId), row);
    } else if (table === 'relations') this.put(table, this.components.of((row as Row<'relations'>).fromPartId), row);
    else if (table === 'parts') {
      const part = row as Part;
      this.parts.push(part);
      const component = this.components.of(part.id);
      this.put('parts', component, row);
      if (this.components.has(part.id))
        this.put('components', part.id, { partId: part.id, component } satisfies ComponentEntry);
    } else this.put(table, this.components.of((row as Row<'offers'>).partId), row);
  }

  private put(kind: string, key: string, row: unknown): void {
    const entry = { bucket: hashText(key) % (this.buckets[kind] ?? 1), row };
    const known = this.waiting.get(kind);
    if (known) known.push(entry);
    else this.waiting.set(kind, [entry]);
    this.held += 1;
  }

  /** Sends what waits to the database. Reading goes on meanwhile; the next flush waits for this one. */
  private async flush(): Promise<void> {
    await this.writing;
    const records: BucketRecord[] = [];
    for (const [kind, entries] of this.waiting) {
      const segment = this.segments[kind] ?? 0;
      this.segments[kind] = segment + 1;
      const byBucket = new Map<number, unknown[]>();
      for (const { bucket, row } of entries) {
        const rows = byBucket.get(bucket);
        if (rows) rows.push(row);
        else byBucket.set(bucket, [row]);
      }
      for (const [bucket, rows] of byBucket)
        records.push({ edition: this.id, kind: segmentKind(kind, segment), bucket, rows });
    }
    this.waiting.clear();
    this.held = 0;
    this.writing = this.putAll(records);
    // Its failure is met where it is awaited; unhandled meanwhile it would end the worker.
    this.writing.catch(() => undefined);
  }

  private async putAll(records: readonly BucketRecord[]): Promise<void> {
    for (let from = 0; from < records.length; from += PUT_AT_ONCE)
      await this.db.buckets.bulkPut(records.slice(from, from + PUT_AT_ONCE));
  }

  /** Writes the rest, the search indexes and the ledgers. The edition is then complete, but not active. */
  async finish(ledgers: ReadonlyMap<TableName, Ledger>): Promise<void> {
    await this.flush();
    await this.writing;
    for (const table of SMALL_TABLES)
      await this.db.buckets.put({ edition: this.id, kind: table, bucket: 0, rows: this.small.get(table) ?? [] });
    const badges = (this.small.get('badges') ?? []) as Badges;
    await this.putAll(derivedBuckets(this.id, { models: this.models, parts: this.parts, badges }, ledgers));
    await this.db.editions.put(this.record('ready'));
  }

  async abandon(): Promise<void> {
    await this.writing.catch(() => undefined);
    await dropEdition(this.db, this.id);
  }

  private record(state: EditionRecord['state']): EditionRecord {
    const { id, title, counts, buckets, segments } = this;
    return { id, title, at: now(), state, counts, buckets, segments };
  }
}

/** A catalogue that is in memory already, as a new edition. */
export async function writeEdition(db: SorterDatabase, title: string, catalogue: Catalogue): Promise<string> {
  const components = new Components();
  for (const { fromPartId, toPartId } of catalogue.relations) components.join(fromPartId, toPartId);
  const sizes = Object.fromEntries(tableNames.map((table) => [table, catalogue[table].length]));
  const writer = new EditionWriter(db, title, sizes, components);
  await writer.open();
  const ledgers = new Map<TableName, Ledger>();
  for (const table of tableNames) {
    const keys = new KeyTable();
    for (const row of catalogue[table]) keys.add(rowKey(table, row), rowContent(table, row));
    ledgers.set(table, keys.ledger());
    await writer.add(table, catalogue[table]);
  }
  await writer.finish(ledgers);
  return writer.id;
}
