import { inTable, isPlain, type PlainTables, type Upgraded } from './plain';

const OWN = /^(unlisted|typed):(.+)$/s;

/** As numbers were compared when this was written: without case and separators. */
const bare = (text: string): string =>
  text
    .toUpperCase()
    .normalize('NFKD')
    .replace(/[^A-Z0-9?]/g, '') || text.trim().toUpperCase();

function renamed(value: unknown): unknown {
  if (typeof value === 'string') {
    const [, kind, rest] = OWN.exec(value) ?? [];
    return kind === undefined || rest === undefined ? value : `${kind}:${bare(rest).slice(0, 150)}`;
  }
  if (Array.isArray(value)) return value.map(renamed);
  return isPlain(value)
    ? Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, idIn(key, inner)]))
    : value;
}

/** Only what names a machine or a part: what somebody wrote stays as it was written. */
const idIn = (key: string, value: unknown): unknown =>
  typeof value === 'string' && key !== 'modelId' && key !== 'partId' ? value : renamed(value);

/** Machines and parts that no catalogue lists are named by their bare number: the same number is the same thing however it was written. */
export const ownIdsAreBare = (tables: PlainTables): Upgraded => ({
  aside: [],
  tables: inTable(tables, 'events', (event) => ({ ...event, data: renamed(event['data']) })),
});
