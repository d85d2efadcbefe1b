import { liveEvents } from '../../units';
import type { OrderEvent } from '../stream/orderStream';

/** Whether what a group did to an order may be taken back: not once a return of what it checked in has left the shop or is settled. O(events). */
export function mayUndo(events: readonly OrderEvent[], groupId: string): boolean {
  const live = liveEvents(events);
  const opened = new Set(
    live.flatMap(({ groupId: of, data }) => (of === groupId && data.type === 'return-opened' ? [data.returnId] : [])),
  );
  return !live.some(
    ({ data }) => (data.type === 'return-sent' || data.type === 'return-settled') && opened.has(data.returnId),
  );
}
