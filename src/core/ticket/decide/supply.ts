import { fail, ok, type Result } from '../../units';
import { needsOf } from '../standing';
import type { TicketState } from '../state';
import type { Refusal, TicketAppend, TicketDecision } from './refusal';

/** A requirement that the shelf has: nothing is bought for it. */
export const takeFromShelf =
  (requirementId: string): TicketDecision =>
  (ticket) => {
    if (ticket.closed) return fail({ kind: 'closed' });
    const need = needsOf(ticket).find(({ requirement }) => requirement.requirementId === requirementId);
    if (!need || need.supply.missing === 0) return fail({ kind: 'not-needed', ticket: ticket.number });
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
  requirementId: string,
): Result<readonly TicketAppend[], Refusal> {
  if (ticket.closed) return fail({ kind: 'closed' });
  const need = needsOf(ticket).find(({ requirement }) => requirement.requirementId === requirementId);
  if (!need || need.supply.missing === 0) return fail({ kind: 'not-needed', ticket: ticket.number });
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
