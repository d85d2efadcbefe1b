'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import type { DonorMatch } from '@/core/fit';
import type { TicketState } from '@/core/ticket';
import { database } from '@/store';
import { assessWorker } from '@/workers';

/** Machines on the shelf that carry a part for this one; empty while it is being looked for. */
export function useDonors(
  state: TicketState,
  roleId: string | null,
  position: string,
  listedPartIds: readonly string[],
  today: string,
): DonorMatch[] {
  const [found, setFound] = useState<{ of: string; donors: DonorMatch[] }>({ of: '', donors: [] });
  const closed = useLiveQuery(() => database().summaries.where('[kind+open]').equals(['ticket', 0]).toArray(), []);
  const listed = listedPartIds.join(' ');
  const of = `${roleId ?? ''} ${position} ${listed} ${state.plate?.modelId ?? ''} ${JSON.stringify(closed?.map((record) => (record.kind === 'ticket' ? record.summary.sequence : 0)) ?? [])}`;
  useEffect(() => {
    if (roleId === null || listed === '') return;
    let current = true;
    void assessWorker
      .get()
      .donors(state, { roleId, position, listedPartIds: listed.split(' ') }, today)
      .then((donors) => {
        if (current) setFound({ of, donors });
      });
    return () => {
      current = false;
    };
    // The ticket counts here only by its plate, which `of` names.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [of, today]);
  return found.of === of ? found.donors : [];
}
