import type { TicketState } from '@/core/ticket';
import type { EarlierTicket } from '@/store';
import { useNewest } from '@/ui';
import { searchWorker } from '@/workers';

/** Tickets of before of this machine and this customer; empty until they are found. */
export function useEarlier({ ticketId, number, plate, serial, customer }: TicketState): EarlierTicket[] {
  const named = JSON.stringify([ticketId, plate?.modelId, serial, customer?.name, customer?.phone]);
  return useNewest(named, () => searchWorker.get().earlier({ ticketId, number, plate, serial, customer })).answer ?? [];
}
