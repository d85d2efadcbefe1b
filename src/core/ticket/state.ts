import { liveEvents, type Instant, type LocalDate } from '../units';
import type { ChosenPart, OfferedOption, TicketEvent, TicketEventData } from './events';

/** One order that brings (part of) a requirement; several when it is bought from two suppliers. */
export type PartDelivery = {
  orderId: string;
  orderNumber: string;
  supplierName: string;
  dueOn: LocalDate | null;
  received: { partNumber: string; verdict: string } | null;
};

/** Where a requirement stands. The flat fields speak of the delivery that comes last; `received` only when all are here. */
export type PartProgress = {
  deliveries: PartDelivery[];
  orderId: string | null;
  orderNumber: string | null;
  supplierName: string | null;
  dueOn: LocalDate | null;
  received: { partNumber: string; verdict: string } | null;
};

export type TicketState = {
  ticketId: string;
  number: number;
  openedAt: Instant;
  lastAt: Instant;
  sequence: number;
  customer: { customerId: string; name: string; phone: string; place: string } | null;
  machineId: string | null;
  plate: {
    text: string;
    modelId: string;
    modelNumber: string;
    makerId: string;
    platformId: string;
    badge: string;
    probability: number;
    others: { modelId: string; modelNumber: string; probability: number }[];
    confirmed: boolean;
  } | null;
  plateNotListed: string | null;
  serial: string | null;
  boughtOn: LocalDate | null;
  complaint: string;
  findings: { findingId: string; answer: 'yes' | 'no' | 'not-sure'; threeWords: string }[];
  codes: { code: string; findingId: string | null; meaning: string }[];
  checks: { checkId: string; outcomeId: string | null; text: string }[];
  readings: {
    limitId: string;
    label: string;
    unit: string;
    value: number | null;
    ambientCelsius: number | null;
    verdict: string;
    checkId: string | null;
    outcomeId: string | null;
    at: Instant;
  }[];
  /** The old parts by role and property, as measured; an empty value takes a measurement back. */
  measured: Record<string, Record<string, string>>;
  failedFixes: string[];
  cause: { causeId: string; name: string; at: Instant } | null;
  parts: ChosenPart[];
  partsFor: string | null;
  quoted: {
    options: OfferedOption[];
    at: Instant;
    worth: { annualRepair: number; annualReplace: number; probabilityRepair: number } | null;
  } | null;
  answer: { answer: 'yes' | 'no' | 'thinking'; optionId: string | null; at: Instant } | null;
  progress: Record<string, PartProgress>;
  ticks: { key: string; operationId: string; at: Instant; waitUntil: Instant | null }[];
  benchFinishedAt: Instant | null;
  disturbed: string[];
  proofs: { proofId: string; title: string; passed: boolean; at: Instant }[];
  readyToldAt: Instant | null;
  handedOverAt: Instant | null;
  closed: {
    outcome: 'repaired' | 'declined' | 'not-mendable';
    minutesTaken: number | null;
    plannedMinutes: number | null;
    rightFirstTime: boolean | null;
    at: Instant;
  } | null;
  /** What has been taken from this machine since it stands on the shelf as a donor; null when it does not. */
  donor: { taken: { roleId: string; position: string; forTicket: number }[] } | null;
  notes: { text: string; at: Instant }[];
};

const blank = (event: TicketEvent): TicketState => ({
  ticketId: event.stream.replace(/^ticket:/, ''),
  number: 0,
  openedAt: event.at,
  lastAt: event.at,
  sequence: 0,
  customer: null,
  machineId: null,
  plate: null,
  plateNotListed: null,
  serial: null,
  boughtOn: null,
  complaint: '',
  findings: [],
  codes: [],
  checks: [],
  readings: [],
  measured: {},
  failedFixes: [],
  cause: null,
  parts: [],
  partsFor: null,
  quoted: null,
  answer: null,
  progress: {},
  ticks: [],
  benchFinishedAt: null,
  disturbed: [],
  proofs: [],
  readyToldAt: null,
  handedOverAt: null,
  closed: null,
  donor: null,
  notes: [],
});

