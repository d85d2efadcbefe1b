import type { Instant } from '@/core/units';
import type { SorterDatabase } from '../database';
import { RECORD_VERSION } from './version';

export type OpeningOutcome = { kind: 'ready'; aside: number } | { kind: 'newer'; found: number };

/**
 * What has to be done before the records are read: those of an older version are brought to today's, those of a newer one are left alone and said.
 * `aside`: rows that could not be read as they were; they are kept.
 */
export async function openRecords(db: SorterDatabase, at: Instant): Promise<OpeningOutcome> {
  const known = await db.meta.get('recordVersion');
  const empty = known === undefined && (await db.events.count()) === 0;
  const from = empty ? RECORD_VERSION : Number(known?.value ?? 0);
  if (from > RECORD_VERSION) return { kind: 'newer', found: from };
  if (from < RECORD_VERSION) {
    const { migrate } = await import('./migrations');
    return { kind: 'ready', aside: await migrate(db, from, at) };
  }
  if (empty) await db.meta.put({ key: 'recordVersion', value: RECORD_VERSION });
  return { kind: 'ready', aside: 0 };
}
