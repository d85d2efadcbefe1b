import { emptyCatalogue, tableNames, type Catalogue, type Row, type TableName } from '@/core/catalogue';
import { hashText } from '@/core/units';
import { now } from './clock';
import type { BucketRecord, EditionRecord, SorterDatabase } from './database';

/** Tables that are small and always wanted whole. */
export const SMALL_TABLES = tableNames.filter(
  (name) => !['models', 'parts', 'part_properties', 'fits', 'relations', 'offers'].includes(name),
);

const PER_BUCKET = 100;

type PartEntry = { partId: string; component: string };

/** Groups parts that are connected by any relation (union–find with path halving): what is looked up together is stored together. */
export function componentsOf(
  parts: readonly { id: string }[],
  relations: readonly { fromPartId: string; toPartId: string }[],
): Map<string, string> {
  const parent = new Map(parts.map((part) => [part.id, part.id]));
  const find = (id: string): string => {
    let at = id;
    for (;;) {
      const up = parent.get(at) ?? at;
      if (up === at) return at;
      const above = parent.get(up) ?? up;
      parent.set(at, above);
      at = above;
    }
  };
  for (const { fromPartId, toPartId } of relations) {
    const [a, b] = [find(fromPartId), find(toPartId)];
    if (a !== b) parent.set(a > b ? a : b, a > b ? b : a);
  }
  return new Map(parts.map((part) => [part.id, find(part.id)]));
}

/** Lays a catalogue out in buckets: by model, by platform (fits and sister models), by component of the cross-reference. */
export function toBuckets(
  edition: string,
  catalogue: Catalogue,
): { buckets: BucketRecord[]; counts: Record<string, number> } {
  const counts: Record<string, number> = {};
  const records: BucketRecord[] = [];
  const spread = <T>(kind: string, rows: readonly T[], key: (row: T) => string) => {
    const count = Math.max(1, Math.ceil(rows.length / PER_BUCKET));
    counts[kind] = count;
    const groups = new Map<number, T[]>();
    for (const row of rows) {
      const bucket = hashText(key(row)) % count;
      const group = groups.get(bucket);
      if (group) group.push(row);
      else groups.set(bucket, [row]);
    }
    for (const [bucket, group] of groups) records.push({ edition, kind, bucket, rows: group });
  };
  for (const table of SMALL_TABLES) records.push({ edition, kind: table, bucket: 0, rows: [...catalogue[table]] });
  const component = componentsOf(catalogue.parts, catalogue.relations);
  const of = (partId: string) => component.get(partId) ?? partId;
  const platformOf = new Map(catalogue.models.map((model) => [model.id, model.platformId]));
  spread('models', catalogue.models, (model) => model.id);
  spread('platformModels', catalogue.models, (model) => model.platformId);
  spread('fits', catalogue.fits, (fit) => fit.platformId ?? platformOf.get(fit.modelId ?? '') ?? '');
  spread('fitsByPart', catalogue.fits, (fit) => of(fit.partId));
  spread(
    'components',
    catalogue.parts.map((part): PartEntry => ({ partId: part.id, component: of(part.id) })),
    (entry) => entry.partId,
  );
  spread('parts', catalogue.parts, (part) => of(part.id));
  spread('part_properties', catalogue.part_properties, (row) => of(row.partId));
  spread('relations', catalogue.relations, (relation) => of(relation.fromPartId));
  spread('offers', catalogue.offers, (offer) => of(offer.partId));
  return { buckets: records, counts };
}

export type WriteProgress = (done: number, total: number) => void;

/** Writes a new edition beside the active one. It counts only after `activate`. */
export async function writeEdition(
  db: SorterDatabase,
  title: string,
  catalogue: Catalogue,
  progress: WriteProgress = () => {},
  cancelled: () => boolean = () => false,
): Promise<string | null> {
  const id = crypto.randomUUID();
  const { buckets, counts } = toBuckets(id, catalogue);
  const rows: Record<string, number> = Object.fromEntries(tableNames.map((name) => [name, catalogue[name].length]));
  await db.editions.put({ id, title, at: now(), state: 'writing', counts: rows, buckets: counts });
  const CHUNK = 40;
  for (let from = 0; from < buckets.length; from += CHUNK) {
    if (cancelled()) {
      await dropEdition(db, id);
      return null;
    }
    await db.buckets.bulkPut(buckets.slice(from, from + CHUNK));
    progress(Math.min(buckets.length, from + CHUNK), buckets.length);
  }
  return id;
}

/** One small transaction: from here on the new edition is the catalogue. The old one is swept afterwards. */
export async function activate(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.editions, db.meta], async () => {
    await db.editions.update(id, { state: 'ready' });
    await db.meta.put({ key: 'activeEdition', value: id });
  });
  await sweep(db);
}

