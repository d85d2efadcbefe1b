import { tableNames, type Model, type Part, type Row, type TableName } from '@/core/catalogue';
import type { ModelIndex, NumberList } from '@/core/identify';
import { hashText, type PartId } from '@/core/units';
import { type Ledger } from '@/core/package';
import type { BucketRecord, EditionRecord, SorterDatabase } from '../database';
import { derivedKinds, isLarge, KINDS, segmentKind, type ComponentEntry } from './layout';
import { unpackRows } from './packedRows';
import { PAGE, writeIndexes, type SearchIndexes } from './searchIndexes';

const BUCKETS_AT_ONCE = 60;

/** A record's rows, whichever way they lie. */
export const rowsOf = ({ kind, rows, packed }: BucketRecord): unknown[] =>
  packed ? unpackRows(kind, packed) : (rows ?? []);

/** One layer of the catalogue, as it is asked. */
export type LayerReader = {
  rows<T extends TableName>(table: T): AsyncGenerator<Row<T>[]>;
  /** All rows of a table at once. */
  table<T extends TableName>(name: T): Promise<readonly Row<T>[]>;
  /** Rows of a kind that lie where these keys do; more may come than asked for. */
  near<T>(kind: string, keys: Iterable<string>): Promise<T[]>;
  /** The component of each part: its own name where it hangs together with no other. */
  componentsOf(partIds: readonly PartId[]): Promise<Map<string, string>>;
  searchIndexes(): Promise<SearchIndexes>;
  /** Only the part numbers. */
  partList(): Promise<NumberList>;
  /** Rows of the lists that are browsed, by their positions there. */
  modelsAt(positions: readonly number[]): Promise<Model[]>;
  partsAt(positions: readonly number[]): Promise<Part[]>;
};

const known = new Map<string, EditionReader>();
const MOST_KNOWN = 12;

/** The reader of an edition that is in use: the same one each time, with what it read already. */
export function readerOf(db: SorterDatabase, edition: EditionRecord): EditionReader {
  const key = `${db.name} ${edition.id}`;
  const reader = known.get(key) ?? new EditionReader(db, edition);
  known.delete(key);
  known.set(key, reader);
  const [oldest] = known.keys();
  if (known.size > MOST_KNOWN && oldest !== undefined) known.delete(oldest);
  return reader;
}

/** Reads buckets of one edition. Rows were parsed at import, so their type is that of their kind. */
export class EditionReader implements LayerReader {
  readonly edition: EditionRecord;
  private readonly db: SorterDatabase;
  constructor(db: SorterDatabase, edition: EditionRecord) {
    this.db = db;
    this.edition = edition;
  }

  /** All rows of a table, a few buckets at a time. */
  async *rows<T extends TableName>(table: T): AsyncGenerator<Row<T>[]> {
    const kind = isLarge(table) ? (KINDS[table][0]?.kind ?? table) : table;
    const count = this.edition.buckets[kind] ?? 1;
    for (let from = 0; from < count; from += BUCKETS_AT_ONCE) {
      const wanted = Array.from({ length: Math.min(BUCKETS_AT_ONCE, count - from) }, (_, index) => from + index);
      yield await this.read<Row<T>>(kind, wanted);
    }
  }

  private readonly kept = new Map<TableName, Promise<readonly Row<TableName>[]>>();

  /** All rows of a table of this edition. The small tables are read once: an edition does not change. */
  table<T extends TableName>(name: T): Promise<readonly Row<T>[]> {
    const read = async () => {
      const all: Row<T>[] = [];
      for await (const some of this.rows(name)) for (const row of some) all.push(row);
      return all;
    };
    if (isLarge(name)) return read();
    const kept = this.kept.get(name) ?? read();
    this.kept.set(name, kept);
    // The table's name is that of its rows.
    return kept as Promise<readonly Row<T>[]>;
  }

  /** Rows of the buckets in which these keys lie; more may come than asked for. */
  async near<T>(kind: string, keys: Iterable<string>): Promise<T[]> {
    const count = this.edition.buckets[kind] ?? 1;
    return this.read<T>(kind, [...new Set([...keys].map((key) => hashText(key) % count))]);
  }

  private async read<T>(kind: string, buckets: readonly number[]): Promise<T[]> {
    const segments = this.edition.segments?.[kind] ?? 1;
    const found = await this.db.buckets.bulkGet(
      Array.from({ length: segments }, (_, segment) => segmentKind(kind, segment)).flatMap((name) =>
        buckets.map((bucket): [string, string, number] => [this.edition.id, name, bucket]),
      ),
    );
    const rows: T[] = [];
    for (const record of found) if (record) for (const row of rowsOf(record)) rows.push(row as T);
    return rows;
  }

  async componentsOf(partIds: readonly PartId[]): Promise<Map<string, string>> {
    const entries = await this.near<ComponentEntry>('components', partIds);
    const known = new Map(entries.map((entry) => [entry.partId, entry.component]));
    return new Map(partIds.map((id) => [id, known.get(id) ?? id]));
  }

  /** The stored search indexes; made and stored first where an older version or a backup left none. */
  async searchIndexes(): Promise<SearchIndexes> {
    const stored = await this.storedIndexes();
    if (stored) return stored;
    await writeIndexes(this.db, this);
    const made = await this.storedIndexes();
    if (!made) throw new Error('Bug: the search indexes were just written');
    return made;
  }

  async partList(): Promise<NumberList> {
    const stored = await this.db.buckets.get([this.edition.id, derivedKinds.lists, 1]);
    return stored ? (rowsOf(stored)[0] as NumberList) : (await this.searchIndexes()).partList;
  }

  private async storedIndexes(): Promise<SearchIndexes | null> {
    const [models, modelList, partList] = await this.db.buckets.bulkGet([
      [this.edition.id, derivedKinds.modelIndex, 0],
      [this.edition.id, derivedKinds.lists, 0],
      [this.edition.id, derivedKinds.lists, 1],
    ]);
    if (!models || !modelList || !partList) return null;
    return {
      models: rowsOf(models)[0] as ModelIndex,
      modelList: rowsOf(modelList)[0] as NumberList,
      partList: rowsOf(partList)[0] as NumberList,
    };
  }

  async modelsAt(positions: readonly number[]): Promise<Model[]> {
    return this.page<Model>(derivedKinds.modelPages, positions);
  }

  async partsAt(positions: readonly number[]): Promise<Part[]> {
    return this.page<Part>(derivedKinds.partPages, positions);
  }

  private async page<T>(kind: string, positions: readonly number[]): Promise<T[]> {
    const wanted = [...new Set(positions.map((position) => Math.floor(position / PAGE)))];
    const found = await this.db.buckets.bulkGet(
      wanted.map((bucket): [string, string, number] => [this.edition.id, kind, bucket]),
    );
    const rows = new Map(wanted.map((bucket, index) => [bucket, (found[index] ? rowsOf(found[index]) : []) as T[]]));
    return positions.flatMap((position) => rows.get(Math.floor(position / PAGE))?.[position % PAGE] ?? []);
  }

  /** What a table held, for comparing; null where an older version or a backup left none. */
  async ledger(table: TableName): Promise<Ledger | null> {
    const found = await this.db.buckets.get([this.edition.id, derivedKinds.ledgers, tableNames.indexOf(table)]);
    return (found?.rows?.[0] as Ledger | undefined) ?? null;
  }
}
