'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import type { RecordedCase } from '@/core/learn';
import { database } from '@/store';

/** Closed tickets as the records see them; without those that were closed before anything was recorded. */
export const useRecordedCases = (): RecordedCase[] | undefined =>
  useLiveQuery(
    async () =>
      (await database().summaries.where('[kind+open]').equals(['ticket', 0]).toArray()).flatMap((record) => {
        if (record.kind !== 'ticket') return [];
        const { ticketId, number, at, closed } = record.lesson;
        if (!closed?.record) return [];
        const { takenMinutes, listMinutes, rightFirstTime } = closed;
        return [{ ...closed.record, ticketId, number, closedAt: at, takenMinutes, listMinutes, rightFirstTime }];
      }),
    [],
  );
