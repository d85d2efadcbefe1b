'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import type { DonorMatch } from '@/core/fit';
import type { TicketState } from '@/core/ticket';
import { CLOSED_VERSION, database, now } from '@/store';
import { useNewest } from '@/ui';
import { assessWorker } from '@/workers';

/** Machines on the shelf that carry a part for this one; none while it is being looked for. */
export function useDonors(
  state: TicketState,
  roleId: string | null,
  position: string,
  listedPartIds: readonly string[],
): DonorMatch[] {
  const version = useLiveQuery(() => database().meta.get(CLOSED_VERSION), []);
  const of =
    roleId === null || listedPartIds.length === 0
      ? null
      : JSON.stringify([roleId, position, listedPartIds, state.ticketId, state.plate?.modelId, version?.value]);
  const found = useNewest(of, () =>
    assessWorker.get().donors(state.ticketId, { roleId: roleId ?? '', position, listedPartIds }, now()),
  );
  return found.of === of ? (found.answer ?? []) : [];
}
