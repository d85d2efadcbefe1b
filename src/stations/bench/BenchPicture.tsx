import { useLiveQuery } from 'dexie-react-hooks';
import { useMemo, useState } from 'react';
import { photoById } from '@/store';
import type { Step } from '@/core/ticket';
import type { TicketId } from '@/core/units';
import { Panel } from '@/ui';
import type { Ask } from '../shared/StationProps';
import { DrawOn } from './DrawOn';

/** Shows the picture for as long as the element is there. */
const shows = (picture: Blob) => (image: HTMLImageElement | null) => {
  if (!image) return;
  const address = URL.createObjectURL(picture);
  image.src = address;
  return () => URL.revokeObjectURL(address);
};

type Props = { ticketId: TicketId; photoId: string; text: string; step: Step; ask: Ask };

/** A picture of the bench: small here, large and to be drawn upon at a touch. */
export function BenchPicture({ ticketId, photoId, text, step, ask }: Props) {
  const photo = useLiveQuery(async () => (await photoById(photoId)) ?? null, [photoId]);
  const [open, setOpen] = useState(false);
  const picture = useMemo(
    () => (photo ? new Blob([new Uint8Array(photo.bytes)], { type: photo.type }) : null),
    [photo],
  );
  const show = useMemo(() => (picture ? shows(picture) : null), [picture]);
  if (photo === null) return <span className="text-sm text-soft">The picture is not on this device.</span>;
  if (!show || !picture) return <span className="block size-24 bg-well" />;
  const name = text || 'Picture of this step';
  return (
    <>
      <button type="button" onClick={() => setOpen(true)} className="block border-[1.5px] border-edge">
        {/* eslint-disable-next-line @next/next/no-img-element -- an object of this device, not a file of the server */}
        <img ref={show} alt={name} className="h-24 w-32 object-cover" />
      </button>
      <Panel open={open} onOpenChange={setOpen} title={name}>
        <DrawOn {...{ picture, photoId, ticketId, step, text, ask }} onDone={() => setOpen(false)} />
      </Panel>
    </>
  );
}
