import type { Handling } from '../catalogue';
import { sameStep, type Step, type WorkPlan } from '../labour';

/** In what state the machine is by what is ticked. */
export type MachineNow = {
  power: 'on' | 'off';
  water: 'open' | 'shut';
  posture: 'upright' | 'leaning' | 'back' | 'face';
  /** What is off or open, in the order in which it came off. */
  off: { operationId: string; title: string }[];
  /** Of that, what takes the lock or the lid switch away with it: until it is back nothing may run. */
  interlocksOff: { operationId: string; title: string }[];
  /** What must hold it as it stands. */
  cautions: string[];
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
  const posture = last(({ posture: brought }) => brought, 'upright');
  return {
    power: last(({ power }) => power, 'on'),
    water: last(({ water }) => water, 'open'),
    posture,
    off: named,
    interlocksOff: named.filter(({ operationId }) => handling.get(operationId)?.interlock === 'yes'),
    cautions: off
      .filter(({ operation }) => operation.posture === posture && posture !== 'upright')
      .flatMap(({ operation }) => operation.cautions),
  };
}

/** What is never put back by itself (water that was drained) is over when everything else is back. */
const isClosed = (plan: WorkPlan, ticked: (step: Step) => boolean): boolean =>
  plan.refit.every(({ operationId }) => ticked({ phase: 'refit', operationId }));
