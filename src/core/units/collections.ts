export function groupBy<T, K>(items: Iterable<T>, key: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const at = key(item);
    const group = groups.get(at);
    if (group) group.push(item);
    else groups.set(at, [item]);
  }
  return groups;
}

/**
 * An index of a list that nobody changes: made once per list, for as long as the list lives. For the tables of a catalogue, which are asked
 * again and again. O(n) the first time.
 */
export function indexOnce<T, K>(key: (item: T) => K): (items: readonly T[]) => ReadonlyMap<K, T[]> {
  const made = new WeakMap<readonly T[], Map<K, T[]>>();
  return (items) => {
    const known = made.get(items) ?? groupBy(items, key);
    made.set(items, known);
    return known;
  };
}

export const keyBy = <T, K>(items: Iterable<T>, key: (item: T) => K): Map<K, T> => {
  const map = new Map<K, T>();
  for (const item of items) map.set(key(item), item);
  return map;
};

export const unique = <T>(items: Iterable<T>): T[] => [...new Set(items)];
export const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

/** JSON with keys in a fixed order, so that the same value gives the same bytes. */
export function stableJson(value: unknown): string {
  return JSON.stringify(value, (_key, inner: unknown) =>
    inner !== null && typeof inner === 'object' && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)))
      : inner,
  );
}
