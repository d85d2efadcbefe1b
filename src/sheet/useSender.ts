'use client';
import { answerNotice, troubleWords } from '@/words';
import { notice } from '@/ui';
import { useEffect } from 'react';
import { loadSettings, sendWaitingOrders } from '@/store';

const EVERY_MS = 10_000;

/** Sends waiting orders in the background, also those that an earlier tab left. */
export function useSender(): void {
  useEffect(() => {
    let failing = false;
    const run = async () => {
      try {
        await sendWaitingOrders(await loadSettings(), false, (order) => notice(answerNotice(order)));
        failing = false;
      } catch (error) {
        // Said once, not every ten seconds.
        if (!failing)
          notice(`The orders could not be looked through: ${troubleWords(error)}. Nothing is lost; it is tried again.`);
        failing = true;
      }
    };
    void run();
    const timer = setInterval(() => void run(), EVERY_MS);
    return () => clearInterval(timer);
  }, []);
}
