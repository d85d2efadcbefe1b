import { keyBy, sum, unique } from '../units';
import { chooseWay } from './chooseWay';
import type { PlannedOperation, Step } from './operation';

export type WorkModifiers = {
  /** Operations that are open already on this machine: no strip time, but refit is still owed. */
  done?: readonly string[];
  /** Learned or felt: multiplies all hands-on minutes (rust, scale, practice). Default 1. */
  timeFactor?: number;
  /** Minutes of a step and their spread (one standard deviation), by what this shop has measured; the list times the factor, without spread, where it is missing. */
  times?: (step: Step, listMinutes: number) => { minutes: number; sd: number };
  /** How much likelier than usual a rescue is needed (rust, scale, brittle plugs). Default 1. */
  rescueFactor?: number;
};

/** However bad the rust, now and then it comes. */
const SUREST_RESCUE = 0.95;

export type WorkStep = {
  operationId: string;
  title: string;
  minutes: number;
  kind: 'strip' | 'work' | 'refit';
  operation: PlannedOperation;
};

export type WorkPlan = {
  /** Strip-down and work in an order that can be worked; then refit, the other way round. A sheet is laid out by `inWorkingOrder`. */
  strip: WorkStep[];
  refit: WorkStep[];
  handsOnMinutes: number;
  /** Hands-on minutes if every rescue were needed with its chance: the mean, and the time that 9 in 10 jobs stay under. */
  expectedMinutes: number;
  ninetyPercentMinutes: number;
  /** What the goals would cost one by one, each with its own way in: what the union saves is the difference. */
  separateMinutes: number;
  /** Longest wait that runs beside other work (hours, not labour). */
  elapsedHours: number;
  tools: string[];
  /** Of the tools, those that the shop has not got. */
  lacking: string[];
  consumables: { id: string; quantity: number }[];
  people: number;
  /** Water comes out on the way. */
  wet: boolean;
  cautions: string[];
  pointsOfNoReturn: { operationId: string; what: string }[];
  provenShortest: boolean;
  opensTub: boolean;
  /** Goals that the platform's access graph does not reach. */
  unreachable: string[];
};

/**
 * Steps, time and needs of several jobs on one machine: the union of their ways in, each operation once.
 * Minutes ≥ 0; separateMinutes ≥ handsOnMinutes ≥ the longest single goal (when nothing is open yet). Exponential only in any-of choices, bounded.
 */
