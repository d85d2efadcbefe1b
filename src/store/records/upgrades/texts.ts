import { plain, text, type Plain, type PlainTables, type PutAside, type Upgraded } from './plain';

/** The longest text that the reader of version 2 took, by event and field: it wrote longer ones all the same, and then refused its own backup. */
const LONGEST: Record<string, Record<string, number>> = {
  'customer-noted': { name: 200, phone: 60, place: 200 },
  'plate-read': { text: 4000 },
  'plate-not-listed': { text: 4000 },
  'serial-noted': { serial: 80 },
  'complaint-noted': { text: 4000 },
  'code-noted': { code: 20 },
  'part-measured': { value: 80 },
  'handed-over': { advice: 4000 },
  'note-added': { text: 4000 },
};

/** Longer texts are cut; the whole row is put aside as it was. */
export function textsWithinLimits(tables: PlainTables): Upgraded {
  const aside: PutAside[] = [];
  const cut = (event: Plain): Plain => {
    const data = plain(event['data']);
    const limits = LONGEST[text(data['type'])] ?? {};
    const long = Object.entries(limits).filter(([field, limit]) => text(data[field]).length > limit);
    if (long.length === 0) return event;
    aside.push({ table: 'events', why: 'text-too-long', raw: event });
    const shorter = Object.fromEntries(long.map(([field, limit]) => [field, text(data[field]).slice(0, limit)]));
    return { ...event, data: { ...data, ...shorter } };
  };
  return { tables: { ...tables, events: (tables['events'] ?? []).map(cut) }, aside };
}
