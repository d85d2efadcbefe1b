import {
  openNeed,
  stillLacking,
  type Context,
  type Refusal,
  type Requirement,
  type TicketAppend,
  type TicketState,
} from '../ticket';
import {
  fail,
  money,
  ok,
  type Money,
  type PartId,
  type RequirementId,
  type Result,
  type RoleId,
  type StockId,
} from '../units';
import {
  mayTake,
  type StockAppend,
  type StockEventData,
  type StockEventOf,
  type StockOrigin,
  type StockState,
} from './stockStream';

export type StockDecision = Result<readonly (StockAppend | TicketAppend)[], Refusal>;

const on = ({ stockId }: StockState, ...data: StockEventData[]): StockAppend => ({ kind: 'stock', stockId, data });

export type Lot = {
  partId: PartId | null;
  partNumber: string;
  description: string;
  place: string;
  units: number;
  unitCost: Money;
  used: boolean;
  origin: StockOrigin;
};

/** A new lot. */
export const stock = (lot: Lot, { newId }: Pick<Context, 'newId'>): StockAppend => ({
  kind: 'stock',
  stockId: newId<StockId>(),
  data: [{ type: 'stocked', ...lot }],
});

const notThere = ({ partNumber }: StockState): StockDecision => fail({ kind: 'not-in-stock', partNumber });

/**
 * Takes what a requirement lacks, as far as the lot has it, and notes it on both. What was kept for this requirement is taken first; what is kept for others
 * stays theirs.
 */
export function takeFromStock(lot: StockState, ticket: TicketState, requirementId: RequirementId): StockDecision {
  const open = openNeed(ticket, requirementId);
  if (!open.ok) return open;
  const { supply, requirement } = open.value;
  const claimed = lot.reserved.reduce(
    (all, claim) => all + (claim.requirementId === requirementId ? claim.units : 0),
    0,
  );
  const wanted = Math.min(claimed, supply.coming) + supply.missing;
  if (wanted === 0) return fail({ kind: 'not-needed', ticket: ticket.number });
  const units = Math.min(wanted, mayTake(lot, requirementId));
  if (units < 1) return notThere(lot);
  const { ticketId, number } = ticket;
  return ok([
    on(lot, { type: 'taken', ticketId, number, requirementId, units }),
    {
      kind: 'ticket',
      ticketId,
      data: [
        {
          type: 'part-received',
          requirementId,
          from: { kind: 'shelf', stockId: lot.stockId },
          units,
          partNumber: lot.partNumber,
          verdict: lot.partId === requirement.bought.partId ? 'as-ordered' : 'same-by-reference',
        },
      ],
    },
  ]);
}

/** Keeps pieces of a lot for a requirement: a claim on the lot, a delivery from the shelf on the ticket. */
export function reserve(
  lot: StockState,
  ticket: TicketState,
  requirementId: RequirementId,
  units: number,
): StockDecision {
  const lacking = stillLacking(ticket, requirementId);
  if (!lacking.ok) return lacking;
  if (units < 1 || units > lot.free) return notThere(lot);
  if (units > lacking.value.supply.missing) return fail({ kind: 'not-needed', ticket: ticket.number });
  const { ticketId, number } = ticket;
  const { stockId, place, partNumber } = lot;
  return ok([
    on(lot, { type: 'reserved', ticketId, number, requirementId, units }),
    { kind: 'ticket', ticketId, data: [{ type: 'part-reserved', requirementId, stockId, place, partNumber, units }] },
  ]);
}

/** Gives up what is kept for a requirement; the pieces are free for others. */
export function release(lot: StockState, ticket: TicketState, requirementId: RequirementId): StockDecision {
  const units = lot.reserved.reduce((all, claim) => all + (claim.requirementId === requirementId ? claim.units : 0), 0);
  if (units === 0) return fail({ kind: 'not-needed', ticket: ticket.number });
  return ok([
    on(lot, { type: 'released', requirementId, units }),
    {
      kind: 'ticket',
      ticketId: ticket.ticketId,
      data: [{ type: 'reservation-released', requirementId, stockId: lot.stockId }],
    },
  ]);
}

export type LotChange = StockEventOf<'counted' | 'moved' | 'tried' | 'written-off'>;

