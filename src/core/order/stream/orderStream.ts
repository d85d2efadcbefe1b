import {
  instantSchema,
  liveEvents,
  localDateSchema,
  moneySchema,
  sum,
  type Instant,
  type LocalDate,
  type Money,
  type StoredEvent,
  idSchema,
  type EventId,
  type PartId,
  type OrderId,
  type LineId,
  type TicketId,
  type SupplierId,
  type RequirementId,
  asId,
} from '../../units';
import * as z from '../../units/zod';

const id = z.string().min(1).max(200);
const copied = z.string().max(2000);

const forTicket = z.object({
  ticketId: idSchema<TicketId>(),
  requirementId: idSchema<RequirementId>(),
  partId: idSchema<PartId>(),
  units: z.number().int().min(1),
  /** Units of this part in one pack of the line: a kit has several kinds. */
  perPack: z.number().int().min(1),
});

export const orderLineSchema = z.object({
  /** Names the line in this order, here and at the supplier. */
  lineId: idSchema<LineId>(),
  partId: idSchema<PartId>(),
  partNumber: copied,
  description: copied,
  supplierNumber: copied,
  packs: z.number().int().min(1),
  packPrice: moneySchema,
  /** Pieces of its own part in a pack. */
  packSize: z.number().int().min(1).optional(),
  /** Of a kit that is opened, what is in one. Without it a pack is what its number says. */
  contents: z
    .array(
      z.object({
        partId: idSchema<PartId>(),
        partNumber: copied,
        description: copied,
        perPack: z.number().int().min(1),
      }),
    )
    .max(200)
    .optional(),
  for: z.array(forTicket),
});
export type OrderLine = z.infer<typeof orderLineSchema>;

/** What a supplier answers, line by line (as UBL OrderResponse says it). */
export const orderAnswerSchema = z.object({
  reference: z.string().max(80),
  lines: z
    .array(
      z.object({
        lineId: idSchema<LineId>(),
        status: z.enum(['accepted', 'substituted', 'back-ordered', 'rejected']),
        partId: idSchema<PartId>(),
        partNumber: z.string().max(80),
        packPrice: moneySchema,
        dueOn: localDateSchema.nullable(),
        note: z.string().max(500).nullable(),
      }),
    )
    .max(500),
});
export type OrderAnswer = z.infer<typeof orderAnswerSchema>;

const wordOf = <const K extends string>(kinds: readonly K[]) =>
  z.object({ kind: z.enum(kinds), lineId: idSchema<LineId>().nullable(), said: z.string().max(200) });

/** Why an answer was not believed; `said`: the supplier's own text. */
const answerProblemSchema = wordOf([
  'other-order',
  'too-many-lines',
  'nothing-of-ours',
  'line-missing',
  'contradiction',
  'status-unknown',
  'other-currency',
  'price-senseless',
  'quantity-senseless',
]);
export type AnswerProblem = z.infer<typeof answerProblemSchema>;

/** What differs, in an answer that was taken, from what was ordered. */
const answerDoubtSchema = wordOf([
  'foreign-lines',
  'no-reference',
  'fewer',
  'more',
  'dearer',
  'cheaper',
  'day-senseless',
  'other-number',
]);
export type AnswerDoubt = z.infer<typeof answerDoubtSchema>;

/** What an invoice charges otherwise; `ours` and `theirs` in packs, or in minor units where it is money. `amount`: what is charged too much. */
const invoiceDifferenceSchema = z.object({
  kind: z.enum(['not-ordered', 'more-than-kept', 'price', 'shipping', 'sum']),
  lineId: idSchema<LineId>().nullable(),
  said: z.string().max(2000),
  ours: z.number().int(),
  theirs: z.number().int(),
  amount: moneySchema,
});
export type InvoiceDifference = z.infer<typeof invoiceDifferenceSchema>;

