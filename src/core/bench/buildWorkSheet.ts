import type { Handling, Joint, Platform, Role } from '../catalogue';
import {
  jobsOnTheWay,
  mergeQuantities,
  sameStep,
  type PlannedOperation,
  type OrderedPlan,
  type RefitNeeds,
  type Step,
  type WorkStep,
} from '../labour';
import { sum, type Instant, type RoleId } from '../units';
import { machineNow, type MachineNow } from './machineNow';
import { screwsOf, type Screws } from './screws';

/** What the bench needs to know of a ticket. */
export type BenchState = {
  ticks: readonly { step: Step; at: Instant; by?: string }[];
  remarks?: readonly { step: Step; text: string; by: string }[];
  photographs?: readonly { photoId: string; step: Step; text: string }[];
  pieces?: readonly { piece: number; text: string; step: Step; photoId: string | null; home: boolean }[];
  swaps?: readonly { roleId: RoleId; text: string }[];
  rescues?: readonly { operationId: string; minutes: number }[];
  count?: { missing: readonly string[] } | null;
};

/** How the machine's operations are done by hand, and what has to be done with which part. */
export type Manual = {
  handling: ReadonlyMap<string, Handling>;
  joints: ReadonlyMap<string, Joint>;
  /** Roles that are swapped by an operation. */
  swapped: (operationId: string) => readonly Role[];
};

/** What a point of no return asks for; and whether a joint cures at this moment. */
export type Beforehand = { partsHere: boolean; yes: boolean; curing: boolean };

export type StepBar =
  | { kind: 'not-isolated' }
  | { kind: 'not-off' }
  | { kind: 'curing' }
  | { kind: 'no-way-back'; lacking: ('parts' | 'yes')[] }
  | { kind: 'goes-back-after'; titles: string[] }
  /** It closes the machine: what was used and taken off is counted first, and all of it is home. */
  | { kind: 'count-first' }
  | { kind: 'not-home'; missing: string[]; pieces: number[] };

export type Rescue = {
  when: string | null;
  what: string;
  risk: string | null;
  /** P(it is needed), as the list says, and P(it then helps). */
  chance: number;
  helps: number | null;
  minutes: number;
  chosen: boolean;
};

/** Something to do at the swap, before the old part is thrown away. */
export type SwapTask = {
  kind: 'prepare' | 'carry-over' | 'compare' | 'keep';
  roleId: RoleId;
  roleName: string;
  text: string;
  /** How it is noted when it is done. */
  key: string;
  done: boolean;
};

export type SheetStep = {
  step: Step;
  /** How many of the sheet's jobs need it on their way. */
  jobs: number;
  title: string;
  minutes: number;
  cautions: readonly string[];
  tools: readonly string[];
  people: number;
  noReturn: string | null;
  rescue: Rescue | null;
  tickedAt: Instant | null;
  by: string;
  /** Hours for which nothing may load the joint once this is ticked; 0 for most. */
  waitHours: number;
  how: string | null;
  /** To be off before it comes away; on the way back, to be on before it closes. */
  connections: readonly string[];
  screws: readonly Screws[];
  leaveAlone: string | null;
  look: string | null;
  pose: string | null;
  tightness: string | null;
  help: string | null;
  joint: Joint | null;
  barred: StepBar | null;
  remark: { text: string; by: string } | null;
  /** On the way back also those of the way in. */
  photographs: readonly { photoId: string; text: string }[];
  /** Set aside at this operation, and not home yet or home again. */
  pieces: readonly { piece: number; text: string; photoId: string | null; home: boolean }[];
  swap: readonly SwapTask[];
};

export type SheetSection = { kind: 'strip' | 'work' | 'refit'; steps: SheetStep[] };

export type WorkSheet = {
  platformName: string;
  sections: SheetSection[];
  cautions: string[];
  tools: string[];
  consumables: { id: string; quantity: number }[];
  people: number;
  done: number;
  total: number;
  /** First step not ticked; null when all are done. */
  next: Step | null;
  remainingMinutes: number;
  now: MachineNow;
  /** Taken off so far and not put back yet, by the ticks. */
  off: { screws: number; connections: number; pieces: number };
  /** Before the machine is closed; null where no step closes it with screws. */
  count: HomeCount | null;
};

export type HomeCount = {
  /** The step that closes it. */
  closing: Step;
  /** What is counted: tools that are not needed any more then, by name; screws and connections under these words. */
  items: string[];
  /** Screws that the closing step itself takes. */
  screwsLeft: number;
  /** Pieces without a name that belong elsewhere, and are not home. */
  pieces: number[];
  /** Nothing else stands against closing it, and it is not closed yet. */
  isDue: boolean;
  missing: readonly string[] | null;
};

/** What is counted beside the tools. */
export type CountedBeside = 'screws' | 'connections';
const BESIDE: readonly CountedBeside[] = ['screws', 'connections'];

