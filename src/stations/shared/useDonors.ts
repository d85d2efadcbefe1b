'use client';
import type { PartId, RoleId } from '@/core/units';
import { useLiveQuery } from 'dexie-react-hooks';
import type { DonorMatch } from '@/core/fit';
import type { TicketState } from '@/core/ticket';
import { CLOSED_VERSION, database, now } from '@/store';
import { useNewest } from '@/ui';
import { assessWorker } from '@/workers';

/** Machines on the shelf that carry a part for this one; null while it is being looked for. */
export function useDonors(
  state: TicketState,
  roleId: RoleId | null,
  position: string,
  listedPartIds: readonly PartId[],
): DonorMatch[] | null {
  const version = useLiveQuery(() => database().meta.get(CLOSED_VERSION), []);
  const wanted = roleId === null || listedPartIds.length === 0 ? null : { roleId, position, listedPartIds };
  const of = wanted && JSON.stringify([wanted, state.ticketId, state.plate?.modelId, version?.value]);
  const found = useNewest(of, async () => (wanted ? assessWorker.get().donors(state.ticketId, wanted, now()) : []));
  if (wanted === null) return [];
  return found.of === of ? (found.answer ?? null) : null;
}
