import {
  instantSchema,
  localDateSchema,
  moneySchema,
  type StoredEvent,
  idSchema,
  type RoleId,
  type MakerId,
  type PlatformId,
  type PartId,
  type OrderId,
  type LineId,
  type ModelId,
  type TicketId,
  type EventId,
  type RequirementId,
  type CauseId,
  type StockId,
} from '../units';
import * as z from '../units/zod';

const id = z.string().min(1).max(200);

/** The longest that each text may be: the fields of the screens take no more, and the door refuses what comes another way. */
export const TEXT_LIMITS = { note: 4000, name: 200, phone: 60, serial: 80, code: 20, size: 80 } as const;
const note = z.string().max(TEXT_LIMITS.note);
/** Words copied from a catalogue or a supplier: theirs, not ours. */
const copied = z.string().max(2000);

/** What a decision rested on when it was made. */
export const basisSchema = z.object({
  modelId: idSchema<ModelId>().nullable(),
  serial: z.string().nullable(),
  causeId: idSchema<CauseId>().nullable(),
  /** The way of mending it that was decided on; null or nothing: its own. */
  fixId: id.nullable().optional(),
});
export type Basis = z.infer<typeof basisSchema>;

export const boughtPartSchema = z.object({
  partId: idSchema<PartId>(),
  partNumber: copied,
  description: copied,
  quantity: z.number().int().min(1),
  /** What this quantity costs to buy, in whole packs; null when somebody must be asked. */
  cost: moneySchema.nullable(),
  /** Labour to make it fit in place of the number decided on; none when missing. */
  adaptation: moneySchema.optional(),
});
export type BoughtPart = z.infer<typeof boughtPartSchema>;

/** A part that a ticket needs. Its id is given when it is decided: another number decided later is another requirement. */
export const requirementSchema = z.object({
  requirementId: idSchema<RequirementId>(),
  roleId: idSchema<RoleId>(),
  causeId: idSchema<CauseId>().nullable(),
  companion: z.boolean(),
  position: z.string(),
  route: z.enum(['maker', 'sister', 'generic', 'kit', 'shelf', 'typed', 'donor']),
  /** The machine on the shelf that it is taken out of. */
  donor: z.object({ ticketId: idSchema<TicketId>(), number: z.number().int() }).optional(),
  bought: boughtPartSchema,
  /** Other numbers of which the same quantity would do as well: the order plan may take any one. */
  alternatives: z.array(boughtPartSchema),
});
export type Requirement = z.infer<typeof requirementSchema>;

/** What a person looks at before the first step; the parts only where they have no number by which anything could tell that they came. */
export const READY_ITEMS = ['parts', 'tools', 'sundries', 'place'] as const;

/** By what means a customer answers. */
export const ANSWER_MEANS = ['phone', 'counter', 'message', 'signed'] as const;

export const quoteLineSchema = z.object({
  kind: z.enum(['part', 'companion', 'sundry', 'labour', 'fee', 'reserve', 'collection', 'delivery']),
  /** The catalogue's words for a part; empty for what the interface names itself. */
  description: copied,
  partId: idSchema<PartId>().nullable(),
  partNumber: copied.nullable(),
  quantity: z.number().int().min(1),
  /** Minutes charged, for labour. */
  minutes: z.number().min(0).nullable(),
  /** null: nobody lists a price; it is to be asked and is not in the sum. */
  amounts: z.object({ net: moneySchema, tax: moneySchema, gross: moneySchema }).nullable(),
  /** The price is what such a part usually costs: nobody has named one. */
  estimated: z.boolean().optional(),
  /** It is used: out of the machine with this number. */
  usedFrom: z.number().int().optional(),
});
export type OfferedLine = z.infer<typeof quoteLineSchema>;