export const orderEventSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('order-made'),
    number: copied,
    supplierId: idSchema<SupplierId>(),
    supplierName: copied,
    modeId: id,
    modeName: copied,
    lines: z.array(orderLineSchema).min(1),
    shipping: moneySchema,
    expectedOn: localDateSchema,
    /** A person sends it, and types what the supplier answers. */
    byHand: z.boolean().optional(),
  }),
  /** Written before it is sent: from here on the supplier may have it, whatever we hear. */
  z.object({ type: z.literal('send-tried'), attempt: z.number().int().min(1) }),
  z.object({
    type: z.literal('send-failed'),
    why: z.enum(['down', 'timeout', 'unreadable', 'not-believed']),
    /** Of an answer that was not believed. */
    problems: z.array(answerProblemSchema).max(500).optional(),
    /** The answer's status, where there was one. */
    status: z.number().int().nullable(),
    retryAt: instantSchema,
  }),
  /** The supplier will not take it as it is: it is not sent again. */
  z.object({ type: z.literal('refused'), status: z.number().int(), detail: z.string().max(500) }),
  z.object({
    type: z.literal('answered'),
    answer: orderAnswerSchema,
    doubts: z.array(answerDoubtSchema).max(2000).optional(),
  }),
  z.object({
    type: z.literal('line-received'),
    lineId: idSchema<LineId>(),
    numberRead: z.string().max(80),
    verdict: z.enum(['as-ordered', 'newer-number', 'same-by-reference', 'wrong', 'damaged']),
    packs: z.number().int().min(1),
    /** What the caliper said of it. */
    measured: z.array(z.object({ label: copied, value: z.string().max(80), unit: copied })),
  }),
  /** What was still to come of a line does not come. */
  z.object({ type: z.literal('line-short'), lineId: idSchema<LineId>(), packs: z.number().int().min(1) }),
  z.object({
    type: z.literal('return-opened'),
    returnId: id,
    lineId: idSchema<LineId>(),
    packs: z.number().int().min(1),
    /** failed: it was new, and broke. */
    why: z.enum(['wrong-part', 'damaged', 'too-many', 'not-needed', 'failed']),
    note: z.string().max(500),
    sendBy: localDateSchema,
    refund: moneySchema,
  }),
  z.object({ type: z.literal('return-sent'), returnId: id, reference: z.string().max(80) }),
  z.object({
    type: z.literal('return-settled'),
    returnId: id,
    how: z.enum(['credited', 'replaced', 'refused']),
    amount: moneySchema,
  }),
  z.object({
    type: z.literal('invoiced'),
    number: z.string().min(1).max(80),
    total: moneySchema,
    differences: z.array(invoiceDifferenceSchema).max(500),
  }),
  /** Tried already: the supplier is asked to take nothing under this key before it counts as cancelled. */
  z.object({ type: z.literal('cancel-asked') }),
  z.object({ type: z.literal('cancelled'), why: z.enum(['not-sent', 'void-at-supplier']) }),
  z.object({ type: z.literal('undone'), eventId: idSchema<EventId>() }),
]);
export type OrderEventData = z.infer<typeof orderEventSchema>;
export type OrderEventOf<T extends OrderEventData['type']> = Extract<OrderEventData, { type: T }>;
export type OrderEvent = StoredEvent<OrderEventData>;

export const ORDER_EVENT_VERSION = 2;

/** A size as the caliper gave it, with what it is of. */
export type MeasuredSize = OrderEventOf<'line-received'>['measured'][number];

/** Something on its way back, or to be. */
export type ReturnState = Omit<OrderEventOf<'return-opened'>, 'type'> & {
  stand: 'open' | 'sent' | 'settled';
  reference: string;
  settled: Omit<OrderEventOf<'return-settled'>, 'type' | 'returnId'> | null;
};

