import { keyBy } from '../units';
import type { PlannedOperation } from './operation';
import type { WorkPlan } from './planWork';

/** What must be back before an operation goes back, beside what was taken off after it. */
export type RefitNeeds = (operationId: string) => readonly string[];

type Waits = ReadonlyMap<string, ReadonlySet<string>>;

/** Each once, after all that it waits for; `first` picks among those that are ready. O(operations²). */
function ordered(
  operations: readonly PlannedOperation[],
  waits: Waits,
  first: (ready: readonly PlannedOperation[]) => PlannedOperation | undefined,
): PlannedOperation[] {
  const left = new Set(operations.map(({ id }) => id));
  const order: PlannedOperation[] = [];
  while (left.size > 0) {
    const ready = operations.filter(
      ({ id }) => left.has(id) && ![...(waits.get(id) ?? [])].some((one) => left.has(one)),
    );
    const next = first(ready);
    if (!next) break;
    left.delete(next.id);
    order.push(next);
  }
  return order;
}

const turns = ({ posture }: PlannedOperation): boolean => posture !== undefined && posture !== 'upright';

/** Of each operation those of the others that it needs. */
function needsAmong(operations: readonly PlannedOperation[]): Map<string, Set<string>> {
  const planned = new Set(operations.map(({ id }) => id));
  return new Map(operations.map(({ id, needs }) => [id, new Set(needs.flat().filter((need) => planned.has(need)))]));
}

/** A way in with the machine turned as late as can be, so that what is done upright is done before: each operation once, after all that it needs. */
export const stripOrder = (operations: readonly PlannedOperation[]): PlannedOperation[] =>
  ordered(operations, needsAmong(operations), (ready) => ready.find((one) => !turns(one)) ?? ready[0]);

/** How many of the jobs need each operation on their way, by id; a job needs itself. O(operations²). */
export function jobsOnTheWay(operations: readonly PlannedOperation[]): ReadonlyMap<string, number> {
  const needs = needsAmong(operations);
  const jobs = new Map(operations.map(({ id }) => [id, 0]));
  for (const { id: job } of operations.filter(({ kind }) => kind === 'work')) {
    const way = new Set([job]);
    for (const id of way) for (const need of needs.get(id) ?? []) way.add(need);
    for (const id of way) jobs.set(id, (jobs.get(id) ?? 0) + 1);
  }
  return jobs;
}

export type RefusedOrder = { operationId: string; after: string };

/**
 * The order of putting back, a plan of its own: what was taken off after an operation is back before it, and so is what its `refitNeeds` name; the machine stands up again as
 * soon as it may; else the last off is the first on. `after`: what has to be back before each. A `refitNeeds` that contradicts the way in is left out and named in `refused`.
 * O(operations³).
 */
export function refitOrder(
  stripped: readonly PlannedOperation[],
  refitNeeds: RefitNeeds,
): { order: PlannedOperation[]; after: Waits; refused: RefusedOrder[] } {
  const after = new Map(stripped.map(({ id }): [string, Set<string>] => [id, new Set()]));
  for (const [later, needed] of needsAmong(stripped)) for (const need of needed) after.get(need)?.add(later);
  const reaches = (from: string, to: string, seen = new Set<string>()): boolean => {
    if (from === to) return true;
    if (seen.has(from)) return false;
    seen.add(from);
    return [...(after.get(from) ?? [])].some((next) => reaches(next, to, seen));
  };
  const refused: RefusedOrder[] = [];
  for (const { id } of stripped)
    for (const other of refitNeeds(id)) {
      if (!after.has(other) || other === id) continue;
      if (reaches(other, id)) refused.push({ operationId: id, after: other });
      else after.get(id)?.add(other);
    }
  const mirrored = [...stripped].reverse();
  return { order: ordered(mirrored, after, (ready) => ready.find(turns) ?? ready[0]), after, refused };
}

/** A plan laid out as it is worked. `refitAfter`: what has to be back before an operation goes back, by its id. */
export type OrderedPlan = WorkPlan & { refitAfter: Waits; refusedOrders: RefusedOrder[] };

/** The same steps and minutes in the order of a sheet: see `stripOrder` and `refitOrder`. O(operations³). */
export function inWorkingOrder(plan: WorkPlan, refitNeeds: RefitNeeds): OrderedPlan {
  const [down, back] = [keyBy(plan.strip, (step) => step.operationId), keyBy(plan.refit, (step) => step.operationId)];
  const access = plan.strip.flatMap(({ kind, operation }) => (kind === 'strip' ? [operation] : []));
  const strip = [
    ...stripOrder(access).flatMap(({ id }) => down.get(id) ?? []),
    ...plan.strip.filter(({ kind }) => kind === 'work'),
  ];
  const { order, after, refused } = refitOrder(
    strip.map(({ operation }) => operation),
    refitNeeds,
  );
  return {
    ...plan,
    strip,
    refit: order.flatMap(({ id }) => back.get(id) ?? []),
    refitAfter: after,
    refusedOrders: refused,
  };
}
