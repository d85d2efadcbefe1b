'use client';
import Link from 'next/link';
import { database, isCopyDue, keepQuiet, now, saving, shopOpen } from '@/store';
import { Button, notice } from '@/ui';
import { copyAgeWords, notSavedWords } from '@/words';
import { useCopies, useCopyState } from './useCopies';

/** The copy that goes into a folder by itself; and a quiet word when everything lies in this browser alone for too long. */
export function CopyReminder({ zone }: { zone: string }) {
  useCopies(zone);
  const state = useCopyState();
  if (!state || shopOpen() !== 'own' || !isCopyDue(state, now())) return null;
  return (
    <aside
      aria-label="Copy"
      className="no-print flex flex-wrap items-center gap-x-4 border-b border-line bg-doubt-wash px-3 md:px-4"
    >
      <p className="min-w-0 flex-1 basis-80 py-1.5 text-[15px]">
        {copyAgeWords(state, now())} If this device is lost, so is what it holds.
      </p>
      <Link href="/shop" className="flex min-h-11 items-center text-[15px] font-semibold underline underline-offset-4">
        Take a copy
      </Link>
      <Button
        tone="quiet"
        onClick={() => saving.keep(() => keepQuiet(database())).catch((error: unknown) => notice(notSavedWords(error)))}
      >
        Not now
      </Button>
    </aside>
  );
}