export const offeredOptionSchema = z.object({
  id,
  kind: z.enum(['best-fit', 'cheaper-part', 'while-open', 'other-way', 'used-part']),
  /** How the first cause is mended where that is not its own way: by the catalogue's id, and its words. */
  fixId: id.nullable().optional(),
  fixName: copied.nullable().optional(),
  /** P(it mends it), and how long that lasts as a share of a new part's life, where somebody named them. */
  cure: z.number().min(0).max(1).optional(),
  lifeShare: z.number().min(0).max(1).optional(),
  causeIds: z.array(idSchema<CauseId>()),
  causeNames: z.array(copied),
  net: moneySchema,
  tax: moneySchema,
  gross: moneySchema,
  handsOnMinutes: z.number(),
  /** Beside the time: people at once, and a floor that may get wet; older offers do not say. */
  takes: z.object({ people: z.number().int().min(1), wet: z.boolean() }).optional(),
  readyOn: localDateSchema.nullable(),
  lines: z.array(quoteLineSchema),
  /** Asked for before the parts are ordered. */
  deposit: moneySchema.nullable().optional(),
  parts: z.array(requirementSchema),
});
export type OfferedOption = z.infer<typeof offeredOptionSchema>;

/** One step of a work sheet. */
export const stepSchema = z.object({ phase: z.enum(['strip', 'work', 'refit']), operationId: id });

const lineOf = { requirementId: idSchema<RequirementId>(), orderId: idSchema<OrderId>(), lineId: idSchema<LineId>() };

