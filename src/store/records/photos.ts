import type { TicketId } from '@/core/units';
import { now } from '../clock';
import { database, type PhotoRecord } from '../database';

/** Keeps a picture with its ticket, as it came. `of`: what it shows where that is not the plate. */
export async function savePhoto(ticketId: TicketId, picture: Blob, of?: PhotoRecord['of']): Promise<string> {
  const id = crypto.randomUUID();
  const bytes = new Uint8Array(await picture.arrayBuffer());
  await database().photos.put({
    id,
    ticketId,
    at: now(),
    type: picture.type || 'image/jpeg',
    bytes,
    ...(of ? { of } : {}),
  });
  return id;
}

const picturesOf = (ticketId: TicketId): Promise<PhotoRecord[]> =>
  database().photos.where('ticketId').equals(ticketId).sortBy('at');

/** Pictures of the plate. */
export const photosOf = async (ticketId: TicketId): Promise<PhotoRecord[]> =>
  (await picturesOf(ticketId)).filter(({ of }) => of === undefined);

export const photoById = (id: string): Promise<PhotoRecord | undefined> => database().photos.get(id);

/** Pictures of the bench beside those that are named: their bytes alone are read. In the order of their ids. */
export async function benchPhotosBeside(ticketId: TicketId, named: ReadonlySet<string>): Promise<string[]> {
  const ids = await database().photos.where('ticketId').equals(ticketId).primaryKeys();
  const found = await database().photos.bulkGet(ids.filter((id) => !named.has(id)));
  return found.flatMap((photo) => (photo?.of === 'bench' ? [photo.id] : []));
}

export async function removePhoto(id: string): Promise<void> {
  await database().photos.delete(id);
}
