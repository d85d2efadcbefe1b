'use client';
import { useEffect, useRef, useState } from 'react';
import type { Assessment, Settings, Weighed } from '@/core/case';
import type { TicketState } from '@/core/ticket';
import { stableJson, type Instant, type TicketId } from '@/core/units';
import { useWorldKey } from '@/store/react';
import { useNewest } from '@/ui';
import { assessWorker, type Assessed } from '@/workers';

/** What the page has of one ticket: chapters that did not change stay the same objects. */
type Held = { ticketId: TicketId; version: number; sequence: number; assessment: Assessment | null };

/** Puts what is new to what is there. A first answer has every chapter. */
function merged(held: Held | null, ticketId: TicketId, news: Assessed): Held {
  const base = { ticketId, version: 0, sequence: -1, assessment: null };
  if (news.kind === 'gone') return base;
  const { version, sequence } = news;
  if (news.kind === 'unread') return { ticketId, version, sequence, assessment: news.assessment };
  const before = held?.ticketId === ticketId && held.assessment?.kind === 'weighed' ? held.assessment : null;
  // A partial answer is only given to who has the rest.
  const assessment = { ...before, ...news.changed, kind: 'weighed' } as Weighed;
  return { ticketId, version, sequence, assessment };
}

/**
 * The assessment of a ticket, computed in the worker from what is stored, and then answered better while it is looked at.
 * `busy`: the shown assessment is not that of the shown state yet.
 */
export function useAssessment(
  state: TicketState | undefined,
  settings: Settings | undefined,
  now: Instant,
): { assessment: Assessment | null; busy: boolean; failed: string | null } {
  const held = useRef<Held | null>(null);
  const [better, setBetter] = useState<Held | null>(null);
  const ticketId = state?.ticketId ?? null;
  const world = useWorldKey();
  const question =
    state && settings && world !== undefined ? stableJson([ticketId, state.sequence, now, settings, world]) : null;
  const have = () => (held.current?.ticketId === ticketId ? held.current.version : 0);
  const asked = useNewest(question, async () => {
    if (ticketId === null) return null;
    const news = await assessWorker.get().assess(ticketId, now, have());
    held.current = merged(held.current, ticketId, news);
    return held.current;
  });
  const { answer } = asked;
  useEffect(() => {
    if (!answer) return;
    let current = true;
    const refine = async () => {
      while (current) {
        const news = await assessWorker.get().refine(answer.ticketId, held.current?.version ?? 0);
        if (!current || !news || held.current?.ticketId !== answer.ticketId) return;
        held.current = merged(held.current, answer.ticketId, news);
        setBetter(held.current);
      }
    };
    // A better answer that does not come leaves the first one standing.
    void refine().catch(() => undefined);
    return () => {
      current = false;
    };
  }, [answer]);
  const shown = better && answer && better.version > answer.version ? better : answer;
  const own = shown?.ticketId === ticketId ? shown : null;
  return {
    assessment: own?.assessment ?? null,
    busy: own === null || own.sequence !== state?.sequence,
    failed: asked.failed,
  };
}