export type PlacedLine = OrderLine & {
  status: 'unanswered' | 'not-in-answer' | OrderAnswer['lines'][number]['status'];
  answeredNumber: string;
  answeredPartId: PartId;
  answeredPrice: Money;
  dueOn: LocalDate | null;
  /** The supplier's own words. */
  note: string | null;
  received: (Omit<OrderEventOf<'line-received'>, 'type' | 'lineId'> & { at: Instant })[];
  /** Packs that do not come after all. */
  short: number;
  /** Packs that are still to come. */
  outstanding: number;
};

/** unsent: nobody but us knows of it. unknown: tried, not heard of. open: answered, something is to come. done: nothing more comes. */
export type OrderPhase = 'unsent' | 'unknown' | 'open' | 'done';

export type OrderState = {
  orderId: OrderId;
  number: string;
  supplierId: SupplierId;
  supplierName: string;
  /** A person sends it, and types what the supplier answers: nothing goes over the wire. */
  byHand: boolean;
  modeId: string;
  modeName: string;
  madeAt: Instant;
  shipping: Money;
  expectedOn: LocalDate;
  lines: PlacedLine[];
  reference: string | null;
  attempts: number;
  failures: (Omit<OrderEventOf<'send-failed'>, 'type' | 'problems'> & { problems: AnswerProblem[]; at: Instant })[];
  /** What a person should know of the answer. */
  doubts: AnswerDoubt[];
  returns: ReturnState[];
  invoices: Omit<OrderEventOf<'invoiced'>, 'type'>[];
  /** When it is sent, or asked about, next: at once where there was no failure yet. */
  nextAt: Instant;
  refused: Omit<OrderEventOf<'refused'>, 'type'> | null;
  cancelAsked: boolean;
  cancelled: OrderEventOf<'cancelled'>['why'] | null;
  phase: OrderPhase;
};

/** State of one order from its events; null before it is made. O(events × lines). */
export function applyOrderEvents(events: readonly OrderEvent[]): OrderState | null {
  let state: OrderState | null = null;
  for (const event of liveEvents(events)) {
    if (event.data.type === 'order-made') state = made(event, event.data);
    else if (state !== null) state = withPhase(step(state, event));
  }
  return state;
}

function made(event: OrderEvent, data: OrderEventOf<'order-made'>): OrderState {
  const { type: _type, lines, ...facts } = data;
  return {
    ...facts,
    byHand: data.byHand ?? false,
    orderId: asId(event.stream.replace(/^order:/, '')),
    madeAt: event.at,
    lines: lines.map((line): PlacedLine => ({
      ...line,
      status: 'unanswered',
      answeredNumber: line.partNumber,
      answeredPartId: line.partId,
      answeredPrice: line.packPrice,
      dueOn: data.expectedOn,
      note: null,
      received: [],
      short: 0,
      outstanding: line.packs,
    })),
    reference: null,
    attempts: 0,
    failures: [],
    doubts: [],
    returns: [],
    invoices: [],
    nextAt: event.at,
    refused: null,
    cancelAsked: false,
    cancelled: null,
    phase: 'unsent',
  };
}

