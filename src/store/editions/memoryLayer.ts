import { emptyCatalogue, type Catalogue, type Model, type Part, type Row, type TableName } from '@/core/catalogue';
import type { NumberList } from '@/core/identify';
import { Components } from './components';
import type { LayerReader } from './editionReader';
import { LARGE, placesOf, type Placing } from './layout';
import { indexesOf, type SearchIndexes } from './searchIndexes';
import { keyBy, type PartId } from '@/core/units';

/** A layer that is small enough to be held whole: the shop's own rows. Asked as an edition is. */
export class MemoryLayer implements LayerReader {
  private readonly catalogue: Catalogue;
  private readonly components = new Components();
  private readonly placed = new Map<string, unknown[]>();
  private made: (SearchIndexes & { modelOrder: Int32Array; partOrder: Int32Array }) | null = null;

  /** `platformOf`: of models in other layers that its fits name. O(rows). */
  constructor(rows: Partial<Catalogue>, platformOf: (modelId: string) => string = () => '') {
    this.catalogue = { ...emptyCatalogue(), ...rows };
    for (const { fromPartId, toPartId } of this.catalogue.relations) this.components.join(fromPartId, toPartId);
    const own = keyBy(this.catalogue.models, ({ id }) => id);
    const placing: Placing = {
      componentOf: (partId) => this.components.of(partId),
      platformOf: (modelId) => own.get(modelId)?.platformId ?? platformOf(modelId),
    };
    for (const table of LARGE)
      for (const row of this.catalogue[table])
        for (const [kind, key] of placesOf(table, row, placing)) {
          const place = `${kind} ${key}`;
          const there = this.placed.get(place);
          if (there) there.push(row);
          else this.placed.set(place, [row]);
        }
  }

  async *rows<T extends TableName>(table: T): AsyncGenerator<Row<T>[]> {
    const rows: readonly Row<TableName>[] = this.catalogue[table];
    yield* await Promise.resolve([[...rows] as Row<T>[]]);
  }

  table<T extends TableName>(name: T): Promise<readonly Row<T>[]> {
    const rows: readonly Row<TableName>[] = this.catalogue[name];
    return Promise.resolve(rows as readonly Row<T>[]);
  }

  near<T>(kind: string, keys: Iterable<string>): Promise<T[]> {
    return Promise.resolve([...new Set(keys)].flatMap((key) => (this.placed.get(`${kind} ${key}`) ?? []) as T[]));
  }

  componentsOf(partIds: readonly PartId[]): Promise<Map<string, string>> {
    return Promise.resolve(new Map(partIds.map((id) => [id, this.components.of(id)])));
  }

  searchIndexes(): Promise<SearchIndexes> {
    return Promise.resolve(this.indexes());
  }

  partList(): Promise<NumberList> {
    return Promise.resolve(this.indexes().partList);
  }

  modelsAt(positions: readonly number[]): Promise<Model[]> {
    const { modelOrder } = this.indexes();
    return Promise.resolve(positions.flatMap((position) => this.catalogue.models[modelOrder[position] ?? -1] ?? []));
  }

  partsAt(positions: readonly number[]): Promise<Part[]> {
    const { partOrder } = this.indexes();
    return Promise.resolve(positions.flatMap((position) => this.catalogue.parts[partOrder[position] ?? -1] ?? []));
  }

  private indexes() {
    this.made ??= indexesOf(this.catalogue);
    return this.made;
  }
}