const NOTHING: Manual = { handling: new Map(), joints: new Map(), swapped: () => [] };
const EVERYTHING: Beforehand = { partsHere: true, yes: true, curing: false };

/** What is asked of every step of a sheet. */
type Sheet = {
  plan: OrderedPlan;
  state: BenchState;
  manual: Manual;
  before: Beforehand;
  now: MachineNow;
  /** The last step back that has screws: it closes the machine. */
  closing: WorkStep | null;
  jobs: ReadonlyMap<string, number>;
  count: HomeCount | null;
};

const screwsIn = ({ handling }: Manual, operationId: string): number =>
  sum((handling.get(operationId)?.screws ?? []).map((text) => screwsOf(text).count));

const isTicked = ({ ticks }: BenchState, step: Step): boolean => ticks.some((tick) => sameStep(tick.step, step));

/** Why a step may not be done in the state in which the machine is. */
function barOf({ kind, operationId, operation }: WorkStep, sheet: Sheet): StepBar | null {
  const { plan, state, now, before, closing, count } = sheet;
  const ticked = (phase: Step['phase'], id: string) => isTicked(state, { phase, operationId: id });
  const isolates = plan.strip.some(({ operation: { power } }) => power === 'off');
  const live = isolates && now.power === 'on' && operation.power !== 'off' ? { kind: 'not-isolated' as const } : null;
  if (kind !== 'refit') {
    const lacking = [...(before.partsHere ? [] : ['parts' as const]), ...(before.yes ? [] : ['yes' as const])];
    return live ?? (operation.noReturn && lacking.length ? { kind: 'no-way-back', lacking } : null);
  }
  const isClosing = closing?.operationId === operationId;
  // It is closed, and plugged in, when nothing is left to take off or to do.
  const left =
    isClosing || operation.power === 'off' ? plan.strip.filter((step) => !ticked(step.kind, step.operationId)) : [];
  // What closes it waits for all that is sorted before it: else the count would not be the last.
  const waitsFor = isClosing
    ? plan.refit.slice(0, plan.refit.indexOf(closing))
    : plan.refit.filter((step) => plan.refitAfter.get(operationId)?.has(step.operationId));
  const first = [...left, ...waitsFor.filter((step) => !ticked('refit', step.operationId))];
  if (first.length) return { kind: 'goes-back-after', titles: first.map(({ title }) => title) };
  if (operation.kind === 'access' && !ticked('strip', operationId)) return { kind: 'not-off' };
  if (count?.closing.operationId === operationId && !live) {
    if (count.missing === null) return { kind: 'count-first' };
    if (count.missing.length || count.pieces.length)
      return { kind: 'not-home', missing: [...count.missing], pieces: count.pieces };
  }
  // Its way back opens the tap.
  return live ?? (before.curing && operation.water === 'shut' ? { kind: 'curing' } : null);
}

/** What a part asks for when it is swapped: of the new one, of the old one, and that both are looked at side by side. */
const swapTasks = (roles: readonly Role[], done: BenchState['swaps'] = []): SwapTask[] =>
  roles.flatMap(({ id: roleId, name: roleName, prepare, carryOver }) => {
    const task = (kind: SwapTask['kind'], text: string): SwapTask => {
      const key = `${kind}: ${text}`;
      return { kind, roleId, roleName, text, key, done: done.some((one) => one.roleId === roleId && one.text === key) };
    };
    return [
      ...prepare.map((text) => task('prepare', text)),
      task('compare', ''),
      ...carryOver.map((text) => task('carry-over', text)),
      ...(carryOver.length ? [task('keep', '')] : []),
    ];
  });

/** Before the machine is closed the bench is counted empty. O(steps). */
function countOf(sheet: Omit<Sheet, 'count'>): HomeCount | null {
  const { plan, state, manual, closing } = sheet;
  if (!closing) return null;
  const { operationId } = closing;
  const step: Step = { phase: 'refit', operationId };
  const later = new Set(plan.refit.slice(plan.refit.indexOf(closing)).flatMap(({ operation }) => operation.tools));
  return {
    closing: step,
    items: [...plan.tools.filter((tool) => !later.has(tool)), ...BESIDE],
    screwsLeft: screwsIn(manual, operationId),
    pieces: (state.pieces ?? [])
      .filter((one) => !one.home && one.step.operationId !== operationId)
      .map(({ piece }) => piece),
    isDue: !isTicked(state, step) && barOf(closing, { ...sheet, count: null }) === null,
    missing: state.count?.missing ?? null,
  };
}

