'use client';
import { troubleWords } from '@/words';
import { type TicketId, asId } from '@/core/units';
import { proxy } from 'comlink';
import { useRef, useState } from 'react';
import { savePhoto, saving } from '@/store';
import { cameraWorker } from '@/workers';

/** A picture dropped on, pasted into or taken for the one input: its text, with how sure the reader was of it, goes where typed text goes, and the picture to the ticket that comes of it. */
export function usePictureText(onText: (text: string, sure: number) => void) {
  const [share, setShare] = useState<number | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const picture = useRef<Blob | null>(null);
  const turn = useRef(0);
  const read = async (taken: Blob | null | undefined) => {
    if (!taken) return;
    const own = (turn.current += 1);
    const say = (next: number | null) => {
      if (turn.current === own) setShare(next);
    };
    setWhy(null);
    say(0);
    try {
      const found = await cameraWorker.get().read(
        taken,
        proxy(({ stage, done }) => say(stage === 'reading' ? done : 0)),
      );
      if (turn.current !== own) return;
      if (found.kind !== 'read' || found.text === '')
        setWhy('No text was found in that picture: come closer, or type the number.');
      else {
        picture.current = taken;
        onText(found.text.replace(/\s*\n\s*/g, ' ; '), found.sure);
      }
    } catch (error) {
      setWhy(`The picture could not be read: ${troubleWords(error)}`);
    }
    say(null);
    turn.current += 1;
  };
  /** Keeps the picture with the ticket that a path leads to. */
  const keepWith = async (path: string | null) => {
    const ticketId = path?.startsWith('/ticket/') ? asId<TicketId>(path.slice('/ticket/'.length)) : null;
    const taken = picture.current;
    if (ticketId && taken) await saving.keep(() => savePhoto(ticketId, taken));
    picture.current = null;
  };
  const forget = () => {
    picture.current = null;
    setWhy(null);
  };
  return { share, why, read, keepWith, forget };
}
