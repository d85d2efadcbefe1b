'use client';
import { useSyncExternalStore } from 'react';
import type { Assessment } from '@/core/case';
import type { TicketState } from '@/core/ticket';

/** The ticket that is open on this page: the one input acts on it. */
export type OpenTicket = { state: TicketState; assessment: Assessment | null };

let current: OpenTicket | null = null;
const listeners = new Set<() => void>();

export function setOpenTicket(ticket: OpenTicket | null): void {
  current = ticket;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useOpenTicket = (): OpenTicket | null =>
  useSyncExternalStore(
    subscribe,
    () => current,
    () => null,
  );
