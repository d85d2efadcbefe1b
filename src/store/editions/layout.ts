import type { ModelId, PartId } from '@/core/units';
import { tableNames, type Row, type TableName } from '@/core/catalogue';

/** How an edition lies in the table of buckets. */
export const LARGE = ['models', 'parts', 'part_properties', 'fits', 'relations', 'offers'] as const;
export type Large = (typeof LARGE)[number];
export const isLarge = (table: TableName): table is Large => LARGE.some((name) => name === table);

/** Tables that are small and always wanted whole. */
export const SMALL_TABLES = tableNames.filter((name) => !isLarge(name));

/** A part that hangs together with others, and the name of their component. */
export type ComponentEntry = { partId: PartId; component: string };

/** In which buckets the rows of a large table lie: one copy per direction in which it is asked for. */
export const KINDS: Record<Large, readonly { kind: string; perBucket: number }[]> = {
  models: [
    { kind: 'models', perBucket: 100 },
    { kind: 'platformModels', perBucket: 200 },
  ],
  parts: [{ kind: 'parts', perBucket: 60 }],
  part_properties: [{ kind: 'part_properties', perBucket: 200 }],
  fits: [
    { kind: 'fits', perBucket: 800 },
    { kind: 'fitsByPart', perBucket: 400 },
  ],
  relations: [{ kind: 'relations', perBucket: 100 }],
  offers: [{ kind: 'offers', perBucket: 150 }],
};

/** What decides where a row lies, in every direction in which its table is asked for. */
export type Placing = { componentOf: (partId: PartId) => string; platformOf: (modelId: ModelId) => string };

/** The kinds of a large table's row with the key of each. */
export function placesOf(table: Large, row: Row<TableName>, { componentOf, platformOf }: Placing): [string, string][] {
  // The table names the row's type; TypeScript cannot follow that.
  switch (table) {
    case 'models': {
      const { id, platformId } = row as Row<'models'>;
      return [
        ['models', id],
        ['platformModels', platformId],
      ];
    }
    case 'fits': {
      const { platformId, modelId, partId } = row as Row<'fits'>;
      return [
        ['fits', platformId ?? (modelId ? platformOf(modelId) : '')],
        ['fitsByPart', componentOf(partId)],
      ];
    }
    case 'relations':
      return [[table, componentOf((row as Row<'relations'>).fromPartId)]];
    case 'parts':
      return [[table, componentOf((row as Row<'parts'>).id)]];
    case 'offers':
    case 'part_properties':
      return [[table, componentOf((row as Row<'offers'>).partId)]];
  }
}

/** The table whose rows a kind holds. */
export const TABLE_OF_KIND: ReadonlyMap<string, Large> = new Map(
  LARGE.flatMap((table) => KINDS[table].map(({ kind }) => [kind, table] as const)),
);

/** Rows of one bucket come in segments, written one after the other; a segment is part of the kind's name. */
export const segmentKind = (kind: string, segment: number): string => (segment === 0 ? kind : `${kind}+${segment}`);

/** Kinds that follow from the rows: not in a backup, made anew where they are missing. */
export const DERIVED = 'derived:';
export const derivedKinds = {
  /** A changed layout takes a new name: what an older build stored is then missing, and made anew. */
  modelIndex: `${DERIVED}modelIndex4`,
  lists: `${DERIVED}lists`,
  modelPages: `${DERIVED}modelPages`,
  partPages: `${DERIVED}partPages`,
  ledgers: `${DERIVED}ledgers`,
} as const;
