'use client';
import Link from 'next/link';
import { useRef, useState } from 'react';
import type { TicketFileOutcome } from '@/core/ticket';
import { database, saving, ticketFromFile } from '@/store';
import { Button, FileInput, Mark, notice } from '@/ui';
import { notSavedWords, ticketFileWords } from '@/words';

/** A machine that was begun on another device, with all that was noted on it and its pictures. */
export function TakeOver() {
  const file = useRef<HTMLInputElement>(null);
  const [outcome, setOutcome] = useState<TicketFileOutcome | null>(null);
  const take = async (picked: File | undefined) => {
    if (!picked) return;
    await saving
      .keep(async () => setOutcome(await ticketFromFile(database(), picked)))
      .catch((error: unknown) => notice(notSavedWords(error)));
  };
  return (
    <section aria-label="From another device" className="mt-3 border-t border-line pt-2.5">
      <h2 className="text-lg font-semibold">A machine from another device</h2>
      <p className="max-w-prose text-[15px] text-soft">
        Handed over at its bench as a file: it goes on here where it was left there.
      </p>
      <Button className="mt-2" onClick={() => file.current?.click()}>
        Take a machine over
      </Button>
      <FileInput
        ref={file}
        accept="application/json,.json"
        label="File of a ticket"
        onFile={(picked) => void take(picked)}
      />
      <p aria-live="polite" className="mt-2">
        {outcome ? (
          <>
            <Mark tone={outcome.kind === 'taken-in' ? 'sound' : 'stop'}>{ticketFileWords(outcome)}</Mark>{' '}
            {outcome.kind === 'taken-in' ? (
              <Link href={`/ticket/${outcome.ticketId}`} className="underline underline-offset-4">
                To ticket {outcome.number}
              </Link>
            ) : null}
          </>
        ) : null}
      </p>
    </section>
  );
}