function rescueOf(
  { id, rescue, rescueChance, rescueMinutes }: PlannedOperation,
  manual: Manual,
  state: BenchState,
): Rescue | null {
  if (!rescue) return null;
  const more = manual.handling.get(id);
  return {
    what: rescue,
    when: more?.rescueWhen ?? null,
    risk: more?.rescueRisk ?? null,
    chance: rescueChance,
    helps: more?.rescueHelps ?? null,
    minutes: rescueMinutes,
    chosen: state.rescues?.some(({ operationId }) => operationId === id) ?? false,
  };
}

function toStep(work: WorkStep, sheet: Sheet): SheetStep {
  const { state, manual } = sheet;
  const { kind: phase, operationId, operation, title, minutes } = work;
  const step: Step = { phase, operationId };
  const isRefit = phase === 'refit';
  const own = manual.handling.get(operationId);
  const rescue = isRefit ? null : rescueOf(operation, manual, state);
  const chosen = rescue?.chosen ? (state.rescues?.find((one) => one.operationId === operationId)?.minutes ?? 0) : 0;
  const tick = state.ticks.find((one) => sameStep(one.step, step));
  const here = ({ step: of }: { step: Step }) => of.operationId === operationId && (isRefit || of.phase !== 'refit');
  const isFitted = isRefit || phase === 'work';
  // It waits from the moment at which it is closed again; what is not put back waits when it is done.
  const closes = isRefit || operation.refitMinutes === 0;
  return {
    step,
    jobs: sheet.jobs.get(operationId) ?? 0,
    title,
    minutes: minutes + chosen,
    cautions: isRefit ? (own?.refitCautions ?? []) : operation.cautions,
    tools: operation.tools,
    people: operation.people,
    noReturn: isRefit ? null : (operation.noReturn ?? null),
    rescue,
    tickedAt: tick?.at ?? null,
    by: tick?.by ?? '',
    waitHours: closes ? operation.elapsedHours : 0,
    how: isRefit ? null : (own?.how ?? null),
    connections: own?.connections ?? [],
    screws: (own?.screws ?? []).map(screwsOf),
    leaveAlone: isRefit ? null : (own?.leaveAlone ?? null),
    look: isRefit ? null : (own?.look ?? null),
    pose: isFitted ? (own?.pose ?? null) : null,
    tightness: isFitted ? (own?.tightness ?? null) : null,
    help: isFitted ? (own?.help ?? null) : null,
    joint: closes ? (manual.joints.get(operationId) ?? null) : null,
    barred: tick ? null : barOf(work, sheet),
    remark: state.remarks?.find((one) => sameStep(one.step, step)) ?? null,
    photographs: (state.photographs ?? []).filter(here),
    pieces: (state.pieces ?? []).filter(here),
    swap: phase === 'work' ? swapTasks(manual.swapped(operationId), state.swaps) : [],
  };
}

/**
 * The work sheet of one machine: strip, work, refit, with what is ticked, what may not be done yet and what must wait. Without a manual each step is its title and its minutes.
 * O(steps²).
 */
export function buildWorkSheet(
  plan: OrderedPlan,
  platform: Platform,
  state: BenchState,
  manual: Manual = NOTHING,
  before: Beforehand = EVERYTHING,
): WorkSheet {
  const now = machineNow(plan, state.ticks, manual.handling);
  const closing = plan.refit.findLast(({ operationId }) => screwsIn(manual, operationId) > 0) ?? null;
  const jobs = jobsOnTheWay(plan.strip.map(({ operation }) => operation));
  const sheet = { plan, state, manual, before, now, closing, jobs };
  const count = countOf(sheet);
  const of = (work: WorkStep) => toStep(work, { ...sheet, count });
  const sections: SheetSection[] = [
    { kind: 'strip', steps: plan.strip.filter((step) => step.kind === 'strip').map(of) },
    { kind: 'work', steps: plan.strip.filter((step) => step.kind === 'work').map(of) },
    { kind: 'refit', steps: plan.refit.map(of) },
  ];
  const steps = sections.flatMap((section) => section.steps);
  const open = steps.filter((step) => step.tickedAt === null);
  const off = now.off.map(({ operationId }) => manual.handling.get(operationId));
  return {
    platformName: platform.name,
    sections,
    cautions: plan.cautions,
    tools: plan.tools,
    consumables: mergeQuantities(plan.consumables),
    people: plan.people,
    done: steps.length - open.length,
    total: steps.length,
    next: open[0]?.step ?? null,
    remainingMinutes: sum(open.map((step) => step.minutes)),
    now,
    off: {
      screws: sum(now.off.map(({ operationId }) => screwsIn(manual, operationId))),
      connections: sum(off.map((one) => one?.connections.length ?? 0)),
      pieces: (state.pieces ?? []).filter(({ home }) => !home).length,
    },
    count,
  };
}

/** The orders of refitting that a manual asks for. */
export const refitNeedsOf =
  (handling: Manual['handling']): RefitNeeds =>
  (operationId) =>
    handling.get(operationId)?.refitNeeds ?? [];