/** Everything that can happen to a ticket. Append-only: a change of meaning gets a new version and a migration. Facts only, no sentences of ours. */
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
    /** Each by itself: what is not named stays as it is. */
    name: z.string().max(TEXT_LIMITS.name).optional(),
    phone: z.string().max(TEXT_LIMITS.phone).optional(),
    place: z.string().max(TEXT_LIMITS.name).optional(),
  }),
  z.object({
    type: z.literal('plate-read'),
    text: note,
    modelId: idSchema<ModelId>(),
    modelNumber: copied,
    makerId: idSchema<MakerId>(),
    platformId: idSchema<PlatformId>(),
    badge: copied,
    probability: z.number().min(0).max(1),
    others: z.array(z.object({ modelId: idSchema<ModelId>(), modelNumber: copied, probability: z.number() })),
    confirmed: z.boolean(),
    /** P(not in the catalogue) when it was read; nobody noted it before. */
    unknown: z.number().min(0).max(1).optional(),
  }),
  z.object({ type: z.literal('plate-not-listed'), text: note }),
  z.object({ type: z.literal('serial-noted'), serial: z.string().max(TEXT_LIMITS.serial) }),
  /** Somebody looked: there is none, or it cannot be read. */
  z.object({ type: z.literal('serial-unreadable') }),
  z.object({ type: z.literal('bought-on'), date: localDateSchema }),
  /** What a day without a machine costs this customer, as they say; null: nobody says, and the shop's figure counts. */
  z.object({ type: z.literal('day-without-noted'), perDay: moneySchema.nullable() }),
  /** Whether the shop fetches the machine, and brings it back. */
  z.object({ type: z.literal('carriage-noted'), collect: z.boolean(), bringBack: z.boolean() }),
  /** How old the owner thinks it is, in years. */
  z.object({ type: z.literal('age-guessed'), years: z.number().min(0).max(60) }),
  /** Somebody asked: the owner cannot say how old it is. */
  z.object({ type: z.literal('age-not-known') }),
  /** Of a machine that no catalogue lists: what was seen of how it is built; null: it cannot be told. */
  z.object({ type: z.literal('kind-judged'), questionId: id, answerId: id.nullable() }),
  /** Of a machine that no catalogue lists: the name on it. */
  z.object({ type: z.literal('make-noted'), name: z.string().max(TEXT_LIMITS.name) }),
  /** A listed model whose number is close by, taken for a sister on the same platform; null: it is none. */
  z.object({
    type: z.literal('relative-judged'),
    relative: z
      .object({
        modelId: idSchema<ModelId>(),
        modelNumber: copied,
        platformId: idSchema<PlatformId>(),
        probability: z.number().min(0).max(1),
      })
      .nullable(),
  }),
  /** A number that no catalogue lists, as typed or read off the old part; an empty number takes it back. */
  z.object({
    type: z.literal('part-typed'),
    roleId: idSchema<RoleId>(),
    partNumber: z.string().max(TEXT_LIMITS.size),
    /** Of one piece, net, what the shop pays; null when it is still to be asked. */
    piecePrice: moneySchema.nullable(),
    days: z.number().int().min(0).max(365).nullable(),
    supplierName: z.string().max(TEXT_LIMITS.name),
  }),
  /** The number on an old part, as it was read or typed; an empty text takes it back. */
  z.object({ type: z.literal('old-number-read'), roleId: idSchema<RoleId>(), text: note }),
  z.object({ type: z.literal('complaint-noted'), text: note }),
  z.object({
    type: z.literal('finding-noted'),
    findingId: id,
    answer: z.enum(['yes', 'no', 'not-sure']),
    threeWords: copied,
  }),
  z.object({
    type: z.literal('code-noted'),
    code: z.string().max(TEXT_LIMITS.code),
    findingId: id.nullable(),
    /** null: the maker's list does not have it. */
    meaning: copied.nullable(),
  }),
  z.object({
    type: z.literal('check-done'),
    checkId: id,
    outcomeId: id.nullable(),
    title: copied,
    /** null: not sure. */
    outcome: copied.nullable(),
  }),
  /** The run in which it fails, so that the same can be run as the proof. `minute`: when it failed; null where nobody knows. */
  z.object({
    type: z.literal('failing-run-noted'),
    /** Of the knowledge; null for one that was described by hand. */
    runId: id.nullable(),
    title: copied,
    loadKg: z.number().min(0).max(30),
    rpm: z.number().min(0).max(3000),
    minute: z.number().min(0).max(600).nullable(),
    seen: note,
  }),
  /** What the dead part looks like: why it failed. null: nothing that would tell. */
  z.object({ type: z.literal('wreck-read'), causeId: idSchema<CauseId>(), signId: id.nullable(), text: copied }),
  z.object({
    type: z.literal('reading-noted'),
    limitId: id,
    label: copied,
    unit: copied,
    value: z.number().nullable(),
    ambientCelsius: z.number().nullable(),
    /** Height of the water at a level sensor, in millimetres. */
    columnMm: z.number().min(0).max(2000).optional(),
    /** Of quantities that must be alike: all of them; `value` is then the largest. */
    values: z.array(z.number()).max(6).optional(),
    verdict: z.enum(['within', 'below', 'above', 'open']),
    low: z.number().nullable(),
    high: z.number().nullable(),
    checkId: id.nullable(),
    outcomeId: id.nullable(),
    /** With what it was measured. */
    instrument: z.string().max(TEXT_LIMITS.name).optional(),
  }),
  z.object({
    type: z.literal('part-measured'),
    roleId: idSchema<RoleId>(),
    property: id,
    label: copied,
    value: z.string().max(TEXT_LIMITS.size),
  }),
  z.object({
    type: z.literal('seats-judged'),
    seats: z.array(
      z.object({
        roleName: copied,
        seat: z.enum(['journal', 'housing', 'lip-track']),
        verdict: z.enum(['sound', 'worn', 'measure-finer']),
        limitMm: z.number(),
        instead: copied,
      }),
    ),
  }),
  z.object({
    type: z.literal('cause-decided'),
    causeId: idSchema<CauseId>(),
    name: copied,
    needsPart: z.boolean(),
    /** The way of mending it that was decided on; without it, its own. */
    fixId: id.nullable().optional(),
    /** P(it is this) as it was shown then. */
    probability: z.number().min(0).max(1).optional(),
  }),
  /** A job that the shop wants offered together with the repair; null: none but what the computation says. */
  z.object({ type: z.literal('also-chosen'), causeId: idSchema<CauseId>().nullable(), name: copied }),
  /** `fixId`: which way of mending it did not help; without it, its own. */
  z.object({ type: z.literal('fix-failed'), causeId: idSchema<CauseId>(), fixId: id.nullable().optional() }),
  z.object({
    type: z.literal('parts-chosen'),
    causeId: idSchema<CauseId>(),
    parts: z.array(requirementSchema),
    on: basisSchema,
  }),
  /** A decision whose basis moved, looked at again: it stands on the new one. */
  z.object({ type: z.literal('decision-kept'), decision: z.enum(['part', 'offer']), on: basisSchema }),
  z.object({
    type: z.literal('quoted'),
    options: z.array(offeredOptionSchema).min(1).max(3),
    fee: z.object({ gross: moneySchema, waived: z.boolean() }),
    /** The last day on which it stands; older offers name none. */
    validUntil: localDateSchema.optional(),
    warrantyMonths: z.number().int().min(0).optional(),
    worth: z
      .object({
        annualRepair: z.number(),
        annualReplace: z.number(),
        probabilityRepair: z.number(),
        /** What the customer was told and shown, as it stood then; older offers do not hold it. */
        told: z
          .object({
            repair: z.boolean(),
            quote: z.number(),
            advantage: z.number(),
            replacePrice: z.number(),
            rho: z.number(),
            spreadRepair: z.tuple([z.number(), z.number()]),
            spreadReplace: z.tuple([z.number(), z.number()]),
            /** How old the machine was, where the serial, the receipt or the owner says so. */
            ageYears: z.number().min(0).max(99).optional(),
            /** What the house rules said of the same repair. */
            rules: z.array(z.object({ id, saysRepair: z.boolean() })).optional(),
          })
          .optional(),
      })
      .nullable(),
    on: basisSchema,
  }),
  z.object({
    type: z.literal('customer-answered'),
    answer: z.enum(['yes', 'no', 'thinking']),
    /** The event of the offer that was answered. */
    offer: idSchema<EventId>(),
    optionId: id.nullable(),
    /** Who said it, and by what means, where it was noted. */
    by: copied.optional(),
    how: z.enum(ANSWER_MEANS).optional(),
  }),
  z.object({
    type: z.literal('part-ordered'),
    ...lineOf,
    units: z.number().int().min(1),
    orderNumber: copied,
    supplierName: copied,
    dueOn: localDateSchema.nullable(),
  }),
  z.object({
    type: z.literal('part-due'),
    ...lineOf,
    dueOn: localDateSchema.nullable(),
    status: z.enum(['accepted', 'substituted', 'back-ordered']),
    note: copied.nullable(),
  }),
  z.object({
    type: z.literal('part-order-cancelled'),
    ...lineOf,
    why: z.enum(['cancelled', 'rejected', 'not-in-answer', 'refused', 'void', 'short']),
    note: copied.nullable(),
  }),
  z.object({
    type: z.literal('part-received'),
    requirementId: idSchema<RequirementId>(),
    from: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('order'), orderId: idSchema<OrderId>(), lineId: idSchema<LineId>() }),
      /** Without a lot: nobody counts what lies there. */
      z.object({ kind: z.literal('shelf'), stockId: idSchema<StockId>().optional() }),
      z.object({ kind: z.literal('donor'), ticketId: idSchema<TicketId>(), number: z.number().int() }),
    ]),
    units: z.number().int().min(1),
    partNumber: copied,
    verdict: z.enum(['as-ordered', 'newer-number', 'same-by-reference', 'wrong']),
  }),
  /** Pieces of a lot on the shelf are kept for this ticket. */
  z.object({
    type: z.literal('part-reserved'),
    requirementId: idSchema<RequirementId>(),
    stockId: idSchema<StockId>(),
    place: copied,
    partNumber: copied,
    units: z.number().int().min(1),
  }),
  z.object({
    type: z.literal('reservation-released'),
    requirementId: idSchema<RequirementId>(),
    stockId: idSchema<StockId>(),
  }),
  /** Here, not needed after all, and put on the shelf. */
  z.object({
    type: z.literal('part-shelved'),
    requirementId: idSchema<RequirementId>(),
    units: z.number().int().min(1),
    partNumber: copied,
  }),
  z.object({ type: z.literal('step-ticked'), step: stepSchema, title: copied, waitUntil: instantSchema.nullable() }),
  /** Who works on it from now on: what is ticked and parked is theirs. An empty name: nobody said. */
  z.object({ type: z.literal('worker-noted'), name: z.string().max(TEXT_LIMITS.name) }),
  /** Before the first step: looked at, and there; or not after all. */
  z.object({ type: z.literal('readied'), item: z.enum(READY_ITEMS), ok: z.boolean() }),
  /** Before the machine is closed: counted, and what was not home of it. */
  z.object({ type: z.literal('counted-home'), missing: z.array(z.string().max(TEXT_LIMITS.name)).max(100) }),
  /** A proof failed, and the machine is opened again: these steps are to be put back once more. */
  z.object({ type: z.literal('bench-reopened'), steps: z.array(stepSchema).min(1).max(200) }),
  /** A remark on a step, for whoever puts it back; an empty text takes it away. */
  z.object({ type: z.literal('step-remarked'), step: stepSchema, text: note }),
  /** A picture of a step or of a piece, as it was drawn upon; `photoId` names the picture that is kept with the ticket. */
  z.object({ type: z.literal('photographed'), photoId: id, step: stepSchema, text: note }),
  z.object({ type: z.literal('photograph-dropped'), photoId: id }),
  /** A piece that nobody knows the name of, and where it was: it gets a number of its own. */
  z.object({
    type: z.literal('piece-set-aside'),
    piece: z.number().int().min(1),
    text: note,
    step: stepSchema,
    photoId: id.nullable(),
  }),
  z.object({ type: z.literal('piece-home'), piece: z.number().int().min(1), home: z.boolean() }),
  /** Something to do at the swap: of the new part, of the old one, before it is thrown away. */
  z.object({ type: z.literal('swap-ticked'), roleId: idSchema<RoleId>(), text: copied, done: z.boolean() }),
  /** It would not come: what was done about it, and how long that is reckoned to take; null: it was not needed after all. */
  z.object({
    type: z.literal('rescue-chosen'),
    operationId: id,
    title: copied,
    minutes: z.number().min(0).nullable(),
  }),
  /** The bead is on: all bolts are in before it skins. */
  z.object({ type: z.literal('bead-laid'), operationId: id, skinUntil: instantSchema }),
  /** What it may cost, told while the cause was open: eight in ten lie between. Gross. */
  z.object({ type: z.literal('range-told'), low: moneySchema, high: moneySchema }),
  /** The customer, asked for more work than was agreed: minutes in all beyond it, and what they come to. */
  z.object({ type: z.literal('more-answered'), minutes: z.number().min(0), gross: moneySchema, agreed: z.boolean() }),
  /** It stays open, and waits. */
  z.object({ type: z.literal('parked'), text: note }),
  z.object({ type: z.literal('taken-up') }),
  /** The clock at the bench: hands-on time is what runs between. */
  z.object({ type: z.literal('work-started') }),
  z.object({ type: z.literal('work-stopped') }),
  z.object({ type: z.literal('step-cleared'), step: stepSchema, title: copied }),
  /**
   * `proofIds`: what must be tested, as it follows from what was disturbed; null in tickets of an older version, which did not say: there one passed proof
   * and none failed is enough.
   */
  z.object({ type: z.literal('bench-finished'), operationIds: z.array(id), proofIds: z.array(id).nullable() }),
  /** The run that failed, run again as the proof: as it was run, and what was seen. */
  z.object({
    type: z.literal('run-repeated'),
    loadKg: z.number().min(0).max(30),
    rpm: z.number().min(0).max(3000),
    minutes: z.number().min(0).max(600),
    seen: note,
  }),
  z.object({ type: z.literal('proof-noted'), proofId: id, title: copied, passed: z.boolean() }),
  z.object({ type: z.literal('ready-told'), how: z.enum(['phone']) }),
  z.object({ type: z.literal('handed-over'), advice: note }),
  z.object({
    type: z.literal('closed'),
    outcome: z.enum(['repaired', 'declined', 'not-mendable']),
    takenMinutes: z.number().min(0).nullable(),
    /** By the list, without what was learned: what is learned next is learned against this. */
    listMinutes: z.number().min(0).nullable(),
    rightFirstTime: z.boolean().nullable(),
    /** The machine stays on the shelf, for its parts. */
    keptAsDonor: z.boolean().optional(),
  }),
  /** A closed ticket whose machine came back. */
  z.object({ type: z.literal('came-back'), sameFault: z.boolean() }),
  /** On the donor's own ticket: what was taken from it, for which one; null: for the shelf. */
  z.object({
    type: z.literal('donor-part-taken'),
    roleId: idSchema<RoleId>(),
    position: z.string(),
    forTicket: z.number().int().nullable(),
  }),
  z.object({ type: z.literal('donor-gone') }),
  z.object({ type: z.literal('note-added'), text: note }),
  z.object({ type: z.literal('undone'), eventId: idSchema<EventId>() }),
]);

export type TicketEventData = z.infer<typeof ticketEventSchema>;
export type TicketEventType = TicketEventData['type'];
export type TicketEventOf<T extends TicketEventType> = Extract<TicketEventData, { type: T }>;
export type TicketEvent = StoredEvent<TicketEventData>;

/** The version in which each type is written today. */
export const TICKET_EVENT_VERSION = 2;
