import {
  emptyCatalogue,
  isKnowledge,
  layered,
  type Catalogue,
  type Model,
  type Part,
  type Row,
  type TableName,
} from '@/core/catalogue';
import { exactNumbers } from '@/core/identify';
import { rowKey } from '@/core/package';
import type { ModelId, PartId, PlatformId, SupplierId } from '@/core/units';
import type { EditionRecord, SorterDatabase } from '../database';
import { readerOf, type LayerReader } from './editionReader';
import { editionsInUse, layersKey } from './layers';
import { SMALL_TABLES, TABLE_OF_KIND } from './layout';
import { OWN_VERSION } from '../records/versions';
import { ownLayer, type OwnLayer } from './ownLayer';
import { offersToday } from './prices';
import { shippedKnowledge } from './shipped';

/** Where a row comes from. */
export type RowSource =
  | { kind: 'shipped' }
  | { kind: 'package'; id: string; title: string; version: string; at: EditionRecord['at'] }
  | { kind: 'own' };

type Layered = { source: RowSource; reader: LayerReader };

/**
 * The catalogue as a question sees it: knowledge that ships < packages, the lowest first < the shop's own rows. Where two layers have a row of the same key
 * the upper one stands; `sourceOf` says whose a row is, `said` what each layer says.
 */
export class CatalogueReader {
  /** Names what is seen: another text when another package, or another row of the shop's own, is. */
  readonly key: string;
  /** Whether there is more than what ships. */
  readonly isEmpty: boolean;
  private readonly db: SorterDatabase;
  private readonly layers: readonly Layered[];
  private readonly sources = new WeakMap<object, RowSource>();

  constructor(db: SorterDatabase, key: string, editions: readonly EditionRecord[], own: OwnLayer | null) {
    this.db = db;
    this.key = key;
    this.isEmpty = editions.length === 0 && own === null;
    this.layers = [
      ...editions.map((edition): Layered => {
        const { id, title, version, at } = edition;
        return { source: { kind: 'package', id, title, version, at }, reader: readerOf(db, edition) };
      }),
      ...(own ? [{ source: { kind: 'own' as const }, reader: own.layer }] : []),
    ];
  }

  sourceOf(row: object): RowSource {
    return this.sources.get(row) ?? { kind: 'shipped' };
  }

  /** Whether a row is what ships, and nobody's own word. */
  readonly shipped = (row: object): boolean => !this.sources.has(row);

  private marked<T, Rows extends readonly T[]>(rows: Rows, source: RowSource): Rows {
    for (const row of rows) if (typeof row === 'object' && row !== null) this.sources.set(row, source);
    return rows;
  }

  /** All rows of a table, each layer's over those below. */
  async table<T extends TableName>(name: T): Promise<Row<T>[]> {
    let rows: Row<T>[] = isKnowledge(name) ? [...(await shippedKnowledge())[name]] : [];
    for (const { reader, source } of this.layers) {
      rows = layered(name, rows, this.marked(await reader.table(name), source));
    }
    return rows;
  }

  /** Rows of a kind that lie where these keys do, each layer's over those below; more may come than asked for. */
  private async near<T extends TableName>(kind: string, keys: readonly string[]): Promise<Row<T>[]> {
    const table = TABLE_OF_KIND.get(kind);
    if (!table) throw new Error(`Bug: no table lies as ${kind}`);
    const found = await Promise.all(
      this.layers.map(async ({ reader, source }) =>
        this.marked(await reader.near<Row<typeof table>>(kind, keys), source),
      ),
    );
    return found.reduce<Row<typeof table>[]>((rows, own) => layered(table, rows, own), []) as Row<T>[];
  }

  private small: Promise<Partial<Catalogue>> | null = null;

  smallTables(): Promise<Partial<Catalogue>> {
    this.small ??= Promise.all(SMALL_TABLES.map(async (name) => [name, await this.table(name)] as const)).then(
      (entries) => Object.fromEntries(entries),
    );
    return this.small;
  }

