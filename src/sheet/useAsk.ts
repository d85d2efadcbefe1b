'use client';
import { notice } from '@/ui';
import { useCallback, useMemo } from 'react';
import type { TicketDecision } from '@/core/ticket';
import type { RequirementId, TicketId } from '@/core/units';
import type { Ask } from '@/stations/shared/StationProps';
import type { ShelfActs } from '@/stations/order/OrderStation';
import { eventStore, onLotAndTicket, onTicket, shelvePart, takeBack, takeFromDonor } from '@/store';
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
  const fromStock: ShelfActs['fromStock'] = useCallback(
    async (stockId, decide) => void (await tried(() => onLotAndTicket(eventStore(), stockId, ticketId, decide))),
    [ticketId],
  );
  const toShelf: ShelfActs['toShelf'] = useCallback(
    async (requirementId, currency) =>
      void (await tried(() => shelvePart(eventStore(), ticketId, requirementId, currency))),
    [ticketId],
  );
  const undo = useCallback(async () => {
    const taken = await tried(() => takeBack(eventStore(), ticketId));
    if (taken) notice(`Taken back: ${eventWords(taken.event.data)}`);
  }, [ticketId]);
  return useMemo(
    () => ({ ask, shelf: { fromDonor, fromStock, toShelf }, undo }),
    [ask, fromDonor, fromStock, toShelf, undo],
  );
}
