import type { PartId } from '@/core/units';
import { tableNames, type TableName } from '@/core/catalogue';

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

/** Rows of one bucket come in segments, written one after the other; a segment is part of the kind's name. */
export const segmentKind = (kind: string, segment: number): string => (segment === 0 ? kind : `${kind}+${segment}`);

/** Kinds that follow from the rows: not in a backup, made anew where they are missing. */
export const DERIVED = 'derived:';
export const derivedKinds = {
  /** A changed layout takes a new name: what an older build stored is then missing, and made anew. */
  modelIndex: `${DERIVED}modelIndex2`,
  lists: `${DERIVED}lists`,
  modelPages: `${DERIVED}modelPages`,
  partPages: `${DERIVED}partPages`,
  ledgers: `${DERIVED}ledgers`,
} as const;
