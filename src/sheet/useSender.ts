'use client';
import { notice } from '@/ui';
import { useEffect } from 'react';
import { loadSettings, sendOutbox } from '@/store';

const EVERY_MS = 10_000;

/** Sends waiting orders in the background, also those that an earlier tab left. */
export function useSender(): void {
  useEffect(() => {
    const run = async () => {
      try {
        await sendOutbox(await loadSettings());
      } catch (error) {
        notice(
          `The orders could not be looked through: ${error instanceof Error ? error.message : String(error)}. Nothing is lost; it is tried again.`,
        );
      }
    };
    void run();
    const timer = setInterval(() => void run(), EVERY_MS);
    return () => clearInterval(timer);
  }, []);
}
