'use client';
import type { Instant } from '@/core/units';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useCallback, useMemo } from 'react';
import { rungNow, waitsNow, type TicketSummary, type Waiting } from '@/core/ticket';
import { useMoment, useOpenTickets, useSettings, type Moment } from '@/store/react';
import { cx, notice, useBell } from '@/ui';
import { formatDate, formatMoment, formatSince, RUNG_WORDS, WAITING_NAMES } from '@/words';

const ORDER: Waiting['for'][] = ['you', 'customer', 'parts', 'cure', 'collection'];

type Entry = { ticket: TicketSummary; waiting: Waiting };

export const grouped = (
  tickets: readonly TicketSummary[],
  now: Instant,
): { group: Waiting['for']; entries: Entry[] }[] => {
  const entries = tickets.map((ticket) => ({ ticket, waiting: waitsNow(ticket.waiting, now) }));
  return ORDER.map((group) => ({
    group,
    entries: entries
      .filter((entry) => entry.waiting.for === group)
      .sort((a, b) => (a.waiting.since < b.waiting.since ? -1 : 1)),
  })).filter(({ entries: own }) => own.length > 0);
};

/** What is said after the complaint: the one next step, or what it waits for and until when. */
function tail(entry: Entry, at: Moment): string {
  const { waiting, ticket } = entry;
  if (waiting.for === 'parts') {
    if (waiting.dueOn === null) return 'no date from the supplier';
    return waiting.dueOn < at.today
      ? `was due ${formatDate(waiting.dueOn, at.today)}`
      : `due ${formatDate(waiting.dueOn, at.today)}`;
  }
  if (waiting.for === 'cure') return `safe at ${formatMoment(waiting.until, at.now, at.zone)}`;
  if (waiting.for === 'customer') return `since ${formatSince(waiting.since, at.now, at.zone)}`;
  if (waiting.for === 'collection') return `told ${formatSince(waiting.since, at.now, at.zone)}`;
  return RUNG_WORDS[rungNow(ticket.rung, ticket.waiting, at.now)];
}

export function Tag({ entry, at, on }: { entry: Entry; at: Moment; on: boolean }) {
  const { ticket } = entry;
  return (
    <Link
      href={`/ticket/${ticket.ticketId}`}
      aria-current={on ? 'page' : undefined}
      className={cx(
        'relative block min-h-11 border border-r-0 py-1.5 pr-2.5 pl-6 leading-tight [clip-path:polygon(0_10px,10px_0,100%_0,100%_100%,0_100%)]',
        on ? 'border-ink bg-ink text-ground' : 'border-line bg-sheet',
      )}
    >
      <span
        aria-hidden
        className={cx(
          'absolute top-3 left-2 size-1.5 rounded-full border-[1.5px]',
          on ? 'border-ground' : 'border-soft bg-ground',
        )}
      />
      <strong className="block text-[14.5px] font-semibold">{ticket.machine || `Ticket ${ticket.number}`}</strong>
      <span className={cx('block text-[13px]', on ? 'text-ground' : 'text-soft')}>
        {[ticket.words, tail(entry, at)].filter(Boolean).join(' · ')}
        {ticket.shaken.length && ticket.rung !== 'part-again' && ticket.rung !== 'offer-again' ? (
          <strong> · look again</strong>
        ) : null}
      </span>
    </Link>
  );
}

/** Rings when a joint has cured, whatever page is open, and says whose. */
function useCureBell(tickets: readonly TicketSummary[] | undefined, now: Instant): void {
  const curing = useMemo(
    () =>
      (tickets ?? []).flatMap(({ waiting, number }) =>
        waiting.for === 'cure' ? [{ until: waiting.until, number }] : [],
      ),
    [tickets],
  );
  const moments = useMemo(() => curing.map(({ until }) => until), [curing]);
  const say = useCallback(
    (passed: readonly string[]) => {
      for (const { until, number } of curing)
        if (passed.includes(until)) notice(`Ticket ${number}: the joint has cured.`, { duration: Infinity });
    },
    [curing],
  );
  useBell(moments, now, say);
}

/** The machines in the shop, by what each waits for. */
export function Floor({ className }: { className?: string }) {
  const tickets = useOpenTickets();
  const settings = useSettings();
  const at = useMoment(settings);
  const path = usePathname();
  useCureBell(tickets, at.now);
  if (!tickets) return <nav aria-label="Machines in the shop" className={className} />;
  return (
    <nav aria-label="Machines in the shop" className={className}>
      {tickets.length === 0 ? (
        <p className="pr-3 text-sm text-soft">
          No machine in the shop. Type the number from a rating plate above to begin.
        </p>
      ) : null}
      {grouped(tickets, at.now).map(({ group, entries }) => (
        <section key={group} className="mb-3">
          <h2 className="mb-1 flex justify-between pr-3 text-[13px] font-semibold text-soft">
            {WAITING_NAMES[group]} <span>{entries.length}</span>
          </h2>
          <ul className="flex flex-col gap-1.5">
            {entries.map((entry) => (
              <li key={entry.ticket.ticketId}>
                <Tag entry={entry} at={at} on={path === `/ticket/${entry.ticket.ticketId}`} />
              </li>
            ))}
          </ul>
        </section>
      ))}
    </nav>
  );
}
