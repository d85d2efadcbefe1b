import { learnFrom, type ClosedTicket, type Learned } from '@/core/learn';
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
