import { keyBy } from '../units';
import type { PlannedOperation } from './operation';

export type Way = {
  /** In an order in which they can be done: what is needed first comes first. */
  order: PlannedOperation[];
  /** False when the search was cut off and a shorter way may exist. */
  provenShortest: boolean;
};

/** Nodes of the search; the ways into a washer have a few hundred. */
const MAX_NODES = 20_000;

/** What it takes to borrow a tool: it decides between ways, and is no labour of the job. */
const BORROW_MINUTES = 45;

const minutesOf = (operation: PlannedOperation) =>
  operation.stripMinutes + operation.refitMinutes + BORROW_MINUTES * (operation.lacks?.length ?? 0);

/**
 * The set of operations with the fewest hands-on minutes that reaches all goals: an AND–OR graph with shared nodes. Branch and bound over the
 * any-of choices; exact within 20,000 nodes. A tool that has to be borrowed counts like a long way. A goal is an operation or a choice of several. Operations in `done` cost nothing more. null when a goal cannot be reached.
 */
export function chooseWay(
  operations: readonly PlannedOperation[],
  goals: readonly (string | readonly string[])[],
  done: ReadonlySet<string> = new Set(),
): Way | null {
  const byId = keyBy(operations, (operation) => operation.id);
  /** Ways found so far, each shorter than the one before. */
  const orders: PlannedOperation[][] = [];
  let bestMinutes = Infinity;
  let nodes = 0;

  const visit = (chosen: Set<string>, open: readonly (readonly string[])[], minutes: number): void => {
    nodes += 1;
    if (nodes > MAX_NODES || minutes >= bestMinutes) return;
    const index = open.findIndex((group) => !group.some((id) => chosen.has(id)));
    const group = open[index];
    if (!group) {
      const order = sorted(chosen, byId);
      if (order) {
        orders.push(order);
        bestMinutes = minutes;
      }
      return;
    }
    const rest = open.slice(index + 1);
    const ways = group
      .map((id) => byId.get(id))
      .filter((operation) => operation !== undefined)
      .map((operation) => ({ operation, minutes: done.has(operation.id) ? 0 : minutesOf(operation) }))
      .sort((a, b) => a.minutes - b.minutes);
    for (const way of ways)
      visit(new Set(chosen).add(way.operation.id), [...way.operation.needs, ...rest], minutes + way.minutes);
  };

  visit(
    new Set(),
    goals.map((goal) => (typeof goal === 'string' ? [goal] : goal)),
    0,
  );
  return orders.length === 0 ? null : { order: orders.at(-1) ?? [], provenShortest: nodes <= MAX_NODES };
}

/** Topological order (depth first, needs before the operation that needs them); null when the choice runs in a circle. */
function sorted(chosen: ReadonlySet<string>, byId: ReadonlyMap<string, PlannedOperation>): PlannedOperation[] | null {
  const state = new Map<string, 'open' | 'done'>();
  const order: PlannedOperation[] = [];
  const visit = (id: string): boolean => {
    if (state.get(id) === 'done') return true;
    if (state.get(id) === 'open') return false;
    state.set(id, 'open');
    const operation = byId.get(id);
    if (!operation) return false;
    for (const group of operation.needs) for (const need of group) if (chosen.has(need) && !visit(need)) return false;
    state.set(id, 'done');
    order.push(operation);
    return true;
  };
  for (const id of chosen) if (!visit(id)) return null;
  return order;
}
