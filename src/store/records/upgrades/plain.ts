/** Rows as they lie in a table or a backup, before anything is known of them. An upgrade touches nothing else: no reducer, no schema of today. */
export type Plain = Record<string, unknown>;
export type PlainTables = Readonly<Record<string, readonly Plain[]>>;
/** What could not be carried over as it was: kept, said, never deleted. */
export type PutAside = { table: string; why: string; raw: unknown };
export type Upgraded = { tables: PlainTables; aside: readonly PutAside[] };

export const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const plain = (value: unknown): Plain => (isPlain(value) ? value : {});
export const list = (value: unknown): Plain[] => (Array.isArray(value) ? value.map(plain) : []);
export const text = (value: unknown, otherwise = ''): string => (typeof value === 'string' ? value : otherwise);
export const count = (value: unknown, otherwise = 1): number =>
  typeof value === 'number' && Number.isInteger(value) && value >= 1 ? value : otherwise;

/** Changes one table row by row. */
export const inTable = (tables: PlainTables, table: string, change: (row: Plain) => Plain): PlainTables => ({
  ...tables,
  [table]: (tables[table] ?? []).map(change),
});

/** Streams of a table of events, each in its order. */
export function streamsOf(events: readonly Plain[]): Map<string, Plain[]> {
  const streams = new Map<string, Plain[]>();
  for (const event of events)
    streams.set(text(event['stream']), [...(streams.get(text(event['stream'])) ?? []), event]);
  for (const stream of streams.values()) stream.sort((a, b) => Number(a['sequence']) - Number(b['sequence']));
  return streams;
}
