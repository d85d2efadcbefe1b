'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import type { InputReading } from '@/core/identify';
import { activeEdition, database, EditionReader, now } from '@/store';
import { searchWorker } from '@/workers';
import { useOpenTicket } from './openTicket';

/** Makers, serial schemes and the like for sorting; small, loaded once per edition. */
function useSchemes() {
  return useLiveQuery(async () => {
    const edition = await activeEdition(database());
    return edition ? new EditionReader(database(), edition).table('serial_schemes') : [];
  }, []);
}

/** What a text could be, ranked, computed in the worker; an outdated answer is dropped. */
export function useInputReadings(text: string): { readings: InputReading[]; of: string } {
  const open = useOpenTicket();
  const schemes = useSchemes();
  const [result, setResult] = useState<{ readings: InputReading[]; of: string }>({ readings: [], of: '' });
  useEffect(() => {
    if (text.trim() === '') return;
    let current = true;
    // Nothing is noted on a ticket that is closed.
    const { state, assessment } = open && !open.state.closed ? open : {};
    const run = async () => {
      const summaries = await database().summaries.toArray();
      const tickets = summaries.flatMap((record) =>
        record.kind === 'ticket' ? [{ id: record.summary.ticketId, number: record.summary.number }] : [],
      );
      const orders = summaries.flatMap((record) =>
        record.kind === 'order' ? [{ id: record.summary.orderId, number: record.summary.number }] : [],
      );
      const context = {
        today: now().slice(0, 10),
        makerId: state?.plate?.makerId,
        schemes: schemes ?? [],
        codes: assessment?.knowledge?.codes ?? [],
        findings: assessment?.knowledge?.findings ?? [],
        producedFrom: assessment?.model?.producedFrom,
        producedTo: assessment?.model?.producedTo,
      };
      const readings = await searchWorker.get().sortInput(text, context, tickets, orders);
      if (current) setResult({ readings, of: text });
    };
    void run();
    return () => {
      current = false;
    };
  }, [text, open, schemes]);
  return text.trim() === '' ? { readings: [], of: '' } : result;
}
