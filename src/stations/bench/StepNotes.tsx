import { useRef, useState } from 'react';
import type { SheetStep } from '@/core/bench';
import { atBench, setAside, TEXT_LIMITS } from '@/core/ticket';
import { Button, Field, FileInput, Mark, notice } from '@/ui';
import { notSavedWords } from '@/words';
import { savePhoto, saving } from '@/store';
import { CommitField } from '../shared/CommitField';
import { smaller } from '../shared/smaller';
import { BenchPicture } from './BenchPicture';
import { Tick } from './Tick';
import type { BenchProps } from './BenchProps';

/** Pictures, pieces without a name and a remark: for whoever puts it back. */
export function StepNotes({ step, state, ask }: BenchProps & { step: SheetStep }) {
  const camera = useRef<HTMLInputElement>(null);
  const piecePicture = useRef<HTMLInputElement>(null);
  const [aside, setAsideText] = useState<string | null>(null);
  const { ticketId } = state;
  /** The picture is kept first: an event names only what is there. */
  const keep = async (picture: File | undefined): Promise<string | null> => {
    if (!picture) return null;
    const small = await smaller(picture);
    return saving
      .keep(() => savePhoto(ticketId, small, 'bench'))
      .catch((error: unknown) => {
        notice(notSavedWords(error));
        return null;
      });
  };
  const photograph = async (picture: File | undefined) => {
    const photoId = await keep(picture);
    if (photoId) await ask(atBench({ type: 'photographed', photoId, step: step.step, text: '' }));
  };
  const putAside = async (picture?: File) => {
    const text = aside?.trim() ?? '';
    if (!text) return;
    if (await ask(setAside(step.step, text, await keep(picture)))) setAsideText(null);
  };
  const back = step.step.phase === 'refit';
  return (
    <div className="flex flex-col gap-2">
      {step.photographs.length || step.pieces.some(({ photoId }) => photoId) ? (
        <ul className="flex flex-wrap gap-2" aria-label={`Pictures: ${step.title}`}>
          {step.photographs.map(({ photoId, text }) => (
            <li key={photoId}>
              <BenchPicture {...{ ticketId, photoId, text, step: step.step, ask }} />
            </li>
          ))}
        </ul>
      ) : null}
      {step.pieces.length ? (
        <ul>
          {step.pieces.map(({ piece, text, home, photoId }) => (
            <li key={piece} className="flex flex-wrap items-center gap-2">
              <div className="min-w-0 flex-1 basis-60">
                <Tick on={home} onTick={() => void ask(atBench({ type: 'piece-home', piece, home: !home }))}>
                  Piece {piece} {home ? 'is home' : 'belongs here'}: {text}
                </Tick>
              </div>
              {photoId ? (
                <BenchPicture {...{ ticketId, photoId, text: `Piece ${piece}`, step: step.step, ask }} />
              ) : null}
            </li>
          ))}
        </ul>
      ) : null}
      {back && step.pieces.some(({ home }) => !home) ? (
        <Mark tone="stop">Something that came off here is not home yet: before it closes.</Mark>
      ) : null}
      <div className="flex flex-wrap items-end gap-2.5">
        <Button onClick={() => camera.current?.click()}>Photograph</Button>
        {back ? null : (
          <Button aria-expanded={aside !== null} onClick={() => setAsideText(aside === null ? '' : null)}>
            A piece without a name
          </Button>
        )}
        <FileInput
          accept="image/*"
          ref={camera}
          label={`Photograph: ${step.title}`}
          capture
          onFile={(picture) => void photograph(picture)}
        />
      </div>
      {aside === null ? null : (
        <form
          className="flex flex-wrap items-end gap-2.5"
          onSubmit={(event) => {
            event.preventDefault();
            void putAside();
          }}
        >
          <Field
            label="What it looks like, and where it sat"
            className="min-w-0 flex-1 basis-64"
            value={aside}
            maxLength={TEXT_LIMITS.note}
            onChange={(event) => setAsideText(event.target.value)}
          />
          <Button type="submit" disabled={!aside.trim()}>
            Give it a number
          </Button>
          <Button disabled={!aside.trim()} onClick={() => piecePicture.current?.click()}>
            With its picture
          </Button>
          <FileInput
            accept="image/*"
            ref={piecePicture}
            label="Photograph of the piece"
            capture
            onFile={(picture) => void putAside(picture)}
          />
        </form>
      )}
      <CommitField
        label="Remark for whoever puts it back"
        draftKey={`${ticketId} remark ${step.step.phase} ${step.step.operationId}`}
        committed={step.remark?.text ?? ''}
        maxLength={TEXT_LIMITS.note}
        commit={(text) => ask(atBench({ type: 'step-remarked', step: step.step, text }))}
        note={step.remark?.by ? `by ${step.remark.by}` : undefined}
      />
    </div>
  );
}
