import {
  idSchema,
  liveEvents,
  moneySchema,
  sum,
  type EventId,
  type Instant,
  type LineId,
  type Money,
  type OrderId,
  type PartId,
  type RequirementId,
  type RoleId,
  type StockId,
  type StoredEvent,
  type TicketId,
  asId,
} from '../units';
import * as z from '../units/zod';

const copied = z.string().max(2000);
const units = z.number().int().min(1).max(100_000);
const ticket = { ticketId: idSchema<TicketId>(), number: z.number().int() };

/** Where a lot came from. */
const originSchema = z.discriminatedUnion('kind', [
  /** Somebody put it there: bought over a counter, found, counted. */
  z.object({ kind: z.literal('by-hand') }),
  /** What stayed over from a pack, or came beyond what was ordered. */
  z.object({
    kind: z.literal('order'),
    orderId: idSchema<OrderId>(),
    lineId: idSchema<LineId>(),
    orderNumber: copied,
  }),
  /** Taken out of a machine that is kept for its parts. */
  z.object({ kind: z.literal('donor'), ...ticket, roleId: idSchema<RoleId>(), position: copied }),
]);
export type StockOrigin = z.infer<typeof originSchema>;

export const stockEventSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('stocked'),
    partId: idSchema<PartId>().nullable(),
    partNumber: z.string().min(1).max(80),
    description: copied,
    place: z.string().max(60),
    units,
    /** What one cost the shop. */
    unitCost: moneySchema,
    used: z.boolean(),
    origin: originSchema,
  }),
  z.object({ type: z.literal('reserved'), ...ticket, requirementId: idSchema<RequirementId>(), units }),
  z.object({ type: z.literal('released'), requirementId: idSchema<RequirementId>(), units }),
  z.object({ type: z.literal('taken'), ...ticket, requirementId: idSchema<RequirementId>(), units }),
  /** What a ticket had taken and did not need. */
  z.object({ type: z.literal('put-back'), ...ticket, units }),
  /** Lost, broken, sold over the counter, sent back. */
  z.object({ type: z.literal('written-off'), units, why: z.enum(['broken', 'sold', 'sent-back', 'scrapped']) }),
  /** So many lie there. */
  z.object({ type: z.literal('counted'), units: z.number().int().min(0).max(100_000) }),
  z.object({ type: z.literal('moved'), place: z.string().max(60) }),
  z.object({ type: z.literal('tried'), works: z.boolean() }),
  z.object({ type: z.literal('undone'), eventId: idSchema<EventId>() }),
]);
export type StockEventData = z.infer<typeof stockEventSchema>;
export type StockEventOf<T extends StockEventData['type']> = Extract<StockEventData, { type: T }>;
export type StockEvent = StoredEvent<StockEventData>;
export type StockAppend = { kind: 'stock'; stockId: StockId; data: readonly StockEventData[] };

export const STOCK_EVENT_VERSION = 1;

export type Reservation = { ticketId: TicketId; number: number; requirementId: RequirementId; units: number };

/** What changed the number of pieces, and by how many. */
export type Movement = {
  at: Instant;
  units: number;
  why: Exclude<StockEventData['type'], 'reserved' | 'released' | 'moved' | 'tried' | 'undone'>;
  /** The ticket that took it or gave it back. */
  number: number | null;
  /** Of what was written off. */
  lost: StockEventOf<'written-off'>['why'] | null;
};

/** A lot: pieces of one number, from one place, at one price. */
export type StockState = {
  stockId: StockId;
  partId: PartId | null;
  partNumber: string;
  description: string;
  place: string;
  unitCost: Money;
  used: boolean;
  /** null: nobody tried it yet. */
  works: boolean | null;
  origin: StockOrigin;
  since: Instant;
  lastAt: Instant;
  /** Pieces that lie there; of these, what nobody has a claim to. */
  units: number;
  free: number;
  reserved: readonly Reservation[];
  movements: readonly Movement[];
};

/** State of one lot from its events; null before it is stocked. The pieces are the sum of the movements. O(events × reservations). */
export function applyStockEvents(events: readonly StockEvent[]): StockState | null {
  let state: StockState | null = null;
  for (const event of liveEvents(events)) {
    if (event.data.type === 'stocked') state = stocked(event, event.data);
    else if (state !== null) state = { ...step(state, event), lastAt: event.at };
    if (state !== null) state = withUnits(state);
  }
  return state;
}

const stocked = ({ stream, at }: StockEvent, data: StockEventOf<'stocked'>): StockState => {
  const { type: why, units: came, ...facts } = data;
  return {
    ...facts,
    stockId: asId(stream.replace(/^stock:/, '')),
    works: null,
    since: at,
    lastAt: at,
    units: came,
    free: came,
    reserved: [],
    movements: [{ at, units: came, why, number: null, lost: null }],
  };
};

function step(state: StockState, { at, data }: StockEvent): StockState {
  const move = (by: number, number: number | null = null, lost: Movement['lost'] = null): Movement[] => [
    ...state.movements,
    { at, units: by, why: data.type as Movement['why'], number, lost },
  ];
  switch (data.type) {
    case 'reserved': {
      const { type: _type, ...claim } = data;
      return { ...state, reserved: [...state.reserved, claim] };
    }
    case 'released':
      return { ...state, reserved: less(state.reserved, data.requirementId, data.units) };
    case 'taken':
      return {
        ...state,
        reserved: less(state.reserved, data.requirementId, data.units),
        movements: move(-data.units, data.number),
      };
    case 'put-back':
      return { ...state, movements: move(data.units, data.number) };
    case 'written-off':
      return { ...state, movements: move(-data.units, null, data.why) };
    case 'counted':
      return { ...state, movements: move(data.units - state.units) };
    case 'moved':
      return { ...state, place: data.place };
    case 'tried':
      return { ...state, works: data.works };
    case 'stocked':
    case 'undone':
      return state;
  }
}

/** Claims of a requirement, so many fewer. */
function less(claims: readonly Reservation[], requirementId: RequirementId, count: number): Reservation[] {
  let left = count;
  return claims.flatMap((claim) => {
    if (claim.requirementId !== requirementId) return [claim];
    const gone = Math.min(left, claim.units);
    left -= gone;
    return claim.units > gone ? [{ ...claim, units: claim.units - gone }] : [];
  });
}

function withUnits(state: StockState): StockState {
  const there = sum(state.movements.map((movement) => movement.units));
  const claimed = sum(state.reserved.map((claim) => claim.units));
  // Where fewer were counted than are promised, none is free.
  return { ...state, units: there, free: state.works === false ? 0 : Math.max(0, there - claimed) };
}

/** Pieces of a lot that a requirement may take: its own claim and what is free. */
export const mayTake = (state: StockState, requirementId: RequirementId): number =>
  state.works === false
    ? 0
    : Math.min(
        state.units,
        state.free +
          sum(state.reserved.filter((claim) => claim.requirementId === requirementId).map((claim) => claim.units)),
      );
