'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import type { Settings } from '@/core/case';
import type { OrderState } from '@/core/order';
import type { StockState } from '@/core/stock';
import type { TicketSummary, TicketView } from '@/core/ticket';
import { localDateOf, type LocalDate, type Instant, type TicketId } from '@/core/units';
import { now } from './clock';
import { database } from './database';
import { layersKey } from './editions/layers';
import { pricesVersion } from './editions/prices';
import { eventStore, lotsOf } from './records/act';
import { loadSettingsRow, type ReadSettings } from './records/settings';
import { CLOSED_VERSION, OWN_VERSION, STOCK_VERSION } from './records/versions';

/** Live queries: other tabs' changes arrive by themselves. `undefined` means not read yet. */
export const useSettingsRow = (): ReadSettings | undefined => useLiveQuery(loadSettingsRow, []);
export const useSettings = (): Settings | undefined => useSettingsRow()?.settings;

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

async function catalogueKey(): Promise<string> {
  const own = (await database().meta.get(OWN_VERSION))?.value;
  return `${await layersKey(database())} ${String(own ?? '')}`;
}

/** Lots on the shelf: with something in them (1), or past (0). */
export const useStock = (open: 0 | 1): StockState[] | undefined => useLiveQuery(() => lotsOf(database(), open), [open]);

/** Names what the catalogue says today: another text when a layer comes, goes or grows. null: not read yet. */
export const useLayersKey = (): string | null => useLiveQuery(catalogueKey, []) ?? null;

/** Another text as soon as something changes that an assessment rests on beside its ticket and the settings: the catalogue, what was learned, prices. */
export const useWorldKey = (): string | undefined =>
  useLiveQuery(async () => {
    const [closed, stock] = await database().meta.bulkGet([CLOSED_VERSION, STOCK_VERSION]);
    return [
      await catalogueKey(),
      String(closed?.value ?? ''),
      String(stock?.value ?? ''),
      await pricesVersion(database()),
    ].join(' | ');
  }, []);

/** null: there is no such ticket. */
export const useTicket = (ticketId: TicketId): TicketView | null | undefined =>
  useLiveQuery(() => eventStore().ticket(ticketId), [ticketId]);

const MINUTE_MS = 60_000;

/** The time, to the minute. */
export function useNow(): Instant {
  const [at, setAt] = useState(now);
  useEffect(() => {
    const timer = setInterval(() => setAt(now()), MINUTE_MS / 2);
    return () => clearInterval(timer);
  }, []);
  return at;
}

export type Moment = { now: Instant; today: LocalDate; zone: string };

export function useMoment(settings: Settings | undefined): Moment {
  const at = useNow();
  const zone = settings?.zone ?? 'UTC';
  return { now: at, today: localDateOf(at, zone), zone };
}
