import { fail, ok, unique, type Result, type RequirementId } from '../../units';
import { needsOf, standing, type PartNeed } from '../standing';
import type { TicketState } from '../state';
import type { Refusal, TicketAppend, TicketDecision } from './refusal';

/** The need as it stands now. Nothing is taken for a part that has to be looked at again. */
export function openNeed(ticket: TicketState, requirementId: RequirementId): Result<PartNeed, Refusal> {
  if (ticket.closed) return fail({ kind: 'closed' });
  const by = unique(standing(ticket).shaken.flatMap((entry) => (entry.decision === 'part' ? [entry.by] : [])));
  if (by.length) return fail({ kind: 'shaken', by });
  const need = needsOf(ticket).find(({ requirement }) => requirement.requirementId === requirementId);
  return need ? ok(need) : fail({ kind: 'not-needed', ticket: ticket.number });
}

/** The same, of which something is neither here nor on the way. */
export function stillLacking(ticket: TicketState, requirementId: RequirementId): Result<PartNeed, Refusal> {
  const open = openNeed(ticket, requirementId);
  return open.ok && open.value.supply.missing === 0 ? fail({ kind: 'not-needed', ticket: ticket.number }) : open;
}

/** A requirement that the shelf has: nothing is bought for it. */
export const takeFromShelf =
  (requirementId: RequirementId): TicketDecision =>
  (ticket) => {
    const lacking = stillLacking(ticket, requirementId);
    if (!lacking.ok) return lacking;
    const need = lacking.value;
    return ok([
      {
        type: 'part-received',
        requirementId,
        from: { kind: 'shelf' },
        units: need.supply.missing,
        partNumber: need.requirement.bought.partNumber,
        verdict: 'as-ordered',
      },
    ]);
  };

/** The same from a donor, noted on both tickets: taken back on one it is taken back on both. */
export function takeFromDonor(
  ticket: TicketState,
  donor: TicketState,
  requirementId: RequirementId,
): Result<readonly TicketAppend[], Refusal> {
  const lacking = stillLacking(ticket, requirementId);
  if (!lacking.ok) return lacking;
  const need = lacking.value;
  const { roleId, position, bought } = need.requirement;
  const taken = donor.donor?.taken.some(
    (entry) =>
      entry.roleId === roleId && (entry.position === position || entry.position === 'any' || position === 'any'),
  );
  if (!donor.donor || taken) return fail({ kind: 'donor-gone', donor: donor.number });
  return ok([
    {
      kind: 'ticket',
      ticketId: donor.ticketId,
      data: [{ type: 'donor-part-taken', roleId, position, forTicket: ticket.number }],
    },
    {
      kind: 'ticket',
      ticketId: ticket.ticketId,
      data: [
        {
          type: 'part-received',
          requirementId,
          from: { kind: 'donor', ticketId: donor.ticketId, number: donor.number },
          units: need.supply.missing,
          partNumber: bought.partNumber,
          verdict: 'as-ordered',
        },
      ],
    },
  ]);
}