/** What was counted, moved, tried or lost. Never fewer than nothing; what is kept for a ticket is not written off under it. */
export function changeLot(lot: StockState, change: LotChange): StockDecision {
  if (change.type === 'written-off' && change.units > (lot.works === false ? lot.units : lot.free))
    return notThere(lot);
  if (change.type === 'counted' && change.units === lot.units) return ok([]);
  if (change.type === 'moved' && change.place.trim() === lot.place) return ok([]);
  return ok([on(lot, change)]);
}

/** Pieces that a ticket has here of a part that it no longer needs, by where they came from. */
export function idleHere(ticket: TicketState): { requirement: Requirement; units: number; stockIds: StockId[] }[] {
  const wanted = new Set<string>(ticket.round.parts.map(({ requirementId }) => requirementId));
  return ticket.round.dropped.flatMap((requirement) => {
    if (wanted.has(requirement.requirementId)) return [];
    const here = (ticket.deliveries[requirement.requirementId] ?? []).filter((delivery) => delivery.here > 0);
    const units = here.reduce((all, delivery) => all + delivery.here, 0);
    const stockIds = here.flatMap(({ from }) => (from.kind === 'shelf' && from.stockId ? [from.stockId] : []));
    return units > 0 ? [{ requirement, units, stockIds }] : [];
  });
}

/** Puts on the shelf what a ticket has here and no longer needs: back to the lot that it came from, else as a lot of its own at what it cost. */
export function shelve(
  ticket: TicketState,
  requirementId: RequirementId,
  lots: ReadonlyMap<StockId, StockState>,
  currency: string,
  context: Context,
): StockDecision {
  const idle = idleHere(ticket).find(({ requirement }) => requirement.requirementId === requirementId);
  if (!idle) return fail({ kind: 'not-needed', ticket: ticket.number });
  const { ticketId, number } = ticket;
  const { bought } = idle.requirement;
  const unitCost =
    bought.cost === null
      ? money(0, currency)
      : money(Math.round(bought.cost.amountMinor / bought.quantity), bought.cost.currency);
  const appends = (ticket.deliveries[requirementId] ?? [])
    .filter(({ here }) => here > 0)
    .map(({ from, here: units, orderNumber, partNumber }): StockAppend => {
      const lot = from.kind === 'shelf' && from.stockId ? lots.get(from.stockId) : undefined;
      if (lot) return on(lot, { type: 'put-back', ticketId, number, units });
      const origin: StockOrigin =
        from.kind === 'order'
          ? { kind: 'order', orderId: from.orderId, lineId: from.lineId, orderNumber }
          : from.kind === 'donor'
            ? {
                kind: 'donor',
                ticketId: from.ticketId,
                number: from.number,
                roleId: idle.requirement.roleId,
                position: idle.requirement.position,
              }
            : { kind: 'by-hand' };
      return stock(
        {
          partId: bought.partId,
          partNumber: partNumber ?? bought.partNumber,
          description: bought.description,
          place: '',
          units,
          unitCost,
          used: from.kind === 'donor',
          origin,
        },
        context,
      );
    });
  return ok([
    ...appends,
    {
      kind: 'ticket',
      ticketId,
      data: [{ type: 'part-shelved', requirementId, units: idle.units, partNumber: bought.partNumber }],
    },
  ]);
}

/** Takes a part out of a machine that is kept for its parts, for the shelf: noted on both. */
export function harvest(
  donor: TicketState,
  part: { roleId: RoleId; position: string },
  lot: Omit<Lot, 'origin' | 'used' | 'units'>,
  context: Context,
): StockDecision {
  const { roleId, position } = part;
  const taken = donor.donor?.taken.some(
    (entry) =>
      entry.roleId === roleId && (entry.position === position || entry.position === 'any' || position === 'any'),
  );
  if (!donor.donor || taken) return fail({ kind: 'donor-gone', donor: donor.number });
  const { ticketId, number } = donor;
  return ok([
    { kind: 'ticket', ticketId, data: [{ type: 'donor-part-taken', roleId, position, forTicket: null }] },
    stock({ ...lot, units: 1, used: true, origin: { kind: 'donor', ticketId, number, roleId, position } }, context),
  ]);
}