export function planWork(
  operations: readonly PlannedOperation[],
  goals: readonly string[],
  modifiers: WorkModifiers = {},
): WorkPlan {
  const factor = modifiers.timeFactor ?? 1;
  const done = new Set(modifiers.done ?? []);
  const wanted = unique(goals);
  const unreachable = wanted.filter((goal) => chooseWay(operations, [goal]) === null);
  const reachable = wanted.filter((goal) => !unreachable.includes(goal));
  const way = chooseWay(operations, reachable, done);
  const order = way?.order ?? [];
  const timed = modifiers.times ?? ((_: Step, listMinutes: number) => ({ minutes: listMinutes * factor, sd: 0 }));
  const stepsOf = (operation: PlannedOperation) => [
    ...(done.has(operation.id)
      ? []
      : [timed({ phase: phaseOf(operation), operationId: operation.id }, operation.stripMinutes)]),
    ...(operation.refitMinutes > 0
      ? [timed({ phase: 'refit', operationId: operation.id }, operation.refitMinutes)]
      : []),
  ];
  const minutes = (operation: PlannedOperation) => sum(stepsOf(operation).map((step) => step.minutes));
  const strip = [
    ...order.filter((operation) => operation.kind === 'access'),
    ...order.filter((operation) => operation.kind === 'work'),
  ].map((operation): WorkStep => ({
    operationId: operation.id,
    title: operation.title,
    minutes: done.has(operation.id)
      ? 0
      : timed({ phase: phaseOf(operation), operationId: operation.id }, operation.stripMinutes).minutes,
    kind: operation.kind === 'work' ? 'work' : 'strip',
    operation,
  }));
  const refit = strip
    .filter((step) => step.operation.refitMinutes > 0)
    .reverse()
    .map((step): WorkStep => ({
      ...step,
      title: step.operation.refitTitle ?? `Refit: ${step.title}`,
      minutes: timed({ phase: 'refit', operationId: step.operationId }, step.operation.refitMinutes).minutes,
      kind: 'refit',
    }));
  const handsOnMinutes = sum(order.map(minutes));
  const spread = Math.sqrt(sum(order.flatMap(stepsOf).map(({ sd }) => sd ** 2)));
  const likelier = modifiers.rescueFactor ?? 1;
  const pending = order
    .filter((operation) => !done.has(operation.id) && operation.rescueChance > 0)
    .map((operation) => ({ ...operation, rescueChance: Math.min(SUREST_RESCUE, operation.rescueChance * likelier) }));
  const rescueMean = sum(pending.map((operation) => operation.rescueChance * operation.rescueMinutes)) * factor;
  const separate = sum(reachable.map((goal) => sum((chooseWay(operations, [goal], done)?.order ?? []).map(minutes))));
  return {
    strip,
    refit,
    handsOnMinutes,
    expectedMinutes: handsOnMinutes + rescueMean,
    ninetyPercentMinutes: ninetyPercent(handsOnMinutes, spread, rescueMean, rescueQuantile(pending, 0.9) * factor),
    separateMinutes: separate,
    elapsedHours: Math.max(0, ...order.map((operation) => operation.elapsedHours)),
    tools: unique(order.flatMap((operation) => operation.tools)),
    lacking: unique(order.flatMap((operation) => operation.lacks ?? [])),
    consumables: mergeQuantities(order.flatMap((operation) => operation.consumables)),
    people: Math.max(1, ...order.map((operation) => operation.people)),
    wet: order.some((operation) => operation.wet === 'yes'),
    cautions: unique(order.flatMap((operation) => operation.cautions)),
    pointsOfNoReturn: order.flatMap((operation) =>
      operation.noReturn ? [{ operationId: operation.id, what: operation.noReturn }] : [],
    ),
    opensTub: order.some((operation) => operation.opensTub === 'yes'),
    // Where something cannot be reached, nothing is proven of the way to it.
    provenShortest: way !== null && way.provenShortest && unreachable.length === 0,
    unreachable,
  };
}

const phaseOf = ({ kind }: PlannedOperation): Step['phase'] => (kind === 'work' ? 'work' : 'strip');

/** Quantile of the standard normal distribution at nine in ten. */
const NINE_IN_TEN = 1.2816;

/** Rescues exactly; the spread of the steps, taken as normal, on top of it in squares. Never below the hands-on minutes with the rescues. */
function ninetyPercent(handsOn: number, spread: number, rescueMean: number, rescues: number): number {
  if (spread === 0) return handsOn + rescues;
  const above = Math.max(0, rescues - rescueMean);
  return Math.max(handsOn + rescues, handsOn + rescueMean + Math.hypot(above, NINE_IN_TEN * spread));
}

/** Smallest total of rescue minutes that is exceeded with at most 1 − q: exact, by convolution over the independent rescues. O(2^n) states merged by total. */
function rescueQuantile(operations: readonly PlannedOperation[], q: number): number {
  let totals = new Map<number, number>([[0, 1]]);
  for (const operation of operations) {
    const next = new Map<number, number>();
    for (const [minutes, p] of totals) {
      next.set(minutes, (next.get(minutes) ?? 0) + p * (1 - operation.rescueChance));
      const longer = minutes + operation.rescueMinutes;
      next.set(longer, (next.get(longer) ?? 0) + p * operation.rescueChance);
    }
    totals = next;
  }
  let mass = 0;
  for (const [minutes, p] of [...totals].sort((a, b) => a[0] - b[0])) {
    mass += p;
    if (mass >= q - 1e-12) return minutes;
  }
  return 0;
}

export function mergeQuantities(
  entries: readonly { id: string; quantity: number }[],
): { id: string; quantity: number }[] {
  const merged = keyBy<{ id: string; quantity: number }, string>([], (entry) => entry.id);
  for (const { id, quantity } of entries) merged.set(id, { id, quantity: (merged.get(id)?.quantity ?? 0) + quantity });
  return [...merged.values()];
}
