'use client';
import { useEffect, useSyncExternalStore } from 'react';
import { saving, type SavingState } from '@/store';
import { Button } from '@/ui';
import { plural } from '@/words';

const WORDS: Record<Exclude<SavingState['kind'], 'no-room'>, string> = { saved: 'saved', saving: 'saving …' };

const useSaving = (): SavingState => useSyncExternalStore(saving.subscribe, saving.now, saving.now);

/** Whether all that was done and typed is on the disk. */
export function SavedState() {
  const state = useSaving();
  return (
    <span className="hidden min-w-16 text-right text-sm text-soft lg:inline" aria-label="Saving">
      {state.kind === 'no-room' ? 'not saved' : WORDS[state.kind]}
    </span>
  );
}

/** The disk is full: said on top of every page until what waits is saved. Leaving the page is asked about. */
export function NoRoomBar() {
  const state = useSaving();
  const waits = state.kind === 'no-room';
  useEffect(() => {
    if (!waits) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [waits]);
  if (!waits) return null;
  return (
    <div
      role="alert"
      aria-label="Not saved"
      className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 border-b-[3px] border-stop bg-stop-wash px-3 py-1.5 md:px-4"
    >
      <p className="min-w-0 flex-1 basis-80">
        <strong>Not saved: the disk is full.</strong> {plural(state.waiting, 'change')} made in this tab{' '}
        {state.waiting === 1 ? 'waits' : 'wait'} for room and {state.waiting === 1 ? 'is' : 'are'} saved as soon as
        there is some. Keep this tab open, and make room on the disk.
      </p>
      <Button onClick={() => void saving.tryAgain()}>Try again now</Button>
    </div>
  );
}