  /**
   * Parts with everything that hangs on them, in whatever layer: a number of one package may lead on to one of another. Each layer is asked again only for
   * parts that another one led to. O(rounds × layers) reads; one round where there is one layer.
   */
  async partsWith(
    partIds: readonly PartId[],
  ): Promise<Pick<Catalogue, 'parts' | 'relations' | 'offers' | 'part_properties'>> {
    const found = this.layers.map((): Hanging => ({
      asked: new Set(),
      parts: new Map(),
      relations: new Map(),
      offers: new Map(),
      part_properties: new Map(),
    }));
    const known = new Set<PartId>();
    for (let wanted: readonly PartId[] = partIds; wanted.length > 0;) {
      for (const id of wanted) known.add(id);
      const asking = wanted;
      await Promise.all(this.layers.map(async (layer, index) => this.hang(layer, found[index], asking)));
      wanted =
        this.layers.length < 2
          ? []
          : ledTo(
              known,
              found.flatMap(({ relations }) => [...relations.values()]),
            );
    }
    const merged = <T extends HangingTable>(
      table: T,
      of: (hanging: Hanging) => ReadonlyMap<string, Row<T>>,
    ): Row<T>[] => found.reduce<Row<T>[]>((rows, hanging) => layered(table, rows, [...of(hanging).values()]), []);
    const parts = merged('parts', (hanging) => hanging.parts);
    return {
      parts,
      relations: merged('relations', (hanging) => hanging.relations),
      offers: await offersToday(
        this.db,
        parts,
        merged('offers', (hanging) => hanging.offers),
      ),
      part_properties: merged('part_properties', (hanging) => hanging.part_properties),
    };
  }

  /** Neighbours in a bucket come again with the next question: each row is kept once. */
  private async hang(
    { reader, source }: Layered,
    into: Hanging | undefined,
    partIds: readonly PartId[],
  ): Promise<void> {
    if (!into) return;
    const components = [...new Set((await reader.componentsOf(partIds)).values())].filter(
      (name) => !into.asked.has(name),
    );
    if (components.length === 0) return;
    for (const name of components) into.asked.add(name);
    const read = async <T extends HangingTable>(table: T, rows: Map<string, Row<T>>) => {
      for (const row of await reader.near<Row<T>>(table, components)) rows.set(rowKey(table, row), row);
      this.marked([...rows.values()], source);
    };
    await Promise.all([
      read('parts', into.parts),
      read('relations', into.relations),
      read('offers', into.offers),
      read('part_properties', into.part_properties),
    ]);
  }

  async models(ids: readonly ModelId[]): Promise<Model[]> {
    if (ids.length === 0) return [];
    const found = new Map((await this.near<'models'>('models', ids)).map((model) => [model.id, model]));
    return ids.flatMap((id) => found.get(id) ?? []);
  }

  async platformModels(platformId: PlatformId): Promise<Model[]> {
    return (await this.near<'models'>('platformModels', [platformId])).filter(
      (model) => model.platformId === platformId,
    );
  }

  /** Every fit that names this part. */
  async fitsOf(partId: PartId): Promise<Row<'fits'>[]> {
    const found = await Promise.all(
      this.layers.map(async ({ reader, source }) => {
        const components = await reader.componentsOf([partId]);
        return this.marked(await reader.near<Row<'fits'>>('fitsByPart', components.values()), source);
      }),
    );
    return found
      .reduce<Row<'fits'>[]>((rows, own) => layered('fits', rows, own), [])
      .filter((fit) => fit.partId === partId);
  }

  /** What one ticket's questions need: the platform's knowledge, its models and fits, and the parts those name. */
  async forMachine(
    platformId: PlatformId | null,
    modelIds: readonly ModelId[],
    partIds: readonly PartId[] = [],
  ): Promise<Catalogue> {
    const base = { ...emptyCatalogue(), ...(await this.smallTables()) };
    if (platformId === null) return partIds.length ? { ...base, ...(await this.partsWith(partIds)) } : base;
    const [sisters, named] = await Promise.all([this.platformModels(platformId), this.models(modelIds)]);
    const models = [...sisters, ...named.filter((model) => model.platformId !== platformId)];
    const platforms = new Set([platformId, ...models.map((model) => model.platformId)]);
    const known = new Set(models.map((model) => model.id));
    const fits = (await this.near<'fits'>('fits', [...platforms])).filter((fit) =>
      fit.platformId !== undefined
        ? platforms.has(fit.platformId)
        : fit.modelId !== undefined && known.has(fit.modelId),
    );
    return {
      ...base,
      models,
      fits,
      ...(await this.partsWith([...new Set([...fits.map((fit) => fit.partId), ...partIds])])),
    };
  }

