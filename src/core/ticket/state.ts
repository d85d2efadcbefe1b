import {
  liveEvents,
  type CauseId,
  type Instant,
  type LocalDate,
  type ModelId,
  type Money,
  type RoleId,
  type TicketId,
  asId,
} from '../units';
import { unlistedModel } from '../identify';
import {
  afterCancelled,
  afterDue,
  afterOrdered,
  afterReceived,
  afterReleased,
  afterReserved,
  afterShelved,
  type Deliveries,
} from './deliveries';
import { sameStep, type Step } from '../labour';
import type { Basis, Requirement, TicketEvent, TicketEventData, TicketEventOf } from './events';
import {
  clockStarted,
  clockStopped,
  clockTicked,
  fixIdOf,
  isBegun,
  tookApart,
  newRound,
  partsKey,
  type Photographed,
  type Piece,
  type Round,
} from './round';

type Facts<T extends TicketEventData['type']> = Omit<TicketEventOf<T>, 'type'>;

export type Customer = { customerId: string; name: string; phone: string; place: string };

/** What is known of a customer after something was noted: what was not named stays. */
export const customerAfter = (
  known: Customer | null,
  {
    customerId,
    name = known?.name ?? '',
    phone = known?.phone ?? '',
    place = known?.place ?? '',
  }: Facts<'customer-noted'>,
): Customer => ({ customerId, name, phone, place });

export type TicketState = {
  ticketId: TicketId;
  number: number;
  openedAt: Instant;
  lastAt: Instant;
  sequence: number;
  customer: Customer | null;
  machineId: string | null;
  plate: Facts<'plate-read'> | null;
  plateNotListed: string | null;
  serial: string | null;
  /** Nobody needs to be asked for the serial again. */
  serialUnreadable: boolean;
  boughtOn: LocalDate | null;
  guessedYears: number | null;
  /** Nobody needs to be asked again how old it is. */
  ageNotKnown: boolean;
  /** What a day without a machine costs this customer, as they say. */
  dayWithout: Money | null;
  carriage: { collect: boolean; bringBack: boolean };
  /** Of a machine that is not listed: what was seen of how it is built, by question. */
  kind: Readonly<Record<string, string | null>>;
  /** The name on a machine that is not listed; '' where nobody said. */
  make: string;
  /** A listed model that it is taken for a sister of; null where nobody said so. */
  relative: Facts<'relative-judged'>['relative'];
  /** Numbers that no catalogue lists, by role. */
  typed: Readonly<Record<string, Facts<'part-typed'> & { at: Instant }>>;
  /** What was read on the old parts, by role. */
  oldNumbers: Readonly<Record<string, { text: string; at: Instant }>>;
  complaint: string;
  findings: Facts<'finding-noted'>[];
  codes: Facts<'code-noted'>[];
  checks: Facts<'check-done'>[];
  /** What the customer was told that it may cost, the last time while the cause was open. */
  rangeTold: (Facts<'range-told'> & { at: Instant }) | null;
  readings: (Facts<'reading-noted'> & { at: Instant })[];
  /** What was measured of the same before, oldest first: what was wrong stays beside what it is now. */
  readingsBefore: (Facts<'reading-noted'> & { at: Instant })[];
  /** The old parts by role and property, as measured; an empty value takes a measurement back. */
  measured: Readonly<Record<string, Readonly<Record<string, string>>>>;
  /** Causes whose own way of mending did not help, and other ways by their ids. */
  failedFixes: string[];
  failedWays: string[];
  /** The run in which it fails, as it was noted last. */
  failingRun: (Facts<'failing-run-noted'> & { at: Instant }) | null;
  /** Of the machine, whichever attempt is under way: what was photographed at the bench, and what came off without a name. */
  photographs: readonly Photographed[];
  pieces: readonly Piece[];
  /** What the dead parts look like, one for each cause. */
  wrecks: Facts<'wreck-read'>[];
  /** The attempt at mending that is under way, and those that are over. */
  round: Round;
  earlier: readonly Round[];
  /** What was ordered or taken for each requirement, of every round. */
  deliveries: Deliveries;
  closed: (Facts<'closed'> & { at: Instant }) | null;
  /** How often it came back after it was closed, with the same fault. */
  callBacks: number;
  /** What the plate was taken for at first, and how surely. */
  firstReading: { modelId: ModelId; said: number } | null;
  /** What has been taken from this machine since it stands on the shelf as a donor; null when it does not. */
  donor: { taken: { roleId: RoleId; position: string; forTicket: number | null }[] } | null;
  notes: { text: string; at: Instant }[];
};

