'use client';
import { troubleWords } from '@/words';
import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { SeenCode, SeenLine } from '@/core/identify';
import { cameraWorker, type PictureProgress } from '@/workers';

export type ReadPicture = { url: string; width: number; height: number; lines: SeenLine[]; codes: SeenCode[] };
export type PictureState =
  | { kind: 'none' }
  | { kind: 'reading'; url: string; at: PictureProgress }
  | { kind: 'read'; picture: ReadPicture }
  | { kind: 'failed'; why: string };

/** Reads a picture in the camera's worker; a newer picture or Stop ends the one under way. */
export function usePicture(): {
  state: PictureState;
  read: (picture: Blob) => Promise<ReadPicture | null>;
  stop: () => void;
  /** The picture with a line as a person says that it reads. */
  change: (line: number, text: string) => ReadPicture | null;
} {
  const [state, setState] = useState<PictureState>({ kind: 'none' });
  const latest = useRef(0);
  const url = useRef('');
  const forget = () => {
    if (url.current) URL.revokeObjectURL(url.current);
    url.current = '';
  };
  useEffect(() => forget, []);

  const read = async (picture: Blob): Promise<ReadPicture | null> => {
    const turn = (latest.current += 1);
    forget();
    const shown = URL.createObjectURL(picture);
    url.current = shown;
    const say = (next: PictureState) => {
      if (latest.current === turn) setState(next);
    };
    say({ kind: 'reading', url: shown, at: { stage: 'starting', done: 0 } });
    try {
      const found = await cameraWorker.get().read(
        picture,
        proxy((at: PictureProgress) => say({ kind: 'reading', url: shown, at })),
      );
      if (latest.current !== turn) return null;
      if (found.kind === 'no-picture') {
        say({ kind: 'failed', why: 'This file is not a picture that the browser can open. A JPEG or PNG works.' });
        return null;
      }
      if (found.kind === 'too-large') {
        say({ kind: 'failed', why: 'This picture is too large to read. Take it with less than 48 million pixels.' });
        return null;
      }
      const { width, height, lines, codes } = found;
      const read: ReadPicture = { url: shown, width, height, lines, codes };
      // The last word of progress may still be on its way.
      latest.current += 1;
      setState({ kind: 'read', picture: read });
      return read;
    } catch (error) {
      const why = troubleWords(error);
      say({ kind: 'failed', why: `The reader could not be started: ${why}. Type the number instead, or try again.` });
      return null;
    }
  };
  const stop = () => {
    latest.current += 1;
    cameraWorker.stop();
    setState({ kind: 'none' });
  };
  const change = (line: number, text: string): ReadPicture | null => {
    if (state.kind !== 'read') return null;
    const lines = state.picture.lines.map((seen, index) => (index === line ? { ...seen, text, confidence: 1 } : seen));
    const picture = { ...state.picture, lines };
    setState({ kind: 'read', picture });
    return picture;
  };
  return { state, read, stop, change };
}
