'use client';
import { useEffect, useRef, useState } from 'react';

type Answered<A> = { of: string; answer: A | null; failed: string | null };

/** What was asked, and what came of it. `of`: the question that the answer belongs to. */
export type Newest<A> = { answer: A | null; of: string; busy: boolean; failed: string | null };

/**
 * Asks a question that changes while one types. While one is under way only the newest waits; what lies between is dropped, and so is an answer that comes
 * too late. An error is an answer, too. `question`: names what is asked; null: nothing. The last answer stays until the next has come.
 */
export function useNewest<A>(question: string | null, ask: () => Promise<A>): Newest<A> {
  const [result, setResult] = useState<Answered<A>>({ of: '', answer: null, failed: null });
  const running = useRef(false);
  const waiting = useRef<{ question: string; ask: () => Promise<A> } | null>(null);
  const alive = useRef(true);
  const latest = useRef(ask);
  useEffect(() => {
    latest.current = ask;
  });
  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
    };
  }, []);
  useEffect(() => {
    if (question === null) {
      waiting.current = null;
      return;
    }
    waiting.current = { question, ask: () => latest.current() };
    const run = async () => {
      if (running.current) return;
      running.current = true;
      while (waiting.current && alive.current) {
        const next: { question: string; ask: () => Promise<A> } = waiting.current;
        waiting.current = null;
        const answered = await settled(next.ask);
        if (alive.current && waiting.current === null) setResult({ of: next.question, ...answered });
      }
      running.current = false;
    };
    void run();
  }, [question]);
  return { ...result, busy: question !== null && result.of !== question };
}

async function settled<A>(ask: () => Promise<A>): Promise<Pick<Answered<A>, 'answer' | 'failed'>> {
  try {
    return { answer: await ask(), failed: null };
  } catch (error) {
    return { answer: null, failed: error instanceof Error ? error.message : String(error) };
  }
}