const blank = (event: TicketEvent): TicketState => ({
  ticketId: asId(event.stream.replace(/^ticket:/, '')),
  number: 0,
  openedAt: event.at,
  lastAt: event.at,
  sequence: 0,
  customer: null,
  machineId: null,
  plate: null,
  plateNotListed: null,
  serial: null,
  serialUnreadable: false,
  boughtOn: null,
  guessedYears: null,
  ageNotKnown: false,
  dayWithout: null,
  carriage: { collect: false, bringBack: false },
  kind: {},
  make: '',
  relative: null,
  typed: {},
  oldNumbers: {},
  complaint: '',
  findings: [],
  codes: [],
  checks: [],
  rangeTold: null,
  readings: [],
  readingsBefore: [],
  measured: {},
  failedFixes: [],
  failedWays: [],
  failingRun: null,
  photographs: [],
  pieces: [],
  wrecks: [],
  round: newRound(),
  earlier: [],
  deliveries: {},
  closed: null,
  callBacks: 0,
  firstReading: null,
  donor: null,
  notes: [],
});

const replaceBy = <T>(list: readonly T[], entry: T, key: (item: T) => string): T[] => [
  ...list.filter((item) => key(item) !== key(entry)),
  entry,
];

/** State of a ticket from its events. Throws (a bug) on an empty list: a ticket begins with 'opened'. O(events). */
export function applyEvents(events: readonly TicketEvent[]): TicketState {
  const first = events[0];
  if (!first) throw new Error('Bug: a ticket without events');
  const state = liveEvents(events).reduce(step, blank(first));
  const last = events.reduce((latest, event) => (event.sequence > latest.sequence ? event : latest), first);
  return { ...state, sequence: last.sequence, lastAt: last.at };
}

/** The states that a ticket went through, with when each began, in order. O(events). */
export function* statesOf(events: readonly TicketEvent[]): Generator<{ state: TicketState; from: Instant }> {
  const [first] = events;
  if (!first) return;
  let state = blank(first);
  for (const event of liveEvents(events)) {
    state = { ...step(state, event), lastAt: event.at };
    yield { state, from: event.at };
  }
}

/** What a decision made now would rest on. */
export const basisNow = (
  state: Pick<TicketState, 'plate' | 'plateNotListed' | 'relative' | 'serial' | 'round'>,
): Basis => ({
  // A machine that nobody lists is known by what its plate says, or by the sister that it is taken for: read or taken otherwise it is another machine.
  modelId:
    state.plate?.modelId ??
    state.relative?.modelId ??
    (state.plateNotListed === null ? null : unlistedModel(state.plateNotListed)),
  serial: state.serial,
  causeId: state.round.cause?.causeId ?? null,
  ...(state.round.cause?.fixId == null ? {} : { fixId: state.round.cause.fixId }),
});

/** What did not help, with this; the latest last. */
const failedAfter = (
  { failedFixes, failedWays }: TicketState,
  causeId: CauseId,
  fixId: string | null,
): Pick<TicketState, 'failedFixes' | 'failedWays'> =>
  fixId === null
    ? { failedWays, failedFixes: [...failedFixes.filter((id) => id !== causeId), causeId] }
    : { failedFixes, failedWays: [...failedWays.filter((id) => id !== fixId), fixId] };

