import {
  buildWorkSheet,
  dueProofs,
  proofsFor,
  proofsInOrder,
  refitNeedsOf,
  type Beforehand,
  type DueProof,
  type WorkSheet,
} from '../../bench';
import { wayBy, type Catalogue, type Cause, type Platform, type Role } from '../../catalogue';
import { inWorkingOrder, planWork, type OrderedPlan, type WorkPlan } from '../../labour';
import { labourAmounts, labourLine } from '../../quote';
import { unnamedParts, type OfferedOption, type Round, type TicketState } from '../../ticket';
import { keyBy, subtractMoney, sum, unique, type CauseId, type Instant, type Money, type RoleId } from '../../units';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { Lore } from './causes';

/** More work than was agreed: what it comes to, and whether the customer was asked for so much. */
export type Beyond = { minutes: number; gross: Money; answered: 'yes' | 'no' | null };

export type BenchShown = {
  plan: OrderedPlan;
  sheet: WorkSheet;
  proofs: DueProof[];
  /** Hands-on minutes by the list, without what was learned. */
  listMinutes: number;
  /** Whether every part is here, and the customer's yes. `orderedHere`: of the parts, those that have a number; `unnamed`: the others. */
  ready: Beforehand & { orderedHere: boolean; unnamed: string[] };
  beyond: Beyond | null;
};

/** Which parts an operation swaps: those of its cause, at the first operation of it. What operations use up (clamps, sealant) is none. */
function swappedBy(causes: readonly Cause[], roles: readonly Role[]): (operationId: string) => Role[] {
  const known = keyBy(roles, ({ id }) => id);
  const rolesOf = ({ roleId, companions }: Cause): RoleId[] => [
    ...(roleId === undefined ? [] : [roleId]),
    ...companions.map(({ id }) => id),
  ];
  return (operationId) =>
    unique(causes.filter(({ operations: [first] }) => first === operationId).flatMap(rolesOf)).flatMap(
      (id) => known.get(id) ?? [],
    );
}

/** A part out of a donor is tried before it goes in. */
const testOfUsed = ({ usedTest }: Role): string[] => (usedTest ? [`Used: ${usedTest}`] : []);

/** What the rescues that were chosen add to what their chances had in the price already; null where that is nothing. */
function beyondOf(
  plan: WorkPlan,
  { rescues, more }: Pick<Round, 'rescues' | 'more'>,
  accepted: OfferedOption | null,
  settings: Settings,
): Beyond | null {
  const reckoned = plan.expectedMinutes - plan.handsOnMinutes;
  const minutes = Math.max(0, sum(rescues.map((one) => one.minutes)) - reckoned);
  if (rescues.length === 0 || minutes <= 0) return null;
  const agreed = accepted?.handsOnMinutes ?? plan.expectedMinutes;
  const priced = (of: number) => labourLine(of, settings.labourPerHour).net;
  const [before, after] = [priced(agreed), priced(agreed + minutes)];
  if (!before || !after || after.amountMinor <= before.amountMinor) return null;
  const gross = labourAmounts(subtractMoney(after, before), settings).gross;
  // Who agreed to more agrees to this; who declined less declines this.
  const by = more ? more.gross.amountMinor - gross.amountMinor : 0;
  const answered = !more ? null : more.agreed && by >= 0 ? 'yes' : !more.agreed && by <= 0 ? 'no' : null;
  return { minutes, gross, answered };
}

/** That it is dead is proved anew in each round: a tick of the one before says nothing of the plug today. */
function ticksThatHold(
  { ticks, leftOpen, answer }: Round,
  operations: Lore['knowledge']['operations'],
): Round['ticks'] {
  const dead = new Set(operations.flatMap(({ id, power }) => (power === 'off' ? [id] : [])));
  return ticks.filter(
    ({ step: { operationId }, at }) =>
      !(dead.has(operationId) && leftOpen.includes(operationId) && (!answer || at < answer.at)),
  );
}

