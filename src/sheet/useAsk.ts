'use client';
import { notice } from '@/ui';
import { useCallback, useMemo } from 'react';
import type { Refusal, TicketDecision } from '@/core/ticket';
import type { RequirementId, Result, TicketId } from '@/core/units';
import type { Ask } from '@/stations/shared/StationProps';
import { eventStore, onTicket, saving, takeBack, takeFromDonor } from '@/store';
import { eventWords, notSavedWords, refusalWords } from '@/words';

/** Runs an act; says why it was refused or could not be saved. null: it was not done. */
export async function tried<T>(act: () => Promise<Result<T, Refusal>>): Promise<T | null> {
  try {
    // What the disk has no room for waits, and is decided anew when there is.
    const done = await saving.keep(act);
    if (done.ok) return done.value;
    notice(refusalWords(done.error));
  } catch (error) {
    notice(notSavedWords(error));
  }
  return null;
}

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
