'use client';
import type { InputReading, NumberAndWords } from '@/core/identify';
import { localDateOf } from '@/core/units';
import { loadSettings, now } from '@/store';
import { useNewest } from '@/ui';
import { assessWorker, searchWorker } from '@/workers';
import { useOpenTicket } from './openTicket';

type Readings = { readings: InputReading[]; line: NumberAndWords; of: string; failed: string | null };

/** What a text could be, ranked, and what in it is said of a machine, computed in the worker. `sure`: of a picture's text, how sure its reader was. */
export function useInputReadings(text: string, sure: number | undefined): Readings {
  const open = useOpenTicket();
  // Nothing is noted on a ticket that is closed.
  const { state, assessment } = open && !open.state.closed ? open : {};
  const weighed = assessment?.kind === 'weighed' ? assessment : null;
  const context = `${state?.ticketId ?? ''} ${state?.plate?.modelId ?? ''} ${weighed ? 'weighed' : ''} ${sure ?? ''}`;
  const question = text.trim() === '' ? null : `${context}\n${text}`;
  const asked = useNewest(question, async () => {
    const { zone } = await loadSettings();
    const where = {
      today: localDateOf(now(), zone),
      sure,
      makerId: state?.plate?.makerId,
      codes: weighed?.lore.codes ?? [],
      findings: weighed?.lore.findings ?? [],
      producedFrom: weighed?.machine.model.producedFrom,
      producedTo: weighed?.machine.model.producedTo,
      onMachine: weighed && state ? await assessWorker.get().numbersOn(state.ticketId) : undefined,
    };
    return searchWorker.get().sortInput(text, where);
  });
  // Where nothing could be looked up, all of it may be the number.
  const unsorted = { readings: [], line: { number: text.trim(), words: '' } };
  if (question === null) return { ...unsorted, of: '', failed: null };
  const [, of = ''] = /^[^\n]*\n([\s\S]*)$/.exec(asked.of) ?? [];
  return { ...(asked.answer ?? unsorted), of, failed: asked.of === question ? asked.failed : null };
}
