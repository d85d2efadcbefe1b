import { hoursBetween, type CauseId, type EventId, type Instant, type Money, type RoleId } from '../units';
import type { Step } from '../labour';
import type { Basis, OfferedOption, READY_ITEMS, Requirement, TicketEventOf } from './events';

/** A decision's basis as it stands: when it was made, or when it was looked at again and kept. */
export type Rested = { on: Basis; at: Instant };

export type Decided = {
  causeId: CauseId;
  name: string;
  needsPart: boolean;
  fixId: string | null;
  at: Instant;
  /** P(it is this) when it was decided; null where nobody said. */
  said: number | null;
};
export type Offered = Rested &
  Pick<TicketEventOf<'quoted'>, 'options' | 'worth' | 'fee' | 'validUntil' | 'warrantyMonths'> & {
    /** The event that made it: the answer names it. */
    offerId: EventId;
    /** Other numbers or prices than those offered, for which it was said to stand all the same (`partsKey`). */
    keptFor: string | null;
  };
export type Answered = Pick<TicketEventOf<'customer-answered'>, 'answer' | 'optionId' | 'by' | 'how'> & {
  offerId: EventId;
  at: Instant;
};
/** `by`: who worked on it then; '' where nobody said. */
export type Tick = { step: Step; at: Instant; waitUntil: Instant | null; by: string };
export type Photographed = { photoId: string; step: Step; text: string; at: Instant };
/** A piece without a name, with a number of its own. */
export type Piece = { piece: number; text: string; step: Step; photoId: string | null; home: boolean };
/** Hands-on time by the clock: `since` while it runs, `mark` the last tick or start; what ran before, and how long each step took. */
export type BenchClock = {
  since: Instant | null;
  mark: Instant | null;
  minutes: number;
  steps: (Step & { minutes: number })[];
};
export type Proved = { proofId: string; title: string; passed: boolean; at: Instant };
export type Finished = { at: Instant; operationIds: string[]; proofIds: string[] | null };

/** One attempt at mending. A repair that did not help, a machine that came back, or another cause after the yes closes it and opens the next. */
export type Round = {
  cause: Decided | null;
  /** What the shop wants offered together with it. */
  also: CauseId | null;
  parts: Requirement[];
  /** Parts that were decided on before in this round and of which something was ordered: chosen again, they are the same requirement. */
  dropped: Requirement[];
  /** What the parts were decided on, and for which cause; null while nothing is decided. */
  partsOn: (Rested & { causeId: CauseId }) | null;
  offer: Offered | null;
  answer: Answered | null;
  ticks: Tick[];
  /** Operations that the round before left open: their steps are ticked from the start, and they are closed with this one. */
  leftOpen: readonly string[];
  clock: BenchClock;
  worker: string;
  /** What was looked at before the first step, and is there. */
  readied: readonly (typeof READY_ITEMS)[number][];
  /** What was not home when it was counted before closing; null while it is not counted. */
  count: { missing: readonly string[] } | null;
  remarks: readonly { step: Step; text: string; by: string }[];
  /** What is done of the things to do at the swap. */
  swaps: readonly { roleId: RoleId; text: string }[];
  rescues: readonly { operationId: string; minutes: number }[];
  /** What the customer said to more work than was agreed, the last time. */
  more: { minutes: number; gross: Money; agreed: boolean } | null;
  bead: { operationId: string; skinUntil: Instant } | null;
  parked: { at: Instant; text: string; by: string } | null;
  finished: Finished | null;
  proofs: Proved[];
  /** The run that failed, as it was run again. */
  repeated: (Omit<TicketEventOf<'run-repeated'>, 'type'> & { at: Instant }) | null;
  toldAt: Instant | null;
  handedOverAt: Instant | null;
};

export const newRound = (): Round => ({
  cause: null,
  also: null,
  parts: [],
  dropped: [],
  partsOn: null,
  offer: null,
  answer: null,
  ticks: [],
  leftOpen: [],
  clock: { since: null, mark: null, minutes: 0, steps: [] },
  worker: '',
  readied: [],
  count: null,
  remarks: [],
  swaps: [],
  rescues: [],
  more: null,
  bead: null,
  parked: null,
  finished: null,
  proofs: [],
  repeated: null,
  toldAt: null,
  handedOverAt: null,
});

/** Whether anything was decided or done in it: an empty round is not worth keeping. */
export const isBegun = (round: Round): boolean =>
  round.cause !== null || round.partsOn !== null || round.offer !== null || round.ticks.length > round.leftOpen.length;

/** Numbers, quantities and purchase prices, as one text: what an offer rests on. */
export const partsKey = (parts: readonly Requirement[]): string =>
  parts
    .map(({ bought }) => `${bought.partId} ${bought.quantity} ${bought.cost?.amountMinor ?? 'asked'}`)
    .sort()
    .join('|');

/** What is off by the ticks: taken apart and not put back since. O(ticks²). */
export const tookApart = (ticks: readonly Tick[]): Tick[] =>
  ticks.filter(
    ({ step }) =>
      step.phase === 'strip' &&
      !ticks.some((other) => other.step.phase === 'refit' && other.step.operationId === step.operationId),
  );

/** The option that the customer said yes to. */
export const acceptedOption = ({ offer, answer }: Round): OfferedOption | null =>
  (answer?.answer === 'yes' ? offer?.options.find((option) => option.id === answer.optionId) : undefined) ?? null;

/** The parts of what the customer said yes to that have no number: nothing tells that they are here but a person. */
export const unnamedParts = (round: Round): string[] =>
  (acceptedOption(round)?.lines ?? []).flatMap(({ kind, partNumber, description }) =>
    kind === 'part' && partNumber === null ? [description] : [],
  );

/** The way in which the cause of this round is mended: that of the option that was accepted, else the one decided on; null: its own. */
export const fixIdOf = (round: Round): string | null => acceptedOption(round)?.fixId ?? round.cause?.fixId ?? null;

/** Until when a joint of this round cures; null when none does or the work is over. */
export const cureOf = (round: Round): Tick | null =>
  round.finished
    ? null
    : (round.ticks
        .filter((tick) => tick.waitUntil !== null)
        .sort((a, b) => ((a.waitUntil ?? '') < (b.waitUntil ?? '') ? 1 : -1))[0] ?? null);

const minutesBetween = (from: Instant, to: Instant): number => Math.max(0, 60 * hoursBetween(from, to));

export const clockStarted = (clock: BenchClock, at: Instant): BenchClock =>
  clock.since ? clock : { ...clock, since: at, mark: at };

export const clockStopped = (clock: BenchClock, at: Instant): BenchClock =>
  clock.since ? { ...clock, since: null, mark: null, minutes: clock.minutes + minutesBetween(clock.since, at) } : clock;

/** A step that is done while the clock runs took from the mark till now. One that would not come says nothing of how long it takes when it comes. */
export function clockTicked({ clock, rescues }: Pick<Round, 'clock' | 'rescues'>, step: Step, at: Instant): BenchClock {
  if (!clock.mark) return clock;
  const isRescued = step.phase !== 'refit' && rescues.some(({ operationId }) => operationId === step.operationId);
  const timed = { ...step, minutes: minutesBetween(clock.mark, at) };
  return { ...clock, mark: at, steps: isRescued ? clock.steps : [...clock.steps, timed] };
}

/** Hands-on minutes by the clock until now. */
export const clockMinutes = ({ since, minutes }: BenchClock, now: Instant): number =>
  minutes + (since ? minutesBetween(since, now) : 0);
