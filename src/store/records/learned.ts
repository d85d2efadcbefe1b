import { learnFrom, type ClosedTicket, type Learned, type RecordedCase } from '@/core/learn';
import type { SorterDatabase } from '../database';

/** What the closed tickets teach. `designs`: platform → design. */
export async function loadLearned(db: SorterDatabase, designs: ReadonlyMap<string, string>): Promise<Learned> {
  const closed = await db.summaries.where('[kind+open]').equals(['ticket', 0]).toArray();
  return learnFrom(
    closed.flatMap((record): ClosedTicket[] => {
      if (record.kind !== 'ticket' || !record.lesson.closed) return [];
      const { modelId, platformId, unlisted, closed: outcome } = record.lesson;
      // A machine that nobody listed stands on a platform of its own name.
      const platform = platformId ?? (unlisted ? modelId : null);
      return [{ modelId, platformId, design: platform === null ? null : (designs.get(platform) ?? null), ...outcome }];
    }),
  );
}

/** Closed tickets as the records see them; without those that were closed before anything was recorded. */
export async function recordedCases(db: SorterDatabase): Promise<RecordedCase[]> {
  const closed = await db.summaries.where('[kind+open]').equals(['ticket', 0]).toArray();
  return closed.flatMap((record): RecordedCase[] => {
    if (record.kind !== 'ticket') return [];
    const { ticketId, number, at, closed: outcome } = record.lesson;
    if (!outcome?.record) return [];
    const { takenMinutes, listMinutes, rightFirstTime } = outcome;
    return [{ ...outcome.record, ticketId, number, closedAt: at, takenMinutes, listMinutes, rightFirstTime }];
  });
}
