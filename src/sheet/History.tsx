'use client';
import type { TicketId } from '@/core/units';
import { CommitField } from '@/stations/shared/CommitField';
import type { Ask } from '@/stations/shared/StationProps';
import { remark, TEXT_LIMITS, type TicketEvent } from '@/core/ticket';
import { cx } from '@/ui';
import { eventWords, formatMoment, type Moment } from '@/words';

/** Everything that happened to a ticket, newest first; what was taken back stays readable. */
export function History({
  events,
  at,
  ask,
  ticketId,
}: {
  events: readonly TicketEvent[];
  at: Moment;
  ask: Ask;
  ticketId: TicketId;
}) {
  const undone = new Set(events.flatMap((event) => (event.data.type === 'undone' ? [event.data.eventId] : [])));
  const shown = [...events].sort((a, b) => b.sequence - a.sequence).filter((event) => event.data.type !== 'undone');
  return (
    <details className="border-t border-line">
      <summary className="min-h-11 cursor-pointer content-center font-semibold text-soft">
        History · {shown.length} entries · everything here is saved
      </summary>
      <CommitField
        label="Add a note"
        className="mb-2 max-w-xl"
        draftKey={`${ticketId} note`}
        committed=""
        commitOnRest={false}
        maxLength={TEXT_LIMITS.note}
        commit={(text) => (text ? ask(remark(text)) : Promise.resolve())}
      />
      <ol>
        {shown.map((event) => (
          <li key={event.id} className="grid grid-cols-[8rem_1fr] gap-3 border-t border-line py-1 text-[15px]">
            <time dateTime={event.at} className="text-soft">
              {formatMoment(event.at, at.now, at.zone)}
            </time>
            <span className={cx(undone.has(event.id) && 'text-soft line-through')}>
              {eventWords(event.data)}
              {undone.has(event.id) ? <span className="sr-only"> (taken back)</span> : null}
            </span>
          </li>
        ))}
      </ol>
    </details>
  );
}
