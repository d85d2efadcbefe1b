import type { TicketId } from '@/core/units';
import { now } from '../clock';
import { database, type PhotoRecord } from '../database';

/** Keeps a picture with its ticket, as it came. */
export async function savePhoto(ticketId: TicketId, picture: Blob): Promise<string> {
  const id = crypto.randomUUID();
  const bytes = new Uint8Array(await picture.arrayBuffer());
  await database().photos.put({ id, ticketId, at: now(), type: picture.type || 'image/jpeg', bytes });
  return id;
}

export const photosOf = (ticketId: TicketId): Promise<PhotoRecord[]> =>
  database().photos.where('ticketId').equals(ticketId).sortBy('at');

export async function removePhoto(id: string): Promise<void> {
  await database().photos.delete(id);
}
