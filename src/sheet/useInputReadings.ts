'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import type { InputReading } from '@/core/identify';
import { localDateOf } from '@/core/units';
import { activeEdition, database, EditionReader, loadSettings, now } from '@/store';
import { useNewest } from '@/ui';
import { searchWorker } from '@/workers';
import { useOpenTicket } from './openTicket';

/** Makers, serial schemes and the like for sorting; small, loaded once per edition. */
function useSchemes() {
  return useLiveQuery(async () => {
    const edition = await activeEdition(database());
    return edition ? new EditionReader(database(), edition).table('serial_schemes') : [];
  }, []);
}

type Readings = { readings: InputReading[]; of: string; failed: string | null };

/** What a text could be, ranked, computed in the worker. */
export function useInputReadings(text: string): Readings {
  const open = useOpenTicket();
  const schemes = useSchemes();
  // Nothing is noted on a ticket that is closed.
  const { state, assessment } = open && !open.state.closed ? open : {};
  const weighed = assessment?.kind === 'weighed' ? assessment : null;
  const context = `${state?.ticketId ?? ''} ${state?.plate?.modelId ?? ''} ${weighed ? 'weighed' : ''} ${schemes?.length ?? ''}`;
  const question = text.trim() === '' ? null : `${context}\n${text}`;
  const asked = useNewest(question, async () => {
    const [summaries, { zone }] = await Promise.all([database().summaries.toArray(), loadSettings()]);
    const tickets = summaries.flatMap((record) =>
      record.kind === 'ticket' ? [{ id: record.summary.ticketId, number: record.summary.number }] : [],
    );
    const orders = summaries.flatMap((record) =>
      record.kind === 'order' ? [{ id: record.summary.orderId, number: record.summary.number }] : [],
    );
    const where = {
      today: localDateOf(now(), zone),
      makerId: state?.plate?.makerId,
      schemes: schemes ?? [],
      codes: weighed?.lore.codes ?? [],
      findings: weighed?.lore.findings ?? [],
      producedFrom: weighed?.machine.model.producedFrom,
      producedTo: weighed?.machine.model.producedTo,
    };
    return searchWorker.get().sortInput(text, where, tickets, orders);
  });
  if (question === null) return { readings: [], of: '', failed: null };
  const [, of = ''] = /^[^\n]*\n([\s\S]*)$/.exec(asked.of) ?? [];
  return { readings: asked.answer ?? [], of, failed: asked.of === question ? asked.failed : null };
}
