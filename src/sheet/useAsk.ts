'use client';
import { notice } from '@/ui';
import { useCallback, useMemo } from 'react';
import type { TicketDecision } from '@/core/ticket';
import type { RequirementId, TicketId } from '@/core/units';
import type { Ask } from '@/stations/shared/StationProps';
import { eventStore, onTicket, takeBack, takeFromDonor } from '@/store';
import { eventWords } from '@/words';
import { tried } from './tried';

/** What a person can do to one ticket, each through the one door. */
export function useAsk(ticketId: TicketId) {
  const ask: Ask = useCallback(
    async (decision: TicketDecision) => (await tried(() => onTicket(eventStore(), ticketId, decision))) !== null,
    [ticketId],
  );
  const fromDonor = useCallback(
    async (donorId: TicketId, requirementId: RequirementId) =>
      void (await tried(() => takeFromDonor(eventStore(), ticketId, donorId, requirementId))),
    [ticketId],
  );
  const undo = useCallback(async () => {
    const taken = await tried(() => takeBack(eventStore(), ticketId));
    if (taken) notice(`Taken back: ${eventWords(taken.event.data)}`);
  }, [ticketId]);
  return useMemo(() => ({ ask, fromDonor, undo }), [ask, fromDonor, undo]);
}
