import type { Handling } from '../catalogue';
import { sameStep, type PlannedOperation, type Step, type WorkPlan } from '../labour';

/** In what state the machine is by what is ticked. */
export type MachineNow = {
  power: NonNullable<PlannedOperation['power']>;
  water: NonNullable<PlannedOperation['water']>;
  posture: NonNullable<PlannedOperation['posture']>;
  /** What is off or open, in the order in which it came off. */
  off: { operationId: string; title: string }[];
  /** Of that, what takes the lock or the lid switch away with it: until it is back nothing may run. */
  interlocksOff: { operationId: string; title: string }[];
};

/** Follows the ticks: what is stripped and not put back is off, and with it goes the state to which it brings the machine. O(steps × ticks). */
export function machineNow(
  plan: WorkPlan,
  ticks: readonly { step: Step }[],
  handling: ReadonlyMap<string, Pick<Handling, 'interlock'>>,
): MachineNow {
  const ticked = (step: Step) => ticks.some((tick) => sameStep(tick.step, step));
  const off = plan.strip.filter(
    ({ kind, operationId, operation }) =>
      kind === 'strip' &&
      ticked({ phase: 'strip', operationId }) &&
      !(operation.refitMinutes > 0 ? ticked({ phase: 'refit', operationId }) : isClosed(plan, ticked)),
  );
  const last = <T>(of: (operation: (typeof off)[number]['operation']) => T | undefined, rest: T): T =>
    off.map(({ operation }) => of(operation)).findLast((value) => value !== undefined) ?? rest;
  const named = off.map(({ operationId, title }) => ({ operationId, title }));
  return {
    power: last(({ power }) => power, 'on'),
    water: last(({ water }) => water, 'open'),
    posture: last(({ posture }) => posture, 'upright'),
    off: named,
    interlocksOff: named.filter(({ operationId }) => handling.get(operationId)?.interlock === 'yes'),
  };
}

/** What is never put back by itself (water that was drained) is over when everything else is back. */
const isClosed = (plan: WorkPlan, ticked: (step: Step) => boolean): boolean =>
  plan.refit.every(({ operationId }) => ticked({ phase: 'refit', operationId }));
