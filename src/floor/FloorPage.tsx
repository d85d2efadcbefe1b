'use client';
import { useMoment, useOpenTickets, useSettings } from '@/store/react';
import { capital, formatSince, RUNG_WORDS, plural } from '@/words';
import Link from 'next/link';
import { rungNow } from '@/core/ticket';
import { Floor, grouped } from './Floor';

/** The first page: on a wide screen what to do first; on a phone the floor itself. */
export function FloorPage() {
  const tickets = useOpenTickets();
  const settings = useSettings();
  const at = useMoment(settings);
  const yours = tickets ? (grouped(tickets, at.now).find(({ group }) => group === 'you')?.entries ?? []) : [];
  return (
    <main className="relative overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-2xl font-bold">
        {tickets
          ? tickets.length
            ? `${plural(tickets.length, 'machine')} in the shop, ${yours.length} ${yours.length === 1 ? 'waits' : 'wait'} for you`
            : 'The shop is empty'
          : 'Sorter'}
      </h1>
      <p className="mt-1 max-w-prose text-soft">
        Type, paste or scan into the line above: a rating plate opens a new machine; a ticket, part, bearing or order
        number opens what it names.
      </p>
      <ol className="mt-4 hidden max-w-3xl md:block">
        {yours.map(({ ticket, waiting }) => (
          <li key={ticket.ticketId} className="border-t border-line">
            <Link
              href={`/ticket/${ticket.ticketId}`}
              className="grid min-h-14 grid-cols-[1fr_auto] items-center gap-x-6 py-2"
            >
              <span>
                <strong className="text-[17px]">
                  {capital(RUNG_WORDS[rungNow(ticket.rung, ticket.waiting, at.now)])}
                </strong>
                <span className="block text-soft">
                  {ticket.machine || 'machine not known yet'}
                  {ticket.words ? `, ${ticket.words}` : ''}
                  {ticket.customer ? ` · ${ticket.customer}` : ''}
                </span>
              </span>
              <span className="text-soft">
                ticket {ticket.number} · {formatSince(waiting.since, at.now, at.zone)}
              </span>
            </Link>
          </li>
        ))}
      </ol>
      <div className="mt-4 md:hidden">
        <Floor />
      </div>
    </main>
  );
}
