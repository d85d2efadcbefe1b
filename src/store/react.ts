'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import type { Settings } from '@/core/case';
import type { OrderState } from '@/core/order';
import { applyEvents, type TicketState, type TicketSummary } from '@/core/ticket';
import { localDateOf } from '@/core/units';
import { now } from './clock';
import { database, type AnyEvent } from './database';
import { eventsOf, ticketStream } from './records/events';
import { isTicketEvents } from './records/parse';
import { loadSettings } from './records/settings';

/** Live queries: other tabs' changes arrive by themselves. `undefined` means not read yet. */
export const useSettings = (): Settings | undefined => useLiveQuery(loadSettings, []);

export const useOpenTickets = (): TicketSummary[] | undefined =>
  useLiveQuery(
    async () =>
      (await database().summaries.where('[kind+open]').equals(['ticket', 1]).toArray()).flatMap((record) =>
        record.kind === 'ticket' ? [record.summary] : [],
      ),
    [],
  );

export const useOrders = (open: 0 | 1): OrderState[] | undefined =>
  useLiveQuery(
    async () =>
      (await database().summaries.where('[kind+open]').equals(['order', open]).toArray()).flatMap((record) =>
        record.kind === 'order' ? [record.summary] : [],
      ),
    [open],
  );

export type LoadedTicket = { state: TicketState; events: AnyEvent[] };

export const useTicket = (ticketId: string): LoadedTicket | null | undefined =>
  useLiveQuery(async () => {
    const events = await eventsOf(database(), ticketStream(ticketId));
    return isTicketEvents(events) ? { state: applyEvents(events), events } : null;
  }, [ticketId]);

const MINUTE_MS = 60_000;

/** The time, to the minute. */
export function useNow(): string {
  const [at, setAt] = useState(now);
  useEffect(() => {
    const timer = setInterval(() => setAt(now()), MINUTE_MS / 2);
    return () => clearInterval(timer);
  }, []);
  return at;
}

export type Moment = { now: string; today: string; zone: string };

export function useMoment(settings: Settings | undefined): Moment {
  const at = useNow();
  const zone = settings?.zone ?? 'UTC';
  return { now: at, today: localDateOf(at, zone), zone };
}
