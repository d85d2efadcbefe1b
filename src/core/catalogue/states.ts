import { unique } from '../units';
import { AT_REST, STATE_FEATURES, type Operation, type StateChange } from './tables';

type Brought = { feature: (typeof STATE_FEATURES)[number]; to: StateChange['to'] };

/** The states other than that of a machine at rest to which an operation brings it. */
export const broughtTo = (operation: Partial<Pick<Operation, 'power' | 'water' | 'posture'>>): Brought[] =>
  STATE_FEATURES.flatMap((feature) => {
    const to = operation[feature];
    return to === undefined || to === AT_REST[feature] ? [] : [{ feature, to }];
  });

/**
 * An operation that brings the machine to a state: to its own minutes, people, support and cautions come those of the changes, there and back. One that brings it
 * to none stays as it is, and so does one whose changes nobody has listed. O(changes).
 */
export function withChanges(operation: Operation, changes: readonly StateChange[]): Operation {
  const brought = broughtTo(operation);
  if (brought.length === 0) return operation;
  const between = (feature: Brought['feature'], from: string, to: string) =>
    changes.filter((change) => change.feature === feature && change.from === from && change.to === to);
  const there = brought.flatMap(({ feature, to }) => between(feature, AT_REST[feature], to));
  const back = brought.flatMap(({ feature, to }) => between(feature, to, AT_REST[feature]));
  const minutes = (list: readonly StateChange[]) => list.reduce((sum, change) => sum + change.minutes, 0);
  const both = [...there, ...back];
  return {
    ...operation,
    stripMinutes: operation.stripMinutes + minutes(there),
    refitMinutes: operation.refitMinutes + minutes(back),
    people: Math.max(operation.people, ...both.map(({ people }) => people)),
    tools: unique([...operation.tools, ...there.flatMap(({ support }) => support)]),
    cautions: unique([...operation.cautions, ...both.flatMap(({ cautions }) => cautions)]),
  };
}