function step(state: OrderState, { data, at }: OrderEvent): OrderState {
  switch (data.type) {
    case 'send-tried':
      return { ...state, attempts: data.attempt };
    case 'send-failed': {
      const { why, status, retryAt, problems = [] } = data;
      // Orders of an older version did not write that they were tried, only that it failed.
      const attempts = Math.max(state.attempts, state.failures.length + 1);
      return {
        ...state,
        attempts,
        failures: [...state.failures, { why, status, problems, retryAt, at }],
        nextAt: retryAt,
      };
    }
    case 'refused':
      return { ...state, refused: { status: data.status, detail: data.detail } };
    case 'cancel-asked':
      return { ...state, cancelAsked: true, nextAt: at };
    case 'cancelled':
      return { ...state, cancelled: data.why };
    case 'answered':
      return {
        ...state,
        reference: data.answer.reference,
        doubts: data.doubts ?? [],
        lines: state.lines.map((line) => answered(line, data.answer)),
      };
    case 'line-received': {
      const { type: _type, lineId, ...receipt } = data;
      return {
        ...state,
        lines: state.lines.map((line) =>
          line.lineId === lineId
            ? {
                ...line,
                received: [...line.received, { ...receipt, at }],
                outstanding: Math.max(0, line.outstanding - receipt.packs),
              }
            : line,
        ),
      };
    }
    case 'line-short':
      return {
        ...state,
        lines: state.lines.map((line) =>
          line.lineId === data.lineId
            ? { ...line, short: line.short + data.packs, outstanding: Math.max(0, line.outstanding - data.packs) }
            : line,
        ),
      };
    case 'return-opened': {
      const { type: _type, ...opened } = data;
      return { ...state, returns: [...state.returns, { ...opened, stand: 'open', reference: '', settled: null }] };
    }
    case 'return-sent':
      return withReturn(state, data.returnId, { stand: 'sent', reference: data.reference });
    case 'return-settled': {
      const { how, amount } = data;
      return withReturn(state, data.returnId, { stand: 'settled', settled: { how, amount } });
    }
    case 'invoiced': {
      const { type: _type, ...invoice } = data;
      return { ...state, invoices: [...state.invoices, invoice] };
    }
    case 'order-made':
    case 'undone':
      return state;
  }
}

const withReturn = (state: OrderState, returnId: string, change: Partial<ReturnState>): OrderState => ({
  ...state,
  returns: state.returns.map((one) => (one.returnId === returnId ? { ...one, ...change } : one)),
});

/** Something of it has still to be sent back, or to be settled. */
export const hasOpenReturns = ({ returns }: Pick<OrderState, 'returns'>): boolean =>
  returns.some(({ stand }) => stand !== 'settled');

function answered(line: PlacedLine, answer: OrderAnswer): PlacedLine {
  const reply = answer.lines.find((candidate) => candidate.lineId === line.lineId);
  if (!reply) return { ...line, status: 'not-in-answer', dueOn: null };
  const { status, partNumber, partId, packPrice, dueOn, note } = reply;
  return {
    ...line,
    status,
    answeredNumber: partNumber,
    answeredPartId: partId,
    answeredPrice: packPrice,
    dueOn,
    note,
  };
}

/** The longest that a failed order waits before it is tried again. */
export const LONGEST_WAIT_MINUTES = 15;

/**
 * Whether an order that waits is to be tried now. A clock that was wrong when it failed says nothing: what failed in the future, or waits longer than any
 * order does, is due.
 */
export function isDue({ nextAt, failures }: Pick<OrderState, 'nextAt' | 'failures'>, now: Instant): boolean {
  const failedAt = failures.at(-1)?.at ?? null;
  const wait = Date.parse(nextAt) - Date.parse(now);
  return (
    wait <= 0 || wait > LONGEST_WAIT_MINUTES * 60_000 || (failedAt !== null && Date.parse(failedAt) > Date.parse(now))
  );
}

/** A line of which nothing comes. */
export const fellAway = ({ status }: PlacedLine): boolean => status === 'rejected' || status === 'not-in-answer';

function withPhase(state: OrderState): OrderState {
  const over =
    state.cancelled !== null ||
    state.refused !== null ||
    state.lines.every((line) => fellAway(line) || line.outstanding === 0);
  const phase: OrderPhase = over
    ? 'done'
    : state.reference !== null
      ? 'open'
      : state.attempts > 0
        ? 'unknown'
        : 'unsent';
  return { ...state, phase };
}

/** What the lines cost as they were answered, with shipping. */
export const orderTotal = (state: OrderState): Money => ({
  ...state.shipping,
  amountMinor:
    state.shipping.amountMinor +
    sum(state.lines.filter((line) => !fellAway(line)).map((line) => line.packs * line.answeredPrice.amountMinor)),
});