const NO_PROGRESS: PartProgress = {
  deliveries: [],
  orderId: null,
  orderNumber: null,
  supplierName: null,
  dueOn: null,
  received: null,
};

const FAR = '9999-12-31';

function progressOf(deliveries: readonly PartDelivery[]): PartProgress {
  const coming = deliveries.filter((delivery) => delivery.received === null);
  const last = [...coming].sort((a, b) => ((a.dueOn ?? FAR) < (b.dueOn ?? FAR) ? -1 : 1)).at(-1) ?? deliveries.at(-1);
  if (!last) return NO_PROGRESS;
  const { orderId, orderNumber, supplierName, dueOn } = last;
  return {
    deliveries: [...deliveries],
    orderId,
    orderNumber,
    supplierName,
    dueOn,
    received: coming.length === 0 ? last.received : null,
  };
}

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

function step(state: TicketState, event: TicketEvent): TicketState {
  const { data, at } = event;
  const deliver = (
    requirementId: string,
    change: (deliveries: readonly PartDelivery[]) => readonly PartDelivery[],
  ): TicketState => ({
    ...state,
    progress: {
      ...state.progress,
      [requirementId]: progressOf(change(state.progress[requirementId]?.deliveries ?? [])),
    },
  });
  switch (data.type) {
    case 'opened':
      return { ...state, number: data.number, machineId: data.machineId, openedAt: at };
    case 'customer-noted':
      return {
        ...state,
        customer: { customerId: data.customerId, name: data.name, phone: data.phone, place: data.place },
      };
    case 'plate-read': {
      const { type: _type, ...plate } = data;
      return { ...state, plate, plateNotListed: null };
    }
    case 'plate-not-listed':
      return { ...state, plate: null, plateNotListed: data.text };
    case 'serial-noted':
      return { ...state, serial: data.serial };
    case 'bought-on':
      return { ...state, boughtOn: data.date };
    case 'complaint-noted':
      return { ...state, complaint: data.text };
    case 'finding-noted':
      return {
        ...state,
        findings: replaceBy(
          state.findings,
          { findingId: data.findingId, answer: data.answer, threeWords: data.threeWords },
          (item) => item.findingId,
        ),
      };
    case 'code-noted':
      return {
        ...state,
        codes: replaceBy(
          state.codes,
          { code: data.code, findingId: data.findingId, meaning: data.meaning },
          (item) => item.code,
        ),
      };
    case 'check-done':
      return {
        ...state,
        checks: replaceBy(
          state.checks,
          { checkId: data.checkId, outcomeId: data.outcomeId, text: data.text },
          (item) => item.checkId,
        ),
      };
    case 'reading-noted': {
      const { type: _type, ...reading } = data;
      return { ...state, readings: replaceBy(state.readings, { ...reading, at }, (item) => item.limitId) };
    }
    case 'part-measured': {
      const { [data.property]: _before, ...others } = state.measured[data.roleId] ?? {};
      const own = data.value === '' ? others : { ...others, [data.property]: data.value };
      return { ...state, measured: { ...state.measured, [data.roleId]: own } };
    }
    case 'cause-decided':
      return { ...state, cause: { causeId: data.causeId, name: data.name, at } };
    case 'fix-failed':
      return {
        ...state,
        failedFixes: [...state.failedFixes.filter((id) => id !== data.causeId), data.causeId],
        cause: null,
        benchFinishedAt: null,
        proofs: [],
      };
    case 'parts-chosen':
      return { ...state, parts: data.parts, partsFor: data.causeId };
    case 'quoted':
      return { ...state, quoted: { options: data.options, worth: data.worth, at }, answer: null };
    case 'customer-answered':
      return { ...state, answer: { answer: data.answer, optionId: data.optionId, at } };
    case 'part-ordered': {
      const { orderId, orderNumber, supplierName, dueOn } = data;
      const delivery: PartDelivery = { orderId, orderNumber, supplierName, dueOn, received: null };
      return deliver(data.requirementId, (list) => replaceBy(list, delivery, (item) => item.orderId));
    }
    case 'part-due':
      return deliver(data.requirementId, (list) =>
        list.map((item) => (item.orderId === data.orderId ? { ...item, dueOn: data.dueOn } : item)),
      );
    case 'part-order-cancelled':
      return deliver(data.requirementId, (list) => list.filter((item) => item.orderId !== data.orderId));
    case 'part-received':
      return deliver(data.requirementId, (list) => receive(list, data));
    case 'step-ticked':
      return {
        ...state,
        ticks: replaceBy(
          state.ticks,
          { key: data.key, operationId: data.operationId, at, waitUntil: data.waitUntil },
          (item) => item.key,
        ),
      };
    case 'step-cleared':
      return { ...state, ticks: state.ticks.filter((tick) => tick.key !== data.key) };
    case 'bench-finished':
      return { ...state, benchFinishedAt: at, disturbed: data.operationIds };
    case 'proof-noted':
      return {
        ...state,
        proofs: replaceBy(
          state.proofs,
          { proofId: data.proofId, title: data.title, passed: data.passed, at },
          (item) => item.proofId,
        ),
      };
    case 'ready-told':
      return { ...state, readyToldAt: at };
    case 'handed-over':
      return { ...state, handedOverAt: at };
    case 'closed':
      return {
        ...state,
        closed: {
          outcome: data.outcome,
          minutesTaken: data.minutesTaken,
          plannedMinutes: data.plannedMinutes,
          rightFirstTime: data.rightFirstTime,
          at,
        },
        donor: data.keptAsDonor ? { taken: [] } : null,
      };
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
    case 'undone':
      return state;
  }
}