async function dropEdition(db: SorterDatabase, id: string): Promise<void> {
  await db.transaction('rw', [db.editions, db.buckets], async () => {
    await db.buckets.where('edition').equals(id).delete();
    await db.editions.delete(id);
  });
}

/** Removes every edition but the active one: old ones and those that a killed tab left unfinished. */
export async function sweep(db: SorterDatabase): Promise<void> {
  const active = await db.meta.get('activeEdition');
  for (const edition of await db.editions.toArray())
    if (edition.id !== active?.value) await dropEdition(db, edition.id);
}

export async function activeEdition(db: SorterDatabase): Promise<EditionRecord | null> {
  const active = await db.meta.get('activeEdition');
  return typeof active?.value === 'string' ? ((await db.editions.get(active.value)) ?? null) : null;
}

/** Reads buckets of one active edition. Rows were parsed at import, so their type is that of their kind. */
export class EditionReader {
  readonly edition: EditionRecord;
  private readonly db: SorterDatabase;
  constructor(db: SorterDatabase, edition: EditionRecord) {
    this.db = db;
    this.edition = edition;
  }

  async table<T extends TableName>(name: T): Promise<Row<T>[]> {
    const count = this.edition.buckets[name];
    const wanted = count === undefined ? [0] : Array.from({ length: count }, (_, at) => at);
    return this.read<Row<T>>(name, wanted);
  }

  /** Rows of the buckets in which these keys lie; more may come than asked for. */
  async near<T>(kind: string, keys: Iterable<string>): Promise<T[]> {
    const count = this.edition.buckets[kind] ?? 1;
    return this.read<T>(kind, [...new Set([...keys].map((key) => hashText(key) % count))]);
  }

  private async read<T>(kind: string, buckets: readonly number[]): Promise<T[]> {
    const found = await this.db.buckets.bulkGet(
      buckets.map((bucket): [string, string, number] => [this.edition.id, kind, bucket]),
    );
    return found.flatMap((record) => (record ? (record.rows as T[]) : []));
  }

  private small: Promise<Partial<Catalogue>> | null = null;

  private smallTables(): Promise<Partial<Catalogue>> {
    this.small ??= Promise.all(SMALL_TABLES.map(async (name) => [name, await this.table(name)] as const)).then(
      (entries) => Object.fromEntries(entries),
    );
    return this.small;
  }

  /** Parts with everything that hangs on them: their components' relations, offers, properties. */
  async partsWith(
    partIds: readonly string[],
  ): Promise<Pick<Catalogue, 'parts' | 'relations' | 'offers' | 'part_properties'>> {
    const entries = await this.near<PartEntry>('components', partIds);
    const wanted = new Set(partIds);
    const components = new Set(entries.filter((entry) => wanted.has(entry.partId)).map((entry) => entry.component));
    const [parts, relations, offers, properties] = await Promise.all([
      this.near<Row<'parts'>>('parts', components),
      this.near<Row<'relations'>>('relations', components),
      this.near<Row<'offers'>>('offers', components),
      this.near<Row<'part_properties'>>('part_properties', components),
    ]);
    return { parts, relations, offers, part_properties: properties };
  }

  /** What one ticket's questions need: the platform's knowledge, its models and fits, and the parts those name. */
  async forMachine(platformId: string | null, modelIds: readonly string[]): Promise<Catalogue> {
    const base = { ...emptyCatalogue(), ...(await this.smallTables()) };
    if (platformId === null) return base;
    const [sisters, named, nearFits] = await Promise.all([
      this.near<Row<'models'>>('platformModels', [platformId]),
      this.near<Row<'models'>>('models', modelIds),
      this.near<Row<'fits'>>('fits', [platformId]),
    ]);
    const others = named.filter((model) => modelIds.includes(model.id) && model.platformId !== platformId);
    const otherFits = others.length
      ? await this.near<Row<'fits'>>(
          'fits',
          others.map((model) => model.platformId),
        )
      : [];
    const models = [...sisters.filter((model) => model.platformId === platformId), ...others];
    const platforms = new Set([platformId, ...others.map((model) => model.platformId)]);
    const known = new Set(models.map((model) => model.id));
    const fits = [...new Map([...nearFits, ...otherFits].map((fit) => [fit.id, fit])).values()].filter((fit) =>
      fit.platformId !== undefined ? platforms.has(fit.platformId) : known.has(fit.modelId ?? ''),
    );
    return { ...base, models, fits, ...(await this.partsWith([...new Set(fits.map((fit) => fit.partId))])) };
  }
}
