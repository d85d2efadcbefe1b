'use client';
import type { TicketId } from '@/core/units';
import { useLiveQuery } from 'dexie-react-hooks';
import { useRef, useState, type ClipboardEvent, type DragEvent } from 'react';
import { plateText, sureness } from '@/core/identify';
import { photosOf, removePhoto, savePhoto, saving, type PhotoRecord } from '@/store';
import { Button, FileInput, Mark, notice, Progress } from '@/ui';
import { formatMoment, notSavedWords, type Moment } from '@/words';
import { PictureOverlay } from './PictureOverlay';
import { usePicture, type ReadPicture } from './usePicture';

type Props = { ticketId: TicketId; moment: Moment; onText: (text: string, sure: number) => void };
type Sample = { file: string; title: string };

/** Photograph, drop, paste or choose a picture of the plate; what is read goes the way of what is typed. */
export function PlatePicture({ ticketId, moment, onText }: Props) {
  const { state, read, stop, change } = usePicture();
  const [samples, setSamples] = useState<Sample[] | null>(null);
  const photos = useLiveQuery(() => photosOf(ticketId), [ticketId]) ?? [];
  const camera = useRef<HTMLInputElement>(null);
  const file = useRef<HTMLInputElement>(null);

  const say = ({ lines, codes }: ReadPicture) => onText(plateText(lines, codes), sureness(lines, codes));
  const take = async (picture: Blob | null | undefined, keep: boolean) => {
    if (!picture) return;
    const found = await read(picture);
    if (!found) return;
    say(found);
    if (keep) saving.keep(() => savePhoto(ticketId, picture)).catch((error: unknown) => notice(notSavedWords(error)));
  };
  const correct = (line: number, text: string) => {
    const changed = change(line, text);
    if (changed) say(changed);
  };
  const sample = async ({ file: name }: Sample) => {
    setSamples(null);
    const response = await fetch(`/plates/${name}`);
    if (response.ok) await take(await response.blob(), true);
  };
  const showSamples = async () => {
    const response = await fetch('/plates/plates.json');
    const list: unknown = response.ok ? await response.json() : [];
    setSamples(Array.isArray(list) ? list.filter(isSample) : []);
  };
  const dropped = (event: DragEvent) => {
    event.preventDefault();
    void take(event.dataTransfer.files[0], true);
  };
  const pasted = (event: ClipboardEvent) => void take(event.clipboardData.files[0], true);

  return (
    <section
      aria-label="Picture of the plate"
      className="flex flex-col gap-2.5 border-t border-line pt-2.5"
      onDragOver={(event) => event.preventDefault()}
      onDrop={dropped}
      onPaste={pasted}
    >
      <div className="flex flex-wrap items-center gap-2.5">
        <Button onClick={() => camera.current?.click()}>Photograph the plate</Button>
        <Button onClick={() => file.current?.click()}>Choose a picture</Button>
        {state.kind === 'reading' ? <Button onClick={stop}>Stop</Button> : null}
        <Button
          tone="quiet"
          aria-expanded={samples !== null}
          onClick={() => (samples === null ? void showSamples() : setSamples(null))}
        >
          Sample plates
        </Button>
        <span className="text-sm text-soft">or drop one here. It is read on this machine; nothing is sent.</span>
      </div>
      <FileInput
        accept="image/*"
        ref={camera}
        label="Photograph of the plate"
        capture
        onFile={(picture) => void take(picture, true)}
      />
      <FileInput
        accept="image/*"
        ref={file}
        label="Picture of the plate from a file"
        onFile={(picture) => void take(picture, true)}
      />
      {samples ? (
        <ul className="flex flex-wrap gap-2">
          {samples.map((entry) => (
            <li key={entry.file}>
              <Button onClick={() => void sample(entry)}>{entry.title}</Button>
            </li>
          ))}
        </ul>
      ) : null}
      <div aria-live="polite">
        {state.kind === 'reading' ? (
          <Progress
            label={state.at.stage === 'starting' ? 'Starting the reader' : 'Reading the picture'}
            done={state.at.done}
            total={1}
          />
        ) : null}
        {state.kind === 'failed' ? <Mark tone="stop">{state.why}</Mark> : null}
        {state.kind === 'read' && state.picture.lines.length + state.picture.codes.length === 0 ? (
          <Mark tone="doubt">
            No text was found. Wipe the plate, hold the phone straight over it, use the light, and come close: the
            number should fill half the width.
          </Mark>
        ) : null}
      </div>
      {state.kind === 'read' && state.picture.lines.length + state.picture.codes.length > 0 ? (
        <PictureOverlay picture={state.picture} onChange={correct} />
      ) : null}
      {photos.length > 0 ? (
        <ul className="flex flex-wrap gap-2.5" aria-label="Pictures kept with this ticket">
          {photos.map((photo) => (
            <li key={photo.id} className="flex items-center gap-2 text-sm">
              <Button onClick={() => void take(blobOf(photo), false)}>
                Read the picture of {formatMoment(photo.at, moment.now, moment.zone)} again
              </Button>
              <Button
                onClick={() =>
                  saving.keep(() => removePhoto(photo.id)).catch((error: unknown) => notice(notSavedWords(error)))
                }
                aria-label={`Remove the picture of ${formatMoment(photo.at, moment.now, moment.zone)}`}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

const isSample = (value: unknown): value is Sample =>
  typeof value === 'object' && value !== null && 'file' in value && 'title' in value;

const blobOf = (photo: PhotoRecord) => new Blob([new Uint8Array(photo.bytes)], { type: photo.type });
