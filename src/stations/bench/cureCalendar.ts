import type { Instant } from '@/core/units';
import { download } from '@/ui';

/** The end of a cure as an appointment (iCalendar, RFC 5545); the library is loaded only now. */
export async function saveCure(number: number, machine: string, until: Instant): Promise<void> {
  const { createEvent } = await import('ics');
  const at = new Date(until);
  const { value } = createEvent({
    uid: `cure-${number}-${at.getTime()}@sorter`,
    title: `Ticket ${number}: the joint has cured (${machine})`,
    start: [at.getUTCFullYear(), at.getUTCMonth() + 1, at.getUTCDate(), at.getUTCHours(), at.getUTCMinutes()],
    startInputType: 'utc',
    duration: { minutes: 15 },
    alarms: [{ action: 'display', description: 'The joint has cured', trigger: { minutes: 0, before: true } }],
  });
  if (value) download(`cure-${number}.ics`, 'text/calendar', value);
}
