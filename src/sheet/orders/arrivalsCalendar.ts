import type { DateTime } from 'ics';
import type { Arrival } from '@/core/order';
import { download } from '@/ui';

const NAME = 'arrivals.ics';

/** What arrives when, and what has to be sent back by when, as days in a calendar (iCalendar, RFC 5545); the library is loaded only now. Throws where none can be made. */
export async function saveArrivals(
  arrivals: readonly Arrival[],
  goingBack: readonly { returnId: string; number: string; supplierName: string; sendBy: string }[],
): Promise<void> {
  const { createEvents } = await import('ics');
  const day = (date: string): DateTime => {
    const [year = 0, month = 0, of = 0] = date.split('-').map(Number);
    return [year, month, of];
  };
  const { value, error } = createEvents([
    ...arrivals.map(({ orderId, number, supplierName, dueOn, lines }) => ({
      uid: `arrival-${orderId}-${dueOn}@sorter`,
      title: `Parcel from ${supplierName}: order ${number}`,
      description: lines
        .map(({ packs, partNumber, description }) => `${packs} × ${partNumber} ${description}`)
        .join('\n'),
      start: day(dueOn),
      duration: { days: 1 },
    })),
    ...goingBack.map(({ returnId, number, supplierName, sendBy }) => ({
      uid: `return-${returnId}@sorter`,
      title: `Last day to send back to ${supplierName}: order ${number}`,
      start: day(sendBy),
      duration: { days: 1 },
    })),
  ]);
  if (!value) throw error ?? new Error('no calendar');
  download(NAME, 'text/calendar', value);
}
