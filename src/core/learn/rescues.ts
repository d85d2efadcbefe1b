/** One strip step that was done: whether it needed its rescue. */
export type TriedStep = { operationId: string; rescued: boolean };

/** Steps done and rescues needed, by operation. */
export type RescueCounts = Record<string, { tried: number; rescued: number }>;

/** Adds a ticket's steps to the counts, in place. */
export function addRescues(counts: RescueCounts, steps: readonly TriedStep[]): void {
  for (const { operationId, rescued } of steps) {
    const known = (counts[operationId] ??= { tried: 0, rescued: 0 });
    known.tried += 1;
    if (rescued) known.rescued += 1;
  }
}

/** Weight of the list's chance, in steps: after this many of its own both count the same. */
const PRIOR_STEPS = 20;

/**
 * Chance that a step will not come by itself: the mean of a Beta distribution around the list's chance, with what this shop has seen. Over machines of all conditions: the
 * condition of the one on the bench comes on top. Converges to the shop's own share. 0 where the list has none. O(1).
 */
export function rescueChance(counts: RescueCounts, operationId: string, listChance: number): number {
  const own = counts[operationId];
  if (!own || listChance <= 0) return listChance;
  return (PRIOR_STEPS * listChance + own.rescued) / (PRIOR_STEPS + own.tried);
}
