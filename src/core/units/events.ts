import type { Instant } from './dates';
import type { EventId } from './ids';

/** One stored fact. `sequence` counts from 1 within its stream. */
export type StoredEvent<D extends { type: string }> = {
  id: EventId;
  stream: string;
  sequence: number;
  version: number;
  at: Instant;
  /** Events of one act, in whatever streams, share it: they are taken back together. */
  groupId: string;
  data: D;
};

/**
 * Events that still count: those taken back by a later `undone` are left out, and so are the `undone` themselves.
 * The order is that of the sequence. O(n).
 */
export function liveEvents<D extends { type: string }>(events: readonly StoredEvent<D>[]): StoredEvent<D>[] {
  const sorted = [...events].sort((a, b) => a.sequence - b.sequence);
  const undone = new Set<EventId>();
  for (const event of sorted) if (isUndone(event.data)) undone.add(event.data.eventId);
  return sorted.filter((event) => event.data.type !== 'undone' && !undone.has(event.id));
}

const isUndone = (data: { type: string }): data is { type: 'undone'; eventId: EventId } =>
  data.type === 'undone' && 'eventId' in data;
