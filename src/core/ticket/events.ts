import { instantSchema, localDateSchema, moneySchema, z, type StoredEvent } from '../units';

const id = z.string().min(1);
const note = z.string().max(4000);

export const boughtPartSchema = z.object({
  partId: id,
  partNumber: z.string(),
  description: z.string(),
  quantity: z.number().int().min(1),
  unitPrice: moneySchema.nullable(),
  /** Labour to make it fit in place of the number decided on; none when missing. */
  adaptation: moneySchema.optional(),
});

export const chosenPartSchema = z.object({
  requirementId: id,
  roleId: id,
  causeId: id.nullable(),
  companion: z.boolean(),
  position: z.string(),
  route: z.enum(['maker', 'sister', 'generic', 'kit', 'shelf']),
  buy: z.array(boughtPartSchema).min(1),
  /** Other numbers that would do as well: the order plan may take any one. */
  alternatives: z.array(boughtPartSchema),
});
export type ChosenPart = z.infer<typeof chosenPartSchema>;

export const offeredOptionSchema = z.object({
  id,
  title: z.string(),
  causeId: id.nullable(),
  net: moneySchema,
  tax: moneySchema,
  gross: moneySchema,
  handsOnMinutes: z.number(),
  readyOn: localDateSchema.nullable(),
});
export type OfferedOption = z.infer<typeof offeredOptionSchema>;

/** Everything that can happen to a ticket. Append-only: a change of meaning gets a new version and a migration. */
export const ticketEventSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('opened'),
    number: z.number().int().min(1),
    customerId: id.nullable(),
    machineId: id.nullable(),
  }),
  z.object({
    type: z.literal('customer-noted'),
    customerId: id,
    name: z.string().max(200),
    phone: z.string().max(60),
    place: z.string().max(200),
  }),
  z.object({
    type: z.literal('plate-read'),
    text: note,
    modelId: id,
    modelNumber: z.string(),
    makerId: id,
    platformId: id,
    badge: z.string(),
    probability: z.number().min(0).max(1),
    others: z.array(z.object({ modelId: id, modelNumber: z.string(), probability: z.number() })),
    confirmed: z.boolean(),
  }),
  z.object({ type: z.literal('plate-not-listed'), text: note }),
  z.object({ type: z.literal('serial-noted'), serial: z.string().max(80) }),
  z.object({ type: z.literal('bought-on'), date: localDateSchema }),
  z.object({ type: z.literal('complaint-noted'), text: note }),
  z.object({
    type: z.literal('finding-noted'),
    findingId: id,
    answer: z.enum(['yes', 'no', 'not-sure']),
    threeWords: z.string(),
  }),
  z.object({ type: z.literal('code-noted'), code: z.string().max(20), findingId: id.nullable(), meaning: z.string() }),
  z.object({ type: z.literal('check-done'), checkId: id, outcomeId: id.nullable(), text: z.string() }),
  z.object({
    type: z.literal('reading-noted'),
    limitId: id,
    label: z.string(),
    unit: z.string(),
    value: z.number().nullable(),
    ambientCelsius: z.number().nullable(),
    verdict: z.string(),
    checkId: id.nullable(),
    outcomeId: id.nullable(),
  }),
  z.object({
    type: z.literal('part-measured'),
    roleId: id,
    property: id,
    label: z.string(),
    value: z.string().max(80),
  }),
  z.object({ type: z.literal('cause-decided'), causeId: id, name: z.string() }),
  z.object({ type: z.literal('fix-failed'), causeId: id }),
  z.object({ type: z.literal('parts-chosen'), causeId: id, parts: z.array(chosenPartSchema) }),
  z.object({
    type: z.literal('quoted'),
    options: z.array(offeredOptionSchema).min(1).max(3),
    worth: z.object({ annualRepair: z.number(), annualReplace: z.number(), probabilityRepair: z.number() }).nullable(),
  }),
  z.object({
    type: z.literal('customer-answered'),
    answer: z.enum(['yes', 'no', 'thinking']),
    optionId: id.nullable(),
  }),
  z.object({
    type: z.literal('part-ordered'),
    requirementId: id,
    orderId: id,
    orderNumber: z.string(),
    supplierName: z.string(),
    dueOn: localDateSchema.nullable(),
  }),
  z.object({
    type: z.literal('part-due'),
    requirementId: id,
    orderId: id,
    dueOn: localDateSchema.nullable(),
    why: z.string(),
  }),
  z.object({ type: z.literal('part-order-cancelled'), requirementId: id, orderId: id, why: z.string() }),
  z.object({
    type: z.literal('part-received'),
    requirementId: id,
    orderId: id.nullable(),
    partNumber: z.string(),
    verdict: z.enum(['as-ordered', 'newer-number', 'same-by-reference', 'wrong', 'from-shelf']),
  }),
  z.object({ type: z.literal('step-ticked'), key: id, operationId: id, waitUntil: instantSchema.nullable() }),
  z.object({ type: z.literal('step-cleared'), key: id }),
  z.object({ type: z.literal('bench-finished'), operationIds: z.array(id) }),
  z.object({ type: z.literal('proof-noted'), proofId: id, title: z.string(), passed: z.boolean() }),
  z.object({ type: z.literal('ready-told'), how: z.string().max(200) }),
  z.object({ type: z.literal('handed-over'), advice: note }),
  z.object({
    type: z.literal('closed'),
    outcome: z.enum(['repaired', 'declined', 'not-mendable']),
    minutesTaken: z.number().min(0).nullable(),
    plannedMinutes: z.number().min(0).nullable(),
    rightFirstTime: z.boolean().nullable(),
    /** The machine stays on the shelf, for its parts. */
    keptAsDonor: z.boolean().optional(),
  }),
  /** On the donor's own ticket: what was taken from it, for which one. */
  z.object({ type: z.literal('donor-part-taken'), roleId: id, position: z.string(), forTicket: z.number().int() }),
  z.object({ type: z.literal('donor-gone') }),
  z.object({ type: z.literal('note-added'), text: note }),
  z.object({ type: z.literal('undone'), eventId: id }),
]);

export type TicketEventData = z.infer<typeof ticketEventSchema>;
export type TicketEventType = TicketEventData['type'];
export type TicketEvent = StoredEvent<TicketEventData>;

/** The version in which each type is written today. */
export const TICKET_EVENT_VERSION = 1;

/** What has left the shop is cancelled, not undone. */
export const NOT_UNDOABLE: readonly TicketEventType[] = [
  'opened',
  'part-ordered',
  'part-due',
  'part-order-cancelled',
  'undone',
];
