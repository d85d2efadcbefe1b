import type { PlannedOperation } from './operation';

/** What must be back before an operation goes back, beside what was taken off after it. */
export type RefitNeeds = (operationId: string) => readonly string[];

/** Of the ready ones the first that does not turn the machine, else the first; takes each when all that it waits for are done. O(operations²). */
function ordered(
  operations: readonly PlannedOperation[],
  waitsFor: ReadonlyMap<string, ReadonlySet<string>>,
  first: (ready: readonly PlannedOperation[]) => PlannedOperation | undefined,
): PlannedOperation[] {
  const left = new Set(operations.map(({ id }) => id));
  const order: PlannedOperation[] = [];
  while (left.size > 0) {
    const ready = operations.filter(
      ({ id }) => left.has(id) && ![...(waitsFor.get(id) ?? [])].some((other) => left.has(other)),
    );
    const next = first(ready);
    if (!next) break;
    left.delete(next.id);
    order.push(next);
  }
  return order;
}

const turns = ({ posture }: PlannedOperation): boolean => posture !== undefined && posture !== 'upright';

/** Which of the planned operations each one had to wait for on the way in. */
function neededBy(operations: readonly PlannedOperation[]): Map<string, Set<string>> {
  const planned = new Set(operations.map(({ id }) => id));
  return new Map(operations.map(({ id, needs }) => [id, new Set(needs.flat().filter((need) => planned.has(need)))]));
}

/** A way in with the machine turned as late as can be, so that what is done upright is done before: each operation once, after all that it needs. */
export const stripOrder = (operations: readonly PlannedOperation[]): PlannedOperation[] =>
  ordered(operations, neededBy(operations), (ready) => ready.find((one) => !turns(one)) ?? ready[0]);

/**
 * The order of putting back, a plan of its own: what was taken off after an operation is back before it, and so is what its `refitNeeds` name; the machine stands up again as
 * soon as it may; else the last off is the first on. A `refitNeeds` that contradicts the way in is left out and named in `refused`. O(operations³).
 */
export function refitOrder(
  stripped: readonly PlannedOperation[],
  refitNeeds: RefitNeeds,
): { order: PlannedOperation[]; refused: { operationId: string; after: string }[] } {
  const waits = new Map(stripped.map(({ id }): [string, Set<string>] => [id, new Set()]));
  for (const [later, needed] of neededBy(stripped)) for (const need of needed) waits.get(need)?.add(later);
  const reaches = (from: string, to: string, seen = new Set<string>()): boolean => {
    if (from === to) return true;
    if (seen.has(from)) return false;
    seen.add(from);
    return [...(waits.get(from) ?? [])].some((next) => reaches(next, to, seen));
  };
  const refused: { operationId: string; after: string }[] = [];
  for (const { id } of stripped)
    for (const after of refitNeeds(id)) {
      if (!waits.has(after) || after === id) continue;
      if (reaches(after, id)) refused.push({ operationId: id, after });
      else waits.get(id)?.add(after);
    }
  const mirrored = [...stripped].reverse();
  return { order: ordered(mirrored, waits, (ready) => ready.find(turns) ?? ready[0]), refused };
}
