import {
  emptyCatalogue,
  isKnowledge,
  layered,
  tableNames,
  type Catalogue,
  type Model,
  type Part,
  type Row,
  type TableName,
} from '@/core/catalogue';
import type { ModelIndex, NumberList } from '@/core/identify';
import { asInstant, hashText, type PartId, type ModelId, type PlatformId } from '@/core/units';
import { type Ledger } from '@/core/package';
import type { BucketRecord, EditionRecord, SorterDatabase } from '../database';
import { derivedKinds, isLarge, KINDS, segmentKind, SMALL_TABLES, type ComponentEntry } from './layout';
import { unpackRows } from './packedRows';
import { offersToday } from './prices';
import { shippedKnowledge } from './shipped';
import { PAGE, writeIndexes, type SearchIndexes } from './searchIndexes';

const BUCKETS_AT_ONCE = 60;

/** A record's rows, whichever way they lie. */
export const rowsOf = ({ kind, rows, packed }: BucketRecord): unknown[] =>
  packed ? unpackRows(kind, packed) : (rows ?? []);

/** No catalogue was imported yet: nothing lies over the knowledge that ships. */
export const NO_EDITION: EditionRecord = {
  id: '',
  state: 'ready',
  title: '',
  at: asInstant('2000-01-01T00:00:00.000Z'),
  counts: {},
  buckets: {},
};

/** Reads buckets of one edition. Rows were parsed at import, so their type is that of their kind. */
export class EditionReader {
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

  /** All rows of a table as a question sees them: the edition's over those that ship with the application. */
  async table<T extends TableName>(name: T): Promise<Row<T>[]> {
    const rows: Row<T>[] = [];
    for await (const some of this.rows(name)) for (const row of some) rows.push(row);
    return isKnowledge(name) ? layered(name, (await shippedKnowledge())[name], rows) : rows;
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

  private small: Promise<Partial<Catalogue>> | null = null;

  smallTables(): Promise<Partial<Catalogue>> {
    this.small ??= Promise.all(SMALL_TABLES.map(async (name) => [name, await this.table(name)] as const)).then(
      (entries) => Object.fromEntries(entries),
    );
    return this.small;
  }

  /** The component of each part: its own name where it hangs together with no other. */
  private async componentsOf(partIds: readonly PartId[]): Promise<Map<string, string>> {
    const entries = await this.near<ComponentEntry>('components', partIds);
    const known = new Map(entries.map((entry) => [entry.partId, entry.component]));
    return new Map(partIds.map((id) => [id, known.get(id) ?? id]));
  }

  /** Parts with everything that hangs on them: their components' relations, offers, properties. */
  async partsWith(
    partIds: readonly PartId[],
  ): Promise<Pick<Catalogue, 'parts' | 'relations' | 'offers' | 'part_properties'>> {
    const components = new Set((await this.componentsOf(partIds)).values());
    const [parts, relations, offers, properties] = await Promise.all([
      this.near<Row<'parts'>>('parts', components),
      this.near<Row<'relations'>>('relations', components),
      this.near<Row<'offers'>>('offers', components),
      this.near<Row<'part_properties'>>('part_properties', components),
    ]);
    return { parts, relations, offers: await offersToday(this.db, parts, offers), part_properties: properties };
  }

  async models(ids: readonly ModelId[]): Promise<Model[]> {
    if (ids.length === 0) return [];
    const found = new Map((await this.near<Model>('models', ids)).map((model) => [model.id, model]));
    return ids.flatMap((id) => found.get(id) ?? []);
  }

  async platformModels(platformId: PlatformId): Promise<Model[]> {
    const near = await this.near<Model>('platformModels', [platformId]);
    return near.filter((model) => model.platformId === platformId);
  }

  /** Every fit that names this part. */
  async fitsOf(partId: PartId): Promise<Row<'fits'>[]> {
    const near = await this.near<Row<'fits'>>('fitsByPart', (await this.componentsOf([partId])).values());
    return near.filter((fit) => fit.partId === partId);
  }

  /** What one ticket's questions need: the platform's knowledge, its models and fits, and the parts those name. */
  async forMachine(platformId: PlatformId | null, modelIds: readonly ModelId[]): Promise<Catalogue> {
    const base = { ...emptyCatalogue(), ...(await this.smallTables()) };
    if (platformId === null) return base;
    const [sisters, named, nearFits] = await Promise.all([
      this.platformModels(platformId),
      this.models(modelIds),
      this.near<Row<'fits'>>('fits', [platformId]),
    ]);
    const others = named.filter((model) => model.platformId !== platformId);
    const otherFits = others.length
      ? await this.near<Row<'fits'>>(
          'fits',
          others.map((model) => model.platformId),
        )
      : [];
    const models = [...sisters, ...others];
    const platforms = new Set([platformId, ...others.map((model) => model.platformId)]);
    const known = new Set(models.map((model) => model.id));
    const fits = [...new Map([...nearFits, ...otherFits].map((fit) => [fit.id, fit])).values()].filter((fit) =>
      fit.platformId !== undefined
        ? platforms.has(fit.platformId)
        : fit.modelId !== undefined && known.has(fit.modelId),
    );
    return { ...base, models, fits, ...(await this.partsWith([...new Set(fits.map((fit) => fit.partId))])) };
  }

  /** One model with its sisters, and the fits of this model and of its platform only: a tenth of what the sisters' own would bring with them. */
  async forModel({ id, platformId }: Model): Promise<Catalogue> {
    const [base, models, near] = await Promise.all([
      this.smallTables(),
      this.platformModels(platformId),
      this.near<Row<'fits'>>('fits', [platformId]),
    ]);
    const fits = near.filter((fit) => fit.modelId === id || fit.platformId === platformId);
    const parts = await this.partsWith([...new Set(fits.map((fit) => fit.partId))]);
    return { ...emptyCatalogue(), ...base, models, fits, ...parts };
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

  /** Rows of the lists that are browsed, by their positions there. */
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