/** A round that breaks off leaves the machine as it stands: what is off is off in the next one, too; not where it has left the shop since, closed by whomever and plugged in. */
function nextRound(state: TicketState, round: Partial<Round> = {}): TicketState {
  const hasLeft = state.closed !== null || state.round.handedOverAt !== null;
  const ticks = state.round.finished || hasLeft ? [] : tookApart(state.round.ticks);
  const isOff = (step: Step) => ticks.some((tick) => sameStep(tick.step, step));
  return {
    ...state,
    earlier: isBegun(state.round) ? [...state.earlier, state.round] : state.earlier,
    round: {
      ...newRound(),
      ticks,
      leftOpen: ticks.map((tick) => tick.step.operationId),
      remarks: state.round.remarks.filter((remark) => isOff(remark.step)),
      ...round,
    },
  };
}

function step(state: TicketState, event: TicketEvent): TicketState {
  const { data, at } = event;
  const inRound = (change: Partial<Round>): TicketState => ({ ...state, round: { ...state.round, ...change } });
  switch (data.type) {
    case 'opened':
      return { ...state, number: data.number, machineId: data.machineId, openedAt: at };
    case 'customer-noted':
      return { ...state, customer: customerAfter(state.customer, factsOf(data)) };
    case 'plate-read':
      return {
        ...state,
        plate: factsOf(data),
        plateNotListed: null,
        firstReading: state.firstReading ?? { modelId: data.modelId, said: data.probability },
      };
    case 'plate-not-listed':
      return { ...state, plate: null, plateNotListed: data.text, relative: null };
    case 'serial-noted':
      return { ...state, serial: data.serial === '' ? null : data.serial, serialUnreadable: false };
    case 'serial-unreadable':
      return { ...state, serial: null, serialUnreadable: true };
    case 'bought-on':
      return { ...state, boughtOn: data.date };
    case 'age-guessed':
      return { ...state, guessedYears: data.years, ageNotKnown: false };
    case 'age-not-known':
      return { ...state, guessedYears: null, ageNotKnown: true };
    case 'day-without-noted':
      return { ...state, dayWithout: data.perDay };
    case 'carriage-noted':
      return { ...state, carriage: { collect: data.collect, bringBack: data.bringBack } };
    case 'kind-judged':
      return { ...state, kind: { ...state.kind, [data.questionId]: data.answerId } };
    case 'make-noted':
      return { ...state, make: data.name };
    case 'relative-judged':
      return { ...state, relative: data.relative };
    case 'part-typed': {
      const { [data.roleId]: _before, ...others } = state.typed;
      return {
        ...state,
        typed: data.partNumber === '' ? others : { ...others, [data.roleId]: { ...factsOf(data), at } },
      };
    }
    case 'old-number-read': {
      const { [data.roleId]: _before, ...others } = state.oldNumbers;
      const { text } = data;
      return { ...state, oldNumbers: text === '' ? others : { ...others, [data.roleId]: { text, at } } };
    }
    case 'complaint-noted':
      return { ...state, complaint: data.text };
    case 'finding-noted':
      return { ...state, findings: replaceBy(state.findings, factsOf(data), (item) => item.findingId) };
    case 'code-noted':
      return { ...state, codes: replaceBy(state.codes, factsOf(data), (item) => item.code) };
    case 'check-done':
      return { ...state, checks: replaceBy(state.checks, factsOf(data), (item) => item.checkId) };
    case 'reading-noted':
      return {
        ...state,
        readings: replaceBy(state.readings, { ...factsOf(data), at }, (item) => item.limitId),
        readingsBefore: [...state.readingsBefore, ...state.readings.filter(({ limitId }) => limitId === data.limitId)],
      };
    case 'failing-run-noted':
      return { ...state, failingRun: { ...factsOf(data), at } };
    case 'wreck-read':
      return { ...state, wrecks: replaceBy(state.wrecks, factsOf(data), (item) => item.causeId) };
    case 'part-measured': {
      const { [data.property]: _before, ...others } = state.measured[data.roleId] ?? {};
      const own = data.value === '' ? others : { ...others, [data.property]: data.value };
      return { ...state, measured: { ...state.measured, [data.roleId]: own } };
    }
    case 'range-told':
      return { ...state, rangeTold: { ...factsOf(data), at } };
    case 'also-chosen':
      return inRound({ also: data.causeId });
    case 'cause-decided': {
      const { causeId, name, needsPart, fixId = null } = data;
      const cause = { causeId, name, needsPart, fixId, at, said: data.probability ?? null };
      const agreed = state.round.answer?.answer === 'yes';
      const another = agreed && (state.round.cause?.causeId !== causeId || fixIdOf(state.round) !== fixId);
      return another ? nextRound(state, { cause }) : inRound({ cause });
    }
    case 'fix-failed': {
      const { causeId, fixId = null } = data;
      const tried = state.round.cause?.causeId === causeId && fixIdOf(state.round) === fixId;
      return { ...(tried ? nextRound(state) : state), ...failedAfter(state, causeId, fixId) };
    }
    case 'parts-chosen':
      return inRound({ ...withParts(state, data.parts), partsOn: { causeId: data.causeId, on: data.on, at } });
    case 'decision-kept':
      return inRound(kept(state.round, data, at));
    case 'quoted': {
      const made = factsOf(data);
      return inRound({ offer: { ...made, offerId: event.id, at, keptFor: null }, answer: null });
    }
    case 'customer-answered': {
      const { answer, offer: offerId, optionId, by, how } = data;
      const { offer, partsOn } = state.round;
      const accepted = answer === 'yes' ? offer?.options.find((option) => option.id === optionId) : undefined;
      const causeId = accepted?.causeIds[0] ?? partsOn?.causeId;
      return inRound({
        answer: { answer, offerId, optionId, at, ...(by ? { by } : {}), ...(how ? { how } : {}) },
        // What was accepted is what is bought: the parts of the option, as they were offered.
        ...(accepted && offer
          ? {
              ...withParts(state, accepted.parts),
              partsOn: causeId === undefined ? partsOn : { causeId, on: partsOn?.on ?? offer.on, at },
            }
          : {}),
      });
    }
    case 'part-ordered':
      return { ...state, deliveries: afterOrdered(state.deliveries, data) };
    case 'part-due':
      return { ...state, deliveries: afterDue(state.deliveries, data) };
    case 'part-order-cancelled':
      return { ...state, deliveries: afterCancelled(state.deliveries, data) };
    case 'part-received':
      return { ...state, deliveries: afterReceived(state.deliveries, data) };
    case 'part-reserved':
      return { ...state, deliveries: afterReserved(state.deliveries, data) };
    case 'reservation-released':
      return { ...state, deliveries: afterReleased(state.deliveries, data) };
    case 'part-shelved':
      return { ...state, deliveries: afterShelved(state.deliveries, data) };
    case 'step-ticked':
      return inRound({
        ticks: [
          ...state.round.ticks.filter((tick) => !sameStep(tick.step, data.step)),
          { step: data.step, at, waitUntil: data.waitUntil, by: state.round.worker },
        ],
        parked: null,
        clock: clockTicked(state.round, data.step, at),
      });
    case 'worker-noted':
      return inRound({ worker: data.name });
    case 'readied':
      return inRound({
        readied: [...state.round.readied.filter((item) => item !== data.item), ...(data.ok ? [data.item] : [])],
      });
    case 'bench-reopened':
      return inRound({
        ticks: state.round.ticks.filter((tick) => !data.steps.some((step) => sameStep(step, tick.step))),
        finished: null,
        proofs: [],
        count: null,
      });
    case 'counted-home':
      return inRound({ count: { missing: data.missing } });
    case 'step-remarked':
      return inRound({
        remarks: [
          ...state.round.remarks.filter(({ step: of }) => !sameStep(of, data.step)),
          ...(data.text ? [{ step: data.step, text: data.text, by: state.round.worker }] : []),
        ],
      });
    case 'photographed':
      return { ...state, photographs: [...state.photographs, { ...factsOf(data), at }] };
    case 'photograph-dropped':
      return { ...state, photographs: state.photographs.filter(({ photoId }) => photoId !== data.photoId) };
    case 'piece-set-aside':
      return {
        ...state,
        pieces: [...state.pieces.filter(({ piece }) => piece !== data.piece), { ...factsOf(data), home: false }],
      };
    case 'piece-home':
      return {
        ...state,
        pieces: state.pieces.map((one) => (one.piece === data.piece ? { ...one, home: data.home } : one)),
      };
    case 'swap-ticked': {
      const { roleId, text, done } = data;
      const others = state.round.swaps.filter((one) => one.roleId !== roleId || one.text !== text);
      return inRound({ swaps: done ? [...others, { roleId, text }] : others });
    }
    case 'rescue-chosen': {
      const { operationId, minutes } = data;
      const others = state.round.rescues.filter((one) => one.operationId !== operationId);
      return inRound({ rescues: minutes === null ? others : [...others, { operationId, minutes }] });
    }
    case 'more-answered':
      return inRound({ more: factsOf(data) });
    case 'bead-laid':
      return inRound({ bead: { operationId: data.operationId, skinUntil: data.skinUntil } });
    case 'parked':
      return inRound({
        parked: { at, text: data.text, by: state.round.worker },
        clock: clockStopped(state.round.clock, at),
      });
    case 'taken-up':
      return inRound({ parked: null });
    case 'work-started':
      return inRound({ parked: null, clock: clockStarted(state.round.clock, at) });
    case 'work-stopped':
      return inRound({ clock: clockStopped(state.round.clock, at) });
    case 'step-cleared':
      // What is opened again is counted again.
      return inRound({
        ticks: state.round.ticks.filter((tick) => !sameStep(tick.step, data.step)),
        // It was not off after all: nothing that has to be closed.
        leftOpen: state.round.leftOpen.filter((id) => data.step.phase !== 'strip' || data.step.operationId !== id),
        count: null,
      });
    case 'bench-finished':
      return inRound({
        finished: { at, operationIds: data.operationIds, proofIds: data.proofIds },
        clock: clockStopped(state.round.clock, at),
      });
    case 'run-repeated':
      return inRound({ repeated: { ...factsOf(data), at } });
    case 'proof-noted': {
      const { proofId, title, passed } = data;
      return inRound({ proofs: replaceBy(state.round.proofs, { proofId, title, passed, at }, (item) => item.proofId) });
    }
    case 'ready-told':
      return inRound({ toldAt: at });
    case 'handed-over':
      return inRound({ handedOverAt: at });
    case 'closed':
      return { ...state, closed: { ...factsOf(data), at }, donor: data.keptAsDonor ? { taken: [] } : null };
    case 'came-back': {
      const tried = state.round.cause?.causeId;
      const failed = data.sameFault && tried !== undefined;
      return {
        ...nextRound(state),
        closed: null,
        donor: null,
        callBacks: state.callBacks + (data.sameFault ? 1 : 0),
        ...(failed ? failedAfter(state, tried, fixIdOf(state.round)) : {}),
      };
    }
    case 'donor-part-taken': {
      const { roleId, position, forTicket } = data;
      return state.donor
        ? { ...state, donor: { taken: [...state.donor.taken, { roleId, position, forTicket }] } }
        : state;
    }
    case 'donor-gone':
      return { ...state, donor: null };
    case 'note-added':
      return { ...state, notes: [...state.notes, { text: data.text, at }] };
    case 'seats-judged':
    case 'undone':
      return state;
  }
}

/** Other parts in place of those decided on. What was ordered of the former ones is remembered. */
function withParts({ round, deliveries }: TicketState, parts: Requirement[]): Pick<Round, 'parts' | 'dropped'> {
  const wanted = new Set(parts.map(({ requirementId }) => requirementId));
  const dropped = [...round.dropped, ...round.parts].filter(
    ({ requirementId }) => !wanted.has(requirementId) && (deliveries[requirementId] ?? []).length > 0,
  );
  return { parts, dropped: [...new Map(dropped.map((part) => [part.requirementId, part])).values()] };
}

function factsOf<D extends { type: string }>(data: D): Omit<D, 'type'> {
  const { type: _type, ...facts } = data;
  return facts;
}

function kept(round: Round, { decision, on }: Facts<'decision-kept'>, at: Instant): Partial<Round> {
  if (decision === 'part')
    return { partsOn: round.partsOn ? { causeId: on.causeId ?? round.partsOn.causeId, on, at } : null };
  return { offer: round.offer ? { ...round.offer, on, at, keptFor: partsKey(round.parts) } : null };
}
