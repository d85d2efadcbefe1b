'use client';
import Link from 'next/link';
import { ownWarranty, type Settings } from '@/core/case';
import type { TicketState } from '@/core/ticket';
import { localDateOf } from '@/core/units';
import { formatDate, ordinal, type Moment } from '@/words';
import { useEarlier } from './useEarlier';

/** Which visit of this machine it is, and what was mended the last time; nothing at its first. */
export function Visits({ state, settings, at }: { state: TicketState; settings: Settings; at: Moment }) {
  const own = useEarlier(state).filter(({ sameMachine }) => sameMachine);
  const last = own.find(({ outcome, cause }) => outcome === 'repaired' && cause !== null);
  if (own.length === 0) return null;
  const until = last?.closedAt
    ? ownWarranty(localDateOf(last.closedAt, at.zone), settings.warrantyMonths, at.today)
    : null;
  return (
    <p>
      <strong>{ordinal(own.length + 1)} visit of this machine.</strong>{' '}
      {last?.cause && last.closedAt ? (
        <>
          {last.cause.name}: mended here {formatDate(localDateOf(last.closedAt, at.zone), at.today)} (
          <Link href={`/ticket/${last.ticketId}`} className="underline decoration-edge underline-offset-4">
            ticket {last.number}
          </Link>
          ){until ? `, our warranty until ${formatDate(until, at.today)}` : ''}.
        </>
      ) : null}
    </p>
  );
}
