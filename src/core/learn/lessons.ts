import { isNoPlate, isUnlistedModel, unlistedModel } from '../identify';
import type { CaseRecord } from './records';
import type { TriedStep } from './rescues';
import type { TimedStep } from './stepTimes';
import { acceptedOption, fixIdOf, type Round, type TicketState, type Waited } from '../ticket';
import type { Instant, LocalDate, ModelId, PartId, PlatformId, RoleId, TicketId } from '../units';
import { sum, type CauseId } from '../units';

/** A part that was in a machine when it was proved, or when it did not help. */
export type FittedPart = {
  roleId: RoleId;
  position: string;
  partId: PartId;
  partNumber: string;
  description: string;
  quantity: number;
  came: 'proved' | 'failed';
};

/** What one ticket teaches, as plain facts: kept with its summary, so that nothing has to be read again to learn. */
export type Lesson = {
  ticketId: TicketId;
  number: number;
  /** When it was closed; until then, when it was opened. A remark later on teaches nothing and moves nothing. */
  at: Instant;
  modelId: ModelId | null;
  platformId: PlatformId | null;
  /** Of a machine that no catalogue lists: how it was told. */
  unlisted: {
    number: string;
    make: string;
    kind: Readonly<Record<string, string | null>>;
    /** The platform of listed sisters, as far as somebody took it for one. */
    platformId: PlatformId | null;
    boughtOn: LocalDate | null;
    guessedYears: number | null;
    openedAt: Instant;
  } | null;
  typed: TicketState['typed'];
  measured: TicketState['measured'];
  fitted: FittedPart[];
  closed: {
    causeId: CauseId | null;
    takenMinutes: number | null;
    listMinutes: number | null;
    rightFirstTime: boolean | null;
    /** How old it was at the last offer; nothing where nobody knew. */
    ageYears?: number | null;
    /** By the clock at the bench; nothing where it was not started. */
    steps?: TimedStep[];
    /** Strip steps that were ticked, and which of them would not come by themselves. */
    tried?: TriedStep[];
    /** How the shop worked; nothing in a lesson that was kept before it was noted. */
    record?: CaseRecord;
  } | null;
};

/** `waited`: hours in the shop by what it waited for. O(events of the ticket's rounds). */
export function lessonOf(state: TicketState, waited: Waited): Lesson {
  const { plate, plateNotListed, closed, round, callBacks } = state;
  const unlisted = plate ? (isUnlistedModel(plate.modelId) ? plate.modelNumber : null) : plateNotListed;
  const number = unlisted === null || isNoPlate(unlisted) ? null : unlisted;
  const own = number === null ? null : unlistedModel(number);
  const repaired = closed?.outcome === 'repaired';
  return {
    ticketId: state.ticketId,
    number: state.number,
    at: closed?.at ?? state.openedAt,
    modelId: plate?.modelId ?? own,
    platformId: plate?.platformId ?? null,
    unlisted:
      number === null
        ? null
        : {
            number,
            make: state.make,
            kind: state.kind,
            platformId: state.relative?.platformId ?? null,
            boughtOn: state.boughtOn,
            guessedYears: state.guessedYears,
            openedAt: state.openedAt,
          },
    typed: state.typed,
    measured: state.measured,
    fitted: [...state.earlier, round].flatMap((one) => fittedIn(state, one)),
    closed: closed && {
      causeId: repaired ? (round.cause?.causeId ?? null) : null,
      takenMinutes: closed.takenMinutes,
      listMinutes: closed.listMinutes,
      // A machine that came back with the same fault was not mended right the first time.
      rightFirstTime: callBacks > 0 ? false : closed.rightFirstTime,
      ageYears: repaired ? ageIn([...state.earlier, round]) : null,
      steps: [...state.earlier, round].flatMap(({ clock }) => clock.steps),
      tried: [...state.earlier, round].flatMap(triedIn),
      record: recordOf(state, waited),
    },
  };
}

function recordOf(state: TicketState, waited: Waited): CaseRecord {
  const { plate, firstReading, round, earlier, closed, callBacks, openedAt } = state;
  const repaired = closed?.outcome === 'repaired';
  const rounds = [...earlier, round];
  const lastAnswer = rounds.findLast(({ answer }) => answer !== null)?.answer?.answer ?? null;
  const last = rounds.findLast(({ toldAt }) => toldAt !== null) ?? round;
  return {
    openedAt,
    outcome: closed?.outcome ?? '',
    answer: lastAnswer,
    promisedOn: acceptedOption(last)?.readyOn ?? null,
    toldAt: last.toldAt,
    callBacks,
    waited,
    price: priceOf(state, last),
    earned: repaired ? earnedIn(rounds) : null,
    advice: adviceOf(rounds),
    plate: plate && firstReading ? { said: firstReading.said, true: firstReading.modelId === plate.modelId } : null,
    causes: rounds.flatMap((one) =>
      one.cause?.said != null && (one !== round || repaired)
        ? [{ said: one.cause.said, true: callBacks === 0 && (one === round || one.handedOverAt !== null) }]
        : [],
    ),
  };
}

