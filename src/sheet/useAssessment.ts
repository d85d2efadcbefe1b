'use client';
import { useEffect, useRef, useState } from 'react';
import type { Assessment, Settings } from '@/core/case';
import type { TicketState } from '@/core/ticket';
import { assessWorker } from '@/workers';

type Question = { state: TicketState; settings: Settings; now: string };

/**
 * The assessment of a ticket, computed in the worker. While one is running only the newest question waits: what lies between is dropped.
 * `busy`: the shown assessment is not that of the shown state yet.
 */
export function useAssessment(
  state: TicketState | undefined,
  settings: Settings | undefined,
  now: string,
): { assessment: Assessment | null; busy: boolean; none: boolean; failed: string | null } {
  const [result, setResult] = useState<{
    assessment: Assessment | null;
    sequence: number;
    failed: string | null;
  } | null>(null);
  const running = useRef(false);
  const waiting = useRef<Question | null>(null);
  const alive = useRef(true);

  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
    };
  }, []);

  useEffect(() => {
    if (!state || !settings) return;
    waiting.current = { state, settings, now };
    const run = async () => {
      if (running.current) return;
      running.current = true;
      while (waiting.current && alive.current) {
        const question: Question = waiting.current;
        waiting.current = null;
        let assessment: Assessment | null = null;
        let failed: string | null = null;
        try {
          assessment = await assessWorker.get().assess(question.state, question.settings, question.now);
        } catch (error) {
          failed = error instanceof Error ? error.message : String(error);
        }
        if (alive.current) setResult({ assessment, sequence: question.state.sequence, failed });
      }
      running.current = false;
    };
    void run();
  }, [state, settings, now]);

  return {
    assessment: result?.assessment ?? null,
    busy: !result || result.sequence !== state?.sequence,
    none: result !== null && result.assessment === null,
    failed: result?.failed ?? null,
  };
}
