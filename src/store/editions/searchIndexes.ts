import { tableNames, type Catalogue, type Row, type TableName } from '@/core/catalogue';
import { buildModelIndex, buildNumberList, type ModelIndex, type NumberList } from '@/core/identify';
import { keyBy } from '@/core/units';
import { type Ledger } from '@/core/package';
import type { BucketRecord, SorterDatabase } from '../database';
import { putBuckets } from './layers';
import { derivedKinds } from './layout';
import { packRows } from './packedRows';

/** Rows of a page of the browser's lists. */
export const PAGE = 200;

export type SearchIndexes = { models: ModelIndex; modelList: NumberList; partList: NumberList };

/** What building needs of an edition: its tables, whole. */
export type TableSource = { edition: { id: string }; table<T extends TableName>(name: T): Promise<readonly Row<T>[]> };

function pages(
  edition: string,
  kind: string,
  rows: readonly Row<'models' | 'parts'>[],
  order: Int32Array,
): BucketRecord[] {
  const records: BucketRecord[] = [];
  for (let from = 0; from < order.length; from += PAGE)
    records.push({
      edition,
      kind,
      bucket: from / PAGE,
      packed: packRows(
        kind,
        Array.from(order.subarray(from, from + PAGE)).flatMap((index) => rows[index] ?? []),
      ),
    });
  return records;
}

type Listed = { list: NumberList; order: Int32Array };

function listModels(models: readonly Row<'models'>[], badges: ReadonlyMap<string, Row<'badges'>>): Listed {
  return buildNumberList(
    models.map((model) => ({
      number: model.modelNumber,
      words: `${badges.get(model.badgeId)?.name ?? ''} ${model.capacityKg} kg ${model.spinRpm} rpm`,
    })),
  );
}

const listParts = (parts: readonly Row<'parts'>[]): Listed =>
  buildNumberList(parts.map((part) => ({ number: part.partNumber, words: part.description })));

/** The same for a layer that is held in memory. O(n log n). */
export function indexesOf(
  catalogue: Pick<Catalogue, 'models' | 'parts' | 'badges'>,
): SearchIndexes & { modelOrder: Int32Array; partOrder: Int32Array } {
  const models = listModels(
    catalogue.models,
    keyBy(catalogue.badges, (badge) => badge.id),
  );
  const parts = listParts(catalogue.parts);
  return {
    models: buildModelIndex(catalogue.models),
    modelList: models.list,
    partList: parts.list,
    modelOrder: models.order,
    partOrder: parts.order,
  };
}

/**
 * Makes what searching needs and stores it with the edition as typed arrays, so that no page ever builds it. Models first, then parts: only one of
 * them is in memory at a time. O(n log n).
 */
export async function writeIndexes(db: SorterDatabase, source: TableSource): Promise<void> {
  const edition = source.edition.id;
  const put = (records: BucketRecord[]) => putBuckets(db, edition, records);
  const badges = keyBy(await source.table('badges'), (badge) => badge.id);
  const ofModels = async () => {
    const models = await source.table('models');
    await put([{ edition, kind: derivedKinds.modelIndex, bucket: 0, rows: [buildModelIndex(models)] }]);
    const { list, order } = listModels(models, badges);
    await put([{ edition, kind: derivedKinds.lists, bucket: 0, rows: [list] }]);
    await put(pages(edition, derivedKinds.modelPages, models, order));
  };
  const ofParts = async () => {
    const parts = await source.table('parts');
    const { list, order } = listParts(parts);
    await put([{ edition, kind: derivedKinds.lists, bucket: 1, rows: [list] }]);
    await put(pages(edition, derivedKinds.partPages, parts, order));
  };
  await ofModels();
  await ofParts();
}

/** What each table held, to compare the next edition with. */
export const ledgerBuckets = (edition: string, ledgers: ReadonlyMap<TableName, Ledger>): BucketRecord[] =>
  tableNames.flatMap((table, bucket): BucketRecord[] => {
    const ledger = ledgers.get(table);
    return ledger ? [{ edition, kind: derivedKinds.ledgers, bucket, rows: [ledger] }] : [];
  });
