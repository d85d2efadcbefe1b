import Papa from 'papaparse';
import { layered, rowCells, tableNames, tables, type Catalogue, type Row, type TableName } from '@/core/catalogue';
import { KeyTable, packageDescriptor, rowKey } from '@/core/package';
import { unique } from '@/core/units';
import type { SorterDatabase } from '../database';
import { catalogueOf, type CatalogueReader } from '../editions/catalogueReader';
import { EditionReader, type LayerReader } from '../editions/editionReader';
import { editionsInUse } from '../editions/layers';
import { MemoryLayer } from '../editions/memoryLayer';
import { ownLayer } from '../editions/ownLayer';
import { shippedKnowledge } from '../editions/shipped';
import { zipOf } from '../zip';

const NEWLINE = '\r\n';
const csv = (rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse([...rows], { newline: NEWLINE })}${NEWLINE}`;

type Upper = { has: (key: string) => boolean };

/** Rows of a table, of every layer, those left out that an upper layer says otherwise. */
async function* merged<T extends TableName>(layers: readonly LayerReader[], table: T): AsyncGenerator<Row<T>[]> {
  const keys = await Promise.all(layers.slice(1).map((layer) => keysOf(layer, table)));
  for (const [index, layer] of layers.entries()) {
    const above: readonly Upper[] = keys.slice(index);
    for await (const rows of layer.rows(table))
      yield above.length ? rows.filter((row) => above.every((upper) => !upper.has(rowKey(table, row)))) : rows;
  }
}

async function keysOf(layer: LayerReader, table: TableName): Promise<Upper> {
  const ledger = layer instanceof EditionReader ? await layer.ledger(table) : null;
  if (ledger) return KeyTable.from(ledger);
  const keys = new Set<string>();
  for await (const rows of layer.rows(table)) for (const row of rows) keys.add(rowKey(table, row));
  return keys;
}

async function* csvOf(layers: readonly LayerReader[], table: TableName): AsyncGenerator<string> {
  yield csv([Object.keys(tables[table].columns.shape)]);
  for await (const rows of merged(layers, table))
    if (rows.length > 0) yield csv(rows.map((row) => rowCells(table, row)));
}

const packageOf = (name: string, title: string, layers: readonly LayerReader[]): Promise<Blob> =>
  zipOf([
    { path: 'datapackage.json', text: () => [`${JSON.stringify(packageDescriptor(name, title), null, 2)}\n`] },
    ...tableNames.map((table) => ({ path: `${table}.csv`, text: () => csvOf(layers, table) })),
  ]);

/**
 * The catalogue as questions see it, all layers as one data package (datapackage.json and one CSV file for every table, RFC 4180, UTF-8), zipped: what the import
 * reads, and what any program that knows the standard can read. What ships with the application goes along: the package stands by itself. Null in a shop that has
 * nothing beside that. A few buckets at a time; O(rows).
 */
export async function exportCatalogue(db: SorterDatabase): Promise<Blob | null> {
  const editions = await editionsInUse(db);
  const own = await ownLayer(db);
  if (editions.length === 0 && !own) return null;
  const title = editions.length === 1 && !own ? (editions[0]?.title ?? '') : 'Catalogue of the shop';
  return packageOf('catalogue', title, [
    new MemoryLayer(await shippedKnowledge()),
    ...editions.map((edition) => new EditionReader(db, edition)),
    ...(own ? [own.layer] : []),
  ]);
}

/** The shop's own rows as a package that another shop can import: with the rows of other layers that they refer to. Null where there are none. */
export async function exportOwn(db: SorterDatabase, name: string): Promise<Blob | null> {
  const own = await ownLayer(db);
  if (!own) return null;
  const seen = await catalogueOf(db);
  return packageOf('learned', name, [new MemoryLayer(await withReferred(own.rows, seen))]);
}

/** Own rows, and whatever they name that is not the trade's knowledge, as far as it leads. O(rows). */
async function withReferred(own: Catalogue, seen: CatalogueReader): Promise<Catalogue> {
  const named = await seen.forMachine(
    null,
    [],
    unique([
      ...own.fits.map(({ partId }) => partId),
      ...own.relations.flatMap(({ fromPartId, toPartId }) => [fromPartId, toPartId]),
    ]),
  );
  const wanted = new Set<string>(own.fits.map(({ partId }) => partId));
  for (const { fromPartId, toPartId } of own.relations) wanted.add(fromPartId).add(toPartId);
  const models = await seen.models(unique(own.fits.flatMap(({ modelId }) => modelId ?? [])));
  const parts = named.parts.filter(({ id }) => wanted.has(id));
  const all = {
    ...own,
    models: layered('models', models, own.models),
    parts: layered('parts', parts, own.parts),
    part_properties: layered(
      'part_properties',
      named.part_properties.filter(({ partId }) => wanted.has(partId)),
      own.part_properties,
    ),
  };
  const ids = (values: Iterable<string | undefined>) => new Set([...values].filter((id) => id !== undefined));
  const platforms = ids(all.models.map(({ platformId }) => platformId));
  const badges = ids(all.models.map(({ badgeId }) => badgeId));
  const suppliers = ids(all.offers.map(({ supplierId }) => supplierId));
  const below = async <T extends 'platforms' | 'badges' | 'suppliers' | 'makers'>(
    table: T,
    wantedIds: ReadonlySet<string>,
  ): Promise<Row<T>[]> => {
    // The table names the type of its rows; TypeScript loses it on the way.
    const mine = all[table] as readonly Row<T>[];
    return layered(
      table,
      (await seen.table(table)).filter(({ id }) => wantedIds.has(id)),
      mine,
    );
  };
  const found = {
    platforms: await below('platforms', platforms),
    badges: await below('badges', badges),
    suppliers: await below('suppliers', suppliers),
  };
  const makers = ids([...all.models, ...all.parts, ...found.platforms, ...found.badges].map(({ makerId }) => makerId));
  return { ...all, ...found, makers: await below('makers', makers) };
}