  /** One model with its sisters, and the fits of this model and of its platform only: a tenth of what the sisters' own would bring with them. */
  async forModel({ id, platformId }: Model): Promise<Catalogue> {
    const [base, models, near] = await Promise.all([
      this.smallTables(),
      this.platformModels(platformId),
      this.near<'fits'>('fits', [platformId]),
    ]);
    const fits = near.filter((fit) => fit.modelId === id || fit.platformId === platformId);
    const parts = await this.partsWith([...new Set(fits.map((fit) => fit.partId))]);
    return { ...emptyCatalogue(), ...base, models, fits, ...parts };
  }

  /** Every part of these numbers but for case and separators; of one id, the upper layer's. */
  async partsNumbered(numbers: readonly string[]): Promise<Part[]> {
    const found = new Map<PartId, Part>();
    for (const { reader, source } of this.layers) {
      const partList = await reader.partList();
      const places = numbers.flatMap((number) => exactNumbers(partList, number));
      for (const part of this.marked(await reader.partsAt(places), source)) found.set(part.id, part);
    }
    return [...found.values()];
  }

  /** Offers of one supplier, read through in the layers that bring it. O(offers of these layers). */
  async offersOf(supplierId: SupplierId): Promise<Row<'offers'>[]> {
    const found = new Map<string, Row<'offers'>>();
    for (const { reader } of this.layers) {
      if (!(await reader.table('suppliers')).some(({ id }) => id === supplierId)) continue;
      for await (const rows of reader.rows('offers'))
        for (const row of rows) if (row.supplierId === supplierId) found.set(row.id, row);
    }
    return [...found.values()];
  }

  /** Every model of these numbers but for case and separators; of one id, the upper layer's. */
  async modelsNumbered(numbers: readonly string[]): Promise<Model[]> {
    const found = new Map<ModelId, Model>();
    for (const { reader, source } of this.layers) {
      const { modelList } = await reader.searchIndexes();
      const places = numbers.flatMap((number) => exactNumbers(modelList, number));
      for (const model of this.marked(await reader.modelsAt(places), source)) found.set(model.id, model);
    }
    return [...found.values()];
  }

  /** The layers that can be searched, the upper ones first. */
  get searched(): readonly Layered[] {
    return [...this.layers].reverse();
  }

  /** What each layer says of a row, the upper ones first: more than one where layers disagree, or say the same. */
  async said<T extends 'models' | 'parts'>(table: T, id: string): Promise<{ source: RowSource; row: Row<T> }[]> {
    const found = await Promise.all(
      this.searched.map(async ({ reader, source }) => {
        const keys = table === 'parts' ? (await reader.componentsOf([id as PartId])).values() : [id];
        const rows = await reader.near<Row<T>>(table, keys);
        return rows.filter((row) => row.id === id).map((row) => ({ source, row }));
      }),
    );
    return found.flat();
  }
}

type HangingTable = 'parts' | 'relations' | 'offers' | 'part_properties';
type Hanging = { asked: Set<string> } & { [T in HangingTable]: Map<string, Row<T>> };

/** Parts that relations lead to from those that are known, and that were not asked for yet. O(relations × rounds). */
function ledTo(known: ReadonlySet<PartId>, relations: readonly Row<'relations'>[]): PartId[] {
  const reached = new Set(known);
  for (let grown = true; grown;) {
    grown = false;
    for (const { fromPartId, toPartId } of relations) {
      if (reached.has(fromPartId) === reached.has(toPartId)) continue;
      reached.add(fromPartId).add(toPartId);
      grown = true;
    }
  }
  return [...reached].filter((id) => !known.has(id));
}

let last: { db: SorterDatabase; key: string; reader: CatalogueReader } | null = null;

/** What is seen today; the same reader as before while nothing changed. */
export async function catalogueOf(db: SorterDatabase): Promise<CatalogueReader> {
  const own = String((await db.meta.get(OWN_VERSION))?.value ?? '');
  const key = `${await layersKey(db)} | ${own}`;
  if (last?.db !== db || last.key !== key)
    last = { db, key, reader: new CatalogueReader(db, key, await editionsInUse(db), await ownLayer(db)) };
  return last.reader;
}