/** A wrong part goes back: its order no longer counts. From the shelf (no order) the whole requirement is met. */
function receive(
  deliveries: readonly PartDelivery[],
  data: Extract<TicketEventData, { type: 'part-received' }>,
): readonly PartDelivery[] {
  const received = { partNumber: data.partNumber, verdict: data.verdict };
  if (data.verdict === 'wrong') return deliveries.filter((item) => item.orderId !== data.orderId);
  if (deliveries.some((item) => item.orderId === data.orderId))
    return deliveries.map((item) => (item.orderId === data.orderId ? { ...item, received } : item));
  return [{ orderId: data.orderId ?? 'shelf', orderNumber: '', supplierName: '', dueOn: null, received }];
}

/** What the findings, codes, checks and readings say, as evidence. 'Not sure' is none. */
export function evidenceOf(state: TicketState): {
  findings: { findingId: string; present: boolean }[];
  outcomes: { checkId: string; outcomeId: string }[];
  failedFixes: string[];
} {
  const findings = new Map<string, boolean>();
  for (const finding of state.findings)
    if (finding.answer !== 'not-sure') findings.set(finding.findingId, finding.answer === 'yes');
  for (const code of state.codes) if (code.findingId !== null) findings.set(code.findingId, true);
  const outcomes = new Map<string, string>();
  for (const check of state.checks) if (check.outcomeId !== null) outcomes.set(check.checkId, check.outcomeId);
  for (const reading of state.readings)
    if (reading.checkId !== null && reading.outcomeId !== null) outcomes.set(reading.checkId, reading.outcomeId);
  return {
    findings: [...findings].map(([findingId, present]) => ({ findingId, present })),
    outcomes: [...outcomes].map(([checkId, outcomeId]) => ({ checkId, outcomeId })),
    failedFixes: state.failedFixes,
  };
}

/** Requirements that are still to be ordered. */
export const unordered = (state: TicketState): ChosenPart[] =>
  state.parts.filter(
    (part) =>
      part.route !== 'shelf' &&
      !state.progress[part.requirementId]?.orderId &&
      !state.progress[part.requirementId]?.received,
  );
/** Ordered and not here yet. */
export const awaited = (state: TicketState): ChosenPart[] =>
  state.parts.filter(
    (part) => state.progress[part.requirementId]?.orderId && !state.progress[part.requirementId]?.received,
  );
