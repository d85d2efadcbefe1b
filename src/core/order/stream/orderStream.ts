import {
  instantSchema,
  liveEvents,
  localDateSchema,
  moneySchema,
  z,
  type LocalDate,
  type StoredEvent,
} from '../../units';

const forTicket = z.object({
  ticketId: z.string(),
  requirementId: z.string(),
  partId: z.string(),
  units: z.number().int().min(1),
});

export const orderLineSchema = z.object({
  offerId: z.string(),
  partId: z.string(),
  partNumber: z.string(),
  description: z.string(),
  supplierNumber: z.string(),
  packs: z.number().int().min(1),
  unitPrice: moneySchema,
  for: z.array(forTicket),
});
export type OrderLine = z.infer<typeof orderLineSchema>;

/** What a supplier answers, line by line (as UBL OrderResponse says it). */
export const orderAnswerSchema = z.object({
  reference: z.string().max(80),
  lines: z
    .array(
      z.object({
        offerId: z.string(),
        status: z.enum(['accepted', 'substituted', 'back-ordered', 'rejected']),
        partId: z.string(),
        partNumber: z.string().max(80),
        unitPrice: moneySchema,
        dueOn: localDateSchema.nullable(),
        note: z.string().max(500).nullable(),
      }),
    )
    .max(500),
});
export type OrderAnswer = z.infer<typeof orderAnswerSchema>;

export const orderEventSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('order-made'),
    number: z.string(),
    supplierId: z.string(),
    supplierName: z.string(),
    modeId: z.string(),
    modeName: z.string(),
    lines: z.array(orderLineSchema).min(1),
    shipping: moneySchema,
    expectedOn: localDateSchema,
  }),
  z.object({
    type: z.literal('send-failed'),
    why: z.enum(['down', 'timeout', 'refused', 'unreadable']),
    detail: z.string(),
    attempt: z.number().int(),
    retryAt: instantSchema.nullable(),
  }),
  z.object({ type: z.literal('answered'), answer: orderAnswerSchema }),
  z.object({
    type: z.literal('line-received'),
    offerId: z.string(),
    numberRead: z.string(),
    verdict: z.enum(['as-ordered', 'newer-number', 'same-by-reference', 'wrong']),
    packs: z.number().int().min(0),
    /** What the caliper said of it; missing where nothing was measured. */
    measured: z.array(z.object({ label: z.string(), value: z.string().max(80), unit: z.string() })).optional(),
  }),
  z.object({ type: z.literal('cancelled'), why: z.string() }),
  z.object({ type: z.literal('undone'), eventId: z.string() }),
]);
export type OrderEventData = z.infer<typeof orderEventSchema>;
export type OrderEvent = StoredEvent<OrderEventData>;

/** A size as the caliper gave it, with what it is of. */
export type MeasuredSize = { label: string; value: string; unit: string };

export type PlacedLine = OrderLine & {
  status: 'unanswered' | OrderAnswer['lines'][number]['status'];
  answeredNumber: string;
  answeredPartId: string;
  answeredPrice: OrderLine['unitPrice'];
  dueOn: LocalDate | null;
  note: string | null;
  received: { numberRead: string; verdict: string; packs: number; measured: MeasuredSize[] } | null;
};

export type OrderState = {
  orderId: string;
  number: string;
  supplierId: string;
  supplierName: string;
  modeId: string;
  modeName: string;
  madeAt: string;
  shipping: OrderLine['unitPrice'];
  expectedOn: LocalDate;
  lines: PlacedLine[];
  reference: string | null;
  failures: { why: string; detail: string; at: string; retryAt: string | null }[];
  cancelled: boolean;
  /** to-send: not answered yet; open: something is still to come; done: all received, rejected or cancelled. */
  phase: 'to-send' | 'open' | 'done';
};

/** State of one order from its events; null before it is made. O(events × lines). */
export function applyOrderEvents(events: readonly OrderEvent[]): OrderState | null {
  let state: OrderState | null = null;
  for (const event of liveEvents(events)) {
    const data = event.data;
    if (data.type === 'order-made') {
      const { number, supplierId, supplierName, modeId, modeName, shipping, expectedOn } = data;
      const lines = data.lines.map((line): PlacedLine => ({
        ...line,
        status: 'unanswered',
        answeredNumber: line.partNumber,
        answeredPartId: line.partId,
        answeredPrice: line.unitPrice,
        dueOn: expectedOn,
        note: null,
        received: null,
      }));
      state = {
        orderId: event.stream.replace(/^order:/, ''),
        number,
        supplierId,
        supplierName,
        modeId,
        modeName,
        shipping,
        expectedOn,
        madeAt: event.at,
        lines,
        reference: null,
        failures: [],
        cancelled: false,
        phase: 'to-send',
      };
    } else if (state !== null) state = step(state, event);
  }
  return state;
}

function step(state: OrderState, event: OrderEvent): OrderState {
  const data = event.data;
  if (data.type === 'send-failed')
    return {
      ...state,
      failures: [...state.failures, { why: data.why, detail: data.detail, at: event.at, retryAt: data.retryAt }],
    };
  if (data.type === 'cancelled') return { ...state, cancelled: true, phase: 'done' };
  if (data.type === 'answered') {
    const lines = state.lines.map((line): PlacedLine => {
      const answer = data.answer.lines.find((candidate) => candidate.offerId === line.offerId);
      return answer
        ? {
            ...line,
            status: answer.status,
            answeredNumber: answer.partNumber,
            answeredPartId: answer.partId,
            answeredPrice: answer.unitPrice,
            dueOn: answer.dueOn,
            note: answer.note,
          }
        : { ...line, status: 'rejected', note: 'Not in the answer.', dueOn: null };
    });
    return withPhase({ ...state, reference: data.answer.reference, lines });
  }
  if (data.type === 'line-received') {
    const { numberRead, verdict, packs, measured = [] } = data;
    const received = { numberRead, verdict, packs, measured };
    return withPhase({
      ...state,
      lines: state.lines.map((line) => (line.offerId === data.offerId ? { ...line, received } : line)),
    });
  }
  return state;
}

const withPhase = (state: OrderState): OrderState => ({
  ...state,
  phase:
    state.cancelled || state.lines.every((line) => line.received !== null || line.status === 'rejected')
      ? 'done'
      : 'open',
});
