import { tableNames, type Model, type Part, type Row, type TableName } from '@/core/catalogue';
import { buildModelIndex, buildNumberList, type ModelIndex, type NumberList } from '@/core/identify';
import { keyBy, type Ledger } from '@/core/units';
import type { BucketRecord } from './database';

/** Kinds that follow from the rows: not in a backup, made anew where they are missing. */
export const DERIVED = 'derived:';
export const derivedKinds = {
  modelIndex: `${DERIVED}modelIndex`,
  lists: `${DERIVED}lists`,
  modelPages: `${DERIVED}modelPages`,
  partPages: `${DERIVED}partPages`,
  ledgers: `${DERIVED}ledgers`,
} as const;

/** Rows of a page of the browser's lists. */
export const PAGE = 200;

export type Badges = readonly Row<'badges'>[];
export type SearchIndexes = { models: ModelIndex; modelList: NumberList; partList: NumberList };
export type SearchRows = { models: readonly Model[]; parts: readonly Part[]; badges: Badges };

function pages<T>(edition: string, kind: string, rows: readonly T[], order: Int32Array): BucketRecord[] {
  const records: BucketRecord[] = [];
  for (let from = 0; from < order.length; from += PAGE)
    records.push({
      edition,
      kind,
      bucket: from / PAGE,
      rows: Array.from(order.subarray(from, from + PAGE), (at) => rows[at]),
    });
  return records;
}

/** What searching needs, stored with the edition as typed arrays, so that no page ever builds it. O(n log n) in models and parts. */
export function derivedBuckets(
  edition: string,
  { models, parts, badges }: SearchRows,
  ledgers: ReadonlyMap<TableName, Ledger>,
): BucketRecord[] {
  const badgeName = keyBy(badges, (badge) => badge.id);
  const modelList = buildNumberList(
    models.map((model) => ({
      number: model.modelNumber,
      words: `${badgeName.get(model.badgeId)?.name ?? ''} ${model.capacityKg} kg ${model.spinRpm} rpm`,
    })),
  );
  const partList = buildNumberList(parts.map((part) => ({ number: part.partNumber, words: part.description })));
  return [
    { edition, kind: derivedKinds.modelIndex, bucket: 0, rows: [buildModelIndex(models)] },
    { edition, kind: derivedKinds.lists, bucket: 0, rows: [modelList.list] },
    { edition, kind: derivedKinds.lists, bucket: 1, rows: [partList.list] },
    ...pages(edition, derivedKinds.modelPages, models, modelList.order),
    ...pages(edition, derivedKinds.partPages, parts, partList.order),
    ...tableNames.flatMap((table, bucket): BucketRecord[] => {
      const ledger = ledgers.get(table);
      return ledger ? [{ edition, kind: derivedKinds.ledgers, bucket, rows: [ledger] }] : [];
    }),
  ];
}