/** The work sheet of the job and what must be proved. `causeIds`: what is mended. */
export const benchChapter: Chapter<
  'bench',
  {
    lore: Lore;
    roles: Catalogue['roles'];
    platform: Platform;
    causeIds: readonly CauseId[];
    /** How the first of them is mended; null: its own way. */
    fixId: string | null;
    rescues: number;
    /** What proves that the root cause is gone. */
    rootProofId: string | null;
    round: Round;
    accepted: OfferedOption | null;
    /** Whether all parts that were decided on by number are here. */
    orderedHere: boolean;
    /** A joint of this round cures at this moment. */
    curing: boolean;
    liveBarred: boolean;
    readings: TicketState['readings'];
    pieces: TicketState['pieces'];
    photographs: TicketState['photographs'];
    settings: Settings;
  },
  BenchShown
> = {
  name: 'bench',
  byContent: ['causeIds', 'round', 'accepted', 'readings', 'pieces', 'photographs', 'settings'],
  answer: ({ lore, roles, platform, causeIds, fixId, rescues, rootProofId, round, accepted, orderedHere, ...rest }) => {
    const { curing, liveBarred, readings, pieces, photographs, settings } = rest;
    const { knowledge, timeFactor, times } = lore;
    const { handling, joints } = knowledge;
    const causes = knowledge.causes
      .filter(({ id }) => causeIds.includes(id))
      .map((cause) => (cause.id === causeIds[0] ? wayBy(knowledge, cause, fixId).cause : cause));
    const plan = inWorkingOrder(
      planWork(knowledge.operations, [...causes.flatMap((cause) => cause.operations), ...round.leftOpen], {
        timeFactor,
        times,
        rescueFactor: rescues,
      }),
      refitNeedsOf(handling),
    );
    const disturbed = round.finished?.operationIds ?? plan.strip.map((step) => step.operationId);
    const dueIds = round.finished?.proofIds;
    const due = dueIds
      ? proofsInOrder(knowledge.proofs.filter(({ id }) => dueIds.includes(id)))
      : proofsFor(knowledge.proofs, disturbed, causeIds[0] ?? null, rootProofId);
    const unnamed = unnamedParts(round);
    const unnamedHere = unnamed.length === 0 || round.readied.includes('parts');
    const ready = { partsHere: orderedHere && unnamedHere, orderedHere, unnamed, yes: accepted !== null, curing };
    const usedUp = new Set(knowledge.operations.flatMap(({ consumables }) => consumables.map(({ id }) => id)));
    const used = new Set(round.parts.flatMap(({ donor, roleId }) => (donor ? [roleId] : [])));
    const parts = roles
      .filter(({ id }) => !usedUp.has(id))
      .map((role) => (used.has(role.id) ? { ...role, prepare: [...testOfUsed(role), ...role.prepare] } : role));
    const begun = round.ticks.map(({ at }) => at).sort()[0] ?? null;
    return {
      plan,
      sheet: buildWorkSheet(
        plan,
        platform,
        { ...round, ticks: ticksThatHold(round, knowledge.operations), pieces, photographs },
        { handling, joints, swapped: swappedBy(causes, parts) },
        ready,
      ),
      proofs: dueProofs(due, {
        passed: (id) => round.proofs.find(({ proofId }) => proofId === id)?.passed ?? null,
        closed: round.finished !== null,
        cures: ({ disturbedBy }) => curing && disturbedBy.some((id) => joints.has(id)),
        liveBarred,
        figureOf: (limitId) => figureSince(readings, limitId, begun),
      }),
      listMinutes: sum([
        ...plan.strip.map(({ operation }) => operation.stripMinutes),
        ...plan.refit.map(({ operation }) => operation.refitMinutes),
      ]),
      ready,
      beyond: beyondOf(plan, round, accepted, settings),
    };
  },
};

/** What was measured since the work began: what was measured before it says what was wrong. */
function figureSince(readings: TicketState['readings'], limitId: string, begun: Instant | null) {
  const reading = readings.find((one) => one.limitId === limitId);
  if (!reading || begun === null || reading.at < begun) return null;
  const { value, unit, verdict, at } = reading;
  return { limitId, value, unit, verdict, at };
}