/** What was told while the cause was open, and what was agreed in the end, more work in it. */
function priceOf({ rangeTold }: TicketState, last: Round): CaseRecord['price'] {
  const accepted = acceptedOption(last);
  if (!rangeTold || !accepted || accepted.gross.currency !== rangeTold.low.currency) return null;
  const more = last.more?.agreed ? last.more.gross.amountMinor : 0;
  return {
    low: rangeTold.low.amountMinor,
    high: rangeTold.high.amountMinor,
    agreed: accepted.gross.amountMinor + more,
    currency: accepted.gross.currency,
  };
}

/**
 * What the customer pays for what was handed over, more work in it, without tax, and what the parts of all attempts cost the shop. null where an agreed part has no known
 * cost: half a margin is none.
 */
function earnedIn(rounds: readonly Round[]): CaseRecord['earned'] {
  const paid = rounds.flatMap((round) => {
    const option = round.handedOverAt === null ? null : acceptedOption(round);
    return option ? [{ option, more: round.more?.agreed ? round.more : null }] : [];
  });
  const [first] = paid;
  if (!first) return null;
  const { currency } = first.option.net;
  const parts = rounds.filter((one) => acceptedOption(one) !== null).flatMap((one) => one.parts);
  const isSold = paid.some(({ option }) => option.lines.some(({ kind }) => kind === 'part' || kind === 'companion'));
  const costs = parts.map(({ bought: { cost } }) => (cost?.currency === currency ? cost.amountMinor : null));
  if ((isSold && parts.length === 0) || costs.includes(null)) return null;
  // Of more work the gross was agreed; its tax is in the proportion of the offer's.
  const netOf = ({ option, more }: (typeof paid)[number]) =>
    option.net.amountMinor +
    (more && option.gross.amountMinor > 0
      ? Math.round((more.gross.amountMinor * option.net.amountMinor) / option.gross.amountMinor)
      : 0);
  return {
    net: sum(paid.map(netOf)),
    parts: sum(costs.map((cost) => cost ?? 0)),
    minutes: sum(paid.map(({ option, more }) => option.handsOnMinutes + (more?.minutes ?? 0))),
    currency,
  };
}

const ageIn = (rounds: readonly Round[]): number | null =>
  rounds.findLast(({ offer }) => offer?.worth?.told?.ageYears !== undefined)?.offer?.worth?.told?.ageYears ?? null;

/** What was advised with the last offer, and what the house rules said of the same. */
function adviceOf(rounds: readonly Round[]): CaseRecord['advice'] {
  const offer = rounds.findLast((one) => one.offer?.worth?.told?.rules?.length)?.offer;
  const told = offer?.worth?.told;
  if (!offer || !told) return null;
  return {
    repair: told.repair,
    advantage: told.advantage,
    currency: offer.fee.gross.currency,
    rules: (told.rules ?? []).map(({ id, saysRepair }) => ({ id, repair: saysRepair })),
  };
}

const triedIn = ({ ticks, rescues }: Round): TriedStep[] =>
  ticks
    .filter(({ step }) => step.phase !== 'refit')
    .map(({ step: { operationId } }) => ({
      operationId,
      rescued: rescues.some((rescue) => rescue.operationId === operationId),
    }));

function fittedIn({ round: current, closed, failedFixes, failedWays }: TicketState, round: Round): FittedPart[] {
  const { cause, finished, proofs, handedOverAt } = round;
  const fixId = fixIdOf(round);
  const inVain = cause !== null && (fixId === null ? failedFixes.includes(cause.causeId) : failedWays.includes(fixId));
  const failed = inVain && (finished !== null || handedOverAt !== null);
  const left = round === current ? closed?.outcome === 'repaired' : handedOverAt !== null;
  const proved = left && proofs.length > 0 && proofs.every(({ passed }) => passed);
  if (!failed && !proved) return [];
  return round.parts.map(({ roleId, position, bought }) => ({
    roleId,
    position,
    partId: bought.partId,
    partNumber: bought.partNumber,
    description: bought.description,
    quantity: bought.quantity,
    came: failed ? ('failed' as const) : ('proved' as const),
  }));
}
